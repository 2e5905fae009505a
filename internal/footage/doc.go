// Package footage is the videos: where they are kept, where in them each play and each rep of a drill
// is, and where somebody was when he last watched.
package footage
