// Package quality holds the shipped library to what a coach and his assistant need of it: that every drill can be run
// from its text, that nobody is marked for doing what his card says, and that nobody goes up a contact level with his
// head in the wrong place. It is about content; what a library must be to be read at all is core/sound's.
//
// Checks and figures are of a library as it is taught, with its schools resolved. `make library-report` prints them.
package quality
