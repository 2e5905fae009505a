package sound_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/sound"
	"nineyard/core/standard"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

func TestCheck(t *testing.T) {
	require.Empty(t, sound.Check(teachingtest.Library()))
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
		"drill high: help[0].contact":  func(l *teaching.Library) { l.Drills[1].Help[0].Contact = "live" },
		"drill high: help[0].role":     func(l *teaching.Library) { l.Drills[1].Help[0].Role = " " },
		"drill high: help[0].men":      func(l *teaching.Library) { l.Drills[1].Help[0].Men = 0 },
		"drill low: minutes":           func(l *teaching.Library) { l.Drills[0].Minutes = 2 },
		"drill low: rep_seconds: 12 s": func(l *teaching.Library) { l.Drills[0].RepSeconds = 12 },
		"drill low: key":               func(l *teaching.Library) { l.Drills[0].Key = "Low One" },
		"drill low: setup.things":      func(l *teaching.Library) { l.Drills[0].Setup.Things = []teaching.Thing{{Is: "horse"}} },
		"shows nobody working":         func(l *teaching.Library) { l.Drills[0].Setup.Things = []teaching.Thing{{Is: "cone"}} },
		"drill low: setup.ways": func(l *teaching.Library) {
			l.Drills[0].Setup = teaching.Setup{Things: []teaching.Thing{{Is: "worker"}}, Ways: []teaching.Way{{Is: "fly"}}}
		},
		"table x: columns[1].key: the column":     func(l *teaching.Library) { l.Tables[0].Columns[1].Key = "depth" },
		"table x: rows[0].numbers":                func(l *teaching.Library) { l.Tables[0].Rows[0].Numbers = map[string]float64{"job": 1} },
		"table x: rows[0].words":                  func(l *teaching.Library) { l.Tables[0].Rows[0].Words = map[string]string{"depth": "deep"} },
		"table x: rows[1].call":                   func(l *teaching.Library) { l.Tables[0].Rows[1].Call = "Press" },
		"table x: rows: a table has":              func(l *teaching.Library) { l.Tables[0].Rows = nil },
		"table x: add.column":                     func(l *teaching.Library) { l.Tables[0].Add.Column = "job" },
		`checkpoint c: table: "y" is not a table`: func(l *teaching.Library) { l.Techniques[0].Checkpoints[0].Table = "y" },
		`checkpoint c: measure.from: "x/job" is no`: func(l *teaching.Library) {
			l.Techniques[0].Checkpoints[0].Measure = &standard.Measure{Unit: "yd", Read: "line", From: "x/job"}
		},
		"ladder l: stages[0].drills": func(l *teaching.Library) { l.Ladders[0].Stages[0].Drills = []string{"z"} },
		"ladder l: stages[0].kind":   func(l *teaching.Library) { l.Ladders[0].Stages[0].Kind = "z" },
		"ladder l: stages[0].clean":  func(l *teaching.Library) { l.Ladders[0].Stages[0].Clean = 9 },
		"question q: house":          func(l *teaching.Library) { l.Questions[0].House = "z" },
		"question q: why":            func(l *teaching.Library) { l.Questions[0].Why = "" },
	} {
		l := teachingtest.Library()
		l.Tables = []teaching.Table{{Key: "x", Name: "X", Columns: []teaching.Column{{Key: "depth", Unit: "yd"}, {Key: "job"}},
			Rows: []teaching.Row{{Call: "press", Numbers: map[string]float64{"depth": 1}}, {Call: "off", Words: map[string]string{"job": "drive"}}}}}
		change(l)
		text := ""
		for _, issue := range sound.Check(l.Link()) {
			text += issue.Error() + "\n"
		}
		if want == "drill low: key" {
			want = "drill Low One: key"
		}
		assert.Contains(t, text, want)
	}
}
