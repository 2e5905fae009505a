package teaching_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/teaching"
)

func library() *teaching.Library {
	l := &teaching.Library{
		Questions: []teaching.Question{{Key: "q", Name: "Q", Asks: "?", House: "a", Why: "so", Techniques: []string{"t"},
			Schools: []teaching.School{{Key: "a", Name: "A", Reason: "x"}, {Key: "b", Name: "B", Reason: "y"}}}},
		Techniques: []teaching.Technique{{Key: "t", Name: "T", Groups: []string{"ol"}, Summary: "s",
			Checkpoints: []teaching.Checkpoint{
				{Key: "c", Name: "C", Phase: "stance", Cue: "c", Words: []string{"low", "right"}, Right: []string{"right"}},
				{Key: "ca", Name: "CA", Phase: "step", Cue: "c", Words: []string{"no", "yes"}, Right: []string{"yes"}, School: "q/a"},
				{Key: "cb", Name: "CB", Phase: "step", Cue: "c", Words: []string{"no", "yes"}, Right: []string{"yes"}, School: "q/b"}},
			Faults: []teaching.Fault{{Key: "f", Name: "F", Checkpoint: "c", Effect: "e", Severity: 2}, {Key: "fb", Name: "FB", Checkpoint: "cb", Effect: "e", Severity: 1}}}},
		Drills: []teaching.Drill{
			{Key: "low", Name: "Low", Trains: []string{"c", "ca"}, WorksOn: []string{"f", "fb"}, Contact: "bag", Working: 1, Lanes: 2, RepSeconds: 5, ResetSeconds: 20, Sides: 1, Minutes: 4, MinMinutes: 3, Space: teaching.Space{LengthYd: 4, WidthYd: 3}, Cautions: "face off the bag"},
			{Key: "high", Name: "High", Trains: []string{"c"}, WorksOn: []string{"f"}, Contact: "control", HelpContact: "air", Working: 1, Helping: 1, Lanes: 2, RepSeconds: 8, Sides: 2, Minutes: 4, MinMinutes: 3, Space: teaching.Space{LengthYd: 4, WidthYd: 3}, Cautions: "stay up"},
			{Key: "onlyb", Name: "Only B", Trains: []string{"cb"}, Contact: "air", Working: 1, Lanes: 2, RepSeconds: 5, Sides: 1, Minutes: 4, MinMinutes: 3, Space: teaching.Space{LengthYd: 4, WidthYd: 3}},
		},
		Ladders: []teaching.Ladder{{Key: "l", Name: "L", Technique: "t", Stages: []teaching.Stage{
			{Key: "a", Name: "A", Kind: teaching.Bag, Drills: []string{"low"}, Window: 2, Clean: 1},
			{Key: "b", Name: "B", Kind: teaching.Partner, Drills: []string{"high"}, Window: 2, Clean: 1},
			{Key: "x", Name: "X", Kind: teaching.Look, Drills: []string{"onlyb"}, Window: 2, Clean: 1}}}},
	}
	return l.Link()
}

func ExampleMeasure_Judge() {
	most := 16.0
	firstStep := teaching.Measure{Unit: "in", Target: 7, OK: teaching.Band{Low: 5, High: 10}, Watch: teaching.Band{Low: 3, High: 13}, Max: &most, Read: "line"}
	for _, v := range []float64{7, 12, 14, 17} {
		fmt.Println(v, firstStep.Judge(v))
	}
	// A longer man may take a longer step, but never beyond the hard limit.
	his, err := firstStep.Except(teaching.Exception{OK: teaching.Band{Low: 6, High: 12}, Watch: teaching.Band{Low: 4, High: 15}})
	fmt.Println(12, his.Judge(12), err)
	_, err = firstStep.Except(teaching.Exception{OK: teaching.Band{Low: 6, High: 12}, Watch: teaching.Band{Low: 4, High: 18}})
	fmt.Println(err)
	// Output:
	// 7 right
	// 12 watch
	// 14 beyond
	// 17 never
	// 12 right <nil>
	// the hard limit 16 lies inside the watch band to 18
}

