package legible

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// unseen are the characters without width that no text needs, and those that turn its direction.
var unseen = &unicode.RangeTable{
	R16: []unicode.Range16{
		{Lo: 0x00ad, Hi: 0x00ad, Stride: 1}, {Lo: 0x034f, Hi: 0x034f, Stride: 1}, {Lo: 0x061c, Hi: 0x061c, Stride: 1}, {Lo: 0x115f, Hi: 0x1160, Stride: 1},
		{Lo: 0x180e, Hi: 0x180e, Stride: 1}, {Lo: 0x200b, Hi: 0x200b, Stride: 1}, {Lo: 0x200e, Hi: 0x200f, Stride: 1}, {Lo: 0x202a, Hi: 0x202e, Stride: 1},
		{Lo: 0x2060, Hi: 0x2064, Stride: 1}, {Lo: 0x2066, Hi: 0x206f, Stride: 1}, {Lo: 0x3164, Hi: 0x3164, Stride: 1}, {Lo: 0xe000, Hi: 0xf8ff, Stride: 1},
		{Lo: 0xfdd0, Hi: 0xfdef, Stride: 1}, {Lo: 0xfeff, Hi: 0xfeff, Stride: 1}, {Lo: 0xffa0, Hi: 0xffa0, Stride: 1}, {Lo: 0xfff9, Hi: 0xfffb, Stride: 1},
		{Lo: 0xfffe, Hi: 0xffff, Stride: 1},
	},
	R32:         []unicode.Range32{{Lo: 0xe0000, Hi: 0xe007f, Stride: 1}, {Lo: 0xf0000, Hi: 0x10ffff, Stride: 1}},
	LatinOffset: 1,
}

// joiners may stand in a text, and in no name.
func joiner(r rune) bool { return r == 0x200c || r == 0x200d }

func ends(r rune) bool { return r == '\t' || r == '\n' || r == '\r' }

// allowed reports whether a character may stand in a text.
func allowed(r rune) bool {
	return ends(r) || !unicode.Is(unicode.Cc, r) && !unicode.Is(unseen, r)
}

// Text returns the first character of a text that may not stand there, and whether all may. Of bytes that are no
// UTF-8 it is U+FFFD.
func Text(s string) (rune, bool) {
	for i, r := range s {
		if r == utf8.RuneError {
			if _, n := utf8.DecodeRuneInString(s[i:]); n == 1 {
				return r, false
			}
		}
		if !allowed(r) {
			return r, false
		}
	}
	return 0, true
}

// Name is Text for a name, which also has one line and no joiners.
func Name(s string) (rune, bool) {
	if r, ok := Text(s); !ok {
		return r, false
	}
	if i := strings.IndexFunc(s, func(r rune) bool { return ends(r) || joiner(r) }); i >= 0 {
		r, _ := utf8.DecodeRuneInString(s[i:])
		return r, false
	}
	return 0, true
}

// Strip returns a text without the characters that may not stand in it. Bytes that are no UTF-8 become U+FFFD.
func Strip(s string) string {
	if _, ok := Text(s); ok {
		return s
	}
	return strings.Map(func(r rune) rune {
		if !allowed(r) {
			return -1
		}
		return r
	}, s)
}
