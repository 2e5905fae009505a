package quality

import (
	"regexp"
	"slices"
	"strings"

	"nineyard/core/crew"
	"nineyard/core/practice"
	"nineyard/core/school"
	"nineyard/core/teaching"
)

// Budgets of a group's core ladders, in minutes that a new player needs.
const (
	liveMinutes = 150 // look and group, all reps clean
	coreMinutes = 360 // all stages at four clean reps of five
	thudMinutes = 60
)

// season is C13.
func season(l *looker) {
	for _, ld := range l.Ladders {
		t, _ := l.Technique(ld.Technique)
		for _, s := range ld.Stages {
			if d, ok := l.Drill(first(s.Drills)); ok && s.Kind == teaching.Freeze {
				if y := usual(d, groupOf(t)); y.PerPlayer.Min < s.Window {
					l.fail("ladder", ld.Key, "%s gives %d reps on its one day, its gate looks at %d", s.Key, y.PerPlayer.Min, s.Window)
				}
			}
		}
	}
	for _, g := range Groups {
		b := budgetOf(l.Library, g)
		if b.all == 0 {
			l.fail("group", g, "no technique is core")
			continue
		}
		if b.live > liveMinutes {
			l.fail("group", g, "%.0f minutes for look and group of its core ladders", b.live)
		}
		if b.all > coreMinutes {
			l.fail("group", g, "%.0f minutes for all stages of its core ladders", b.all)
		}
		if b.thud > thudMinutes {
			l.fail("group", g, "%.0f minutes of thud", b.thud)
		}
	}
}

// budget is what the core ladders of a group take of its season, in minutes that a new player needs.
type budget struct {
	ladders         int
	live, all, thud float64
}

func budgetOf(lib *teaching.Library, group string) (b budget) {
	for _, ld := range lib.Ladders {
		t, _ := lib.Technique(ld.Technique)
		if groupOf(t) != group || !t.Core {
			continue
		}
		b.ladders++
		for _, s := range ld.Stages {
			b.all += crew.StageMinutes(lib, s, group, crew.CleanShare)
			if live(s) {
				b.live += crew.StageMinutes(lib, s, group, 1)
			}
			if d, ok := lib.Drill(first(s.DrillsOf(group))); ok && d.Contact == practice.Thud.String() {
				b.thud += crew.StageMinutes(lib, s, group, crew.CleanShare)
			}
		}
	}
	return b
}

func (b budget) fits() bool {
	return b.live <= liveMinutes && b.all <= coreMinutes && b.thud <= thudMinutes
}

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}

// contactOrder is C14.
func contactOrder(l *looker) {
	for _, ld := range l.Ladders {
		was, began := practice.Air, false
		fits := slices.ContainsFunc(ld.Stages, func(s teaching.Stage) bool { return s.Kind == teaching.Fit })
		for _, p := range l.placed(ld) {
			c, err := practice.ParseContact(p.drill.Contact)
			if err != nil {
				continue
			}
			switch {
			case !began && c > practice.Bag:
				l.fail("ladder", ld.Key, "begins at %s", p.drill.Contact)
			case began && c > was+1:
				l.fail("ladder", ld.Key, "rises from %s to %s at %s", was, c, p.stage.Key)
			}
			if c > was && was == practice.Air && c >= practice.Bag && !fits && l.headFault(ld.Technique) {
				l.fail("ladder", ld.Key, "its first contact is a strike and it has no fit")
				fits = true
			}
			began, was = true, max(was, c)
		}
	}
}

var stopping = regexp.MustCompile(`(?i)\b(freezes?|stops? (after|on)|holds? (it|still|the fit))\b`)

// stops is C15.
func stops(l *looker) {
	for _, ld := range l.Ladders {
		for _, s := range ld.Stages {
			switch {
			case s.Kind == teaching.Freeze && (s.Sessions != 1 || s.MaxSessions != 1):
				l.fail("ladder", ld.Key, "%s freezes for more than a day", s.Key)
			case s.Kind == teaching.Fit && (s.MaxSessions == 0 || s.MaxSessions > 3):
				l.fail("ladder", ld.Key, "%s is a fit for %d days", s.Key, s.MaxSessions)
			case s.Kind == teaching.Steps && s.MaxSessions != 0:
				l.fail("ladder", ld.Key, "%s are steps, which have no limit", s.Key)
			}
			if s.Kind == teaching.Freeze || s.Kind == teaching.Fit {
				continue
			}
			for _, k := range s.Drills {
				if d, _ := l.Drill(k); stopping.MatchString(d.Roles) {
					l.fail("ladder", ld.Key, "%s stops the rep in %s: “%s”", s.Key, k, stopping.FindString(d.Roles))
				}
			}
		}
	}
}

// prerequisites is C19.
func prerequisites(l *looker) {
	needs := map[string][]string{}
	for _, ld := range l.Ladders {
		before := 0
		for _, s := range ld.Stages {
			if live(s) {
				break
			}
			before++
		}
		if before < 2 {
			l.fail("ladder", ld.Key, "%d stages before the look", before)
		}
		all := slices.Clone(ld.Needs)
		for _, s := range ld.Stages {
			all = append(all, s.Needs...)
		}
		for _, n := range all {
			technique, stage := teaching.Needs(n)
			other, ok := l.LadderOf(technique)
			if !ok || stage != "" && !slices.ContainsFunc(other.Stages, func(s teaching.Stage) bool { return s.Key == stage }) {
				l.fail("ladder", ld.Key, "needs %s, which is not there", n)
			}
			needs[ld.Technique] = append(needs[ld.Technique], technique)
		}
	}
	for _, ld := range l.Ladders {
		if circle(needs, ld.Technique, ld.Technique, map[string]bool{}) {
			l.fail("ladder", ld.Key, "needs itself")
		}
	}
}

func circle(needs map[string][]string, from, to string, seen map[string]bool) bool {
	for _, n := range needs[from] {
		if n == to {
			return true
		}
		if !seen[n] {
			seen[n] = true
			if circle(needs, n, to, seen) {
				return true
			}
		}
	}
	return false
}

// schools is C20. The library is as it is taught, so what another school changes is looked for among all.
func schools(l *looker) {
	for _, q := range l.Questions {
		for _, k := range q.Techniques {
			if !l.bears(q, k) {
				l.fail("question", q.Key, "choosing changes nothing in %s", k)
			}
		}
	}
}

// bears reports whether something of a technique follows from a question.
func (l *looker) bears(q teaching.Question, technique string) bool {
	of := func(s string) bool { return strings.HasPrefix(s, q.Key+"/") }
	t, ok := l.Technique(technique)
	if !ok {
		return false
	}
	if slices.ContainsFunc(t.Checkpoints, func(c teaching.Checkpoint) bool { return of(c.School) }) || slices.ContainsFunc(t.Faults, func(f teaching.Fault) bool { return of(f.School) }) {
		return true
	}
	for k := range t.Summaries {
		if of(k) {
			return true
		}
	}
	return slices.ContainsFunc(l.Drills, func(d teaching.Drill) bool { return of(d.School) && slices.Contains(d.Techniques, technique) })
}

// Everywhere is the house and what it would be with each other school chosen.
func Everywhere(all *teaching.Library) map[string]*teaching.Library {
	out := map[string]*teaching.Library{"": school.Resolve(all)}
	for _, q := range all.Questions {
		for _, s := range q.Schools {
			if s.Key != q.House {
				out[q.Key+"/"+s.Key] = school.Resolve(school.Choose(all, q.Key, s.Key))
			}
		}
	}
	return out
}
