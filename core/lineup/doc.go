// Package lineup is who is expected on the field in the next game: a coach's own order of players
// at each spot of his group, and what share of the snaps he expects each of them to play there.
//
// It is the coach's word and never worked out. A share is in per cent of the snaps of the
// group's side. At one spot one player stands at a time, and one player stands at one spot at a
// time: neither the shares of a spot nor those of a player come to more than 100. They may come
// to less, as for a tight end who is off the field when four receivers are on it.
package lineup
