// Package change says when a change was made and which of two changes of one thing holds.
//
// A coach's device may be offline for days and its clock may be wrong. What is known is how
// long ago, by that one clock, the change was made when it was sent: this age is trusted
// within [0, Longest] and taken from the server's own clock (When). Of two changes of one
// thing the later one holds, unless the coach saw the other one and changed just that
// (Holds): what he saw came before whatever he did to it, whatever any clock says.
package change
