package roster

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/roster"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// uploadRecord is a record of roster_uploads.
type uploadRecord struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	ClubID    uuid.UUID
	Content   json.RawMessage `gorm:"type:jsonb"`
	CreatedBy uuid.UUID
	CreatedAt time.Time
}

// TableName is roster_uploads.
func (uploadRecord) TableName() string { return "roster_uploads" }

// KeepUpload keeps a list, and forgets those that are older than a moment. The same id again
// changes nothing when it is the same person's.
func (SQL) KeepUpload(ctx context.Context, u Upload, by uuid.UUID, at, forget time.Time) error {
	content, err := json.Marshal(u.Table)
	if err != nil {
		return err
	}
	if err := pg.Gorm(ctx).Where("created_at < ?", forget).Delete(&uploadRecord{}).Error; err != nil {
		return err
	}
	n, err := pg.Exec(ctx, `INSERT INTO roster_uploads (id, club_id, content, created_by, created_at) VALUES (@id, @club, @content::jsonb, @by, @at)
		ON CONFLICT (id) DO UPDATE SET created_at = excluded.created_at WHERE roster_uploads.club_id = @club AND roster_uploads.created_by = @by AND roster_uploads.content = excluded.content`,
		pg.Args{"id": u.ID, "content": string(content), "by": by, "at": at})
	if err == nil && n == 0 {
		return problem.ErrTaken
	}
	return err
}

// Upload reads a list and the mapping chosen for one like it, in one statement.
func (SQL) Upload(ctx context.Context, id uuid.UUID, lock bool) (Upload, map[string]int, bool, error) {
	type row struct {
		Content  json.RawMessage
		Imported json.RawMessage
		Chosen   json.RawMessage
	}
	query := `
		SELECT u.content, u.imported, (SELECT m.mapping FROM roster_mappings m WHERE m.club_id = @club AND m.headers =
		       (SELECT string_agg(lower(h), chr(31) ORDER BY n) FROM jsonb_array_elements_text(u.content -> 'Headers') WITH ORDINALITY AS x (h, n))) AS chosen
		FROM roster_uploads u WHERE u.club_id = @club AND u.id = @id`
	if lock {
		query = `WITH held AS MATERIALIZED (SELECT pg_advisory_xact_lock(hashtextextended('roster ' || @club::uuid::text, 0)))` + query + ` AND (SELECT count(*) FROM held) = 1 FOR UPDATE OF u`
	}
	r, found, err := pg.One[row](ctx, query, pg.Args{"id": id})
	if err != nil || !found {
		return Upload{}, nil, false, err
	}
	u := Upload{ID: id, Imported: r.Imported}
	if err := json.Unmarshal(r.Content, &u.Table); err != nil {
		return u, nil, false, err
	}
	var chosen map[string]int
	if len(r.Chosen) > 0 {
		err = json.Unmarshal(r.Chosen, &chosen)
	}
	return u, chosen, true, err
}

// taken is a player as TakeIn sends him.
type taken struct {
	ID        uuid.UUID `json:"id"`
	New       bool      `json:"new"`
	Jersey    string    `json:"jersey"`
	FirstName string    `json:"first_name"`
	LastName  string    `json:"last_name"`
	Position  string    `json:"position"`
	HeightIn  *float64  `json:"height_in"`
	WeightLb  *int      `json:"weight_lb"`
	Returner  bool      `json:"returner"`
	Group     string    `json:"group_key"`
}

