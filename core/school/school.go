package school

import (
	"maps"
	"slices"
	"strings"

	"nineyard/core/teaching"
)

// Chosen returns the school that holds for a question, and whether there is such a
// question.
func Chosen(l *teaching.Library, question string) (string, bool) {
	for _, q := range l.Questions {
		if q.Key == question {
			return q.House, true
		}
	}
	return "", false
}

// holds reports whether something that follows from a school holds here.
func holds(l *teaching.Library, school string) bool {
	if school == "" {
		return true
	}
	question, key, _ := strings.Cut(school, "/")
	chosen, ok := Chosen(l, question)
	return !ok || chosen == key
}

// Choose returns the library as it would be with another school chosen for a question.
func Choose(l *teaching.Library, question, school string) *teaching.Library {
	out := *l
	out.Questions = slices.Clone(l.Questions)
	for i := range out.Questions {
		if out.Questions[i].Key == question {
			out.Questions[i].House = school
		}
	}
	return out.Link()
}

// Resolve returns what is taught here: what follows from a school that was
// not chosen is left out, and so is everything that only pointed to something that is
// not there: faults of a checkpoint that is gone, a drill that trains nothing any more,
// the stages of a ladder left without a drill.
func Resolve(l *teaching.Library) *teaching.Library {
	out := &teaching.Library{Questions: l.Questions, Tables: l.Tables, Shared: keep(l.Shared, func(f teaching.Fault) bool { return holds(l, f.School) })}
	points, faults, drills := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, t := range l.Techniques {
		for _, k := range slices.Sorted(maps.Keys(t.Summaries)) {
			if question, _, ok := strings.Cut(k, "/"); ok && holds(l, k) {
				if _, asked := Chosen(l, question); asked {
					t.Summary = t.Summaries[k]
					break
				}
			}
		}
		t.Checkpoints = keep(t.Checkpoints, func(c teaching.Checkpoint) bool { return holds(l, c.School) })
		for _, c := range t.Checkpoints {
			points[c.Key] = true
		}
		t.Faults = keep(t.Faults, func(f teaching.Fault) bool { return holds(l, f.School) && points[f.Checkpoint] })
		for _, f := range t.Faults {
			faults[f.Key] = true
		}
		out.Techniques = append(out.Techniques, t)
	}
	for i := range out.Shared {
		out.Shared[i].Everywhere = keep(out.Shared[i].Everywhere, func(k string) bool { return points[k] })
	}
	for _, d := range l.Drills {
		d.Trains = keep(d.Trains, func(k string) bool { return points[k] })
		d.WorksOn = keep(d.WorksOn, func(k string) bool { return faults[k] })
		d.SelfCheck.Shows = keep(d.SelfCheck.Shows, func(k string) bool { return faults[k] })
		d.Cards = keep(d.Cards, func(c teaching.Card) bool { return holds(l, c.School) })
		if holds(l, d.School) && len(d.Trains) > 0 {
			drills[d.Key] = true
			out.Drills = append(out.Drills, d)
		}
	}
	for _, ld := range l.Ladders {
		if _, ok := l.Technique(ld.Technique); !ok {
			continue
		}
		stages := ld.Stages
		ld.Stages = nil
		for _, s := range stages {
			left := func(k string) bool { return drills[k] }
			s.Drills = keep(s.Drills, left)
			for g, own := range s.ByGroup {
				if own = keep(own, left); len(own) < len(s.ByGroup[g]) {
					s.ByGroup = maps.Clone(s.ByGroup)
					s.ByGroup[g] = own
				}
			}
			if s.Name == named(l, s) {
				s.Name = "" // it takes that of the drill that is left
			}
			if len(s.Drills) > 0 || s.Kind == teaching.Game {
				ld.Stages = append(ld.Stages, s)
			}
		}
		if len(ld.Stages) > 0 {
			out.Ladders = append(out.Ladders, ld)
		}
	}
	return out.Link()
}

// keep returns the elements that pass, in a slice of its own.
func keep[T any](list []T, pass func(T) bool) []T {
	var out []T
	for _, x := range list {
		if pass(x) {
			out = append(out, x)
		}
	}
	return out
}

// named is what a stage is called by its first drill, among all schools.
func named(l *teaching.Library, s teaching.Stage) string {
	if len(s.Drills) == 0 {
		return ""
	}
	d, _ := l.Drill(s.Drills[0])
	return d.Name
}
