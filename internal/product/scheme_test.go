package product_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"maps"
	"net/http"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
	marking "nineyard/internal/mark"
	"nineyard/internal/platform/pg"
	"nineyard/library"
)

func facets(assignment, technique, finish float64, decides ...string) []map[string]any {
	clean := map[string]bool{}
	for _, d := range decides {
		clean[d] = true
	}
	return []map[string]any{{"key": "assignment", "weight": assignment, "clean": clean["assignment"]}, {"key": "technique", "weight": technique, "clean": clean["technique"]},
		{"key": "finish", "weight": finish, "clean": clean["finish"]}}
}

// TestTheHeadCoachDecidesHowARepIsJudged: all marks follow, evidence says by which version, and
// who is too late is shown what now stands.
func TestTheHeadCoachDecidesHowARepIsJudged(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	var shipped contract.Scheme
	s.get("/scheme", &shipped)
	assert.Equal(t, 0, shipped.Version)
	assert.True(t, shipped.Editable)
	assert.Equal(t, shipped.Marks, shipped.Judged)
	put := func(version int, f []map[string]any) (int, string) {
		return s.do("PUT", "/scheme", map[string]any{"version": version, "facets": f})
	}
	for name, f := range map[string][]map[string]any{"nothing decides": facets(1, 1, 1), "what decides counts for nothing": facets(1, 0, 1, "technique")} {
		status, text := put(0, f)
		require.Equal(t, http.StatusUnprocessableEntity, status, name+text)
		assert.Equal(t, "facets", *problem(t, text).Field, name)
	}
	status, text := put(0, facets(1, 1, 11, "technique"))
	assert.Equal(t, http.StatusBadRequest, status, text)

	status, text = put(0, facets(0, 1, 1, "technique", "finish"))
	require.Equal(t, http.StatusOK, status, text)
	var now contract.Scheme
	require.NoError(t, json.Unmarshal([]byte(text), &now))
	assert.Equal(t, []any{1, 0}, []any{now.Version, now.Judged}, "the marks are still judged by the one before")
	status, text = put(0, facets(1, 1, 1, "finish"))
	require.Equal(t, http.StatusConflict, status, "somebody was quicker: %s", text)
	assert.Contains(t, text, "M. Orrin")

	k := &marking.Keeper{DB: s.product.DB, Log: slog.New(slog.DiscardHandler)}
	require.NoError(t, k.Judge(context.Background(), demo.Now))
	s.get("/scheme", &now)
	assert.Equal(t, now.Marks, now.Judged)
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil))
	var page contract.EvidencePage
	s.get("/players/"+s.roster()["64 Sato"].ID.String()+"/evidence?group=ol&week=7", &page)
	assert.Equal(t, 1, page.Reps[0].Scheme)

	line := s.visitor().signIn(demo.LineCoachEmail)
	line.get("/scheme", &now)
	assert.False(t, now.Editable)
	status, _ = line.do("PUT", "/scheme", map[string]any{"version": 1, "facets": facets(1, 1, 1, "finish")})
	assert.Equal(t, http.StatusForbidden, status)
}

