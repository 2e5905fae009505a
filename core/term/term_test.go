package term_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"nineyard/core/term"
)

func ExampleSame() {
	fmt.Println(term.Same("Left end", "left-END"), term.Same("Left end", "Right end"), term.Same("-", "."))
	// Output: true false false
}

func TestFoldingIsDoneOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.String().Draw(t, "text")
		assert.Equal(t, term.Fold(s), term.Fold(term.Fold(s)))
		assert.Equal(t, term.Fold(s) != "", term.Same(s, s))
	})
}

func ExampleHeaders() {
	words := map[string][]string{"number": {"no", "#"}, "name": {"player", "name"}}
	at := map[string]int{}
	term.Headers(at, []string{"Player", "#", "Name", "NO."}, []string{"number", "name"}, func(c string) []string { return words[c] })
	fmt.Println(at)
	// Output: map[name:0 number:1]
}
