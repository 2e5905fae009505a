// Package teachingtest has the small library that the tests of the rules share.
package teachingtest

import "nineyard/core/teaching"

// Library is sound: one technique with two schools, three drills and a ladder.
func Library() *teaching.Library {
	l := &teaching.Library{
		Questions: []teaching.Question{{Key: "q", Name: "Q", Asks: "?", House: "a", Why: "so", Techniques: []string{"t"},
			Schools: []teaching.School{{Key: "a", Name: "A", Reason: "x"}, {Key: "b", Name: "B", Reason: "y"}}}},
		Techniques: []teaching.Technique{{Key: "t", Name: "T", Groups: []string{"ol"}, Summary: "s",
			Checkpoints: []teaching.Checkpoint{
				{Key: "c", Name: "C", Phase: "stance", Cue: "c", Words: []string{"low", "right"}, Right: []string{"right"}},
				{Key: "ca", Name: "CA", Phase: "step", Cue: "c", Words: []string{"no", "yes"}, Right: []string{"yes"}, School: "q/a"},
				{Key: "cb", Name: "CB", Phase: "step", Cue: "c", Words: []string{"no", "yes"}, Right: []string{"yes"}, School: "q/b"}},
			Faults: []teaching.Fault{{Key: "f", Name: "F", Checkpoint: "c", Effect: "e", Severity: 2}, {Key: "fb", Name: "FB", Checkpoint: "cb", Effect: "e", Severity: 1}}}},
		Drills: []teaching.Drill{
			{Key: "low", Name: "Low", Trains: []string{"c", "ca"}, WorksOn: []string{"f", "fb"}, Contact: "bag", Working: 1, Lanes: 2, RepSeconds: 5, ResetSeconds: 20, Sides: 1, Minutes: 4, MinMinutes: 3, SpaceYd: [2]float64{4, 3}, Cautions: "face off the bag"},
			{Key: "high", Name: "High", Trains: []string{"c"}, WorksOn: []string{"f"}, Contact: "control", Working: 1, Help: []teaching.Help{{Role: "watches", Men: 1, Contact: "air"}}, Lanes: 2, RepSeconds: 8, Sides: 2, Minutes: 4, MinMinutes: 3, SpaceYd: [2]float64{4, 3}, Cautions: "stay up"},
			{Key: "onlyb", Name: "Only B", Trains: []string{"cb"}, Contact: "air", Working: 1, Lanes: 2, RepSeconds: 5, Sides: 1, Minutes: 4, MinMinutes: 3, SpaceYd: [2]float64{4, 3}},
		},
		Ladders: []teaching.Ladder{{Key: "l", Name: "L", Technique: "t", Stages: []teaching.Stage{
			{Key: "a", Name: "A", Kind: teaching.Bag, Drills: []string{"low"}, Window: 2, Clean: 1},
			{Key: "b", Name: "B", Kind: teaching.Partner, Drills: []string{"high"}, Window: 2, Clean: 1},
			{Key: "x", Name: "X", Kind: teaching.Look, Drills: []string{"onlyb"}, Window: 2, Clean: 1}}}},
	}
	return l.Link()
}
