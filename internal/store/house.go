package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm/clause"

	"nineyard/core/house"
	"nineyard/internal/app"
)

// RememberEdition keeps a shipped library under its digest.
func (s *Store) RememberEdition(ctx context.Context, digest string, entries []house.Entry) error {
	text, err := json.Marshal(entries)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec(`INSERT INTO library_editions (digest, entries) VALUES (?, ?::jsonb) ON CONFLICT DO NOTHING`, digest, string(text)).Error
}

// Edition reads a shipped library by its digest.
func (s *Store) Edition(ctx context.Context, digest string) ([]house.Entry, error) {
	var row struct{ Entries json.RawMessage }
	if err := one(s.db.WithContext(ctx).Raw(`SELECT entries FROM library_editions WHERE digest = ?`, digest).Scan(&row)); err != nil {
		return nil, err
	}
	var entries []house.Entry
	return entries, json.Unmarshal(row.Entries, &entries)
}

// Clubs lists the clubs whose latest version lies on another edition than the one given
// and never lay on it: those that the edition is news to.
func (s *Store) Clubs(ctx context.Context, without string) ([]uuid.UUID, error) {
	var ids []uuid.UUID
	return ids, s.db.WithContext(ctx).Raw(`
		SELECT c.id FROM clubs c
		WHERE NOT EXISTS (SELECT 1 FROM house_versions v WHERE v.club_id = c.id AND v.digest = ?) ORDER BY c.id`, without).Scan(&ids).Error
}

type houseRow struct {
	app.HouseVersion
	LayerText   json.RawMessage
	TouchedText json.RawMessage
}

const houseColumns = `
	SELECT v.club_id, v.version, v.id, v.digest, v.layer AS layer_text, v.touched AS touched_text, v.summary, v.created_by, v.created_at, coalesce(u.name, '') AS by_name
	FROM house_versions v LEFT JOIN users u ON u.id = v.created_by AND u.club_id = v.club_id `

func (r houseRow) version() (app.HouseVersion, error) {
	v := r.HouseVersion
	if len(r.LayerText) > 0 {
		if err := json.Unmarshal(r.LayerText, &v.Layer); err != nil {
			return v, err
		}
	}
	return v, json.Unmarshal(r.TouchedText, &v.Touched)
}

// HouseVersion reads a version of the club's standards; zero means the latest.
func (s *Store) HouseVersion(ctx context.Context, club uuid.UUID, version int) (app.HouseVersion, error) {
	var row houseRow
	err := one(s.db.WithContext(ctx).Raw(houseColumns+`WHERE v.club_id = @club AND (@version = 0 OR v.version = @version) ORDER BY v.version DESC LIMIT 1`,
		map[string]any{"club": club, "version": version}).Scan(&row))
	if err != nil {
		return app.HouseVersion{}, err
	}
	return row.version()
}

// HouseVersionByID finds the version a request made before.
func (s *Store) HouseVersionByID(ctx context.Context, club, id uuid.UUID) (app.HouseVersion, error) {
	var row houseRow
	if err := one(s.db.WithContext(ctx).Raw(houseColumns+`WHERE v.club_id = ? AND v.id = ?`, club, id).Scan(&row)); err != nil {
		return app.HouseVersion{}, err
	}
	return row.version()
}

// HouseVersions lists the versions that touched an entry, newest first; all of them when
// no entry is named. Layers are left out.
func (s *Store) HouseVersions(ctx context.Context, club uuid.UUID, entry string, limit int) ([]app.HouseVersion, error) {
	var rows []houseRow
	err := s.db.WithContext(ctx).Raw(`
		SELECT v.club_id, v.version, v.id, v.digest, v.touched AS touched_text, v.summary, v.created_by, v.created_at, coalesce(u.name, '') AS by_name
		FROM house_versions v LEFT JOIN users u ON u.id = v.created_by AND u.club_id = v.club_id
		WHERE v.club_id = @club AND (CAST(@entry AS text) = '' OR v.touched @> to_jsonb(CAST(@entry AS text))) ORDER BY v.version DESC LIMIT @limit`,
		map[string]any{"club": club, "entry": entry, "limit": limit}).Scan(&rows).Error
	list := make([]app.HouseVersion, len(rows))
	for i, r := range rows {
		if list[i], err = r.version(); err != nil {
			return nil, err
		}
	}
	return list, err
}

