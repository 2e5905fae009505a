package product_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// TestATeamPeriodHasPlays: its plays are written and marked as a game's, they are no game of the season, and neither the
// period nor its practice can be taken out while marks stand on them.
func TestATeamPeriodHasPlays(t *testing.T) {
	o := open(t)
	head := o.signIn(demo.HeadCoachEmail)
	var team, own uuid.UUID
	var practice string
	for _, p := range head.world.Practices {
		for _, e := range head.world.Periods {
			if e.PracticeID != p.ID || p.OnDate.Format("2006-01-02") != demo.Now().Format("2006-01-02") {
				continue
			}
			practice = p.ID.String()
			switch e.Kind {
			case "team":
				team = e.ID
			case "individual":
				own = e.ID
			}
		}
	}
	var before contract.Season
	head.get("/season", &before)
	address := "/games/" + team.String()
	var plays contract.GamePlays
	head.get(address+"/plays", &plays)
	assert.True(t, plays.Game.Practice)
	assert.Empty(t, plays.Plays)
	status, _ := head.do("GET", "/games/"+own.String()+"/plays", nil)
	assert.Equal(t, http.StatusNotFound, status, "a group's own period has drills")

	play := uuid.New()
	status, text := head.do("PUT", address+"/plays/"+play.String(), map[string]any{"version": 0, "number": 1, "unit": "offense", "drive": 0, "quarter": 0, "clock": "", "down": 1, "spot": "", "hash": "",
		"personnel": "", "formation": "", "motion": "", "call": "Zone left", "front": "", "coverage": "", "result": "", "context": []string{}})
	require.Equal(t, http.StatusOK, status, text)
	var sheet contract.GameSheet
	head.get(address+"/marks?group=ol", &sheet)
	require.Len(t, sheet.Plays, 1)
	mark := map[string]any{"id": uuid.NewString(), "player_id": sheet.Players[0].ID, "play_id": play, "technique_key": sheet.Techniques[0].Key, "state": "looked", "faults": []map[string]any{{"key": sheet.Techniques[0].Faults[0].Key}}}
	status, text = head.do("POST", "/marks", map[string]any{"marks": []any{mark}})
	require.Equal(t, http.StatusOK, status, text)
	require.NotContains(t, text, "refused\":[{")

	var after contract.Season
	head.get("/season", &after)
	assert.Equal(t, before.Games, after.Games, "it is no game of the season")
	var evidence contract.EvidencePage
	head.get(fmt.Sprintf("/players/%s/evidence?group=ol&week=%d", sheet.Players[0].ID, demo.Week), &evidence)
	assert.Equal(t, contract.EvidenceSource("practice"), evidence.Reps[0].Source)

	var day contract.Practice
	head.get("/practices/"+practice+"?group=ol", &day)
	for _, x := range []struct {
		address string
		version int
	}{{"/practices/" + practice + "/periods/" + team.String(), versionOf(day, team)}, {"/practices/" + practice, season(after, practice)}} {
		status, text = head.do("DELETE", x.address, nil, "If-Match", fmt.Sprintf(`"%d"`, x.version))
		assert.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Contains(t, text, "marks")
	}
}

func versionOf(p contract.Practice, period uuid.UUID) int {
	for _, e := range p.Periods {
		if e.ID == period {
			return e.Version
		}
	}
	return -1
}

func season(s contract.Season, practice string) int {
	for _, p := range s.Practices {
		if p.ID.String() == practice {
			return p.Version
		}
	}
	return -1
}
