package calc

import "nineyard/core/reps"

type repsAnswer struct {
	LanesUsed     int `json:"lanes_used"`
	Cycles        int `json:"cycles"`
	WorkingReps   int `json:"working_reps"`
	RepsPerPlayer struct {
		Min  int     `json:"min"`
		Max  int     `json:"max"`
		Mean float64 `json:"mean"`
	} `json:"reps_per_player"`
	PerSideMin       int      `json:"per_side_min"`
	WorkShare        float64  `json:"work_share"`
	HelpingShare     float64  `json:"helping_share"`
	WaitingShare     float64  `json:"waiting_share"`
	RestPerWork      *float64 `json:"rest_per_work"`
	MinutesForTarget *int     `json:"minutes_for_target"`
	Advice           string   `json:"advice"`
}

func repsOf(r *reader) func() (any, error) {
	b := reps.Block{
		Players:      r.integer("players", true, 0, 1, 200),
		Minutes:      r.integer("minutes", true, 0, 1, reps.MaxMinutes),
		SetupSeconds: r.number("setup_seconds", false, 0),
		Lanes:        r.integer("lanes", true, 0, 1, 50),
		Working:      r.integer("working", true, 0, 1, 200),
		Helping:      r.integer("helping", true, 0, 0, 200),
		RepSeconds:   r.number("rep_seconds", true, 0),
		ResetSeconds: r.number("reset_seconds", true, 0),
		Sides:        r.integer("sides", false, 1, 1, 2),
		TargetReps:   r.integer("target_reps", false, 0, 1, 1_000_000),
	}
	return func() (any, error) {
		y, err := reps.Of(b)
		if err != nil {
			return nil, err
		}
		a := repsAnswer{LanesUsed: y.LanesUsed, Cycles: y.Cycles, WorkingReps: y.WorkingReps, PerSideMin: y.PerSideMin,
			WorkShare: y.WorkShare, HelpingShare: y.HelpingShare, WaitingShare: y.WaitingShare, Advice: reps.Advise(b)}
		a.RepsPerPlayer.Min, a.RepsPerPlayer.Max, a.RepsPerPlayer.Mean = y.PerPlayer.Min, y.PerPlayer.Max, y.PerPlayer.Mean
		if y.Works {
			a.RestPerWork = &y.RestPerWork
		}
		if y.MinutesForTarget > 0 {
			a.MinutesForTarget = &y.MinutesForTarget
		}
		return a, nil
	}
}
