// Package marks turns what coaches recorded into grades.
//
// A mark is what a coach records for one player on one play or rep: facets
// (assignment, technique, finish), faults and whether it could be graded at all.
// Unseen is not failed, and neither is an open question: such marks are counted as
// not graded and enter nothing else. A mark that was assumed clean when the coach
// moved on stays distinguishable from one that was looked at. A fault caused by a
// teammate is counted with the teammate.
package marks
