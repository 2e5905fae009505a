package teach

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/merge"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// versionRow is a row of house_versions.
type versionRow struct {
	ClubID    uuid.UUID `gorm:"primaryKey"`
	Version   int       `gorm:"primaryKey;autoIncrement:false"`
	ID        uuid.UUID
	Digest    string
	Layer     merge.Layer `gorm:"serializer:json"`
	Touched   []string    `gorm:"serializer:json"`
	Summary   string
	CreatedBy *uuid.UUID
	CreatedAt time.Time
}

// TableName is house_versions.
func (versionRow) TableName() string { return "house_versions" }

// row is a version as it is read, with the name of who made it.
type row struct {
	Version   int
	ID        uuid.UUID
	Digest    string
	Layer     json.RawMessage
	Touched   json.RawMessage
	Summary   string
	CreatedBy *uuid.UUID
	CreatedAt time.Time
	ByName    string
}

func (r row) version() (Version, error) {
	v := Version{Version: r.Version, ID: r.ID, Digest: r.Digest, Summary: r.Summary, CreatedBy: r.CreatedBy, CreatedAt: r.CreatedAt, ByName: r.ByName}
	if err := json.Unmarshal(r.Layer, &v.Layer); err != nil {
		return v, err
	}
	return v, json.Unmarshal(r.Touched, &v.Touched)
}

// columns of a version; the layer is left out of lists.
func columns(layer string) string {
	return `
	SELECT v.version, v.id, v.digest, ` + layer + ` AS layer, v.touched, v.summary, v.created_by, v.created_at, coalesce(u.name, '') AS by_name
	FROM house_versions v LEFT JOIN users u ON u.id = v.created_by AND u.club_id = v.club_id
	WHERE v.club_id = @club `
}

func one(ctx context.Context, where string, args pg.Args) (Version, bool, error) {
	r, found, err := pg.One[row](ctx, columns("v.layer")+where, args)
	if err != nil || !found {
		return Version{}, false, err
	}
	v, err := r.version()
	return v, true, err
}

// Version reads a version; zero means the latest.
func (SQL) Version(ctx context.Context, version int) (Version, bool, error) {
	return one(ctx, `AND (@version = 0 OR v.version = @version) ORDER BY v.version DESC LIMIT 1`, pg.Args{"version": version})
}

// VersionByID finds the version a request made before.
func (SQL) VersionByID(ctx context.Context, id uuid.UUID) (Version, bool, error) {
	return one(ctx, `AND v.id = @id`, pg.Args{"id": id})
}

// Versions lists the versions older than one that touched an entry, newest first.
func (SQL) Versions(ctx context.Context, entry string, before, limit int) ([]Version, error) {
	rows, err := pg.Select[row](ctx, columns("'[]'::jsonb")+`AND (@entry::text = '' OR v.touched @> to_jsonb(@entry::text)) AND (@before = 0 OR v.version < @before) ORDER BY v.version DESC LIMIT @limit`,
		pg.Args{"entry": entry, "before": before, "limit": limit})
	list := make([]Version, len(rows))
	for i, r := range rows {
		if list[i], err = r.version(); err != nil {
			return nil, err
		}
	}
	return list, err
}

// Add appends a version.
func (SQL) Add(ctx context.Context, v Version) error {
	if v.Layer == nil {
		v.Layer = merge.Layer{}
	}
	if v.Touched == nil {
		v.Touched = []string{}
	}
	return pg.Gorm(ctx).Create(&versionRow{Version: v.Version, ID: v.ID, Digest: v.Digest, Layer: v.Layer, Touched: v.Touched, Summary: v.Summary,
		CreatedBy: v.CreatedBy, CreatedAt: v.CreatedAt}).Error
}

// Lock holds the club's house until the transaction ends.
func (SQL) Lock(ctx context.Context) error { return pg.Lock(ctx, "house") }

// Met reports whether the club's house ever lay on an edition.
func (SQL) Met(ctx context.Context, digest string) (bool, error) {
	var n int64
	err := pg.Gorm(ctx).Model(&versionRow{}).Where("digest = ?", digest).Limit(1).Count(&n).Error
	return n > 0, err
}

// Edition reads the entries of an edition.
func (SQL) Edition(ctx context.Context, digest string) ([]merge.Entry, bool, error) {
	type row struct{ Entries json.RawMessage }
	r, found, err := pg.One[row](ctx, `SELECT entries FROM library_editions WHERE digest = @digest`, pg.Args{"digest": digest})
	if err != nil || !found {
		return nil, false, err
	}
	var entries []merge.Entry
	return entries, true, json.Unmarshal(r.Entries, &entries)
}

// Remember keeps an edition, once for all clubs.
func (SQL) Remember(ctx context.Context, digest string, entries []merge.Entry) error {
	type row struct{ Known bool }
	r, _, err := pg.One[row](ctx, `SELECT EXISTS (SELECT 1 FROM library_editions WHERE digest = @digest) AS known`, pg.Args{"digest": digest})
	if err != nil || r.Known {
		return err
	}
	text, err := json.Marshal(entries)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `INSERT INTO library_editions (digest, entries) VALUES (@digest, @entries::jsonb) ON CONFLICT DO NOTHING`,
		pg.Args{"digest": digest, "entries": string(text)})
	return err
}
