package aside

import (
	"context"
	"fmt"
	"slices"
	"sync"
)

// Together runs parts of a piece of work side by side, so that what each of them asks first can go
// to the database with what the others ask, in one turn, and be answered while they work. What they
// ask later is asked for itself. It returns when all have ended, with the error of the first of them
// in the order given. A panic in a part is an error of it.
func Together(ctx context.Context, parts ...func(context.Context) error) error {
	r := &round{open: len(parts), asked: make([]any, len(parts))}
	failed := make([]error, len(parts))
	var all sync.WaitGroup
	for i, part := range parts {
		all.Go(func() {
			turn := &Turn{round: r, at: i}
			defer func() {
				if x := recover(); x != nil {
					failed[i] = fmt.Errorf("aside: %v", x)
				}
				turn.pass()
			}()
			failed[i] = part(context.WithValue(ctx, turnKey{}, turn))
		})
	}
	all.Wait()
	return first(failed)
}

func first(list []error) error {
	if i := slices.IndexFunc(list, func(err error) bool { return err != nil }); i >= 0 {
		return list[i]
	}
	return nil
}

// round is the first questions of all parts.
type round struct {
	mu    sync.Mutex
	open  int   // parts that have neither asked nor ended
	asked []any // by part; nil where none is asked
	put   func(questions []any)
}

// Turn is a part's right to ask with the others.
type Turn struct {
	round *round
	at    int
	used  sync.Once
}

type turnKey struct{}

// TurnOf returns the turn of a part that has not asked yet; nil otherwise. Who takes it asks.
func TurnOf(ctx context.Context) *Turn {
	t, ok := ctx.Value(turnKey{}).(*Turn)
	if !ok {
		return nil
	}
	var mine *Turn
	t.used.Do(func() { mine = t })
	return mine
}

// Ask hands a question over. When every part has asked or ended, put is called with all questions in
// the order of the parts, by whoever came last.
func (t *Turn) Ask(question any, put func(questions []any)) {
	t.round.leave(func() { t.round.asked[t.at], t.round.put = question, put })
}

// pass ends a part; those that wait for it wait no longer.
func (t *Turn) pass() {
	t.used.Do(func() { t.round.leave(func() {}) })
}

func (r *round) leave(note func()) {
	r.mu.Lock()
	note()
	r.open--
	last := r.open == 0
	r.mu.Unlock()
	if last && r.put != nil {
		r.put(slices.DeleteFunc(r.asked, func(q any) bool { return q == nil }))
	}
}
