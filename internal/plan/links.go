package plan

import (
	"context"
	"crypto/sha256"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// MaxLinks is the most addresses of a coach that are not revoked.
const MaxLinks = 20

// Link is an address under which a calendar program reads the season.
type Link struct {
	ID        uuid.UUID
	User      uuid.UUID
	Name      string
	CreatedAt time.Time
	ReadAt    *time.Time
}

// Links keeps addresses of calendars.
type Links interface {
	// Links lists those of a coach that are not revoked, the newest first.
	Links(ctx context.Context, user uuid.UUID) ([]Link, error)
	// PutLink keeps one by the digest of its secret; the same again changes nothing.
	PutLink(ctx context.Context, l Link, digest [32]byte) error
	// RevokeLink revokes one of a coach.
	RevokeLink(ctx context.Context, user, id uuid.UUID, at time.Time) error
	// Owner reads whose a secret is, before any club is known.
	Owner(ctx context.Context, digest [32]byte) (user uuid.UUID, found bool, err error)
}

// Coaches reads a coach and works for his club.
type Coaches interface {
	Coach(ctx context.Context, id uuid.UUID) (c access.Coach, found bool, err error)
	InClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error
}

func (l Link) view() contract.CalendarLink {
	return contract.CalendarLink{ID: l.ID, Name: l.Name, CreatedAt: l.CreatedAt, ReadAt: l.ReadAt}
}

// CalendarLinks lists a coach's own.
func (s *Service) CalendarLinks(ctx context.Context, c access.Coach) ([]contract.CalendarLink, error) {
	list, err := s.Links.Links(ctx, c.ID)
	out := make([]contract.CalendarLink, len(list))
	for i, l := range list {
		out[i] = l.view()
	}
	return out, err
}

// PutCalendarLink lets whoever knows the secret read the season's calendar as this coach sees it.
func (s *Service) PutCalendarLink(ctx context.Context, c access.Coach, id uuid.UUID, name, secret string) (contract.CalendarLink, error) {
	name = strings.TrimSpace(name)
	if name == "" {
		return contract.CalendarLink{}, invalid.Field("name", "say where it is used")
	}
	list, err := s.Links.Links(ctx, c.ID)
	if err != nil {
		return contract.CalendarLink{}, err
	}
	if len(list) >= MaxLinks {
		return contract.CalendarLink{}, invalid.Field("name", "at most %d addresses; revoke one that is not used", MaxLinks)
	}
	l := Link{ID: id, User: c.ID, Name: name, CreatedAt: s.Now()}
	return l.view(), s.Links.PutLink(ctx, l, sha256.Sum256([]byte(secret)))
}

// RevokeCalendarLink revokes one of a coach's own.
func (s *Service) RevokeCalendarLink(ctx context.Context, c access.Coach, id uuid.UUID) (contract.Gone, error) {
	return contract.Gone{ID: id}, s.Links.RevokeLink(ctx, c.ID, id, s.Now())
}

// ReadCalendar is the season as iCalendar for whoever knows a secret; problem.ErrNotFound for one
// that nobody has, or that is revoked.
func (s *Service) ReadCalendar(ctx context.Context, secret string) (content []byte, err error) {
	user, found, err := s.Links.Owner(ctx, sha256.Sum256([]byte(strings.TrimSuffix(secret, ".ics"))))
	if err != nil {
		return nil, err
	}
	if !found {
		return nil, problem.ErrNotFound
	}
	c, found, err := s.Coaches.Coach(ctx, user)
	if err != nil {
		return nil, err
	}
	if !found {
		return nil, problem.ErrNotFound
	}
	err = s.Coaches.InClub(ctx, c.Club.ID, func(ctx context.Context) error {
		_, content, err = s.ExportCalendar(ctx, c)
		return err
	})
	return content, err
}

// Anywhere is the SQL that is asked before any club is known, with its database.
type Anywhere struct {
	SQL
	access.Store
	DB *pg.DB
}

// InClub works for a club.
func (a Anywhere) InClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error {
	return a.DB.InClub(ctx, club, f)
}

// Owner reads whose a secret is.
func (a Anywhere) Owner(ctx context.Context, digest [32]byte) (user uuid.UUID, found bool, err error) {
	type row struct{ Owner *uuid.UUID }
	err = a.DB.Anywhere(ctx, func(ctx context.Context) error {
		r, _, err := pg.One[row](ctx, `SELECT calendar_owner(@digest) AS owner`, pg.Args{"digest": digest[:]})
		if r.Owner != nil {
			user, found = *r.Owner, true
		}
		return err
	})
	return user, found, err
}

// Links lists those of a coach that are not revoked.
func (SQL) Links(ctx context.Context, user uuid.UUID) ([]Link, error) {
	type row struct {
		ID        uuid.UUID
		Name      string
		CreatedAt time.Time
		ReadAt    *time.Time
	}
	rows, err := pg.Select[row](ctx, `SELECT id, name, created_at, read_at FROM calendar_links WHERE club_id = @club AND user_id = @user AND revoked_at IS NULL ORDER BY created_at DESC, id`, pg.Args{"user": user})
	list := make([]Link, len(rows))
	for i, r := range rows {
		list[i] = Link{ID: r.ID, User: user, Name: r.Name, CreatedAt: r.CreatedAt, ReadAt: r.ReadAt}
	}
	return list, err
}

// PutLink keeps one by the digest of its secret.
func (SQL) PutLink(ctx context.Context, l Link, digest [32]byte) error {
	_, err := pg.Exec(ctx, `INSERT INTO calendar_links (club_id, id, user_id, name, digest, created_at) VALUES (@club, @id, @user, @name, @digest, @at)`,
		pg.Args{"id": l.ID, "user": l.User, "name": l.Name, "digest": digest[:], "at": l.CreatedAt})
	return err
}

// RevokeLink revokes one of a coach.
func (SQL) RevokeLink(ctx context.Context, user, id uuid.UUID, at time.Time) error {
	_, err := pg.Exec(ctx, `UPDATE calendar_links SET revoked_at = @at WHERE club_id = @club AND user_id = @user AND id = @id AND revoked_at IS NULL`, pg.Args{"user": user, "id": id, "at": at})
	return err
}
