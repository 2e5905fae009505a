package call_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
)

// known is two groups and three techniques, two of which have a ladder.
func known() call.Known {
	l := &teaching.Library{
		Techniques: []teaching.Technique{
			{Key: "kick", Name: "Kick on the line", Aliases: []string{"pull kick"}, Groups: []string{"ol"}},
			{Key: "base", Name: "Base block", Groups: []string{"ol", "te"}},
			{Key: "fit", Name: "Fit in the alley", Groups: []string{"db"}}},
		Ladders: []teaching.Ladder{
			{Key: "kick", Name: "Kick ladder", Technique: "kick", Stages: []teaching.Stage{{Key: "a", Kind: teaching.Bag}, {Key: "b", Kind: teaching.Partner}, {Key: "c", Kind: teaching.Partner}, {Key: "d", Kind: teaching.Game}}},
			{Key: "base", Name: "Base ladder", Technique: "base", Stages: []teaching.Stage{{Key: "a", Kind: teaching.Fit}, {Key: "b", Kind: teaching.Group}}}},
	}
	return call.Known{Groups: group.Usual(), Library: l.Link(), SeasonStart: season.Must("2026-09-01"), Weeks: 10}
}

func ExampleRead() {
	rows, at := call.Typed("Lead left | run | OL pull kick > partner [RG]; TE Base block | 12% | 20 Oct | power, 34\n\nLead right | run | OL Kick on line")
	for _, l := range call.Read(rows, at, known()) {
		if l.Says != "" {
			fmt.Printf("line %d, %s: %s\n", l.Number, l.Column, l.Says)
			continue
		}
		fmt.Println(strings.Join(call.Record(l.Call, known()), " | "))
	}
	// Output:
	// Lead left | run | OL Kick on the line > partner [RG]; TE Base block | 12 | 2026-10-20 | power, 34 |  | offense
	// line 3, Needs: there is no technique "Kick on line"
}

func TestUpTo(t *testing.T) {
	l := known().Library
	for _, c := range []struct {
		ladder, kind string
		at           int
		ok           bool
	}{{"kick", "", 2, true}, {"kick", "partner", 2, true}, {"kick", "bag", 0, true}, {"kick", "game", 0, false}, {"kick", "look", 0, false}, {"base", "", 1, true}} {
		ld, _ := l.Ladder(c.ladder)
		at, ok := call.UpTo(ld, c.kind)
		assert.Equal(t, c.at, at, c)
		assert.Equal(t, c.ok, ok, c)
	}
}

func TestCheckNamesTheField(t *testing.T) {
	good := func() call.Call {
		return call.Call{Name: "Lead", Side: group.Offense, Needs: []call.Need{{Group: "ol", Technique: "kick"}}}
	}
	require.NoError(t, good().Check(known()))
	late := season.Must("2026-12-24")
	for field, spoil := range map[string]func(*call.Call){
		"name":              func(c *call.Call) { c.Name = "" },
		"aliases[0]":        func(c *call.Call) { c.Aliases = []string{"lead"} },
		"aliases[1]":        func(c *call.Call) { c.Aliases = []string{"a", "A"} },
		"tags[0]":           func(c *call.Call) { c.Tags = []string{"a|b"} },
		"kind":              func(c *call.Call) { c.Kind = strings.Repeat("a", call.MaxName+1) },
		"side":              func(c *call.Call) { c.Side = "left" },
		"share":             func(c *call.Call) { c.Share = 101 },
		"install":           func(c *call.Call) { c.Install = &late },
		"needs":             func(c *call.Call) { c.Needs = make([]call.Need, call.MaxNeeds+1) },
		"needs[1]":          func(c *call.Call) { c.Needs = append(c.Needs, c.Needs[0]) },
		"needs[0].group":    func(c *call.Call) { c.Needs[0].Group = "zz" },
		"needs[0].stage":    func(c *call.Call) { c.Needs[0].Stage = "fit" },
		"needs[0].spots[1]": func(c *call.Call) { c.Needs[0].Spots = []string{"RG", "rg"} },
	} {
		c := good()
		spoil(&c)
		e, bad := invalid.As(c.Check(known()))
		if assert.True(t, bad, field) {
			assert.Equal(t, field, e.Field)
		}
	}
	for technique, says := range map[string]string{"fit": "not taught to Offensive line", "zz": "no technique"} {
		c := good()
		c.Needs[0].Technique = technique
		assert.ErrorContains(t, c.Check(known()), says)
	}
	c := good()
	c.Needs[0] = call.Need{Group: "db", Technique: "fit"}
	assert.ErrorContains(t, c.Check(known()), "has no ladder")
}

