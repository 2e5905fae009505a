package demo

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/growth"
	"nineyard/core/season"
)

// Reps is how many reps of a technique a player did on a day, at one source and to one side,
// however they went.
type Reps struct {
	who       person
	technique string
	on        season.Date
	source    growth.Source
	side      growth.Side
	n         int
}

// Design is who did what on which day in the world, by group: a season whose outcome can be
// drawn again and again.
func (w *World) Design() map[string][]Reps {
	source := map[uuid.UUID]person{}
	for i, p := range w.Players { // in the order of people
		source[p.ID] = people[i]
	}
	practiceOn, periodOn, placeOn := map[uuid.UUID]season.Date{}, map[uuid.UUID]season.Date{}, map[uuid.UUID]season.Date{}
	for _, p := range w.Practices {
		practiceOn[p.ID] = season.Of(p.OnDate)
	}
	for _, e := range w.Periods {
		periodOn[e.ID] = practiceOn[e.PracticeID]
	}
	for _, p := range w.Placements {
		placeOn[p.ID] = periodOn[p.PeriodID]
	}
	gameOn := map[uuid.UUID]season.Date{}
	for _, g := range w.Games {
		gameOn[g.ID] = season.Of(g.OnDate)
	}
	for _, p := range w.Plays {
		placeOn[p.ID] = gameOn[p.GameID]
	}
	counts := map[Reps]int{}
	for _, m := range w.Marks {
		if m.Technique == nil {
			continue // not graded
		}
		r := Reps{who: source[m.PlayerID], technique: m.TechniqueKey}
		if m.PlayID != nil {
			r.source, r.on = growth.Game, placeOn[*m.PlayID]
		} else {
			r.on = placeOn[*m.PlacementID]
		}
		switch {
		case m.Side == nil:
		case *m.Side == "left":
			r.side = growth.Left
		default:
			r.side = growth.Right
		}
		counts[r]++
	}
	design := map[string][]Reps{}
	for r, n := range counts {
		r.n = n
		design[r.who.group] = append(design[r.who.group], r)
	}
	for _, list := range design {
		slices.SortFunc(list, func(a, b Reps) int {
			return cmp.Or(cmp.Compare(a.on, b.on), cmp.Compare(a.who.jersey, b.who.jersey), cmp.Compare(a.technique, b.technique), cmp.Compare(a.source, b.source), cmp.Compare(a.side, b.side))
		})
	}
	return design
}

// Draw draws the outcome of a season of a seed over a design, with the planted truths or
// without: then nobody changes, nobody drops in games more than the others, and no side is
// better. Players go by their jerseys.
func Draw(design []Reps, seed uint64, truths bool) []growth.Row {
	c := &chances{seed: seed, truths: truths, effects: map[effect]float64{}}
	reps := rand.New(rand.NewPCG(seed, 5)) //nolint:gosec // it plays
	rows := make([]growth.Row, len(design))
	for i, r := range design {
		x := growth.Row{Player: r.who.jersey, Technique: r.technique, Date: r.on, Source: r.source, Side: r.side}
		clean := c.clean(r.who, r.technique, r.on, r.source == growth.Game)
		for range r.n {
			if reps.Float64() < clean {
				x.Clean++
			} else {
				x.Faulty++
			}
		}
		rows[i] = x
	}
	return rows
}
