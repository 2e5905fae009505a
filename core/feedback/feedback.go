package feedback

import (
	"cmp"
	"slices"

	"nineyard/core/marks"
	"nineyard/core/term"
)

// What fits: fixes on a sheet, and plays with a point.
const (
	MaxFixes = 2
	MaxPlays = 3
)

// Seen is what is marked of a player on a play.
type Seen struct {
	Player, Play, Technique string
	Number                  int    // of the play
	Look                    string // what he was up against, in the staff's words; empty: not said
	Verdict                 marks.Verdict
	Looked                  bool // it was looked at, not assumed
	Praise                  bool
	Filmed                  bool     // it can be shown
	Faults                  []string // his own
}

// Weight is how a fault weighs.
type Weight struct {
	Severity int // 1–3
	Safety   bool
}

// Best is what he did best.
type Best struct {
	Technique     string
	Clean, Graded int
	Plays         []string
}

// Right is a clean rep to set beside a wrong one.
type Right struct{ Player, Play string }

// Fix is a fault to fix.
type Fix struct {
	Fault, Technique string
	N, Graded        int // times he showed it, of so many graded reps of the technique
	Plays            []string
	Wrong            string // the play of the contrast on which it was wrong; empty without one
	Right            *Right
}

// Sheet is what he is told.
type Sheet struct {
	Best  *Best // nil: nothing of his was graded and clean
	Fixes []Fix
}

// Of composes the sheet of a player out of the marks of his group in a game, his own and his teammates'. A
// fault without a weight has severity 1. The order of the marks does not matter.
func Of(player string, seen []Seen, weights map[string]Weight) Sheet {
	seen = slices.Clone(seen)
	slices.SortStableFunc(seen, func(a, b Seen) int {
		return cmp.Or(cmp.Compare(a.Number, b.Number), cmp.Compare(a.Play, b.Play), cmp.Compare(a.Player, b.Player), cmp.Compare(a.Technique, b.Technique))
	})
	var mine []Seen
	for _, s := range seen {
		if s.Player == player && s.Verdict.Graded {
			mine = append(mine, s)
		}
	}
	return Sheet{Best: best(mine), Fixes: fixes(player, mine, seen, weights)}
}

func best(mine []Seen) *Best {
	type row struct {
		Best
		praised int
	}
	by := map[string]*row{}
	var rows []*row
	for _, s := range mine {
		r, ok := by[s.Technique]
		if !ok {
			r = &row{Best: Best{Technique: s.Technique}}
			by[s.Technique], rows = r, append(rows, r)
		}
		r.Graded++
		if s.Verdict.Clean {
			r.Clean++
			if s.Praise {
				r.praised++
			}
		}
	}
	rows = slices.DeleteFunc(rows, func(r *row) bool { return r.Clean == 0 })
	if len(rows) == 0 {
		return nil
	}
	first := slices.MinFunc(rows, func(a, b *row) int {
		// (clean+1)/(graded+2) compared without dividing
		return cmp.Or(cmp.Compare(b.praised, a.praised), cmp.Compare((b.Clean+1)*(a.Graded+2), (a.Clean+1)*(b.Graded+2)), cmp.Compare(b.Graded, a.Graded), cmp.Compare(a.Technique, b.Technique))
	})
	shown := slices.DeleteFunc(slices.Clone(mine), func(s Seen) bool { return s.Technique != first.Technique || !s.Verdict.Clean })
	slices.SortStableFunc(shown, func(a, b Seen) int { return cmp.Or(unseen(a)-unseen(b), cmp.Compare(worth(a), worth(b))) })
	first.Plays = plays(shown)
	return &first.Best
}

// worth is how well a clean rep is shown: one praised, one looked at, one assumed.
func worth(s Seen) int {
	switch {
	case s.Praise:
		return 0
	case s.Looked:
		return 1
	}
	return 2
}

// unseen puts what can be shown before what cannot.
func unseen(s Seen) int {
	if s.Filmed {
		return 0
	}
	return 1
}

func plays(shown []Seen) (list []string) {
	for _, s := range shown {
		if !slices.Contains(list, s.Play) && len(list) < MaxPlays {
			list = append(list, s.Play)
		}
	}
	return list
}

func fixes(player string, mine, all []Seen, weights map[string]Weight) []Fix {
	graded := map[string]int{}
	by := map[string]*Fix{}
	showing := map[string][]Seen{}
	for _, s := range mine {
		graded[s.Technique]++
		for i, f := range s.Faults {
			if slices.Contains(s.Faults[:i], f) {
				continue
			}
			if by[f] == nil {
				by[f] = &Fix{Fault: f, Technique: s.Technique}
			}
			by[f].N++
			showing[f] = append(showing[f], s)
		}
	}
	list := make([]Fix, 0, len(by))
	for _, f := range by {
		list = append(list, *f)
	}
	weighed := func(f Fix) marks.Weighed {
		w := weights[f.Fault]
		return marks.Weighed{N: f.N, Severity: max(1, w.Severity), Safety: w.Safety}
	}
	slices.SortFunc(list, func(a, b Fix) int {
		switch x, y := weighed(a), weighed(b); {
		case x.Before(y):
			return -1
		case y.Before(x):
			return 1
		}
		return cmp.Compare(a.Fault, b.Fault)
	})
	list = list[:min(MaxFixes, len(list))]
	for i := range list {
		f := &list[i]
		f.Graded = graded[f.Technique]
		slices.SortStableFunc(showing[f.Fault], func(a, b Seen) int { return unseen(a) - unseen(b) })
		f.Plays = plays(showing[f.Fault])
		for _, wrong := range showing[f.Fault] {
			if f.Right = contrast(player, wrong, all); f.Right != nil {
				f.Wrong = wrong.Play
				if !slices.Contains(f.Plays, wrong.Play) {
					f.Plays = append(f.Plays[:MaxPlays-1], wrong.Play)
				}
				break
			}
		}
	}
	return list
}

// contrast finds a clean rep to set beside a wrong one.
func contrast(player string, wrong Seen, all []Seen) *Right {
	var best *Seen
	far := func(s *Seen) int { return max(s.Number-wrong.Number, wrong.Number-s.Number) }
	other := func(s *Seen) int {
		if s.Player == player {
			return 0
		}
		return 1
	}
	for i := range all {
		s := &all[i]
		if !s.Verdict.Graded || !s.Verdict.Clean || s.Technique != wrong.Technique || s.Play == wrong.Play && s.Player == player || s.Look == "" || !term.Same(s.Look, wrong.Look) {
			continue
		}
		if best == nil || cmp.Or(unseen(*s)-unseen(*best), cmp.Compare(other(s), other(best)), cmp.Compare(worth(*s), worth(*best)), cmp.Compare(far(s), far(best))) < 0 {
			best = s
		}
	}
	if best == nil {
		return nil
	}
	return &Right{Player: best.Player, Play: best.Play}
}
