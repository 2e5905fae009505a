package teach

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/sound"
	"nineyard/internal/access"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
	"nineyard/internal/testkit"
	"nineyard/library"
)

// shippedHouse is the house of a club that has changed nothing.
func shippedHouse(t *testing.T) *house.House {
	t.Helper()
	e, err := library.Shipped()
	require.NoError(t, err)
	h, err := house.New(1, e, nil)
	require.NoError(t, err)
	return h
}

func fieldsAsRead(h *house.House, r merge.Ref) map[string]interface{} {
	return values(fieldsOf(h.Entries, r))
}

// put makes a change and returns the house as it is then.
func put(t *testing.T, c access.Coach, h *house.House, r merge.Ref, in EntryChange) (*house.House, string) {
	t.Helper()
	layer, summary, err := change(c, h, r, in)
	require.NoError(t, err)
	next, err := h.With(layer)
	require.NoError(t, err)
	return next, summary
}

func TestChangeKeepsTheOldTermAndSaysWhatWasDone(t *testing.T) {
	h := shippedHouse(t)
	r := merge.Ref{Kind: "technique", Key: "base_block"}
	f := fieldsAsRead(h, r)
	f["name"] = "Drive the man"
	next, summary := put(t, testkit.Coach("ol"), h, r, EntryChange{Fields: f, Note: "house word"})
	assert.Equal(t, "Changed technique: Drive the man. house word", summary)
	technique, ok := next.Library.Technique("base_block")
	require.True(t, ok)
	assert.Equal(t, "Drive the man", technique.Name)
	assert.Equal(t, []string{"drive block", "man-on block", "Base block"}, technique.Aliases)

	// A second name keeps both of the words before it.
	f = fieldsAsRead(next, r)
	f["name"] = "Man block"
	again, _ := put(t, testkit.Coach("ol"), next, r, EntryChange{Fields: f})
	technique, _ = again.Library.Technique("base_block")
	assert.Equal(t, []string{"drive block", "man-on block", "Base block", "Drive the man"}, technique.Aliases)
}

func TestChangeKeepsWhatAnEntryIs(t *testing.T) {
	h := shippedHouse(t)
	r := merge.Ref{Kind: "fault", Key: "kick_leans"}
	f := fieldsAsRead(h, r)
	f["technique"] = "slant" // he cannot move it to another technique
	delete(f, "sort")
	f["severity"] = 1
	next, _ := put(t, testkit.Coach("ol"), h, r, EntryChange{Fields: f})
	fault, technique, ok := next.All.Fault("kick_leans")
	require.True(t, ok)
	assert.Equal(t, "kick_slide", technique.Key)
	assert.Equal(t, 1, fault.Severity)
	change, _ := next.Layer.Find(r)
	assert.Equal(t, []string{"severity"}, slices.Sorted(maps.Keys(change.Fields)), "only what differs is kept")
}

func TestWhoMayChangeWhat(t *testing.T) {
	h := shippedHouse(t)
	for _, c := range []struct {
		ref    merge.Ref
		groups []string
		may    bool
	}{
		{merge.Ref{Kind: "technique", Key: "base_block"}, []string{"ol"}, true},
		{merge.Ref{Kind: "technique", Key: "base_block"}, []string{"te"}, true}, // it is taught to his group too
		{merge.Ref{Kind: "technique", Key: "base_block"}, []string{"db"}, false},
		{merge.Ref{Kind: "checkpoint", Key: "base_first"}, []string{"db"}, false},
		{merge.Ref{Kind: "fault", Key: "pd_rises"}, []string{"db"}, true},
		{merge.Ref{Kind: "drill", Key: "pedal_line"}, []string{"ol"}, false},
		{merge.Ref{Kind: "ladder", Key: "pedal_ladder"}, []string{"db"}, true},
		{merge.Ref{Kind: "question", Key: "leverage_footwork"}, []string{"db"}, true},
		{merge.Ref{Kind: "question", Key: "leverage_footwork"}, []string{"ol"}, false},
		{merge.Ref{Kind: "question", Key: "marking"}, []string{"ol"}, false}, // the whole staff's
	} {
		assert.Equal(t, c.may, mayEditEntry(testkit.Coach(c.groups...), h, c.ref), "%s by %v", c.ref, c.groups)
		assert.True(t, mayEditEntry(testkit.Head(), h, c.ref))
		if !c.may {
			_, _, err := change(testkit.Coach(c.groups...), h, c.ref, EntryChange{Fields: fieldsAsRead(h, c.ref)})
			assert.ErrorIs(t, err, problem.ErrForbidden)
		}
	}
	_, _, err := change(testkit.Head(), h, merge.Ref{Kind: "drill", Key: "none"}, EntryChange{})
	assert.ErrorIs(t, err, problem.ErrNotFound)
}

func TestAddingFindsItsPlace(t *testing.T) {
	h := shippedHouse(t)
	r := merge.Ref{Kind: "checkpoint", Key: "own_breath"}
	next, summary := put(t, testkit.Coach("ol"), h, r, EntryChange{Fields: map[string]interface{}{"technique": "pull_kick", "phase": "finish", "name": "Breathes out at contact",
		"cue": "out", "words": []string{"holds", "out"}, "right": []string{"out"}}})
	assert.Equal(t, "Added checkpoint: Breathes out at contact", summary)
	technique, _ := next.All.Technique("pull_kick")
	assert.Equal(t, "own_breath", technique.Checkpoints[len(technique.Checkpoints)-1].Key, "behind the others")
	assert.Empty(t, sound.Check(next.All))
}

