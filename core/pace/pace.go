// Package pace says by when a player will have passed the stages of a ladder, if he goes on as
// he does.
//
// All reps of a session are made at the stage on which he stands when it begins. He passes it at
// the first rep after which the gate of core/ladder holds: the last Window counting reps (with
// fewer: those there are) include Clean clean ones and span Sessions dates. Further reps of that
// session are exposure; counting at the next stage begins with the next session. Reps before a
// stage's NotBefore do not count.
//
// Every rep is clean with the same probability, independently of all others. That is an
// assumption and must be said wherever the answer is shown: days differ, and players learn.
//
// The probabilities are exact. How the reps of a stage fall into sessions is known; open is only
// which of the last Window of them were clean, so that a state is those bits, or the few of them
// that matter. Players who came to the stage at different sessions are one as soon as they have
// made Window reps there.
package pace

import (
	"fmt"
	"math"
	"math/bits"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

// Bounds of a question.
const (
	MaxStages   = 20
	MaxWindow   = 12
	MaxSessions = 40
	MaxReps     = 40 // of a session to come
	MaxSoFar    = 1000
)

// Stage is one that is still to be passed, with the player's own gate.
type Stage struct {
	Key       string
	Window    int         // 1–12 reps looked at
	Clean     int         // of them, 1–Window
	Sessions  int         // dates they span, 1–Window
	NotBefore season.Date // reps of days before do not count; 0 for no such day
}

// Made is a session that is over, with its counting reps at the first stage in order.
type Made struct {
	Date  season.Date
	Clean []bool
}

// Session is one to come.
type Session struct {
	Date season.Date
	Reps int // 0–40
}

// Input is what is asked.
type Input struct {
	Stages    []Stage // in order; the first is the current one
	SoFar     []Made
	CleanRate float64 // 0–1
	Sessions  []Session
}

// Forecast is the answer.
type Forecast struct {
	Passed [][]float64 // by stage and session: the probability that it is passed by its end
	// Median and Likely are the days of the first session by which the last stage is passed
	// with a probability of a half and of nine in ten; nil when there is none.
	Median, Likely *season.Date
}

// Done is the probability that the last stage is passed by the end of each session.
func (f Forecast) Done() []float64 { return f.Passed[len(f.Passed)-1] }

func (in Input) check() error {
	if n := len(in.Stages); n < 1 || n > MaxStages {
		return invalid.Field("stages", "1 to %d stages, got %d", MaxStages, n)
	}
	seen := map[string]bool{}
	for i, s := range in.Stages {
		at := fmt.Sprintf("stages[%d].", i)
		if s.Key == "" || seen[s.Key] {
			return invalid.Field(at+"key", "%skey is empty or there before: %q", at, s.Key)
		}
		seen[s.Key] = true
		if err := invalid.IntRange(at+"window", s.Window, 1, MaxWindow); err != nil {
			return err
		}
		if err := invalid.IntRange(at+"clean", s.Clean, 1, s.Window); err != nil {
			return err
		}
		if err := invalid.IntRange(at+"sessions", s.Sessions, 1, s.Window); err != nil {
			return err
		}
	}
	if !(in.CleanRate >= 0 && in.CleanRate <= 1) {
		return invalid.Field("clean_rate", "clean_rate must be between 0 and 1, got %v", in.CleanRate)
	}
	var last *season.Date
	later := func(path string, d season.Date) error {
		if last != nil && d <= *last {
			return invalid.Field(path, "%s is %s, and %s was before it", path, d, *last)
		}
		last = &d
		return nil
	}
	made := 0
	for i, m := range in.SoFar {
		if err := later(fmt.Sprintf("so_far[%d].date", i), m.Date); err != nil {
			return err
		}
		made += len(m.Clean)
	}
	if made > MaxSoFar {
		return invalid.Field("so_far", "at most %d reps, got %d", MaxSoFar, made)
	}
	if n := len(in.Sessions); n < 1 || n > MaxSessions {
		return invalid.Field("sessions", "1 to %d sessions, got %d", MaxSessions, n)
	}
	for i, s := range in.Sessions {
		at := fmt.Sprintf("sessions[%d].", i)
		if err := later(at+"date", s.Date); err != nil {
			return err
		}
		if err := invalid.IntRange(at+"reps", s.Reps, 0, MaxReps); err != nil {
			return err
		}
	}
	return nil
}

// Of answers. It returns an invalid.Error naming the field for input out of range, and on
// "so_far" when the reps there have passed the first stage already.
func Of(in Input) (Forecast, error) {
	if err := in.check(); err != nil {
		return Forecast{}, err
	}
	n := len(in.Sessions)
	f := Forecast{Passed: make([][]float64, len(in.Stages))}
	arrive := make([]float64, n+1) // the probability that the stage begins at a session
	for i, stage := range in.Stages {
		w := newWalk(stage, in)
		if i == 0 {
			if err := w.soFar(in.SoFar); err != nil {
				return Forecast{}, err
			}
		}
		passed := make([]float64, n)
		next := make([]float64, n+1)
		total := 0.0
		for t := range in.Sessions {
			if i > 0 && arrive[t] > 0 {
				w.begin(arrive[t])
			}
			p := w.session(t)
			total += p
			passed[t], next[t+1] = min(total, 1), p
		}
		f.Passed[i], arrive = passed, next
	}
	f.Median, f.Likely = f.by(in.Sessions, 0.5), f.by(in.Sessions, 0.9)
	return f, nil
}

// tie is how far below its threshold a probability may lie and still have reached it.
const tie = 1e-12

func (f Forecast) by(sessions []Session, p float64) *season.Date {
	for t, done := range f.Done() {
		if done >= p-tie {
			return &sessions[t].Date
		}
	}
	return nil
}

// cohort is everybody who came to the stage at the same session and has not passed: how likely
// each pattern of his latest clean reps is, and in which sessions those reps were made, the latest
// first.
type cohort struct {
	states []state
	dates  []int // of at most Window reps, each the number of its session
}

// state is a pattern of clean reps, the latest in the lowest bit, and how likely it is.
type state struct {
	bits int
	p    float64
}

// walk goes through the sessions at one stage.
type walk struct {
	Stage
	rate     float64
	sessions []Session
	cohorts  []*cohort
	old      *cohort // of those who have made Window reps

	spare []state // for the states of the next rep
	place []int32 // of each pattern among the states that are being made, counted from 1; 0 for none
}

func newWalk(s Stage, in Input) *walk {
	return &walk{Stage: s, rate: in.CleanRate, sessions: in.Sessions, place: make([]int32, 1<<s.Window)}
}

// begin adds those who come to the stage now.
func (w *walk) begin(p float64) { w.cohorts = append(w.cohorts, &cohort{states: []state{{0, p}}}) }

// soFar begins with the reps that are made already.
func (w *walk) soFar(made []Made) error {
	c := &cohort{}
	seen := 0
	for i, m := range made {
		for j, clean := range m.Clean {
			c.dates = append([]int{i - len(made)}, c.dates[:min(len(c.dates), w.Window-1)]...)
			seen = seen << 1 & (1<<w.Window - 1)
			if clean {
				seen |= 1
			}
			if w.spans(c.dates) && bits.OnesCount(uint(seen)) >= w.Clean {
				return invalid.Field("so_far", "so_far has passed the first stage already, with rep %d of %s", j+1, m.Date)
			}
		}
	}
	c.states = []state{{w.matters(seen), 1}}
	if w.cohorts = append(w.cohorts, c); len(c.dates) == w.Window {
		w.cohorts, w.old = nil, c
	}
	return nil
}

// spans reports whether reps made in these sessions span enough dates.
func (w *walk) spans(dates []int) bool {
	n := 0
	for i, d := range dates {
		if i == 0 || d != dates[i-1] {
			n++
		}
	}
	return n >= w.Sessions
}

// session makes the reps of a session and returns how likely it is that the stage is passed in
// it.
func (w *walk) session(t int) (passed float64) {
	s := w.sessions[t]
	if w.NotBefore != 0 && s.Date < w.NotBefore {
		return 0
	}
	for range s.Reps {
		if w.old != nil {
			passed += w.rep(w.old, t)
		}
		young := w.cohorts[:0]
		for _, c := range w.cohorts {
			passed += w.rep(c, t)
			switch {
			case len(c.dates) < w.Window:
				young = append(young, c)
			case w.old == nil:
				w.old = c
			default: // made as many reps, and the last of them in the same sessions
				w.old.states = w.join(w.old.states, c.states)
			}
		}
		w.cohorts = young
	}
	return passed
}

// matters is a pattern without what is behind the fault that keeps him: with Window − Clean + 1 faults
// among the last reps he has not passed, and when the oldest of them leaves the window, all that
// was before it has left. A window of 10 has 176 such patterns instead of 1024.
func (w *walk) matters(pattern int) int {
	faults := ^pattern
	for range w.Window - w.Clean {
		faults &= faults - 1
	}
	return pattern & (faults&-faults - 1)
}

// rep makes one rep and returns the probability that it passes the stage; who passes leaves.
func (w *walk) rep(c *cohort, t int) (passed float64) {
	if len(c.dates) < w.Window {
		c.dates = append(c.dates, 0)
	}
	copy(c.dates[1:], c.dates)
	c.dates[0] = t
	keep, open := 1<<len(c.dates)-1, w.spans(c.dates)
	then := w.spare[:0]
	for _, s := range c.states {
		for clean := range 2 {
			q := s.p * (1 - w.rate)
			if clean == 1 {
				q = s.p * w.rate
			}
			next := (s.bits<<1 | clean) & keep
			switch {
			case q == 0:
			case open && bits.OnesCount(uint(next)) >= w.Clean:
				passed += q
			default:
				then = w.put(then, state{w.matters(next), q})
			}
		}
	}
	w.forget(then)
	w.spare, c.states = c.states, then
	return passed
}

// join adds states to others.
func (w *walk) join(to, more []state) []state {
	for i, s := range to {
		w.place[s.bits] = int32(i + 1)
	}
	for _, s := range more {
		to = w.put(to, s)
	}
	w.forget(to)
	return to
}

// put adds a state to those that are being made.
func (w *walk) put(list []state, s state) []state {
	if at := w.place[s.bits]; at > 0 {
		list[at-1].p += s.p
		return list
	}
	w.place[s.bits] = int32(len(list) + 1)
	return append(list, s)
}

// forget clears the places of states that are made.
func (w *walk) forget(list []state) {
	for _, s := range list {
		w.place[s.bits] = 0
	}
}

// MaxNeeded is the most reps that Needed tells: what takes longer is as good as never.
const MaxNeeded = 400

// Needed is how many more counting reps a player needs on average to pass a stage, given those
// he has made there, if every rep were made on a day of its own: fewer than a practice of
// several reps takes, where the reps after the passing one are exposure. It is at most MaxNeeded,
// which stands for that many or more. It returns what Of returns for a stage or reps out of
// range.
func Needed(stage Stage, soFar []Made, cleanRate float64) (float64, error) {
	stage.NotBefore = 0
	in := Input{Stages: []Stage{stage}, SoFar: soFar, CleanRate: cleanRate, Sessions: []Session{{Date: 1 << 30, Reps: 1}}}
	if err := in.check(); err != nil {
		return 0, err
	}
	w := newWalk(stage, in)
	w.sessions = nil
	if err := w.soFar(soFar); err != nil {
		return 0, err
	}
	needed, left, ratio, stood := 0.0, 1.0, 0.0, 0
	for range MaxNeeded {
		needed += left // the mean is the sum of how likely it is that he is still there
		w.sessions = append(w.sessions, Session{Reps: 1})
		before := left
		if left -= w.session(len(w.sessions) - 1); left < 1e-9 {
			return min(needed, MaxNeeded), nil
		}
		// In the long run a rep leaves the same part of those behind; what is still to come is then
		// a geometric series. It must have done so for a whole window: two reps in a row may by chance.
		was := ratio
		if ratio = left / before; w.old == nil || ratio >= 1 || math.Abs(ratio-was) >= 1e-8*(1-ratio) {
			stood = 0
		} else if stood++; stood >= stage.Window {
			return min(needed+left/(1-ratio), MaxNeeded), nil
		}
	}
	return MaxNeeded, nil
}
