// Package complete says what is missing from a library that claims to be complete: the
// rules of content that what ships is held to. A club's own library may leave such gaps;
// it is told of them and not refused.
package complete
