package readiness

import (
	"fmt"
	"math"
	"strings"

	"nineyard/core/pace"
)

// Line is what a ladder still asks of a group: of those of its players who have not passed a
// stage, the means.
type Line struct {
	Players     int  // who are looked at
	Passed      int  // of them have passed the stage
	Reps        int  // still needed a player, rounded up
	Never       bool // as many or more than pace.MaxNeeded
	PerPractice float64
	Practices   int // that these are, rounded up; 0 when none is made
}

// Towards looks at a stage on the tracks of players.
func Towards(stage int, ways []Way, tracks []Track) (l Line) {
	reps, per := 0.0, 0
	for i, t := range tracks {
		l.Players++
		if t.Has(stage) {
			l.Passed++
			continue
		}
		reps += t.Needed[stage]
		per += ways[i].PerPractice
		l.Never = l.Never || t.Needed[stage] >= pace.MaxNeeded-1e-6
	}
	n := l.Players - l.Passed
	if n == 0 {
		return l
	}
	l.Reps = int(math.Ceil(reps/float64(n) - 1e-6))
	l.PerPractice = float64(per) / float64(n)
	if per > 0 {
		l.Practices = int(math.Ceil(float64(l.Reps)/l.PerPractice - 1e-6))
	}
	return l
}

// Say words it: what is needed, what it takes at the present pace, and what is left. name is the
// ladder's, stage the stage's; left is how many practices there are until until, such as "the
// install" or "the season's end".
func (l Line) Say(name, stage string, left int, until string) string {
	var b strings.Builder
	b.WriteString(name + ": ")
	if l.Players == l.Passed {
		if l.Players == 0 {
			return name + ": nobody is named to play"
		}
		fmt.Fprintf(&b, "all %d have passed %s", l.Players, stage)
		return b.String()
	}
	more := ""
	if l.Never {
		more = "more than "
	}
	fmt.Fprintf(&b, "%s%s a player to %s", more, count(l.Reps, "rep"), stage)
	switch {
	case l.Practices == 0:
		b.WriteString("; nobody has worked on it lately")
	default:
		fmt.Fprintf(&b, "; at %s a practice that is %s", round(l.PerPractice), count(l.Practices, "practice"))
	}
	fmt.Fprintf(&b, ", %s is ", until)
	if left == 0 {
		b.WriteString("before the next")
	} else {
		fmt.Fprintf(&b, "in %d", left)
	}
	return b.String()
}

// Short reports whether the practices left are too few.
func (l Line) Short(left int) bool {
	return l.Players > l.Passed && (l.Practices == 0 || l.Practices > left)
}

func count(n int, of string) string {
	if n == 1 {
		return "1 " + of
	}
	return fmt.Sprintf("%d %ss", n, of)
}

// round writes a pace: whole reps, halves below ten.
func round(x float64) string {
	if x < 10 {
		return strings.TrimSuffix(fmt.Sprintf("%.1f", math.Round(2*x)/2), ".0")
	}
	return fmt.Sprintf("%.0f", x)
}

// StageAfter is the stage at which a group works after so many practices: the highest that at
// least half of the players are more likely than not to have reached, as package ladder's
// GroupStage takes it of those who have.
func StageAfter(stages int, tracks []Track, practices int) int {
	for i := stages - 1; i > 0; i-- {
		reached := 0
		for _, t := range tracks {
			if t.At(i-1, practices) >= Even {
				reached++
			}
		}
		if 2*reached >= len(tracks) && len(tracks) > 0 {
			return i
		}
	}
	return 0
}