// LockHouse holds the club's standards until the transaction ends.
func (s *Store) LockHouse(ctx context.Context, club uuid.UUID) error {
	return s.db.WithContext(ctx).Exec(`SELECT pg_advisory_xact_lock(hashtextextended('house ' || ?, 0))`, club.String()).Error
}

// AddHouseVersion appends a version. app.ErrIDTaken says that its number or id is there.
func (s *Store) AddHouseVersion(ctx context.Context, v app.HouseVersion) error {
	if v.Layer == nil {
		v.Layer = house.Layer{}
	}
	if v.Touched == nil {
		v.Touched = []string{}
	}
	layer, err := json.Marshal(v.Layer)
	if err != nil {
		return err
	}
	touched, err := json.Marshal(v.Touched)
	if err != nil {
		return err
	}
	err = s.db.WithContext(ctx).Exec(`
		INSERT INTO house_versions (club_id, version, id, digest, layer, touched, summary, created_by, created_at)
		VALUES (?, ?, ?, ?, ?::jsonb, ?::jsonb, ?, ?, ?)`,
		v.ClubID, v.Version, v.ID, v.Digest, string(layer), string(touched), v.Summary, v.CreatedBy, v.CreatedAt).Error
	return taken(err)
}

// taken turns a broken uniqueness into app.ErrIDTaken.
func taken(err error) error {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "23505" {
		return app.ErrIDTaken
	}
	return err
}

// ReplaceTerms rewrites what can be found in the club's library.
func (s *Store) ReplaceTerms(ctx context.Context, club uuid.UUID, terms []app.Term) error {
	db := s.db.WithContext(ctx)
	for _, table := range []string{"library_terms", "library_words"} {
		if err := db.Exec(`DELETE FROM `+table+` WHERE club_id = ?`, club).Error; err != nil {
			return err
		}
	}
	rows := make([]map[string]any, len(terms))
	for i, t := range terms {
		groups, err := json.Marshal(t.Groups)
		if err != nil {
			return err
		}
		rows[i] = map[string]any{"club_id": club, "kind": t.Kind, "key": t.Key, "technique": t.Technique, "groups": string(groups), "name": t.Name, "terms": t.Terms, "body": t.Body}
	}
	if len(rows) == 0 {
		return nil
	}
	if err := db.Table("library_terms").Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, 400).Error; err != nil {
		return err
	}
	err := db.Exec(`
		INSERT INTO library_words (club_id, word)
		SELECT DISTINCT CAST(@club AS uuid), w FROM library_terms, regexp_split_to_table(terms || ' ' || lower(body), '[^[:alnum:]]+') w
		WHERE club_id = @club AND length(w) > 2`, map[string]any{"club": club}).Error
	if err != nil {
		return err
	}
	return db.Exec(`ANALYZE library_terms`).Error // or the planner takes the new rows for a few
}

// Find looks for words and their beginnings. When that finds little, each word is taken
// for those of the library that are spelled most like it. What the group is taught comes
// first among equals.
func (s *Store) Find(ctx context.Context, club uuid.UUID, words, group string, limit int) ([]app.Hit, error) {
	list := lettersAndDigits(words)
	begins := make([]string, len(list))
	for i, w := range list {
		begins[i] = w + ":*"
	}
	hits, err := s.search(ctx, club, words, strings.Join(begins, " & "), group, limit)
	if err != nil || len(hits) >= enough {
		return hits, err
	}
	query, err := s.respelled(ctx, club, list)
	if err != nil || query == "" {
		return hits, err
	}
	alike, err := s.search(ctx, club, words, query, group, limit)
	for _, h := range alike {
		if !slices.ContainsFunc(hits, func(x app.Hit) bool { return x.Kind == h.Kind && x.Key == h.Key }) && len(hits) < limit {
			hits = append(hits, h)
		}
	}
	return hits, err
}

// enough is how many hits by their words make looking for other spellings unnecessary.
const enough = 6

