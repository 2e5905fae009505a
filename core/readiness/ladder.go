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
	Never       bool // for somebody as many as pace.MaxNeeded, or more
	PerPractice float64
	Practices   int // that these are, rounded up; 0 when none is made
}

// Towards looks at a stage on the ways of players, with what the whole group did lately. Where
// nobody has made a rep nothing is known of how many are clean, and none are told.
func Towards(stage int, ways []Way, group Form) (l Line, err error) {
	reps, per := 0.0, 0
	for _, w := range ways {
		l.Players++
		if w.Passed > stage {
			l.Passed++
			continue
		}
		per += w.PerPractice
		if group.Graded == 0 {
			continue
		}
		n, err := w.Needed(stage)
		if err != nil {
			return l, err
		}
		reps += n
		l.Never = l.Never || n >= pace.MaxNeeded-1e-6
	}
	n := l.Players - l.Passed
	if n == 0 {
		return l, nil
	}
	l.Reps = int(math.Ceil(reps/float64(n) - 1e-6))
	l.PerPractice = float64(per) / float64(n)
	if per > 0 {
		l.Practices = int(math.Ceil(float64(l.Reps)/l.PerPractice - 1e-6))
	}
	return l, nil
}

// Say words it: what is needed, what it takes at the present pace, and what is left. name is the
// ladder's, stage the stage's; left is how many practices there are until install, such as "the
// install of Lead left", or to the season's end when that is "".
func (l Line) Say(name, stage string, left int, install string) string {
	switch {
	case l.Players == 0:
		return name + ": nobody is named to play"
	case l.Players == l.Passed:
		return fmt.Sprintf("%s: all %d have passed “%s”", name, l.Players, stage)
	}
	if l.Reps == 0 {
		return l.until(name+": nobody has made a rep lately, and nothing can be told", left, install)
	}
	more := ""
	if l.Never {
		more = "more than "
	}
	of := ""
	if l.Passed > 0 {
		of = fmt.Sprintf(", for %d of %d", l.Players-l.Passed, l.Players)
	}
	text := fmt.Sprintf("%s: %s%s a player to “%s”%s; ", name, more, count(l.Reps, "rep"), stage, of)
	if l.Practices == 0 {
		text += "nobody has worked on it lately"
	} else {
		text += fmt.Sprintf("at %s a practice that is %s", round(l.PerPractice), count(l.Practices, "practice"))
	}
	return l.until(text, left, install)
}

func (l Line) until(text string, left int, install string) string {
	switch {
	case install == "":
		return text + fmt.Sprintf("; %s left", count(left, "practice"))
	case left == 0:
		return text + fmt.Sprintf(", %s is before the next", install)
	}
	return text + fmt.Sprintf(", %s is in %d", install, left)
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
