package teaching

import (
	"slices"
	"strings"
)

// House returns the school that holds for a question, and whether there is such a
// question.
func (l *Library) House(question string) (string, bool) {
	for _, q := range l.Questions {
		if q.Key == question {
			return q.House, true
		}
	}
	return "", false
}

// holds reports whether something that follows from a school holds in this house.
func (l *Library) holds(school string) bool {
	if school == "" {
		return true
	}
	question, key, _ := strings.Cut(school, "/")
	house, ok := l.House(question)
	return !ok || house == key
}

// Choose returns the library as it would be with another school chosen for a question.
func (l *Library) Choose(question, school string) *Library {
	out := *l
	out.Questions = slices.Clone(l.Questions)
	for i := range out.Questions {
		if out.Questions[i].Key == question {
			out.Questions[i].House = school
		}
	}
	return out.Link()
}

// Resolve returns what is taught in this house: what follows from a school that was
// not chosen is left out, and so is everything that only pointed to something that is
// not there: faults of a checkpoint that is gone, a drill that trains nothing any more,
// the stages of a ladder left without a drill.
func (l *Library) Resolve() *Library {
	out := &Library{Questions: l.Questions}
	points, faults, drills := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, t := range l.Techniques {
		t.Checkpoints = keep(t.Checkpoints, func(c Checkpoint) bool { return l.holds(c.School) })
		for _, c := range t.Checkpoints {
			points[c.Key] = true
		}
		t.Faults = keep(t.Faults, func(f Fault) bool { return l.holds(f.School) && points[f.Checkpoint] })
		for _, f := range t.Faults {
			faults[f.Key] = true
		}
		out.Techniques = append(out.Techniques, t)
	}
	for _, d := range l.Drills {
		d.Trains = keep(d.Trains, func(k string) bool { return points[k] })
		d.WorksOn = keep(d.WorksOn, func(k string) bool { return faults[k] })
		if l.holds(d.School) && len(d.Trains) > 0 {
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
			s.Drills = keep(s.Drills, func(k string) bool { return drills[k] })
			if len(s.Drills) > 0 || s.Kind == Game {
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

// KeepTerm returns the aliases of an entry that is renamed: the term it had stays
// findable, the one it gets is no longer an alias.
func KeepTerm(aliases []string, old, name string) []string {
	out := keep(aliases, func(a string) bool { return !strings.EqualFold(a, name) })
	if old == "" || strings.EqualFold(old, name) || slices.ContainsFunc(out, func(a string) bool { return strings.EqualFold(a, old) }) {
		return out
	}
	return append(out, old)
}