func lettersAndDigits(words string) []string {
	return strings.FieldsFunc(words, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// search finds what matches a tsquery. A name or alias that is, or holds, the very words
// comes first.
func (s *Store) search(ctx context.Context, club uuid.UUID, words, query, group string, limit int) ([]app.Hit, error) {
	var hits []app.Hit
	return hits, s.db.WithContext(ctx).Raw(`
		WITH x AS MATERIALIZED (
			SELECT t.*, groups @> to_jsonb(CAST(@grp AS text)) AS mine, ts_rank(t.search, q.query) AS score,
			       CASE WHEN t.terms = @words OR t.terms LIKE @words || ' · %' THEN 2 WHEN strpos(t.terms, @words) > 0 THEN 1 ELSE 0 END AS named
			FROM library_terms t, to_tsquery('english', @query) AS q (query)
			WHERE t.club_id = @club AND t.search @@ q.query)
		SELECT kind, key, technique, name, terms, body, mine, score FROM x
		ORDER BY named DESC, mine DESC, round(score::numeric, 1) DESC, array_position(ARRAY['technique', 'fault', 'drill', 'ladder', 'checkpoint', 'question'], kind), score DESC, name LIMIT @limit`,
		map[string]any{"club": club, "words": words, "query": query, "grp": group, "limit": limit}).Scan(&hits).Error
}

// respelled writes a query in which each word is one of those of the library that share
// the most trigrams with it; empty when a word is like none.
func (s *Store) respelled(ctx context.Context, club uuid.UUID, list []string) (string, error) {
	var parts []string
	for _, w := range list {
		if len(w) < 3 { // of, to, a: nothing to spell
			continue
		}
		var near []string
		err := s.db.WithContext(ctx).Raw(`
			SELECT word FROM library_words WHERE club_id = ? AND similarity(word, ?) >= 0.25
			ORDER BY similarity(word, ?) DESC, word LIMIT 4`, club, w, w).Scan(&near).Error
		if err != nil || len(near) == 0 {
			return "", err
		}
		parts = append(parts, "("+strings.Join(near, " | ")+")")
	}
	return strings.Join(parts, " & "), nil
}

// usesOf sums up marks, counted by key, placement and day, over the practices they were
// made in.
func usesOf(kind, marks string) string {
	return `
		SELECT '` + kind + `' AS kind, x.key, count(x.practice_id) AS practices, coalesce(sum(x.marks), 0) AS marks,
		       to_jsonb((array_agg(jsonb_build_object('Practice', x.practice_id, 'On', to_char(x.on_date, 'YYYY-MM-DD"T00:00:00Z"')) ORDER BY x.on_date DESC)
		                 FILTER (WHERE x.practice_id IS NOT NULL))[1:4]) AS recent_days
		FROM (SELECT m.key, e.practice_id, m.on_date, sum(m.marks) AS marks
		      FROM (` + marks + `) m LEFT JOIN placements pl ON pl.id = m.placement_id LEFT JOIN periods e ON e.id = pl.period_id
		      GROUP BY 1, 2, 3) x
		GROUP BY 2`
}

// Uses tells where entries are used in a season: the practices a drill is placed in, or
// with marks of a technique or a fault, and how many current marks there are. What is
// used nowhere is left out.
func (s *Store) Uses(ctx context.Context, club, season uuid.UUID, techniques, drills, faults []string) ([]app.Use, error) {
	uses := []app.Use{}
	args := map[string]any{"club": club, "season": season, "techniques": techniques, "drills": drills}
	for _, q := range []struct {
		keys  []string
		query func() string
	}{
		{drills, func() string {
			return usesOf("drill", `
				SELECT pl.drill_key AS key, pl.id AS placement_id, p.on_date,
				       (SELECT count(*) FROM mark_slots m WHERE m.placement_id = pl.id AND m.state <> 'withdrawn') AS marks
				FROM placements pl JOIN periods e ON e.id = pl.period_id JOIN practices p ON p.id = e.practice_id
				WHERE pl.club_id = @club AND p.season_id = @season AND pl.drill_key IN @drills`)
		}},
		{techniques, func() string {
			return usesOf("technique", `
				SELECT technique_key AS key, placement_id, on_date, count(*) AS marks FROM mark_slots
				WHERE club_id = @club AND technique_key IN @techniques AND state <> 'withdrawn'
				  AND on_date >= (SELECT starts_on FROM seasons WHERE id = @season) GROUP BY 1, 2, 3`)
		}},
		{faults, func() string { return usesOf("fault", faultMarks(faults, args)) }},
	} {
		if len(q.keys) == 0 {
			continue
		}
		var rows []struct {
			app.Use
			RecentDays json.RawMessage
		}
		if err := s.db.WithContext(ctx).Raw(q.query(), args).Scan(&rows).Error; err != nil {
			return nil, err
		}
		for _, r := range rows {
			if len(r.RecentDays) > 0 {
				if err := json.Unmarshal(r.RecentDays, &r.Recent); err != nil {
					return nil, err
				}
			}
			uses = append(uses, r.Use)
		}
	}
	return uses, nil
}

// faultMarks counts marks by fault, a branch of the query for each: joined to a list of
// faults, the planner would read every faulty mark instead of the index.
func faultMarks(faults []string, args map[string]any) string {
	branches := make([]string, len(faults))
	for i, key := range faults {
		name := fmt.Sprintf("fault%d", i)
		args[name] = key
		branches[i] = `
			SELECT CAST(@` + name + ` AS text) AS key, placement_id, on_date, count(*) AS marks FROM mark_slots
			WHERE faults @> jsonb_build_array(jsonb_build_object('key', CAST(@` + name + ` AS text))) AND faults <> '[]' AND club_id = @club AND state = 'looked'
			  AND on_date >= (SELECT starts_on FROM seasons WHERE id = @season) GROUP BY 2, 3`
	}
	return strings.Join(branches, " UNION ALL ")
}

// Exceptions lists the ranges of their own that players of the club have.
func (s *Store) Exceptions(ctx context.Context, club uuid.UUID) ([]app.Exception, error) {
	var rows []app.Exception
	return rows, s.db.WithContext(ctx).Raw(`
		SELECT x.*, coalesce(u.name, '') AS by_name FROM player_exceptions x LEFT JOIN users u ON u.id = x.created_by AND u.club_id = x.club_id
		WHERE x.club_id = ? AND x.withdrawn_at IS NULL ORDER BY x.created_at, x.id`, club).Scan(&rows).Error
}

// PutException makes a player's own range at a checkpoint the one given, taking back the
// one before. The same id again changes nothing.
func (s *Store) PutException(ctx context.Context, x app.Exception) error {
	return s.InTx(ctx, func(tx app.Store) error {
		db := tx.(*Store).db.WithContext(ctx)
		var n int64
		if err := db.Table("player_exceptions").Where("id = ? AND club_id = ?", x.ID, x.ClubID).Count(&n).Error; err != nil || n > 0 {
			return err
		}
		if err := db.Exec(`UPDATE player_exceptions SET withdrawn_at = ? WHERE club_id = ? AND player_id = ? AND checkpoint_key = ? AND withdrawn_at IS NULL`,
			x.CreatedAt, x.ClubID, x.PlayerID, x.CheckpointKey).Error; err != nil {
			return err
		}
		return taken(db.Table("player_exceptions").Omit("by_name").Create(&x).Error)
	})
}

// WithdrawException takes a player's own range back; it stays on the record.
func (s *Store) WithdrawException(ctx context.Context, club, player uuid.UUID, checkpoint string, at time.Time) error {
	return one(s.db.WithContext(ctx).Exec(`UPDATE player_exceptions SET withdrawn_at = ? WHERE club_id = ? AND player_id = ? AND checkpoint_key = ? AND withdrawn_at IS NULL`,
		at, club, player, checkpoint))
}

// Overrides lists the gates that coaches have overridden in a season.
func (s *Store) Overrides(ctx context.Context, club, season uuid.UUID) ([]app.Override, error) {
	var rows []app.Override
	return rows, s.db.WithContext(ctx).Raw(`
		SELECT o.*, coalesce(u.name, '') AS by_name FROM gate_overrides o LEFT JOIN users u ON u.id = o.created_by AND u.club_id = o.club_id
		WHERE o.club_id = ? AND o.season_id = ? AND o.withdrawn_at IS NULL ORDER BY o.created_at, o.id`, club, season).Scan(&rows).Error
}

// AddOverride records that a coach let a player pass a stage. The same id again changes
// nothing; a second override of the same stage is app.ErrIDTaken.
func (s *Store) AddOverride(ctx context.Context, o app.Override) error {
	var n int64
	db := s.db.WithContext(ctx)
	if err := db.Table("gate_overrides").Where("id = ? AND club_id = ?", o.ID, o.ClubID).Count(&n).Error; err != nil || n > 0 {
		return err
	}
	return taken(db.Table("gate_overrides").Omit("by_name").Create(&o).Error)
}

// WithdrawOverride takes an override back; it stays on the record.
func (s *Store) WithdrawOverride(ctx context.Context, club, id uuid.UUID, at time.Time) (app.Override, error) {
	var o app.Override
	return o, one(s.db.WithContext(ctx).Raw(`UPDATE gate_overrides SET withdrawn_at = ? WHERE club_id = ? AND id = ? AND withdrawn_at IS NULL RETURNING *`, at, club, id).Scan(&o))
}
