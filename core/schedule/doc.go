// Package schedule says what is wrong with a practice script and who is free when, and offers
// what would mend it.
//
// A script is a list of periods over the minutes of a practice, which count from its start.
// Intervals are half-open: periods that touch do not overlap. What lies outside of the practice
// counts for nothing but ending outside, overlaps, places and equipment.
//
// A finding is an error or a warning. Limits (contact, water, length of a rep, warm-up) are the
// club's own; the ones that ship are examples, and a league's rule goes before them. A limit
// that is not set is not checked.
//
// [Of] reports the findings, the stretches in which groups are free, alone and together, and
// the minutes of contact. [Mends] lists, for a finding, the changes of one action after which it
// is gone and nothing new is wrong, the smallest first.
package schedule
