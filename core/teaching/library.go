package teaching

import (
	"maps"
	"slices"
	"sort"
	"strings"

	"nineyard/core/practice"
)

// FaultLinks is what follows for a fault from the library it stands in.
type FaultLinks struct {
	Shared bool // one habit, counted together for a player whatever he does
}

// DrillLinks is what follows for a drill from the checkpoints it trains.
type DrillLinks struct {
	Technique  string   // the technique it is marked as
	Techniques []string // every technique it trains
	Groups     []string
}

// Who starts or feeds the reps of a drill.
const (
	FedByCoach  = "coach"
	FedByHelper = "helper"
	FedByNobody = "nobody"
)

// What a rep of a drill counts for.
const (
	ShowsOne  = "one"
	ShowsEach = "each"
	ShowsCard = "card"
)

// Helping is how many players help in each lane.
func (d Drill) Helping() int {
	n := 0
	for _, h := range d.Help {
		n += h.Men
	}
	return n
}

// Count is how many things of a kind are drawn.
func (s Setup) Count(is string) int {
	n := 0
	for _, t := range s.Things {
		if t.Is == is {
			n++
		}
	}
	return n
}

// The kinds of a ladder's stages, from feeling the end position to the game.
const (
	Fit     = "fit"
	Freeze  = "freeze"
	Steps   = "steps"
	Bag     = "bag"
	Partner = "partner"
	Look    = "look"
	Group   = "group"
	Game    = "game"
)

// StageKinds lists them in that order.
func StageKinds() []string { return []string{Fit, Freeze, Steps, Bag, Partner, Look, Group, Game} }

// Library is everything a staff teaches.
type Library struct {
	Techniques []Technique
	Drills     []Drill
	Ladders    []Ladder
	Questions  []Question
	Tables     []Table
	Shared     []Fault // faults that belong to several techniques; Spread puts them there

	techniques map[string]int
	drills     map[string]int
	ladders    map[string]int    // by technique
	owner      map[string]string // checkpoint or fault → technique
	faults     map[string]int    // index in its technique
	points     map[string]int
	now        map[string]string // of a fault that was folded into another
}

// Spread gives each technique the shared faults that belong to one of its checkpoints, after its own. It is done
// once, before Link, on techniques that have none of them yet; it returns the library.
func (l *Library) Spread() *Library {
	at := map[string]int{}
	for i, t := range l.Techniques {
		for _, c := range t.Checkpoints {
			at[c.Key] = i
		}
	}
	given := map[int]bool{}
	for _, f := range l.Shared {
		for _, point := range f.Everywhere {
			i, ok := at[point]
			if !ok {
				continue // Check reports it
			}
			t := &l.Techniques[i]
			if !given[i] {
				t.Faults, given[i] = slices.Clone(t.Faults), true
			}
			own := f
			own.Technique, own.Checkpoint, own.Shared = t.Key, point, true
			t.Faults = append(t.Faults, own)
		}
	}
	return l
}

// FaultOf returns the fault of the given key as it belongs to a technique.
func (l *Library) FaultOf(technique, key string) (Fault, bool) {
	t, ok := l.Technique(technique)
	if !ok {
		return Fault{}, false
	}
	i := slices.IndexFunc(t.Faults, func(f Fault) bool { return f.Key == key })
	if i < 0 {
		return Fault{}, false
	}
	return t.Faults[i], true
}

// Current is the key under which a fault counts: its own, or that of the one it was folded into.
func (l *Library) Current(fault string) string {
	if now, ok := l.now[fault]; ok {
		return now
	}
	return fault
}

// Head reports whether a fault is a shared one of a head in the wrong place: what stops a player from going up a contact
// level and from passing a stage with contact.
func (f Fault) Head() bool { return f.Shared && f.Safety && slices.Contains(headFaults, f.Key) }

// Most is the highest contact at which a player works while a safety fault stands: a bag, where it does not say another.
func (f Fault) Most() practice.Contact {
	if c, err := practice.ParseContact(f.Hold); f.Hold != "" && err == nil {
		return c
	}
	return practice.Bag
}

// headFaults are the keys of those. They never change.
var headFaults = []string{"head_down", "head_across", "crown_carrier"}

// Needs splits what must be passed first: a technique and, where it names one, a stage of its ladder.
func Needs(step string) (technique, stage string) {
	technique, stage, _ = strings.Cut(step, "/")
	return technique, stage
}

// Table returns the table of the given key.
func (l *Library) Table(key string) (Table, bool) {
	i := slices.IndexFunc(l.Tables, func(t Table) bool { return t.Key == key })
	if i < 0 {
		return Table{}, false
	}
	return l.Tables[i], true
}

// Column returns the column of a table that a standard is the difference from, which is written "table/column".
func (l *Library) Column(from string) (Column, bool) {
	key, column, _ := strings.Cut(from, "/")
	t, _ := l.Table(key)
	i := slices.IndexFunc(t.Columns, func(x Column) bool { return x.Key == column })
	if i < 0 {
		return Column{}, false
	}
	return t.Columns[i], true
}

// Row returns the row that "table/call" names, and its table.
func (l *Library) Row(of string) (Table, Row, bool) {
	key, call, _ := strings.Cut(of, "/")
	t, _ := l.Table(key)
	i := slices.IndexFunc(t.Rows, func(r Row) bool { return r.Call == call })
	if i < 0 {
		return Table{}, Row{}, false
	}
	return t, t.Rows[i], true
}

// Link builds what look-ups need, once, after the parts are in place. It returns the
// library. A repeated key keeps its first place; Check reports it.
func (l *Library) Link() *Library {
	l.techniques, l.drills, l.ladders = map[string]int{}, map[string]int{}, map[string]int{}
	l.owner, l.faults, l.points, l.now = map[string]string{}, map[string]int{}, map[string]int{}, map[string]string{}
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
			for _, was := range f.Was {
				l.now[was] = f.Key
			}
			if _, ok := l.owner["fault "+f.Key]; !ok { // a shared one is found in the first of its techniques
				l.owner["fault "+f.Key] = t.Key
			}
		}
	}
	for i := range l.Drills {
		put(l.drills, l.Drills[i].Key, i)
		l.linkDrill(&l.Drills[i])
	}
	for i, x := range l.Ladders {
		put(l.ladders, x.Technique, i)
		l.linkLadder(&l.Ladders[i])
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
	for _, t := range l.Tables {
		if len(t.Groups) == 0 || slices.Contains(t.Groups, group) {
			out.Tables = append(out.Tables, t)
		}
	}
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
			if slices.Contains(s.AllDrills(), drill) {
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

// StageOf returns the index of the first stage that lists a drill, for whatever group, or −1.
func (ld Ladder) StageOf(drill string) int {
	return slices.IndexFunc(ld.Stages, func(s Stage) bool { return slices.Contains(s.AllDrills(), drill) })
}

// DrillsOf lists the drills in which a group works at the stage: those that stand there for this group, else those for all.
func (s Stage) DrillsOf(group string) []string {
	if own := s.ByGroup[group]; len(own) > 0 {
		return own
	}
	return s.Drills
}

// AllDrills lists every drill of the stage once: those for all groups first, then those of single groups.
func (s Stage) AllDrills() []string {
	if len(s.ByGroup) == 0 {
		return s.Drills
	}
	all := slices.Clone(s.Drills)
	for _, g := range slices.Sorted(maps.Keys(s.ByGroup)) {
		for _, k := range s.ByGroup[g] {
			if !slices.Contains(all, k) {
				all = append(all, k)
			}
		}
	}
	return all
}
