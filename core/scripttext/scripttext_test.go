package scripttext_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/core/scripttext"
)

var words = scripttext.Words{StartsAt: 18 * 60,
	Groups:    []scripttext.Word{{"ol", "OL"}, {"dl", "DL"}, {"db", "DB"}, {"team", "Team"}},
	Places:    []scripttext.Word{{"north", "North end"}, {"south", "South"}},
	Equipment: []scripttext.Word{{"chutes", "chutes"}, {"bags", "half bags"}},
	Coaches:   []scripttext.Word{{"c1", "Kell"}, {"c2", `O"Rourke, P.`}},
}

func ExampleRead() {
	periods, _ := scripttext.Read(words, "10 warm-up all\n15 indy OL bag @\"North end\" with Kell uses chutes:5 rep 6s\n& indy DL bag # beside them\n4 water all")
	fmt.Print(scripttext.Write(words, periods))
	// Output:
	// 18:00 10 warm-up all
	// 18:10 15 individual OL bag @"North end" with Kell uses chutes:5 rep 6
	// 18:10 15 individual DL bag
	// 18:25 4 water all
}

func TestReadByHand(t *testing.T) {
	for line, want := range map[string]string{
		`18:30-18:42 "Inside run" ol,dl thud needs OL`: `{{ 30 12 group [ol dl] []  thud map[] [ol] 0} Inside run}`,
		`18:05 7 "Water" all`:                          `{{ 5 7 water [ol dl db team] []  air map[] [] 0} Water}`,
		`17:55–18:05 walk-through for team,OL`:         `{{ -5 10 walk_through [ol team] []  air map[] [] 0} Walk-through}`,
		`12 "Hands" DB uses "half bags",chutes:2`:      `{{ 0 12 individual [db] []  air map[bags:1 chutes:2] [] 0} Hands}`,
		`5 meeting for "" with "O\"Rourke, P."`:        `{{ 0 5 meeting [] [c2]  air map[] [] 0} Meeting}`,
		"\t8 kicking all live\r":                       `{{ 0 8 special_teams [ol dl db team] []  live map[] [] 0} Kicking}`,
	} {
		list, problems := scripttext.Read(words, line)
		require.Empty(t, problems, line)
		require.Len(t, list, 1, line)
		assert.Equal(t, want, fmt.Sprint(list[0]), line)
	}
	list, problems := scripttext.Read(words, "\n  # nothing yet\n")
	assert.Empty(t, list)
	assert.Empty(t, problems)
}

// TestProblemsNameTheirPlace: line and column of what is wrong, and every line is read.
func TestProblemsNameTheirPlace(t *testing.T) {
	for text, want := range map[string]string{
		"10 individual XX":                   "line 1, column 15: there is no group \"XX\"; there are OL, DL, DB, Team",
		"10 individual OL,XX":                "line 1, column 18: there is no group \"XX\"",
		"\n10 individual OL @moon":           "line 2, column 19: there is no place \"moon\"",
		"soon individual OL":                 "line 1, column 1: a line begins with a time",
		"25:00 10 individual OL":             "line 1, column 1: a line begins with a time",
		"18:00 individual OL":                "line 1, column 1: say how many minutes",
		"18:30-18:10 individual OL":          "line 1, column 1: it ends before it begins",
		"0 individual OL":                    "line 1, column 1: minutes are 1 to 1440",
		"& individual OL":                    "line 1, column 1: & begins with the line before",
		"10 OL":                              "line 1, column 1: say what it is",
		"10 water":                           "line 1, column 1: say who",
		"10 water all thud bag":              "line 1, column 19: the contact is said twice",
		"10 water team all":                  "line 1, column 10: the kind is said twice",
		"10 water OL,OL":                     "line 1, column 13: OL is named twice",
		`10 "Inside run OL`:                  "line 1, column 4: a quote is not closed",
		`10 "" OL`:                           "line 1, column 4: a name has 1 to 80 characters",
		"10 water OL uses":                   "line 1, column 13: uses what?",
		"10 water OL uses chutes:x":          "line 1, column 18: say how many, such as chutes:5",
		"10 water OL uses chutes,sled:2":     "line 1, column 25: there is no equipment \"sled\"",
		"10 water OL rep soon":               "line 1, column 17: a rep lasts",
		"10 water OL with Nobody":            "line 1, column 18: there is no coach \"Nobody\"",
		strings.Repeat("ü", 40_001):          "line 1, column 1: the text is longer than 40000 characters",
		strings.Repeat("1 water all\n", 401): "line 401, column 1: a script has at most 400 periods",
	} {
		list, problems := scripttext.Read(words, text)
		require.NotEmpty(t, problems, text)
		assert.Nil(t, list)
		assert.Contains(t, problems[0].String(), want)
	}
	_, problems := scripttext.Read(words, "x\n10 water all\n10 water XX\n")
	assert.Len(t, problems, 2)
	_, problems = scripttext.Read(words, strings.Repeat("x\n", 100))
	assert.Len(t, problems, 20)
}

