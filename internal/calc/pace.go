package calc

import (
	"fmt"

	"nineyard/core/pace"
)

type paceStage struct {
	Key    string    `json:"key"`
	Passed []float64 `json:"passed"`
}

type paceAnswer struct {
	Stages []paceStage `json:"stages"`
	Done   []float64   `json:"done"`
	Median *string     `json:"median"`
	Likely *string     `json:"likely"`
}

func paceOf(r *reader) func() (any, error) {
	in := pace.Input{CleanRate: r.number("clean_rate", true, 0)}
	r.list("stages", true, pace.MaxStages, func(r *reader) {
		s := pace.Stage{Key: r.text("key", true), Window: r.integer("window", true, 0, 1, pace.MaxWindow), Clean: r.integer("clean", true, 0, 1, pace.MaxWindow),
			Sessions: r.integer("sessions", false, 1, 1, pace.MaxWindow)}
		if r.has("not_before") {
			s.NotBefore = r.date("not_before")
		}
		in.Stages = append(in.Stages, s)
	})
	r.list("so_far", false, pace.MaxSoFar, func(r *reader) {
		m := pace.Made{Date: r.date("date")}
		for i, v := range r.items("clean", true, pace.MaxSoFar) {
			clean, ok := v.(bool)
			if !ok {
				at := fmt.Sprintf("%s[%d]", join(r.path, "clean"), i)
				r.fail(at, "%s must be true or false", at)
			}
			m.Clean = append(m.Clean, clean)
		}
		in.SoFar = append(in.SoFar, m)
	})
	r.list("sessions", true, pace.MaxSessions, func(r *reader) {
		in.Sessions = append(in.Sessions, pace.Session{Date: r.date("date"), Reps: r.integer("reps", true, 0, 0, pace.MaxReps)})
	})
	return func() (any, error) {
		f, err := pace.Of(in)
		if err != nil {
			return nil, err
		}
		a := paceAnswer{Done: f.Done()}
		for i, s := range in.Stages {
			a.Stages = append(a.Stages, paceStage{s.Key, f.Passed[i]})
		}
		if f.Median != nil {
			a.Median = new(f.Median.String())
		}
		if f.Likely != nil {
			a.Likely = new(f.Likely.String())
		}
		return a, nil
	}
}
