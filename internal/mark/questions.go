package mark

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/pg"
	"nineyard/internal/roster/squad"
)

// Questions lists the open questions that the coach is asked, the latest first. He answers one by a mark in
// the place of the one that asks.
func (s *Service) Questions(ctx context.Context, c access.Coach) ([]contract.OpenQuestion, error) {
	list := []contract.OpenQuestion{}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return list, err
	}
	open, err := s.Store.Questions(ctx, c.ID)
	if err != nil || len(open) == 0 {
		return list, err
	}
	ids := make([]uuid.UUID, len(open))
	for i, m := range open {
		ids[i] = *m.PlayID
	}
	var plays []reel.Play
	var players []squad.Player
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) { plays, err = s.Reels.Plays(ctx, ids); return err },
		func(ctx context.Context) (err error) {
			players, err = s.Squad.All(ctx, c.Today(s.Now()))
			return err
		})
	if err != nil {
		return list, err
	}
	who := squad.ByID(players)
	for _, m := range open {
		i := slices.IndexFunc(plays, func(p reel.Play) bool { return p.ID == *m.PlayID })
		if i < 0 {
			continue
		}
		p, of := plays[i], who[m.PlayerID]
		q := contract.OpenQuestion{Mark: view(m), TechniqueKey: m.TechniqueKey, TechniqueName: h.TechniqueName(m.TechniqueKey), Date: m.On.String(), GameID: p.GameID, PlayID: p.ID,
			Play: labels.View(p.Play), Jersey: of.Jersey, Player: of.LastName}
		if m.Opponent != nil {
			q.Opponent = *m.Opponent
		}
		for _, g := range c.Club.Groups {
			if g.Side == p.Unit && slices.Contains(of.Groups, g.Key) {
				q.Group = new(g.Key)
				break
			}
		}
		list = append(list, q)
	}
	return list, nil
}

// Questions reads the few rows that are kept of open questions, and their marks.
func (SQL) Questions(ctx context.Context, coach uuid.UUID) ([]record.Detail, error) {
	return readDetails(ctx, `AND (m.place_id, m.player_id, m.nth, m.technique_key, m.grader, m.year) IN (
			SELECT place_id, player_id, nth, technique_key, grader, year FROM mark_questions WHERE club_id = @club AND asked = @coach)
		AND m.play_id IS NOT NULL AND m.stands AND m.state = 'unsettled' ORDER BY m.seq DESC LIMIT 500`, pg.Args{"coach": coach})
}
