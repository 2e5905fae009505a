// Package staff is who works for a club: asked by a link, given a role and groups, kept out for a while, taken off.
package staff

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/post"
	"nineyard/internal/platform/problem"
)

// inviteFor is how long a link onto a staff counts.
const inviteFor = 7 * 24 * time.Hour

// Limits of a staff.
const (
	maxMembers = 200
	maxInvites = 100
)

// Member is somebody on the staff of the context's club.
type Member struct {
	ID, Account        uuid.UUID
	Version            int
	Name, Title, Email string
	Role               string
	Groups             []string
	Suspended          bool
	Factor             bool
	EnteredAt          *time.Time // when the account came in last, anywhere
}

// Invite is a link onto the staff.
type Invite struct {
	ID                       uuid.UUID
	Club                     uuid.UUID
	ClubName                 string
	Email, Name, Title, Role string
	Groups                   []string
	By                       string
	At, Until                time.Time
	Used, Revoked            bool
}

// counts reports whether a link lets anybody in.
func (i Invite) counts(now time.Time) bool { return !i.Used && !i.Revoked && now.Before(i.Until) }

// Store keeps the staff of the context's club.
type Store interface {
	// Members lists who is on the staff, suspended or not, the head coach first.
	Members(ctx context.Context) ([]Member, error)
	// Hold reads the staff as Members does and holds it until the transaction ends.
	Hold(ctx context.Context) ([]Member, error)
	// Save writes title, role, groups and whether he is suspended.
	Save(ctx context.Context, m Member, at time.Time) error
	// Remove takes somebody off; what he made stays under his name.
	Remove(ctx context.Context, id uuid.UUID, at time.Time) error
	// Former lists who was on the staff and still has a name.
	Former(ctx context.Context) ([]contract.CoachRef, error)
	// Erase takes the name off of somebody who is on the staff no more.
	Erase(ctx context.Context, id uuid.UUID) (bool, error)
	// Invites lists the links that count, newest first.
	Invites(ctx context.Context, now time.Time) ([]Invite, error)
	// AddInvite keeps a link; an earlier one to the same e-mail counts no more.
	AddInvite(ctx context.Context, i Invite, digest []byte, by uuid.UUID) error
	RevokeInvite(ctx context.Context, id uuid.UUID, at time.Time) (bool, error)
	// RequireFactor reads whether the club asks for a second factor; SetRequireFactor changes it.
	RequireFactor(ctx context.Context) (bool, error)
	SetRequireFactor(ctx context.Context, require bool) error
}

// Doors are asked before any club is known.
type Doors interface {
	// Invite finds the link of a secret.
	Invite(ctx context.Context, digest []byte) (i Invite, found bool, err error)
	// InClub works for a club.
	InClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error
	// Use takes a link that counts, once.
	Use(ctx context.Context, id uuid.UUID, at time.Time) (bool, error)
	// NewAccount makes an account with a password.
	NewAccount(ctx context.Context, id uuid.UUID, email, name, hash string) error
	// Join puts an account onto the staff of the context's club.
	Join(ctx context.Context, m access.NewMember) error
}

// Sessions are the open sessions of people.
type Sessions interface {
	Of(ctx context.Context, people []uuid.UUID) ([]httpd.Open, error)
	End(ctx context.Context, people []uuid.UUID, but uuid.UUID) error
}

// Service runs the use cases.
type Service struct {
	Store    Store
	Doors    Doors
	Access   *access.Service
	Sessions Sessions
	Mail     post.Mailer
	Address  func(ctx context.Context) string
	Now      func() time.Time // the wall clock
}

// View is the staff, with who was asked.
func (s *Service) View(ctx context.Context, c access.Coach) (contract.Staff, error) {
	out := contract.Staff{Members: []contract.Member{}, Invites: []contract.Invite{}, Mails: s.Mail.Mails()}
	members, err := s.Store.Members(ctx)
	if err != nil {
		return out, err
	}
	if out.Members, err = s.views(ctx, c, members); err != nil {
		return out, err
	}
	invites, err := s.Store.Invites(ctx, s.Now())
	if err != nil {
		return out, err
	}
	for _, i := range invites {
		out.Invites = append(out.Invites, contract.Invite{ID: i.ID, Email: i.Email, Name: i.Name, Title: i.Title, Role: contract.Role(i.Role), Groups: append([]string{}, i.Groups...), By: i.By, At: i.At, Expires: i.Until})
	}
	if out.Former, err = s.Store.Former(ctx); err != nil {
		return out, err
	}
	out.RequireFactor, err = s.Store.RequireFactor(ctx)
	return out, err
}

// Erase takes the name off of somebody who is on the staff no more.
func (s *Service) Erase(ctx context.Context, id uuid.UUID) error {
	gone, err := s.Store.Erase(ctx, id)
	return problem.Found(gone, err)
}

