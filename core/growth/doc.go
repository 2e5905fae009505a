// Package growth estimates how well each player performs each technique, whether
// he improves and whether practice carries over to games.
//
// Counts are small: a guard may have nine pull blocks in a game. So every rate is
// an estimate with a range, pulled towards the group's rate by a prior worth a few
// reps (A. Gelman et al., Bayesian Data Analysis, 3rd ed., section 2.4), recent
// reps count more (half-life), and a trend is claimed only when it survives the
// Benjamini–Hochberg rule over all trends shown together (Y. Benjamini and
// Y. Hochberg, J. R. Statist. Soc. B 57, 1995): a matrix of a hundred cells would
// otherwise cry wolf ten times.
//
// Units: days and reps; rates and probabilities are fractions 0 to 1.
package growth
