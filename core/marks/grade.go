package marks

import (
	"fmt"
	"math"
	"sort"

	"nineyard/core/invalid"
)

// Reason why a mark is not graded.
type Reason string

// The reasons. Empty is given by Judge, never by a coach.
const (
	Unseen      Reason = "unseen"       // off the picture
	Unsettled   Reason = "unsettled"    // an open question about whose man it was
	NotGradable Reason = "not_gradable" // a play that says nothing about him
	Empty       Reason = "empty"        // no deciding facet has a value
)

// Fault is a named error seen in the rep.
type Fault struct {
	Key      string
	CausedBy string // the teammate who caused it; empty for the player's own
}

// Mark is what a coach recorded for one player on one play or rep.
type Mark struct {
	Player  string
	Play    string
	Weight  float64 // ≥ 0, importance of the play
	Graded  bool
	Reason  Reason             // set exactly when not Graded
	Assumed bool               // clean because the coach moved on, not looked at
	Values  map[string]float64 // facet → value; a missing facet was not judged
	Faults  []Fault
}

// FacetMean is the weighted mean of a facet over the marks that judged it.
type FacetMean struct {
	N    int
	Mean float64 // meaningful when N > 0 and the weights are not all zero
}

// FaultCount is how often a fault was seen. Rate is its share of graded marks.
type FaultCount struct {
	Key  string
	N    int
	Rate float64
}

// Summary of the marks of a player, or of the group.
type Summary struct {
	Player    string // empty for the group
	Marks     int
	Graded    int
	NotGraded int
	Reasons   map[Reason]int
	Assumed   int     // of the graded ones
	Score     float64 // weighted mean; meaningful when Scored
	Scored    bool    // some graded mark has weight above zero
	Clean     int
	CleanRate float64 // Clean / Graded; meaningful when Graded > 0
	Facets    map[string]FacetMean
	Faults    []FaultCount // by N descending, then key
	Caused    []FaultCount // by N descending, then key; faults of teammates he caused, Rate unused
}

// Report is the result of Grade.
type Report struct {
	Players []Summary // in order of first appearance, as marked or as cause
	Group   Summary
}

// Grade summarizes the marks by player and for the group. A fault named twice in one mark
// counts once, and one that two teammates caused is charged to both and counts once for the
// group: counts are of marks that show it. Faults of a mark that is not graded count for
// nobody.
//
// It returns an invalid.Error for a scheme or mark out of its ranges.
func Grade(s Scheme, all []Mark) (Report, error) {
	if err := s.check(); err != nil {
		return Report{}, err
	}
	group := newSum("")
	byPlayer := map[string]*sum{}
	var order []*sum
	player := func(key string) *sum {
		p, ok := byPlayer[key]
		if !ok {
			p = newSum(key)
			byPlayer[key] = p
			order = append(order, p)
		}
		return p
	}
	for i, m := range all {
		if err := s.checkMark(m); err != nil {
			return Report{}, invalid.Within(fmt.Sprintf("marks[%d]", i), err)
		}
		v := s.Judge(m)
		own := player(m.Player)
		own.add(s, m, v)
		group.add(s, m, v)
		if !v.Graded {
			continue
		}
		shared := map[string]bool{}
		for _, f := range distinct(m.Faults) {
			if f.CausedBy == "" {
				own.faults[f.Key]++
				group.faults[f.Key]++
				continue
			}
			player(f.CausedBy).caused[f.Key]++
			if !shared[f.Key] {
				group.caused[f.Key]++
			}
			shared[f.Key] = true
		}
	}
	report := Report{Players: make([]Summary, 0, len(order)), Group: group.summary(s)}
	for _, p := range order {
		report.Players = append(report.Players, p.summary(s))
	}
	return report, nil
}

// sum gathers one Summary.
type sum struct {
	out            Summary
	score, weight  float64
	facet, facetW  map[string]float64
	facetN         map[string]int
	faults, caused map[string]int
}

func newSum(player string) *sum {
	return &sum{out: Summary{Player: player, Reasons: map[Reason]int{}}, facet: map[string]float64{},
		facetW: map[string]float64{}, facetN: map[string]int{}, faults: map[string]int{}, caused: map[string]int{}}
}

