package growth

import "fmt"

// Say words what may be claimed of a player at one technique, with its counts; "" when
// nothing may. A carry-over that fails is said before a trend: the player looks better than
// he plays.
func (e Estimate) Say() string {
	switch {
	case e.CarryClaimed && e.Carry == NotCarrying:
		return fmt.Sprintf("drops in games more than the others do: %s clean in practice, %s in games.", of(e.CarryPractice), of(e.CarryGame))
	case e.TrendClaimed && e.Trend == Improving:
		return fmt.Sprintf("is better than before: %s clean lately, %s before.", of(e.Recent), of(e.Older))
	case e.TrendClaimed && e.Trend == Slipping:
		return fmt.Sprintf("is worse than before: %s clean lately, %s before.", of(e.Recent), of(e.Older))
	}
	return ""
}

// SaySides words that one side is worse, when that may be claimed; "" when not.
func (e Estimate) SaySides() string {
	worse, one, better, other := "left", e.Left, "right", e.Right
	switch {
	case e.SidesClaimed && e.Sides == LeftBetter:
		worse, one, better, other = better, other, worse, one
	case e.SidesClaimed && e.Sides == RightBetter:
	default:
		return ""
	}
	return fmt.Sprintf("Worse to the %s: %s clean, to the %s %s.", worse, of(one), better, of(other))
}

// Say words what may be claimed of a player over all his techniques; the carry-over first.
func (p Player) Say() string {
	switch {
	case p.CarryClaimed && p.Carry == NotCarrying:
		return fmt.Sprintf("Over all his techniques he drops in games more than the others do: %s clean in practice, %s in games.", of(p.CarryPractice), of(p.CarryGame))
	case p.TrendClaimed && p.Trend == Improving:
		return fmt.Sprintf("Over all his techniques he has improved more than the others have: %s clean lately, %s before.", of(p.Recent), of(p.Older))
	case p.TrendClaimed && p.Trend == Slipping:
		return fmt.Sprintf("Over all his techniques he has slipped more than the others have: %s clean lately, %s before.", of(p.Recent), of(p.Older))
	}
	return ""
}

// Beside sets the group's clean share of a technique in games beside that in practice, each 0
// to 1; it reports false when either has fewer than SheetReps reps. It is a number of the
// group and no claim about a player.
func (g GroupRate) Beside() (practice, game float64, ok bool) {
	if g.Practice.N() < SheetReps || g.Game.N() < SheetReps {
		return 0, 0, false
	}
	return float64(g.Practice.Clean) / float64(g.Practice.N()), float64(g.Game.Clean) / float64(g.Game.N()), true
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
