package players

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/internal/platform/pg"
	"nineyard/internal/players/standing"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// overrideRow is a record of gate_overrides.
type overrideRow struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	ClubID      uuid.UUID
	SeasonID    uuid.UUID
	PlayerID    uuid.UUID
	LadderKey   string
	StageKey    string
	OnDate      time.Time
	Reason      string
	CreatedBy   uuid.UUID
	CreatedAt   time.Time
	WithdrawnAt *time.Time
}

// TableName is gate_overrides.
func (overrideRow) TableName() string { return "gate_overrides" }

// rangeRow is a record of player_exceptions: the ranges of their own that players have.
type rangeRow struct {
	ID            uuid.UUID `gorm:"primaryKey"`
	ClubID        uuid.UUID
	PlayerID      uuid.UUID
	CheckpointKey string
	OkLow         float64
	OkHigh        float64
	WatchLow      float64
	WatchHigh     float64
	Reason        string
	CreatedBy     uuid.UUID
	CreatedAt     time.Time
	WithdrawnAt   *time.Time
}

// TableName is player_exceptions.
func (rangeRow) TableName() string { return "player_exceptions" }

// decided is an override or an own range as it is read; what the other has is null.
type decided struct {
	Range     bool
	ID        uuid.UUID
	PlayerID  uuid.UUID
	Key       string // of the ladder, or of the checkpoint
	StageKey  *string
	OnDate    *time.Time
	OkLow     *float64
	OkHigh    *float64
	WatchLow  *float64
	WatchHigh *float64
	Reason    string
	ByName    string
	CreatedAt time.Time
}

const (
	overridesHeld = `
		SELECT false AS range, o.id, o.player_id, o.ladder_key AS key, o.stage_key, o.on_date,
		       NULL::float8 AS ok_low, NULL::float8 AS ok_high, NULL::float8 AS watch_low, NULL::float8 AS watch_high,
		       o.reason, coalesce(u.name, '') AS by_name, o.created_at
		FROM gate_overrides o LEFT JOIN users u ON u.id = o.created_by AND u.club_id = o.club_id
		WHERE o.club_id = @club AND o.season_id = @season AND o.withdrawn_at IS NULL`
	rangesHeld = `
		SELECT true AS range, x.id, x.player_id, x.checkpoint_key AS key, NULL AS stage_key, NULL::date AS on_date, x.ok_low, x.ok_high, x.watch_low, x.watch_high,
		       x.reason, coalesce(u.name, '') AS by_name, x.created_at
		FROM player_exceptions x LEFT JOIN users u ON u.id = x.created_by AND u.club_id = x.club_id
		WHERE x.club_id = @club AND x.withdrawn_at IS NULL`
	oldestFirst = ` ORDER BY created_at, id`
)

func decisions(ctx context.Context, query string, args pg.Args) (Decisions, error) {
	rows, err := pg.Select[decided](ctx, query+oldestFirst, args)
	d := Decisions{Overrides: []Override{}, Ranges: []standing.Range{}}
	for _, r := range rows {
		if r.Range {
			d.Ranges = append(d.Ranges, standing.Range{ID: r.ID, PlayerID: r.PlayerID, Checkpoint: r.Key, Reason: r.Reason, By: r.ByName, On: season.Of(r.CreatedAt),
				Own: standard.OwnRange{OK: standard.Band{Low: *r.OkLow, High: *r.OkHigh}, Watch: standard.Band{Low: *r.WatchLow, High: *r.WatchHigh}}})
			continue
		}
		d.Overrides = append(d.Overrides, Override{ID: r.ID, PlayerID: r.PlayerID, LadderKey: r.Key, StageKey: *r.StageKey, On: season.Of(*r.OnDate), Reason: r.Reason, ByName: r.ByName, At: r.CreatedAt})
	}
	return d, err
}

// Decisions reads a season's overrides and the ranges of the club's players that hold.
func (SQL) Decisions(ctx context.Context, seasonID uuid.UUID) (Decisions, error) {
	return decisions(ctx, overridesHeld+` UNION ALL `+rangesHeld, pg.Args{"season": seasonID})
}

// Ranges lists the ranges alone.
func (SQL) Ranges(ctx context.Context) ([]standing.Range, error) {
	d, err := decisions(ctx, rangesHeld, nil)
	return d.Ranges, err
}

// AddOverride records that a coach let a player pass a stage.
func (SQL) AddOverride(ctx context.Context, seasonID uuid.UUID, o Override) error {
	there, err := exists(ctx, &overrideRow{}, o.ID)
	if err != nil || there {
		return err
	}
	return pg.Gorm(ctx).Create(&overrideRow{ID: o.ID, SeasonID: seasonID, PlayerID: o.PlayerID, LadderKey: o.LadderKey, StageKey: o.StageKey,
		OnDate: o.On.Time(), Reason: o.Reason, CreatedBy: o.By, CreatedAt: o.At}).Error
}

func exists(ctx context.Context, model any, id uuid.UUID) (bool, error) {
	var n int64
	err := pg.Gorm(ctx).Model(model).Where("id = ?", id).Count(&n).Error
	return n > 0, err
}

// WithdrawOverride takes an override back; it stays on the record.
func (SQL) WithdrawOverride(ctx context.Context, id uuid.UUID, when time.Time) (Override, bool, error) {
	var r overrideRow
	err := pg.Gorm(ctx).Where("id = ? AND withdrawn_at IS NULL", id).Take(&r).Error
	if pg.Missing(err) {
		return Override{}, false, nil
	}
	if err != nil {
		return Override{}, false, err
	}
	err = pg.Gorm(ctx).Model(&overrideRow{}).Where("id = ?", id).Updates(map[string]any{"withdrawn_at": when}).Error
	return Override{ID: r.ID, PlayerID: r.PlayerID, LadderKey: r.LadderKey, StageKey: r.StageKey, On: season.Of(r.OnDate), Reason: r.Reason, By: r.CreatedBy, At: r.CreatedAt}, true, err
}

// PutRange makes a player's own range at a checkpoint the one given, taking back the one
// before.
func (SQL) PutRange(ctx context.Context, x NewRange) error {
	there, err := exists(ctx, &rangeRow{}, x.ID)
	if err != nil || there {
		return err
	}
	if _, err := (SQL{}).WithdrawRange(ctx, x.PlayerID, x.Checkpoint, x.At); err != nil {
		return err
	}
	return pg.Gorm(ctx).Create(&rangeRow{ID: x.ID, PlayerID: x.PlayerID, CheckpointKey: x.Checkpoint, OkLow: x.Own.OK.Low, OkHigh: x.Own.OK.High,
		WatchLow: x.Own.Watch.Low, WatchHigh: x.Own.Watch.High, Reason: x.Reason, CreatedBy: x.By, CreatedAt: x.At}).Error
}

// WithdrawRange takes a player's own range back; it stays on the record.
func (SQL) WithdrawRange(ctx context.Context, player uuid.UUID, checkpoint string, when time.Time) (bool, error) {
	res := pg.Gorm(ctx).Model(&rangeRow{}).Where("player_id = ? AND checkpoint_key = ? AND withdrawn_at IS NULL", player, checkpoint).
		Updates(map[string]any{"withdrawn_at": when})
	return res.RowsAffected > 0, res.Error
}
