package calc_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/calc"
)

// TestGolden runs every testdata/NAME-*.json and compares with its .want file. The
// answers were worked by hand; see the comments in the core's tests.
func TestGolden(t *testing.T) {
	inputs, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, inputs)
	for _, path := range inputs {
		name, _, _ := strings.Cut(filepath.Base(path), "-")
		in, err := os.ReadFile(path)
		require.NoError(t, err)
		want, err := os.ReadFile(strings.TrimSuffix(path, ".json") + ".want")
		require.NoError(t, err)
		var out, errs bytes.Buffer
		err = calc.Run(name, bytes.NewReader(in), &out, &errs)
		if out.Len() > 0 {
			require.NoError(t, err, path)
			assert.JSONEq(t, string(want), out.String(), path)
			assert.Empty(t, errs.String(), path)
			continue
		}
		require.Error(t, err, path)
		assert.JSONEq(t, string(want), errs.String(), path)
		assert.Equal(t, 1, strings.Count(errs.String(), "\n"), path)
	}
}

const goodReps = `{"players":9,"minutes":10,"setup_seconds":45,"lanes":5,"working":1,"helping":1,"rep_seconds":5,"reset_seconds":20,"sides":2,"target_reps":12}`

const goodScript = `{"minutes":20,"groups":["OL","WR"],"places":[{"key":"north_end","capacity":2}],"equipment":[{"key":"chutes","count":5}],"limits":{"contact_minutes":30,"water_every":30,"warm_up_first":true},
	"periods":[{"key":"p1","start":0,"minutes":10,"kind":"warm_up","groups":["OL","WR"],"coaches":["kell"],"place":null,"contact":"air","equipment":{"chutes":5},"needs_groups":[],"rep_seconds":6}]}`

