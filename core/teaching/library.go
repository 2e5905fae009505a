package teaching

import (
	"slices"
	"sort"

	"nineyard/core/ladder"
	"nineyard/core/standard"
)

// Checkpoint is one observable criterion of a technique, in time order through the
// rep. It is either measured or judged by eye with words of its own.
type Checkpoint struct {
	Key     string
	Phase   string // stance, first step, second step, contact, drive, finish …
	Name    string
	Cue     string            // what the coach says, in a few words
	Measure *standard.Measure // nil when it is judged by eye
	Words   []string          // of an eye judgement, in order: too high, right, too low
	Right   []string          // those of Words that pass; two when either answer is right
	School  string            // "question/school" it follows from; empty for everybody
}

// Fault is a named observable error at a checkpoint.
type Fault struct {
	Key        string
	Name       string
	Aliases    []string
	Checkpoint string // key of the technique's checkpoint
	Effect     string // what it causes, in a sentence
	Severity   int    // 1–3
	Safety     bool   // the head or back of a player is at risk: outranks the rest
	School     string
}

// Technique is a named, teachable action.
type Technique struct {
	Key         string
	Name        string
	Aliases     []string
	Groups      []string // keys of the position groups that are taught it, the one whose own it is first
	Summary     string
	Checkpoints []Checkpoint
	Faults      []Fault
}

// Space is the ground one lane of a drill needs, in yards.
type Space struct{ LengthYd, WidthYd float64 }

// Drill is an exercise.
type Drill struct {
	Key          string
	Name         string
	Aliases      []string
	Trains       []string // checkpoint keys; the first names the technique it is marked as
	WorksOn      []string // fault keys it trains away
	Working      int      // players working in each lane
	Helping      int      // players helping in each lane
	Roles        string   // who does what, in a sentence
	Lanes        int      // lanes with the usual equipment
	RepSeconds   float64
	ResetSeconds float64
	SetupSeconds float64
	Sides        int // 2 when done left and right
	Minutes      int // usual length
	MinMinutes   int // below this it is not worth setting up
	Contact      string
	HelpContact  string // contact of the helping role; empty: that of the drill
	Equipment    string
	Space        Space
	Setup        Setup
	CoachAt      string // where the coach stands
	Watch        string // what he watches from there
	SelfCheck    string // how the fault shows without a coach
	Alone        string // how to run it with one coach
	Game         string // the situation in which it must show up
	Cautions     string
	Conditioning bool // reps longer than a play are meant
	School       string

	// Linked from the checkpoints it trains.
	Technique  string   // the technique it is marked as
	Techniques []string // every technique it trains
	Groups     []string
}

// The kinds of a ladder's stages, from feeling the end position to the game.
const (
	Fit     = "fit"
	Freeze  = "freeze"
	Bag     = "bag"
	Partner = "partner"
	Look    = "look"
	Group   = "group"
	Game    = "game"
)

// StageKinds lists them in that order.
func StageKinds() []string { return []string{Fit, Freeze, Bag, Partner, Look, Group, Game} }

// Stage is a step of a ladder as it is taught, with the numbers of its gate; the rule of
// the gate is package ladder's.
type Stage struct {
	Key         string
	Name        string
	Kind        string // one of the stage kinds; a game stage is passed in games
	Drills      []string
	Window      int
	Clean       int
	Sessions    int
	MaxSessions int
	FromWeek    int
}

// Ladder is the ordered stages through which a technique is taught.
type Ladder struct {
	Key       string
	Name      string
	Technique string
	Stages    []Stage
}

// School is one way of teaching where coaches differ, with its reason.
type School struct{ Key, Name, Reason string }

// Question is something on which schools differ. The staff picks the house variant
// and says why.
type Question struct {
	Key        string
	Name       string
	Asks       string
	Techniques []string // those it bears on; empty: the whole staff
	Schools    []School
	House      string // key of the school that holds here
	Why        string
}

// Library is everything a staff teaches.
type Library struct {
	Techniques []Technique
	Drills     []Drill
	Ladders    []Ladder
	Questions  []Question

	techniques map[string]int
	drills     map[string]int
	ladders    map[string]int    // by technique
	owner      map[string]string // checkpoint or fault → technique
	faults     map[string]int    // index in its technique
	points     map[string]int
}

// Link builds what look-ups need, once, after the parts are in place. It returns the
// library. A repeated key keeps its first place; Check reports it.
func (l *Library) Link() *Library {
	l.techniques, l.drills, l.ladders = map[string]int{}, map[string]int{}, map[string]int{}
	l.owner, l.faults, l.points = map[string]string{}, map[string]int{}, map[string]int{}
	put := func(m map[string]int, key string, i int) {
		if _, ok := m[key]; !ok {
			m[key] = i
		}
	}
	for i, t := range l.Techniques {
		put(l.techniques, t.Key, i)
		for j, c := range t.Checkpoints {
			put(l.points, c.Key, j)
			l.owner["checkpoint "+c.Key] = t.Key
		}
		for j, f := range t.Faults {
			put(l.faults, f.Key, j)
			l.owner["fault "+f.Key] = t.Key
		}
	}
	for i := range l.Drills {
		put(l.drills, l.Drills[i].Key, i)
		l.linkDrill(&l.Drills[i])
	}
	for i, x := range l.Ladders {
		put(l.ladders, x.Technique, i)
	}
	return l
}

func (l *Library) linkDrill(d *Drill) {
	d.Technique, d.Techniques, d.Groups = "", nil, nil
	for _, k := range d.Trains {
		t, ok := l.Technique(l.owner["checkpoint "+k])
		if !ok || slices.Contains(d.Techniques, t.Key) {
			continue
		}
		d.Techniques = append(d.Techniques, t.Key)
		for _, g := range t.Groups {
			if !slices.Contains(d.Groups, g) {
				d.Groups = append(d.Groups, g)
			}
		}
	}
	if len(d.Techniques) > 0 {
		d.Technique = d.Techniques[0]
	}
}

