package calc

import "nineyard/core/needs"

type needPart struct {
	Key  string  `json:"key"`
	Rate float64 `json:"rate"`
	Part float64 `json:"part"`
}

type needAnswer struct {
	Fault     string     `json:"fault"`
	Technique string     `json:"technique"`
	Need      float64    `json:"need"`
	Rate      float64    `json:"rate"`
	Safety    bool       `json:"safety"`
	Players   []needPart `json:"players"`
}

func needsOf(r *reader) func() (any, error) {
	in := needs.Input{PriorReps: r.number("prior_reps", false, 6), Safety: map[string]bool{}}
	if in.PriorReps <= 0 { // for the core 0 is the default
		r.fail("prior_reps", "prior_reps must be more than 0, got %v", in.PriorReps)
	}
	in.Severity = numbersOf(r, "severity")
	in.Exposure = numbersOf(r, "exposure")
	r.list("players", true, 1000, func(r *reader) {
		in.Players = append(in.Players, needs.Player{Key: r.text("key", true), SnapShare: r.number("snap_share", true, 0)})
	})
	r.list("faults", true, 100_000, func(r *reader) {
		in.Counts = append(in.Counts, needs.Count{
			Player: r.text("player", true), Technique: r.text("technique", true), Fault: r.text("fault", true),
			Faulty: r.integer("faulty", true, 0, 0, 1_000_000), N: r.integer("n", true, 0, 0, 1_000_000),
		})
	})
	for _, v := range r.items("safety", false, 1000) {
		key, ok := v.(string)
		if !ok {
			r.fail("safety", "safety must be a list of fault keys")
		}
		in.Safety[key] = true
	}
	return func() (any, error) {
		list, err := needs.Rank(in)
		if err != nil {
			return nil, err
		}
		answer := make([]needAnswer, 0, len(list))
		for _, n := range list {
			a := needAnswer{Fault: n.Fault, Technique: n.Technique, Need: n.Need, Rate: n.Rate, Safety: n.Safety, Players: []needPart{}}
			for _, p := range n.Players {
				a.Players = append(a.Players, needPart{p.Player, p.Rate, p.Part})
			}
			answer = append(answer, a)
		}
		return map[string]any{"needs": answer}, nil
	}
}

// numbersOf reads an object of non-negative numbers.
func numbersOf(r *reader, key string) map[string]float64 {
	out := map[string]float64{}
	v, at, ok := r.get(key, false)
	if !ok {
		return out
	}
	values := open(v, at, r.err)
	for _, name := range values.keys() {
		n, at, ok := values.get(name, true)
		if !ok {
			continue
		}
		out[name] = values.asNumber(n, at)
		if out[name] < 0 {
			r.fail(at, "%s must be 0 or more, got %v", at, out[name])
		}
	}
	return out
}
