// Package practice holds the rules of a practice script: the kinds of period, the
// levels of contact and how drills lie inside a coach's own period.
//
// Minutes are whole minutes; a period's start counts from the start of practice and
// a drill's from the start of its period. Intervals are half-open.
package practice
