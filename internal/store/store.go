// Package store keeps everything in PostgreSQL: GORM for the records, SQL for the
// reads that gather, goose migrations embedded in the binary.
//
// Every query takes the club it is for and is scoped by it here, in one place.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"nineyard/internal/app"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store implements app.Store over one database, or one transaction of it.
type Store struct{ db *gorm.DB }

var _ app.Store = (*Store)(nil)

// Open connects to the database at url. The connection is not tried yet; see Ping.
func Open(url string, maxConns int) (*Store, *sql.DB, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, nil, errors.New("DATABASE_URL cannot be read as a PostgreSQL address") // the cause may hold the password
	}
	pool := stdlib.OpenDB(*config)
	pool.SetMaxOpenConns(maxConns)
	pool.SetMaxIdleConns(maxConns)
	pool.SetConnMaxIdleTime(5 * time.Minute)
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{
		Logger:                 logger.Discard,
		SkipDefaultTransaction: true,
		NowFunc:                func() time.Time { return time.Now().UTC() },
		DisableAutomaticPing:   true,
	})
	if err != nil {
		return nil, nil, fmt.Errorf("opening the database: %w", err)
	}
	return &Store{db}, pool, nil
}

// Migrate brings the schema up to date. Replicas that start together take turns
// under an advisory lock. It returns the version reached.
func Migrate(ctx context.Context, pool *sql.DB) (int64, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return 0, err
	}
	locker, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 120))
	if err != nil {
		return 0, err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(locker))
	if err != nil {
		return 0, err
	}
	if _, err := provider.Up(ctx); err != nil {
		return 0, fmt.Errorf("migrating the database: %w", err)
	}
	return provider.GetDBVersion(ctx)
}

// InTx runs f in one transaction.
func (s *Store) InTx(ctx context.Context, f func(app.Store) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return f(&Store{tx}) })
}

// DB gives raw access for loading demo data.
func (s *Store) DB() *gorm.DB { return s.db }

// one turns "no rows" into app.ErrNotFound.
func one(result *gorm.DB) error {
	switch {
	case errors.Is(result.Error, gorm.ErrRecordNotFound):
		return app.ErrNotFound
	case result.Error != nil:
		return result.Error
	case result.RowsAffected == 0:
		return app.ErrNotFound
	}
	return nil
}
