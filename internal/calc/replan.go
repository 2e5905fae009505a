package calc

import "nineyard/core/replan"

type cutAnswer struct {
	Key  string `json:"key"`
	From int    `json:"from"`
	To   int    `json:"to"`
}

type replanAnswer struct {
	Minutes   map[string]int `json:"minutes"`
	Dropped   []string       `json:"dropped"`
	Cut       []cutAnswer    `json:"cut"`
	Value     float64        `json:"value"`
	FullValue float64        `json:"full_value"`
}

func replanOf(r *reader) func() (any, error) {
	available := r.integer("available", true, 0, 0, replan.MaxAvailable)
	var periods []replan.Period
	r.list("periods", true, replan.MaxPeriods, func(r *reader) {
		p := replan.Period{Key: r.text("key", true), Planned: r.integer("planned", true, 0, 1, replan.MaxPlanned), Min: r.integer("min", true, 0, 0, replan.MaxPlanned),
			Droppable: r.flag("droppable", true, false), Value: r.number("value", true, 0)}
		periods = append(periods, p)
	})
	return func() (any, error) {
		plan, err := replan.Of(available, periods)
		if err != nil {
			return nil, err
		}
		a := replanAnswer{Minutes: map[string]int{}, Dropped: []string{}, Cut: []cutAnswer{}, Value: plan.Value, FullValue: plan.FullValue}
		for i, p := range periods {
			m := plan.Minutes[i]
			a.Minutes[p.Key] = m
			switch {
			case m == 0:
				a.Dropped = append(a.Dropped, p.Key)
			case m < p.Planned:
				a.Cut = append(a.Cut, cutAnswer{p.Key, p.Planned, m})
			}
		}
		return a, nil
	}
}
