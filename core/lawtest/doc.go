// Package lawtest holds the laws that every rule of the job keeps, written once:
//
//   - asked again, a rule gives the same answer;
//   - the order in which its rows come does not matter;
//   - calling a player, a technique or a fault otherwise changes the names in the answer
//     and nothing else;
//   - a row split into two says what it said.
//
// A rule breaks a law as soon as it reads a map in its order, breaks a tie by what came
// first, or counts rows where it should count reps: screens then differ from one load to
// the next, or from what a coach exported. The package's own test runs the laws for every
// rule of core, and fails for a package of core that it does not know.
package lawtest