func TestBadInputNamesTheField(t *testing.T) {
	for _, c := range []struct{ name, in, field string }{
		{"reps", ``, ""},
		{"reps", `[1]`, ""},
		{"reps", goodReps + `{}`, ""},
		{"reps", strings.Replace(goodReps, `"lanes":5`, `"lanes":0`, 1), "lanes"},
		{"reps", strings.Replace(goodReps, `"lanes":5`, `"lanes":"5"`, 1), "lanes"},
		{"reps", strings.Replace(goodReps, `"lanes":5`, `"lanes":2.5`, 1), "lanes"},
		{"reps", strings.Replace(goodReps, `"lanes":5,`, ``, 1), "lanes"},
		{"reps", strings.Replace(goodReps, `"lanes":5`, `"lanes":5,"lanes":5`, 1), "lanes"},
		{"reps", strings.Replace(goodReps, `"lanes":5`, `"lanes":5,"chutes":5`, 1), "chutes"},
		{"reps", strings.Replace(goodReps, `"players":9`, `"players":1`, 1), "players"},
		{"reps", strings.Replace(goodReps, `"players":9`, `"players":1e999`, 1), "players"},
		{"ladder", `{"as_of":"2026-13-01"}`, "as_of"},
		{"ladder", `{"as_of":"2026-10-01","season_start":"2026-08-01","stages":[{"key":"a","window":3,"clean":4}],"reps":[]}`, "stages[0].clean"},
		{"ladder", `{"as_of":"2026-10-01","season_start":"2026-08-01","stages":[{"key":"a","window":3,"clean":2}],"reps":[{"date":"2026-09-01","stage":"b","clean":true}]}`, "reps[0].stage"},
		{"growth", `{"as_of":"2026-10-01","reps":[{"player":"1","technique":"x","date":"2026-10-02","source":"game","clean":1,"faulty":0}]}`, "reps[0].date"},
		{"growth", `{"as_of":"2026-10-01","reps":[{"player":"1","technique":"x","date":"2026-09-02","source":"scrimmage","clean":1,"faulty":0}]}`, "reps[0].source"},
		{"growth", `{"as_of":"2026-10-01","interval":1,"reps":[]}`, "interval"},
		{"grade", `{"scheme":{"kind":"facets","facets":[]},"marks":[]}`, "scheme.facets"},
		{"grade", `{"scheme":{"kind":"plus_minus"},"marks":[{"player":"1","graded":true,"values":{"grade":2}}]}`, "marks[0].values.grade"},
		{"grade", `{"scheme":{"kind":"plus_minus"},"marks":[{"player":"1","graded":false}]}`, "marks[0].reason"},
		{"needs", `{"players":[{"key":"1","snap_share":2}],"faults":[]}`, "players[0].snap_share"},
		{"needs", `{"prior_reps":0,"players":[],"faults":[]}`, "prior_reps"},
		{"needs", `{"players":[{"key":"1","snap_share":1},{"key":"1","snap_share":1}],"faults":[]}`, "players[1].key"},
		{"growth", `{"as_of":"2026-10-01","reps":[{"player":"1","technique":"x","date":"2026-09-02","source":"game","side":"middle","clean":1,"faulty":0}]}`, "reps[0].side"},
		{"growth", `{"as_of":"2026-10-01","reps":[{"player":"1","technique":"x","date":"2026-09-02","source":"game","clean":1000001,"faulty":0}]}`, "reps[0].clean"},
		{"grade", `{"scheme":{"kind":"plus_minus"},"marks":[{"player":"1","graded":true,"values":{"grade":1},"faults":[{"key":"a","caused_by":"1"}]}]}`, "marks[0].faults[0].caused_by"},
		{"schedule", strings.Replace(goodScript, `"minutes":10`, `"minutes":0`, 1), "periods[0].minutes"},
		{"schedule", strings.Replace(goodScript, `"contact":"air"`, `"contact":"full"`, 1), "periods[0].contact"},
		{"schedule", strings.Replace(goodScript, `"place":null`, `"place":"moon"`, 1), "periods[0].place"},
		{"schedule", strings.Replace(goodScript, `"chutes":5`, `"chutes":-1`, 1), "periods[0].equipment.chutes"},
		{"schedule", strings.Replace(goodScript, `"warm_up","groups":["OL","WR"]`, `"warm_up","groups":["OL",3]`, 1), "periods[0].groups[1]"},
		{"schedule", strings.Replace(goodScript, `"water_every":30`, `"max_rep_seconds":0`, 1), "limits.max_rep_seconds"},
		{"schedule", strings.Replace(goodScript, `"water_every":30`, `"heat":30`, 1), "limits.heat"},
		{"replan", `{"available":3,"periods":[{"key":"a","planned":5,"min":4,"droppable":false,"value":1}]}`, "available"},
		{"replan", `{"available":3,"periods":[{"key":"a","planned":5,"min":6,"droppable":false,"value":1}]}`, "periods[0].min"},
		{"replan", `{"available":301,"periods":[]}`, "available"},
		{"pace", `{"stages":[{"key":"a","window":3,"clean":4}],"clean_rate":1,"sessions":[{"date":"2026-10-13","reps":6}]}`, "stages[0].clean"},
		{"pace", `{"stages":[{"key":"a","window":3,"clean":1}],"so_far":[{"date":"2026-10-08","clean":[true]}],"clean_rate":1,"sessions":[{"date":"2026-10-13","reps":6}]}`, "so_far"},
		{"pace", `{"stages":[{"key":"a","window":3,"clean":1}],"so_far":[{"date":"2026-10-08","clean":[1]}],"clean_rate":1,"sessions":[{"date":"2026-10-13","reps":6}]}`, "so_far[0].clean[0]"},
		{"pace", `{"stages":[{"key":"a","window":3,"clean":1,"not_before":"soon"}],"clean_rate":1,"sessions":[{"date":"2026-10-13","reps":6}]}`, "stages[0].not_before"},
		{"agreement", `{"facets":["technique"],"pairs":[{"facet":"finish","a":1,"b":0}],"scale":"nominal"}`, "pairs[0].facet"},
		{"agreement", `{"facets":["technique","technique"],"pairs":[],"scale":"nominal"}`, "facets[1]"},
		{"agreement", `{"facets":["technique"],"pairs":[{"facet":"technique","a":0.5,"b":0}],"scale":"ordinal"}`, "pairs[0].a"},
		{"agreement", `{"facets":["technique"],"pairs":[],"scale":"fine"}`, "scale"},
		{"sorcery", `{}`, ""},
	} {
		var out, errs bytes.Buffer
		require.Error(t, calc.Run(c.name, strings.NewReader(c.in), &out, &errs), c.in)
		assert.Empty(t, out.String(), c.in)
		var answer struct {
			Error struct{ Field, Message string }
		}
		require.NoError(t, json.Unmarshal(errs.Bytes(), &answer), c.in)
		assert.Equal(t, c.field, answer.Error.Field, c.in)
		assert.NotEmpty(t, answer.Error.Message)
	}
}

// FuzzRun feeds the JSON entry anything: it must answer or complain, never both,
// never panic, and the same every time.
func FuzzRun(f *testing.F) {
	f.Add("reps", goodReps)
	f.Add("ladder", `{"as_of":"2026-10-13","season_start":"2026-08-17","stages":[{"key":"fit","window":5,"clean":4,"from_week":1}],"reps":[{"date":"2026-08-18","stage":"fit","clean":true}]}`)
	f.Add("growth", `{"as_of":"2026-10-13","reps":[{"player":"14","technique":"reach","date":"2026-10-10","source":"game","clean":7,"faulty":2}]}`)
	f.Add("grade", `{"scheme":{"kind":"points","max":4,"clean_at":3},"marks":[{"player":"14","graded":true,"values":{"grade":3},"faults":["a",{"key":"b","caused_by":"72"}]}]}`)
	f.Add("needs", `{"severity":{"a":2},"exposure":{"x":1},"players":[],"faults":[],"safety":["a"]}`)
	f.Add("agreement", `{"facets":["technique"],"pairs":[{"facet":"technique","a":1,"b":0}],"scale":"ordinal"}`)
	f.Fuzz(func(t *testing.T, name, in string) {
		var out, errs, again, errsAgain bytes.Buffer
		err := calc.Run(name, strings.NewReader(in), &out, &errs)
		if (err == nil) != (errs.Len() == 0) || (err == nil) == (out.Len() == 0) {
			t.Fatalf("both or neither: %q %q", out.String(), errs.String())
		}
		_ = calc.Run(name, strings.NewReader(in), &again, &errsAgain)
		if out.String() != again.String() || errs.String() != errsAgain.String() {
			t.Fatal("two answers to one question")
		}
	})
}
