package growth

import "fmt"

// Imbalance of left and right: a side is called worse when the probability that it is
// lies above worseAt and both sides have at least minSide reps. A group has some sixty
// such pairs to look at, so the bar is higher than for a single question.
const (
	worseAt = 0.99
	minSide = 12
)

// Imbalance returns a sentence when one side of a technique is worse than the other with
// enough reps to say so, else "". It compares θ ~ Beta(1+clean, 1+faulty) of the two
// sides, as PGreater does.
func Imbalance(left, right Count) string {
	if left.N() < minSide || right.N() < minSide {
		return ""
	}
	p := PGreater(right, left) // that the left is worse
	switch {
	case p >= worseAt:
		return fmt.Sprintf("Worse to the left: clean on %d of %d, to the right on %d of %d.", left.Clean, left.N(), right.Clean, right.N())
	case p <= 1-worseAt:
		return fmt.Sprintf("Worse to the right: clean on %d of %d, to the left on %d of %d.", right.Clean, right.N(), left.Clean, left.N())
	}
	return ""
}