// TestAGroupIsMarkedInAWayOfItsOwn: by points, from now on and of old; what is sound is kept when it goes back, and what is
// not is said. What the staff teaches of marking switches the club.
func TestAGroupIsMarkedInAWayOfItsOwn(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	put := func(version int, body map[string]any) (now contract.Scheme) {
		body["version"] = version
		status, text := s.do("PUT", "/scheme", body)
		require.Equal(t, http.StatusOK, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &now))
		return now
	}
	group := func(v contract.Scheme, key string) contract.GroupScheme {
		i := slices.IndexFunc(v.Groups, func(g contract.GroupScheme) bool { return g.Group == key })
		return v.Groups[i]
	}
	for field, body := range map[string]map[string]any{"max": {"group": "ol", "kind": "points", "max": 3, "clean_at": 4, "facets": []any{}}, "group": {"group": "zz", "kind": "plus_minus", "facets": []any{}}} {
		body["version"] = 0
		status, text := s.do("PUT", "/scheme", body)
		require.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Equal(t, field, *problem(t, text).Field)
	}
	now := put(0, map[string]any{"group": "ol", "kind": "points", "max": 4, "clean_at": 3, "facets": []any{}})
	assert.Equal(t, []any{"points", 4, 3, true, false}, []any{string(group(now, "ol").Kind), group(now, "ol").Max, group(now, "ol").CleanAt, group(now, "ol").Own, group(now, "qb").Own})
	i := slices.IndexFunc(now.Switching, func(x contract.Switching) bool { return x.Made == "facets" && x.By == "points" })
	assert.Contains(t, now.Switching[i].Says, "how many points they would have had nobody said")

	line := s.visitor().signIn(demo.LineCoachEmail)
	game := s.world.Games[demo.Week-2].ID.String()
	var sheet contract.GameSheet
	line.get("/games/"+game+"/marks?group=ol", &sheet)
	assert.Equal(t, []any{"points", 4, 3}, []any{string(sheet.Judged.Kind), sheet.Judged.Of, sheet.Judged.CleanAt})
	m := sheet.Marks[0]
	post := func(id uuid.UUID, change map[string]any) string {
		mark := map[string]any{"id": id, "play_id": m.PlayID, "technique_key": m.TechniqueKey, "player_id": m.Mark.PlayerID, "state": "looked"}
		maps.Copy(mark, change)
		status, text := line.do("POST", "/marks", map[string]any{"marks": []any{mark}})
		require.Equal(t, http.StatusOK, status, text)
		return text
	}
	verdict := func() string {
		v := ""
		for _, word := range []string{"clean", "faulty"} {
			if s.count(`SELECT count(*)::int AS n FROM mark_slots WHERE stands AND play_id = '`+m.PlayID.String()+`' AND player_id = '`+m.Mark.PlayerID.String()+`' AND technique_key = '`+m.TechniqueKey+`' AND verdict = '`+word+`'`, nil) == 1 {
				v = word
			}
		}
		return v
	}
	two := uuid.New()
	assert.Contains(t, post(uuid.New(), map[string]any{"grade": 5, "on": m.Mark.ID}), "marks[0].grade")
	post(two, map[string]any{"grade": 2, "on": m.Mark.ID})
	assert.Equal(t, "faulty", verdict(), "two of four are not clean")
	line.get("/games/"+game+"/marks?group=ol", &sheet)
	i = slices.IndexFunc(sheet.Marks, func(x contract.GameMark) bool { return x.Mark.ID == two })
	assert.Equal(t, []any{2, 4, 3}, []any{*sheet.Marks[i].Mark.Grade, *sheet.Marks[i].Mark.GradeOf, *sheet.Marks[i].Mark.GradeClean})
	status, content := line.do("GET", "/games/"+game+"/marks-list?group=ol", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, content, ",looked,,,,2,")

	// Back to the club's: the two points are still no clean rep.
	now = put(1, map[string]any{"group": "ol", "own": false, "facets": []any{}})
	assert.False(t, group(now, "ol").Own)
	k := &marking.Keeper{DB: s.product.DB, Log: slog.New(slog.DiscardHandler)}
	require.NoError(t, k.Judge(context.Background(), demo.Now))
	assert.Equal(t, "faulty", verdict())
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil))
	assert.Contains(t, post(uuid.New(), map[string]any{"grade": 1, "on": two}), "marked by facets")

	// What is taught switches it, and what a lost rep is.
	answer := func(question, school string) {
		var e contract.Entry
		s.get("/library/entries/question/"+question, &e)
		fields := maps.Clone(e.Fields)
		fields["house"], fields["why"] = school, "Our staff agreed."
		status, text := s.do("PUT", "/library/entries/question/"+question, map[string]any{"version": e.Version, "id": uuid.New(), "fields": fields})
		require.Equal(t, http.StatusOK, status, text)
		now = contract.Scheme{}
		s.get("/scheme", &now)
	}
	answer("marking", "plus_minus")
	assert.Equal(t, []any{"plus_minus", false, 3}, []any{string(now.Kind), now.ByResult, now.Version})
	answer("lost_rep", "result")
	assert.Equal(t, []any{"plus_minus", true}, []any{string(now.Kind), now.ByResult})
	require.NoError(t, k.Judge(context.Background(), demo.Now))
	post(uuid.New(), map[string]any{"result": 0, "on": two})
	assert.Equal(t, "faulty", verdict(), "right, and lost")
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil))
}

