package quality

import (
	"cmp"
	"maps"
	"slices"

	"nineyard/core/crew"
	"nineyard/core/reps"
	"nineyard/core/teaching"
)

// A month of a small group: its practices, and the minutes of each that are its own and with other groups.
const (
	monthWeeks     = 4
	weekPractices  = 3
	ownMinutes     = 20
	sharedMinutes  = 10
	everydayAtOnce = 1 // everyday drills that open a practice, in turn
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

// climb is where the players of a month stand on a ladder.
type climb struct {
	teaching.Ladder
	core  bool
	at    int     // stage
	clean float64 // reps at it
	days  int
	last  int // practice of the last turn
}

// MonthOf plans the month of a group from the library as it is taught.
func MonthOf(lib *teaching.Library, group string) Month {
	m := Month{Group: group, Players: min(smallPlayers, crew.UsualPlayers(group))}
	var ladders []*climb
	var daily []teaching.Drill
	of := map[string]bool{}
	for _, ld := range lib.Ladders {
		if t, _ := lib.Technique(ld.Technique); slices.Contains(t.Groups, group) {
			ladders = append(ladders, &climb{Ladder: ld, core: t.Core, last: -1})
			of[ld.Technique] = true
		}
	}
	left := map[string]bool{}
	for _, d := range lib.Drills {
		if of[d.Technique] && slices.Contains(d.Groups, group) {
			left[d.Key] = true
			if d.Daily {
				daily = append(daily, d)
			}
		}
	}
	passed := map[string]bool{}
	for n := range monthWeeks * weekPractices {
		p := MonthPractice{Week: n/weekPractices + 1, Day: n%weekPractices + 1, Bring: map[string]int{}}
		own, shared := ownMinutes, sharedMinutes
		put := func(stage string, d teaching.Drill, minutes int) (ran bool) {
			lanes, each := runs(d, m.Players, minutes)
			delete(left, d.Key)
			if each.Max == 0 {
				if !slices.Contains(m.Cannot, d.Key) {
					m.Cannot = append(m.Cannot, d.Key)
				}
				return false
			}
			for thing, count := range d.Equipment.Total(lanes) {
				p.Bring[thing] = max(p.Bring[thing], count)
			}
			p.Turns = append(p.Turns, MonthTurn{Stage: stage, Drill: d, Minutes: minutes, Lanes: lanes, Reps: each})
			return true
		}
		// counts adds the reps of the last turn wherever they count: for the technique it is marked as, and for every other
		// when each rep shows them all.
		counts := func(d teaching.Drill, technique string) {
			for _, x := range slices.Clone(ladders) {
				if x.Technique != technique && d.Shows != teaching.ShowsEach {
					continue
				}
				if s, ok := x.stage(passed, p.Week); ok && slices.Contains(s.DrillsOf(group), d.Key) {
					m.count(x, s, n, p.Turns[len(p.Turns)-1].Reps.Min, passed)
				}
			}
		}
		for i := range min(everydayAtOnce, len(daily)) {
			d := daily[(n+i)%len(daily)]
			if put("", d, d.MinMinutes) {
				own -= d.MinMinutes
				counts(d, d.Technique)
			}
		}
		slices.SortStableFunc(ladders, func(a, b *climb) int {
			switch {
			case a.core != b.core && a.core:
				return -1
			case a.core != b.core:
				return 1
			}
			return cmp.Compare(a.last, b.last)
		})
		for _, c := range ladders {
			s, ok := c.stage(passed, p.Week)
			if !ok || c.last == n { // it had its turn in a rep that shows every technique
				continue
			}
			d, ok := lib.Drill(first(s.DrillsOf(group)))
			if !ok {
				continue
			}
			left := &own
			if s.Kind == teaching.Group {
				left = &shared
			}
			minutes := min(d.Minutes, *left)
			if minutes < d.MinMinutes {
				continue
			}
			key := c.Technique + "/" + s.Key
			if !put(key, d, minutes) {
				c.at++ // what cannot be run holds nobody: it is told
				continue
			}
			*left -= minutes
			counts(d, c.Technique)
		}
		m.Practices = append(m.Practices, p)
	}
	m.Unmet = slices.Sorted(maps.Keys(left))
	return m
}

// count adds the reps of a practice to a stage, and goes on when it is passed.
func (m *Month) count(c *climb, s teaching.Stage, practice, reps int, passed map[string]bool) {
	c.last = practice
	c.clean += crew.CleanShare * float64(reps)
	c.days++
	if s.MaxSessions > 0 && c.days >= s.MaxSessions || c.days >= s.Sessions && c.clean >= float64(s.Clean) {
		key := c.Technique + "/" + s.Key
		passed[key] = true
		m.Passed = append(m.Passed, key)
		c.at, c.clean, c.days = c.at+1, 0, 0
		passed[c.Technique] = c.at == len(c.Stages) || c.Stages[c.at].Kind == teaching.Game
	}
}

// stage is what is next on a ladder, where it is open in that week to who passed that.
func (c *climb) stage(passed map[string]bool, week int) (teaching.Stage, bool) {
	if c.at == len(c.Stages) {
		return teaching.Stage{}, false
	}
	s := c.Stages[c.at]
	closed := func(n string) bool { return !passed[n] }
	if s.Kind == teaching.Game || s.FromWeek > week || slices.ContainsFunc(c.Needs, closed) || slices.ContainsFunc(s.Needs, closed) {
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
