// Package teaching is the knowledge of the game as a staff teaches it: techniques
// with their checkpoints in the order of the rep and the standards they are held to,
// the faults that occur there, the drills that train them away, the ladders of stages
// they are taught through, and the questions on which schools differ.
//
// Everything is named by a key that never changes; names may be edited. Check says
// what is wrong with a library, entry by entry, and Rules what is missing from one
// that claims to be complete. Resolve keeps what follows from the schools the staff
// has chosen. A Library is not changed once it is linked; readers share it.
//
// Units: yards, inches, seconds and minutes, as the field names say.
package teaching
