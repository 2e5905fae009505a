// Package demo makes the invented club of the demo: the Marrow Point Lamplighters of
// the Outer Sound League, an adult amateur club in week 7 of its season.
//
// Its marks come from a seeded simulator with planted truths, so that a test can ask
// whether the reports find them. The same seed makes the same club to the last id.
// Every name in it is made up.
package demo
