package privacy

import (
	"context"
	"log/slog"
	"time"

	"nineyard/internal/platform/pg"
)

// Keeper lets go, once a day, of what clubs do not want to keep any longer.
type Keeper struct {
	DB  *pg.DB
	Log *slog.Logger
}

// nightly is how often it is looked, and keepsAt how long it may take for one club.
const (
	nightly = 24 * time.Hour
	keepsAt = 10 * time.Minute
)

// Run looks now and every day until the context ends.
func (k *Keeper) Run(ctx context.Context, now func() time.Time) {
	for {
		if err := k.Retain(ctx, now()); err != nil && ctx.Err() == nil {
			k.Log.Error("letting go of what is kept too long", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(nightly):
		}
	}
}

// Retain looks through every club.
func (k *Keeper) Retain(ctx context.Context, at time.Time) error {
	return k.DB.EachClub(ctx, keepsAt, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `SELECT retain_club(@at)`, pg.Args{"at": at})
		return err
	})
}
