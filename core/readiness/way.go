package readiness

import (
	"math"

	"nineyard/core/ladder"
	"nineyard/core/pace"
	"nineyard/core/season"
)

// What the present pace is read from.
const (
	RecentPractices = 6
	RecentDays      = 28
	PriorReps       = 4
)

// Form is what a player has done lately on a ladder, in practice.
type Form struct {
	Clean, Graded int // of the last RecentDays
	Made          int // reps in the last RecentPractices of the group
}

// Add is what two players have done together.
func (f Form) Add(g Form) Form { return Form{f.Clean + g.Clean, f.Graded + g.Graded, f.Made + g.Made} }

// FormOf counts what a player did on a ladder up to the game stage. The last practices of the
// group are those since a day, that day among them.
func FormOf(in ladder.Input, game string, since season.Date) (f Form) {
	for _, r := range in.Reps {
		if r.Stage == game || r.Date > in.AsOf {
			continue
		}
		if r.Date > in.AsOf-RecentDays {
			f.Graded++
			if r.Clean {
				f.Clean++
			}
		}
		if r.Date >= since {
			f.Made++
		}
	}
	return f
}

// Rate is how likely a rep of a player is clean, 0–1: his own share, pulled towards the group's.
// Where the group has made none it is a half: nothing is known.
func Rate(own, group Form) float64 {
	pooled := 0.5
	if group.Graded > 0 {
		pooled = float64(group.Clean) / float64(group.Graded)
	}
	return (float64(own.Clean) + PriorReps*pooled) / float64(own.Graded+PriorReps)
}

// PerPractice is how many reps a practice a player makes at his pace, rounded; 0 when there was
// no practice.
func PerPractice(made, practices int) int {
	if practices < 1 {
		return 0
	}
	return min((2*made+practices)/(2*practices), pace.MaxReps)
}

// Way is what lies before a player on a ladder.
type Way struct {
	Passed      int // stages he has passed, from the first
	Left        []pace.Stage
	SoFar       []pace.Made // what counts at the first of them
	CleanRate   float64
	PerPractice int
}

// WayOf is a player's way to a stage and to all before it. A gate that looks at more reps than
// package pace counts is taken in its proportion.
func WayOf(in ladder.Input, st ladder.Standing, upTo int, rate float64, perPractice int) Way {
	w := Way{CleanRate: rate, PerPractice: perPractice}
	for i, s := range st.Stages[:upTo+1] {
		if s.Passed {
			w.Passed = i + 1
			continue
		}
		stage := pace.Stage{Key: s.Key, Window: s.Window, Clean: s.Clean}
		if s.Window > pace.MaxWindow {
			stage.Window, stage.Clean = pace.MaxWindow, (s.Clean*pace.MaxWindow+s.Window-1)/s.Window
		}
		stage.Sessions = min(max(s.Span, 1), stage.Window)
		if from := in.Stages[i].FromWeek; from > 1 {
			stage.NotBefore = season.WeekStart(in.SeasonStart, from)
		}
		w.Left = append(w.Left, stage)
	}
	if len(w.Left) == 0 || st.Done || w.Left[0].Key != st.Current {
		return w
	}
	for _, r := range st.Counting[max(0, len(st.Counting)-w.Left[0].Window):] {
		if n := len(w.SoFar); n > 0 && w.SoFar[n-1].Date == r.Date {
			w.SoFar[n-1].Clean = append(w.SoFar[n-1].Clean, r.Clean)
			continue
		}
		w.SoFar = append(w.SoFar, pace.Made{Date: r.Date, Clean: []bool{r.Clean}})
	}
	return w
}

// Track is how likely a player has passed each stage of his way, now and after each practice to
// come.
type Track struct {
	passed int
	after  [][]float64 // by stage that is left, then by practice
}

// Needed is how many more reps a player needs on average to pass a stage of his way and all before
// it; pace.MaxNeeded for as many or more.
func (w Way) Needed(stage int) (sum float64, err error) {
	for i, s := range w.Left[:max(0, stage+1-w.Passed)] {
		var soFar []pace.Made
		if i == 0 {
			soFar = w.SoFar
		}
		n, err := pace.Needed(s, soFar, w.CleanRate)
		if err != nil {
			return 0, err
		}
		sum = math.Min(sum+n, pace.MaxNeeded)
	}
	return sum, nil
}

// ahead makes a player's practices of their days. Those on days whose reps count already are over
// for him.
func (w Way) ahead(days []season.Date, reps int) (over int, list []pace.Session) {
	for _, d := range days {
		if n := len(w.SoFar); n > 0 && d <= w.SoFar[n-1].Date {
			over++
			continue
		}
		if len(list) < pace.MaxSessions {
			list = append(list, pace.Session{Date: d, Reps: reps})
		}
	}
	return over, list
}

// Track follows a player through the practices on these days, in order; of more than
// pace.MaxSessions the first. It returns what pace.Of returns for a gate that cannot be.
func (w Way) Track(days []season.Date) (Track, error) {
	t := Track{passed: w.Passed}
	over, sessions := w.ahead(days, w.PerPractice)
	if len(w.Left) == 0 || len(sessions) == 0 || w.PerPractice == 0 { // no reps, no pass
		return t, nil
	}
	f, err := pace.Of(pace.Input{Stages: w.Left, SoFar: w.SoFar, CleanRate: w.CleanRate, Sessions: sessions})
	if err != nil {
		return t, err
	}
	for _, passed := range f.Passed {
		t.after = append(t.after, append(make([]float64, over), passed...))
	}
	return t, nil
}

// At is how likely he has passed a stage after so many practices: 0 for now. Beyond what was
// followed it is what it was at the end.
func (t Track) At(stage, practices int) float64 {
	switch {
	case stage < t.passed:
		return 1
	case stage-t.passed >= len(t.after) || practices < 1:
		return 0
	}
	list := t.after[stage-t.passed]
	return list[min(practices, len(list))-1]
}

// Has reports whether he has passed a stage already.
func (t Track) Has(stage int) bool { return stage < t.passed }

// Enough is how many reps a practice would have him pass all of his way by the last of these
// practices with the probability Likely; false when not even pace.MaxReps would.
func (w Way) Enough(days []season.Date) (reps int, ok bool, err error) {
	if len(w.Left) == 0 {
		return 0, true, nil
	}
	// More reps a practice are never worse: the search halves.
	low, high := 1, pace.MaxReps+1
	for low < high {
		mid := (low + high) / 2
		_, sessions := w.ahead(days, mid)
		likely := false
		if len(sessions) > 0 {
			f, err := pace.Of(pace.Input{Stages: w.Left, SoFar: w.SoFar, CleanRate: w.CleanRate, Sessions: sessions})
			if err != nil {
				return 0, false, err
			}
			likely = f.Likely != nil
		}
		if likely {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low, low <= pace.MaxReps, nil
}
