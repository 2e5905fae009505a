package calc

import "nineyard/core/ladder"

type stageAnswer struct {
	Key         string  `json:"key"`
	Reps        int     `json:"reps"`
	RecentReps  int     `json:"recent_reps"`
	RecentClean int     `json:"recent_clean"`
	Sessions    int     `json:"sessions"`
	PassedOn    *string `json:"passed_on"`
	Open        bool    `json:"open"`
}

type ladderAnswer struct {
	Current     *string        `json:"current"`
	Done        bool           `json:"done"`
	Status      *ladder.Status `json:"status"`
	Week        int            `json:"week"`
	Stages      []stageAnswer  `json:"stages"`
	Overexposed []string       `json:"overexposed"`
}

func ladderOf(r *reader) func() (any, error) {
	in := ladder.Input{AsOf: r.date("as_of"), SeasonStart: r.date("season_start"), Returning: r.flag("returning", false, false)}
	r.list("stages", true, 100, func(r *reader) {
		in.Stages = append(in.Stages, ladder.Gate{
			Key:         r.text("key", true),
			Window:      r.integer("window", true, 0, 1, 1000),
			Clean:       r.integer("clean", true, 0, 1, 1000),
			Sessions:    r.integer("sessions", false, 1, 1, 1000),
			MaxSessions: r.integer("max_sessions", false, 0, 1, 1000),
			FromWeek:    r.integer("from_week", false, 1, 1, 60),
		})
	})
	r.list("reps", true, 1_000_000, func(r *reader) {
		in.Reps = append(in.Reps, ladder.Rep{Date: r.date("date"), Stage: r.text("stage", true), Clean: r.flag("clean", true, false)})
	})
	return func() (any, error) {
		s, err := ladder.Of(in)
		if err != nil {
			return nil, err
		}
		a := ladderAnswer{Done: s.Done, Week: s.Week, Overexposed: s.Overexposed}
		if !s.Done {
			a.Current, a.Status = &s.Current, &s.Status
		}
		for _, st := range s.Stages {
			sa := stageAnswer{Key: st.Key, Reps: st.Reps, RecentReps: st.RecentReps, RecentClean: st.RecentClean, Sessions: st.Sessions, Open: st.Open}
			if st.Passed {
				on := st.PassedOn.String()
				sa.PassedOn = &on
			}
			a.Stages = append(a.Stages, sa)
		}
		return a, nil
	}
}
