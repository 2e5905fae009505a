package legible_test

import (
	"fmt"
	"testing"
	"unicode"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/legible"
)

func ExampleName() {
	for _, name := range []string{"Jun Sato", "Jun \u202eotaS", "Zoë O'Dea"} {
		r, ok := legible.Name(name)
		fmt.Printf("%v %U\n", ok, r)
	}
	// Output:
	// true U+0000
	// false U+202E
	// true U+0000
}

func TestWhatMayStandWhere(t *testing.T) {
	for _, c := range []struct {
		s          string
		text, name bool
	}{
		{"", true, true}, {"José Ñandú", true, true}, {"山田", true, true}, {"Pull, then climb.\nHands inside.\tEyes up.\r\n", true, false},
		{"👨\u200d🏫 says", true, false}, {"می\u200cخواهم", true, false}, {"e\u0301", true, true}, {"a\u00a0b", true, true}, {"\ufffd", true, true},
		{"a\x00", false, false}, {"a\x07b", false, false}, {"\x1b[31m", false, false}, {"\u0085", false, false}, {"\x7f", false, false},
		{"Sato\u200b", false, false}, {"\ufeffSato", false, false}, {"a\u2066b", false, false}, {"a\u200fb", false, false}, {"so\u00adft", false, false},
		{"\U000e0041", false, false}, {"\ue000", false, false}, {"\uffff", false, false}, {"\xff", false, false}, {"a\xed\xa0\x80", false, false},
	} {
		_, ok := legible.Text(c.s)
		assert.Equal(t, c.text, ok, "text %q", c.s)
		_, ok = legible.Name(c.s)
		assert.Equal(t, c.name, ok, "name %q", c.s)
	}
}

// TestWhatIsStrippedMayStand: nothing that may stand is taken away, and what is left may.
func TestWhatIsStrippedMayStand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.StringOf(rapid.OneOf(rapid.Rune(), rapid.SampledFrom([]rune{0, 7, '\n', 0x200b, 0x200d, 0x202e, 0xfeff, 'a'}))).Draw(t, "s")
		out := legible.Strip(s)
		_, ok := legible.Text(out)
		require.True(t, ok, "%q", out)
		require.Equal(t, out, legible.Strip(out))
		if r, ok := legible.Text(s); ok {
			require.Equal(t, s, out)
		} else {
			require.NotContains(t, out, string(r))
		}
		kept := 0
		for _, r := range s {
			if _, ok := legible.Text(string(r)); ok {
				kept++
			}
		}
		require.Equal(t, kept, utf8.RuneCountInString(out))
		if _, ok := legible.Name(s); ok {
			_, text := legible.Text(s)
			require.True(t, text, "a name is a text")
		}
	})
	assert.Equal(t, "a\ufffd", legible.Strip("a\xff\x00"))
}

// TestEveryFormatCharacterIsDecided: of the characters that Unicode calls formatting none gets in unseen but the
// joiners and the few that are drawn with the script they belong to.
func TestEveryFormatCharacterIsDecided(t *testing.T) {
	seen := &unicode.RangeTable{R16: []unicode.Range16{{Lo: 0x0600, Hi: 0x0605, Stride: 1}, {Lo: 0x06dd, Hi: 0x06dd, Stride: 1}, {Lo: 0x070f, Hi: 0x070f, Stride: 1}, {Lo: 0x0890, Hi: 0x0891, Stride: 1},
		{Lo: 0x08e2, Hi: 0x08e2, Stride: 1}, {Lo: 0x200c, Hi: 0x200d, Stride: 1}}, R32: []unicode.Range32{{Lo: 0x110bd, Hi: 0x110cd, Stride: 1}, {Lo: 0x13430, Hi: 0x1343f, Stride: 1},
		{Lo: 0x1bca0, Hi: 0x1bca3, Stride: 1}, {Lo: 0x1d173, Hi: 0x1d17a, Stride: 1}}}
	for r := rune(0); r <= unicode.MaxRune; r++ {
		if unicode.Is(unicode.Cf, r) && !unicode.Is(seen, r) {
			_, ok := legible.Text(string(r))
			assert.False(t, ok, "%U", r)
		}
	}
}
