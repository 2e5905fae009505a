package mark

import (
	"context"

	"github.com/google/uuid"

	"nineyard/core/cut"
	"nineyard/core/marks"
	"nineyard/core/play"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Cut returns the plays of a cut-up: of those of a group's side, with the group's marks that stand, or
// blind the coach's own alone.
func (s *Service) Cut(ctx context.Context, c access.Coach, game uuid.UUID, group, text string, blind bool) (contract.CutPlays, error) {
	out := contract.CutPlays{Plays: []uuid.UUID{}}
	asked, err := cut.Parse(text)
	if err != nil {
		return out, err
	}
	g, h, reels, err := s.filmed(ctx, c, game, group)
	if err != nil {
		return out, err
	}
	var players []squad.Player
	var marked []record.Detail
	var aliases []play.Alias
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) { aliases, err = s.Reels.Aliases(ctx); return err },
		func(ctx context.Context) (err error) { players, err = s.Squad.Group(ctx, group, reels.On); return err },
		func(ctx context.Context) (err error) { marked, err = s.graded(ctx, c, game, group, blind); return err })
	if err != nil {
		return out, err
	}
	of, asked := cutMarks(marked, players, h), asked.Meaning(aliases)
	for _, p := range reels.Plays {
		if p.Unit == g.Side && asked.Matches(p.Play, of[p.ID]) {
			out.Plays = append(out.Plays, p.ID)
		}
	}
	return out, nil
}

// cutMarks takes marks of plays to the core, by play. A fault that a teammate caused is his.
func cutMarks(marked []record.Detail, players []squad.Player, h *house.House) map[uuid.UUID][]cut.Mark {
	who := map[string]squad.Player{}
	for _, p := range players {
		who[p.ID.String()] = p
	}
	of := map[uuid.UUID][]cut.Mark{}
	for _, m := range marked {
		p := who[m.PlayerID.String()]
		one := cut.Mark{Jersey: p.Jersey, Position: p.Position, Praise: m.Praise, Open: m.State == marks.StateOpen, Unseen: m.State == marks.StateUnseen,
			NoFinish: m.Finish != nil && *m.Finish == 0, Verdict: m.Verdict, Result: m.Result, Tallies: m.Tallies}
		for _, f := range m.Faults {
			name := h.FaultName(f.Key)
			if f.CausedBy == "" {
				one.Faults = append(one.Faults, name)
				continue
			}
			cause := who[f.CausedBy]
			of[*m.PlayID] = append(of[*m.PlayID], cut.Mark{Jersey: cause.Jersey, Position: cause.Position, Faults: []string{name}})
		}
		of[*m.PlayID] = append(of[*m.PlayID], one)
	}
	return of
}
