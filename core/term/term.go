// Package term says whether two words name the same thing. Capitals, spaces, hyphens and dots make
// no difference: "Left end", "left-end" and "LEFT END" are one term, as people write them.
package term

import (
	"strings"
	"unicode"
)

// Fold is what is left of a text when only its letters and digits count, as small ones. It is
// empty for a text that has none.
func Fold(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}

// Same reports whether two texts name the same thing. A text without a letter or digit names
// nothing.
func Same(a, b string) bool {
	f := Fold(a)
	return f != "" && f == Fold(b)
}
