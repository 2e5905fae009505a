// Package school keeps of a library what follows from the schools a staff has chosen.
//
// Where coaches differ, both ways of teaching stand in the library: a checkpoint, a fault
// or a drill may follow from one school of a question. The staff chooses one school for
// each question; Resolve leaves out what follows from the others, and whatever only
// pointed to something that is left out. The library it is given is not changed.
package school
