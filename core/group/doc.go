// Package group is the position groups of a club: who is coached together, on which side
// of the ball they play, and which positions belong to whom.
//
// A club's groups are its own rows; Usual is what a new club starts with. Nothing else in
// the program knows a group by its key. Techniques of the teaching library name the groups
// they are taught to by key; a key that no group of a club has is taught to nobody there.
package group