// Technique returns the technique of the given key.
func (l *Library) Technique(key string) (Technique, bool) {
	if i, ok := l.techniques[key]; ok {
		return l.Techniques[i], true
	}
	return Technique{}, false
}

// Drill returns the drill of the given key.
func (l *Library) Drill(key string) (Drill, bool) {
	if i, ok := l.drills[key]; ok {
		return l.Drills[i], true
	}
	return Drill{}, false
}

// Fault returns the fault of the given key and the technique it belongs to.
func (l *Library) Fault(key string) (Fault, Technique, bool) {
	t, ok := l.Technique(l.owner["fault "+key])
	if !ok {
		return Fault{}, Technique{}, false
	}
	return t.Faults[l.faults[key]], t, true
}

// Checkpoint returns the checkpoint of the given key and the technique it belongs to.
func (l *Library) Checkpoint(key string) (Checkpoint, Technique, bool) {
	t, ok := l.Technique(l.owner["checkpoint "+key])
	if !ok {
		return Checkpoint{}, Technique{}, false
	}
	return t.Checkpoints[l.points[key]], t, true
}

// LadderOf returns the ladder of a technique.
func (l *Library) LadderOf(technique string) (Ladder, bool) {
	if i, ok := l.ladders[technique]; ok {
		return l.Ladders[i], true
	}
	return Ladder{}, false
}

// Ladder returns the ladder of the given key.
func (l *Library) Ladder(key string) (Ladder, bool) {
	for _, x := range l.Ladders {
		if x.Key == key {
			return x, true
		}
	}
	return Ladder{}, false
}

// Taught reports whether the technique is taught to the group.
func (t Technique) Taught(group string) bool { return slices.Contains(t.Groups, group) }

// ForGroup returns the part of the library that is taught to a position group: what is
// its own first, then what it shares with others.
func (l *Library) ForGroup(group string) *Library {
	out := &Library{}
	for _, t := range l.Techniques {
		if !t.Taught(group) {
			continue
		}
		out.Techniques = append(out.Techniques, t)
		if ld, ok := l.LadderOf(t.Key); ok {
			out.Ladders = append(out.Ladders, ld)
		}
	}
	for _, d := range l.Drills {
		if slices.Contains(d.Groups, group) {
			out.Drills = append(out.Drills, d)
		}
	}
	rank := func(technique string) int {
		t, _ := l.Technique(technique)
		if i := slices.Index(t.Groups, group); i >= 0 {
			return i
		}
		return len(t.Groups)
	}
	sort.SliceStable(out.Techniques, func(i, j int) bool { return rank(out.Techniques[i].Key) < rank(out.Techniques[j].Key) })
	sort.SliceStable(out.Drills, func(i, j int) bool { return rank(out.Drills[i].Technique) < rank(out.Drills[j].Technique) })
	sort.SliceStable(out.Ladders, func(i, j int) bool { return rank(out.Ladders[i].Technique) < rank(out.Ladders[j].Technique) })
	for _, q := range l.Questions {
		if len(q.Techniques) == 0 || slices.ContainsFunc(q.Techniques, func(k string) bool {
			t, ok := l.Technique(k)
			return ok && t.Taught(group)
		}) {
			out.Questions = append(out.Questions, q)
		}
	}
	return out.Link()
}

// Rung is where a drill stands on a ladder.
type Rung struct {
	Ladder Ladder
	Stage  Stage
}

// RungsOf returns every stage of every ladder that lists a drill.
func (l *Library) RungsOf(drill string) []Rung {
	var out []Rung
	for _, ld := range l.Ladders {
		for _, s := range ld.Stages {
			if slices.Contains(s.Drills, drill) {
				out = append(out, Rung{ld, s})
			}
		}
	}
	return out
}

// DrillsFor lists the drills that train a fault away, those that name fewer faults
// first: they spend more of the rep on it.
func (l *Library) DrillsFor(fault string) []Drill {
	var out []Drill
	for _, d := range l.Drills {
		if slices.Contains(d.WorksOn, fault) {
			out = append(out, d)
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return len(out[i].WorksOn) < len(out[j].WorksOn) })
	return out
}

// DrillFor returns the drill to put in against a fault: among those that train it
// away, the one at the highest stage of the fault's ladder that the group has reached,
// or the first one when no stage is given or none of them stands on the ladder.
// Reached is the index of that stage; −1 means not known.
func (l *Library) DrillFor(fault string, reached int) (Drill, bool) {
	_, t, _ := l.Fault(fault)
	ld, _ := l.LadderOf(t.Key)
	var best Drill
	bestAt, found := -1<<30, false
	for _, d := range l.Drills {
		if !slices.Contains(d.WorksOn, fault) {
			continue
		}
		at := ld.StageOf(d.Key)
		if reached >= 0 && at > reached {
			at = -1 - at // above the group's stage: better than nothing, worst of all
		}
		if !found || at > bestAt && reached >= 0 {
			best, bestAt, found = d, at, true
		}
	}
	return best, found
}

// StageOf returns the index of the first stage that lists a drill, or −1.
func (ld Ladder) StageOf(drill string) int {
	return slices.IndexFunc(ld.Stages, func(s Stage) bool { return slices.Contains(s.Drills, drill) })
}

// Gate returns the stage as the arithmetic of package ladder takes it.
func (s Stage) Gate() ladder.Gate {
	return ladder.Gate{Key: s.Key, Window: s.Window, Clean: s.Clean, Sessions: s.Sessions, MaxSessions: s.MaxSessions, FromWeek: s.FromWeek}
}
