package marks

// Weighed is a fault as it is ranked on a player's sheet.
type Weighed struct {
	N        int  // times he showed it
	Severity int  // 1–3
	Safety   bool // the head or back of a player is at risk
}

// Before reports whether a fault is said before another: a safety fault before all that are
// none, then by how often × how bad. Faults that weigh the same keep their order.
func (w Weighed) Before(v Weighed) bool {
	if w.Safety != v.Safety {
		return w.Safety
	}
	return w.N*w.Severity > v.N*v.Severity
}