func (t *sum) add(s Scheme, m Mark, v Verdict) {
	t.out.Marks++
	if !v.Graded {
		t.out.NotGraded++
		t.out.Reasons[v.Reason]++
		return
	}
	t.out.Graded++
	if m.Assumed {
		t.out.Assumed++
	}
	if v.Clean {
		t.out.Clean++
	}
	t.score += m.Weight * v.Score
	t.weight += m.Weight
	for _, f := range s.facets() {
		if value, ok := m.Values[f.Key]; ok {
			t.facet[f.Key] += m.Weight * value
			t.facetW[f.Key] += m.Weight
			t.facetN[f.Key]++
		}
	}
}

func (t *sum) summary(s Scheme) Summary {
	o := t.out
	if t.weight > 0 {
		o.Score, o.Scored = t.score/t.weight, true
	}
	if o.Graded > 0 {
		o.CleanRate = float64(o.Clean) / float64(o.Graded)
	}
	o.Facets = map[string]FacetMean{}
	for _, f := range s.facets() {
		m := FacetMean{N: t.facetN[f.Key], Mean: math.NaN()}
		if t.facetW[f.Key] > 0 {
			m.Mean = t.facet[f.Key] / t.facetW[f.Key]
		}
		o.Facets[f.Key] = m
	}
	o.Faults, o.Caused = ranked(t.faults, o.Graded), ranked(t.caused, 0)
	return o
}

func ranked(counts map[string]int, graded int) []FaultCount {
	list := make([]FaultCount, 0, len(counts))
	for k, n := range counts {
		c := FaultCount{Key: k, N: n}
		if graded > 0 {
			c.Rate = float64(n) / float64(graded)
		}
		list = append(list, c)
	}
	sort.Slice(list, func(i, j int) bool {
		if list[i].N != list[j].N {
			return list[i].N > list[j].N
		}
		return list[i].Key < list[j].Key
	})
	return list
}

func distinct(faults []Fault) []Fault {
	out := make([]Fault, 0, len(faults))
	seen := map[Fault]bool{}
	for _, f := range faults {
		if !seen[f] {
			seen[f] = true
			out = append(out, f)
		}
	}
	return out
}

// Check returns an invalid.Error when the mark does not fit the scheme: a value
// outside its facet's range or of no facet, a missing player, weight below zero,
// a reason without being ungraded or the other way round, a fault without a key.
func (s Scheme) Check(m Mark) error {
	if err := s.check(); err != nil {
		return err
	}
	return s.checkMark(m)
}

func (s Scheme) checkMark(m Mark) error {
	if m.Player == "" {
		return invalid.Field("player", "player must not be empty")
	}
	if !(m.Weight >= 0) || math.IsInf(m.Weight, 0) {
		return invalid.Field("weight", "weight must be 0 or more, got %v", m.Weight)
	}
	switch {
	case m.Graded && m.Reason != "":
		return invalid.Field("reason", "reason is only given when graded is false")
	case !m.Graded && m.Reason != Unseen && m.Reason != Unsettled && m.Reason != NotGradable:
		return invalid.Field("reason", "reason must be unseen, unsettled or not_gradable when graded is false, got %q", m.Reason)
	}
	known := map[string]bool{}
	for _, f := range s.facets() {
		known[f.Key] = true
	}
	keys := make([]string, 0, len(m.Values))
	for key := range m.Values {
		keys = append(keys, key)
	}
	sort.Strings(keys)
	for _, key := range keys {
		value := m.Values[key]
		switch {
		case !known[key]:
			return invalid.Field("values."+key, "values.%s is not a facet of the scheme", key)
		case s.Kind == Points && !(value >= 0 && value <= s.Max):
			return invalid.Field("values."+key, "values.%s must be between 0 and %v, got %v", key, s.Max, value)
		case s.Kind != Points && value != 0 && value != 1:
			return invalid.Field("values."+key, "values.%s must be 0 or 1, got %v", key, value)
		}
	}
	for i, f := range m.Faults {
		if f.Key == "" {
			return invalid.Field(fmt.Sprintf("faults[%d].key", i), "faults[%d].key must not be empty", i)
		}
		if f.CausedBy == m.Player {
			return invalid.Field(fmt.Sprintf("faults[%d].caused_by", i), "faults[%d].caused_by is the player who is marked; leave it out for a fault of his own", i)
		}
	}
	return nil
}
