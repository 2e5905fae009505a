package group_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/group"
	"nineyard/core/invalid"
)

func ExampleList_ForPosition() {
	groups := group.Usual()
	for _, p := range []string{"LG", "corner", "CB/S", "Wide receivers", "H back", "long snapper", "??"} {
		key, ok := groups.ForPosition(p)
		fmt.Printf("%s: %q %v\n", p, key, ok)
	}
	// Output:
	// LG: "ol" true
	// corner: "db" true
	// CB/S: "db" true
	// Wide receivers: "wr" true
	// H back: "te" true
	// long snapper: "sp" true
	// ??: "" false
}

func TestUsualGroupsAreSound(t *testing.T) {
	l := group.Usual()
	require.NoError(t, l.Check())
	owner := map[string]string{}
	for _, g := range l {
		for _, p := range append([]string{g.Key, g.Short, g.Name}, g.Positions...) {
			key, ok := l.ForPosition(p)
			require.True(t, ok, p)
			assert.Equal(t, g.Key, key, "%q means one group only", p)
			folded := strings.ToLower(p)
			if other, taken := owner[folded]; taken {
				assert.Equal(t, other, g.Key, p)
			}
			owner[folded] = g.Key
		}
	}
}

func TestPlays(t *testing.T) {
	line, _ := group.Usual().Find("ol")
	units, _ := group.Usual().Find("sp")
	for at, want := range map[string]bool{"C": true, "c/rg": true, "RG": false, "LT, LG": false, "": true, "OL": true, "Offensive line": true, "RG/C": true} {
		assert.Equal(t, want, line.Plays(at, []string{"c"}), "%q at centre", at)
		assert.True(t, line.Plays(at, nil), "%q where no place is named", at)
	}
	for at, want := range map[string]string{"K": "kicker", "PR": "returner", "long snapper": "snapper", "K/P": "punter", "H": "holder"} {
		assert.True(t, units.Plays(at, []string{want}), at)
	}
	assert.False(t, units.Plays("K", []string{"punter", "snapper"}))
	assert.True(t, units.Plays("Upback", []string{"upback"}), "a place of the club's own")
}

func TestSides(t *testing.T) {
	for side, want := range map[group.Side][2]bool{group.Offense: {true, false}, group.Defense: {false, true}, group.Units: {false, false}} {
		assert.Equal(t, want, [2]bool{side.Plays(true), side.Plays(false)}, side)
	}
}

// TestGroupsWeDidNotThinkOf: a club may have others than ours, and none of ours.
func TestGroupsWeDidNotThinkOf(t *testing.T) {
	l := group.List{{"front", "Front seven", "F7", group.Defense, []string{"Edge"}}, {"spec", "Specialists", "K/P", group.Units, nil}}
	require.NoError(t, l.Check())
	key, ok := l.ForPosition("edge")
	assert.True(t, ok)
	assert.Equal(t, "front", key)
	_, ok = l.ForPosition("LG")
	assert.False(t, ok)
	assert.Equal(t, []string{"front", "spec"}, l.Keys())
	_, ok = l.Find("ol")
	assert.False(t, ok)
}

func TestCheckNamesTheField(t *testing.T) {
	for field, spoil := range map[string]func(*group.List){
		"groups":              func(l *group.List) { *l = nil },
		"groups[0].key":       func(l *group.List) { (*l)[0].Key = "O L" },
		"groups[1].key":       func(l *group.List) { (*l)[1].Key = "ol" },
		"groups[2].name":      func(l *group.List) { (*l)[2].Name = "" },
		"groups[3].short":     func(l *group.List) { (*l)[3].Short = "QUARTERS" },
		"groups[4].side":      func(l *group.List) { (*l)[4].Side = "left" },
		"groups[5].positions": func(l *group.List) { (*l)[5].Positions = make([]string, 41) },
	} {
		l := group.Usual()
		spoil(&l)
		e, ok := invalid.As(l.Check())
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}
