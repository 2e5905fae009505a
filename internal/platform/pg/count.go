package pg

import (
	"context"
	"strings"
	"sync/atomic"

	"github.com/jackc/pgx/v5"
)

type countKey struct{}

// Counting returns a context whose statements are counted, without those that only begin,
// scope and end a transaction.
func Counting(ctx context.Context) (context.Context, *atomic.Int64) {
	n := &atomic.Int64{}
	return context.WithValue(ctx, countKey{}, n), n
}

// counter counts statements for the measurements; without Counting it does nothing.
type counter struct{}

func (counter) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	n, ok := ctx.Value(countKey{}).(*atomic.Int64)
	word, _, _ := strings.Cut(strings.TrimSpace(strings.ToLower(q.SQL)), " ")
	if ok && word != "set" && word != "begin" && word != "commit" && word != "rollback" && q.SQL != setClub {
		n.Add(1)
	}
	return ctx
}

func (counter) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}