// TestJudgeIsMonotone: moving away from the target never makes the verdict better, and
// the bands mean what they say.
func TestJudgeIsMonotone(t *testing.T) {
	rank := map[teaching.Verdict]int{teaching.Right: 0, teaching.Watch: 1, teaching.Beyond: 2, teaching.Never: 3}
	rapid.Check(t, func(t *rapid.T) {
		cut := rapid.SliceOfN(rapid.Float64Range(-50, 50), 7, 7).Draw(t, "cuts")
		slices.Sort(cut)
		m := teaching.Measure{Unit: "in", Read: "line", Min: &cut[0], Watch: teaching.Band{Low: cut[1], High: cut[5]}, OK: teaching.Band{Low: cut[2], High: cut[4]}, Target: cut[3], Max: &cut[6]}
		_, err := m.Except(teaching.Exception{OK: m.OK, Watch: m.Watch})
		require.NoError(t, err, "its own ranges are an exception like any other")
		v := rapid.Float64Range(-60, 60).Draw(t, "value")
		further := v + (v-m.Target)*rapid.Float64Range(0, 2).Draw(t, "further")
		require.GreaterOrEqual(t, rank[m.Judge(further)], rank[m.Judge(v)])
		require.Equal(t, v < cut[0] || v > cut[6], m.Judge(v) == teaching.Never)
		require.Equal(t, v >= cut[2] && v <= cut[4], m.Judge(v) == teaching.Right)
		require.Equal(t, v < cut[1] || v > cut[5], m.Judge(v).Faulty())
	})
}

func TestLimitedMenStayOutOfContact(t *testing.T) {
	lib := library()
	a := teaching.Attendance{Players: 9, Limited: 2}
	low, _ := lib.Drill("low")
	high, _ := lib.Drill("high")
	assert.Equal(t, teaching.Crew{Full: 9}, a.For(low))
	assert.Equal(t, teaching.Crew{Full: 7, HelpOnly: 2}, a.For(high), "they may help where helping has no contact")
	high.HelpContact = ""
	assert.Equal(t, teaching.Crew{Full: 7}, a.For(high))
	_, y, advice := high.Planned(teaching.Attendance{Players: 2, Limited: 1}, 5, 1)
	assert.Zero(t, y.WorkingReps)
	assert.Contains(t, advice, "needs 2 men a lane and 1 can take part")
	high.Contact = "rough"
	assert.Equal(t, teaching.NoPart, high.PartOf(true), "what is not known counts as contact")
}

func TestResolveKeepsTheChosenSchool(t *testing.T) {
	lib := library()
	a, b := lib.Resolve(), lib.Choose("q", "b").Resolve()
	keys := func(l *teaching.Library) (points, faults, drills []string, stages int) {
		t, _ := l.Technique("t")
		for _, c := range t.Checkpoints {
			points = append(points, c.Key)
		}
		for _, f := range t.Faults {
			faults = append(faults, f.Key)
		}
		for _, d := range l.Drills {
			drills = append(drills, d.Key)
		}
		ld, _ := l.LadderOf("t")
		return points, faults, drills, len(ld.Stages)
	}
	points, faults, drills, stages := keys(a)
	assert.Equal(t, []string{"c", "ca"}, points)
	assert.Equal(t, []string{"f"}, faults, "a fault goes with its checkpoint")
	assert.Equal(t, []string{"low", "high"}, drills, "a drill that trains nothing goes")
	assert.Equal(t, 2, stages, "and a stage that has no drill left")
	low, _ := a.Drill("low")
	assert.Equal(t, []string{"f"}, low.WorksOn)
	points, faults, drills, stages = keys(b)
	assert.Equal(t, []string{"c", "cb"}, points)
	assert.Equal(t, []string{"f", "fb"}, faults)
	assert.Equal(t, []string{"low", "high", "onlyb"}, drills)
	assert.Equal(t, 3, stages)
	assert.Len(t, lib.Techniques[0].Checkpoints, 3, "the library itself is not changed")
}