func (s *Service) views(ctx context.Context, c access.Coach, members []Member) ([]contract.Member, error) {
	out := []contract.Member{}
	ids := make([]uuid.UUID, len(members))
	for i, m := range members {
		ids[i] = m.ID
	}
	open, err := s.Sessions.Of(ctx, ids)
	for _, m := range members {
		v := contract.Member{ID: m.ID, Version: m.Version, Name: m.Name, Title: m.Title, Email: m.Email, Role: contract.Role(m.Role), Groups: append([]string{}, m.Groups...), Suspended: m.Suspended, Me: m.ID == c.ID, Factor: m.Factor, Seen: m.EnteredAt}
		for _, o := range open {
			if o.Person == m.ID {
				v.Sessions++
				if v.Seen == nil || v.Seen.Before(o.SeenAt) {
					v.Seen = &o.SeenAt
				}
			}
		}
		out = append(out, v)
	}
	return out, err
}

// checked puts groups in the club's order, each once, and refuses a role and groups that do not go together.
func checked(c access.Coach, role string, groups []string) ([]string, error) {
	if !slices.Contains(access.Roles(), role) {
		return nil, invalid.Field("role", "there is no role %q", role)
	}
	for _, g := range groups {
		if _, ok := c.Club.Groups.Find(g); !ok {
			return nil, invalid.Field("groups", "there is no position group %q", g)
		}
	}
	out := []string{}
	for _, g := range c.Club.Groups.Keys() {
		if slices.Contains(groups, g) {
			out = append(out, g)
		}
	}
	if len(out) == 0 && (role == access.Position || role == access.Assistant) {
		return nil, invalid.Field("groups", "a position coach and an assistant work with at least one group")
	}
	return out, nil
}

// Put changes a member's title, role and groups, keeps him out for now or lets him in again.
func (s *Service) Put(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.MemberInput) (contract.Member, error) {
	groups, err := checked(c, string(in.Role), in.Groups)
	if err != nil {
		return contract.Member{}, err
	}
	staff, was, err := s.hold(ctx, id)
	if err != nil {
		return contract.Member{}, err
	}
	want := was
	want.Title, want.Role, want.Groups, want.Suspended = strings.TrimSpace(in.Title), string(in.Role), groups, in.Suspended
	switch {
	case was.Title == want.Title && was.Role == want.Role && slices.Equal(was.Groups, want.Groups) && was.Suspended == want.Suspended: // sent again
		return s.one(ctx, c, was)
	case version != was.Version:
		v, err := s.one(ctx, c, was)
		if err != nil {
			return v, err
		}
		return v, &problem.Stale{What: "member of the staff", Current: v}
	case id == c.ID && want.Suspended:
		return contract.Member{}, invalid.Field("suspended", "you cannot keep yourself out")
	}
	if (want.Role != access.Head || want.Suspended) && leads(was) && !otherHead(staff, id) {
		return contract.Member{}, invalid.Field("role", "%s is the last head coach; make somebody else one first", was.Name)
	}
	if err := s.Store.Save(ctx, want, s.Now()); err != nil {
		return contract.Member{}, err
	}
	if want.Suspended {
		if err := s.Sessions.End(ctx, []uuid.UUID{id}, uuid.Nil); err != nil {
			return contract.Member{}, err
		}
	}
	want.Version++
	return s.one(ctx, c, want)
}

func (s *Service) one(ctx context.Context, c access.Coach, m Member) (contract.Member, error) {
	list, err := s.views(ctx, c, []Member{m})
	if err != nil {
		return contract.Member{}, err
	}
	return list[0], nil
}

func leads(m Member) bool { return m.Role == access.Head && !m.Suspended }

// otherHead reports whether the staff has a head coach beside one.
func otherHead(staff []Member, id uuid.UUID) bool {
	return slices.ContainsFunc(staff, func(m Member) bool { return m.ID != id && leads(m) })
}

// hold reads the staff and one of it, held until the transaction ends.
func (s *Service) hold(ctx context.Context, id uuid.UUID) ([]Member, Member, error) {
	staff, err := s.Store.Hold(ctx)
	if err != nil {
		return nil, Member{}, err
	}
	i := slices.IndexFunc(staff, func(m Member) bool { return m.ID == id })
	if i < 0 {
		return nil, Member{}, problem.ErrNotFound
	}
	return staff, staff[i], nil
}

// Remove takes somebody off the staff. His sessions here end; what he made stays under his name.
func (s *Service) Remove(ctx context.Context, id uuid.UUID) error {
	staff, was, err := s.hold(ctx, id)
	if err != nil {
		return err
	}
	if leads(was) && !otherHead(staff, id) {
		return invalid.Field("id", "%s is the last head coach; make somebody else one first", was.Name)
	}
	if err := s.Store.Remove(ctx, id, s.Now()); err != nil {
		return err
	}
	return s.Sessions.End(ctx, []uuid.UUID{id}, uuid.Nil)
}

// EndSessions ends all sessions of a member.
func (s *Service) EndSessions(ctx context.Context, id uuid.UUID) error {
	if _, _, err := s.hold(ctx, id); err != nil {
		return err
	}
	return s.Sessions.End(ctx, []uuid.UUID{id}, uuid.Nil)
}

