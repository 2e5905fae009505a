// Package play is the plays of a game in the staff's own words: what is written on them before, while
// and after the film is watched.
//
// A play has a number in its game and a unit: the offence, the defence or a kicking unit. Everything
// else may be empty: drive, quarter, clock, down and distance, the spot, hash, personnel, formation,
// motion, call, front, coverage, result, gain and the context in which it was played. Words are the
// staff's; only what is counted with has a form.
//
// A spot is a yard line: "own 35", "opp 20" or "50". Lists of others write -35 and +20, and so does
// whoever types fast. A list of plays is a sheet with whatever headers; Guess finds what it can, Read
// says of every row what it would make or what is wrong in which column, and reads back what Record
// has written.
package play
