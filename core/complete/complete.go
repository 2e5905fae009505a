package complete

import (
	"fmt"
	"regexp"
	"strings"

	"nineyard/core/practice"
	"nineyard/core/sound"
	"nineyard/core/teaching"
)

// Check returns what is missing from a library that claims to be complete, beyond
// what package sound refuses: a technique with 4–8 checkpoints and a ladder that ends against
// the look, in the group and in the game; a drill for every fault; drills whose every
// field is filled in; no exercise as punishment; no text that stands twice. A club may
// leave such gaps; it is told of them.
func Check(l *teaching.Library) []sound.Issue {
	r := ruler{library: l, texts: map[string]string{}}
	for _, t := range l.Techniques {
		r.technique(t)
	}
	for _, d := range l.Drills {
		r.drill(d)
	}
	for _, ld := range l.Ladders {
		r.ladder(ld)
	}
	for _, q := range l.Questions {
		r.kind, r.key = "question", q.Key
		r.own("asks", q.Asks)
		for _, s := range q.Schools {
			r.own("schools", s.Reason)
		}
	}
	return r.issues
}

type ruler struct {
	library   *teaching.Library
	kind, key string            // of the entry at hand
	texts     map[string]string // normalised text → where it stands
	issues    []sound.Issue
}

func (r *ruler) fail(field, format string, args ...any) {
	r.issues = append(r.issues, sound.Issue{Kind: r.kind, Key: r.key, Field: field, Message: fmt.Sprintf(format, args...)})
}

// own reports a text that stands somewhere else too.
func (r *ruler) own(field, text string) {
	norm := strings.ToLower(strings.Join(strings.Fields(text), " "))
	if norm == "" {
		r.fail(field, "must not be empty")
		return
	}
	where := r.kind + " " + r.key + ": " + field
	if other, ok := r.texts[norm]; ok && other != where {
		r.fail(field, "the same text stands at %s", other)
		return
	}
	r.texts[norm] = where
}

func (r *ruler) technique(t teaching.Technique) {
	r.kind, r.key = "technique", t.Key
	r.own("summary", t.Summary)
	if n := len(t.Checkpoints); n < 4 || n > 12 {
		r.fail("checkpoints", "a technique has 4 to 12 checkpoints, got %d", n)
	}
	if len(t.Faults) == 0 {
		r.fail("faults", "a technique names at least one fault")
	}
	if _, ok := r.library.LadderOf(t.Key); !ok {
		r.fail("ladder", "no ladder teaches it")
	}
	for _, f := range t.Faults {
		r.kind, r.key = "fault", f.Key
		r.own("effect", f.Effect)
		if len(r.library.DrillsFor(f.Key)) == 0 {
			r.fail("drills", "no drill trains it away")
		}
	}
}

// punishing finds words of exercise as punishment.
var punishing = regexp.MustCompile(`(?i)\b(punish\w*|push-ups?|burpees?|laps|gassers?|up-downs|penalty runs?|losers?)\b`)

func (r *ruler) drill(d teaching.Drill) {
	r.kind, r.key = "drill", d.Key
	for _, x := range []struct{ field, text string }{
		{"roles", d.Roles}, {"coach", d.Coach.Words()}, {"watch", d.Watch}, {"self_check", d.SelfCheck.Text}, {"alone", d.Alone}, {"game", d.Game}, {"cautions", d.Cautions},
	} {
		r.own(x.field, x.text)
		if word := punishing.FindString(x.text); word != "" {
			r.fail(x.field, "exercise is no punishment: %q", word)
		}
	}
	if d.Equipment.Words(d.Lanes) == "" {
		r.fail("equipment", "must not be empty")
	}
	if len(d.Setup.Things) == 0 {
		r.fail("setup", "nothing to draw")
	}
	if n := d.Setup.Count("worker"); n != d.Working {
		r.fail("setup", "%d work in a lane but %d are drawn", d.Working, n)
	}
	if n := d.Setup.Count("helper"); n != d.Helping() {
		r.fail("setup", "%d help in a lane but %d are drawn", d.Helping(), n)
	}
}

func (r *ruler) ladder(ld teaching.Ladder) {
	r.kind, r.key = "ladder", ld.Key
	n := len(ld.Stages)
	if n < 4 || ld.Stages[n-3].Kind != teaching.Look || ld.Stages[n-2].Kind != teaching.Group || ld.Stages[n-1].Kind != teaching.Game {
		r.fail("stages", "a ladder ends against the look, in the group and in the game, after at least one stage before them")
		return
	}
	for i, s := range ld.Stages {
		at := fmt.Sprintf("stages[%d]", i)
		if (s.Kind == teaching.Fit || s.Kind == teaching.Freeze) && s.MaxSessions == 0 {
			r.fail(at+".max_sessions", "%s stops the rep and so teaches stopping: limit its days", s.Name)
		}
		if i > 0 && s.FromWeek < ld.Stages[i-1].FromWeek {
			r.fail(at+".from_week", "%s opens before %s, the stage under it, which opens in week %d", s.Name, ld.Stages[i-1].Name, ld.Stages[i-1].FromWeek)
		}
		for _, k := range s.AllDrills() {
			if ld.StageOf(k) != i {
				r.fail(at+".drills", "%s stands at an earlier stage too, where its reps would count", k)
			}
			d, _ := r.library.Drill(k)
			if c, err := practice.ParseContact(d.Contact); err == nil && c.Collides() && d.Cautions == "" {
				r.fail(at+".drills", "%s has contact and no cautions", k)
			}
		}
	}
}
