package tell

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// Feedbacks reads what players are told of a game.
func (SQL) Feedbacks(ctx context.Context, game uuid.UUID) (map[uuid.UUID]Written[contract.FeedbackInput], error) {
	type row struct {
		PlayerID uuid.UUID
		Content  []byte
		Version  int
		By       string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT f.player_id, f.content, f.version, coalesce(u.name, '') AS by FROM feedbacks f LEFT JOIN users u ON u.id = f.updated_by AND u.club_id = f.club_id
		WHERE f.club_id = @club AND f.game_id = @game`, pg.Args{"game": game})
	all := make(map[uuid.UUID]Written[contract.FeedbackInput], len(rows))
	for _, r := range rows {
		w := Written[contract.FeedbackInput]{Version: r.Version, By: r.By}
		if err := json.Unmarshal(r.Content, &w.Content); err != nil {
			return nil, err
		}
		all[r.PlayerID] = w
	}
	return all, err
}

// PutFeedback writes what a player is told.
func (SQL) PutFeedback(ctx context.Context, game, player uuid.UUID, version int, in contract.FeedbackInput, by uuid.UUID, at time.Time) error {
	write := `INSERT INTO feedbacks (club_id, game_id, player_id, content, updated_by, updated_at) VALUES (@club, @game, @player, @content, @by, @at)`
	if version > 0 {
		write = `UPDATE feedbacks SET content = @content, version = version + 1, updated_by = @by, updated_at = @at WHERE club_id = @club AND game_id = @game AND player_id = @player`
	}
	text, err := json.Marshal(in)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, write, pg.Args{"game": game, "player": player, "content": string(text), "by": by, "at": at})
	return err
}

// DeleteFeedback lets it be as proposed.
func (SQL) DeleteFeedback(ctx context.Context, game, player uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM feedbacks WHERE club_id = @club AND game_id = @game AND player_id = @player`, pg.Args{"game": game, "player": player})
	return err
}

// Meeting reads what a group looks at of a game.
func (SQL) Meeting(ctx context.Context, game uuid.UUID, group string) (w Written[[]contract.MeetingItem], err error) {
	type row struct {
		Items   []byte
		Version int
		By      string
	}
	r, found, err := pg.One[row](ctx, `
		SELECT m.items, m.version, coalesce(u.name, '') AS by FROM meetings m LEFT JOIN users u ON u.id = m.updated_by AND u.club_id = m.club_id
		WHERE m.club_id = @club AND m.game_id = @game AND m.group_key = @group`, pg.Args{"game": game, "group": group})
	if err != nil || !found {
		return w, err
	}
	w.Version, w.By = r.Version, r.By
	return w, json.Unmarshal(r.Items, &w.Content)
}

// PutMeeting writes what a group looks at of a game.
func (SQL) PutMeeting(ctx context.Context, game uuid.UUID, group string, version int, items []contract.MeetingItem, by uuid.UUID, at time.Time) error {
	write := `INSERT INTO meetings (club_id, game_id, group_key, items, updated_by, updated_at) VALUES (@club, @game, @group, @items, @by, @at)`
	if version > 0 {
		write = `UPDATE meetings SET items = @items, version = version + 1, updated_by = @by, updated_at = @at WHERE club_id = @club AND game_id = @game AND group_key = @group`
	}
	text, err := json.Marshal(items)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, write, pg.Args{"game": game, "group": group, "items": string(text), "by": by, "at": at})
	return err
}
