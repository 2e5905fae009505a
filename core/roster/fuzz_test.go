package roster_test

import (
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/roster"
)

var shirt = regexp.MustCompile(`^([0-9]{1,3}[A-Z]?)?$`)

// FuzzFields feeds the readers of single fields anything a spreadsheet may hold: what is
// accepted must be what the rules promise, and must be read the same when it comes back.
func FuzzFields(f *testing.F) {
	for _, s := range []string{"", "07", "7A", "#64", "6-2", `6'2"`, "6 ft 11.5 in", "188 cm", "1,88 m", "285", "129 kg", "Feb-06", "yes", "3", "Sato, Jun", "Jun van der Sato", "\x00\x1f", "’", "6-12", "99999999999999999999"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if j, err := roster.Jersey(s); err == nil {
			if !shirt.MatchString(j) {
				t.Fatalf("jersey %q from %q", j, s)
			}
			if again, err := roster.Jersey(j); err != nil || again != j {
				t.Fatalf("jersey %q is read as %q, %v", j, again, err)
			}
		}
		if h, err := roster.Height(s); err == nil && h != 0 && (h < roster.MinHeightIn || h > roster.MaxHeightIn) {
			t.Fatalf("height %v from %q", h, s)
		}
		if w, err := roster.Weight(s); err == nil && w != 0 && (w < roster.MinWeightLb || w > roster.MaxWeightLb) {
			t.Fatalf("weight %v from %q", w, s)
		}
		if r, said, err := roster.Returning(s); r && (!said || err != nil) {
			t.Fatalf("returning without saying so: %q", s)
		}
		if !utf8.ValidString(s) {
			return
		}
		tidy := roster.Tidy(s)
		if roster.Tidy(tidy) != tidy || strings.Contains(tidy, "  ") {
			t.Fatalf("%q is not tidy", tidy)
		}
		first, last := roster.SplitName(s)
		if last == "" && strings.Trim(tidy, " ,") != "" && !strings.HasPrefix(strings.TrimSpace(tidy), ",") {
			t.Fatalf("no family name in %q: %q %q", s, first, last)
		}
	})
}

// TestGuessUsesEachHeaderOnce holds for any headers in any order.
func TestGuessUsesEachHeaderOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		headers := rapid.SliceOfN(rapid.OneOf(
			rapid.SampledFrom([]string{"No.", "Name", "First name", "Last", "Pos", "Height (cm)", "Weight", "Years", "Jersey #", "Full name", ""}),
			rapid.String()), 0, 12).Draw(t, "headers")
		got := roster.Guess(headers)
		used := map[int]bool{}
		for col, i := range got {
			require.Contains(t, roster.Columns(), col)
			require.True(t, i >= 0 && i < len(headers))
			require.False(t, used[i], "header %d is used twice", i)
			used[i] = true
		}
		_, first := got[roster.ColFirst]
		_, last := got[roster.ColLast]
		_, full := got[roster.ColName]
		require.False(t, first && last && full, "a name in two parts and in one")
	})
}

func person() *rapid.Generator[roster.Person] {
	return rapid.Custom(func(t *rapid.T) roster.Person {
		return roster.Person{First: "Jun", Last: "Sato",
			Jersey:        rapid.SampledFrom([]string{"", "64", "7A"}).Draw(t, "jersey"),
			Position:      rapid.SampledFrom([]string{"", "LG", "C"}).Draw(t, "position"),
			HeightIn:      rapid.SampledFrom([]float64{0, 74, 75.5}).Draw(t, "height"),
			WeightLb:      rapid.SampledFrom([]float64{0, 285, 301}).Draw(t, "weight"),
			SaysReturning: rapid.Bool().Draw(t, "says")}
	})
}

// TestMergeLosesNothing: an empty field of a list never wipes out what is known, and the
// same list told twice is the same as told once.
func TestMergeLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		known, told := person().Draw(t, "known"), person().Draw(t, "told")
		got := roster.Merge(known, told)
		require.Equal(t, got, roster.Merge(got, told))
		pick := func(told, known string) string {
			if told != "" {
				return told
			}
			return known
		}
		require.Equal(t, pick(told.Jersey, known.Jersey), got.Jersey)
		require.Equal(t, pick(told.Position, known.Position), got.Position)
		require.Equal(t, known.HeightIn > 0 || told.HeightIn > 0, got.HeightIn > 0)
		require.Equal(t, known.WeightLb > 0 || told.WeightLb > 0, got.WeightLb > 0)
	})
}
