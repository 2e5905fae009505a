// Package reps is the arithmetic of repetitions: what a block of practice
// minutes really gives each player.
//
// A drill runs in cycles. In a cycle each lane has some players who work (their
// rep is graded) and some who help (hold a bag, simulate an opponent); everybody
// else waits. With T the seconds left after the set-up, a rep of r seconds and a
// reset of q seconds (walk back, swap, the coach's word),
//
//	cycles = ⌊(T + q) / (r + q)⌋   (no reset is needed after the last rep)
//
// Units: minutes are whole minutes of practice; rep, reset and set-up are
// seconds; shares are fractions of the time after the set-up, 0 to 1.
package reps
