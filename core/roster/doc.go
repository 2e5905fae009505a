// Package roster reads a team list as a coach has it: it guesses which column is
// which, reads jersey numbers, names, heights and weights in the ways people write
// them, and decides for every line whether it is a new player, one already known
// or one that cannot be read.
//
// Heights are kept in inches, weights in pounds. Jersey numbers are text: 07 and 7
// are different shirts, and 7A is a number.
package roster
