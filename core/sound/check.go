package sound

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/practice"
	"nineyard/core/teaching"
)

// MaxRepSeconds is the longest rep of a drill that is not conditioning: about as
// long as a play.
const MaxRepSeconds = 10

// Issue is something wrong with an entry of a library.
type Issue struct {
	Kind    string // table, technique, checkpoint, fault, drill, ladder or question
	Key     string
	Field   string
	Message string
}

// Entry names the entry: "drill bag_pull".
func (i Issue) Entry() string { return i.Kind + " " + i.Key }

// Error words the issue.
func (i Issue) Error() string { return fmt.Sprintf("%s: %s: %s", i.Entry(), i.Field, i.Message) }

// Check returns everything that cannot be: missing or repeated keys and names,
// dangling references, numbers out of their range, contact without cautions, reps
// longer than a play that are not tagged conditioning.
func Check(l *teaching.Library) []Issue {
	c := checker{library: l, names: map[string]string{}, keys: map[string]bool{}}
	for _, q := range l.Questions {
		c.question(q)
	}
	for _, t := range l.Tables {
		c.table(t)
	}
	for _, t := range l.Techniques {
		c.technique(t)
	}
	for _, f := range l.Shared {
		c.shared(f)
	}
	for _, d := range l.Drills {
		c.drill(d)
	}
	for _, ld := range l.Ladders {
		c.ladder(ld)
	}
	return c.issues
}

type checker struct {
	library   *teaching.Library
	kind, key string            // of the entry at hand
	names     map[string]string // lower-case name → entry
	keys      map[string]bool
	issues    []Issue
}

func (c *checker) fail(field, format string, args ...any) {
	c.issues = append(c.issues, Issue{c.kind, c.key, field, fmt.Sprintf(format, args...)})
}

// failOn reports an invalid.Error with its field below the given one.
func (c *checker) failOn(field string, err error) {
	if e, ok := invalid.As(err); ok {
		if e.Field != "" {
			field += "." + e.Field
		}
		c.fail(field, "%s", e.Message)
	}
}

// open begins an entry: its key and name must be there and be its own. Two entries of
// a kind never share a name, and an alias means one thing only.
func (c *checker) open(kind, key, name string, aliases []string) {
	c.kind, c.key = kind, key
	if !isKey(key) {
		c.fail("key", "a key is made of small letters, digits and underscores, got %q", key)
	}
	if strings.TrimSpace(name) == "" {
		c.fail("name", "the name must not be empty")
	}
	id := kind + " " + key
	if c.keys[id] {
		c.fail("key", "the key is used twice")
	}
	c.keys[id] = true
	for _, term := range append([]string{name}, aliases...) {
		at := kind + ":" + strings.ToLower(strings.TrimSpace(term))
		if other, ok := c.names[at]; ok && other != id {
			c.fail("name", "%q already means %s", term, other)
			continue
		}
		c.names[at] = id
	}
}

func isKey(s string) bool {
	return s != "" && len(s) <= 80 && strings.Trim(s, "abcdefghijklmnopqrstuvwxyz0123456789_") == ""
}

func (c *checker) school(school string) {
	if school == "" {
		return
	}
	question, key, _ := strings.Cut(school, "/")
	for _, q := range c.library.Questions {
		if q.Key == question && slices.ContainsFunc(q.Schools, func(s teaching.School) bool { return s.Key == key }) {
			return
		}
	}
	c.fail("school", "%q is not a school of any question", school)
}

func (c *checker) question(q teaching.Question) {
	c.open("question", q.Key, q.Name, nil)
	if q.Asks == "" {
		c.fail("asks", "must not be empty")
	}
	if len(q.Schools) < 2 {
		c.fail("schools", "a question has two schools or more")
	}
	house := false
	for _, s := range q.Schools {
		if !isKey(s.Key) || s.Name == "" || s.Reason == "" {
			c.fail("schools", "school %q lacks a key, a name or its reason", s.Key)
		}
		house = house || s.Key == q.House
	}
	if !house {
		c.fail("house", "%q is not one of the schools", q.House)
	}
	if strings.TrimSpace(q.Why) == "" {
		c.fail("why", "say why this school is taught here")
	}
	for _, k := range q.Techniques {
		if _, ok := c.library.Technique(k); !ok {
			c.fail("techniques", "%q is not a technique", k)
		}
	}
}

