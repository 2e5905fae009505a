package plan

import (
	"context"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

func execIn(ctx context.Context, query string, a, b uuid.UUID) error {
	_, err := pg.Exec(ctx, query, pg.Args{"a": a, "b": b})
	return err
}

func meaning(err error) error { return pg.Meaning(err) }