func TestDrillForKeepsToTheStage(t *testing.T) {
	lib := library()
	for reached, want := range map[int]string{-1: "low", 0: "low", 1: "high"} {
		d, ok := lib.DrillFor("f", reached)
		assert.True(t, ok)
		assert.Equal(t, want, d.Key, "stage %d", reached)
	}
	places := lib.PlacesOf("high")
	require.Len(t, places, 1)
	assert.Equal(t, "b", places[0].Stage.Key)
	assert.Equal(t, []string{"high", "low"}, []string{lib.DrillsFor("f")[0].Key, lib.DrillsFor("f")[1].Key}, "the drill that is about it alone first")
}

func TestKeepTerm(t *testing.T) {
	assert.Equal(t, []string{"x", "Old"}, teaching.KeepTerm([]string{"x"}, "Old", "New"))
	assert.Equal(t, []string{"Old"}, teaching.KeepTerm([]string{"new"}, "Old", "New"), "a name is no alias of itself")
	assert.Equal(t, []string{"OLD"}, teaching.KeepTerm([]string{"OLD"}, "Old", "New"))
	assert.Empty(t, teaching.KeepTerm(nil, "Same", "same"))
}

func TestCheck(t *testing.T) {
	require.Empty(t, library().Check())
	for want, change := range map[string]func(*teaching.Library){
		"technique t: groups":          func(l *teaching.Library) { l.Techniques[0].Groups = nil },
		"checkpoint c: words":          func(l *teaching.Library) { l.Techniques[0].Checkpoints[0].Words = nil },
		"checkpoint c: right":          func(l *teaching.Library) { l.Techniques[0].Checkpoints[0].Right = []string{"high"} },
		"checkpoint ca: school":        func(l *teaching.Library) { l.Techniques[0].Checkpoints[1].School = "q/z" },
		"fault f: at":                  func(l *teaching.Library) { l.Techniques[0].Faults[0].Checkpoint = "z" },
		"fault f: severity":            func(l *teaching.Library) { l.Techniques[0].Faults[0].Severity = 4 },
		`fault fb: name: "f" already`:  func(l *teaching.Library) { l.Techniques[0].Faults[1].Aliases = []string{"f"} },
		"drill low: trains":            func(l *teaching.Library) { l.Drills[0].Trains = []string{"z"} },
		"drill low: works_on":          func(l *teaching.Library) { l.Drills[0].WorksOn = []string{"z"} },
		"drill low: cautions":          func(l *teaching.Library) { l.Drills[0].Cautions = " " },
		"drill low: contact":           func(l *teaching.Library) { l.Drills[0].Contact = "hard" },
		"drill high: help_contact":     func(l *teaching.Library) { l.Drills[1].HelpContact = "live" },
		"drill low: minutes":           func(l *teaching.Library) { l.Drills[0].Minutes = 2 },
		"drill low: rep_seconds: 12 s": func(l *teaching.Library) { l.Drills[0].RepSeconds = 12 },
		"drill low: key":               func(l *teaching.Library) { l.Drills[0].Key = "Low One" },
		"drill low: setup.things":      func(l *teaching.Library) { l.Drills[0].Setup.Things = []teaching.Thing{{Is: "horse"}} },
		"shows nobody working":         func(l *teaching.Library) { l.Drills[0].Setup.Things = []teaching.Thing{{Is: "cone"}} },
		"drill low: setup.ways": func(l *teaching.Library) {
			l.Drills[0].Setup = teaching.Setup{Things: []teaching.Thing{{Is: "worker"}}, Ways: []teaching.Way{{Is: "fly"}}}
		},
		"ladder l: stages[0].drills": func(l *teaching.Library) { l.Ladders[0].Stages[0].Drills = []string{"z"} },
		"ladder l: stages[0].kind":   func(l *teaching.Library) { l.Ladders[0].Stages[0].Kind = "z" },
		"ladder l: stages[0].clean":  func(l *teaching.Library) { l.Ladders[0].Stages[0].Clean = 9 },
		"question q: house":          func(l *teaching.Library) { l.Questions[0].House = "z" },
		"question q: why":            func(l *teaching.Library) { l.Questions[0].Why = "" },
	} {
		l := library()
		change(l)
		text := ""
		for _, issue := range l.Link().Check() {
			text += issue.Error() + "\n"
		}
		if want == "drill low: key" {
			want = "drill Low One: key"
		}
		assert.Contains(t, text, want)
	}
}

