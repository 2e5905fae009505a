// Package script is what planning offers to other features: the calendar's practices with
// the drills placed in them, and what a drill gives there.
package script

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// Practice is one practice of the calendar.
type Practice struct {
	ID          uuid.UUID
	On          season.Date
	Title       string
	Theme       string
	Place       string
	StartMinute int // after midnight, local time
	Minutes     int
	Version     int
	Cancelled   string // why it is called off; "" while it is on
}

// Period is a block of a practice.
type Period struct {
	ID          uuid.UUID
	PracticeID  uuid.UUID
	Start       int
	Minutes     int
	Kind        string
	Name        string
	Contact     string
	Version     int
	Groups      []string
	Place       string                  // key of a place of the club's settings; "" for none
	Coaches     []string                // ids of staff and keys of helpers
	Equipment   []contract.EquipmentUse // what it takes
	NeedsGroups []string                // groups without whom it cannot be run
	RepSeconds  float64                 // how long a rep lasts; 0 when nothing is said
	ChangedBy   string                  // who changed it last
	Placements  []Placement             // of all groups
	Marks       int                     // of players on its plays, where it is filmed
	Since       map[string]int          // by group, the version at which its drills changed last
}

// Holders lists the groups whose drills the period may hold: its only group when it is an individual
// period, both when it is one that two groups share.
func (p Period) Holders() []string {
	n := len(p.Groups)
	if p.Kind == "individual" && n == 1 || (p.Kind == "individual" || p.Kind == "group") && n == 2 {
		return p.Groups
	}
	return nil
}

// Holds reports whether the period may hold drills of a group.
func (p Period) Holds(group string) bool { return slices.Contains(p.Holders(), group) }

// Meant is the group whose drills are spoken of: the one that is named, else the only one that the period holds
// drills of. It is "" where there are two.
func (p Period) Meant(group string) string {
	if holders := p.Holders(); group == "" && len(holders) == 1 {
		return holders[0]
	}
	return group
}

// Of lists the drills of a group that are placed in it, in order of time.
func (p Period) Of(group string) []Placement {
	var list []Placement
	for _, x := range p.Placements {
		if x.Group == group {
			list = append(list, x)
		}
	}
	return list
}

// Own reports whether the period is a group's own: an individual period of it alone.
func (p Period) Own(group string) bool {
	return p.Kind == "individual" && len(p.Groups) == 1 && p.Groups[0] == group
}

// Placement is a drill put into a period.
type Placement struct {
	ID       uuid.UUID
	Group    string // whose it is
	DrillKey string
	// TechniqueKey is what its reps are marked as, when the drill trains several
	// techniques; empty: the drill's first.
	TechniqueKey string
	Cards        string // keys of its cards in an order of its own, a space between them; empty: as the library has them
	Start        int
	Minutes      int
	Lanes        int
	Marks        int // current marks recorded for it
}

// PlacedOn is a placement with the practice it belongs to.
type PlacedOn struct {
	Placement
	PracticeID uuid.UUID
	On         season.Date
	At         int    // minutes from the start of the practice
	Of         int    // how long the practice is
	Kind       string // of the period
}

// Next is what a group has of its own in its next practice.
type Next struct {
	Group    string
	Practice Practice
	Periods  []Period // its own in order of time, then those it shares with another group
}

// Placements lists what the group has placed in them, in their order.
func (n Next) Placements() []Placement {
	var list []Placement
	for _, p := range n.Periods {
		list = append(list, p.Of(n.Group)...)
	}
	return list
}

// Source reads plans.
type Source interface {
	// Next reads the group's plan of its first practice on or after a day that has a period
	// of its own; false when there is none to come.
	Next(ctx context.Context, c access.Coach, group string, from season.Date) (Next, bool, error)
	// Placed reads placements by their ids; those that are not there are left out.
	Placed(ctx context.Context, ids []uuid.UUID) ([]PlacedOn, error)
}

// Dated is a day with practice that is not called off, and the minutes of individual periods that
// each group has there.
type Dated struct {
	On  season.Date
	Own map[string]int
}

// Dates reads on which days a season has practice.
type Dates interface {
	// Dates lists them in order.
	Dates(ctx context.Context, c access.Coach) ([]Dated, error)
}

// Whole is a practice with its script and what the club has for practices.
type Whole struct {
	Practice Practice
	Periods  []Period
	Stock    []contract.EquipmentStock
}

// Scripts reads scripts and what is placed in them.
type Scripts interface {
	// Around reads the practice in which a period lies, as it is now.
	Around(ctx context.Context, period uuid.UUID) (w Whole, found bool, err error)
	// Between lists what a group has placed from day to day.
	Between(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]PlacedOn, error)
	// Settings reads what the club has for its practices, and the limits it keeps to.
	Settings(ctx context.Context, c access.Coach) (contract.PracticeSettings, error)
	// EveryDay lists the keys of the drills that a group does every day.
	EveryDay(ctx context.Context, group string) ([]string, error)
}

// Ref names a practice.
func Ref(p Practice) contract.PracticeRef {
	ref := contract.PracticeRef{ID: p.ID, Date: p.On.String(), Title: p.Title, StartMinute: p.StartMinute, Minutes: p.Minutes}
	if p.Cancelled != "" {
		ref.Cancelled = &p.Cancelled
	}
	return ref
}

// Reps words what a drill gives in a plan.
func Reps(d teaching.Drill, att crew.Attendance, minutes, lanes int) contract.Reps {
	c, y, advice := crew.Planned(d, att, minutes, lanes)
	return contract.Reps{Players: c.All(), HelpOnly: c.HelpOnly, LanesUsed: y.LanesUsed, Cycles: y.Cycles, Min: y.PerPlayer.Min, Max: y.PerPlayer.Max,
		Sides: d.Sides, PerSideMin: y.PerSideMin, WorkShare: y.WorkShare, HelpingShare: y.HelpingShare, WaitingShare: y.WaitingShare, Advice: advice}
}
