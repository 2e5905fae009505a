package find

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"nineyard/internal/access"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// Kept is the version the club's own terms follow from.
func (SQL) Kept(ctx context.Context) (int, error) {
	type row struct{ Version int }
	r, _, err := pg.One[row](ctx, `SELECT version FROM library_found WHERE club_id = @club`, nil)
	return r.Version, err
}

// list is terms as columns, for one statement whatever their number.
func list(terms []Term) (pg.Args, error) {
	var kind, key, technique, groups, name, words, body []string
	var hidden []bool
	for _, t := range terms {
		g, err := json.Marshal(t.Groups)
		if err != nil {
			return nil, err
		}
		kind, key, technique, groups = append(kind, t.Kind), append(key, t.Key), append(technique, t.Technique), append(groups, string(g))
		name, words, body, hidden = append(name, t.Name), append(words, t.Terms), append(body, t.Body), append(hidden, t.Hidden)
	}
	return pg.Args{"kind": kind, "key": key, "technique": technique, "groups": groups, "name": name, "terms": words, "body": body, "hidden": hidden}, nil
}

const unnested = `unnest(@kind::text[], @key::text[], @technique::text[], @groups::text[], @name::text[], @terms::text[], @body::text[], @hidden::boolean[])
	AS t (kind, key, technique, groups, name, terms, body, hidden)`

// Replace rewrites the club's own terms, a few rows.
func (SQL) Replace(ctx context.Context, version int, own []Term) error {
	args, err := list(own)
	if err != nil {
		return err
	}
	args["version"] = version
	for _, step := range []string{
		`DELETE FROM library_terms WHERE club_id = @club`,
		`DELETE FROM library_words WHERE club_id = @club`,
		`INSERT INTO library_terms (club_id, kind, key, technique, groups, name, terms, body, hidden)
		 SELECT @club, kind, key, technique, groups::jsonb, name, terms, body, hidden FROM ` + unnested + ` ON CONFLICT DO NOTHING`,
		`INSERT INTO library_words (club_id, word)
		 SELECT DISTINCT @club::uuid, w FROM library_terms, regexp_split_to_table(terms || ' ' || lower(body), '[^[:alnum:]]+') w
		 WHERE club_id = @club AND length(w) > 2`,
		`INSERT INTO library_found (club_id, version) VALUES (@club, @version) ON CONFLICT (club_id) DO UPDATE SET version = excluded.version`,
	} {
		if _, err := pg.Exec(ctx, step, args); err != nil {
			return err
		}
	}
	return nil
}

// KeepEdition keeps the terms of an edition, once for all clubs.
func (SQL) KeepEdition(ctx context.Context, digest string, terms func() []Term) error {
	type row struct{ Known bool }
	r, _, err := pg.One[row](ctx, `SELECT EXISTS (SELECT 1 FROM edition_terms WHERE digest = @digest) AS known`, pg.Args{"digest": digest})
	if err != nil || r.Known {
		return err
	}
	args, err := list(terms())
	if err != nil {
		return err
	}
	args["digest"] = digest
	for _, step := range []string{
		`INSERT INTO edition_terms (digest, kind, key, technique, groups, name, terms, body)
		 SELECT @digest, kind, key, technique, groups::jsonb, name, terms, body FROM ` + unnested + ` ON CONFLICT DO NOTHING`,
		`INSERT INTO edition_words (digest, word)
		 SELECT DISTINCT @digest::text, w FROM edition_terms, regexp_split_to_table(terms || ' ' || lower(body), '[^[:alnum:]]+') w
		 WHERE digest = @digest AND length(w) > 2 ON CONFLICT DO NOTHING`,
	} {
		if _, err := pg.Exec(ctx, step, args); err != nil {
			return err
		}
	}
	return nil
}

// enough is how many hits by their words make looking for other spellings unnecessary.
const enough = 6

