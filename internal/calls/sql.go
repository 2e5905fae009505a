package calls

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/lineup"
	"nineyard/core/season"
	"nineyard/internal/platform/pg"
)

// SQL is the Store in PostgreSQL.
type SQL struct{}

// need and spot are how needs and spots are written.
type need struct {
	Group     string   `json:"group"`
	Technique string   `json:"technique"`
	Stage     string   `json:"stage,omitempty"`
	Spots     []string `json:"spots,omitempty"`
}

type spot struct {
	Name    string  `json:"name"`
	Players []place `json:"players"`
}

type place struct {
	Player uuid.UUID `json:"player"`
	Share  int       `json:"share"`
}

const callRows = `
	SELECT x.id, x.name, x.side, x.kind, x.aliases, x.tags, x.share, x.install_on, x.needs, x.version, coalesce(u.name, '') AS changed_by
	FROM calls x LEFT JOIN users u ON u.id = x.updated_by AND u.club_id = x.club_id WHERE x.club_id = @club `

type callRow struct {
	ID        uuid.UUID
	Name      string
	Side      string
	Kind      string
	Aliases   []string
	Tags      []string
	Share     int
	InstallOn *time.Time
	Needs     json.RawMessage
	Version   int
	ChangedBy string
}

func (r callRow) entry() (Entry, error) {
	e := Entry{ID: r.ID, Version: r.Version, ChangedBy: r.ChangedBy, Call: call.Call{Name: r.Name, Side: group.Side(r.Side), Kind: r.Kind, Aliases: r.Aliases, Tags: r.Tags, Share: r.Share}}
	if r.InstallOn != nil {
		e.Call.Install = new(season.Of(*r.InstallOn))
	}
	var needs []need
	if err := json.Unmarshal(r.Needs, &needs); err != nil {
		return e, err
	}
	for _, n := range needs {
		e.Call.Needs = append(e.Call.Needs, call.Need(n))
	}
	return e, nil
}

