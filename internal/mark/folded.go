package mark

import (
	"context"

	"github.com/google/uuid"

	"nineyard/core/palette"
	"nineyard/core/season"
	"nineyard/internal/mark/record"
)

// Folded is a store whose faults are read under the keys that they count for today: a fault of the library that was
// folded into another is read as that one. What was marked is not changed.
type Folded struct {
	Store
	Now map[string]string // of a fault that was folded, the one it counts for
}

var _ Store = Folded{}

func (f Folded) now(key string) string {
	if now, ok := f.Now[key]; ok {
		return now
	}
	return key
}

// details reads the faults of marks. Two of one mark that are one now are told once.
func (f Folded) details(list []record.Detail, err error) ([]record.Detail, error) {
	for i := range list {
		kept := list[i].Faults[:0]
		for _, x := range list[i].Faults {
			x.Key = f.now(x.Key)
			twice := false
			for _, y := range kept {
				twice = twice || x.Key == y.Key && x.CausedBy == y.CausedBy
			}
			if !twice {
				kept = append(kept, x)
			}
		}
		list[i].Faults = kept
	}
	return list, err
}

func (f Folded) days(list []record.FaultDay) {
	for i := range list {
		list[i].Fault = f.now(list[i].Fault)
	}
}

// OfPlacement reads as Store does.
func (f Folded) OfPlacement(ctx context.Context, placement uuid.UUID) ([]record.Detail, error) {
	return f.details(f.Store.OfPlacement(ctx, placement))
}

// OfGame reads as Store does.
func (f Folded) OfGame(ctx context.Context, game uuid.UUID, group string, graders ...uuid.UUID) ([]record.Detail, error) {
	return f.details(f.Store.OfGame(ctx, game, group, graders...))
}

// Questions reads as Store does.
func (f Folded) Questions(ctx context.Context, coach uuid.UUID) ([]record.Detail, error) {
	return f.details(f.Store.Questions(ctx, coach))
}

// Evidence reads as Store does; who asks for a fault is shown those that were folded into it too.
func (f Folded) Evidence(ctx context.Context, player uuid.UUID, which record.Which) ([]record.Detail, error) {
	if which.Fault != "" {
		for was, now := range f.Now {
			if now == which.Fault {
				which.Was = append(which.Was, was)
			}
		}
	}
	return f.details(f.Store.Evidence(ctx, player, which))
}

// Usual reads as Store does, each fault once.
func (f Folded) Usual(ctx context.Context, group string, from, to season.Date) ([]palette.Count, error) {
	list, err := f.Store.Usual(ctx, group, from, to)
	type key struct{ player, technique, fault string }
	at := map[key]int{}
	kept := list[:0]
	for _, c := range list {
		c.Fault = f.now(c.Fault)
		k := key{c.Player, c.Technique, c.Fault}
		if i, ok := at[k]; ok {
			kept[i].N += c.N
			continue
		}
		at[k] = len(kept)
		kept = append(kept, c)
	}
	return kept, err
}

// Season reads as Store does; days of a fault that was folded stand beside those of the one it counts for.
func (f Folded) Season(ctx context.Context, group string, from, to, faultsFrom season.Date) (record.Sums, error) {
	sums, err := f.Store.Season(ctx, group, from, to, faultsFrom)
	f.days(sums.Faults)
	return sums, err
}

// Runs reads as Store does.
func (f Folded) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
	runs, days, err := f.Store.Runs(ctx, group, player, from, to, faultsFrom)
	f.days(days)
	return runs, days, err
}
