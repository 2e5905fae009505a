package calc

import "nineyard/core/growth"

type countAnswer struct {
	Clean  int `json:"clean"`
	Faulty int `json:"faulty"`
}

type growthRow struct {
	Player        string        `json:"player"`
	Technique     string        `json:"technique"`
	Reps          int           `json:"reps"`
	EffectiveReps float64       `json:"effective_reps"`
	Estimate      float64       `json:"estimate"`
	Low           float64       `json:"low"`
	High          float64       `json:"high"`
	PImproved     *float64      `json:"p_improved"`
	Trend         growth.Trend  `json:"trend"`
	TrendClaimed  bool          `json:"trend_claimed"`
	Practice      countAnswer   `json:"practice"`
	Game          countAnswer   `json:"game"`
	PDrop         *float64      `json:"p_drop"`
	Carry         growth.Carry  `json:"carry"`
	CarryClaimed  bool          `json:"carry_claimed"`
	PLeftBetter   *float64      `json:"p_left_better"`
	Sides         growth.Better `json:"sides"`
	SidesClaimed  bool          `json:"sides_claimed"`
}

type growthPlayer struct {
	Player       string       `json:"player"`
	PImproved    *float64     `json:"p_improved"`
	Trend        growth.Trend `json:"trend"`
	TrendClaimed bool         `json:"trend_claimed"`
	PDrop        *float64     `json:"p_drop"`
	Carry        growth.Carry `json:"carry"`
	CarryClaimed bool         `json:"carry_claimed"`
}

type groupRate struct {
	Technique    string   `json:"technique"`
	Rate         float64  `json:"rate"`
	PracticeRate *float64 `json:"practice_rate"`
	GameRate     *float64 `json:"game_rate"`
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
	sides := map[string]growth.Side{"": growth.NoSide, "left": growth.Left, "right": growth.Right}
	var rows []growth.Row
	r.list("reps", true, 1_000_000, func(r *reader) {
		row := growth.Row{
			Player: r.text("player", true), Technique: r.text("technique", true), Date: r.date("date"),
			Side:  sides[r.oneOf("side", false, "left", "right")],
			Clean: r.integer("clean", true, 0, 0, growth.MaxCount), Faulty: r.integer("faulty", true, 0, 0, growth.MaxCount),
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
		return growthAnswer(report), nil
	}
}

// known is a probability, or null when there were too few reps to give one.
func known(p float64, tooFew bool) *float64 {
	if tooFew {
		return nil
	}
	return &p
}

func share(c growth.Count) *float64 {
	return known(float64(c.Clean)/float64(max(c.N(), 1)), c.N() == 0)
}

func growthAnswer(report growth.Report) any {
	answer := struct {
		Rows    []growthRow    `json:"rows"`
		Players []growthPlayer `json:"players"`
		Group   []groupRate    `json:"group"`
	}{make([]growthRow, len(report.Rows)), make([]growthPlayer, len(report.Players)), make([]groupRate, len(report.Group))}
	for i, e := range report.Rows {
		answer.Rows[i] = growthRow{Player: e.Player, Technique: e.Technique, Reps: e.Reps, EffectiveReps: e.EffectiveReps,
			Estimate: e.Estimate, Low: e.Low, High: e.High,
			PImproved: known(e.PImproved, e.Trend == growth.TooFew), Trend: e.Trend, TrendClaimed: e.TrendClaimed,
			Practice: countAnswer(e.Practice), Game: countAnswer(e.Game),
			PDrop: known(e.PDrop, e.Carry == growth.CarryTooFew), Carry: e.Carry, CarryClaimed: e.CarryClaimed,
			PLeftBetter: known(e.PLeftBetter, e.Sides == growth.SidesTooFew), Sides: e.Sides, SidesClaimed: e.SidesClaimed}
	}
	for i, p := range report.Players {
		answer.Players[i] = growthPlayer{Player: p.Player,
			PImproved: known(p.PImproved, p.Trend == growth.TooFew), Trend: p.Trend, TrendClaimed: p.TrendClaimed,
			PDrop: known(p.PDrop, p.Carry == growth.CarryTooFew), Carry: p.Carry, CarryClaimed: p.CarryClaimed}
	}
	for i, g := range report.Group {
		answer.Group[i] = groupRate{g.Technique, g.Rate, share(g.Practice), share(g.Game)}
	}
	return answer
}
