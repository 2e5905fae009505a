package marks

import "nineyard/core/season"

// DueDays is how far back work that was not graded is still worth a reminder.
const DueDays = 10

// Due reports whether an event of the calendar lies inside the days a reminder looks at.
func Due(on, asOf season.Date) bool { return on <= asOf && asOf-on <= DueDays }

// DrillDue reports whether a placed drill is still to be graded: its practice lies before
// today, or is today's and its marking has begun, and fewer than half of the working reps
// it was to give are marked. Grading half of a drill is enough to say how it went.
func DrillDue(on, today season.Date, marked, expected int) bool {
	begun := on < today || on == today && marked > 0
	return begun && 2*marked < expected
}

// GameDue reports whether a game is still to be graded: it is today's or before, and some
// play of the group's side has no mark yet.
func GameDue(on, today season.Date, marked, plays int) bool { return on <= today && marked < plays }
