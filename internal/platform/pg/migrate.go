package pg

import (
	"context"
	"embed"
	"fmt"
	"io/fs"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings the schema up to date as the owner. Replicas that start together take
// turns under an advisory lock. It returns the version reached.
func Migrate(ctx context.Context, url string) (int64, error) {
	return migrate(ctx, url, func(p *goose.Provider) error { _, err := p.Up(ctx); return err })
}

// MigrateTo brings the schema up or back down to a version, as the owner.
func MigrateTo(ctx context.Context, url string, version int64) (int64, error) {
	return migrate(ctx, url, func(p *goose.Provider) error {
		now, err := p.GetDBVersion(ctx)
		if err != nil {
			return err
		}
		if now > version {
			_, err = p.DownTo(ctx, version)
		} else {
			_, err = p.UpTo(ctx, version)
		}
		return err
	})
}

func migrate(ctx context.Context, url string, do func(*goose.Provider) error) (int64, error) {
	d, err := OpenOwner(url, 2)
	if err != nil {
		return 0, err
	}
	defer func() { _ = d.Close() }()
	provider, err := d.provider()
	if err != nil {
		return 0, err
	}
	if err := do(provider); err != nil {
		return 0, fmt.Errorf("migrating the database: %w", err)
	}
	return provider.GetDBVersion(ctx)
}

func (d *DB) provider() (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	locker, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 120))
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectPostgres, d.pool, files, goose.WithSessionLocker(locker))
}
