package teaching

import (
	"slices"

	"nineyard/core/ladder"
	"nineyard/core/practice"
)

// How often a technique occurs to a player in a game.
const (
	Every = "every" // 15 times and more
	Often = "often" // 5 to 14
	Some  = "some"  // 1 to 4
	Rare  = "rare"  // less than once
)

// gate is Clean of the last Window on Sessions days or in so many games.
type gate struct{ clean, window, sessions int }

// gates are what passes a stage by how often the technique occurs: what comes up often must be sure, and what comes
// up once in a month cannot be asked for ten times.
var gates = map[string]map[string]gate{
	Every: {Steps: {5, 6, 1}, Bag: {7, 8, 2}, Look: {5, 6, 2}, Group: {6, 8, 2}, Game: {9, 12, 2}},
	Often: {Steps: {5, 6, 1}, Bag: {6, 8, 2}, Look: {5, 6, 1}, Group: {5, 6, 1}, Game: {6, 8, 2}},
	Some:  {Steps: {4, 5, 1}, Bag: {5, 6, 1}, Look: {4, 5, 1}, Group: {4, 5, 1}, Game: {4, 5, 2}},
	Rare:  {Steps: {4, 5, 1}, Bag: {5, 6, 1}, Look: {3, 4, 1}, Group: {3, 4, 1}, Game: {3, 4, 1}},
}

// alike are the kinds of stages that have the gate of another.
var alike = map[string]string{Fit: Steps, Partner: Bag}

// freeze is the gate of a stage that stops the rep: it is there for a day.
var freeze = gate{4, 5, 1}

// HeadReps is how many of a player's last reps at a stage with contact must show no head fault.
const HeadReps = 6

// gateOf is what passes a stage of a kind where its ladder says nothing of its own.
func gateOf(occurs, kind string) gate {
	if kind == Freeze {
		return freeze
	}
	if like, ok := alike[kind]; ok {
		kind = like
	}
	by, ok := gates[occurs]
	if !ok {
		by = gates[Often]
	}
	return by[kind]
}

// linkLadder fills in what the stages of a ladder leave to rules: the numbers of their gates, the head condition where
// there is contact, and the name of a stage, which is that of its first drill.
func (l *Library) linkLadder(ld *Ladder) {
	t, _ := l.Technique(ld.Technique)
	ld.Stages = slices.Clone(ld.Stages)
	for i := range ld.Stages {
		s := &ld.Stages[i]
		if s.Window == 0 && s.Clean == 0 {
			g := gateOf(t.Occurs, s.Kind)
			s.Window, s.Clean = g.window, g.clean
			if s.Sessions == 0 {
				s.Sessions = g.sessions
			}
		}
		for _, k := range s.AllDrills() {
			d, ok := l.Drill(k)
			if !ok {
				continue
			}
			if s.Name == "" {
				s.Name = d.Name
			}
			if c, err := practice.ParseContact(d.Contact); s.Head == 0 && (err != nil || c > practice.Air) {
				s.Head = HeadReps
			}
		}
		if s.Name == "" && s.Kind == Game {
			s.Name = "In the game"
		}
	}
}

// Gate returns the stage as the arithmetic of package ladder takes it.
func (s Stage) Gate() ladder.Gate {
	return ladder.Gate{Key: s.Key, Window: s.Window, Clean: s.Clean, Sessions: s.Sessions, MaxSessions: s.MaxSessions, FromWeek: s.FromWeek,
		Head: s.Head, Lapses: s.Kind == Freeze || s.Kind == Fit}
}
