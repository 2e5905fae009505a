package marks

// Fill gives the facets a coach did not name their value by exception: everything is
// right until he says otherwise. The technique is wrong when the player shows a fault
// of his own; a fault caused by a teammate leaves it as it is. Finish stays unjudged.
// The argument is not changed.
func Fill(values map[string]float64, faults []Fault) map[string]float64 {
	out := map[string]float64{"assignment": 1, "technique": 1}
	for _, f := range faults {
		if f.CausedBy == "" {
			out["technique"] = 0
		}
	}
	for k, v := range values {
		out[k] = v
	}
	return out
}
