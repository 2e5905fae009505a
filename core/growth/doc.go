// Package growth says how well each player performs each technique, and what may be said
// of it: whether he performs better than before, whether practice carries over to games,
// whether one side is better than the other.
//
// Counts are small: a guard may have nine pull blocks in a game. So every rate is an
// estimate with a range, pulled towards the group's rate by a prior worth a few reps
// (A. Gelman et al., Bayesian Data Analysis, 3rd ed., section 2.4), and recent reps count
// more (half-life).
//
// What is compared are sessions, all reps of one player, technique, day and source, and not
// reps: the reps of a day resemble each other, so twelve of one day say less than twelve of
// six days. How much they do is estimated from the input itself (likeness, a moment
// estimate of the intra-class correlation; P. McCullagh and J. A. Nelder, Generalized
// Linear Models, 2nd ed., section 4.5). Every session is set beside what the others do at
// its source, on the logistic scale, so that games, which are harder for everybody, are no
// fault of a player's.
//
// Of many comparisons only those are claimed that survive the Benjamini–Hochberg rule
// (Y. Benjamini and Y. Hochberg, J. R. Statist. Soc. B 57, 1995) over all of their family:
// a matrix of a hundred cells would otherwise cry wolf ten times. Of the claims of one
// family on one day about one in ten is false; that nothing is claimed does not mean that
// nothing changed.
//
// Units: days and reps; rates and probabilities are fractions 0 to 1; levels are logits.
package growth
