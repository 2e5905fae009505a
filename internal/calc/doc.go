// Package calc is the calculator: every computation of the core as one JSON object
// in and one JSON object out. It is the entry of the command "nineyard calc", needs
// no database and no configuration, and answers bad input with the path of the
// field at fault, never with a part of an answer.
package calc
