// Package sound says what in a library cannot be: missing or repeated keys and names,
// references to nothing, numbers out of their range, contact without cautions, drawings
// that cannot be drawn. A change of a library that makes it unsound is refused.
//
// What is merely missing from a library that claims to be complete is package complete's.
package sound
