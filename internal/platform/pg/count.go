package pg

import (
	"context"
	"slices"
	"strings"
	"sync"

	"github.com/jackc/pgx/v5"
)

// Statement is a statement as it was sent.
type Statement struct {
	SQL  string
	Args []any
}

// Statements are those that were sent in a context made by Counting.
type Statements struct {
	mu   sync.Mutex
	list []Statement
}

// All lists them in the order in which they were sent.
func (s *Statements) All() []Statement {
	s.mu.Lock()
	defer s.mu.Unlock()
	return slices.Clone(s.list)
}

type countKey struct{}

// Counting returns a context whose statements are kept, without those that only begin,
// scope and end a transaction.
func Counting(ctx context.Context) (context.Context, *Statements) {
	s := &Statements{}
	return context.WithValue(ctx, countKey{}, s), s
}

// counter keeps statements for tests and measurements; without Counting it does nothing.
type counter struct{}

func (counter) keep(ctx context.Context, query string, args []any) {
	s, ok := ctx.Value(countKey{}).(*Statements)
	if !ok {
		return
	}
	word, _, _ := strings.Cut(strings.TrimSpace(strings.ToLower(query)), " ")
	if word != "set" && word != "begin" && word != "commit" && word != "rollback" && query != setClub {
		s.mu.Lock()
		s.list = append(s.list, Statement{query, args})
		s.mu.Unlock()
	}
}

func (c counter) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	c.keep(ctx, q.SQL, q.Args)
	return ctx
}

func (counter) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

func (counter) TraceBatchStart(ctx context.Context, _ *pgx.Conn, _ pgx.TraceBatchStartData) context.Context {
	return ctx
}

func (c counter) TraceBatchQuery(ctx context.Context, _ *pgx.Conn, q pgx.TraceBatchQueryData) {
	c.keep(ctx, q.SQL, q.Args)
}

func (counter) TraceBatchEnd(context.Context, *pgx.Conn, pgx.TraceBatchEndData) {}

// Explain runs a statement within a transaction and returns its plan with what it really
// read, as JSON.
func Explain(ctx context.Context, s Statement) ([]byte, error) {
	var plan []byte
	err := raw(ctx, nil, func(c *pgx.Conn, _ Args) error {
		return c.QueryRow(ctx, "EXPLAIN (ANALYZE, FORMAT JSON) "+s.SQL, s.Args...).Scan(&plan)
	})
	return plan, err
}
