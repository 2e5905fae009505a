// Package term says whether two words name the same thing. Capitals, spaces, hyphens and dots make
// no difference: "Left end", "left-end" and "LEFT END" are one term, as people write them.
package term

import (
	"slices"
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

// Headers adds to at, from left to right, which column each header of a list stands for: the first column
// that has no header yet and one of whose words it is. A header that stands for one already is passed over.
func Headers[Column comparable](at map[Column]int, headers []string, columns []Column, words func(Column) []string) {
	used := map[int]bool{}
	for _, i := range at {
		used[i] = true
	}
	for i, h := range headers {
		for _, c := range columns {
			_, taken := at[c]
			if !used[i] && !taken && slices.ContainsFunc(words(c), func(w string) bool { return Same(w, h) || w == strings.TrimSpace(h) }) {
				at[c] = i
				break
			}
		}
	}
}
