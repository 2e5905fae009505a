// Package teaching is the knowledge of the game as a staff teaches it: techniques
// with their checkpoints in the order of the rep, the faults that occur there, the
// drills that train them away and the ladders of stages they are taught through.
//
// Everything is named by a key that never changes; names may be edited. Check says
// what is wrong with a library, entry by entry.
package teaching
