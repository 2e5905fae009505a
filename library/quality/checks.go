package quality

import (
	"fmt"

	"nineyard/core/teaching"
)

// Check is one rule of content, with what breaks it.
type Check struct {
	ID     string // C1 to C25
	Rule   string
	Broken []string // where and how, in the order of the library
}

// rule looks for what breaks it.
type rule struct {
	id, says string
	look     func(*looker)
}

// looker goes through a library for one rule.
type looker struct {
	*teaching.Library
	broken []string
}

func (l *looker) fail(kind, key, format string, args ...any) {
	l.broken = append(l.broken, kind+" "+key+": "+fmt.Sprintf(format, args...))
}

// rules in the order of their numbers.
func rules() []rule {
	return []rule{
		{"C1", "a look or group drill has enough players, and the ball, thrower, runner or returner the technique cannot be shown without", enough},
		{"C2", "a look drill has four cards or more, a group drill as many or it shows each technique; what a card asks has a stage there, what it invites is that technique's", cards},
		{"C3", "look and group drills train four of five checkpoints of their technique; what a drill works on it trains", shown},
		{"C4", "contact has a shared head fault, trained and worked on from control on", heads},
		{"C5", "a standard accepts the numbers that its own name gives", ownNumbers},
		{"C6", "what is “by the call” is looked up or said in words", byTheCall},
		{"C7", "no share is read off a mark, no clock is under a second, a mark names its landmark", readings},
		{"C8", "four of five eye judgements have three words or more; twelve have two right answers", threeWords},
		{"C9", "equipment is what is drawn, lane by lane", equipment},
		{"C10", "the coach stands where the text says and out of everybody's way", coachPlace},
		{"C11", "who works is drawn, at a speed a player can run", drawing},
		{"C12", "six reps a player at the usual minutes, four against the look, in the group and in sprints; three to a side", repsEnough},
		{"C13", "the core ladders of a group fit its season; a freeze is passed on its day", season},
		{"C14", "contact rises by a level at most, from air or a bag; what strikes begins with a fit", contactOrder},
		{"C15", "a freeze is one day, a fit three at most, steps have no limit; nothing else stops a rep", stops},
		{"C16", "a drill says who starts it, who goes where, what ends it and where the coach stands", said},
		{"C17", "who is struck is not on air", struck},
		{"C18", "what one coach feeds in turn is said, and counted", fed},
		{"C19", "what must be passed first is there, and goes in no circle", prerequisites},
		{"C20", "another school changes something in every technique its question lists", schools},
		{"C21", "every wrong answer is a fault", covered},
		{"C22", "reasons hold anywhere", anywhere},
		{"C23", "home-made words do not occur, words of the trade do", trade},
		{"C24", "no text would fit under another drill", ownText},
		{"C25", "the fault behind a fault, the words of a shared one and the row of a card are there", references},
	}
}

// Checks looks at a library by every rule.
func Checks(lib *teaching.Library) []Check {
	var out []Check
	for _, r := range rules() {
		l := &looker{Library: lib}
		r.look(l)
		out = append(out, Check{r.id, r.says, l.broken})
	}
	return out
}

// Groups are those that the library has its parts for.
var Groups = []string{"db", "dl", "lb", "ol", "qb", "rb", "sp", "te", "units", "wr"}

// groupOf is the group whose own a technique is.
func groupOf(t teaching.Technique) string {
	if len(t.Groups) == 0 {
		return ""
	}
	return t.Groups[0]
}

// placed are the stages of a ladder with each of their drills, those of single groups among them.
func (l *looker) placed(ld teaching.Ladder) (out []placed) {
	for _, s := range ld.Stages {
		for _, k := range s.AllDrills() {
			if d, ok := l.Drill(k); ok {
				out = append(out, placed{s, d})
			}
		}
	}
	return out
}

type placed struct {
	stage teaching.Stage
	drill teaching.Drill
}

// live reports whether a stage is against the look or in the group.
func live(s teaching.Stage) bool { return s.Kind == teaching.Look || s.Kind == teaching.Group }
