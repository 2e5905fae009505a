package privacy

import (
	"context"
	"errors"
	"log/slog"
	"time"

	"github.com/google/uuid"

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
	type row struct{ ID uuid.UUID }
	var clubs []row
	err := k.DB.Anywhere(ctx, func(ctx context.Context) (err error) {
		clubs, err = pg.Select[row](ctx, `SELECT club AS id FROM every_club() club`, nil)
		return err
	})
	for _, c := range clubs {
		err = errors.Join(err, k.retain(ctx, c.ID, at))
	}
	return err
}

func (k *Keeper) retain(ctx context.Context, club uuid.UUID, at time.Time) error {
	ctx, cancel := context.WithTimeout(ctx, keepsAt)
	defer cancel()
	return k.DB.InClub(ctx, club, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `SELECT retain_club(@at)`, pg.Args{"at": at})
		return err
	})
}