// TestASettledMarkStandsOverTheCoaches, and a fault keeps its penalty.
func TestASettledMarkStandsOverTheCoaches(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	placement, player := s.world.Placements[0].ID, s.world.Players[0].ID
	post := func(m map[string]any) {
		t.Helper()
		status, body := s.do("POST", "/marks", map[string]any{"marks": []any{m}})
		require.Equal(t, http.StatusOK, status, body)
	}
	settled := mark(placement, player, 1, "looked", "base_hands_wide")
	settled["settled"] = true
	settled["faults"] = []map[string]any{{"key": "base_hands_wide", "penalty": true}}
	post(settled)
	later := mark(placement, player, 1, "assumed")
	post(later)
	var sheet contract.MarkSheet
	s.get("/placements/"+placement.String()+"/marks", &sheet)
	for _, m := range sheet.Marks {
		if m.PlayerID == player && m.Rep == 1 {
			assert.Equal(t, settled["id"], m.ID.String())
		}
	}
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM mark_faults WHERE mark_id = @id AND penalty`, pg.Args{"id": uuid.MustParse(settled["id"].(string))}))
	assert.Positive(t, s.count(`SELECT sum(penalties)::int AS n FROM mark_fault_days WHERE player_id = @id`, pg.Args{"id": player}))
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil))
}

// TestALabelIsCorrectedAndMarksFollow: what a drill was marked as is called by another of the
// techniques that it shows; and a rep of such a drill may have a mark of each.
func TestALabelIsCorrectedAndMarksFollow(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	shipped, err := library.Shipped()
	require.NoError(t, err)
	drill, ok := shipped.Taught.Drill("ol_pass_look")
	require.True(t, ok && len(drill.Techniques) > 1)
	i := slices.IndexFunc(s.world.Placements, func(p demo.Placement) bool { return p.DrillKey == "ol_pass_look" })
	placed := s.world.Placements[i]
	other := ""
	for _, x := range drill.Techniques {
		if x != placed.TechniqueKey {
			other = x
		}
	}
	of := func(technique string) int {
		return s.count(`SELECT count(*)::int AS n FROM mark_slots WHERE placement_id = @id AND technique_key = @technique`, pg.Args{"id": placed.ID, "technique": technique})
	}
	marks := of(placed.TechniqueKey)
	require.Positive(t, marks)
	player := s.world.Players[0].ID
	second := mark(placed.ID, player, 1, "assumed")
	second["technique_key"] = other
	status, body := s.do("POST", "/marks", map[string]any{"marks": []any{second}})
	require.Equal(t, http.StatusOK, status, body)
	require.Contains(t, body, second["id"])
	assert.Equal(t, []int{marks, 1}, []int{of(placed.TechniqueKey), of(other)}, "both are kept")
	var sheet contract.MarkSheet
	s.get("/placements/"+placed.ID.String()+"/marks", &sheet)
	assert.Len(t, sheet.Marks, marks+1, "its cards ask for both")
	wrong := mark(placed.ID, player, 1, "assumed")
	wrong["technique_key"] = "alley_fit"
	_, body = s.do("POST", "/marks", map[string]any{"marks": []any{wrong}})
	assert.Contains(t, body, "technique_key")

	var drills []any
	for _, p := range s.world.Placements {
		if p.PeriodID != placed.PeriodID {
			continue
		}
		x := map[string]any{"id": p.ID, "drill": p.DrillKey, "start": p.Start, "minutes": p.Minutes, "lanes": p.Lanes}
		if p.TechniqueKey != "" {
			x["technique"] = p.TechniqueKey
		}
		if p.ID == placed.ID {
			x["technique"] = other
		}
		drills = append(drills, x)
	}
	status, body = s.do("PUT", "/periods/"+placed.PeriodID.String()+"/placements", map[string]any{"version": 1, "placements": drills})
	require.Equal(t, http.StatusOK, status, body)
	assert.Zero(t, of(placed.TechniqueKey))
	assert.GreaterOrEqual(t, of(other), marks)
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil))
}
