package roster

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"nineyard/core/availability"
	"nineyard/core/roster"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// SQL is the Store, the Spells and the Lists over PostgreSQL.
type SQL struct{}

var (
	_ Store     = SQL{}
	_ Spells    = SQL{}
	_ Lists     = SQL{}
	_ Proposals = SQL{}
)

// playerRecord is a record of players, for writing.
type playerRecord struct {
	ID         uuid.UUID `gorm:"primaryKey"`
	ClubID     uuid.UUID
	Jersey     string
	FirstName  string
	LastName   string
	Position   string
	HeightIn   *float64
	WeightLb   *int
	Returner   bool
	Version    int
	ArchivedAt *time.Time
	CreatedBy  *uuid.UUID
	UpdatedAt  time.Time
	Groups     []groupRecord `gorm:"foreignKey:PlayerID"`
}

// TableName is players.
func (playerRecord) TableName() string { return "players" }

// groupRecord is a record of player_groups: a player in a group.
type groupRecord struct {
	ClubID   uuid.UUID
	PlayerID uuid.UUID `gorm:"primaryKey"`
	GroupKey string    `gorm:"primaryKey"`
}

// TableName is player_groups.
func (groupRecord) TableName() string { return "player_groups" }

// spellRecord is a record of availability_spells.
type spellRecord struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	ClubID      uuid.UUID
	PlayerID    uuid.UUID
	Status      string
	FromOn      time.Time
	ToOn        *time.Time
	Reason      string
	ClearedBy   *string
	ClearedOn   *time.Time
	RecordedBy  *uuid.UUID
	Version     int
	CreatedBy   *uuid.UUID
	CreatedAt   time.Time
	WithdrawnAt *time.Time
}

// TableName is availability_spells.
func (spellRecord) TableName() string { return "availability_spells" }

// row is a player as he is read.
type row struct {
	ID        uuid.UUID
	Jersey    string
	FirstName string
	LastName  string
	Position  string
	HeightIn  *float64
	WeightLb  *int
	Returning bool
	Groups    []string
	Spells    json.RawMessage
}

// jsonSpell is a spell as the database sends it beside its player.
type jsonSpell struct {
	ID, PlayerID         uuid.UUID
	Version              int
	Status, From         string
	To                   *string
	Reason               string
	ClearedBy, ClearedOn *string
	ClearedDocument      *string
	By, RecordedBy       string
	At                   time.Time
}

func (j jsonSpell) spell() (Spell, error) {
	s := Spell{ID: j.ID, PlayerID: j.PlayerID, Version: j.Version, By: j.By, RecordedBy: j.RecordedBy, At: j.At, Is: availability.Spell{Status: availability.Status(j.Status), Reason: j.Reason}}
	var err error
	if s.Is.From, err = season.Parse(j.From); err != nil {
		return s, err
	}
	if j.To != nil {
		to, err := season.Parse(*j.To)
		if err != nil {
			return s, err
		}
		s.Is.To = &to
	}
	if j.ClearedBy != nil && j.ClearedOn != nil {
		on, err := season.Parse(*j.ClearedOn)
		if err != nil {
			return s, err
		}
		s.Is.Cleared = &availability.Clearance{By: *j.ClearedBy, On: on}
		if j.ClearedDocument != nil { // of old there was none
			s.Is.Cleared.Document = *j.ClearedDocument
		}
	}
	return s, nil
}

