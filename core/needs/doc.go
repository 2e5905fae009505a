// Package needs ranks what hurts most: the faults a group should expect in its
// next game, by rate × severity × how often the technique is needed × who plays.
//
// A player's rate of a fault is pulled towards the group's pooled rate by a prior
// worth a few reps, so that one bad rep of two does not top the list. Safety
// faults rank before all others.
package needs
