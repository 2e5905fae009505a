package pg

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// role is the application's database role. It owns nothing, so that row-level security
// binds it; the migrations make it.
const role = "nineyard_app"

// Limits of what a request may take of the database. A transaction whose context has a deadline of its own gets
// that instead. Migrations and loading the demo have none: they go through OpenOwner.
const (
	statementTimeout = 5 * time.Second
	lockTimeout      = 4 * time.Second
	idleTimeout      = 60 * time.Second // of a transaction in which nothing happens
)

// DB is the database as the application uses it.
type DB struct {
	pool     *sql.DB
	gorm     *gorm.DB
	config   *pgx.ConnConfig
	patience time.Duration // for what has no deadline of its own; 0 for the owner, who waits
}

// Open connects as the application's role. The connection is not tried yet; the schema must
// be there before the first use (see Migrate).
func Open(url string, maxConns int) (*DB, error) {
	config, err := parse(url)
	if err != nil {
		return nil, err
	}
	for name, d := range map[string]time.Duration{"statement_timeout": statementTimeout, "lock_timeout": lockTimeout, "idle_in_transaction_session_timeout": idleTimeout} {
		config.RuntimeParams[name] = fmt.Sprint(d.Milliseconds())
	}
	// Statements are few, and planned once a connection: over parts of tables a plan takes longer
	// to make than to carry out, and every one of them begins with the club.
	config.RuntimeParams["plan_cache_mode"] = "force_generic_plan"
	d, err := open(config, maxConns, "SET ROLE "+role)
	if err == nil {
		d.patience = statementTimeout
	}
	return d, err
}

// OpenOwner connects as whoever the address names, past the application's role, its
// row-level security and its deadlines: for migrations, for making a club and for loading
// the demo. Nothing that answers a request uses it.
func OpenOwner(url string, maxConns int) (*DB, error) {
	config, err := parse(url)
	if err != nil {
		return nil, err
	}
	return open(config, maxConns, "")
}

func parse(url string) (*pgx.ConnConfig, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, errors.New("DATABASE_URL cannot be read as a PostgreSQL address") // the cause may hold the password
	}
	config.Tracer = counter{}
	return config, nil
}

func open(config *pgx.ConnConfig, maxConns int, first string) (*DB, error) {
	pool := stdlib.OpenDB(*config, stdlib.OptionAfterConnect(func(ctx context.Context, c *pgx.Conn) error {
		if first == "" {
			return nil
		}
		_, err := c.Exec(ctx, first)
		return err
	}))
	pool.SetMaxOpenConns(maxConns)
	pool.SetMaxIdleConns(maxConns)
	pool.SetConnMaxIdleTime(5 * time.Minute)
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{
		Logger:                 logger.Discard, // errors are returned, and logged once, by who gives up
		SkipDefaultTransaction: true,
		QueryFields:            true, // columns by name: a field without one is an error, not a zero
		NowFunc:                func() time.Time { return time.Now().UTC() },
		DisableAutomaticPing:   true,
	})
	if err != nil {
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	if err := scopeToClub(db); err != nil {
		return nil, err
	}
	return &DB{pool: pool, gorm: db, config: config}, nil
}

// Pool is the pool of connections, for the sessions and for asking whether the database
// answers.
func (d *DB) Pool() *sql.DB { return d.pool }

// Close closes every connection.
func (d *DB) Close() error { return d.pool.Close() }

// Listen hears what is notified on a channel, on a connection of its own, until the context
// ends or the connection does; it calls ready once it listens.
func (d *DB) Listen(ctx context.Context, channel string, ready func(), hear func(notice string)) error {
	c, err := pgx.ConnectConfig(ctx, d.config.Copy())
	if err != nil {
		return err
	}
	defer func() { _ = c.Close(context.WithoutCancel(ctx)) }()
	if _, err := c.Exec(ctx, "LISTEN "+pgx.Identifier{channel}.Sanitize()); err != nil {
		return err
	}
	ready()
	for {
		n, err := c.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		hear(n.Payload)
	}
}
