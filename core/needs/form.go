package needs

import (
	"sort"

	"nineyard/core/season"
)

// WindowDays is how far back faults are counted, and games looked at, for what hurts most:
// the present form, not the whole season. A day that many days back is outside.
const WindowDays = 28

// Reps is how often a player did a technique on a date.
type Reps struct {
	Player, Technique string
	On                season.Date
	Game              string // key of the game; empty in practice
	Graded            bool   // seen and judged; ungraded reps count as uses of a game only
	N                 int    // ≥ 0
}

// Shown is how often a player showed a fault of a technique on a date.
type Shown struct {
	Player, Technique, Fault string
	On                       season.Date
	CausedBy                 string // the teammate who caused it; empty for the player's own
	N                        int    // ≥ 0
}

// Form is the input of Rank as the last WindowDays before the end of asOf say it, without
// severities and safety, which are the library's.
//
// Exposure and shares come from the games of the window (see Expect). When none was played,
// every technique that was graded has exposure 1 and every player of playing share 1. Only
// players of playing are expected to play: who is out or on hold is left to the caller.
// Every fault seen in the window has a count for everybody who was graded at its technique,
// with or without the fault; a fault caused by a teammate is not the player's own.
func Form(asOf season.Date, reps []Reps, shown []Shown, playing []string) Input {
	recent := func(on season.Date) bool { return on <= asOf && asOf-on < WindowDays }
	type did struct{ player, technique string }
	graded, inGames, games := map[did]int{}, map[did]int{}, map[string]bool{}
	for _, r := range reps {
		if !recent(r.On) {
			continue
		}
		k := did{r.Player, r.Technique}
		if r.Graded {
			graded[k] += r.N
		}
		if r.Game != "" {
			inGames[k] += r.N
			games[r.Game] = true
		}
	}
	var uses []Use
	for k, n := range inGames {
		uses = append(uses, Use{k.player, k.technique, n})
	}
	var in Input
	in.Exposure, in.Players = Expect(uses, len(games))
	if len(in.Players) == 0 {
		in.Exposure = map[string]float64{}
		for k := range graded {
			in.Exposure[k.technique] = 1
		}
		for _, p := range playing {
			in.Players = append(in.Players, Player{p, 1})
		}
		sort.Slice(in.Players, func(i, j int) bool { return in.Players[i].Key < in.Players[j].Key })
	}
	expected := map[string]bool{}
	for _, p := range playing {
		expected[p] = true
	}
	kept := in.Players[:0]
	for _, p := range in.Players {
		if expected[p.Key] {
			kept = append(kept, p)
		}
	}
	in.Players = kept

	type pair struct{ technique, fault string }
	seen, faulty := map[pair]bool{}, map[Count]int{}
	for _, f := range shown {
		if recent(f.On) && f.CausedBy == "" {
			seen[pair{f.Technique, f.Fault}] = true
			faulty[Count{Player: f.Player, Technique: f.Technique, Fault: f.Fault}] += f.N
		}
	}
	for p := range seen {
		for k, n := range graded {
			if k.technique == p.technique {
				c := Count{Player: k.player, Technique: k.technique, Fault: p.fault}
				c.Faulty, c.N = min(faulty[c], n), n
				in.Counts = append(in.Counts, c)
			}
		}
	}
	sort.Slice(in.Counts, func(i, j int) bool {
		x, y := in.Counts[i], in.Counts[j]
		if x.Player != y.Player {
			return x.Player < y.Player
		}
		if x.Technique != y.Technique {
			return x.Technique < y.Technique
		}
		return x.Fault < y.Fault
	})
	return in
}
