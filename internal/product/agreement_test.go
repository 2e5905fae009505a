package product_test

import (
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// TestTwoCoachesGradeOnePlay: neither sees the other's marks while he grades blind; where they differ is told, and
// what is settled stands over both, for whoever reads the game then.
func TestTwoCoachesGradeOnePlay(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	head := line.visitor().signIn(demo.HeadCoachEmail)
	game := "/games/" + line.world.Games[demo.Week-2].ID.String()
	read := func(s *site, query string) (sheet contract.GameSheet) {
		s.get(game+"/marks?group=ol"+query, &sheet)
		return sheet
	}
	compare := func() (a contract.Agreement) {
		head.get(game+"/agreement?group=ol", &a)
		return a
	}
	sheet := read(line, "")
	made := len(sheet.Marks)
	play, player := sheet.Plays[len(sheet.Plays)-1].ID, sheet.Players[0].ID
	assert.Empty(t, read(head, "&blind=true").Marks, "the head coach has graded nobody")
	before := compare()
	assert.Equal(t, []any{1, 0}, []any{len(before.Graders), len(before.Apart)})
	assert.Equal(t, made, before.Graders[0].Marks)
	post := func(s *site, m map[string]any) uuid.UUID {
		id := uuid.New()
		m["id"], m["play_id"], m["player_id"], m["technique_key"] = id, play, player, "kick_slide"
		status, body := s.do("POST", "/marks", map[string]any{"marks": []any{m}})
		require.Equal(t, http.StatusOK, status, body)
		return id
	}
	post(line, map[string]any{"state": "assumed"})
	fault := []any{map[string]any{"key": "kick_opens_early", "penalty": true}}
	post(head, map[string]any{"state": "looked", "faults": fault})
	assert.Len(t, read(line, "&blind=true").Marks, made+1)
	assert.Len(t, read(head, "&blind=true").Marks, 1)
	assert.Len(t, read(line, "").Marks, made+1, "one of them stands")

	a := compare()
	require.Len(t, a.Apart, 1)
	assert.Equal(t, []any{"R. Kell", "M. Orrin", 1}, []any{a.Graders[0].Name, a.Graders[1].Name, a.Both})
	x := a.Apart[0]
	assert.Equal(t, []any{play, player, []contract.ApartOn{"technique", "faults"}}, []any{x.Play.ID, x.PlayerID, x.On})
	assert.Equal(t, []any{contract.MarkState("assumed"), contract.MarkState("looked"), true}, []any{x.A.Mark.State, x.B.Mark.State, *x.B.Mark.Faults[0].Penalty})
	assert.Equal(t, 0., *a.Facets[1].Observed)
	assert.Nil(t, x.Settled)

	settled := post(line, map[string]any{"state": "assumed", "settled": true})
	assert.Equal(t, settled, compare().Apart[0].Settled.Mark.ID)
	for _, m := range read(head, "").Marks {
		if m.PlayID == play && m.Mark.PlayerID == player {
			assert.Equal(t, settled, m.Mark.ID)
		}
	}
	// Bad questions are refused by name.
	status, _ := head.do("GET", game+"/agreement?group=ol&a=nobody", nil)
	assert.Equal(t, http.StatusBadRequest, status)
	status, _ = head.do("GET", game+"/agreement?group=nobody", nil)
	assert.Equal(t, http.StatusNotFound, status)
}
