// Package attack makes requests out of the contract: sound ones, and ones that are spoiled in the ways in which programs
// break. A wrong type, an end of a range and what lies behind it, a text that is no text, somebody else's id, a parameter said
// twice, a body that says it is something else. It says of every answer whether the contract allows it.
package attack
