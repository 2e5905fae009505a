package library_test

import (
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/complete"
	"nineyard/core/invalid"
	"nineyard/core/school"
	"nineyard/core/sound"
	"nineyard/library"
)

// TestWhatIsNoLibraryIsSaidWithItsLine in the words of the form, not of the parser.
func TestWhatIsNoLibraryIsSaidWithItsLine(t *testing.T) {
	for text, want := range map[string]string{
		"drills: [":                             "cannot be read as YAML or JSON",
		"drills: {":                             "cannot be read as YAML or JSON",
		"drills:\n\t- {key: a}":                 "line 2",
		"drils: []":                             `line 1: "drils" is not a field of a library`,
		"drills:\n  - {key: a, colour: red}":    `line 2: "colour" is not a field of drills[0]`,
		"drills:\n  - key: a\n    lanes: three": "line 3: drills[0].lanes must be a whole number",
		"drills:\n  - key: a\n    lanes: 9223372036854775808":                "drills[0].lanes must be a whole number",
		"drills:\n  - key: a\n    lanes: 2.5":                                "drills[0].lanes must be a whole number",
		"drills:\n  - key: a\n    rep_seconds: .nan":                         "drills[0].rep_seconds must be a number between",
		"drills:\n  - key: a\n    rep_seconds: -.inf":                        "drills[0].rep_seconds must be a number",
		"drills:\n  - key: a\n    rep_seconds: 1e300":                        "drills[0].rep_seconds must be a number",
		"drills:\n  - key: a\n    space_yd: [1]":                             "drills[0].space_yd must have 2 entries",
		"drills:\n  - key: a\n    conditioning: perhaps":                     "drills[0].conditioning must be true or false",
		"drills:\n  - key: a\n    key: b":                                    "line 3: key stands twice in drills[0]",
		"drills:\n  - key: [a]":                                              "drills[0].key must be a single value",
		"drills:\n  - a":                                                     "drills[0] must have fields",
		"drills: a":                                                          "drills must be a list",
		"[]":                                                                 "the file must have fields",
		"drills:\n  - {key: \"a\\0\"}":                                       "drills[0].key holds a character that cannot be read (U+0000)",
		"drills:\n  - {key: a\u202e}":                                        "line 2 holds a character that cannot be read (U+202E)",
		"drills:\n  - {key: a\x00}":                                          "line 2 holds a character",
		"\xff\xfed\x00":                                                      "line 1 holds a character",
		"drills: &a []\nladders: *a":                                         "anchor",
		"drills: !!binary aGk=":                                              "tag",
		"a: 1\n---\nb: 2":                                                    "one document",
		"drills:\n  - {key: " + strings.Repeat("x", 4001) + "}":              "drills[0].key is longer than 4000 characters",
		"drills: [" + strings.Repeat("{},", 5001) + "{}]":                    "drills has more than 5000 entries",
		"drills: [" + strings.Repeat("{},", 600_001) + "{}]":                 "more parts than a library",
		strings.Repeat("#", library.MaxBytes+1):                              "larger than 6 MiB",
		"drills:\n- " + strings.Repeat("k: 1\n  ", 60_000):                   `"k" is not a field`,
		strings.Repeat("[", 60_000):                                          "cannot be read",
		"drills: " + strings.Repeat("[", 9_000) + strings.Repeat("]", 9_000): "drills[0] must have fields",
	} {
		_, _, err := library.Parse([]byte(text))
		e, ok := invalid.As(err)
		require.True(t, ok, "%.60q: %v", text, err)
		assert.Equal(t, "file", e.Field)
		assert.Contains(t, e.Message, want, "%.60q", text)
		assert.NotContains(t, e.Message, "yaml:", text)
	}
	b, _, err := library.Parse([]byte("drills:\n  - key: a\n    name: 7\n    game:\n    lanes: 0x3\n"))
	assert.Error(t, err, "a number is written as people write it: %v", b)
}

// TestReadingTakesNoMoreThanTheFileIsWorth: the files that once took gigabytes and minutes.
func TestReadingTakesNoMoreThanTheFileIsWorth(t *testing.T) {
	for name, text := range map[string]string{
		"empty drills":  "drills:\n" + strings.Repeat("- {}\n", 199_000),
		"in flow":       "drills: [" + strings.Repeat("{},", 190_000) + "{}]",
		"equal keys":    "drills:\n- " + strings.Repeat("key: 1\n  ", 99_000),
		"nested":        "drills: " + strings.Repeat("[[],", 60_000),
		"one long text": "drills:\n- key: x\n  name: " + strings.Repeat("a b c ", 300_000),
		"anchors":       "a: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a]\nc: [*b,*b,*b,*b,*b,*b]\n",
	} {
		var before, after runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&before)
		_, _, err := library.Parse([]byte(text))
		runtime.ReadMemStats(&after)
		require.Error(t, err, name)
		took := (after.TotalAlloc - before.TotalAlloc) >> 20
		t.Logf("%s: %d KiB took %d MiB in all", name, len(text)>>10, took)
		assert.LessOrEqual(t, took, uint64(64), name)
	}
}

// FuzzParse feeds the reader anything: it answers with a library or with an invalid.Error, and what it read is written
// and read again the same.
func FuzzParse(f *testing.F) {
	for _, s := range []string{"", "drills:\n  - {key: a, lanes: 2, space_yd: [1, 2.5]}\n", `{"techniques": [{"key": "t", "checkpoints": [{"key": "c", "measure": {"unit": "in", "target": 4, "ok": [1, 2], "watch": [0, 3], "read": "x"}}]}]}`,
		"ladders:\n  - key: l\n    stages: [{key: s, name: S, kind: bag, window: 6, clean: 5}]\n", "drills: &a\n", "? a\n: b\n", "%YAML 1.1\n---\n{}", "drills:\n- <<: {key: x}\n"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		b, _, err := library.Parse(data)
		if err != nil {
			if e, ok := invalid.As(err); !ok || e.Field != "file" {
				t.Fatalf("%v", err)
			}
			return
		}
		text, err := b.YAML()
		if err != nil {
			t.Fatalf("cannot be written: %v", err)
		}
		again, _, err := library.Parse(text)
		if err != nil {
			t.Fatalf("what was written cannot be read: %v\n%s", err, text)
		}
		if _, err := b.JSON(); err != nil {
			t.Fatalf("as JSON: %v", err)
		}
		if len(again.Entries()) != len(b.Entries()) {
			t.Fatalf("%d entries became %d", len(b.Entries()), len(again.Entries()))
		}
		if e, err := library.NewEdition(b.Entries()); err == nil { // whatever it teaches, it can be looked at
			sound.Check(e.All)
			complete.Check(school.Resolve(e.All))
		}
	})
}
