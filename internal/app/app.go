// Package app holds the use cases: load, ask the core, save. It decides who may do
// what and where a transaction begins and ends; the rules of the job are in core.
package app

import (
	"context"
	"errors"
	"sort"
	"sync"
	"time"

	"github.com/google/uuid"

	"nineyard/core/growth"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
	"nineyard/library"
)

// Errors of the use cases. Bad input is an invalid.Error.
var (
	ErrNotFound     = errors.New("not found")
	ErrForbidden    = errors.New("not allowed")
	ErrCredentials  = errors.New("e-mail or password is wrong")
	ErrTooManyTries = errors.New("too many tries to sign in")
	ErrIDTaken      = errors.New("the id is used by something else")
	ErrNoPractice   = errors.New("no practice to come has a period of the group's own")
)

// Conflict says that somebody else changed a period since it was read.
type Conflict struct{ Current contract.Period }

// Error says so in a sentence.
func (c *Conflict) Error() string {
	who := c.Current.ChangedBy
	if who == nil || *who == "" {
		return "This period was changed by someone else."
	}
	return "This period was changed by " + *who + "."
}

// Service runs the use cases.
type Service struct {
	Store   Store
	Edition library.Edition  // the teaching library that ships
	Clock   func() time.Time // the wall clock, or the pinned one of the demo
	Demo    bool             // one-click sign-in for the demo's staff

	houses houseCache
}

// today is the civil day at the club.
func (s *Service) today(a Actor) season.Date {
	loc, err := time.LoadLocation(a.Timezone)
	if err != nil {
		loc = time.UTC
	}
	return season.Of(s.Clock().In(loc))
}

func (a Actor) start() season.Date { return season.Of(a.SeasonStart) }

// weekEnd is the last day of a season week, but not after today: nothing is known of
// the days to come.
func (s *Service) weekEnd(a Actor, week int) season.Date {
	return min(season.WeekStart(a.start(), week)+6, s.today(a))
}

// mayEdit reports whether the coach may change what belongs to the group.
func (a Actor) mayEdit(group string) bool {
	if a.Role == "head" {
		return true
	}
	for _, g := range a.Groups {
		if g == group {
			return true
		}
	}
	return false
}

// group checks that the club has a group of this key.
func (s *Service) group(ctx context.Context, a Actor, key string) (Group, []Group, error) {
	groups, err := s.Store.Groups(ctx, a.ClubID)
	if err != nil {
		return Group{}, nil, err
	}
	for _, g := range groups {
		if g.Key == key {
			return g, groups, nil
		}
	}
	return Group{}, nil, ErrNotFound
}

// offense tells which side of the ball a group plays on, to know which plays of a
// game are its own.
func offense(group string) bool {
	switch group {
	case "dl", "lb", "db":
		return false
	}
	return true
}

// mark is how the core takes a stored mark.
func mark(state string, assignment, technique, finish *int) marks.Mark {
	m := marks.Mark{Player: "x", Weight: 1, Graded: state == "assumed" || state == "looked", Assumed: state == "assumed", Values: map[string]float64{}}
	if !m.Graded {
		m.Reason = marks.Reason(state)
	}
	for key, v := range map[string]*int{"assignment": assignment, "technique": technique, "finish": finish} {
		if v != nil {
			m.Values[key] = float64(*v)
		}
	}
	return m
}

// judged is what the house scheme makes of the facets that decide whether a rep is clean.
type judged struct{ clean, graded bool }

type facets struct {
	state                 string
	assignment, technique int // −1 for none
}

// judgements holds the judgement of every combination there is: screens judge thousands
// of reps.
var judgements = sync.OnceValue(func() map[facets]judged {
	scheme := marks.House()
	all := map[facets]judged{}
	values := map[int]*int{-1: nil, 0: ptr(0), 1: ptr(1)}
	for _, state := range []string{"assumed", "looked", "unseen", "unsettled", "not_gradable"} {
		for a, pa := range values {
			for t, pt := range values {
				v := scheme.Judge(mark(state, pa, pt, nil))
				all[facets{state, a, t}] = judged{v.Clean, v.Graded}
			}
		}
	}
	return all
})

func judge(state string, assignment, technique *int) judged {
	value := func(v *int) int {
		if v == nil {
			return -1
		}
		return *v
	}
	return judgements()[facets{state, value(assignment), value(technique)}]
}

// growthRows turns tallies into the rows of the growth arithmetic, up to a day.
func growthRows(tallies []MarkTally, to season.Date) []growth.Row {
	rows := make([]growth.Row, 0, len(tallies))
	for _, t := range tallies {
		day := season.Of(t.OnDate)
		v := judge(t.State, t.Assignment, t.Technique)
		if day > to || !v.graded {
			continue
		}
		r := growth.Row{Player: t.PlayerID.String(), Technique: t.TechniqueKey, Date: day}
		if t.GameID != nil {
			r.Source = growth.Game
		}
		if v.clean {
			r.Clean = t.N
		} else {
			r.Faulty = t.N
		}
		rows = append(rows, r)
	}
	return rows
}

func cell(e growth.Estimate) contract.Cell {
	return contract.Cell{Technique: e.Technique, Reps: e.Reps, Estimate: e.Estimate, Low: e.Low, High: e.High,
		Trend: contract.CellTrend(e.Trend), TrendClaimed: e.TrendClaimed, Carry: contract.CellCarry(e.Carry), CarryClaimed: e.CarryClaimed}
}

func playerView(p Player) contract.Player {
	v := contract.Player{ID: p.ID, Jersey: p.Jersey, FirstName: p.FirstName, LastName: p.LastName, Position: p.Position,
		Status: contract.Availability(p.Status), Note: p.StatusNote, Returning: p.Returning}
	if p.HeightIn != nil {
		h := *p.HeightIn
		v.HeightIn = &h
	}
	if p.WeightLb != nil {
		w := float64(*p.WeightLb)
		v.WeightLb = &w
	}
	return v
}

func practiceRef(p Practice) contract.PracticeRef {
	return contract.PracticeRef{ID: p.ID, Date: season.Of(p.OnDate).String(), Title: p.Title, StartMinute: p.StartMinute, Minutes: p.Minutes}
}

// attendance says who takes part and who is held out, from the players' standing.
func attendance(players []Player) (teaching.Attendance, []contract.Hold) {
	var a teaching.Attendance
	holds := []contract.Hold{}
	for _, p := range players {
		if p.Status != "available" {
			holds = append(holds, contract.Hold{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName,
				Status: contract.Availability(p.Status), Note: p.StatusNote})
		}
		switch p.Status {
		case "available":
			a.Players++
		case "limited":
			a.Players++
			a.Limited++
		}
	}
	return a, holds
}

func ids[T any](list []T, id func(T) uuid.UUID) map[uuid.UUID]T {
	m := make(map[uuid.UUID]T, len(list))
	for _, x := range list {
		m[id(x)] = x
	}
	return m
}

func playersByID(players []Player) map[uuid.UUID]Player {
	return ids(players, func(p Player) uuid.UUID { return p.ID })
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}

func ptr[T any](v T) *T { return &v }
