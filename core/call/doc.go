// Package call is what a staff calls: a play or a defence in its own words, with what it needs.
//
// A call needs techniques of position groups, each up to a stage of its ladder; where nothing is
// said, up to the last stage before the game. A need may be of some spots of a group alone: the
// guard who pulls, the corner on the short side. A call has an expected share of the next game's
// snaps, in per cent, and a day on which it is installed.
//
// A staff keeps its calls in a sheet, or types them, one a line:
//
//	Lead left | run | OL Pull and kick > partner [RG]; TE Base block | 12 | 2026-10-20 | lead lt, power
//
// Read takes both, says of every line what it would make or what is wrong in which column, and
// gives back what Record has written.
package call
