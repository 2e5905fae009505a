// Package marklist is the marks of a game as a list that is kept, changed elsewhere and read again: a line a mark.
//
// A mark is of a play (its number) and a player (the number on his back, and his name where two have it), at a
// technique. State is assumed, looked, unseen, open or not gradable; a line without one that names a fault or a
// facet was looked at, else it is assumed. Facets are 1, 0 or nothing. Faults stand with semicolons between
// them, each with "(by 72)" behind it where a teammate caused it, and "!" where it drew a flag: "Hands wide (by 72)
// !; Leans". Measures are checkpoint=value. What Record writes Read reads as the same.
package marklist
