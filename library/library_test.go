package library_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"testing/fstest"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v4"
	"pgregory.net/rapid"

	"nineyard/core/complete"
	"nineyard/core/crew"
	"nineyard/core/invalid"
	"nineyard/core/legible"
	"nineyard/core/merge"
	"nineyard/core/school"
	"nineyard/core/sound"
	"nineyard/core/teaching"
	"nineyard/library"
)

func raw(t *testing.T) (*library.Edition, *teaching.Library) {
	t.Helper()
	e, err := library.Shipped()
	require.NoError(t, err)
	return e, e.All
}

// TestShippedLibraryIsComplete holds what ships to the rules of content, whichever
// school a staff chooses.
func TestShippedLibraryIsComplete(t *testing.T) {
	_, lib := raw(t)
	assert.Empty(t, complete.Check(school.Resolve(lib)))
	for _, q := range lib.Questions {
		for _, s := range q.Schools {
			house := school.Resolve(school.Choose(lib, q.Key, s.Key))
			assert.Empty(t, complete.Check(house), "%s/%s", q.Key, s.Key)
			assert.Empty(t, sound.Check(house), "%s/%s", q.Key, s.Key)
		}
	}
}

func TestShippedLibraryIsLarge(t *testing.T) {
	_, lib := raw(t)
	faults := 0
	for _, x := range lib.Techniques {
		faults += len(x.Faults)
	}
	t.Logf("%d techniques, %d faults, %d drills, %d ladders, %d questions", len(lib.Techniques), faults, len(lib.Drills), len(lib.Ladders), len(lib.Questions))
	assert.GreaterOrEqual(t, len(lib.Techniques), 75)
	assert.GreaterOrEqual(t, faults, 220)
	assert.GreaterOrEqual(t, len(lib.Drills), 130)
	assert.GreaterOrEqual(t, len(lib.Ladders), 45)
	assert.GreaterOrEqual(t, len(lib.Questions), 33)
	for _, group := range []string{"ol", "te", "wr", "rb", "qb", "dl", "lb", "db"} {
		part := lib.ForGroup(group)
		assert.GreaterOrEqual(t, len(part.Techniques), 8, group)
		assert.GreaterOrEqual(t, len(part.Drills), 12, group)
	}
}

// TestDrillsFitAGroup: with the men a group usually has, every drill can be run.
func TestDrillsFitAGroup(t *testing.T) {
	_, lib := raw(t)
	men := map[string]int{"qb": 3, "te": 4, "rb": 4, "lb": 5, "wr": 6, "dl": 6}
	for _, d := range lib.Drills {
		most := 0
		for _, g := range d.Groups {
			if n, ok := men[g]; ok {
				most = max(most, n)
			} else {
				most = max(most, 8)
			}
		}
		assert.LessOrEqual(t, d.Working+d.Helping(), most, d.Key)
	}
}

// TestALimitedPlayerIsNotTheOneWhoIsHit: where a helper is struck, who may not be hit is offered the other roles alone, and
// where there is no other he takes no part.
func TestALimitedPlayerIsNotTheOneWhoIsHit(t *testing.T) {
	_, lib := raw(t)
	for key, seats := range map[string]int{"lock_and_find": 1, "double_down": 0, "force_edge": 1, "escort": 1, "units_look": 1, "kick_depth": 0} {
		d, ok := lib.Drill(key)
		require.True(t, ok, key)
		want := crew.HelpPart
		if seats == 0 {
			want = crew.NoPart
		}
		assert.Equal(t, want, crew.PartOf(d, true), key)
		assert.Equal(t, seats, crew.Seats(d), key)
	}
	d, _ := lib.Drill("force_edge")
	assert.Contains(t, d.Cautions, "above the waist and below the neck, never at the head")
}

