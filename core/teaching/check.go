package teaching

import (
	"fmt"
	"strings"

	"nineyard/core/ladder"
	"nineyard/core/practice"
)

// MaxRepSeconds is the longest rep of a drill that is not conditioning: about as
// long as a play.
const MaxRepSeconds = 10

// Issue is something wrong with an entry of a library.
type Issue struct {
	Entry   string // "drill bag_pull", "technique reach"
	Field   string
	Message string
}

// Error words the issue.
func (i Issue) Error() string { return fmt.Sprintf("%s: %s: %s", i.Entry, i.Field, i.Message) }

// Check returns everything wrong with the library: missing or repeated keys and
// names, faults that no drill trains away, dangling references, reps longer than a
// play, contact without cautions, gates out of range.
func (l *Library) Check() []Issue {
	c := checker{library: l, names: map[string]string{}, keys: map[string]bool{}}
	for _, t := range l.Techniques {
		c.technique(t)
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
	library *Library
	entry   string
	names   map[string]string // lower-case name → entry
	keys    map[string]bool
	issues  []Issue
}

func (c *checker) fail(field, format string, args ...any) {
	c.issues = append(c.issues, Issue{c.entry, field, fmt.Sprintf(format, args...)})
}

func (c *checker) open(kind, key, name string) {
	c.entry = kind + " " + key
	if key == "" || name == "" {
		c.fail("key", "key and name must not be empty")
	}
	if c.keys[c.entry] {
		c.fail("key", "the key is used twice")
	}
	c.keys[c.entry] = true
	id := kind + ":" + strings.ToLower(name)
	if other, ok := c.names[id]; ok {
		c.fail("name", "%q is also the name of %s", name, other)
	}
	c.names[id] = c.entry
}

func (c *checker) technique(t Technique) {
	c.open("technique", t.Key, t.Name)
	if n := len(t.Checkpoints); n < 4 || n > 8 {
		c.fail("checkpoints", "a technique has 4 to 8 checkpoints, got %d", n)
	}
	points := map[string]bool{}
	for _, p := range t.Checkpoints {
		if p.Key == "" || p.Name == "" || p.Phase == "" || points[p.Key] {
			c.fail("checkpoints", "checkpoint %q lacks a key, name or phase, or is repeated", p.Key)
		}
		points[p.Key] = true
	}
	if len(t.Faults) == 0 {
		c.fail("faults", "a technique names at least one fault")
	}
	for _, f := range t.Faults {
		switch {
		case f.Key == "" || f.Name == "" || f.Effect == "":
			c.fail("faults", "fault %q lacks a key, name or effect", f.Key)
		case c.keys["fault "+f.Key]:
			c.fail("faults", "fault key %q is used twice", f.Key)
		case !points[f.Checkpoint]:
			c.fail("faults", "fault %q is at checkpoint %q, which the technique does not have", f.Key, f.Checkpoint)
		case f.Severity < 1 || f.Severity > 3:
			c.fail("faults", "fault %q has severity %d, not 1 to 3", f.Key, f.Severity)
		}
		c.keys["fault "+f.Key] = true
		if _, ok := c.library.DrillFor(f.Key, -1); !ok {
			c.fail("faults", "no drill works on fault %q", f.Key)
		}
	}
}

func (c *checker) drill(d Drill) {
	c.open("drill", d.Key, d.Name)
	t, ok := c.library.Technique(d.Technique)
	if !ok {
		c.fail("technique", "%q is not a technique", d.Technique)
	}
	if len(d.Trains) == 0 {
		c.fail("trains", "a drill trains at least one checkpoint")
	}
	for _, k := range d.Trains {
		if ok && !hasCheckpoint(t, k) {
			c.fail("trains", "%q is not a checkpoint of %s", k, d.Technique)
		}
	}
	for _, k := range d.WorksOn {
		if _, _, ok := c.library.Fault(k); !ok {
			c.fail("works_on", "%q is not a fault", k)
		}
	}
	contact, err := practice.ParseContact(d.Contact)
	if err != nil {
		c.fail("contact", "%s", err)
	}
	for field, text := range map[string]string{"roles": d.Roles, "coach_at": d.CoachAt, "watch": d.Watch,
		"self_check": d.SelfCheck, "alone": d.Alone, "game": d.Game, "equipment": d.Equipment} {
		if text == "" {
			c.fail(field, "must not be empty")
		}
	}
	if contact.Collides() && d.Cautions == "" {
		c.fail("cautions", "a drill with contact needs its cautions")
	}
	if d.RepSeconds > MaxRepSeconds && !d.Conditioning {
		c.fail("rep_seconds", "%v s is longer than a play; tag it conditioning", d.RepSeconds)
	}
	if d.Working < 1 || d.Helping < 0 || d.Lanes < 1 || d.RepSeconds <= 0 || d.ResetSeconds < 0 || d.SetupSeconds < 0 ||
		d.Sides < 1 || d.Sides > 2 || d.MinMinutes < 1 || d.Minutes < d.MinMinutes || d.Space.LengthYd <= 0 || d.Space.WidthYd <= 0 {
		c.fail("working", "working, lanes, seconds, sides, minutes or space out of range")
	}
}

func (c *checker) ladder(ld Ladder) {
	c.open("ladder", ld.Key, ld.Name)
	if _, ok := c.library.Technique(ld.Technique); !ok {
		c.fail("technique", "%q is not a technique", ld.Technique)
	}
	in := ladder.Input{}
	for _, s := range ld.Stages {
		in.Stages = append(in.Stages, s.Gate())
		if s.Name == "" || len(s.Drills) == 0 && !s.Game {
			c.fail("stages", "stage %q lacks a name or a drill", s.Key)
		}
		for _, k := range s.Drills {
			if _, ok := c.library.Drill(k); !ok {
				c.fail("stages", "stage %q: %q is not a drill", s.Key, k)
			}
		}
	}
	if _, err := ladder.Of(in); err != nil {
		c.fail("stages", "%s", err)
	}
}

// Gate returns the stage as the arithmetic of package ladder takes it.
func (s Stage) Gate() ladder.Stage {
	return ladder.Stage{Key: s.Key, Window: s.Window, Clean: s.Clean, Sessions: s.Sessions, MaxSessions: s.MaxSessions, FromWeek: s.FromWeek}
}

func hasCheckpoint(t Technique, key string) bool {
	for _, p := range t.Checkpoints {
		if p.Key == key {
			return true
		}
	}
	return false
}
