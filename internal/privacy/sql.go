package privacy

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// LastName is a player's.
func (SQL) LastName(ctx context.Context, player uuid.UUID) (string, bool, error) {
	type row struct{ LastName string }
	r, found, err := pg.One[row](ctx, `SELECT last_name FROM players WHERE club_id = @club AND id = @id`, pg.Args{"id": player})
	return r.LastName, found, err
}

// kept are the tables in which something is kept of a player; a test holds them against the schema.
var kept = []string{"player_groups", "availability_spells", "player_exceptions", "gate_overrides", "feedbacks", "roster_proposals", "mark_events", "mark_slots", "mark_days", "mark_fault_days", "mark_runs", "mark_questions", "clips"}

// All reads everything that is kept of a player.
func (SQL) All(ctx context.Context, player uuid.UUID) (json.RawMessage, error) {
	query := `SELECT jsonb_build_object('players', (SELECT jsonb_agg(to_jsonb(p)) FROM players p WHERE p.club_id = @club AND (p.id = @id OR p.merged_into = @id))`
	for _, t := range kept {
		query += `, '` + t + `', coalesce((SELECT jsonb_agg(to_jsonb(t)) FROM ` + t + ` t WHERE t.club_id = @club AND t.player_id = @id), '[]')`
	}
	query += `, 'mark_faults', coalesce((SELECT jsonb_agg(to_jsonb(f)) FROM mark_faults f JOIN mark_events e ON e.club_id = @club AND e.id = f.mark_id AND e.year = f.year WHERE f.club_id = @club AND e.player_id = @id), '[]')) AS all`
	type row struct{ All json.RawMessage }
	r, _, err := pg.One[row](ctx, query, pg.Args{"id": player})
	return r.All, err
}

// Erase takes a player away.
func (SQL) Erase(ctx context.Context, player uuid.UUID, keepMarks bool) (bool, error) {
	type row struct{ Gone bool }
	r, _, err := pg.One[row](ctx, `SELECT erase_player(@id, @keep) AS gone`, pg.Args{"id": player, "keep": keepMarks})
	return r.Gone, err
}

// Retention reads for how long things are kept.
func (SQL) Retention(ctx context.Context) (contract.Retention, error) {
	type row struct{ Archived, Spells, Changes *int }
	r, _, err := pg.One[row](ctx, `SELECT keep_archived_months AS archived, keep_spells_months AS spells, keep_changes_months AS changes FROM clubs WHERE id = @club`, nil)
	return contract.Retention{Archived: r.Archived, Spells: r.Spells, Changes: r.Changes}, err
}

// SetRetention changes it.
func (SQL) SetRetention(ctx context.Context, r contract.Retention) error {
	_, err := pg.Exec(ctx, `UPDATE clubs SET keep_archived_months = @archived, keep_spells_months = @spells, keep_changes_months = @changes WHERE id = @club`,
		pg.Args{"archived": r.Archived, "spells": r.Spells, "changes": r.Changes})
	return err
}