// Invite asks somebody onto the staff.
func (s *Service) Invite(ctx context.Context, c access.Coach, i Invite, secret string) (contract.Invited, error) {
	var err error
	if i.Email, err = access.CheckEmail(i.Email); err != nil {
		return contract.Invited{}, err
	}
	if i.Groups, err = checked(c, i.Role, i.Groups); err != nil {
		return contract.Invited{}, err
	}
	if i.Name, i.Title = strings.TrimSpace(i.Name), strings.TrimSpace(i.Title); i.Name == "" {
		return contract.Invited{}, invalid.Field("name", "say whom you ask")
	}
	staff, err := s.Store.Hold(ctx)
	if err != nil {
		return contract.Invited{}, err
	}
	if slices.ContainsFunc(staff, func(m Member) bool { return m.Email == i.Email }) {
		return contract.Invited{}, invalid.Field("email", "%s is on the staff already", i.Email)
	}
	open, err := s.Store.Invites(ctx, s.Now())
	if err != nil {
		return contract.Invited{}, err
	}
	if len(staff) >= maxMembers || len(open) >= maxInvites {
		return contract.Invited{}, invalid.Field("email", "a staff has at most %d members and %d open links", maxMembers, maxInvites)
	}
	i.At, i.Until = s.Now(), s.Now().Add(inviteFor)
	if err := s.Store.AddInvite(ctx, i, access.LinkDigest(secret), c.ID); err != nil {
		return contract.Invited{}, err
	}
	err = s.Mail.Send(ctx, post.Letter{To: i.Email, Subject: "You are asked onto the staff of " + c.Club.Name,
		Body: fmt.Sprintf("%s asks you onto the staff of %s at Nine Yard.\n\nOpen this within seven days:\n\n%s/join#%s\n\nThe link works once and is yours alone.\n", c.Name, c.Club.Name, s.Address(ctx), secret)})
	return contract.Invited{Mailed: s.Mail.Mails(), Expires: i.Until}, err
}

// Revoke has a link let nobody in any more.
func (s *Service) Revoke(ctx context.Context, id uuid.UUID) error {
	there, err := s.Store.RevokeInvite(ctx, id, s.Now())
	return problem.Found(there, err)
}

var errOver = invalid.Field("secret", "this link has been used, taken back or has run out; ask the head coach for another")

// offer finds a link that counts, and whether its e-mail is an account's.
func (s *Service) offer(ctx context.Context, secret string) (Invite, access.Account, bool, error) {
	i, found, err := s.Doors.Invite(ctx, access.LinkDigest(secret))
	if err != nil {
		return i, access.Account{}, false, err
	}
	if !found || !i.counts(s.Now()) {
		return i, access.Account{}, false, errOver
	}
	a, known, err := s.Access.Store.Account(ctx, i.Email)
	return i, a, known, err
}

// Look says what a link offers to whoever has it; account is who is signed in, if anybody.
func (s *Service) Look(ctx context.Context, secret string, account uuid.UUID) (contract.Offer, error) {
	i, a, known, err := s.offer(ctx, secret)
	return contract.Offer{Club: i.ClubName, Email: i.Email, Name: i.Name, Title: i.Title, Role: contract.Role(i.Role), Known: known, SignedIn: known && a.ID == account}, err
}

// Join comes onto the staff by a link: as the account that is signed in and has the link's e-mail, or as a new one with
// a password. It returns the account.
func (s *Service) Join(ctx context.Context, secret, name, password string, account uuid.UUID) (uuid.UUID, uuid.UUID, error) {
	i, a, known, err := s.offer(ctx, secret)
	if err != nil {
		return uuid.Nil, uuid.Nil, err
	}
	hash := ""
	switch {
	case known && a.ID != account:
		return uuid.Nil, uuid.Nil, invalid.Field("password", "there is an account of %s; sign in to it, then open the link again", i.Email)
	case known:
		name = a.Name
	default:
		if name = strings.TrimSpace(name); name == "" {
			return uuid.Nil, uuid.Nil, invalid.Field("name", "the name is missing")
		}
		if err := access.CheckPassword(password, name, i.Email, i.ClubName); err != nil {
			return uuid.Nil, uuid.Nil, err
		}
		if hash, err = s.Access.Hash(ctx, password); err != nil {
			return uuid.Nil, uuid.Nil, err
		}
		a.ID = uuid.New()
	}
	m := access.NewMember{ID: uuid.New(), Account: a.ID, Name: name, Title: i.Title, Role: i.Role, Groups: i.Groups}
	err = s.Doors.InClub(ctx, i.Club, func(ctx context.Context) error {
		used, err := s.Doors.Use(ctx, i.ID, s.Now())
		if err != nil {
			return err
		}
		if !used {
			return errOver
		}
		if !known {
			if err := s.Doors.NewAccount(ctx, a.ID, i.Email, name, hash); err != nil {
				return err
			}
		}
		return s.Doors.Join(ctx, m)
	})
	return a.ID, m.ID, err
}
