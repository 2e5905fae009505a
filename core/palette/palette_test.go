package palette

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var three = []string{"head", "hips", "hands"} // the most important first

func ExampleOf() {
	counts := []Count{{"sato", "base", "hands", 9}, {"sato", "base", "hips", 1}, {"marsh", "base", "hips", 20}}
	for _, p := range Of("base", three, counts) {
		fmt.Printf("%q %v\n", p.Player, p.Faults)
	}
	// Output:
	// "" [hips hands head]
	// "marsh" [hips hands head]
	// "sato" [hands hips head]
}

// By hand: the group shows hips 21 times and hands 9 times of 30, so the six spread faults are 4.2 and 1.8. Sato with
// 2 at the hands and 1 at the hips is expected to show 3.8 and 5.2: the hips still come first; with 4 and 1 the hands do.
func TestFewOfHisOwnDoNotTurnTheGroupsOrder(t *testing.T) {
	rest := func(hands, hips float64) []Count {
		return []Count{{"sato", "base", "hands", hands}, {"sato", "base", "hips", hips}, {"others", "base", "hands", 9 - hands}, {"others", "base", "hips", 21 - hips}}
	}
	of := func(list []Palette) []string {
		i := slices.IndexFunc(list, func(p Palette) bool { return p.Player == "sato" })
		require.GreaterOrEqual(t, i, 0)
		return list[i].Faults
	}
	assert.Equal(t, []string{"hips", "hands", "head"}, of(Of("base", three, rest(2, 1))))
	assert.Equal(t, []string{"hands", "hips", "head"}, of(Of("base", three, rest(4, 1))))
}

func TestNothingKnownIsTheLibrarysOrder(t *testing.T) {
	assert.Equal(t, []Palette{{Technique: "base", Faults: three}}, Of("base", three, nil))
	assert.Equal(t, []Palette{{Technique: "base", Faults: three}}, Of("base", three, []Count{{"sato", "reach", "hips", 5}, {"sato", "base", "gone", 5}}), "another technique, and a fault that is no more")
	assert.Equal(t, []Palette{{Technique: "base", Faults: []string{}}}, Of("base", []string{}, nil))
	assert.Equal(t, []string{"head", "hips", "hands"}, three, "what is given is left as it is")
}

// Against the definition: nobody's palette has two neighbours of which the second is expected more often, and each
// has every fault once.
func TestEachPaletteIsInOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		counts := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Count {
			return Count{rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "player"), rapid.SampledFrom([]string{"base", "reach"}).Draw(t, "technique"),
				rapid.SampledFrom(append([]string{"gone"}, three...)).Draw(t, "fault"), float64(rapid.IntRange(0, 9).Draw(t, "n"))}
		}), 0, 30).Draw(t, "counts")
		total := func(player, fault string) (n float64) {
			for _, c := range counts {
				if c.Technique == "base" && c.Fault == fault && (player == "" || c.Player == player) {
					n += c.N
				}
			}
			return n
		}
		all := total("", "head") + total("", "hips") + total("", "hands")
		for _, p := range Of("base", three, counts) {
			assert.ElementsMatch(t, three, p.Faults)
			for i := 1; i < len(p.Faults); i++ {
				expected := func(f string) float64 {
					if all == 0 {
						return 0
					}
					own := 0.0
					if p.Player != "" {
						own = total(p.Player, f)
					}
					return own + 6*total("", f)/all
				}
				assert.GreaterOrEqual(t, expected(p.Faults[i-1])+1e-9, expected(p.Faults[i]))
			}
		}
	})
}
