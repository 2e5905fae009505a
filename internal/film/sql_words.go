package film

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/play"
	"nineyard/internal/platform/pg"
)

var _ Words = SQL{}

func aliases(ctx context.Context, lock string) ([]Alias, error) {
	type row struct {
		ID      uuid.UUID
		Label   string
		Said    string
		Means   string
		Version int
		By      string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT w.id, w.label, w.said, w.means, w.version, coalesce(u.name, '') AS by FROM label_words w LEFT JOIN users u ON u.id = w.updated_by AND u.club_id = w.club_id
		WHERE w.club_id = @club ORDER BY w.label, w.said, w.id `+lock, nil)
	list := make([]Alias, len(rows))
	for i, r := range rows {
		list[i] = Alias{ID: r.ID, Alias: play.Alias{Label: play.Column(r.Label), Said: r.Said, Means: r.Means}, Version: r.Version, By: r.By}
	}
	return list, err
}

// Aliases lists all.
func (SQL) Aliases(ctx context.Context) ([]Alias, error) { return aliases(ctx, "") }

// HoldAliases lists them, one coach at a time: whether a word may be said so hangs on all of them.
func (SQL) HoldAliases(ctx context.Context) ([]Alias, error) {
	if _, err := pg.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended('label_words ' || @club::text, 0))`, nil); err != nil {
		return nil, err
	}
	return aliases(ctx, "FOR UPDATE OF w")
}

// PutAlias writes one.
func (SQL) PutAlias(ctx context.Context, a Alias, by uuid.UUID) error {
	write := `INSERT INTO label_words (club_id, id, label, said, means, updated_by) VALUES (@club, @id, @label, @said, @means, @by)`
	if a.Version > 0 {
		write = `UPDATE label_words SET label = @label, said = @said, means = @means, updated_by = @by, version = version + 1 WHERE club_id = @club AND id = @id`
	}
	_, err := pg.Exec(ctx, write, pg.Args{"id": a.ID, "label": string(a.Label), "said": a.Said, "means": a.Means, "by": by})
	return err
}

// DeleteAlias takes one out.
func (SQL) DeleteAlias(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM label_words WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// Uses counts words.
func (SQL) Uses(ctx context.Context) ([]Use, error) {
	type row struct {
		Label string
		Word  string
		N     int
	}
	var parts []string
	for _, l := range play.AliasLabels() {
		parts = append(parts, fmt.Sprintf(`SELECT '%s' AS label, y.%s AS word, count(*)::int AS n FROM plays y WHERE y.club_id = @club AND y.%[2]s <> '' GROUP BY y.%[2]s`, l, columnOf(l)))
	}
	rows, err := pg.Select[row](ctx, strings.Join(parts, " UNION ALL "), nil)
	list := make([]Use, len(rows))
	for i, r := range rows {
		list[i] = Use{Label: play.Column(r.Label), Word: r.Word, N: r.N}
	}
	return list, err
}

// columnOf is a label that has aliases as the database calls it.
func columnOf(label play.Column) string { return strings.ToLower(string(label)) }

// Correct writes a word in place of others in three statements, however many plays say them.
func (SQL) Correct(ctx context.Context, label play.Column, words []string, means string, by uuid.UUID, at time.Time) (int, error) {
	if len(words) == 0 || !slices.Contains(play.AliasLabels(), label) {
		return 0, nil
	}
	list, err := entries(ctx, `AND y.`+columnOf(label)+` = ANY (@words) ORDER BY y.id FOR UPDATE OF y`, pg.Args{"words": words})
	if err != nil || len(list) == 0 {
		return 0, err
	}
	type version struct {
		ID     uuid.UUID `json:"id"`
		Before []string  `json:"before"`
		After  []string  `json:"after"`
	}
	var all []version
	for _, e := range list {
		next := play.Meant(e.Play, []play.Alias{{Label: label, Said: play.Word(e.Play, label), Means: means}})
		all = append(all, version{e.ID, play.Record(e.Play), play.Record(next)})
	}
	text, err := json.Marshal(all)
	if err != nil {
		return 0, err
	}
	args := pg.Args{"all": string(text), "means": means, "by": by, "at": at}
	const of = ` FROM jsonb_to_recordset(@all::jsonb) AS v (id uuid, before jsonb, after jsonb) JOIN plays y ON y.club_id = @club AND y.id = v.id`
	// What stood there before the first correction is kept with it.
	for _, write := range []string{
		`INSERT INTO play_versions (club_id, play_id, version, labels, by, at) SELECT y.club_id, y.id, y.version, ARRAY(SELECT jsonb_array_elements_text(v.before)), y.updated_by, y.updated_at` + of + ` ON CONFLICT DO NOTHING`,
		`INSERT INTO play_versions (club_id, play_id, version, labels, by, at) SELECT y.club_id, y.id, y.version + 1, ARRAY(SELECT jsonb_array_elements_text(v.after)), @by, @at` + of + ` ON CONFLICT DO NOTHING`,
		`UPDATE plays x SET ` + columnOf(label) + ` = @means, version = x.version + 1, updated_by = @by, updated_at = @at` + of + ` WHERE x.club_id = @club AND x.id = y.id`,
	} {
		if _, err := pg.Exec(ctx, write, args); err != nil {
			return 0, err
		}
	}
	return len(list), nil
}
