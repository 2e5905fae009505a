// Package cut is cut-ups: which plays of a game are shown one after the other, said in the staff's words.
//
// A cut-up is terms parted by commas; a play is in it when it meets all of them:
//
//	third and long, odd front, 64 at fault
//	down 3 or 4, gain <0, not hash middle
//
// Numbers are down, distance, gain, quarter, drive and play: one (3), several (3 or 4), from and to
// (4 to 6), at least (7+), above (>7) and below (<0). Words are hash, personnel, formation, motion,
// call, front, coverage, result, context and spot: a play meets one when what the staff wrote
// holds it, in capitals or not; the word may stand before or after its name. "long" is a distance of 7 and
// more, "medium" 3 to 6, "short" at most 2.
//
// What was marked is player (a number), position, fault (any, or one by words of its name), praise, open,
// unseen, no finish, won, lost, right but lost, wrong but won, effort, no effort, call echoed, call not echoed,
// call missing and wrong call (the coach's own); "64 at fault" and "LG at fault" are player or position and any fault. All of these must be
// met by one mark: a fault of another player does not make the play one of his. "not" turns a term round;
// of a mark it asks for a play on which no mark meets it.
package cut
