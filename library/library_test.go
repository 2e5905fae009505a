package library_test

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/library"
)

func TestShippedLibraryIsWhole(t *testing.T) {
	lib, err := library.Shipped()
	require.NoError(t, err)
	for _, group := range []string{"ol", "db"} {
		part := lib.ForGroup(group)
		assert.GreaterOrEqual(t, len(part.Techniques), 4, group)
		assert.GreaterOrEqual(t, len(part.Drills), 5, group)
		assert.GreaterOrEqual(t, len(part.Ladders), 2, group)
		for _, l := range part.Ladders {
			assert.True(t, l.Stages[len(l.Stages)-1].Game, "%s ends in the game", l.Key)
		}
	}
}

func TestNoPunishment(t *testing.T) {
	lib, err := library.Shipped()
	require.NoError(t, err)
	for _, d := range lib.Drills {
		text := strings.ToLower(d.Roles + d.Game + d.Cautions + d.SelfCheck + d.Alone)
		for _, word := range []string{"punish", "push-up", "burpee", "laps", "gasser"} {
			assert.NotContains(t, text, word, d.Key)
		}
	}
}

func TestDrillFor(t *testing.T) {
	lib, err := library.Shipped()
	require.NoError(t, err)
	// The second foot behind is worked on at stages 1 (bag) and 2 (partner).
	for reached, want := range map[int]string{-1: "close_bag", 0: "close_bag", 1: "close_bag", 2: "close_partner", 3: "close_partner"} {
		d, ok := lib.DrillFor("close_second_behind", reached)
		require.True(t, ok)
		assert.Equal(t, want, d.Key, "reached %d", reached)
	}
	_, ok := lib.DrillFor("no_such_fault", 0)
	assert.False(t, ok)
}

func TestLoadNamesFileAndLine(t *testing.T) {
	_, err := library.Load(fstest.MapFS{"a.yaml": {Data: []byte("group: ol\ntechniqes: []\n")}})
	require.Error(t, err)
	assert.Contains(t, err.Error(), "a.yaml")
	assert.Contains(t, err.Error(), "line 2")

	_, err = library.Load(fstest.MapFS{"a.yaml": {Data: []byte("group: ol\nladders:\n  - {key: l, name: L, technique: none, stages: [{key: s, name: S, drills: [x], window: 2, clean: 3}]}\n")}})
	require.Error(t, err)
	for _, want := range []string{`"none" is not a technique`, `"x" is not a drill`, "clean must be between 1 and 2"} {
		assert.Contains(t, err.Error(), want)
	}
}

func FuzzLoad(f *testing.F) {
	f.Add("group: ol\ndrills:\n  - {key: a, name: b, space_yd: [1, 2]}\n")
	f.Fuzz(func(_ *testing.T, text string) {
		_, _ = library.Load(fstest.MapFS{"x.yaml": {Data: []byte(text)}}) // must not panic
	})
}
