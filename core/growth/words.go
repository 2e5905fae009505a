package growth

import "fmt"

// Say words what may be claimed of an estimate, with its counts; "" when nothing may.
// A carry-over that fails is said before a trend: the player looks better than he plays.
func Say(e Estimate) string {
	switch {
	case e.CarryClaimed && e.Carry == NotCarrying:
		return fmt.Sprintf("is not carrying over: %s clean in practice, %s in games.", of(e.CarryPractice), of(e.CarryGame))
	case e.TrendClaimed && e.Trend == Improving:
		return fmt.Sprintf("is improving: %s clean lately, %s before.", of(e.Recent), of(e.Older))
	case e.TrendClaimed && e.Trend == Slipping:
		return fmt.Sprintf("is slipping: %s clean lately, %s before.", of(e.Recent), of(e.Older))
	}
	return ""
}

func of(c Count) string { return fmt.Sprintf("%d of %d", c.Clean, c.N()) }

// Best picks what a player does best: the estimate with the highest lower bound among
// those with at least SheetReps reps. It reports false when there is none.
func Best(rows []Estimate) (Estimate, bool) {
	var best Estimate
	found := false
	for _, e := range rows {
		if e.Reps >= SheetReps && (!found || e.Low > best.Low) {
			best, found = e, true
		}
	}
	return best, found
}

// SheetReps is the least number of reps at a technique before a player's sheet says
// anything of it: that it is his best, or more than "too few".
const SheetReps = 6
