package pg

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jackc/pgx/v5/stdlib"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nineyard/internal/platform/aside"
)

// ErrNoScope says that a statement was made outside of InClub or Anywhere: an error of the
// program.
var ErrNoScope = errors.New("a statement outside of a club's transaction")

// scope is a connection with the club it is for.
type scope struct {
	club uuid.UUID // uuid.Nil outside of any club
	conn *sql.Conn
	tx   *sql.Tx // nil outside of a transaction
	gorm *gorm.DB
}

type scopeKey struct{}

func scopeOf(ctx context.Context) (*scope, error) {
	s, ok := ctx.Value(scopeKey{}).(*scope)
	if !ok {
		return nil, ErrNoScope
	}
	return s, nil
}

// Club is the club of the context's transaction; uuid.Nil when there is none.
func Club(ctx context.Context) uuid.UUID {
	s, err := scopeOf(ctx)
	if err != nil {
		return uuid.Nil
	}
	return s.club
}

// InClub runs f in one transaction for one club: all of it is kept, or none when f returns
// an error or panics. Inside a transaction for the same club it joins that one.
func (d *DB) InClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error {
	if outer, err := scopeOf(ctx); err == nil {
		if outer.club != club {
			return fmt.Errorf("a transaction for club %s inside one for %s", club, outer.club)
		}
		return f(ctx)
	}
	return d.in(ctx, club, f)
}

// Anywhere runs f for no club, outside of any transaction: each statement is kept as it is
// made. It serves what comes before it is known who asks, and what no club owns; rows of
// clubs are not seen in it.
func (d *DB) Anywhere(ctx context.Context, f func(context.Context) error) error {
	ctx, cancel := d.bounded(ctx)
	defer cancel()
	conn, err := d.pool.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	g := d.gorm.WithContext(ctx)
	g.Statement.ConnPool = conn
	return f(context.WithValue(ctx, scopeKey{}, &scope{conn: conn, gorm: g}))
}

// EachClub runs f for every club, each in a transaction of its own that may take up to limit: for what is done behind the
// requests, for which nobody waits. It goes on past clubs in which f fails and returns all their errors.
func (d *DB) EachClub(ctx context.Context, limit time.Duration, f func(context.Context) error) error {
	type row struct{ ID uuid.UUID }
	var clubs []row
	err := d.Anywhere(ctx, func(ctx context.Context) (err error) {
		clubs, err = Select[row](ctx, `SELECT club AS id FROM every_club() club`, nil)
		return err
	})
	for _, c := range clubs {
		err = errors.Join(err, d.InClubFor(ctx, limit, c.ID, f))
	}
	return err
}

// InClubFor is InClub with a limit of its own.
func (d *DB) InClubFor(ctx context.Context, limit time.Duration, club uuid.UUID, f func(context.Context) error) error {
	ctx, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	return d.InClub(ctx, club, f)
}

// Beside runs f in one transaction for what no club owns, such as accounts. Inside any transaction it joins that one.
func (d *DB) Beside(ctx context.Context, f func(context.Context) error) error {
	if outer, err := scopeOf(ctx); err == nil && outer.tx != nil {
		return f(ctx)
	}
	return d.in(ctx, uuid.Nil, f)
}

// SelectBeside is Select within Beside.
func SelectBeside[T any](ctx context.Context, d *DB, query string, args Args) (list []T, err error) {
	err = d.Beside(ctx, func(ctx context.Context) (err error) {
		list, err = Select[T](ctx, query, args)
		return err
	})
	return list, err
}

// OneBeside is One within Beside.
func OneBeside[T any](ctx context.Context, d *DB, query string, args Args) (v T, found bool, err error) {
	err = d.Beside(ctx, func(ctx context.Context) (err error) {
		v, found, err = One[T](ctx, query, args)
		return err
	})
	return v, found, err
}

// ExecBeside is Exec within Beside.
func ExecBeside(ctx context.Context, d *DB, query string, args Args) (n int64, err error) {
	err = d.Beside(ctx, func(ctx context.Context) (err error) {
		n, err = Exec(ctx, query, args)
		return err
	})
	return n, err
}

