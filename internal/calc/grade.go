package calc

import (
	"fmt"
	"math"

	"nineyard/core/marks"
)

type facetAnswer struct {
	N    int      `json:"n"`
	Mean *float64 `json:"mean"`
}

type faultAnswer struct {
	Key  string  `json:"key"`
	N    int     `json:"n"`
	Rate float64 `json:"rate"`
}

type causedAnswer struct {
	Key string `json:"key"`
	N   int    `json:"n"`
}

type summaryAnswer struct {
	Player    *string                `json:"player,omitempty"`
	Marks     int                    `json:"marks"`
	Graded    int                    `json:"graded"`
	NotGraded int                    `json:"not_graded"`
	Reasons   map[marks.Reason]int   `json:"reasons"`
	Assumed   int                    `json:"assumed"`
	Score     *float64               `json:"score"`
	Clean     int                    `json:"clean"`
	CleanRate *float64               `json:"clean_rate"`
	Facets    map[string]facetAnswer `json:"facets"`
	Faults    []faultAnswer          `json:"faults"`
	Caused    []causedAnswer         `json:"caused"`
}

func gradeOf(r *reader) func() (any, error) {
	scheme := schemeOf(r)
	var all []marks.Mark
	r.list("marks", true, 1_000_000, func(r *reader) { all = append(all, markOf(r)) })
	return func() (any, error) {
		report, err := marks.Grade(scheme, all)
		if err != nil {
			return nil, err
		}
		players := make([]summaryAnswer, 0, len(report.Players))
		for _, s := range report.Players {
			a := summarize(s)
			a.Player = &s.Player
			players = append(players, a)
		}
		return struct {
			Players []summaryAnswer `json:"players"`
			Group   summaryAnswer   `json:"group"`
		}{players, summarize(report.Group)}, nil
	}
}

func schemeOf(r *reader) marks.Scheme {
	v, at, ok := r.get("scheme", true)
	if !ok {
		return marks.Scheme{}
	}
	r = open(v, at, r.err)
	defer r.close()
	s := marks.Scheme{Kind: marks.Kind(r.oneOf("kind", true, string(marks.Facets), string(marks.PlusMinus), string(marks.Points)))}
	switch s.Kind {
	case marks.Facets:
		r.list("facets", true, 20, func(r *reader) {
			s.Facets = append(s.Facets, marks.Facet{Key: r.text("key", true), Weight: r.number("weight", false, 1), Clean: r.flag("clean", false, true)})
		})
	case marks.Points:
		s.Max = r.number("max", true, 0)
		s.CleanAt = r.number("clean_at", true, 0)
	}
	return s
}

func markOf(r *reader) marks.Mark {
	m := marks.Mark{
		Player: r.text("player", true), Play: r.text("play", false), Weight: r.number("weight", false, 1),
		Graded: r.flag("graded", true, false), Reason: marks.Reason(r.text("reason", false)),
		Assumed: r.flag("assumed", false, false), Values: map[string]float64{},
	}
	if v, at, ok := r.get("values", m.Graded); ok {
		values := open(v, at, r.err)
		for _, key := range values.keys() {
			if n, at, ok := values.get(key, false); ok {
				m.Values[key] = values.asNumber(n, at)
			}
		}
	}
	for i, v := range r.items("faults", false, 100) {
		if key, ok := v.(string); ok {
			m.Faults = append(m.Faults, marks.Fault{Key: key})
			continue
		}
		f := open(v, fmt.Sprintf("%s.faults[%d]", r.path, i), r.err)
		m.Faults = append(m.Faults, marks.Fault{Key: f.text("key", true), CausedBy: f.text("caused_by", false)})
		f.close()
	}
	return m
}

func summarize(s marks.Summary) summaryAnswer {
	a := summaryAnswer{Marks: s.Marks, Graded: s.Graded, NotGraded: s.NotGraded, Reasons: s.Reasons, Assumed: s.Assumed,
		Clean: s.Clean, Facets: map[string]facetAnswer{}, Faults: []faultAnswer{}, Caused: []causedAnswer{}}
	if s.Scored {
		a.Score = &s.Score
	}
	if s.Graded > 0 {
		a.CleanRate = &s.CleanRate
	}
	for k, f := range s.Facets {
		fa := facetAnswer{N: f.N}
		if !math.IsNaN(f.Mean) {
			fa.Mean = &f.Mean
		}
		a.Facets[k] = fa
	}
	for _, f := range s.Faults {
		a.Faults = append(a.Faults, faultAnswer(f))
	}
	for _, f := range s.Caused {
		a.Caused = append(a.Caused, causedAnswer{f.Key, f.N})
	}
	return a
}
