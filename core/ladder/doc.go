// Package ladder says where a player stands on a progression: the ordered stages
// through which a technique is taught, each with a gate to pass.
//
// A stage's gate is passed on the first rep after which enough of the last few
// reps there are clean and they span enough days. Only counting reps are looked
// at: those in or after the stage's first week that come after the rep that passed
// the stage before. Everything else at the stage is exposure.
//
// Nobody is assumed to know: each season starts at stage one. A returning
// player's gates are lighter, so he climbs faster.
package ladder
