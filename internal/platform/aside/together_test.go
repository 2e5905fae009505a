package aside_test

import (
	"context"
	"errors"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/platform/aside"
)

// TestTogether: what parts ask first goes in one turn, in their order; a part that asks nothing, or
// ends badly, keeps nobody waiting.
func TestTogether(t *testing.T) {
	var mu sync.Mutex
	var turns [][]any
	ask := func(ctx context.Context, question string) bool {
		turn := aside.TurnOf(ctx)
		if turn == nil {
			return false
		}
		answered := make(chan struct{})
		turn.Ask(func() { close(answered) }, func(all []any) {
			mu.Lock()
			turns = append(turns, []any{len(all)})
			mu.Unlock()
			for _, q := range all {
				q.(func())()
			}
		})
		<-answered
		return true
	}
	boom := errors.New("boom")
	err := aside.Together(t.Context(),
		func(ctx context.Context) error {
			assert.True(t, ask(ctx, "one"))
			assert.False(t, ask(ctx, "and another"), "a part has one turn")
			return nil
		},
		func(context.Context) error { return nil },
		func(ctx context.Context) error { ask(ctx, "two"); return boom },
		func(context.Context) error { panic("x") })
	require.ErrorIs(t, err, boom, "the first of them")
	assert.Equal(t, [][]any{{2}}, turns)
	require.ErrorContains(t, aside.Together(t.Context(), func(context.Context) error { panic("x") }), "x")
	require.NoError(t, aside.Together(t.Context()))
	assert.Nil(t, aside.TurnOf(t.Context()))
}
