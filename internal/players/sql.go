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

// Overrides lists the stages that players passed on a coach's word in a season.
func (SQL) Overrides(ctx context.Context, seasonID uuid.UUID) ([]Override, error) {
	type row struct {
		ID        uuid.UUID
		PlayerID  uuid.UUID
		LadderKey string
		StageKey  string
		OnDate    time.Time
		Reason    string
		ByName    string
		CreatedAt time.Time
	}
	rows, err := pg.Select[row](ctx, `
		SELECT o.id, o.player_id, o.ladder_key, o.stage_key, o.on_date, o.reason, coalesce(u.name, '') AS by_name, o.created_at
		FROM gate_overrides o LEFT JOIN users u ON u.id = o.created_by AND u.club_id = o.club_id
		WHERE o.club_id = @club AND o.season_id = @season AND o.withdrawn_at IS NULL ORDER BY o.created_at, o.id`, pg.Args{"season": seasonID})
	list := make([]Override, len(rows))
	for i, r := range rows {
		list[i] = Override{ID: r.ID, PlayerID: r.PlayerID, LadderKey: r.LadderKey, StageKey: r.StageKey, On: season.Of(r.OnDate), Reason: r.Reason, ByName: r.ByName, At: r.CreatedAt}
	}
	return list, err
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

// Ranges lists the ranges of their own that players of the club have.
func (SQL) Ranges(ctx context.Context) ([]standing.Range, error) {
	type row struct {
		ID            uuid.UUID
		PlayerID      uuid.UUID
		CheckpointKey string
		OkLow         float64
		OkHigh        float64
		WatchLow      float64
		WatchHigh     float64
		Reason        string
		ByName        string
		CreatedAt     time.Time
	}
	rows, err := pg.Select[row](ctx, `
		SELECT x.id, x.player_id, x.checkpoint_key, x.ok_low, x.ok_high, x.watch_low, x.watch_high, x.reason, coalesce(u.name, '') AS by_name, x.created_at
		FROM player_exceptions x LEFT JOIN users u ON u.id = x.created_by AND u.club_id = x.club_id
		WHERE x.club_id = @club AND x.withdrawn_at IS NULL ORDER BY x.created_at, x.id`, nil)
	list := make([]standing.Range, len(rows))
	for i, r := range rows {
		list[i] = standing.Range{ID: r.ID, PlayerID: r.PlayerID, Checkpoint: r.CheckpointKey, Reason: r.Reason, By: r.ByName, On: season.Of(r.CreatedAt),
			Own: standard.OwnRange{OK: standard.Band{Low: r.OkLow, High: r.OkHigh}, Watch: standard.Band{Low: r.WatchLow, High: r.WatchHigh}}}
	}
	return list, err
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
