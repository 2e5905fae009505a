package mark_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"strconv"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/marks"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/mark"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/pg"
)

// victim is what the process that is killed marks. It is told all, so that it is quick to begin.
type victim struct {
	URL             string
	Club, Coach     uuid.UUID
	Players, Placed []uuid.UUID
}

// killed holds a victim as JSON: this process marks until it is killed.
const killed = "NINEYARD_MARK_UNTIL_KILLED"

// TestKilled kills a process that records marks, at any moment, again and again: no event is
// kept without its place in the sums, and none counts that is not kept. NINEYARD_KILLS says how
// often.
func TestKilled(t *testing.T) {
	if text := os.Getenv(killed); text != "" {
		var v victim
		require.NoError(t, json.Unmarshal([]byte(text), &v))
		v.markUntilKilled(t)
		return
	}
	kills := 30
	if n, err := strconv.Atoi(os.Getenv("NINEYARD_KILLS")); err == nil {
		kills = n
	}
	url, w := demotest.Copy(t), demotest.World()
	v := victim{URL: url, Club: w.ClubID, Coach: w.Users[0].ID}
	for _, p := range w.Players[:9] {
		v.Players = append(v.Players, p.ID)
	}
	for _, p := range w.Placements[:2] {
		v.Placed = append(v.Placed, p.ID)
	}
	work, err := json.Marshal(v)
	require.NoError(t, err)
	app, err := pg.Open(url, 2)
	require.NoError(t, err)
	defer func() { _ = app.Close() }()
	before := count(t, app, `SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club`)
	for i := range kills {
		child := exec.Command(os.Args[0], "-test.run", "^TestKilled$")
		child.Env = append(os.Environ(), killed+"="+string(work))
		out, err := child.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, child.Start())
		_, err = bufio.NewReader(out).ReadString('\n') // it has begun
		require.NoError(t, err)
		time.Sleep(time.Duration(rand.IntN(40_000)) * time.Microsecond)
		require.NoError(t, child.Process.Kill())
		_ = child.Wait()
		if i%50 == 49 || i == kills-1 {
			assert.Zero(t, count(t, app, `SELECT wrong_sums(@club)::int AS n`), "after %d kills", i+1)
		}
	}
	added := count(t, app, `SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club`) - before
	t.Logf("%d kills, %d events kept", kills, added)
	assert.Positive(t, added)
	assert.Zero(t, count(t, app, `SELECT count(*)::int AS n FROM mark_events e WHERE club_id = @club AND state <> 'withdrawn'
		AND NOT EXISTS (SELECT 1 FROM mark_slots m WHERE m.club_id = e.club_id AND m.place_id = coalesce(e.placement_id, e.play_id) AND m.player_id = e.player_id)`))
}

// markUntilKilled records marks of nine players, over and over.
func (v victim) markUntilKilled(t *testing.T) {
	app, err := pg.Open(v.URL, 2)
	require.NoError(t, err)
	for turn := 0; ; turn++ {
		var events []mark.Event
		for i, p := range v.Players {
			e := mark.Event{ID: uuid.New(), PlayerID: p, PlacementID: &v.Placed[i%2], Rep: new(1 + turn%9), TechniqueKey: "base_block", Grader: v.Coach, State: "looked",
				Assignment: new(1), Technique: new(turn % 2), Verdict: []string{"faulty", "clean"}[turn%2], Faults: []record.Fault{}, Measures: []record.Measured{}, Standard: 1,
				CreatedBy: &v.Coach, CreatedAt: time.Now()}
			if turn%2 == 0 {
				e.Faults = []record.Fault{{Key: "base_hands_wide"}}
			}
			if turn%7 == 6 {
				e.State, e.Verdict, e.Faults = string(marks.Withdrawn), "withdrawn", []record.Fault{}
			}
			events = append(events, e)
		}
		require.NoError(t, app.InClub(context.Background(), v.Club, func(ctx context.Context) error {
			_, err := mark.SQL{}.Add(ctx, events)
			return err
		}))
		if turn == 0 {
			fmt.Println("begun")
		}
	}
}