func spells(raw json.RawMessage) ([]Spell, error) {
	var list []jsonSpell
	if err := json.Unmarshal(raw, &list); err != nil {
		return nil, err
	}
	out := make([]Spell, len(list))
	for i, j := range list {
		var err error
		if out[i], err = j.spell(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// spellObject writes a spell s of the database as a jsonSpell.
const spellObject = `jsonb_build_object('ID', s.id, 'PlayerID', s.player_id, 'Version', s.version, 'Status', s.status, 'From', s.from_on, 'To', s.to_on, 'Reason', s.reason,
	'ClearedBy', s.cleared_by, 'ClearedOn', s.cleared_on, 'ClearedDocument', s.cleared_document, 'At', s.created_at,
	'By', coalesce((SELECT u.name FROM users u WHERE u.id = s.created_by AND u.club_id = s.club_id), ''),
	'RecordedBy', coalesce((SELECT u.name FROM users u WHERE u.id = s.recorded_by AND u.club_id = s.club_id), ''))`

// columns of a player with his groups, in the order of the lanes, and the spells that meet a
// condition.
func columns(which string) string {
	return `
	p.id, p.jersey, p.first_name, p.last_name, p.position, p.height_in::float8 AS height_in, p.weight_lb, p.returner AS returning,
	coalesce((SELECT array_agg(g.group_key ORDER BY o.sort, o.key) FROM player_groups g JOIN position_groups o ON o.club_id = g.club_id AND o.key = g.group_key
	          WHERE g.player_id = p.id), '{}') AS groups,
	coalesce((SELECT jsonb_agg(` + spellObject + ` ORDER BY s.from_on, s.created_at, s.id) FROM availability_spells s
	          WHERE s.club_id = @club AND s.player_id = p.id AND s.withdrawn_at IS NULL ` + which + `), '[]') AS spells`
}

// onDay keeps the spells that may hold on a day; the core says which decides.
const onDay = ` AND s.from_on <= @day AND (s.to_on IS NULL OR s.to_on >= @day)`

// byNumber orders players by their number, then as lists do.
const byNumber = ` ORDER BY nullif(regexp_replace(p.jersey, '[^0-9]', '', 'g'), '')::int NULLS LAST, p.jersey, p.last_name, p.first_name, p.id`

func (r row) player(day season.Date) (squad.Player, error) {
	p := squad.Player{ID: r.ID, Jersey: r.Jersey, FirstName: r.FirstName, LastName: r.LastName, Position: r.Position, HeightIn: r.HeightIn, WeightLb: r.WeightLb,
		Returning: r.Returning, Groups: r.Groups, Status: availability.Available}
	list, err := spells(r.Spells)
	if s, holds := availability.On(facts(list), day); holds {
		p.Status, p.Note = s.Status, s.Reason
	}
	return p, err
}

func squadOf(ctx context.Context, where string, args pg.Args, day season.Date) ([]squad.Player, error) {
	args["day"] = day.Time()
	rows, err := pg.Select[row](ctx, `SELECT `+columns(onDay)+` FROM players p WHERE p.club_id = @club AND p.merged_into IS NULL `+where, args)
	list := make([]squad.Player, len(rows))
	for i, r := range rows {
		if list[i], err = r.player(day); err != nil {
			return nil, err
		}
	}
	return list, err
}

// Group lists the players of a group by number, as of a day.
func (SQL) Group(ctx context.Context, group string, day season.Date) ([]squad.Player, error) {
	return squadOf(ctx, `AND p.archived_at IS NULL AND EXISTS (SELECT 1 FROM player_groups g WHERE g.player_id = p.id AND g.group_key = @grp)`+byNumber, pg.Args{"grp": group}, day)
}

// All lists everybody, archived players too.
func (SQL) All(ctx context.Context, day season.Date) ([]squad.Player, error) {
	return squadOf(ctx, `ORDER BY p.id`, pg.Args{}, day)
}

// entryRow is a player as the roster reads him.
type entryRow struct {
	row
	Version  int
	Archived bool
	Marks    int
}

func entries(ctx context.Context, s access.Season, where string, args pg.Args) ([]Entry, error) {
	args["start"] = s.Start.Time()
	rows, err := pg.Select[entryRow](ctx, `SELECT `+columns("")+`, p.version, p.archived_at IS NOT NULL AS archived,
		(SELECT coalesce(sum(m.clean + m.faulty + m.not_graded), 0) FROM mark_days m WHERE m.club_id = @club AND m.player_id = p.id AND m.on_date >= @start)::int AS marks
		FROM players p WHERE p.club_id = @club AND p.merged_into IS NULL `+where, args)
	list := make([]Entry, len(rows))
	for i, r := range rows {
		e := Entry{ID: r.ID, Version: r.Version, Groups: r.Groups, Archived: r.Archived, Marks: r.Marks,
			Person: roster.Person{Jersey: r.Jersey, First: r.FirstName, Last: r.LastName, Position: r.Position, Returning: r.Returning}}
		if r.HeightIn != nil {
			e.Person.HeightIn = *r.HeightIn
		}
		if r.WeightLb != nil {
			e.Person.WeightLb = float64(*r.WeightLb)
		}
		if e.Spells, err = spells(r.Spells); err != nil {
			return nil, err
		}
		list[i] = e
	}
	return list, err
}

// Entries lists everybody but those who were merged away.
func (SQL) Entries(ctx context.Context, s access.Season) ([]Entry, error) {
	return entries(ctx, s, byNumber, pg.Args{})
}

// Entry reads one player and holds him until the transaction ends.
func (SQL) Entry(ctx context.Context, s access.Season, id uuid.UUID) (Entry, bool, error) {
	list, err := entries(ctx, s, `AND p.id = @id FOR UPDATE OF p`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return Entry{}, false, err
	}
	return list[0], true, nil
}

func orNull[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

// Save writes a player and his groups.
func (SQL) Save(ctx context.Context, e Entry, by uuid.UUID) error {
	db := pg.Gorm(ctx)
	p := e.Person
	groups := make([]groupRecord, len(e.Groups))
	for i, k := range e.Groups {
		groups[i] = groupRecord{PlayerID: e.ID, GroupKey: k}
	}
	now := db.NowFunc()
	var archived *time.Time
	if e.Archived {
		archived = &now
	}
	if e.Version == 0 {
		return db.Create(&playerRecord{ID: e.ID, Jersey: p.Jersey, FirstName: p.First, LastName: p.Last, Position: p.Position, HeightIn: orNull(p.HeightIn),
			WeightLb: orNull(int(p.WeightLb)), Returner: p.Returning, Version: 1, ArchivedAt: archived, CreatedBy: &by, Groups: groups}).Error
	}
	// A map, because GORM passes over zero values in structs.
	res := db.Model(&playerRecord{}).Where("id = ? AND version = ?", e.ID, e.Version).Updates(map[string]any{
		"jersey": p.Jersey, "first_name": p.First, "last_name": p.Last, "position": p.Position, "height_in": orNull(p.HeightIn), "weight_lb": orNull(int(p.WeightLb)),
		"returner": p.Returning, "archived_at": archived, "version": gorm.Expr("version + 1"), "updated_at": now})
	if res.Error == nil && res.RowsAffected == 0 {
		return problem.ErrNotFound
	}
	if res.Error != nil {
		return res.Error
	}
	if err := db.Where("player_id = ? AND group_key NOT IN ?", e.ID, append([]string{""}, e.Groups...)).Delete(&groupRecord{}).Error; err != nil {
		return err
	}
	_, err := pg.Exec(ctx, `INSERT INTO player_groups (club_id, player_id, group_key) SELECT @club, @player, unnest(@groups::text[]) ON CONFLICT DO NOTHING`,
		pg.Args{"player": e.ID, "groups": e.Groups})
	return err
}

// Merge gives everything of one player to another.
func (SQL) Merge(ctx context.Context, gone, kept uuid.UUID) (int, error) {
	type row struct{ Moved int }
	r, _, err := pg.One[row](ctx, `SELECT merge_players(@gone, @kept)::int AS moved`, pg.Args{"gone": gone, "kept": kept})
	return r.Moved, err
}

// Spell reads one spell and holds it until the transaction ends.
func (SQL) Spell(ctx context.Context, id uuid.UUID) (Spell, bool, error) {
	type row struct{ Spell json.RawMessage }
	r, found, err := pg.One[row](ctx, `SELECT `+spellObject+` AS spell FROM availability_spells s
		WHERE s.club_id = @club AND s.id = @id AND s.withdrawn_at IS NULL FOR UPDATE OF s`, pg.Args{"id": id})
	if err != nil || !found {
		return Spell{}, false, err
	}
	list, err := spells(json.RawMessage(`[` + string(r.Spell) + `]`))
	if err != nil {
		return Spell{}, false, err
	}
	return list[0], true, nil
}

// SaveSpell writes a spell.
func (SQL) SaveSpell(ctx context.Context, s Spell, by uuid.UUID, at time.Time) error {
	var to, clearedOn *time.Time
	var clearedBy, document *string
	var recordedBy *uuid.UUID
	if s.Is.To != nil {
		to = new(s.Is.To.Time())
	}
	if c := s.Is.Cleared; c != nil {
		clearedBy, clearedOn, document, recordedBy = &c.By, new(c.On.Time()), &c.Document, &by
	}
	if s.Version == 0 {
		return pg.Gorm(ctx).Create(&spellRecord{ID: s.ID, PlayerID: s.PlayerID, Status: string(s.Is.Status), FromOn: s.Is.From.Time(), ToOn: to, Reason: s.Is.Reason,
			ClearedBy: clearedBy, ClearedOn: clearedOn, RecordedBy: recordedBy, Version: 1, CreatedBy: &by, CreatedAt: at}).Error
	}
	return pg.Gorm(ctx).Model(&spellRecord{}).Where("id = ?", s.ID).Updates(map[string]any{"status": string(s.Is.Status), "from_on": s.Is.From.Time(), "to_on": to,
		"reason": s.Is.Reason, "cleared_by": clearedBy, "cleared_on": clearedOn, "cleared_document": document, "recorded_by": recordedBy, "version": gorm.Expr("version + 1")}).Error
}

// WithdrawSpell takes a spell back; it stays on the record.
func (SQL) WithdrawSpell(ctx context.Context, id uuid.UUID, at time.Time) error {
	return pg.Gorm(ctx).Model(&spellRecord{}).Where("id = ?", id).Updates(map[string]any{"withdrawn_at": at}).Error
}
