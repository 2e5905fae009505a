package play

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
)

func ExampleMeant() {
	aliases := []Alias{{ColFront, "Bear", "Odd"}, {ColCoverage, "Sky", "Cover 3"}}
	p := Meant(Play{Front: "BEAR", Coverage: "Quarters", Result: "Bear"}, aliases)
	fmt.Println(p.Front, p.Coverage, p.Result)
	// Output: Odd Quarters Bear
}

func TestAnAliasThatCannotBe(t *testing.T) {
	others := []Alias{{ColFront, "Bear", "Odd"}}
	require.NoError(t, Alias{ColFront, "Okie", "Odd"}.Check(others))
	require.NoError(t, Alias{ColCoverage, "Bear", "Cover 0"}.Check(others), "another label, another word")
	for field, a := range map[string]Alias{
		"label": {ColCall, "Lead", "Gap lead"},
		"said":  {ColFront, "bear", "Even"},
		"means": {ColFront, "Okie", "BEAR"},
	} {
		var e *invalid.Error
		require.ErrorAs(t, a.Check(others), &e)
		assert.Equal(t, field, e.Field)
	}
	for _, a := range []Alias{{ColFront, "Odd", "Even"}, {ColFront, "", "Odd"}, {ColFront, "-", "Odd"}, {ColFront, "O-d-d", "odd"}, {ColFront, "a\nb", "Odd"}} {
		assert.Error(t, a.Check(others), a)
	}
	assert.Error(t, Alias{ColFront, "Okie", "Odd"}.Check(make([]Alias, MaxAliases)))
}

// Whatever aliases are accepted one after the other: their order says nothing, and what is meant is meant again.
func TestMeantIsMeantOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.SampledFrom([]string{"a", "b", "C", "d", "e"})
		label := rapid.SampledFrom(AliasLabels())
		var aliases []Alias
		for range rapid.IntRange(0, 8).Draw(t, "n") {
			a := Alias{label.Draw(t, "label"), word.Draw(t, "said"), word.Draw(t, "means")}
			if a.Check(aliases) == nil {
				aliases = append(aliases, a)
			}
		}
		p := Play{Front: word.Draw(t, "front"), Coverage: word.Draw(t, "coverage"), Formation: word.Draw(t, "formation")}
		once := Meant(p, aliases)
		assert.Equal(t, once, Meant(once, aliases))
		turned := []Alias{}
		for _, a := range aliases {
			turned = append([]Alias{a}, turned...)
		}
		assert.Equal(t, once, Meant(p, turned))
		for _, l := range AliasLabels() { // by the definition
			want := Word(p, l)
			for _, a := range aliases {
				if a.Label == l && a.Said == Word(p, l) {
					want = a.Means
				}
			}
			assert.Equal(t, want, Word(once, l))
		}
	})
}
