// Package suggest says which drills a coach should look at for his own period, and why.
//
// What speaks for a drill, the strongest first: it trains away a fault that is not safe, without two players
// meeting (of such drills the one with the least contact comes first); a call that
// will not be ready needs the stage it belongs to; it is of the stage at which the group works; it
// trains away what hurts most; it is one of the group's every-day drills; it is done to both sides
// where one side has been left behind. Each reason has a weight, and a drill that has several comes
// before one that has the strongest of them alone: one drill for two ends saves minutes. Of those that
// weigh the same, one of a technique that the group works at comes first, and where a coach is alone one
// that shows the fault by itself.
//
// A drill that lies in the practice already is not suggested. One that cannot be run (too few
// players, or the other groups have its equipment) is named last, with what stands in its way.
//
// Together says it for groups that are free at the same time: which drills need just them.
package suggest