func TestRetiringCascadesAndComesBack(t *testing.T) {
	h := shippedHouse(t)
	a := testkit.Coach("ol")
	r := merge.Ref{Kind: "technique", Key: "lift_block"}
	yes, no := true, false
	next, summary := put(t, a, h, r, EntryChange{Retired: &yes})
	assert.Equal(t, "Retired technique: Forearm lift", summary)
	_, ok := next.Library.Technique("lift_block")
	assert.False(t, ok)
	_, ok = next.Library.Ladder("lift_ladder")
	assert.False(t, ok, "its ladder goes with it")
	_, ok = next.Library.Drill("lift_fit")
	assert.False(t, ok, "and the drills that trained nothing else")
	run, ok := next.Library.Drill("ol_run_look")
	require.True(t, ok)
	assert.NotContains(t, run.Techniques, "lift_block")
	known, ok := next.Known.Technique("lift_block")
	assert.True(t, ok, "marks of old still find its name")
	assert.Equal(t, "Forearm lift", known.Name)
	back, summary := put(t, a, next, r, EntryChange{Retired: &no})
	assert.Equal(t, "Took back technique: Forearm lift", summary)
	assert.Empty(t, back.Layer)
	assert.Equal(t, len(h.Library.Drills), len(back.Library.Drills))
}

func TestNeededBringsAllThatItRefersTo(t *testing.T) {
	h := shippedHouse(t)
	for _, r := range []merge.Ref{{Kind: "ladder", Key: "leverage_ladder"}, {Kind: "drill", Key: "weave_mirror"}, {Kind: "technique", Key: "exchange"}, {Kind: "ladder", Key: "base_ladder"}} {
		wanted := needed(h.All, r)
		require.True(t, wanted[r])
		var entries []merge.Entry
		for _, e := range h.Entries {
			if wanted[e.Ref] {
				entries = append(entries, e)
			}
		}
		lib, err := library.NewEdition(entries)
		require.NoError(t, err)
		for _, issue := range sound.Check(lib.All) {
			// A drill may bring a technique whose ladder stays at home; nothing else is missing.
			assert.Fail(t, issue.Error(), "%s alone", r)
		}
		assert.Less(t, len(entries), len(h.Entries)/2, "%s does not bring everything", r)
	}
}

func TestReadLibraryRefuses(t *testing.T) {
	for text, want := range map[string]string{
		"":                                     "no entry",
		"drills: [":                            "cannot be read",
		"drills:\n  - {key: a, colour: red}\n": "colour",
		"ladders:\n  - {key: a, name: A, technique: t, stages: []}\n  - {key: a, name: B, technique: t, stages: []}\n": "stands twice",
	} {
		_, err := readLibrary(strings.NewReader(text))
		e, ok := invalid.As(err)
		require.True(t, ok, text)
		assert.Equal(t, "file", e.Field)
		assert.Contains(t, e.Message, want)
	}
}

func TestValueOfWhatCannotBeRead(t *testing.T) {
	assert.Nil(t, value(""))
	assert.Nil(t, value("{"))
	assert.Equal(t, "x", nameOf(merge.Fields{"name": `"x"`}, merge.Ref{Key: "k"}))
	assert.Equal(t, "k", nameOf(merge.Fields{"name": `3`}, merge.Ref{Key: "k"}))
	text, err := json.Marshal(values(merge.Fields{"a": "1", "b": `["x"]`}))
	require.NoError(t, err)
	assert.JSONEq(t, `{"a": 1, "b": ["x"]}`, string(text))
}

func TestWhatAnEntryWouldBreakIsSaidWhileItIsTyped(t *testing.T) {
	s := open(t)
	h, err := s.Of(bg, s.coach)
	require.NoError(t, err)
	says := func(r merge.Ref, change func(f map[string]any)) []string {
		f := fieldsAsRead(h, r)
		change(f)
		out, err := s.CheckEntry(bg, s.coach, r.Kind, r.Key, f)
		require.NoError(t, err)
		return out.Breaks
	}
	drill, fault := merge.Ref{Kind: "drill", Key: "pull_bag"}, merge.Ref{Kind: "fault", Key: "kick_leans"}
	assert.Empty(t, says(drill, func(map[string]any) {}), "as it ships it breaks nothing")
	assert.Empty(t, says(drill, func(f map[string]any) { f["name"] = "Bag pull" }))
	assert.NotEmpty(t, says(drill, func(f map[string]any) { f["name"] = " " }), "a drill without a name")
	assert.NotEmpty(t, says(fault, func(f map[string]any) { f["checkpoint"] = "slant_eyes" }), "a checkpoint of another technique")
	assert.NotEmpty(t, says(drill, func(f map[string]any) { f["working"] = 40 }), "its ladder cannot be climbed with so few players")

	_, err = s.CheckEntry(bg, testkit.Coach("db"), drill.Kind, drill.Key, fieldsAsRead(h, drill))
	require.ErrorIs(t, err, problem.ErrForbidden)
	after, err := s.Of(bg, s.coach)
	require.NoError(t, err)
	assert.Equal(t, h.Version, after.Version, "nothing is saved")
}
