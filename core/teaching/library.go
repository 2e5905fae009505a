package teaching

// Checkpoint is one observable criterion of a technique, in time order through the rep.
type Checkpoint struct {
	Key   string
	Phase string // stance, first step, second step, contact, drive, finish …
	Name  string
	Cue   string // what the coach says, in a few words
}

// Fault is a named observable error at a checkpoint.
type Fault struct {
	Key        string
	Name       string
	Checkpoint string // key of the technique's checkpoint
	Effect     string // what it causes, in a sentence
	Severity   int    // 1–3
	Safety     bool   // the head or back of a player is at risk: outranks the rest
}

// Technique is a named, teachable action.
type Technique struct {
	Key         string
	Name        string
	Aliases     []string
	Group       string // key of the position group
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
	Group        string
	Technique    string   // key of the technique it is marked as
	Trains       []string // checkpoint keys of that technique
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
	Equipment    string
	Space        Space
	CoachAt      string // where the coach stands
	Watch        string // what he watches from there
	SelfCheck    string // how the fault shows without a coach
	Alone        string // how to run it with one coach
	Game         string // the situation in which it must show up
	Cautions     string
	Conditioning bool // reps longer than a play are meant
}

// Stage is a step of a ladder with its gate; see package ladder for the rule.
type Stage struct {
	Key         string
	Name        string
	Drills      []string
	Game        bool // passed in games, not in a drill
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

// Library is everything a staff teaches.
type Library struct {
	Techniques []Technique
	Drills     []Drill
	Ladders    []Ladder
}

// Technique returns the technique of the given key.
func (l *Library) Technique(key string) (Technique, bool) {
	for _, t := range l.Techniques {
		if t.Key == key {
			return t, true
		}
	}
	return Technique{}, false
}

// Drill returns the drill of the given key.
func (l *Library) Drill(key string) (Drill, bool) {
	for _, d := range l.Drills {
		if d.Key == key {
			return d, true
		}
	}
	return Drill{}, false
}

// Fault returns the fault of the given key and the technique it belongs to.
func (l *Library) Fault(key string) (Fault, Technique, bool) {
	for _, t := range l.Techniques {
		for _, f := range t.Faults {
			if f.Key == key {
				return f, t, true
			}
		}
	}
	return Fault{}, Technique{}, false
}

// LadderOf returns the ladder of a technique.
func (l *Library) LadderOf(technique string) (Ladder, bool) {
	for _, ld := range l.Ladders {
		if ld.Technique == technique {
			return ld, true
		}
	}
	return Ladder{}, false
}

// ForGroup returns the part of the library that belongs to a position group.
func (l *Library) ForGroup(group string) Library {
	var out Library
	for _, t := range l.Techniques {
		if t.Group != group {
			continue
		}
		out.Techniques = append(out.Techniques, t)
		for _, ld := range l.Ladders {
			if ld.Technique == t.Key {
				out.Ladders = append(out.Ladders, ld)
			}
		}
	}
	for _, d := range l.Drills {
		if d.Group == group {
			out.Drills = append(out.Drills, d)
		}
	}
	return out
}

// StageOf returns the ladder and stage a drill stands at: the first stage that
// lists it on the ladder of its technique.
func (l *Library) StageOf(drill Drill) (ladder, stage string, ok bool) {
	ld, found := l.LadderOf(drill.Technique)
	if !found {
		return "", "", false
	}
	for _, s := range ld.Stages {
		for _, k := range s.Drills {
			if k == drill.Key {
				return ld.Key, s.Key, true
			}
		}
	}
	return "", "", false
}

// DrillFor returns the drill to put in against a fault: among those that train it
// away, the one at the highest stage that the group has reached, or the first one
// when no stage is given or none of them stands on the ladder. Reached is the index
// of that stage on the technique's ladder; −1 means not known.
func (l *Library) DrillFor(fault string, reached int) (Drill, bool) {
	var best Drill
	bestAt, found := -2, false
	for _, d := range l.Drills {
		if !contains(d.WorksOn, fault) {
			continue
		}
		at := l.stageIndex(d)
		if reached >= 0 && at > reached {
			at = -1 - at // above the group's stage: better than nothing, worst of all
		}
		if !found || at > bestAt && reached >= 0 {
			best, bestAt, found = d, at, true
		}
	}
	return best, found
}

func (l *Library) stageIndex(d Drill) int {
	ld, ok := l.LadderOf(d.Technique)
	if !ok {
		return -1
	}
	for i, s := range ld.Stages {
		if contains(s.Drills, d.Key) {
			return i
		}
	}
	return -1
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}
