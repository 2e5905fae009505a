package access

import (
	"context"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/platform/problem"
)

// The roles of a staff. What each may do is said of every operation in the contract (x-may), and of groups by the
// methods of Coach.
const (
	Head      = "head"      // everything of the club
	Position  = "coach"     // coaches position groups: their players, practices, marks, and what they are taught
	Assistant = "assistant" // plans and marks in his groups
	Health    = "health"    // athletic health: who may take part, and alone lifts a head-injury hold
	Reader    = "reader"    // looks
)

// Roles lists them as they are offered.
func Roles() []string { return []string{Head, Position, Assistant, Health, Reader} }

// may says which roles each word of the contract's x-may stands for. What is read is for anyone, what is changed for who
// plans, unless the contract says otherwise.
var may = map[string][]string{
	"anyone":   Roles(),
	"grades":   {Head, Position, Assistant, Reader}, // how players do is none of athletic health's business
	"plans":    {Head, Position, Assistant},
	"teaches":  {Head, Position},
	"measures": {Head, Position, Assistant, Health},
	"records":  {Head, Position, Health},
	"clears":   {Health},
	"leads":    {Head},
}

// May reports whether a role may do what the contract gives to those whom a word stands for.
func May(role, word string) bool { return slices.Contains(may[word], role) }

// MayWords lists the words of x-may.
func MayWords() []string { return slices.Sorted(maps.Keys(may)) }

// Coach is a member of the staff who is signed in.
type Coach struct {
	ID      uuid.UUID // as a member of the club's staff
	Account uuid.UUID // as who signs in, here and in other clubs
	Name    string
	Role    string   // one of Roles
	Own     []string // keys of the groups he coaches, or assists
	Club    Club
	Season  Season
	// FactorDue says that the club asks for a second factor and he has none: until he has, he does nothing else.
	FactorDue bool
}

// Club is what every screen of a club rests on.
type Club struct {
	ID       uuid.UUID
	Name     string
	Timezone string
	Groups   group.List
	Library  int   // latest version of what the club teaches; 0 before the first
	Clock    int64 // number of its latest change
}

// Season is the club's latest season.
type Season struct {
	ID    uuid.UUID
	Start season.Date
	Weeks int
}

// IsHead reports whether he may change everything of the club.
func (c Coach) IsHead() bool { return c.Role == Head }

// IsHealth reports whether he is of the athletic-health staff.
func (c Coach) IsHealth() bool { return c.Role == Health }

// coaches reports whether he has a group that he coaches.
func (c Coach) coaches(group string) bool { return slices.Contains(c.Own, group) }

// MayEdit reports whether he may change what is of a group: its players and what they are taught.
func (c Coach) MayEdit(group string) bool {
	return c.IsHead() || c.Role == Position && c.coaches(group)
}

// MayEditAny reports whether he may change what belongs to at least one of the groups.
func (c Coach) MayEditAny(groups []string) bool { return slices.ContainsFunc(groups, c.MayEdit) }

// MayWork reports whether he may plan and mark in a group: who may change it, and who assists there.
func (c Coach) MayWork(group string) bool {
	return c.MayEdit(group) || c.Role == Assistant && c.coaches(group)
}

// Works reports whether he plans and marks in any group.
func (c Coach) Works() bool { return slices.ContainsFunc(c.Club.Groups.Keys(), c.MayWork) }

// MayEditSide reports whether he may change what is of a side of the ball, such as its calls: the head coach, and who
// coaches a group that plays on it; of kicking units everybody who coaches a group.
func (c Coach) MayEditSide(side group.Side) bool { return c.anyOf(side, c.MayEdit) }

// MayWorkSide is MayEditSide for what assistants do too, such as writing plays down.
func (c Coach) MayWorkSide(side group.Side) bool { return c.anyOf(side, c.MayWork) }

func (c Coach) anyOf(side group.Side, may func(string) bool) bool {
	return c.IsHead() || slices.ContainsFunc(c.Club.Groups, func(g group.Group) bool {
		return may(g.Key) && (g.Side == side || side == group.Units)
	})
}

// Group returns the club's group of a key, or problem.ErrNotFound.
func (c Coach) Group(key string) (group.Group, error) {
	if g, ok := c.Club.Groups.Find(key); ok {
		return g, nil
	}
	return group.Group{}, problem.ErrNotFound
}

// Today is the civil day at the club.
func (c Coach) Today(now time.Time) season.Date {
	loc, err := time.LoadLocation(c.Club.Timezone)
	if err != nil {
		loc = time.UTC
	}
	return season.Of(now.In(loc))
}

// WeekEnd is the last day of a season week, but not after today: nothing is known of the
// days to come. It returns an invalid.Error on "week" outside the season.
func (c Coach) WeekEnd(week int, now time.Time) (season.Date, error) {
	if week < 1 || week > c.Season.Weeks {
		return 0, invalid.Field("week", "week %d is outside the season, which has %d weeks", week, c.Season.Weeks)
	}
	return min(season.WeekStart(c.Season.Start, week)+6, c.Today(now)), nil
}

// WeekOf is the season week of a day.
func (c Coach) WeekOf(day season.Date) int { return season.Week(c.Season.Start, day) }

type coachKey struct{}

// With returns a context in which the coach is signed in.
func With(ctx context.Context, c Coach) context.Context { return context.WithValue(ctx, coachKey{}, c) }

// From returns who is signed in; the zero Coach, who may do nothing, when nobody is.
func From(ctx context.Context) Coach {
	c, _ := ctx.Value(coachKey{}).(Coach)
	return c
}
