// Package feedback is what a player is told after a game: one thing that he did best and at most two to fix,
// each with plays that he can see. More is not heard.
//
// Best is the technique in which he was praised most; among those praised alike the one of which, with one
// clean and one faulty rep added, the larger share of what was graded is clean. It needs a graded clean rep. Its plays are
// those praised, then those that were looked at and clean, then those assumed clean. Of all that could be
// shown, what is on film comes before what is not: he is to see it.
//
// To fix are faults of his own, a safety fault before all that are none, then by how often times how bad
// (package marks), then by name; a fault that a teammate caused is not told him. Beside a fault stands a
// contrast where there is one: a clean rep of the same technique against the same look, his own rather than a
// teammate's, one praised before one looked at before one assumed, then the nearest play. One right beside
// one wrong teaches most.
package feedback
