package growth

import (
	"math"
	"slices"

	"nineyard/core/season"
)

// Past is a player's estimate at one technique as it stood at the end of a day.
type Past struct {
	Technique           string
	End                 int // index of the day
	Estimate, Low, High float64
}

// History returns a player's estimates as they stood at the end of each of the given days,
// which ascend: at each what Of as of that day would say over the rows up to it, by
// technique of which he had reps by then, sorted. Rows after the last day are an error, as
// in Of.
func History(ends []season.Date, s Settings, rows []Row, player string) ([]Past, error) {
	if err := s.check(); err != nil {
		return nil, err
	}
	if len(ends) == 0 {
		return nil, nil
	}
	type both struct {
		group, own tally
		seen       bool
	}
	var technique names
	by := make([]both, 0, 64)
	sorted := make([]int, len(rows))
	for i := range rows {
		if _, err := rows[i].check(i, ends[len(ends)-1]); err != nil {
			return nil, err
		}
		sorted[i] = i
	}
	slices.SortStableFunc(sorted, func(i, j int) int { return int(rows[i].Date) - int(rows[j].Date) })
	var out []Past
	at := 0
	for i, end := range ends {
		if i > 0 { // what is known grows old
			w := math.Exp2(-float64(end-ends[i-1]) / s.HalfLifeDays)
			for k := range by {
				for _, t := range []*tally{&by[k].group, &by[k].own} {
					t.clean *= w
					t.faulty *= w
				}
			}
		}
		for ; at < len(sorted) && rows[sorted[at]].Date <= end; at++ {
			r := &rows[sorted[at]]
			k := technique.of(r.Technique)
			if k == uint64(len(by)) {
				by = append(by, both{})
			}
			w := math.Exp2(-float64(end-r.Date) / s.HalfLifeDays)
			t := tally{w * float64(r.Clean), w * float64(r.Faulty)}
			by[k].group.add(t)
			if r.Player == player {
				by[k].own.add(t)
				by[k].seen = true
			}
		}
		names, rank := technique.sorted()
		of := make([]int, len(names))
		for k, r := range rank {
			of[r] = k
		}
		for r, name := range names {
			b := &by[of[r]]
			if !b.seen {
				continue
			}
			p := Past{Technique: name, End: i}
			p.Estimate, p.Low, p.High = s.posterior(rate(b.group.clean, b.group.faulty), b.own.clean, b.own.faulty)
			out = append(out, p)
		}
	}
	return out, nil
}
