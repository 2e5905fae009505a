package find

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/internal/contract"
	"nineyard/internal/teach/house"
	"nineyard/internal/testkit"
)

var bg = context.Background()

// renamed is the house of a club that calls a drill by another name and retired another.
func renamed(t *testing.T, drill, name, retired string) *house.House {
	t.Helper()
	h := testkit.Shipped(t).House
	layer := merge.Layer{}
	for _, e := range h.Entries {
		switch e.Ref {
		case merge.Ref{Kind: "drill", Key: drill}:
			fields := merge.Fields{}
			for k, v := range e.Fields {
				fields[k] = v
			}
			fields["name"] = `"` + name + `"`
			layer = layer.Put(e.Ref, e.Fields, fields)
		case merge.Ref{Kind: "drill", Key: retired}:
			layer = layer.Retire(e.Ref, true, true)
		}
	}
	next, err := h.With(layer)
	require.NoError(t, err)
	return next
}

func TestTermsFindTheShippedNameToo(t *testing.T) {
	h := renamed(t, "pull_bag", "Trap the bag", "")
	seen := map[string]bool{}
	for _, term := range termsOf(h.Library, h.Edition) {
		id := term.Kind + " " + term.Key
		assert.False(t, seen[id], id)
		seen[id] = true
		if id == "drill pull_bag" {
			assert.Equal(t, "trap the bag · pull and kick the bag", term.Terms)
			assert.Equal(t, []string{"ol"}, term.Groups)
		}
	}
	assert.True(t, seen["question hand_strike"])
	assert.True(t, seen["ladder pull_ladder"])
	assert.False(t, seen["drill two_step_mirror"], "the school that is not taught here is not found")
}

// TestAClubKeepsWhatDiffersOnly: nothing at all when it changed nothing.
func TestAClubKeepsWhatDiffersOnly(t *testing.T) {
	m := newMemory()
	s := &Service{Store: m}
	require.NoError(t, s.Keep(bg, testkit.Shipped(t).House))
	assert.Empty(t, m.own)
	assert.Len(t, m.editions, 1)

	h := renamed(t, "pull_bag", "Trap the bag", "base_drive_bag")
	require.NoError(t, s.Keep(bg, h))
	assert.Equal(t, h.Version, m.version)
	hidden := map[string]bool{}
	for _, term := range m.own {
		hidden[term.Kind+" "+term.Key] = term.Hidden
	}
	assert.Equal(t, map[string]bool{"drill pull_bag": false, "drill base_drive_bag": true}, map[string]bool{"drill pull_bag": hidden["drill pull_bag"], "drill base_drive_bag": hidden["drill base_drive_bag"]})
	assert.Less(t, len(m.own), 10)
	m.own = nil
	require.NoError(t, s.Keep(bg, h))
	assert.Nil(t, m.own, "in step already")
}

func TestFindSaysWhereItIsUsed(t *testing.T) {
	m := newMemory()
	h := renamed(t, "pull_bag", "Trap the bag", "")
	s := &Service{Store: m, Houses: testkit.Houses{House: h}}
	require.NoError(t, s.Keep(bg, h))
	practice := uuid.New()
	m.uses = []Use{{Kind: "drill", Key: "pull_bag", Practices: 2, Marks: 40, Recent: []UseDay{{Practice: practice, On: testkit.Day.Time()}}}}
	hits, err := s.Find(bg, testkit.Coach("ol"), "  Trap the BAG ", "ol")
	require.NoError(t, err)
	require.NotEmpty(t, hits)
	first := hits[0]
	assert.Equal(t, []any{contract.HitKind("drill"), "pull_bag", "Trap the bag", true}, []any{first.Kind, first.Key, first.Name, first.Mine})
	assert.Equal(t, contract.Use{Practices: 2, Marks: 40, Recent: []contract.UseDay{{ID: practice, Date: "2026-10-13"}}}, first.Use)
	assert.NotEmpty(t, first.Ladders)
	assert.NotEmpty(t, first.TechniqueName)

	hits, err = s.Find(bg, testkit.Coach("ol"), "base block", "ol")
	require.NoError(t, err)
	require.NotEmpty(t, hits)
	assert.Equal(t, "base_block", hits[0].Key)
	assert.NotEmpty(t, hits[0].Ladders)
	assert.NotEmpty(t, m.asked.Techniques)
	for _, words := range []string{"", " ", "?!"} {
		_, err = s.Find(bg, testkit.Coach("ol"), words, "ol")
		e, ok := invalid.As(err)
		require.True(t, ok)
		assert.Equal(t, "q", e.Field)
	}
	use, err := s.DrillUse(bg, testkit.Coach("ol"), "pull_bag")
	require.NoError(t, err)
	assert.Equal(t, 2, use.Practices)
	use, err = s.DrillUse(bg, testkit.Coach("ol"), "gate")
	require.NoError(t, err)
	assert.Equal(t, contract.Use{Recent: []contract.UseDay{}}, use, "used nowhere yet")
}