func TestListsAsPeopleKeepThem(t *testing.T) {
	at, err := call.Guess([]string{"#", "Play", "Type", "Techniques", "%", "Installed on"})
	require.NoError(t, err)
	assert.Equal(t, map[call.Column]int{call.Name: 1, call.Kind: 2, call.Needs: 3, call.Share: 4, call.Install: 5}, at)
	_, err = call.Guess([]string{"a", "b"})
	e, _ := invalid.As(err)
	assert.Equal(t, "columns", e.Field)

	row := func(fields ...string) []call.Row { return []call.Row{{Number: 7, Fields: fields}} }
	_, typed := call.Typed("")
	for says, fields := range map[string][]string{
		"not a need":           {"Lead", "", "OL"},
		"no position group":    {"Lead", "", "XX Base block"},
		"no stage of the kind": {"Lead", "", "OL Base block > bag"},
		"whole number":         {"Lead", "", "", "a lot"},
		"a day of the season":  {"Lead", "", "", "", "soon"},
		"outside of the sea":   {"Lead", "", "", "", "2027-01-01"},
		"a side is":            {"Lead", "", "", "", "", "", "", "left"},
		"more than one side":   {"Lead", "", "OL Base block; DB Fit in the alley"},
		"a name of 1 to":       {"", "run"},
	} {
		l := call.Read(row(fields...), typed, known())[0]
		assert.Contains(t, l.Says, says)
		assert.NotEmpty(t, l.Column)
		assert.Equal(t, 7, l.Number)
	}
	two := call.Read([]call.Row{{Number: 2, Fields: []string{"Lead", "", "", "", "", "power"}}, {Number: 3, Fields: []string{"Power"}}}, typed, known())
	assert.Equal(t, "Power is in line 2 already", two[1].Says)
}

func TestExposure(t *testing.T) {
	calls := []call.Call{
		{Share: 30, Needs: []call.Need{{Group: "ol", Technique: "kick", Spots: []string{"LG"}}, {Group: "ol", Technique: "kick", Spots: []string{"RG"}}, {Group: "te", Technique: "base"}}},
		{Share: 80, Needs: []call.Need{{Group: "ol", Technique: "kick"}}}, {Needs: []call.Need{{Group: "ol", Technique: "base"}}}}
	assert.Equal(t, map[string]int{"kick": 100, "base": 0}, call.Exposure(calls, "ol"), "a call needs a technique once, and no more than every snap is needed")
	assert.Equal(t, map[string]int{"base": 30}, call.Exposure(calls, "te"))
}

// words are such as people write.
var words = rapid.StringMatching(`[A-Za-z0-9]{1,6}( [a-z0-9'./&-]{1,8})?`)

func drawn(t *rapid.T) call.Call {
	c := call.Call{Name: words.Draw(t, "name"), Side: rapid.SampledFrom([]group.Side{group.Offense, group.Defense, group.Units}).Draw(t, "side"), Share: rapid.IntRange(0, 100).Draw(t, "share")}
	c.Aliases = rapid.SliceOfN(words, 0, 3).Draw(t, "aliases")
	c.Tags = rapid.SliceOfN(words, 0, 3).Draw(t, "tags")
	if rapid.Bool().Draw(t, "kind?") {
		c.Kind = words.Draw(t, "kind")
	}
	if rapid.Bool().Draw(t, "day?") {
		d := season.Must("2026-09-01") + season.Date(rapid.IntRange(0, 69).Draw(t, "day"))
		c.Install = &d
	}
	for range rapid.IntRange(0, 3).Draw(t, "needs") {
		n := rapid.SampledFrom([]call.Need{{Group: "ol", Technique: "kick", Stage: "bag"}, {Group: "ol", Technique: "kick"}, {Group: "te", Technique: "base", Stage: "group"}}).Draw(t, "need")
		n.Spots = rapid.SliceOfN(words, 0, 2).Draw(t, "spots")
		c.Needs = append(c.Needs, n)
	}
	return c
}

// TestWhatIsWrittenIsReadAgain: a call that stands, written into a list or typed, is read as it
// was.
func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawn(t)
		if c.Check(known()) != nil {
			t.Skip("a word stands twice")
		}
		rows, at := call.Typed(strings.Join(call.Record(c, known()), " | "))
		lines := call.Read(rows, at, known())
		require.Len(t, lines, 1)
		require.Empty(t, lines[0].Says)
		got := lines[0].Call
		for _, x := range []*call.Call{&c, &got} { // an empty list is none
			x.Aliases, x.Tags, x.Needs = append([]string{}, x.Aliases...), append([]string{}, x.Tags...), append([]call.Need{}, x.Needs...)
			for i := range x.Needs {
				x.Needs[i].Spots = append([]string{}, x.Needs[i].Spots...)
			}
		}
		require.Equal(t, c, got)
	})
}

// FuzzRead: whatever is typed, a line is a call that stands or says what is wrong with it.
func FuzzRead(f *testing.F) {
	f.Add("Lead left | run | OL pull kick > partner [RG]; TE Base block | 12% | 20 Oct | power")
	f.Add("a|b|c\n||||||||")
	f.Fuzz(func(t *testing.T, text string) {
		rows, at := call.Typed(text)
		for _, l := range call.Read(rows, at, known()) {
			if (l.Says == "") != (l.Call.Check(known()) == nil) && l.Says == "" {
				t.Errorf("%q is taken and cannot be", text)
			}
		}
	})
}
