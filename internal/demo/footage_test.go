package demo_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/demo"
	"nineyard/internal/demo/camera"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/demo/footage"
	"nineyard/library"
)

func truthOf(t *testing.T, file string) (truth camera.Truth) {
	t.Helper()
	name, _, _ := strings.Cut(file, "-side")
	name, _, _ = strings.Cut(strings.TrimSuffix(strings.TrimSuffix(name, "-wide.webm"), "-end.webm"), ".webm")
	content, err := footage.Read(name + ".json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(content, &truth))
	return truth
}

// TestTheFilmIsOfThisWorld: what lies beside the videos is what the camera would take now. When it fails, run
// `make film`.
func TestTheFilmIsOfThisWorld(t *testing.T) {
	edition, err := library.Shipped()
	require.NoError(t, err)
	shots := demo.Shots(demo.Seed, edition.Taught)
	require.Len(t, shots, demo.FilmedPlays+1)
	for _, c := range shots {
		kept, err := footage.Read(c.Truth.Name + ".json")
		require.NoError(t, err)
		now, err := json.Marshal(c.Truth)
		require.NoError(t, err)
		assert.True(t, string(now)+"\n" == string(kept), "%s is of another world, or of another camera", c.Truth.Name)
	}
	var all int
	videos, err := footage.Videos()
	require.NoError(t, err)
	for _, v := range videos {
		assert.Less(t, v.Size, 4<<20, v.Name)
		all += v.Size
	}
	assert.Len(t, videos, 2*demo.FilmedPlays+1)
	assert.Less(t, all, 24<<20)
}

// TestWhatIsMarkedIsOnFilm: each mark of somebody on a play that is on film is of a player who is in it, and its
// fault is what he was made to do.
func TestWhatIsMarkedIsOnFilm(t *testing.T) {
	w := demotest.World()
	jerseys := map[uuid.UUID]string{}
	for _, p := range w.Players {
		jerseys[p.ID] = p.Jersey
	}
	type who struct {
		of     uuid.UUID
		jersey string
	}
	seen := map[who]camera.PlayerTruth{}
	filmed, reps := map[uuid.UUID]bool{}, map[uuid.UUID]int{}
	for _, f := range w.Footage {
		truth := truthOf(t, f.File)
		assert.Equal(t, truth.Frames, f.Frames, f.File)
		for _, c := range f.Clips {
			of := c.PlayID
			if of == nil {
				of = c.PlacementID
				reps[*of] = *c.Rep
				i := c.First / camera.RepFrames
				assert.Equal(t, jerseys[*c.PlayerID], truth.Players[i].Jersey)
			}
			filmed[*of] = true
			assert.True(t, c.First <= c.Snap && c.Snap <= c.Last && c.Last < f.Frames)
			for _, p := range truth.Players {
				if p.Home {
					seen[who{*of, p.Jersey}] = p
				}
			}
		}
	}
	assert.Len(t, filmed, demo.FilmedPlays+1)
	faults, swings := 0, 0
	for _, m := range w.Marks {
		of := m.PlayID
		if of == nil {
			of = m.PlacementID
		}
		if !filmed[*of] || m.Rep != nil && *m.Rep != reps[*of] {
			continue
		}
		p, there := seen[who{*of, jerseys[m.PlayerID]}]
		if !assert.True(t, there, "%s is marked, and not on film", jerseys[m.PlayerID]) {
			continue
		}
		if len(m.Faults) == 0 {
			assert.Empty(t, p.Fault)
			continue
		}
		faults++
		assert.Equal(t, m.Faults[0].Key, p.Fault)
		assert.NotEmpty(t, p.Shows)
		if p.Fault == demo.WorkingFor {
			swings++
			assert.Equal(t, camera.HeelIn, p.Shows)
		}
	}
	assert.Greater(t, faults, 10)
	assert.Greater(t, swings, 1)
}
