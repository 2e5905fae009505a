package store

import (
	"context"
	"encoding/json"
	"errors"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"nineyard/internal/app"
)

// Players lists the players of a group by jersey.
func (s *Store) Players(ctx context.Context, club uuid.UUID, group string) ([]app.Player, error) {
	var rows []app.Player
	return rows, s.db.WithContext(ctx).Raw(`
		SELECT p.* FROM players p JOIN player_groups g ON g.player_id = p.id
		WHERE p.club_id = ? AND g.group_key = ?
		ORDER BY nullif(regexp_replace(p.jersey, '[^0-9]', '', 'g'), '')::int NULLS LAST, p.jersey, p.last_name`, club, group).Scan(&rows).Error
}

// AllPlayers lists every player of the club.
func (s *Store) AllPlayers(ctx context.Context, club uuid.UUID) ([]app.Player, error) {
	var rows []app.Player
	return rows, s.db.WithContext(ctx).Table("players").Where("club_id = ?", club).Order("id").Find(&rows).Error
}

// Player reads one player.
func (s *Store) Player(ctx context.Context, club, id uuid.UUID) (app.Player, error) {
	var p app.Player
	return p, one(s.db.WithContext(ctx).Table("players").Where("club_id = ? AND id = ?", club, id).Take(&p))
}

// SavePlayers creates and updates players; groups says into which group each goes.
// A player keeps the groups he is in.
func (s *Store) SavePlayers(ctx context.Context, create, update []app.Player, by uuid.UUID, groups map[uuid.UUID]string) error {
	db := s.db.WithContext(ctx)
	var links []map[string]any
	link := func(p app.Player) {
		if g := groups[p.ID]; g != "" {
			links = append(links, map[string]any{"club_id": p.ClubID, "player_id": p.ID, "group_key": g})
		}
	}
	for _, p := range create {
		link(p)
	}
	for _, p := range update {
		link(p)
		// A map, because GORM passes over zero values in structs.
		err := db.Table("players").Where("club_id = ? AND id = ?", p.ClubID, p.ID).Updates(map[string]any{
			"jersey": p.Jersey, "position": p.Position, "height_in": p.HeightIn, "weight_lb": p.WeightLb,
			"returner": p.Returning, "version": gorm.Expr("version + 1"), "updated_at": gorm.Expr("now()"),
		}).Error
		if err != nil {
			return err
		}
	}
	if len(create) > 0 {
		rows := make([]map[string]any, len(create))
		for i, p := range create {
			rows[i] = map[string]any{"id": p.ID, "club_id": p.ClubID, "jersey": p.Jersey, "first_name": p.FirstName, "last_name": p.LastName,
				"position": p.Position, "height_in": p.HeightIn, "weight_lb": p.WeightLb, "returner": p.Returning, "created_by": by}
		}
		if err := db.Table("players").CreateInBatches(&rows, 500).Error; err != nil {
			return err
		}
	}
	for _, l := range links {
		if err := db.Exec(`INSERT INTO player_groups (club_id, player_id, group_key) VALUES (@club_id, @player_id, @group_key) ON CONFLICT DO NOTHING`, l).Error; err != nil {
			return err
		}
	}
	return nil
}

// RosterMapping reads the mapping chosen for a file with these headers before; nil
// when there is none.
func (s *Store) RosterMapping(ctx context.Context, club uuid.UUID, headers string) (map[string]int, error) {
	var row struct{ Mapping json.RawMessage }
	err := one(s.db.WithContext(ctx).Table("roster_mappings").Where("club_id = ? AND headers = ?", club, headers).Take(&row))
	if errors.Is(err, app.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var mapping map[string]int
	return mapping, json.Unmarshal(row.Mapping, &mapping)
}

// SaveRosterMapping remembers the mapping for files with these headers.
func (s *Store) SaveRosterMapping(ctx context.Context, club uuid.UUID, headers string, mapping map[string]int) error {
	text, err := json.Marshal(mapping)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec(`
		INSERT INTO roster_mappings (club_id, headers, mapping) VALUES (?, ?, ?::jsonb)
		ON CONFLICT (club_id, headers) DO UPDATE SET mapping = excluded.mapping`, club, headers, string(text)).Error
}

// LockRoster takes the club's row for the length of the transaction.
func (s *Store) LockRoster(ctx context.Context, club uuid.UUID) error {
	return s.db.WithContext(ctx).Exec(`SELECT id FROM clubs WHERE id = ? FOR UPDATE`, club).Error
}