// table looks at what a call decides: each row says its columns, numbers where they have a unit.
func (c *checker) table(t teaching.Table) {
	c.open("table", t.Key, t.Name, nil)
	unit := map[string]bool{}
	for i, x := range t.Columns {
		at := fmt.Sprintf("columns[%d]", i)
		if !isKey(x.Key) {
			c.fail(at+".key", "a key is made of small letters, digits and underscores, got %q", x.Key)
		}
		if _, twice := unit[x.Key]; twice {
			c.fail(at+".key", "the column %q stands twice", x.Key)
		}
		unit[x.Key] = x.Unit != ""
	}
	if len(t.Columns) == 0 || len(t.Rows) == 0 {
		c.fail("rows", "a table has a column and a row at least")
	}
	calls := map[string]bool{}
	for i, r := range t.Rows {
		at := fmt.Sprintf("rows[%d]", i)
		call := strings.ToLower(r.Call + "/" + r.When + "/" + r.Of)
		if strings.TrimSpace(r.Call) == "" || calls[call] {
			c.fail(at+".call", "a row says its own call, and when it holds")
		}
		calls[call] = true
		for k := range r.Numbers {
			if number, ok := unit[k]; !ok || !number {
				c.fail(at+".numbers", "%q is no column with a unit", k)
			}
		}
		for k := range r.Words {
			if number, ok := unit[k]; !ok || number {
				c.fail(at+".words", "%q is no column of words", k)
			}
		}
	}
	if t.Add.Column != "" && !unit[t.Add.Column] {
		c.fail("add.column", "%q is no column with a unit", t.Add.Column)
	}
}

func (c *checker) technique(t teaching.Technique) {
	c.open("technique", t.Key, t.Name, t.Aliases)
	if len(t.Groups) == 0 {
		c.fail("groups", "a technique is taught to at least one position group")
	}
	if t.Summary == "" {
		c.fail("summary", "must not be empty")
	}
	if len(t.Checkpoints) == 0 {
		c.fail("checkpoints", "a technique has checkpoints")
	}
	points := map[string]bool{}
	for _, p := range t.Checkpoints {
		points[p.Key] = true
		c.checkpoint(p)
	}
	for _, f := range t.Faults {
		if !f.Shared { // looked at once, where it stands
			c.fault(f)
			if !points[f.Checkpoint] {
				c.fail("at", "%q is not a checkpoint of its technique", f.Checkpoint)
			}
		}
	}
}

func (c *checker) checkpoint(p teaching.Checkpoint) {
	// Checkpoints of different techniques may share a name, so none is claimed.
	c.open("checkpoint", p.Key, p.Key, nil)
	if p.Name == "" || p.Phase == "" || p.Cue == "" {
		c.fail("name", "a checkpoint has a name, a phase and a cue")
	}
	c.school(p.School)
	if _, ok := c.library.Table(p.Table); p.Table != "" && !ok {
		c.fail("table", "%q is not a table", p.Table)
	}
	switch {
	case p.Measure != nil:
		c.failOn("measure", p.Measure.Check())
		c.from(p.Measure.From, p.Measure.Unit)
	case len(p.Words) < 2 || len(p.Right) == 0:
		c.fail("words", "judged by eye, it needs two words or more and those that are right")
	}
	for _, r := range p.Right {
		if !slices.Contains(p.Words, r) {
			c.fail("right", "%q is not among the words", r)
		}
	}
}

// from looks at what a standard is the difference from.
func (c *checker) from(from, unit string) {
	if from == "" {
		return
	}
	if x, ok := c.library.Column(from); !ok || x.Unit != unit {
		c.fail("measure.from", "%q is no column of a table in %s", from, unit)
	}
}

// shared looks at a fault that belongs to several techniques. It may name checkpoints that a house
// has retired or has not taken in yet: it belongs to those that are there.
func (c *checker) shared(f teaching.Fault) {
	c.fault(f)
	of := map[[2]string]string{} // of a technique and school: the checkpoint
	for _, k := range f.Everywhere {
		p, t, ok := c.library.Checkpoint(k)
		at := [2]string{t.Key, p.School}
		if !ok {
			continue
		}
		if other := of[at]; other != "" {
			c.fail("everywhere", "%q and %q are both of %s: it belongs to one of them", other, k, t.Key)
		}
		of[at] = k
	}
	if len(of) == 0 {
		c.fail("everywhere", "a shared fault belongs to at least one checkpoint")
	}
}

func (c *checker) fault(f teaching.Fault) {
	c.open("fault", f.Key, f.Name, f.Aliases)
	if f.Effect == "" {
		c.fail("effect", "must not be empty")
	}
	if f.Severity < 1 || f.Severity > 3 {
		c.fail("severity", "severity is 1 to 3, got %d", f.Severity)
	}
	c.school(f.School)
}