func (d *DB) in(ctx context.Context, club uuid.UUID, f func(context.Context) error) (err error) {
	ctx, cancel := d.bounded(ctx)
	defer cancel()
	conn, err := d.pool.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	tx, err := conn.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	done := false
	defer func() {
		if !done {
			_ = tx.Rollback() // the error of f, or its panic, is what counts
		}
	}()
	g := d.gorm.WithContext(ctx)
	g.Statement.ConnPool = tx
	s := &scope{club: club, conn: conn, tx: tx, gorm: g}
	inner := context.WithValue(ctx, scopeKey{}, s)
	// The database gives up a statement no later than we do, even where it cannot be told.
	left := d.patience
	if at, ok := ctx.Deadline(); ok {
		left = min(left, max(time.Until(at), time.Millisecond))
	}
	name := ""
	if club != uuid.Nil {
		name = club.String()
	}
	if _, err := tx.ExecContext(ctx, setClub, name, fmt.Sprint(left.Milliseconds())); err != nil {
		return err
	}
	if err := f(inner); err != nil {
		return err
	}
	done = true
	return tx.Commit()
}

const setClub = `SELECT set_config('nineyard.club', $1, true), set_config('statement_timeout', $2, true)`

// bounded is a context that ends no later than the database is waited for: one that stands still without a word
// would else be waited for for ever.
func (d *DB) bounded(ctx context.Context) (context.Context, context.CancelFunc) {
	if _, ok := ctx.Deadline(); ok || d.patience == 0 {
		return ctx, func() {}
	}
	return context.WithTimeout(ctx, d.patience)
}

// Tx is the context's transaction, for what must be kept with it and is written by others: the rows of jobs.
func Tx(ctx context.Context) (*sql.Tx, error) {
	s, err := scopeOf(ctx)
	if err == nil && s.tx == nil {
		err = ErrNoScope
	}
	if err != nil {
		return nil, err
	}
	return s.tx, nil
}

// Gorm gives the records of the context's club: every query, update and delete of a model
// with a club_id is for that club alone, and every new row is given it. Outside of a
// transaction it panics with ErrNoScope: there is no database to give.
func Gorm(ctx context.Context) *gorm.DB {
	s, err := scopeOf(ctx)
	if err != nil {
		panic(err)
	}
	return s.gorm.WithContext(ctx)
}

// scopeToClub puts the club into every GORM statement on a model that has one.
func scopeToClub(db *gorm.DB) error {
	where := func(tx *gorm.DB) {
		s, err := scopeOf(tx.Statement.Context)
		if err != nil || tx.Statement.Schema == nil || s.club == uuid.Nil {
			return
		}
		if f := tx.Statement.Schema.LookUpField("club_id"); f != nil {
			tx.Statement.AddClause(clause.Where{Exprs: []clause.Expression{
				clause.Eq{Column: clause.Column{Table: clause.CurrentTable, Name: f.DBName}, Value: s.club}}})
		}
	}
	create := func(tx *gorm.DB) {
		s, err := scopeOf(tx.Statement.Context)
		if err != nil || tx.Statement.Schema == nil || s.club == uuid.Nil {
			return
		}
		if f := tx.Statement.Schema.LookUpField("club_id"); f != nil {
			tx.Statement.SetColumn(f.DBName, s.club, true)
		}
	}
	c := db.Callback()
	return errors.Join(
		c.Query().Before("gorm:query").Register("club:query", where),
		c.Row().Before("gorm:row").Register("club:row", where),
		c.Update().Before("gorm:update").Register("club:update", where),
		c.Delete().Before("gorm:delete").Register("club:delete", where),
		c.Create().Before("gorm:create").Register("club:create", create),
	)
}

// Args are the named arguments of a statement; @club is filled in.
type Args = pgx.NamedArgs

// Select reads rows into structs by the names of their columns (tag db, else the field's
// name in snake case). A column without a field and a field without a column are errors.
func Select[T any](ctx context.Context, query string, args Args) ([]T, error) {
	var list []T
	err := ask(ctx, query, args, func(rows pgx.Rows) (err error) {
		list, err = pgx.CollectRows(rows, pgx.RowToStructByName[T])
		return err
	})
	return list, err
}

// One reads the first row of Select and whether there is one.
func One[T any](ctx context.Context, query string, args Args) (T, bool, error) {
	list, err := Select[T](ctx, query, args)
	if err != nil || len(list) == 0 {
		var none T
		return none, false, err
	}
	return list[0], true, nil
}

// Each hands every row to f, which scans it, in the order of its columns: for what is read by
// the thousand on every screen, where finding a column's field by its name takes as long as the
// database.
func Each(ctx context.Context, query string, args Args, f func(scan func(into ...any) error) error) error {
	return ask(ctx, query, args, func(rows pgx.Rows) error {
		defer rows.Close()
		for rows.Next() {
			if err := f(rows.Scan); err != nil {
				return err
			}
		}
		return rows.Err()
	})
}

