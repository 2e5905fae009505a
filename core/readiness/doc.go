// Package readiness says whether the players who will be on the field will have passed what a call
// needs by the day on which it is installed.
//
// A player's way to a stage is the stages he still has to pass, with the reps that count already.
// He goes on as he has: as many reps a practice as in the last RecentPractices of his group, each
// clean with the same probability. That is his share of clean reps on the ladder over the last
// RecentDays, pulled towards the group's by a prior worth PriorReps reps, so that one good rep
// makes nobody certain. By when he will have passed is then package pace's to say.
//
// A spot of the line-up is as ready as the players at it, each weighted by his share of the snaps
// there; a need as its least ready spot, and a call as its least ready need. The probabilities of
// spots are not multiplied: a call has no chance of its own, it has a weakest place.
//
// Ready is who has passed. At Likely (nine in ten) a call will be ready; below Even (a half) it
// will not; between them it is in doubt. Practices before the day of the install count, that day
// does not: what is installed should stand on what is there.
//
// The pace is the practice's, the probabilities assume that reps do not depend on each other and
// that nobody learns or tires. Whoever shows them says so.
package readiness