// Search looks for words and their beginnings. When that finds little, each word is taken
// for those of the library that are spelled most like it. What the group is taught comes
// first among equals.
func (q SQL) Search(ctx context.Context, digest, words, group string, limit int) ([]Hit, error) {
	asked := strings.FieldsFunc(words, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	begins := make([]string, len(asked))
	for i, w := range asked {
		begins[i] = w + ":*"
	}
	args := pg.Args{"digest": digest, "words": words, "grp": group, "limit": limit, "query": strings.Join(begins, " & ")}
	hits, err := pg.Select[Hit](ctx, searching, args)
	if err != nil || len(hits) >= enough {
		return hits, err
	}
	if len(hits) == 0 {
		if hits, err = pg.Select[Hit](ctx, called, args); err != nil || len(hits) > 0 {
			return hits, err
		}
	}
	query, err := respelled(ctx, digest, asked)
	if err != nil || query == "" {
		return hits, err
	}
	args["query"] = query
	alike, err := pg.Select[Hit](ctx, searching, args)
	for _, h := range alike {
		if !slices.ContainsFunc(hits, func(x Hit) bool { return x.Kind == h.Kind && x.Key == h.Key }) && len(hits) < limit {
			hits = append(hits, h)
		}
	}
	return hits, err
}

// searchForm finds what matches a tsquery in the club's own terms and those of its edition
// that it did not change. A name, then an alias, that is the very words comes first, then one that holds them.
const searchForm = `
	WITH q AS MATERIALIZED (SELECT to_tsquery('english', @query) AS query),
	own AS MATERIALIZED (SELECT * FROM library_terms WHERE club_id = @club),
	found AS MATERIALIZED (
		SELECT kind, key, technique, groups, name, terms, body, search FROM own, q WHERE NOT hidden AND %[1]s
		UNION ALL
		SELECT kind, key, technique, groups, name, terms, body, search FROM edition_terms e, q
		WHERE digest = @digest AND %[1]s AND NOT EXISTS (SELECT 1 FROM own WHERE own.kind = e.kind AND own.key = e.key)),
	x AS MATERIALIZED (
		SELECT f.*, groups @> to_jsonb(@grp::text) AS mine, ts_rank(f.search, q.query)::float8 AS score,
		       CASE WHEN strpos(terms || ' · ', @words || ' · ') = 1 THEN 3 WHEN strpos(' · ' || terms || ' · ', ' · ' || @words || ' · ') > 0 THEN 2
		            WHEN strpos(terms, @words) > 0 THEN 1 ELSE 0 END AS named
		FROM found f, q)
	SELECT kind, key, technique, name, terms, body, mine, score FROM x
	ORDER BY named DESC, mine DESC, round(score::numeric, 1) DESC,
	         array_position(ARRAY['technique', 'fault', 'drill', 'ladder', 'checkpoint', 'table', 'question'], kind), score DESC, name LIMIT @limit`

var (
	searching = fmt.Sprintf(searchForm, "search @@ q.query")
	// called finds what is called just that, where its words are such as every text has: out, in and out.
	called = fmt.Sprintf(searchForm, "strpos(' · ' || terms || ' · ', ' · ' || @words || ' · ') > 0")
)

// swapped spells a word in every way in which two letters beside each other are swapped:
// the slip of a quick hand, which leaves a short word few trigrams in common with itself.
func swapped(word string) []string {
	var list []string
	letters := []rune(word)
	for i := 0; i+1 < len(letters); i++ {
		if letters[i] == letters[i+1] {
			continue
		}
		w := slices.Clone(letters)
		w[i], w[i+1] = w[i+1], w[i]
		list = append(list, string(w))
	}
	return list
}

// respelled writes a query in which each word is one of those of the library that are it but
// for two letters swapped, or share the most trigrams with it; empty when a word is like none.
func respelled(ctx context.Context, digest string, asked []string) (string, error) {
	var long, slips []string
	for _, w := range asked {
		if len(w) >= 3 { // of, to, a: nothing to spell
			long, slips = append(long, w), append(slips, strings.Join(swapped(w), " "))
		}
	}
	type row struct{ Asked, Word string }
	rows, err := pg.Select[row](ctx, `
		SELECT a.asked, n.word FROM unnest(@asked::text[], @slips::text[]) WITH ORDINALITY AS a (asked, slips, i)
		CROSS JOIN LATERAL (
			SELECT w.word, similarity(w.word, a.asked) AS alike, w.word = ANY (string_to_array(a.slips, ' ')) AS slip
			FROM (SELECT word FROM edition_words WHERE digest = @digest UNION SELECT word FROM library_words WHERE club_id = @club) w
			WHERE similarity(w.word, a.asked) >= 0.25 OR w.word = ANY (string_to_array(a.slips, ' '))
			ORDER BY slip DESC, alike DESC, w.word LIMIT 4) n
		ORDER BY a.i, n.slip DESC, n.alike DESC, n.word`, pg.Args{"asked": full(long), "slips": full(slips), "digest": digest})
	if err != nil {
		return "", err
	}
	near := map[string][]string{}
	for _, r := range rows {
		near[r.Asked] = append(near[r.Asked], r.Word)
	}
	var parts []string
	for _, w := range long {
		if len(near[w]) == 0 {
			return "", nil
		}
		parts = append(parts, "("+strings.Join(near[w], " | ")+")")
	}
	return strings.Join(parts, " & "), nil
}

// uses sums marks up over the practices they were made in, from what is kept of a season:
// drills by where they are placed, techniques by their runs, faults by the days they were
// shown on.
const uses = `
	WITH placed AS (
		SELECT 'drill' AS kind, pl.drill_key AS key, p.id AS practice_id, p.on_date,
		       coalesce((SELECT sum(length(r.reps)) FROM mark_runs r WHERE r.club_id = @club AND r.place_id = pl.id), 0) AS marks
		FROM placements pl JOIN periods e ON e.id = pl.period_id JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = @club AND p.season_id = @season AND pl.drill_key = ANY (@drills)
		UNION ALL
		SELECT 'technique', r.technique_key, e.practice_id, r.on_date, length(r.reps) FROM mark_runs r
		LEFT JOIN placements pl ON pl.club_id = r.club_id AND pl.id = r.place_id LEFT JOIN periods e ON e.id = pl.period_id
		WHERE r.club_id = @club AND r.technique_key = ANY (@techniques) AND r.on_date >= @start
		UNION ALL
		SELECT 'fault', f.fault, p.id, f.on_date, f.n FROM mark_fault_days f
		LEFT JOIN LATERAL (SELECT id FROM practices WHERE club_id = @club AND season_id = @season AND on_date = f.on_date AND NOT f.game ORDER BY start_minute LIMIT 1) p ON true
		WHERE f.club_id = @club AND f.fault = ANY (@faults) AND f.on_date >= @start AND f.n > 0),
	summed AS (SELECT kind, key, practice_id, on_date, sum(marks) AS marks FROM placed GROUP BY 1, 2, 3, 4)
	SELECT kind, key, count(practice_id)::int AS practices, coalesce(sum(marks), 0)::int AS marks,
	       coalesce(to_jsonb((array_agg(jsonb_build_object('Practice', practice_id, 'On', to_char(on_date, 'YYYY-MM-DD"T00:00:00Z"')) ORDER BY on_date DESC)
	                 FILTER (WHERE practice_id IS NOT NULL))[1:4]), '[]') AS recent
	FROM summed GROUP BY 1, 2 ORDER BY 1, 2`

// Uses tells where entries are used in a season.
func (SQL) Uses(ctx context.Context, s access.Season, keys Keys) ([]Use, error) {
	type row struct {
		Kind, Key        string
		Practices, Marks int
		Recent           json.RawMessage
	}
	rows, err := pg.Select[row](ctx, uses, pg.Args{"season": s.ID, "start": s.Start.Time(), "drills": full(keys.Drills), "techniques": full(keys.Techniques), "faults": full(keys.Faults)})
	out := make([]Use, len(rows))
	for i, r := range rows {
		out[i] = Use{Kind: r.Kind, Key: r.Key, Practices: r.Practices, Marks: r.Marks}
		if err := json.Unmarshal(r.Recent, &out[i].Recent); err != nil {
			return nil, err
		}
	}
	return out, err
}

// full is a list that is never null: = ANY (NULL) is not false but unknown.
func full(keys []string) []string { return append([]string{}, keys...) }
