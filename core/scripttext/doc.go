// Package scripttext is a practice script as text that is typed: one line a period.
//
//	18:00 10 warm-up all
//	10 individual OL bag @"North end" with Kell uses chutes:5 rep 6
//	& individual DL bag
//	4 water all
//	18:24 14 group "Inside run" OL,TE,RB,QB,DL,LB thud needs QB
//
// A line begins with its time: a clock time and minutes, a clock time to another (18:00-18:10),
// minutes alone (it begins where the line before ended), or & (it begins with the line before,
// and lasts as long unless minutes follow). Then come, in any order: the kind of period, its
// name in quotes, the groups ("all", or with commas between them), the contact if it is not air,
// the @place, "with" coaches, "needs" groups, "uses" equipment with counts, and how many seconds
// a "rep" lasts. Of kind and name one is enough. What contains a space is put in quotes. A # and
// what follows is a remark.
//
// [Write] writes a script so that [Read] reads the same script; [Read] names every error by line
// and column, which count from 1. [Keep] gives periods that were read the keys of those they
// stand for.
package scripttext
