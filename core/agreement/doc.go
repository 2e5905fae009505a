// Package agreement says how far two coaches grade alike: of the reps both graded, how often they
// say the same, and how much of that chance alone would do.
//
// Cohen's kappa is
//
//	κ = (observed − expected) / (1 − expected)
//
// where observed is the mean weight of the pairs and expected the mean weight of all n² pairings of
// a value of the one coach with a value of the other. A pair weighs 1 when both say the same and 0
// when they do not (nominal), or 1 − ((a − b)/(max − min))² on a scale whose steps have an order
// (ordinal), max and min over both coaches' values. κ is 1 when they always agree, 0 when they agree
// as chance would, below 0 when they do less.
//
// Sources: J. Cohen, A coefficient of agreement for nominal scales, 1960; the weights of squared
// distance, J. Cohen, Weighted kappa, 1968.
package agreement