// TestSwitchingASchool: the standards, faults and drills that follow from it go with it.
func TestSwitchingASchool(t *testing.T) {
	_, lib := raw(t)
	weave, two := school.Resolve(lib), school.Resolve(school.Choose(lib, "leverage_footwork", "two_steps"))
	_, ok := weave.Drill("weave_mirror")
	assert.True(t, ok)
	_, ok = weave.Drill("two_step_mirror")
	assert.False(t, ok)
	_, ok = two.Drill("two_step_mirror")
	assert.True(t, ok)
	_, _, ok = two.Fault("lv_crosses_feet")
	assert.False(t, ok)
	_, _, ok = two.Checkpoint("lv_two_steps")
	assert.True(t, ok)
	ld, _ := two.LadderOf("leverage")
	assert.Equal(t, []string{"two_step_mirror"}, ld.Stages[0].Drills)
}

func TestDrillForKeepsToTheGroupsStage(t *testing.T) {
	_, lib := raw(t)
	house := school.Resolve(lib)
	// The second foot away from the gap is worked on at stages 0 (steps), 2 (bag) and 3 (partner).
	for reached, want := range map[int]string{-1: "close_walk", 0: "close_walk", 1: "close_walk", 2: "close_bag", 3: "close_partner", 4: "close_partner"} {
		d, ok := house.DrillFor("close_second_behind", reached)
		require.True(t, ok)
		assert.Equal(t, want, d.Key, "reached %d", reached)
	}
	_, ok := house.DrillFor("no_such_fault", 0)
	assert.False(t, ok)
}

func TestFilesFollowTheSchema(t *testing.T) {
	var doc any
	require.NoError(t, json.Unmarshal(library.Schema(), &doc))
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("schema.json", doc))
	schema, err := c.Compile("schema.json")
	require.NoError(t, err)
	files, err := filepath.Glob("*.yaml")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(files), 12)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		var content any
		require.NoError(t, yaml.Unmarshal(text, &content))
		asJSON, err := json.Marshal(content)
		require.NoError(t, err)
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(asJSON))
		require.NoError(t, err)
		assert.NoError(t, schema.Validate(value), file)
	}
	bundle, err := library.Bundled(mustEntries(t))
	require.NoError(t, err)
	text, err := bundle.JSON()
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	assert.NoError(t, schema.Validate(value), "what is exported")
}

func mustEntries(t *testing.T) []merge.Entry {
	t.Helper()
	e, _ := raw(t)
	return e.Entries
}

// TestRoundTrips: apart, together, written and read again, it is the same library.
func TestRoundTrips(t *testing.T) {
	entries := mustEntries(t)
	b, err := library.Bundled(entries)
	require.NoError(t, err)
	require.Equal(t, entries, sorted(b.Entries(), entries))
	asYAML, err := b.YAML()
	require.NoError(t, err)
	asJSON, err := b.JSON()
	require.NoError(t, err)
	for _, text := range [][]byte{asYAML, asJSON} {
		again, _, err := library.Parse(text)
		require.NoError(t, err)
		require.Equal(t, entries, sorted(again.Entries(), entries))
	}
}

// sorted puts entries into the order of others, which files do not keep between kinds.
func sorted(list, like []merge.Entry) []merge.Entry {
	byRef := map[merge.Ref]merge.Entry{}
	for _, e := range list {
		byRef[e.Ref] = e
	}
	out := make([]merge.Entry, 0, len(list))
	for _, e := range like {
		if x, ok := byRef[e.Ref]; ok {
			out = append(out, x)
		}
	}
	return out
}

func name() *rapid.Generator[string] {
	return rapid.StringMatching(`[\pL\pN :,'"#?!{}\[\]|>*&%@-]{1,12}`).Filter(func(s string) bool {
		_, ok := legible.Text(s)
		return ok
	})
}