func TestRulesTellWhatIsMissing(t *testing.T) {
	l := library().Resolve()
	l.Drills[0].Alone = "Those who fail do burpees"
	text := ""
	for _, issue := range l.Rules() {
		text += issue.Error() + "\n"
	}
	for _, want := range []string{"4 to 8 checkpoints", "ends against the look", "nothing to draw", "exercise is no punishment", "self_check: must not be empty"} {
		assert.Contains(t, text, want)
	}
}

func TestExceptNamesTheField(t *testing.T) {
	least := 2.0
	m := teaching.Measure{Unit: "yd", Read: "cone", Target: 5, OK: teaching.Band{Low: 4, High: 6}, Watch: teaching.Band{Low: 3, High: 7}, Min: &least}
	for field, x := range map[string]teaching.Exception{
		"ok":    {OK: teaching.Band{Low: 6, High: 4}, Watch: teaching.Band{Low: 3, High: 7}},
		"watch": {OK: teaching.Band{Low: 4, High: 6}, Watch: teaching.Band{Low: 5, High: 7}},
		"min":   {OK: teaching.Band{Low: 4, High: 6}, Watch: teaching.Band{Low: 1, High: 7}},
	} {
		_, err := m.Except(x)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

// TestLadderRules breaks one rule of a ladder at a time.
func TestLadderRules(t *testing.T) {
	sound := func() *teaching.Library {
		l := library()
		st := func(kind, drill string) teaching.Stage {
			s := teaching.Stage{Key: kind, Name: kind, Kind: kind, Window: 2, Clean: 1, FromWeek: 2}
			if drill != "" {
				s.Drills = []string{drill}
			}
			return s
		}
		l.Ladders[0].Stages = []teaching.Stage{st(teaching.Bag, "low"), st(teaching.Look, "high"), st(teaching.Group, "onlyb"), st(teaching.Game, "")}
		return l
	}
	for _, c := range []struct {
		name  string
		spoil func(*teaching.Library)
		field string // empty: sound
	}{
		{"sound", func(*teaching.Library) {}, ""},
		{"no stage before the look", func(l *teaching.Library) { l.Ladders[0].Stages = l.Ladders[0].Stages[1:] }, "stages"},
		{"group before the look", func(l *teaching.Library) {
			s := l.Ladders[0].Stages
			s[1], s[2] = s[2], s[1]
		}, "stages"},
		{"a freeze without a limit", func(l *teaching.Library) { l.Ladders[0].Stages[0].Kind = teaching.Freeze }, "stages[0].max_sessions"},
		{"opens before the stage under it", func(l *teaching.Library) { l.Ladders[0].Stages[2].FromWeek = 1 }, "stages[2].from_week"},
		{"a drill twice", func(l *teaching.Library) { l.Ladders[0].Stages[2].Drills = []string{"low"} }, "stages[2].drills"},
		{"contact without cautions", func(l *teaching.Library) {
			l.Drills[1].Cautions = ""
			l.Link()
		}, "stages[1].drills"},
	} {
		l := sound()
		c.spoil(l)
		var fields []string
		for _, issue := range l.Rules() {
			if issue.Kind == "ladder" {
				fields = append(fields, issue.Field)
			}
		}
		if c.field == "" {
			assert.Empty(t, fields, c.name)
			continue
		}
		assert.Contains(t, fields, c.field, c.name)
	}
}
