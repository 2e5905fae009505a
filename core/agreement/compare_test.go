package agreement_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/agreement"
	"nineyard/core/invalid"
)

func said(rep, technique string, right int, faults ...string) agreement.Said {
	return agreement.Said{Rep: rep, Technique: technique, Graded: true, Values: map[string]int{"technique": right}, Faults: faults}
}

func TestCompare(t *testing.T) {
	facets := []string{"assignment", "technique"}
	unseen := agreement.Said{Rep: "5", Technique: "reach"}
	a := []agreement.Said{
		said("1", "reach", 1),                        // alike
		said("2", "reach", 0, "late", "high"),        // alike, faults in another order
		said("3", "reach", 0, "late"),                // other fault, the same facet
		said("4", "reach", 1),                        // wrong for the other
		said("5", "reach", 1),                        // not seen by the other
		said("6", "reach", 1),                        // a pull for the other
		said("7", "reach", 1),                        // the other said nothing
		said("8", "reach", 1), said("8", "climb", 1), // the climb for both, then a pull for the other
	}
	b := []agreement.Said{
		said("9", "reach", 0), said("8", "climb", 1), said("8", "pull", 1),
		unseen, said("4", "reach", 0, "wide"), said("3", "reach", 0, "high"), said("2", "reach", 0, "high", "late"), said("1", "reach", 1), said("6", "pull", 1),
	}
	c, err := agreement.Compare(agreement.Nominal, facets, a, b)
	require.NoError(t, err)
	assert.Equal(t, 8, c.Both)
	assert.Equal(t, []agreement.Apart{
		{A: 2, B: 5, On: []string{agreement.OnFaults}},
		{A: 3, B: 4, On: []string{"technique", agreement.OnFaults}},
		{A: 4, B: 3, On: []string{agreement.OnGraded}},
		{A: 5, B: 8, On: []string{agreement.OnWork}},
		{A: 7, B: 2, On: []string{agreement.OnWork}},
	}, c.Apart)
	assert.Equal(t, 0, c.Facets[0].N)
	assert.Equal(t, 5, c.Facets[1].N, "reps 1 to 4 and the climb of 8")
	assert.InDelta(t, 4./5, c.Facets[1].Observed, 1e-12)

	_, err = agreement.Compare(agreement.Nominal, facets, a, append(b, unseen))
	e, bad := invalid.As(err)
	require.True(t, bad)
	assert.Equal(t, "b[9]", e.Field)
}

// TestCompareIsFair: with himself nobody differs, and whoever is compared with whom, they differ on the same.
func TestCompareIsFair(t *testing.T) {
	facets := []string{"assignment", "technique", "finish"}
	list := rapid.SliceOfNDistinct(rapid.Custom(func(t *rapid.T) agreement.Said {
		s := agreement.Said{Rep: rapid.SampledFrom([]string{"1", "2", "3", "4", "5"}).Draw(t, "rep"), Technique: rapid.SampledFrom([]string{"reach", "pull", "base"}).Draw(t, "technique"),
			Graded: rapid.Bool().Draw(t, "graded"), Values: map[string]int{}, Faults: rapid.SliceOfN(rapid.SampledFrom([]string{"high", "late"}), 0, 2).Draw(t, "faults")}
		for _, f := range facets {
			if v := rapid.IntRange(-1, 1).Draw(t, f); v >= 0 {
				s.Values[f] = v
			}
		}
		return s
	}), 0, 12, func(s agreement.Said) string { return s.Rep + s.Technique })
	rapid.Check(t, func(t *rapid.T) {
		a, b := list.Draw(t, "a"), list.Draw(t, "b")
		self, err := agreement.Compare(agreement.Nominal, facets, a, a)
		require.NoError(t, err)
		require.Empty(t, self.Apart)
		require.Equal(t, len(a), self.Both)
		ab, err := agreement.Compare(agreement.Nominal, facets, a, b)
		require.NoError(t, err)
		ba, err := agreement.Compare(agreement.Nominal, facets, b, a)
		require.NoError(t, err)
		require.Equal(t, ab.Both, ba.Both)
		require.Equal(t, len(ab.Apart), len(ba.Apart))
		require.Equal(t, ab.Overall.N, ba.Overall.N)
		if ab.Overall.N > 0 {
			require.InDelta(t, ab.Overall.Observed, ba.Overall.Observed, 1e-12)
			require.InDelta(t, ab.Overall.Expected, ba.Overall.Expected, 1e-12)
		}
		for _, x := range ab.Apart {
			require.Equal(t, a[x.A].Rep, b[x.B].Rep)
		}
	})
}