// TestAnyLadderRoundTrips writes and reads ladders of any shape.
func TestAnyLadderRoundTrips(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stages := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) map[string]any {
			return map[string]any{"key": rapid.StringMatching(`[a-z_]{1,8}`).Draw(t, "key"), "name": name().Draw(t, "name"), "kind": "bag",
				"drills": []string{rapid.StringMatching(`[a-z_]{1,8}`).Draw(t, "drill")}, "window": rapid.IntRange(1, 40).Draw(t, "window"),
				"clean": rapid.IntRange(1, 40).Draw(t, "clean"), "from_week": rapid.IntRange(0, 20).Draw(t, "week")}
		}), 1, 5).Draw(t, "stages")
		text, err := json.Marshal(map[string]any{"name": name().Draw(t, "name"), "technique": "x", "stages": stages})
		require.NoError(t, err)
		fields, err := library.ReadFields("ladder", text)
		require.NoError(t, err)
		b, err := library.Bundled([]merge.Entry{{Ref: merge.Ref{Kind: "ladder", Key: "l"}, Fields: fields}})
		require.NoError(t, err)
		written, err := b.YAML()
		require.NoError(t, err)
		again, _, err := library.Parse(written)
		require.NoError(t, err)
		require.Equal(t, fields, again.Entries()[0].Fields)
	})
}

func TestReadFieldsNamesTheField(t *testing.T) {
	for text, field := range map[string]string{
		`{"name": 3}`:               "fields.name",
		`{"nmae": "x"}`:             "fields.nmae",
		`{"minutes": "five"}`:       "fields.minutes",
		`{"space_yd": {"a": 1}}`:    "fields.space_yd",
		`[`:                         "fields",
		`{"minutes": 1.5}`:          "fields.minutes",
		`{"setup": {"thinks": []}}`: "fields.thinks",
	} {
		_, err := library.ReadFields("drill", []byte(text))
		e, ok := invalid.As(err)
		require.True(t, ok, text)
		assert.Equal(t, field, e.Field, text)
	}
	_, err := library.ReadFields("play", []byte(`{}`))
	assert.Error(t, err)
}

func TestLoadNamesFileLineAndKey(t *testing.T) {
	load := func(text string) string {
		_, err := library.Load(fstest.MapFS{"a.yaml": {Data: []byte(text)}})
		require.Error(t, err)
		return err.Error()
	}
	text := load("groups: [ol]\ntechniqes: []\n")
	assert.Contains(t, text, "a.yaml")
	assert.Contains(t, text, "line 2")

	text = load("groups: [ol]\nladders:\n  - key: climb\n    name: L\n    technique: none\n    stages: [{key: s, kind: bag, name: S, drills: [x], window: 2, clean: 3}]\n")
	for _, want := range []string{`a.yaml:3: ladder climb: technique: "none" is not a technique`, `"x" is not a drill`, "clean must be between 1 and 2"} {
		assert.Contains(t, text, want)
	}
	text = load("groups: [ol]\ntechniques:\n  - key: t\n    name: T\n    summary: s\n    checkpoints:\n      - {key: c, phase: stance, name: C, cue: c, measure: {unit: in, target: 9, ok: [5, 8], watch: [3, 9], read: line}}\n")
	assert.Contains(t, text, "a.yaml:7: checkpoint c: measure.target: the target 9 lies outside")
	assert.Contains(t, load("groups: [ol]\n---\ngroups: [db]\n"), "one document")
}

func ExampleParse() {
	_, lines, err := library.Parse([]byte("groups: [ol]\ndrills:\n  - key: bag_fit\n    name: Bag fit\n"))
	fmt.Println(lines[merge.Ref{Kind: "drill", Key: "bag_fit"}], err)
	// Output: 3 <nil>
}

// TestWhatIsCompiledIsWhatTheFilesSay: entry by entry, and under the same digest.
func TestWhatIsCompiledIsWhatTheFilesSay(t *testing.T) {
	b, err := library.Load(os.DirFS("."))
	require.NoError(t, err)
	read, err := library.NewEdition(b.Entries())
	require.NoError(t, err)
	e, err := library.Shipped()
	require.NoError(t, err)
	assert.Equal(t, read.Digest, e.Digest, "the library was changed: run 'make generate'")
	assert.Equal(t, read.Entries, e.Entries)
}