// TakeIn creates and updates players with their groups, in one statement whatever their
// number.
func (SQL) TakeIn(ctx context.Context, create, update []Entry, by uuid.UUID, groups map[uuid.UUID]string) error {
	list := make([]taken, 0, len(create)+len(update))
	add := func(entries []Entry, isNew bool) {
		for _, e := range entries {
			p := e.Person
			list = append(list, taken{ID: e.ID, New: isNew, Jersey: p.Jersey, FirstName: p.First, LastName: p.Last, Position: p.Position,
				HeightIn: orNull(p.HeightIn), WeightLb: orNull(int(p.WeightLb + 0.5)), Returner: p.Returning, Group: groups[e.ID]})
		}
	}
	add(create, true)
	add(update, false)
	if len(list) == 0 {
		return nil
	}
	content, err := json.Marshal(list)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		WITH told AS MATERIALIZED (
			SELECT * FROM jsonb_to_recordset(@list::jsonb) AS x (id uuid, new boolean, jersey text, first_name text, last_name text, position text,
			                                                     height_in numeric, weight_lb int, returner boolean, group_key text)),
		created AS (
			INSERT INTO players (id, club_id, jersey, first_name, last_name, position, height_in, weight_lb, returner, created_by)
			SELECT id, @club, jersey, first_name, last_name, position, height_in, weight_lb, returner, @by FROM told WHERE new RETURNING id),
		updated AS (
			UPDATE players p SET jersey = t.jersey, position = t.position, height_in = t.height_in, weight_lb = t.weight_lb, returner = t.returner,
			       archived_at = NULL, version = version + 1, updated_at = now()
			FROM told t WHERE p.club_id = @club AND p.id = t.id AND NOT t.new RETURNING p.id)
		INSERT INTO player_groups (club_id, player_id, group_key)
		SELECT @club, t.id, t.group_key FROM told t
		WHERE t.group_key <> '' AND (t.id IN (SELECT id FROM created) OR t.id IN (SELECT id FROM updated)) ON CONFLICT DO NOTHING`,
		pg.Args{"list": string(content), "by": by})
	return err
}

// Done remembers the mapping and what importing answered, in one statement.
func (SQL) Done(ctx context.Context, id uuid.UUID, headers string, mapping map[string]int, answer json.RawMessage) error {
	text, err := json.Marshal(mapping)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		WITH chosen AS (
			INSERT INTO roster_mappings (club_id, headers, mapping) VALUES (@club, @headers, @mapping::jsonb)
			ON CONFLICT (club_id, headers) DO UPDATE SET mapping = excluded.mapping)
		UPDATE roster_uploads SET imported = @answer::jsonb WHERE club_id = @club AND id = @id`,
		pg.Args{"id": id, "headers": headers, "mapping": string(text), "answer": string(answer)})
	return err
}

// Propose keeps proposals, in one statement whatever their number.
func (SQL) Propose(ctx context.Context, list []Proposal, by uuid.UUID, at time.Time) error {
	if len(list) == 0 {
		return nil
	}
	type sent struct {
		ID      uuid.UUID     `json:"id"`
		Subject string        `json:"subject"`
		Player  *uuid.UUID    `json:"player"`
		Group   string        `json:"group_key"`
		Person  roster.Person `json:"person"`
	}
	rows := make([]sent, len(list))
	for i, p := range list {
		rows[i] = sent{p.ID, p.subject(), p.PlayerID, p.Group, p.Person}
	}
	content, err := json.Marshal(rows)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		INSERT INTO roster_proposals (id, club_id, subject, player_id, group_key, person, proposed_by, proposed_at)
		SELECT DISTINCT ON (subject) id, @club, subject, player, group_key, person, @by, @at
		FROM jsonb_to_recordset(@list::jsonb) AS x (id uuid, subject text, player uuid, group_key text, person jsonb) ORDER BY subject, id
		ON CONFLICT ON CONSTRAINT roster_proposals_subject DO UPDATE SET id = excluded.id, group_key = excluded.group_key, person = excluded.person,
			proposed_by = excluded.proposed_by, proposed_at = excluded.proposed_at`, pg.Args{"list": string(content), "by": by, "at": at})
	return err
}

// proposalRow is a proposal as it is read.
type proposalRow struct {
	ID       uuid.UUID
	PlayerID *uuid.UUID
	GroupKey string
	Person   json.RawMessage
	By       string
	At       time.Time
}

func (r proposalRow) proposal() (Proposal, error) {
	p := Proposal{ID: r.ID, PlayerID: r.PlayerID, Group: r.GroupKey, By: r.By, At: r.At}
	return p, json.Unmarshal(r.Person, &p.Person)
}

// Proposed lists the open proposals.
func (SQL) Proposed(ctx context.Context) ([]Proposal, error) {
	rows, err := pg.Select[proposalRow](ctx, `
		SELECT p.id, p.player_id, p.group_key, p.person, coalesce(u.name, '') AS by, p.proposed_at AS at
		FROM roster_proposals p LEFT JOIN users u ON u.club_id = @club AND u.id = p.proposed_by WHERE p.club_id = @club ORDER BY p.proposed_at, p.id LIMIT 5000`, nil)
	if err != nil {
		return nil, err
	}
	out := make([]Proposal, len(rows))
	for i, r := range rows {
		if out[i], err = r.proposal(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Decided reads a proposal and takes it away.
func (SQL) Decided(ctx context.Context, id uuid.UUID) (Proposal, bool, error) {
	r, found, err := pg.One[proposalRow](ctx, `DELETE FROM roster_proposals WHERE club_id = @club AND id = @id
		RETURNING id, player_id, group_key, person, '' AS by, proposed_at AS at`, pg.Args{"id": id})
	if err != nil || !found {
		return Proposal{}, false, err
	}
	p, err := r.proposal()
	return p, true, err
}
