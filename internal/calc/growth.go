package calc

import "nineyard/core/growth"

type countAnswer struct {
	Clean  int `json:"clean"`
	Faulty int `json:"faulty"`
}

type growthRow struct {
	Player        string       `json:"player"`
	Technique     string       `json:"technique"`
	Reps          int          `json:"reps"`
	EffectiveReps float64      `json:"effective_reps"`
	Estimate      float64      `json:"estimate"`
	Low           float64      `json:"low"`
	High          float64      `json:"high"`
	PImproved     *float64     `json:"p_improved"`
	Trend         growth.Trend `json:"trend"`
	TrendClaimed  bool         `json:"trend_claimed"`
	Practice      countAnswer  `json:"practice"`
	Game          countAnswer  `json:"game"`
	PDrop         *float64     `json:"p_drop"`
	Carry         growth.Carry `json:"carry"`
	CarryClaimed  bool         `json:"carry_claimed"`
}

type groupRate struct {
	Technique string  `json:"technique"`
	Rate      float64 `json:"rate"`
}

func growthOf(r *reader) func() (any, error) {
	d := growth.Default()
	asOf := r.date("as_of")
	s := growth.Settings{
		HalfLifeDays: r.number("half_life_days", false, d.HalfLifeDays),
		PriorReps:    r.number("prior_reps", false, d.PriorReps),
		Interval:     r.number("interval", false, d.Interval),
		RecentDays:   r.integer("recent_days", false, d.RecentDays, 1, 100_000),
		CarryDays:    r.integer("carry_days", false, d.CarryDays, 1, 100_000),
		MinReps:      r.integer("min_reps", false, d.MinReps, 1, 1_000_000),
		FalseAlarm:   r.number("false_alarm", false, d.FalseAlarm),
	}
	var rows []growth.Row
	r.list("reps", true, 1_000_000, func(r *reader) {
		row := growth.Row{
			Player: r.text("player", true), Technique: r.text("technique", true), Date: r.date("date"),
			Clean: r.integer("clean", true, 0, 0, 1_000_000), Faulty: r.integer("faulty", true, 0, 0, 1_000_000),
		}
		if r.oneOf("source", true, "practice", "game") == "game" {
			row.Source = growth.Game
		}
		rows = append(rows, row)
	})
	return func() (any, error) {
		report, err := growth.Of(asOf, s, rows)
		if err != nil {
			return nil, err
		}
		answer := struct {
			Rows  []growthRow `json:"rows"`
			Group []groupRate `json:"group"`
		}{make([]growthRow, 0, len(report.Rows)), make([]groupRate, 0, len(report.Group))}
		for _, e := range report.Rows {
			row := growthRow{Player: e.Player, Technique: e.Technique, Reps: e.Reps, EffectiveReps: e.EffectiveReps,
				Estimate: e.Estimate, Low: e.Low, High: e.High, Trend: e.Trend, TrendClaimed: e.TrendClaimed,
				Practice: countAnswer(e.Practice), Game: countAnswer(e.Game), Carry: e.Carry, CarryClaimed: e.CarryClaimed}
			if e.Trend != growth.TooFew {
				row.PImproved = &e.PImproved
			}
			if e.Carry != growth.CarryTooFew {
				row.PDrop = &e.PDrop
			}
			answer.Rows = append(answer.Rows, row)
		}
		for _, g := range report.Group {
			answer.Group = append(answer.Group, groupRate(g))
		}
		return answer, nil
	}
}
