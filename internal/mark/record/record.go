// Package record is what marking offers to other features: the marks of a season, counted
// or rep by rep, and what of it is still to be graded.
package record

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/growth"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/needs"
	"nineyard/core/season"
	"nineyard/internal/access"
)

// Fault is a fault as it stands in a mark.
type Fault struct {
	Key      string `json:"key"`
	CausedBy string `json:"caused_by,omitempty"` // id of the teammate; empty for the player's own
}

// Measured is a measure as it stands in a mark.
type Measured struct {
	Checkpoint string  `json:"checkpoint"`
	Value      float64 `json:"value"`
	Verdict    string  `json:"verdict"`
}

// Tally counts current marks that are alike: the facets that decide whether a rep is clean
// and the faults they show; finish, which does not decide, is left out.
type Tally struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	On           season.Date
	GameID       *uuid.UUID // nil for practice
	State        marks.State
	Assignment   *int
	Technique    *int
	Faults       []Fault
	N            int
}

// Run is a player's current marks of one technique in one placed drill or one game, as the
// ladder looks at them.
type Run struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	On           season.Date
	DrillKey     *string // nil for the plays of a game
	Reps         []Rep
	Faults       []Fault // that were seen in it, each once, by key
}

// Rep is one mark of a run.
type Rep struct {
	State      marks.State // assumed, looked, or unseen for whatever was not graded
	Assignment *int        // shared between reps: read only
	Technique  *int
	Side       string // left, right or empty
}

// Detail is a current mark with where it was made and by whom.
type Detail struct {
	ID           uuid.UUID
	PlayerID     uuid.UUID
	PlacementID  *uuid.UUID
	Rep          *int
	TechniqueKey string
	State        marks.State
	Assignment   *int
	Technique    *int
	Finish       *int
	Faults       []Fault
	Measures     []Measured
	Praise       bool
	Note         string
	Side         *string
	Standard     int // version of the house it was made by
	On           season.Date
	Source       string // practice or game
	PracticeID   *uuid.UUID
	DrillKey     *string
	Opponent     *string
	PlayNumber   *int
	Down         *int
	Distance     *int
	Spot         *string
	Call         *string
	By           string
	Seq          int64 // order in which it came in
}

// Work is how far a drill or a game has been graded for a group.
type Work struct {
	Game       bool
	ID         uuid.UUID // of the placed drill, or of the game
	PracticeID *uuid.UUID
	DrillKey   *string
	Minutes    int
	Lanes      int
	Title      string
	On         season.Date
	Plays      int // of the group's side, in a game
	Marked     int
}

// Which narrows the marks of a player.
type Which struct {
	Technique, Fault string // empty: any
	From, To         season.Date
	After            *Place // marks behind this one; nil: from the newest on
	Limit            int    // at most so many; 0: Page
}

// Page is how many marks are read at once.
const Page = 100

// Place is where a mark stands among those of a player, newest first: the day, the number
// of the play or rep, and the order in which it came in.
type Place struct {
	On  season.Date
	N   int
	Seq int64
}

// String writes a place as a cursor.
func (p Place) String() string { return fmt.Sprintf("%s.%d.%d", p.On, p.N, p.Seq) }

// ParsePlace reads what String writes.
func ParsePlace(text string) (p Place, err error) {
	parts := strings.Split(text, ".")
	if len(parts) != 3 {
		return p, invalid.Field("after", "this is no place in the list")
	}
	if p.On, err = season.Parse(parts[0]); err != nil {
		return p, invalid.Field("after", "%s", err)
	}
	var e error
	p.N, err = strconv.Atoi(parts[1])
	p.Seq, e = strconv.ParseInt(parts[2], 10, 64)
	if err = errors.Join(err, e); err != nil {
		return p, invalid.Field("after", "this is no place in the list")
	}
	return p, nil
}

// Place is where the mark stands.
func (d Detail) Place() Place {
	n := 0
	switch {
	case d.PlayNumber != nil:
		n = *d.PlayNumber
	case d.Rep != nil:
		n = *d.Rep
	}
	return Place{d.On, n, d.Seq}
}

// Before reports whether p stands before q: it is newer.
func (p Place) Before(q Place) bool {
	return cmp.Or(cmp.Compare(q.On, p.On), cmp.Compare(q.N, p.N), cmp.Compare(q.Seq, p.Seq)) < 0
}

// Source reads marks.
type Source interface {
	// Season counts the group's marks from day to day.
	Season(ctx context.Context, group string, from, to season.Date) ([]Tally, error)
	// Runs lists the group's marks, or one of its players', in the order of the season.
	Runs(ctx context.Context, group string, player *uuid.UUID, from, to season.Date) ([]Run, error)
	// Evidence lists a player's marks, newest first, 500 at most.
	Evidence(ctx context.Context, player uuid.UUID, which Which) ([]Detail, error)
	// Work lists what a group has to grade from day to day, newest first.
	Work(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]Work, error)
}

// Growth turns tallies into the rows of the growth arithmetic, up to a day.
func Growth(judge *marks.Judge, tallies []Tally, to season.Date) []growth.Row {
	rows := make([]growth.Row, 0, len(tallies))
	for _, t := range tallies {
		v := judge.Of(t.State, t.Assignment, t.Technique)
		if t.On > to || !v.Graded {
			continue
		}
		r := growth.Row{Player: t.PlayerID.String(), Technique: t.TechniqueKey, Date: t.On}
		if t.GameID != nil {
			r.Source = growth.Game
		}
		if v.Clean {
			r.Clean = t.N
		} else {
			r.Faulty = t.N
		}
		rows = append(rows, r)
	}
	return rows
}

// Needs turns tallies into what the ranking of needs looks at.
func Needs(tallies []Tally) (reps []needs.Reps, shown []needs.Shown) {
	for _, t := range tallies {
		r := needs.Reps{Player: t.PlayerID.String(), Technique: t.TechniqueKey, On: t.On, Graded: t.State.Graded(), N: t.N}
		if t.GameID != nil {
			r.Game = t.GameID.String()
		}
		reps = append(reps, r)
		for _, f := range Shown(t) {
			shown = append(shown, needs.Shown{Player: r.Player, Technique: t.TechniqueKey, Fault: f.Key, On: t.On, CausedBy: f.CausedBy, N: t.N})
		}
	}
	return reps, shown
}

// Shown lists the faults of a tally: only what was looked at shows any.
func Shown(t Tally) []Fault {
	if t.State != marks.Looked {
		return nil
	}
	return t.Faults
}
