package access

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/platform/pg"
)

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
		return NewClub{}, invalid.Field("season_start", "%s", err)
	}
	if err := CheckTimezone(f.Timezone); err != nil {
		return NewClub{}, err
	}
	switch {
	case strings.TrimSpace(f.Club) == "":
		return NewClub{}, invalid.Field("club", "the club needs a name")
	case strings.TrimSpace(f.Name) == "":
		return NewClub{}, invalid.Field("name", "the head coach needs a name")
	}
	email, err := CheckEmail(f.Email)
	if err != nil {
		return NewClub{}, err
	}
	if err := CheckPassword(f.Password, f.Name, f.Email, f.Club); err != nil {
		return NewClub{}, err
	}
	if err := invalid.IntRange("weeks", f.Weeks, 1, 60); err != nil {
		return NewClub{}, err
	}
	return NewClub{Club: strings.TrimSpace(f.Club), Timezone: f.Timezone, SeasonStart: start, Weeks: f.Weeks, Name: strings.TrimSpace(f.Name), Email: email, Groups: group.Usual()}, nil
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

// Joining is what somebody says to add a member to the staff of a club.
type Joining struct {
	With        string // e-mail of somebody of the staff: which club it is
	Name, Title string
	Email, Role string
	Groups      []string // keys of the groups he coaches
	Password    string
}

// Check returns an invalid.Error naming the field: a name missing, no e-mail, no such role, a
// password shorter than MinPassword.
func (j Joining) Check() error {
	switch {
	case strings.TrimSpace(j.Name) == "":
		return invalid.Field("name", "a member of the staff needs a name")
	case !slices.Contains(Roles(), j.Role):
		return invalid.Field("role", "a role is %s, got %q", strings.Join(Roles(), ", "), j.Role)
	}
	if _, err := CheckEmail(j.Email); err != nil {
		return err
	}
	return CheckPassword(j.Password, j.Name, j.Email)
}

// Join adds a member to the staff, as the database's owner.
func Join(ctx context.Context, owner *pg.DB, j Joining) error {
	if err := j.Check(); err != nil {
		return err
	}
	hash, err := Hash(j.Password)
	if err != nil {
		return err
	}
	store := SQL{DB: owner}
	known, found, err := store.Account(ctx, j.With)
	if err != nil {
		return err
	}
	if !found {
		return invalid.Field("with", "nobody of any staff has the e-mail %q", j.With)
	}
	places, err := store.Memberships(ctx, known.ID)
	if err != nil {
		return err
	}
	if len(places) != 1 {
		return invalid.Field("with", "%q is on the staff of %d clubs; name somebody of one", j.With, len(places))
	}
	c, _, err := store.Coach(ctx, places[0].ID)
	if err != nil {
		return err
	}
	for _, g := range j.Groups {
		if _, ok := c.Club.Groups.Find(g); !ok {
			return invalid.Field("groups", "the club has no position group %q; it has %s", g, strings.Join(c.Club.Groups.Keys(), ", "))
		}
	}
	return pg.Meaning(owner.InClub(ctx, c.Club.ID, func(ctx context.Context) error {
		account := uuid.New()
		if _, err := pg.Exec(ctx, `INSERT INTO accounts (id, email, name, password_hash) VALUES (@id, lower(@email), @name, @hash)`,
			pg.Args{"id": account, "email": strings.TrimSpace(j.Email), "name": strings.TrimSpace(j.Name), "hash": hash}); err != nil {
			return err
		}
		return AddMember(ctx, NewMember{ID: uuid.New(), Account: account, Name: strings.TrimSpace(j.Name), Title: strings.TrimSpace(j.Title), Role: j.Role, Groups: j.Groups})
	}))
}

// NewMember is who comes onto the staff of the context's club.
type NewMember struct {
	ID, Account       uuid.UUID
	Name, Title, Role string
	Groups            []string
}

// AddMember puts an account onto the staff of the context's club.
func AddMember(ctx context.Context, m NewMember) error {
	if _, err := pg.Exec(ctx, `INSERT INTO users (id, club_id, account_id, name, title, role) VALUES (@id, @club, @account, @name, @title, @role)`,
		pg.Args{"id": m.ID, "account": m.Account, "name": m.Name, "title": m.Title, "role": m.Role}); err != nil {
		return err
	}
	_, err := pg.Exec(ctx, `INSERT INTO user_groups (club_id, user_id, group_key) SELECT @club, @id, g FROM unnest(@groups::text[]) g ON CONFLICT DO NOTHING`, pg.Args{"id": m.ID, "groups": append([]string{}, m.Groups...)})
	return err
}
