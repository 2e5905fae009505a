// Package access knows who is signed in: his club, its season and groups, and what he may
// change. It signs people in and out, and nothing else.
package access
