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
	Now func() (map[string]string, error) // of each fault that was folded, the one it counts for
}

var _ Store = Folded{}

func current(now map[string]string, key string) string {
	if k, ok := now[key]; ok {
		return k
	}
	return key
}

// details reads the faults of marks. Two of one mark that are one now are told once.
func (f Folded) details(list []record.Detail, err error) ([]record.Detail, error) {
	if err != nil {
		return nil, err
	}
	now, err := f.Now()
	if err != nil {
		return nil, err
	}
	for i := range list {
		kept := list[i].Faults[:0]
		for _, x := range list[i].Faults {
			x.Key = current(now, x.Key)
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
	return list, nil
}

func (f Folded) days(list []record.FaultDay, err error) error {
	if err != nil {
		return err
	}
	now, err := f.Now()
	for i := range list {
		list[i].Fault = current(now, list[i].Fault)
	}
	return err
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
	now, err := f.Now()
	if err != nil {
		return nil, err
	}
	for was, k := range now {
		if k == which.Fault {
			which.Was = append(which.Was, was)
		}
	}
	return f.details(f.Store.Evidence(ctx, player, which))
}

// Usual reads as Store does, each fault once.
func (f Folded) Usual(ctx context.Context, group string, from, to season.Date) ([]palette.Count, error) {
	list, err := f.Store.Usual(ctx, group, from, to)
	if err != nil {
		return nil, err
	}
	now, err := f.Now()
	type key struct{ player, technique, fault string }
	at := map[key]int{}
	kept := list[:0]
	for _, c := range list {
		c.Fault = current(now, c.Fault)
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
	return sums, f.days(sums.Faults, err)
}

// Runs reads as Store does.
func (f Folded) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
	runs, days, err := f.Store.Runs(ctx, group, player, from, to, faultsFrom)
	return runs, days, f.days(days, err)
}
