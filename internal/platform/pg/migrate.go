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
	d, err := OpenOwner(url, 2)
	if err != nil {
		return 0, err
	}
	defer func() { _ = d.Close() }()
	provider, err := d.provider()
	if err != nil {
		return 0, err
	}
	if _, err := provider.Up(ctx); err != nil {
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