func (c *checker) drill(d teaching.Drill) {
	c.open("drill", d.Key, d.Name, d.Aliases)
	c.school(d.School)
	if len(d.Trains) == 0 {
		c.fail("trains", "a drill trains at least one checkpoint")
	}
	for _, k := range d.Trains {
		if _, _, ok := c.library.Checkpoint(k); !ok {
			c.fail("trains", "%q is not a checkpoint", k)
		}
	}
	for _, k := range d.WorksOn {
		if _, _, ok := c.library.Fault(k); !ok {
			c.fail("works_on", "%q is not a fault", k)
		}
	}
	contact, err := practice.ParseContact(d.Contact)
	c.failOn("contact", err)
	for i, h := range d.Help {
		at := fmt.Sprintf("help[%d]", i)
		help, err := practice.ParseContact(h.Contact)
		c.failOn(at+".contact", err)
		switch {
		case err == nil && help > contact:
			c.fail(at+".contact", "helping cannot be rougher than working")
		case strings.TrimSpace(h.Role) == "":
			c.fail(at+".role", "say what the helping player does")
		case h.Men < 1 || h.Men > 30:
			c.fail(at+".men", "men must be between 1 and 30, got %d", h.Men)
		}
	}
	if contact > practice.Air && strings.TrimSpace(d.Cautions) == "" {
		c.fail("cautions", "a drill with contact needs its cautions")
	}
	c.drillNumbers(d)
	if len(d.Setup.Things) > 0 {
		if e, ok := invalid.As(checkSetup(d.Setup, d.SpaceYd)); ok {
			c.fail(e.Field, "%s", e.Message)
		}
	}
}

// drillNumbers checks the ranges of a drill's numbers, naming the field.
func (c *checker) drillNumbers(d teaching.Drill) {
	for _, n := range []struct {
		field     string
		v, lo, hi float64
	}{
		{"working", float64(d.Working), 1, 30}, {"help", float64(d.Helping()), 0, 30}, {"feeds", float64(d.Feeds), 0, 50}, {"lanes", float64(d.Lanes), 1, 50},
		{"rep_seconds", d.RepSeconds, 0.5, 120}, {"reset_seconds", d.ResetSeconds, 0, 600}, {"setup_seconds", d.SetupSeconds, 0, 900},
		{"sides", float64(d.Sides), 0, 2}, {"min_minutes", float64(d.MinMinutes), 1, 60}, {"minutes", float64(d.Minutes), float64(max(d.MinMinutes, 1)), 60},
		{"space_yd", d.SpaceYd[0], 1, 120}, {"space_yd", d.SpaceYd[1], 1, 60},
	} {
		if !(n.v >= n.lo && n.v <= n.hi) {
			c.fail(n.field, "%s must be between %v and %v, got %v", n.field, n.lo, n.hi, n.v)
		}
	}
	if d.RepSeconds > MaxRepSeconds && !d.Conditioning {
		c.fail("rep_seconds", "%v s is longer than a play; tag it conditioning", d.RepSeconds)
	}
}

// stageDrills looks at the drills of a stage for all groups or, where one is named, for that.
func (c *checker) stageDrills(at string, drills []string, technique, group string) {
	for _, k := range drills {
		d, ok := c.library.Drill(k)
		switch {
		case !ok:
			c.fail(at, "%q is not a drill", k)
		case !slices.Contains(d.Techniques, technique):
			c.fail(at, "%q trains no checkpoint of %s", k, technique)
		case group != "" && !slices.Contains(d.Groups, group):
			c.fail(at, "%q is no drill of this group", k)
		}
	}
}

func (c *checker) ladder(ld teaching.Ladder) {
	c.open("ladder", ld.Key, ld.Name, nil)
	if _, ok := c.library.Technique(ld.Technique); !ok {
		c.fail("technique", "%q is not a technique", ld.Technique)
	}
	in := ladder.Input{}
	for i, s := range ld.Stages {
		at := fmt.Sprintf("stages[%d]", i)
		in.Stages = append(in.Stages, s.Gate())
		if s.Name == "" || len(s.Drills) == 0 && s.Kind != teaching.Game {
			c.fail(at, "stage %q lacks a name or a drill", s.Key)
		}
		if !slices.Contains(teaching.StageKinds(), s.Kind) {
			c.fail(at+".kind", "a stage is %s, not %q", strings.Join(teaching.StageKinds(), ", "), s.Kind)
		}
		c.stageDrills(at+".drills", s.Drills, ld.Technique, "")
		for _, g := range slices.Sorted(maps.Keys(s.ByGroup)) {
			c.stageDrills(at+".by_group."+g, s.ByGroup[g], ld.Technique, g)
		}
	}
	if _, err := ladder.Of(in); err != nil {
		if e, ok := invalid.As(err); ok {
			c.fail(e.Field, "%s", e.Message)
		}
	}
}
