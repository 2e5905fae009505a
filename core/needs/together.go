package needs

import "maps"

// Together counts a shared fault as the one habit that it is: a player's reps of all the techniques at which it was seen are
// put together, and it is as exposed as all the techniques that it belongs to. belongs says of each shared fault which those are;
// its need is under its own key instead of a technique's. The input is not changed.
func Together(in Input, belongs map[string][]string) Input {
	out := in
	out.Counts, out.Exposure = nil, maps.Clone(in.Exposure)
	if out.Exposure == nil {
		out.Exposure = map[string]float64{}
	}
	at := map[[2]string]int{} // of a player and a shared fault
	for _, c := range in.Counts {
		techniques, shared := belongs[c.Fault]
		if !shared {
			out.Counts = append(out.Counts, c)
			continue
		}
		k := [2]string{c.Player, c.Fault}
		i, ok := at[k]
		if !ok {
			i = len(out.Counts)
			at[k] = i
			out.Counts = append(out.Counts, Count{Player: c.Player, Technique: c.Fault, Fault: c.Fault})
			exposure := 0.0
			for _, t := range techniques {
				exposure += in.Exposure[t]
			}
			out.Exposure[c.Fault] = exposure
		}
		out.Counts[i].Faulty += c.Faulty
		out.Counts[i].N += c.N
	}
	return out
}
