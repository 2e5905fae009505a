package cut_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/cut"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/play"
)

func Example() {
	c, err := cut.Parse("third and long, odd front, 64 at fault")
	if err != nil {
		fmt.Println(err)
		return
	}
	p := play.Play{Down: 3, Distance: new(9), Front: "Odd, tight"}
	fmt.Println(c.Matches(p, []cut.Mark{{Jersey: "64", Faults: []string{"Hands wide"}}}))
	fmt.Println(c.Matches(p, []cut.Mark{{Jersey: "64"}, {Jersey: "70", Faults: []string{"Hands wide"}}}))
	// Output:
	// true
	// false
}

var sample = play.Play{Number: 41, Unit: group.Offense, Drive: 9, Quarter: 2, Down: 2, Distance: new(6), Spot: "opp 31", Hash: "left", Personnel: "11", Formation: "Trips right", Motion: "Jet",
	Call: "Gap lead left", Front: "Over", Coverage: "two high", Result: "tackled", Gain: new(-2), Context: []string{"scout look", "end of game"}}

var marked = []cut.Mark{
	{Jersey: "64", Position: "LG", Faults: []string{"Second foot lands behind"}, NoFinish: true, Verdict: marks.Verdict{Graded: true}, Result: new(1)},
	{Jersey: "52", Position: "C", Praise: true, Verdict: marks.Verdict{Graded: true, Clean: true}, Result: new(0), Tallies: []marks.Tally{marks.Effort, marks.CallNotEchoed}},
	{Jersey: "70", Position: "LT", Unseen: true},
}

func TestTerms(t *testing.T) {
	for text, want := range map[string]bool{
		"": true, " , ": true,
		"down 2": true, "down 3": false, "down 3 or 2": true, "second": true, "2nd & 6": true, "second and medium": true, "second and long": false, "not second": false, "third": false,
		"distance 6": true, "distance 7+": false, "distance 5+": true, "distance >6": false, "distance <7": true, "distance 4 to 6": true, "distance short or medium": true, "distance long": false,
		"gain <0": true, "gain -2": true, "gain -3 to -1": true, "gain 0+": false, "quarter 2": true, "drive 1 to 8": false, "play 40 to 60": true,
		"front over": true, "over front": true, "OVER Front": true, "front odd": false, "not front odd": true, "front odd or over": true, "trips right formation": true, "formation trips": true,
		"call lead left": true, "call Lead-left": true, "coverage two": true, "hash left": true, "not hash left": false, "spot opp": true, "spot own": false, "motion jet": true, "personnel 11": true,
		"result tackled": true, "context scout": true, "end of game context": true, "context garbage": false,
		"player 64": true, "player 61": false, "player 60 to 69": true, "fault": true, "fault second foot": true, "fault head": false, "praise": true, "open": false, "unseen": true, "no finish": true, "won": true, "lost": true,
		"lost, no finish": false, "right but lost": true, "wrong but won": true, "player 64, wrong but won": true, "player 64, right but lost": false,
		"effort": true, "no effort": false, "call not echoed, praise": true, "call echoed": false, "call missing": false, "wrong call": false, "not wrong call": true,
		"64 at fault": true, "52 at fault": false, "LG at fault": true, "c at fault": false, "position c, praise": true, "position lg, praise": false, "player 52, praise, not fault": false,
		"player 52, not open": true, "not player 61": true, "not praise": false,
	} {
		c, err := cut.Parse(text)
		if assert.NoError(t, err, text) {
			assert.Equal(t, want, c.Matches(sample, marked), text)
		}
	}
	none, err := cut.Parse("gain 0+, distance 0+")
	require.NoError(t, err)
	assert.False(t, none.Matches(play.Play{Number: 1}, nil), "what is not said meets no number")
	c, err := cut.Parse("not gain 5+")
	require.NoError(t, err)
	assert.True(t, c.Matches(play.Play{Number: 1}, nil))
}

