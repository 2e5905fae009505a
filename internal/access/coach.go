package access

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/platform/problem"
)

// Head is the role that may change everything of the club. Health is the athletic-health staff's: it
// says who may take part, and alone lifts a head-injury hold; it plans and marks nothing.
const (
	Head   = "head"
	Health = "health"
)

// Coach is a member of the staff who is signed in.
type Coach struct {
	ID     uuid.UUID
	Name   string
	Role   string   // head, coach or health
	Own    []string // keys of the groups he coaches
	Club   Club
	Season Season
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

// MayEdit reports whether he may change what belongs to a group.
func (c Coach) MayEdit(group string) bool { return c.IsHead() || slices.Contains(c.Own, group) }

// MayEditAny reports whether he may change what belongs to at least one of the groups.
func (c Coach) MayEditAny(groups []string) bool { return slices.ContainsFunc(groups, c.MayEdit) }

// MayEditSide reports whether he may change what is of a side of the ball, such as its calls and its plays:
// the head coach, and who coaches a group that plays on it; of kicking units everybody who coaches a group.
func (c Coach) MayEditSide(side group.Side) bool {
	return c.IsHead() || slices.ContainsFunc(c.Club.Groups, func(g group.Group) bool {
		return slices.Contains(c.Own, g.Key) && (g.Side == side || side == group.Units)
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