var anyPeriod = rapid.Custom(func(t *rapid.T) scripttext.Period {
	some := func(list []scripttext.Word) (keys []string) {
		for _, w := range list {
			if rapid.Bool().Draw(t, w.Key) {
				keys = append(keys, w.Key)
			}
		}
		return keys
	}
	p := scripttext.Period{Name: rapid.StringN(1, 12, 40).Draw(t, "name")}
	if rapid.Bool().Draw(t, "plain") {
		p.Name = rapid.SampledFrom([]string{"Team", "Inside run", "all", `a "b" \ #c`, "18:00"}).Draw(t, "name")
	}
	p.Start, p.Minutes = rapid.IntRange(-720, 719).Draw(t, "start"), rapid.IntRange(1, 1440).Draw(t, "minutes")
	p.Kind = rapid.SampledFrom([]string{"warm_up", "individual", "group", "team", "special_teams", "walk_through", "meeting", "water", "conditioning"}).Draw(t, "kind")
	p.Contact, p.Groups = practice.Contact(rapid.IntRange(0, 4).Draw(t, "contact")), some(words.Groups)
	if p.Groups == nil {
		p.Groups = []string{}
	}
	p.Coaches, p.NeedsGroups = some(words.Coaches), some(words.Groups)
	p.Place = rapid.SampledFrom([]string{"", "north", "south"}).Draw(t, "place")
	for _, k := range some(words.Equipment) {
		if p.Equipment == nil {
			p.Equipment = map[string]int{}
		}
		p.Equipment[k] = rapid.IntRange(1, 99).Draw(t, "count")
	}
	p.RepSeconds = float64(rapid.IntRange(0, 80).Draw(t, "rep")) / 4
	return p
})

// TestWrittenIsRead: script → text → script is the same script.
func TestWrittenIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		before := rapid.SliceOfN(anyPeriod, 0, 6).Draw(t, "script")
		text := scripttext.Write(words, before)
		after, problems := scripttext.Read(words, text)
		require.Empty(t, problems, text)
		require.Equal(t, fmt.Sprintf("%#v", before), fmt.Sprintf("%#v", append([]scripttext.Period{}, after...)), text)
		require.Equal(t, text, scripttext.Write(words, after))
	})
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{"10 warm-up all", `18:00-18:10 "a\"b" OL,DL bag @"North end" with Kell needs DB uses chutes:2 rep 6s # x`, "& 5 water all", "\"", `10 "\`, "10 for ,"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		list, problems := scripttext.Read(words, text)
		if len(problems) > 0 {
			require.Nil(t, list)
			for _, p := range problems {
				require.Positive(t, p.Line)
				require.Positive(t, p.Column)
			}
			return
		}
		written := scripttext.Write(words, list)
		again, problems := scripttext.Read(words, written)
		require.Empty(t, problems, written)
		require.Equal(t, written, scripttext.Write(words, again))
		s := schedule.Script{Minutes: 120, Groups: []string{"ol", "dl", "db", "team"}, Places: []schedule.Stock{{Key: "north"}, {Key: "south"}}, Equipment: []schedule.Stock{{Key: "chutes"}, {Key: "bags"}}}
		for i, p := range list {
			p.Key = fmt.Sprint(i)
			s.Periods = append(s.Periods, p.Period)
		}
		require.NoError(t, s.Check(), "what was read can be looked at")
	})
}

func TestKeepGivesKeysBack(t *testing.T) {
	before, _ := scripttext.Read(words, "10 warm-up all\n15 individual OL\n& individual DL\n4 water all\n14 \"Inside run\" OL,DL\n4 water all")
	for i := range before {
		before[i].Key = string(rune('a' + i))
	}
	read, _ := scripttext.Read(words, "12 warm-up all\n15 individual DL\n& individual OL\n10 \"New\" DB\n14 \"Inside run\" OL,DL,DB\n4 water all\n8 team all\n4 water all")
	var keys []string
	for _, p := range scripttext.Keep(before, read) {
		keys = append(keys, p.Key)
	}
	assert.Equal(t, []string{"a", "c", "b", "", "e", "d", "", "f"}, keys)
}

// TestTemplatesAreScripts that fill their minutes, and in which nothing is wrong by the limits
// that ship.
func TestTemplatesAreScripts(t *testing.T) {
	for _, template := range scripttext.Templates(words) {
		list, problems := scripttext.Read(words, template.Text)
		require.Empty(t, problems, template.Name)
		s := schedule.Script{Minutes: template.Minutes, Groups: []string{"ol", "dl", "db", "team"}, Limits: schedule.Shipped()}
		for i, p := range list {
			p.Key = fmt.Sprint(i)
			s.Periods = append(s.Periods, p.Period)
		}
		r, err := schedule.Of(s)
		require.NoError(t, err)
		assert.Empty(t, r.Findings, template.Name)
		assert.Equal(t, template.Minutes, list[len(list)-1].End(), template.Name)
	}
}
