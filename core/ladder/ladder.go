package ladder

import (
	"cmp"
	"fmt"
	"slices"
	"sort"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

// Gate is what passes one stage of a ladder.
type Gate struct {
	Key         string
	Window      int // the last reps looked at, ≥ 1
	Clean       int // clean ones needed among them, 1–Window
	Sessions    int // distinct dates they must span, ≥ 1; zero means 1
	MaxSessions int // more dates than this overexpose (freeze stages); zero means no limit
	FromWeek    int // first season week in which the stage is open; zero means 1
	// Head is how many of the last counting reps must show no head fault, beside what the gate asks; those there are when
	// there are fewer. It is the same for a returning player. Zero means no such condition.
	Head int
	// Lapses is set for a stage that stops the rep: once he has met it on MaxSessions dates it blocks nobody, since
	// repeating it is worse than not having passed it.
	Lapses bool
	Closed bool        // what must be passed before it, on other ladders, is not
	Opens  season.Date // nothing counts before it: the day on which that was passed; zero means the season's first day
}

// Rep is one repetition at a stage.
type Rep struct {
	Date  season.Date
	Stage string
	Clean bool
	Head  bool // a head fault was shown on its day at this technique
}

// Override is a coach's word that a stage is passed, whatever the gate says. Counting
// reps at the next stage are those from its day on. A word that stands
// before the pass of an earlier stage, because a mark there was corrected since (see Unpassed),
// is set aside while that stage is not passed, and then holds from the day on which it was.
type Override struct {
	Stage string
	On    season.Date
}

// Input is a player's season on one ladder.
type Input struct {
	AsOf        season.Date
	SeasonStart season.Date
	Returning   bool // he played here last season
	Stages      []Gate
	Reps        []Rep // any order; ties of date keep the order given
	Overrides   []Override
}

// Status of the current stage.
type Status string

// The states of a current stage.
const (
	Waiting  Status = "waiting"   // the stage before is passed, its week has not come
	Working  Status = "working"   // being worked on
	Closed   Status = "closed"    // something on another ladder must be passed first
	StepBack Status = "step_back" // fewer than half of the last reps clean: return to the stage before
)

// StageStanding is a player's record at one stage.
type StageStanding struct {
	Key string
	// Reps, RecentReps, RecentClean and Sessions count all reps at the stage
	// inside the season, exposure included; recent means the last window.
	Reps, RecentReps, RecentClean, Sessions int
	// Window, Clean and Span are the gate as it applies to this player: Clean of the last Window
	// counting reps, made on Span dates.
	Window, Clean, Span int
	PassedOn            season.Date // meaningful when Passed
	Passed              bool
	Overridden          bool // passed on a coach's word and not by the gate
	Lapsed              bool // its days are over, and it blocks no longer
	HeadLeft            int  // counting reps that must still show no head fault; zero when the condition is met
	Open                bool // the stage before is passed and the week has come
}

// Standing is where the player is.
type Standing struct {
	Current     string // empty when Done
	Done        bool
	Status      Status // empty when Done
	Week        int    // season week of AsOf
	Stages      []StageStanding
	Overexposed []string // stages met on more dates than their limit
	// Counting are the last reps that count at the current stage, at most a window of them, in
	// order.
	Counting []Rep
}

// Of returns the standing. It returns an invalid.Error when the ladder has no
// stages, a key is empty or repeated, a gate is out of range or a rep names an
// unknown stage.
func Of(in Input) (Standing, error) {
	index, err := check(in)
	if err != nil {
		return Standing{}, err
	}
	reps := inSeason(in)
	made := byStage(reps, index)
	out := Standing{Week: season.Week(in.SeasonStart, in.AsOf), Overexposed: []string{}}

	from := 0                // first rep, in order, that may count at the stage at hand
	before := in.SeasonStart // the day on which the stage before was passed
	reached := true          // the stage before is passed
	var current window       // the last counting reps of the current stage
	var currentAt = -1       // its index
	for i, declared := range in.Stages {
		g := gate(declared, in.Returning)
		st := exposure(reps, made[i], g)
		st.Open = reached && out.Week >= g.FromWeek && !g.Closed
		if reached {
			counting, left, at := walk(reps, made[i], from, g, in.SeasonStart)
			on, overridden := in.override(declared.Key)
			on = max(on, before)
			over, lapsed := lapse(reps, made[i], g, in.AsOf)
			over = max(over, before)
			lapsed = lapsed && !(overridden && on <= over)
			switch {
			case at >= 0 && !(overridden && on < reps[at].Date) && !(lapsed && over < reps[at].Date):
				st.Passed, st.PassedOn = true, reps[at].Date
				from = at + 1
			case lapsed:
				st.Passed, st.PassedOn, st.Lapsed = true, over, true
				for from < len(reps) && reps[from].Date <= over {
					from++
				}
			case overridden:
				st.Passed, st.PassedOn, st.Overridden = true, on, true
				for from < len(reps) && reps[from].Date < on {
					from++
				}
			default:
				st.HeadLeft = left
				reached, current, currentAt = false, counting, i
			}
			before = st.PassedOn
		}
		if declared.MaxSessions > 0 && st.Sessions > declared.MaxSessions {
			out.Overexposed = append(out.Overexposed, declared.Key)
		}
		out.Stages = append(out.Stages, st)
	}
	if currentAt < 0 {
		out.Done = true
		return out, nil
	}
	out.Current = in.Stages[currentAt].Key
	for _, at := range current.made[current.first:current.next] {
		out.Counting = append(out.Counting, reps[at])
	}
	out.Status = status(gate(in.Stages[currentAt], in.Returning), currentAt, current, out.Week)
	return out, nil
}

// Unpassed says what stands in the way of a coach's word: the first stage before the one it is
// for that is not passed on its day, or is passed on a later day alone. It is empty when the
// word may be given. It returns an invalid.Error on "stage" for a stage that the ladder does not
// have, on "on" for a day before the season, and what Of returns.
func Unpassed(in Input, o Override) (stage string, err error) {
	if o.On < in.SeasonStart {
		return "", invalid.Field("on", "the season begins on %s", in.SeasonStart)
	}
	in.AsOf = o.On
	standing, err := Of(in)
	if err != nil {
		return "", err
	}
	for _, st := range standing.Stages {
		switch {
		case st.Key == o.Stage:
			return stage, nil
		case !st.Passed && stage == "":
			stage = st.Key
		}
	}
	return "", invalid.Field("stage", "%q is not a stage of the ladder", o.Stage)
}

// override returns the first day on which a coach let the stage pass, inside the season
// and not after AsOf.
func (in Input) override(stage string) (season.Date, bool) {
	var day season.Date
	found := false
	for _, o := range in.Overrides {
		if o.Stage == stage && o.On >= in.SeasonStart && o.On <= in.AsOf && (!found || o.On < day) {
			day, found = o.On, true
		}
	}
	return day, found
}

// gate fills in the defaults and lightens the gate for a returning player:
// window' = ⌈window/2⌉, clean' = ⌈clean·window'/window⌉, one session.
func gate(s Gate, returning bool) Gate {
	s.Sessions = max(s.Sessions, 1)
	s.FromWeek = max(s.FromWeek, 1)
	if returning {
		half := (s.Window + 1) / 2
		s.Clean = (s.Clean*half + s.Window - 1) / s.Window
		s.Window = half
		s.Sessions = 1
	}
	return s
}

// inSeason returns the reps from the season's first day to AsOf, in date order.
func inSeason(in Input) []Rep {
	reps := make([]Rep, 0, len(in.Reps))
	for _, r := range in.Reps {
		if r.Date >= in.SeasonStart && r.Date <= in.AsOf {
			reps = append(reps, r)
		}
	}
	slices.SortStableFunc(reps, func(a, b Rep) int { return cmp.Compare(a.Date, b.Date) })
	return reps
}

// byStage lists, for each stage, the places of its reps in the order of the season.
func byStage(reps []Rep, index map[string]int) [][]int {
	made := make([][]int, len(index))
	for at, r := range reps {
		i := index[r.Stage]
		made[i] = append(made[i], at)
	}
	return made
}

// window moves along the reps of a stage and knows of the last ones, up to a length, how many
// are clean and how many dates they span. A step costs the same however long the window is.
type window struct {
	length      int
	reps        []Rep
	made        []int // the places in reps of those it moves along, in date order
	first, next int   // it spans made[first:next]
	clean       int
	heads       int
	dates       int
}

// take moves the window on by one rep.
func (w *window) take() {
	r := w.reps[w.made[w.next]]
	if w.len() == 0 || w.reps[w.made[w.next-1]].Date != r.Date {
		w.dates++
	}
	if r.Clean {
		w.clean++
	}
	if r.Head {
		w.heads++
	}
	w.next++
	if w.len() <= w.length {
		return
	}
	gone := w.reps[w.made[w.first]]
	w.first++
	if gone.Clean {
		w.clean--
	}
	if gone.Head {
		w.heads--
	}
	if w.reps[w.made[w.first]].Date != gone.Date {
		w.dates--
	}
}

func (w *window) len() int { return w.next - w.first }

// walk looks for the rep that passes a stage among its reps, which stand at the places made,
// from the place from on. It returns the window over the counting reps seen, how many more must show no head
// fault, and the place of the passing one, or -1.
func walk(reps []Rep, made []int, from int, g Gate, start season.Date) (w window, headLeft, passed int) {
	opens := max(season.WeekStart(start, g.FromWeek), g.Opens)
	counting := made[sort.Search(len(made), func(i int) bool { return made[i] >= from && reps[made[i]].Date >= opens }):]
	if g.Closed {
		counting = nil
	}
	w = window{length: g.Window, reps: reps, made: counting}
	head := window{length: g.Head, reps: reps, made: counting}
	since := 0 // reps since a head fault
	for _, at := range counting {
		w.take()
		if g.Head > 0 {
			head.take()
			since++
			if reps[at].Head {
				since = 0
			}
		}
		if w.clean >= g.Clean && w.dates >= g.Sessions && head.heads == 0 {
			return w, 0, at
		}
	}
	if head.heads > 0 {
		headLeft = g.Head - since
	}
	return w, headLeft, -1
}

// lapse returns the last of the days that a stage which lapses is met on, when it is over.
func lapse(reps []Rep, made []int, g Gate, asOf season.Date) (season.Date, bool) {
	if !g.Lapses || g.MaxSessions < 1 {
		return 0, false
	}
	dates := 0
	for i, at := range made {
		if i == 0 || reps[at].Date != reps[made[i-1]].Date {
			dates++
		}
		if dates == g.MaxSessions {
			return reps[at].Date, reps[at].Date < asOf
		}
	}
	return 0, false
}

// exposure counts all reps at a stage inside the season.
func exposure(reps []Rep, made []int, g Gate) StageStanding {
	w := window{length: g.Window, reps: reps, made: made}
	sessions := 0
	for i, at := range made {
		if i == 0 || reps[at].Date != reps[made[i-1]].Date {
			sessions++
		}
		w.take()
	}
	return StageStanding{Key: g.Key, Reps: len(made), RecentReps: w.len(), RecentClean: w.clean,
		Sessions: sessions, Window: g.Window, Clean: g.Clean, Span: g.Sessions}
}

func status(g Gate, i int, counting window, week int) Status {
	switch {
	case week < g.FromWeek:
		return Waiting
	case g.Closed:
		return Closed
	}
	if n := counting.len(); i > 0 && n >= g.Window && 2*counting.clean < n {
		return StepBack
	}
	return Working
}

func check(in Input) (map[string]int, error) {
	if len(in.Stages) == 0 {
		return nil, invalid.Field("stages", "stages must have at least one stage")
	}
	index := make(map[string]int, len(in.Stages))
	for i, s := range in.Stages {
		path := func(name string) string { return fmt.Sprintf("stages[%d].%s", i, name) }
		if s.Key == "" {
			return nil, invalid.Field(path("key"), "%s must not be empty", path("key"))
		}
		if _, ok := index[s.Key]; ok {
			return nil, invalid.Field(path("key"), "%s repeats the key %q", path("key"), s.Key)
		}
		index[s.Key] = i
		for _, r := range []struct {
			name      string
			v, lo, hi int
		}{
			{"window", s.Window, 1, 1000},
			{"clean", s.Clean, 1, max(s.Window, 1)},
			{"sessions", s.Sessions, 0, 1000},
			{"max_sessions", s.MaxSessions, 0, 1000},
			{"from_week", s.FromWeek, 0, 60},
			{"head", s.Head, 0, 1000},
		} {
			if r.v < r.lo || r.v > r.hi { // the path is worded only when it is needed: boards check hundreds of ladders
				return nil, invalid.IntRange(path(r.name), r.v, r.lo, r.hi)
			}
		}
	}
	for i, o := range in.Overrides {
		if _, ok := index[o.Stage]; !ok {
			return nil, invalid.Field(fmt.Sprintf("overrides[%d].stage", i), "overrides[%d].stage %q is not a stage of the ladder", i, o.Stage)
		}
	}
	for i, r := range in.Reps {
		if _, ok := index[r.Stage]; !ok {
			return nil, invalid.Field(fmt.Sprintf("reps[%d].stage", i), "reps[%d].stage %q is not a stage of the ladder", i, r.Stage)
		}
	}
	return index, nil
}