// Exec runs a statement and returns how many rows it touched.
func Exec(ctx context.Context, query string, args Args) (int64, error) {
	var n int64
	err := raw(ctx, args, func(c *pgx.Conn, args Args) error {
		tag, err := c.Exec(ctx, query, args)
		n = tag.RowsAffected()
		return err
	})
	return n, err
}

// Copy appends rows to a table by the COPY protocol.
func Copy(ctx context.Context, table string, columns []string, rows pgx.CopyFromSource) (int64, error) {
	var n int64
	err := raw(ctx, nil, func(c *pgx.Conn, _ Args) (err error) {
		n, err = c.CopyFrom(ctx, pgx.Identifier{table}, columns, binary{rows})
		return err
	})
	return n, err
}

// binary gives ids in the form that COPY sends: pgx takes a uuid.UUID for a driver.Valuer,
// writes it as text and reads it again, which is most of the time of a large COPY.
type binary struct{ pgx.CopyFromSource }

// Values are those of the next row.
func (b binary) Values() ([]any, error) {
	row, err := b.CopyFromSource.Values()
	for i, v := range row {
		switch id := v.(type) {
		case uuid.UUID:
			row[i] = pgtype.UUID{Bytes: id, Valid: true}
		case *uuid.UUID:
			if row[i] = (pgtype.UUID{}); id != nil {
				row[i] = pgtype.UUID{Bytes: *id, Valid: true}
			}
		}
	}
	return row, err
}

func raw(ctx context.Context, args Args, f func(*pgx.Conn, Args) error) error {
	s, err := scopeOf(ctx)
	if err != nil {
		return err
	}
	full := s.filled(args)
	return s.conn.Raw(func(driver any) error { return f(driver.(*stdlib.Conn).Conn(), full) })
}

// filled are the arguments with the club.
func (s *scope) filled(args Args) Args {
	full := Args{"club": s.club}
	for k, v := range args {
		full[k] = v
	}
	return full
}

// question is a statement whose rows somebody waits for.
type question struct {
	query string
	args  Args
	read  func(pgx.Rows) error
	done  chan error
}

// ask sends a statement and hands its rows to read. Of parts that work together (see aside) the
// first statements go as one batch: one turn to the database and back, and while the rows of one are
// read the next is carried out.
func ask(ctx context.Context, query string, args Args, read func(pgx.Rows) error) error {
	s, err := scopeOf(ctx)
	if err != nil {
		return err
	}
	if turn := aside.TurnOf(ctx); turn != nil {
		q := &question{query, s.filled(args), read, make(chan error, 1)}
		turn.Ask(q, func(all []any) { s.batch(ctx, all) })
		return <-q.done
	}
	return raw(ctx, args, func(c *pgx.Conn, args Args) error {
		rows, err := c.Query(ctx, query, args)
		if err != nil {
			return err
		}
		return read(rows)
	})
}

// batch puts questions and answers each as its rows come. A read that panics is an error of its
// question: nobody waits for ever.
func (s *scope) batch(ctx context.Context, all []any) {
	answered := 0
	err := s.conn.Raw(func(driver any) (err error) {
		b := &pgx.Batch{}
		for _, x := range all {
			q := x.(*question)
			b.Queue(q.query, q.args)
		}
		answers := driver.(*stdlib.Conn).Conn().SendBatch(ctx, b)
		defer func() { err = errors.Join(err, answers.Close()) }()
		for _, x := range all {
			q := x.(*question)
			rows, err := answers.Query()
			if err == nil {
				err = q.answer(rows)
			}
			answered++
			q.done <- err
		}
		return nil
	})
	for _, x := range all[answered:] {
		x.(*question).done <- err
	}
}

func (q *question) answer(rows pgx.Rows) (err error) {
	defer func() {
		rows.Close()
		if x := recover(); x != nil {
			err = fmt.Errorf("reading rows: %v", x)
		}
	}()
	return q.read(rows)
}

// Missing reports that GORM found no record.
func Missing(err error) bool { return errors.Is(err, gorm.ErrRecordNotFound) }

// Lock holds a name within the club until the transaction ends; another transaction that
// asks for it waits.
func Lock(ctx context.Context, name string) error {
	_, err := Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended(@name || ' ' || @club::text, 0))`, Args{"name": name})
	return err
}
