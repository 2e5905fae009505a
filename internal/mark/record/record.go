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
	"nineyard/internal/contract"
)

// Fault is a fault as it stands in a mark.
type Fault struct {
	Key      string `json:"key"`
	CausedBy string `json:"caused_by,omitempty"` // id of the teammate; empty for the player's own
	Penalty  bool   `json:"penalty,omitempty"`   // it drew a flag
}

// Measured is a measure as it stands in a mark.
type Measured struct {
	Checkpoint string  `json:"checkpoint"`
	Value      float64 `json:"value"`
	Verdict    string  `json:"verdict"`
}

// TallyViews are tallies as screens are told of them; nil where there are none.
func TallyViews(tallies []marks.Tally) *[]contract.Tally {
	if len(tallies) == 0 {
		return nil
	}
	list := make([]contract.Tally, len(tallies))
	for i, t := range tallies {
		list[i] = contract.Tally(t)
	}
	return &list
}

// Sums is the marks of some days, counted.
type Sums struct {
	Days   []Day
	Faults []FaultDay
}

// Day is a player's marks of one technique of a day, as they were judged: by source, and by
// the side to which the reps went.
type Day struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	On           season.Date
	Game         bool
	Side         string // left, right or empty
	Scheme       int    // version by which they were judged
	Clean        int
	Faulty       int
	NotGraded    int
	Assumed      int // of the graded ones
}

// Graded is how many marks of the day were judged.
func (d Day) Graded() int { return d.Clean + d.Faulty }

// FaultDay is how many marks of a player, technique, day and source show a fault. One that
// a teammate caused is charged to him.
type FaultDay struct {
	PlayerID     uuid.UUID // who was marked
	TechniqueKey string
	On           season.Date
	Game         bool
	Fault        string
	CausedBy     *uuid.UUID // nil for the player's own
	N            int
}

// Run is a player's current marks of one technique in one placed drill or one game, as the
// ladder looks at them.
type Run struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	On           season.Date
	DrillKey     *string // nil for the plays of a game
	Reps         []Rep   // shared between runs: read only
}

// Rep is one mark of a run, as it was judged.
type Rep struct{ Graded, Clean bool }

// Detail is a current mark with where it was made and by whom.
type Detail struct {
	ID           uuid.UUID
	PlayerID     uuid.UUID
	PlacementID  *uuid.UUID
	Rep          *int
	PlayID       *uuid.UUID
	TechniqueKey string
	State        marks.State
	Assignment   *int
	Technique    *int
	Finish       *int
	Verdict      marks.Verdict // as it was judged, its score left out
	Scheme       int           // version of the scheme by which it was judged; 0 is the shipped one
	Faults       []Fault
	Measures     []Measured
	Praise       bool
	Note         string
	Side         *string
	Result       *int            // of the player's own duel: 1 won, 0 lost
	Tallies      []marks.Tally   // counted apart
	Asked        *uuid.UUID      // who can answer what is open
	Grade        *marks.OneGrade // one for the rep, with its scale
	GroupKey     *string         // by whose way of judging it was judged; nil for marks of old
	Standard     int             // version of the house it was made by
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
	Grader       uuid.UUID // whose mark it is; zero for one that is settled
	Seq          int64     // order in which it came in
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
	Technique, Fault string   // empty: any
	Was              []string // other keys under which the fault was marked before
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
	// Season counts the group's marks from day to day, and the faults that its players showed
	// or caused from a later day on.
	Season(ctx context.Context, group string, from, to, faultsFrom season.Date) (Sums, error)
	// Runs lists the group's marks, or one of its players', in the order of the season, and
	// the faults of their own that they show from a later day on.
	Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]Run, []FaultDay, error)
	// Evidence lists a player's marks, newest first, 500 at most.
	Evidence(ctx context.Context, player uuid.UUID, which Which) ([]Detail, error)
	// Work lists what a group has to grade from day to day, newest first.
	Work(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]Work, error)
}

// Games reads the marks of games.
type Games interface {
	// Game lists the marks that stand of a group's players on the plays of a game, by player and play.
	Game(ctx context.Context, game uuid.UUID, group string) ([]Detail, error)
}

// Writer records marks as marking does. The first that is refused is the error, on marks[i].
type Writer interface {
	Write(ctx context.Context, c access.Coach, in []contract.MarkInput) error
}

// Schools takes over how the staff teaches that reps are marked.
type Schools interface {
	Teach(ctx context.Context, c access.Coach, marking, lost string) error
}

// sides are those of the growth arithmetic.
var sides = map[string]growth.Side{"left": growth.Left, "right": growth.Right}

// Growth turns sums into the rows of the growth arithmetic.
func Growth(sums Sums) []growth.Row {
	rows := make([]growth.Row, 0, len(sums.Days))
	name := namer{}
	for _, d := range sums.Days {
		if d.Graded() == 0 {
			continue
		}
		r := growth.Row{Player: name.of(d.PlayerID), Technique: d.TechniqueKey, Date: d.On, Side: sides[d.Side], Clean: d.Clean, Faulty: d.Faulty}
		if d.Game {
			r.Source = growth.Game
		}
		rows = append(rows, r)
	}
	return rows
}

// Needs turns the sums from a day on into what the ranking of needs looks at. A club plays one
// game a day.
func Needs(sums Sums, from season.Date) (reps []needs.Reps, shown []needs.Shown) {
	name := namer{}
	for _, d := range sums.Days {
		if d.On < from {
			continue
		}
		r := needs.Reps{Player: name.of(d.PlayerID), Technique: d.TechniqueKey, On: d.On}
		if d.Game {
			r.Game = d.On.String()
		}
		for _, x := range []struct {
			graded bool
			n      int
		}{{true, d.Graded()}, {false, d.NotGraded}} {
			if r.Graded, r.N = x.graded, x.n; x.n > 0 {
				reps = append(reps, r)
			}
		}
	}
	for _, f := range sums.Faults {
		x := needs.Shown{Player: name.of(f.PlayerID), Technique: f.TechniqueKey, Fault: f.Fault, On: f.On, N: f.N}
		if f.CausedBy != nil {
			x.CausedBy = name.of(*f.CausedBy)
		}
		shown = append(shown, x)
	}
	return reps, shown
}

// namer writes ids, each once: hundreds of rows are of the same player.
type namer map[uuid.UUID]string

func (n namer) of(id uuid.UUID) string {
	name, ok := n[id]
	if !ok {
		name = id.String()
		n[id] = name
	}
	return name
}
