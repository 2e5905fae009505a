package marks

import (
	"fmt"

	"nineyard/core/invalid"
)

// Kind of a marking scheme.
type Kind string

// The kinds of scheme.
const (
	Facets    Kind = "facets"     // several facets, each 0 or 1
	PlusMinus Kind = "plus_minus" // one facet "grade", 0 or 1
	Points    Kind = "points"     // one facet "grade", 0 to Max, clean from CleanAt
)

// gradeFacet is the single facet of plus/minus and points.
const gradeFacet = "grade"

// Facet is one thing looked at in every rep.
type Facet struct {
	Key    string
	Weight float64 // > 0, share in the score
	Clean  bool    // must be 1 for the rep to count as clean
}

// Scheme says how a staff marks.
type Scheme struct {
	Kind    Kind
	Facets  []Facet // for Kind Facets
	Max     float64 // for Points, > 0
	CleanAt float64 // for Points, 0 to Max
	// ByResult says that a lost rep with the right process counts by its result, where that is said; see See.
	ByResult bool `json:",omitempty"`
}

// Shipped is the scheme that ships: assignment and technique decide whether a rep is
// clean; finish counts half in the score and does not.
func Shipped() Scheme {
	return Scheme{Kind: Facets, Facets: []Facet{
		{Key: "assignment", Weight: 1, Clean: true},
		{Key: "technique", Weight: 1, Clean: true},
		{Key: "finish", Weight: 0.5},
	}}
}

// facets lists the facets in order, whatever the kind.
func (s Scheme) facets() []Facet {
	if s.Kind == Facets {
		return s.Facets
	}
	return []Facet{{Key: gradeFacet, Weight: 1, Clean: true}}
}

func (s Scheme) check() error {
	switch s.Kind {
	case PlusMinus:
		return nil
	case Points:
		if !(s.Max > 0) {
			return invalid.Field("scheme.max", "scheme.max must be more than 0, got %v", s.Max)
		}
		if !(s.CleanAt >= 0 && s.CleanAt <= s.Max) {
			return invalid.Field("scheme.clean_at", "scheme.clean_at must be between 0 and %v, got %v", s.Max, s.CleanAt)
		}
		return nil
	case Facets:
	default:
		return invalid.Field("scheme.kind", "scheme.kind must be facets, plus_minus or points, got %q", s.Kind)
	}
	if len(s.Facets) == 0 {
		return invalid.Field("scheme.facets", "scheme.facets must have at least one facet")
	}
	seen, clean := map[string]bool{}, false
	for i, f := range s.Facets {
		if f.Key == "" || seen[f.Key] {
			return invalid.Field(fmt.Sprintf("scheme.facets[%d].key", i), "scheme.facets[%d].key is empty or repeated: %q", i, f.Key)
		}
		if !(f.Weight > 0) {
			return invalid.Field(fmt.Sprintf("scheme.facets[%d].weight", i), "scheme.facets[%d].weight must be more than 0, got %v", i, f.Weight)
		}
		seen[f.Key] = true
		clean = clean || f.Clean
	}
	if !clean {
		return invalid.Field("scheme.facets", "scheme.facets needs at least one facet with clean true")
	}
	return nil
}

// slack is how near below a threshold a value counts as having reached it.
const slack = 1e-9

// Verdict is the judgement of a single mark.
type Verdict struct {
	Graded bool
	Reason Reason // why not, unless Graded
	Score  float64
	Clean  bool
}

// Judge grades one mark: its score is Σ w·v / Σ w over the facets that have a
// value (points: v/max), and it is clean when every facet that decides cleanness
// and has a value is 1. If none of those has a value the mark is not graded, for
// reason Empty.
func (s Scheme) Judge(m Mark) Verdict {
	if !m.Graded {
		return Verdict{Reason: m.Reason}
	}
	var sum, weight float64
	v := Verdict{Graded: true, Clean: true}
	decided := false
	for _, f := range s.facets() {
		value, ok := m.Values[f.Key]
		if !ok {
			continue
		}
		full := 1.0
		good := value == 1
		if s.Kind == Points {
			full, good = s.Max, value >= s.CleanAt-slack
		}
		sum += f.Weight * value / full
		weight += f.Weight
		if f.Clean {
			decided = true
			v.Clean = v.Clean && good
		}
	}
	if !decided {
		return Verdict{Reason: Empty}
	}
	v.Score = sum / weight
	return v
}
