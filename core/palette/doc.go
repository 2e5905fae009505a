// Package palette says in which order a coach is offered the faults of a technique: what the player usually shows
// first, so that the eye finds it where it looks.
//
// A fault ranks by how many of its kind are to be expected of the player: those counted of him, and Prior more that
// are spread as the group shows them. A player of whom little is known so has the group's order, and a group of
// which nothing is known the library's. Letters do not follow the order: a hand that knows a key keeps it.
package palette
