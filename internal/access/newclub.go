package access

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/platform/pg"
)

// MinPassword is the least length of a password, in characters.
const MinPassword = 12

// Founding is what somebody says to make a club.
type Founding struct {
	Club, Timezone, SeasonStart string
	Weeks                       int
	Name, Email, Password       string // of the head coach
}

// Check returns what a club starts with, or an invalid.Error naming the field: a name
// missing, a day or time zone that cannot be read, weeks outside 1–60, no e-mail, a
// password shorter than MinPassword.
func (f Founding) Check() (NewClub, error) {
	start, err := season.Parse(f.SeasonStart)
	if err != nil {
		return NewClub{}, invalid.Field("season-start", "%s", err)
	}
	if _, err := time.LoadLocation(f.Timezone); err != nil {
		return NewClub{}, invalid.Field("timezone", "%q is not a time zone such as Europe/Dublin", f.Timezone)
	}
	switch {
	case strings.TrimSpace(f.Club) == "":
		return NewClub{}, invalid.Field("club", "the club needs a name")
	case strings.TrimSpace(f.Name) == "":
		return NewClub{}, invalid.Field("name", "the head coach needs a name")
	case !strings.Contains(f.Email, "@"):
		return NewClub{}, invalid.Field("email", "%q is not an e-mail address", f.Email)
	case len([]rune(f.Password)) < MinPassword:
		return NewClub{}, invalid.Field("password", "the password must have at least %d characters", MinPassword)
	}
	if err := invalid.IntRange("weeks", f.Weeks, 1, 60); err != nil {
		return NewClub{}, err
	}
	return NewClub{Club: strings.TrimSpace(f.Club), Timezone: f.Timezone, SeasonStart: start, Weeks: f.Weeks, Name: strings.TrimSpace(f.Name), Email: f.Email, Groups: group.Usual()}, nil
}

// Found makes the club.
func Found(ctx context.Context, owner *pg.DB, f Founding) (uuid.UUID, error) {
	n, err := f.Check()
	if err != nil {
		return uuid.Nil, err
	}
	if n.PasswordHash, err = Hash(f.Password); err != nil {
		return uuid.Nil, err
	}
	return CreateClub(ctx, owner, n)
}
