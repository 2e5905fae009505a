package quality

import (
	"cmp"
	"maps"
	"slices"

	"nineyard/core/crew"
	"nineyard/core/reps"
	"nineyard/core/teaching"
)

// A month of a small group: its weeks of [crew.PracticesWeek] practices, and the minutes of each with other groups, beside
// the [crew.OwnMinutes] of its own.
const (
	monthWeeks    = 4
	sharedMinutes = 10
)

// Month is the first month of a group of new players who has little: [smallPlayers], [smallBags] and one coach. It climbs
// the core ladders of the group stage by stage, at [crew.CleanShare], and then its other ones.
type Month struct {
	Group     string
	Players   int
	Practices []MonthPractice
	Passed    []string // stages, "technique/stage", in the order in which they are passed
	Cannot    []string // drills that came up and cannot be run
	Unmet     []string // drills of the group that the month did not come to
}

// MonthPractice is what a practice of a [Month] is made of.
type MonthPractice struct {
	Week, Day int
	Turns     []MonthTurn
	Bring     map[string]int // gear, the most that one of its drills takes
}

// MonthTurn is a drill of a [MonthPractice].
type MonthTurn struct {
	Stage   string // "technique/stage"; empty for an everyday drill
	Drill   teaching.Drill
	Minutes int
	Lanes   int
	Reps    reps.PerPlayer
}

// MonthOf plans the month of a group from the library as it is taught.
func MonthOf(lib *teaching.Library, group string) Month {
	m := planner{Month: Month{Group: group, Players: min(smallPlayers, crew.UsualPlayers(group))}, lib: lib, passed: map[string]bool{}, unmet: map[string]bool{}}
	for _, ld := range lib.Ladders {
		if t, _ := lib.Technique(ld.Technique); t.Taught(group) {
			m.climbs = append(m.climbs, &climb{Ladder: ld, core: t.Core, last: -1})
		}
	}
	for _, d := range lib.Drills {
		if t, _ := lib.Technique(d.Technique); t.Taught(group) {
			m.unmet[d.Key] = true
			if d.Daily {
				m.daily = append(m.daily, d)
			}
		}
	}
	for n := range monthWeeks * crew.PracticesWeek {
		m.practice(n)
	}
	m.Unmet = slices.Sorted(maps.Keys(m.unmet))
	return m.Month
}

// planner goes through the practices of a month.
type planner struct {
	Month
	lib    *teaching.Library
	climbs []*climb
	daily  []teaching.Drill
	passed map[string]bool // "technique/stage", and "technique" when all of it is
	unmet  map[string]bool // drills
}

// climb is where the players of a month stand on a ladder.
type climb struct {
	teaching.Ladder
	core  bool
	at    int     // stage
	clean float64 // reps at it
	days  int
	last  int // practice of the last turn
}

// practice plans one: an everyday drill, then what was not done for the longest, core ladders before others.
func (m *planner) practice(n int) {
	m.Practices = append(m.Practices, MonthPractice{Week: n/crew.PracticesWeek + 1, Day: n%crew.PracticesWeek + 1, Bring: map[string]int{}})
	own, shared := crew.OwnMinutes, sharedMinutes
	if len(m.daily) > 0 {
		if d := m.daily[n%len(m.daily)]; m.run("", d, d.MinMinutes) {
			own -= d.MinMinutes
			m.count(d, d.Technique, n)
		}
	}
	slices.SortStableFunc(m.climbs, func(a, b *climb) int {
		switch {
		case a.core != b.core && a.core:
			return -1
		case a.core != b.core:
			return 1
		}
		return cmp.Compare(a.last, b.last)
	})
	for _, c := range m.climbs {
		s, ok := m.next(c)
		if !ok || c.last == n { // it had its turn in reps that show every technique
			continue
		}
		d, ok := m.lib.Drill(first(s.DrillsOf(m.Group)))
		left := &own
		if s.Kind == teaching.Group {
			left = &shared
		}
		minutes := min(d.Minutes, *left)
		if !ok || minutes < d.MinMinutes {
			continue
		}
		if !m.run(c.Technique+"/"+s.Key, d, minutes) {
			c.at++ // what cannot be run holds nobody: it is told
			continue
		}
		*left -= minutes
		m.count(d, c.Technique, n)
	}
}

// now is the practice that is being planned.
func (m *planner) now() *MonthPractice { return &m.Practices[len(m.Practices)-1] }

// run puts a drill into the practice, where it gives the players a rep.
func (m *planner) run(stage string, d teaching.Drill, minutes int) bool {
	lanes, each := runs(d, m.Players, minutes)
	delete(m.unmet, d.Key)
	if each.Max == 0 {
		if !slices.Contains(m.Cannot, d.Key) {
			m.Cannot = append(m.Cannot, d.Key)
		}
		return false
	}
	p := m.now()
	for thing, count := range d.Equipment.Total(lanes) {
		p.Bring[thing] = max(p.Bring[thing], count)
	}
	p.Turns = append(p.Turns, MonthTurn{Stage: stage, Drill: d, Minutes: minutes, Lanes: lanes, Reps: each})
	return true
}

// count adds the reps of the drill that was put in last wherever they count: at the technique they are of, and at every
// other when each rep shows them all. A stage that is passed by them is left.
func (m *planner) count(d teaching.Drill, technique string, n int) {
	turns := m.now().Turns
	reps := turns[len(turns)-1].Reps.Min
	for _, c := range m.climbs {
		if c.Technique != technique && d.Shows != teaching.ShowsEach {
			continue
		}
		s, ok := m.next(c)
		if !ok || !slices.Contains(s.DrillsOf(m.Group), d.Key) {
			continue
		}
		c.last = n
		c.clean += crew.CleanShare * float64(reps)
		c.days++
		if s.MaxSessions > 0 && c.days >= s.MaxSessions || c.days >= s.Sessions && c.clean >= float64(s.Clean) {
			key := c.Technique + "/" + s.Key
			m.passed[key] = true
			m.Passed = append(m.Passed, key)
			c.at, c.clean, c.days = c.at+1, 0, 0
			m.passed[c.Technique] = c.at == len(c.Stages) || c.Stages[c.at].Kind == teaching.Game
		}
	}
}

// next is the stage at which a ladder is climbed, where it is open in this week to who passed what they did.
func (m *planner) next(c *climb) (teaching.Stage, bool) {
	if c.at == len(c.Stages) {
		return teaching.Stage{}, false
	}
	s := c.Stages[c.at]
	closed := func(n string) bool { return !m.passed[n] }
	if s.Kind == teaching.Game || s.FromWeek > m.now().Week || slices.ContainsFunc(c.Needs, closed) || slices.ContainsFunc(s.Needs, closed) {
		return teaching.Stage{}, false
	}
	return s, true
}

// runs is in how many lanes a drill runs with so many players and [smallBags], and what a player gets of it.
func runs(d teaching.Drill, players, minutes int) (lanes int, each reps.PerPlayer) {
	for lanes = max(d.Lanes, 1); lanes > 0; lanes-- {
		if total := d.Equipment.Total(lanes); total["bag"]+total["shield"] <= smallBags {
			_, y, _ := crew.Planned(d, crew.Attendance{Players: players}, minutes, lanes)
			return min(lanes, y.LanesUsed), y.PerPlayer
		}
	}
	return 0, reps.PerPlayer{}
}
