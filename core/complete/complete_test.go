package complete_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/complete"
	"nineyard/core/school"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

func TestRulesTellWhatIsMissing(t *testing.T) {
	l := school.Resolve(teachingtest.Library())
	l.Drills[0].Alone = "Those who fail do burpees"
	text := ""
	for _, issue := range complete.Check(l) {
		text += issue.Error() + "\n"
	}
	for _, want := range []string{"4 to 12 checkpoints", "ends against the look", "nothing to draw", "exercise is no punishment", "self_check: must not be empty"} {
		assert.Contains(t, text, want)
	}
}

// TestLadderRules breaks one rule of a ladder at a time.
func TestLadderRules(t *testing.T) {
	sound := func() *teaching.Library {
		l := teachingtest.Library()
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
		for _, issue := range complete.Check(l) {
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
