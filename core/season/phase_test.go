package season_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

func TestPhases(t *testing.T) {
	start := season.Must("2026-08-03")
	camp, games := season.Phase{Name: "Camp", From: start}, season.Phase{Name: "Season", From: start + 21}
	require.NoError(t, season.CheckPhases(start, 12, []season.Phase{camp, games}))
	require.NoError(t, season.CheckPhases(start, 12, nil))
	for want, phases := range map[string][]season.Phase{
		"phases":         make([]season.Phase, season.MaxPhases+1),
		"phases[0].name": {{Name: " ", From: start}},
		"phases[0].from": {{Name: "Spring", From: start - 1}},
		"phases[1].from": {games, camp},
	} {
		e, bad := invalid.As(season.CheckPhases(start, 12, phases))
		require.True(t, bad, want)
		assert.Equal(t, want, e.Field)
	}
	for day, want := range map[season.Date]string{start: "Camp", start + 20: "Camp", start + 21: "Season", start + 80: "Season", start - 1: ""} {
		p, ok := season.PhaseAt([]season.Phase{camp, games}, day)
		assert.Equal(t, want, p.Name)
		assert.Equal(t, want != "", ok)
	}
}