// Calls lists those of a season.
func (SQL) Calls(ctx context.Context, seasonID uuid.UUID) ([]Entry, error) {
	rows, err := pg.Select[callRow](ctx, callRows+`AND x.season_id = @season`, pg.Args{"season": seasonID})
	if err != nil {
		return nil, err
	}
	list := make([]Entry, len(rows))
	for i, r := range rows {
		if list[i], err = r.entry(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// Call reads one and holds it.
func (SQL) Call(ctx context.Context, id uuid.UUID) (Entry, bool, error) {
	r, found, err := pg.One[callRow](ctx, callRows+`AND x.id = @id FOR UPDATE OF x`, pg.Args{"id": id})
	if err != nil || !found {
		return Entry{ID: id}, false, err
	}
	e, err := r.entry()
	return e, true, err
}

// PutCall writes one.
func (SQL) PutCall(ctx context.Context, seasonID uuid.UUID, e Entry, by uuid.UUID, at time.Time) error {
	x := e.Call
	needs := make([]need, len(x.Needs))
	for i, n := range x.Needs {
		needs[i] = need(n)
	}
	text, err := json.Marshal(needs)
	if err != nil {
		return err
	}
	var install *time.Time
	if x.Install != nil {
		install = new(x.Install.Time())
	}
	args := pg.Args{"id": e.ID, "season": seasonID, "name": x.Name, "side": string(x.Side), "kind": x.Kind, "aliases": append([]string{}, x.Aliases...), "tags": append([]string{}, x.Tags...),
		"share": x.Share, "install": install, "needs": string(text), "by": by, "at": at}
	write := `
		INSERT INTO calls (club_id, id, season_id, name, side, kind, aliases, tags, share, install_on, needs, updated_by, updated_at)
		VALUES (@club, @id, @season, @name, @side, @kind, @aliases, @tags, @share, @install, @needs::jsonb, @by, @at)`
	if e.Version > 0 {
		write = `
		UPDATE calls SET name = @name, side = @side, kind = @kind, aliases = @aliases, tags = @tags, share = @share, install_on = @install, needs = @needs::jsonb,
		                 version = version + 1, updated_by = @by, updated_at = @at
		WHERE club_id = @club AND id = @id`
	}
	_, err = pg.Exec(ctx, write, args)
	return err
}

// DeleteCall takes one out.
func (SQL) DeleteCall(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM calls WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// LineUps reads the line-ups as they hold in a week; their version is that of the newest.
func (SQL) LineUps(ctx context.Context, seasonID uuid.UUID, week int) ([]LineUp, error) {
	type row struct {
		GroupKey  string
		Week      *int
		Spots     json.RawMessage
		Version   int
		ChangedBy string
		Merged    map[uuid.UUID]uuid.UUID
	}
	rows, err := pg.Select[row](ctx, `
		SELECT n.group_key, l.week, coalesce(l.spots, '[]') AS spots, n.version, coalesce(u.name, '') AS changed_by,
		       coalesce((SELECT jsonb_object_agg(p.id, p.merged_into) FROM players p WHERE p.club_id = @club AND p.merged_into IS NOT NULL), '{}') AS merged
		FROM (SELECT group_key, max(version) AS version FROM line_ups WHERE club_id = @club AND season_id = @season GROUP BY group_key) n
		LEFT JOIN LATERAL (SELECT * FROM line_ups l WHERE l.club_id = @club AND l.season_id = @season AND l.group_key = n.group_key AND l.week <= @week ORDER BY l.week DESC LIMIT 1) l ON true
		LEFT JOIN users u ON u.id = l.updated_by AND u.club_id = @club
		ORDER BY n.group_key`, pg.Args{"season": seasonID, "week": week})
	if err != nil {
		return nil, err
	}
	list := make([]LineUp, len(rows))
	for i, r := range rows {
		list[i] = LineUp{Group: r.GroupKey, Version: r.Version, ChangedBy: r.ChangedBy}
		if r.Week != nil {
			list[i].Week = *r.Week
		}
		var spots []spot
		if err := json.Unmarshal(r.Spots, &spots); err != nil {
			return nil, err
		}
		for _, x := range spots {
			s := lineup.Spot{Name: x.Name}
			for _, p := range x.Players {
				id := p.Player
				for into, ok := r.Merged[id]; ok; into, ok = r.Merged[id] {
					id = into
				}
				s.Players = append(s.Players, lineup.Place{Player: id.String(), Share: p.Share})
			}
			list[i].Spots = append(list[i].Spots, s)
		}
	}
	return list, nil
}

// PutLineUp writes one as its version; false when that is not the one that comes next.
func (SQL) PutLineUp(ctx context.Context, seasonID uuid.UUID, l LineUp, by uuid.UUID, at time.Time) (bool, error) {
	if err := pg.Lock(ctx, "line-up "+l.Group); err != nil {
		return false, err
	}
	spots := []spot{}
	for _, s := range l.Spots {
		x := spot{Name: s.Name, Players: []place{}}
		for _, p := range s.Players {
			id, err := uuid.Parse(p.Player)
			if err != nil {
				return false, err
			}
			x.Players = append(x.Players, place{id, p.Share})
		}
		spots = append(spots, x)
	}
	text, err := json.Marshal(spots)
	if err != nil {
		return false, err
	}
	n, err := pg.Exec(ctx, `
		INSERT INTO line_ups (club_id, season_id, group_key, week, spots, version, updated_by, updated_at)
		SELECT @club, @season, @group, @week, @spots::jsonb, @version, @by, @at
		WHERE (SELECT coalesce(max(version), 0) FROM line_ups WHERE club_id = @club AND season_id = @season AND group_key = @group) = @version - 1
		ON CONFLICT (club_id, season_id, group_key, week) DO UPDATE SET spots = excluded.spots, version = excluded.version, updated_by = excluded.updated_by, updated_at = excluded.updated_at`,
		pg.Args{"season": seasonID, "group": l.Group, "week": l.Week, "spots": string(text), "version": l.Version, "by": by, "at": at})
	return n == 1, err
}
