package mark

import (
	"cmp"
	"context"
	"math"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/agreement"
	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/roster/squad"
)

// compared is what two coaches are compared on.
var compared = []string{"assignment", "technique", "finish"}

// Agreement holds what two coaches said of a group in a game side by side: a and b, else the two who made the
// most marks. What the club settled stands beside it.
func (s *Service) Agreement(ctx context.Context, c access.Coach, game uuid.UUID, group string, a, b *uuid.UUID) (contract.Agreement, error) {
	_, h, reels, err := s.filmed(ctx, c, game, group)
	if err != nil {
		return contract.Agreement{}, err
	}
	var graders []Grader
	var players []squad.Player
	var asked []forecast.Asked
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) { graders, err = s.Store.Graders(ctx, game, group); return err },
		func(ctx context.Context) (err error) { players, err = s.Squad.Group(ctx, group, reels.On); return err },
		func(ctx context.Context) (err error) { asked, err = s.Calls.Asked(ctx, c, group); return err })
	if err != nil {
		return contract.Agreement{}, err
	}
	chosen := func(g Grader) int { // who is asked for comes first
		switch {
		case a != nil && g.ID == *a:
			return 0
		case b != nil && g.ID == *b:
			return 1
		}
		return 2
	}
	slices.SortStableFunc(graders, func(x, y Grader) int { return cmp.Compare(chosen(x), chosen(y)) })
	out := contract.Agreement{GameID: reels.ID, Opponent: reels.Opponent, Home: reels.Home, Practice: reels.Practice, Date: reels.On.String(), Group: group, Editable: c.MayWork(group),
		Graders: []contract.Grader{}, Apart: []contract.Apart{}, Techniques: []contract.SheetTechnique{}, Players: []contract.Player{}}
	for _, g := range graders {
		out.Graders = append(out.Graders, contract.Grader{ID: g.ID, Name: g.Name, Marks: g.Marks})
	}
	lists, settled := [2][]record.Detail{}, []record.Detail{}
	if len(graders) >= 2 {
		both, err := s.Store.OfGame(ctx, game, group, graders[0].ID, graders[1].ID, Settled)
		if err != nil {
			return contract.Agreement{}, err
		}
		for _, m := range both {
			switch m.Grader {
			case graders[0].ID:
				lists[0] = append(lists[0], m)
			case graders[1].ID:
				lists[1] = append(lists[1], m)
			default:
				settled = append(settled, m)
			}
		}
	}
	r, err := agreement.Compare(agreement.Nominal, compared, said(lists[0]), said(lists[1]))
	if err != nil {
		return contract.Agreement{}, err
	}
	out.Both, out.Overall, out.Facets = r.Both, alikeView(r.Overall), []contract.Alike{}
	for _, f := range r.Facets {
		out.Facets = append(out.Facets, alikeView(f))
	}
	shown, about := map[string]bool{}, map[uuid.UUID]bool{}
	for _, x := range r.Apart {
		v, ok := apart(x, lists, settled, reels.Plays, asked)
		if !ok {
			continue // of a play that was taken out meanwhile
		}
		out.Apart = append(out.Apart, v)
		shown[v.A.TechniqueKey], shown[v.B.TechniqueKey], about[v.PlayerID] = true, true, true
	}
	slices.SortStableFunc(out.Apart, func(x, y contract.Apart) int { return cmp.Compare(x.Play.Play.Number, y.Play.Play.Number) })
	for _, t := range h.Library.Techniques {
		if shown[t.Key] {
			out.Techniques = append(out.Techniques, techniqueView(h, t))
		}
	}
	for _, p := range players {
		if about[p.ID] {
			out.Players = append(out.Players, squad.View(p))
		}
	}
	return out, nil
}

func apart(x agreement.Apart, lists [2][]record.Detail, settled []record.Detail, plays []reel.Play, asked []forecast.Asked) (contract.Apart, bool) {
	a, b := lists[0][x.A], lists[1][x.B]
	i := slices.IndexFunc(plays, func(p reel.Play) bool { return p.ID == *a.PlayID })
	if i < 0 {
		return contract.Apart{}, false
	}
	v := contract.Apart{Play: sheetPlay(plays[i], asked), PlayerID: a.PlayerID, A: gameMark(a), B: gameMark(b), On: []contract.ApartOn{}}
	for _, on := range x.On {
		v.On = append(v.On, contract.ApartOn(on))
	}
	for _, m := range settled {
		of := m.PlayerID == a.PlayerID && *m.PlayID == *a.PlayID && (m.TechniqueKey == a.TechniqueKey || m.TechniqueKey == b.TechniqueKey)
		// Where they name different techniques, the one that it was not is settled as saying nothing.
		if of && (v.Settled == nil || m.State != marks.StateNone) {
			v.Settled = new(gameMark(m))
		}
	}
	return v, true
}

func gameMark(m record.Detail) contract.GameMark {
	return contract.GameMark{PlayID: *m.PlayID, TechniqueKey: m.TechniqueKey, Mark: view(m)}
}

// said takes marks of plays to the core. A fault that a teammate caused is another than the player's own.
func said(list []record.Detail) []agreement.Said {
	out := make([]agreement.Said, len(list))
	for i, m := range list {
		s := agreement.Said{Rep: m.PlayerID.String() + " " + m.PlayID.String(), Technique: m.TechniqueKey, Graded: m.State == marks.Looked || m.State == marks.Assumed, Values: map[string]int{}}
		for k, v := range []*int{m.Assignment, m.Technique, m.Finish} {
			if v != nil {
				s.Values[compared[k]] = *v
			}
		}
		for _, f := range m.Faults {
			s.Faults = append(s.Faults, f.Key+" "+f.CausedBy)
		}
		out[i] = s
	}
	return out
}

func alikeView(a agreement.Alike) contract.Alike {
	number := func(v float64) *float64 {
		if math.IsNaN(v) {
			return nil
		}
		return &v
	}
	return contract.Alike{N: a.N, Facet: text(a.Facet), Observed: number(a.Observed), Expected: number(a.Expected), Kappa: number(a.Kappa)}
}