func TestWhatIsNotUnderstoodIsNamed(t *testing.T) {
	for text, says := range map[string]string{
		"down":                        "a number is written",
		"down three":                  "a number is written",
		"distance 9 to 2":             "from the lower to the higher",
		"gain >3+":                    "a number is written",
		"gain 99999999999999999999":   "no number that a play has",
		"front":                       "which front?",
		"front -":                     "which front?",
		"weather wet":                 "a term begins with",
		"down 3, down x":              `"down x"`,
		"not 64 at fault":             "say player 64, not fault",
		"not third and long":          "say one of both",
		strings.Repeat("x", 301):      "at most 300 characters",
		strings.Repeat("praise,", 21): "at most 20 terms",
	} {
		_, err := cut.Parse(text)
		var e *invalid.Error
		if assert.True(t, errors.As(err, &e), text) {
			assert.Equal(t, "cut", e.Field)
			assert.ErrorContains(t, err, says)
		}
	}
}

// TestTermsAreAllMet: a cut-up of several terms about the play is the plays that are in each of them, and a term and
// its opposite part the plays.
func TestTermsAreAllMet(t *testing.T) {
	terms := []string{"down 3", "distance 4 to 7", "gain <0", "odd front", "hash left or right", "not call zone", "quarter 2+"}
	rapid.Check(t, func(t *rapid.T) {
		p := play.Play{Number: 1, Down: rapid.IntRange(0, 4).Draw(t, "down"), Quarter: rapid.IntRange(0, 4).Draw(t, "quarter"), Hash: rapid.SampledFrom([]string{"", "left", "middle", "right"}).Draw(t, "hash"),
			Front: rapid.SampledFrom([]string{"", "Odd", "Over"}).Draw(t, "front"), Call: rapid.SampledFrom([]string{"", "Zone left", "Gap lead"}).Draw(t, "call")}
		if rapid.Bool().Draw(t, "said") {
			p.Distance, p.Gain = new(rapid.IntRange(0, 20).Draw(t, "distance")), new(rapid.IntRange(-9, 20).Draw(t, "gain"))
		}
		in := func(text string) bool {
			c, err := cut.Parse(text)
			if err != nil {
				t.Fatal(err)
			}
			return c.Matches(p, nil)
		}
		some := rapid.SliceOfDistinct(rapid.SampledFrom(terms), func(s string) string { return s }).Draw(t, "terms")
		all := true
		for _, x := range some {
			all = all && in(x)
			if opposite, turned := strings.CutPrefix(x, "not "); turned {
				if in(x) == in(opposite) {
					t.Fatalf("%s and its opposite", x)
				}
			} else if in(x) == in("not "+x) {
				t.Fatalf("%s and its opposite", x)
			}
		}
		if in(strings.Join(some, ", ")) != all {
			t.Fatalf("%v of %+v", some, p)
		}
	})
}

// FuzzParse: whatever is typed is a cut-up or a refusal on its field.
func FuzzParse(f *testing.F) {
	for _, s := range []string{"third and long, odd front, 64 at fault", "gain <0, not hash middle", "down 3 or 4", "4th & 1", "\x00", "not", "not not down 3", "fault or"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		c, err := cut.Parse(text)
		if err != nil {
			var e *invalid.Error
			if !errors.As(err, &e) || e.Field != "cut" {
				t.Fatal(err)
			}
			return
		}
		c.Matches(sample, marked)
	})
}

// TestAWordAsksForWhatItMeans: of its own label only, and never for less than before.
func TestAWordAsksForWhatItMeans(t *testing.T) {
	aliases := []play.Alias{{Label: play.ColFront, Said: "Bear", Means: "Odd"}}
	bear, err := cut.Parse("front bear")
	require.NoError(t, err)
	assert.False(t, bear.Matches(play.Play{Front: "Odd"}, nil))
	assert.True(t, bear.Meaning(aliases).Matches(play.Play{Front: "Odd"}, nil))
	assert.True(t, bear.Meaning(aliases).Matches(play.Play{Front: "Bear"}, nil))
	assert.False(t, bear.Meaning(aliases).Matches(play.Play{Coverage: "Odd"}, nil))
	none, err := cut.Parse("not front bear")
	require.NoError(t, err)
	assert.False(t, none.Meaning(aliases).Matches(play.Play{Front: "Odd"}, nil))
	assert.False(t, bear.Matches(play.Play{Front: "Odd"}, nil), "what was asked stays as it was")
}
