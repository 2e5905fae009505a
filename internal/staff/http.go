package staff

import (
	"context"

	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/post"
	"nineyard/internal/platform/problem"
)

// Door lets people in.
type Door interface {
	// Coach is who is signed in, outside of any operation that demands it.
	Signed(ctx context.Context) (access.Coach, bool, error)
	// As gives the session to an account as a member of a staff.
	As(ctx context.Context, account, member uuid.UUID) error
	// Describe describes the session.
	Describe(ctx context.Context) (contract.Session, error)
}

// API is the operations of the staff.
type API struct {
	Staff  *Service
	Door   Door
	Outbox *post.Outbox // of the demo; nil elsewhere
}

// GetStaff lists the staff.
func (a API) GetStaff(ctx context.Context, _ gen.GetStaffRequestObject) (gen.GetStaffResponseObject, error) {
	v, err := a.Staff.View(ctx, access.From(ctx))
	return gen.GetStaff200JSONResponse(v), err
}

// PutStaffRules says what the club demands of its staff.
func (a API) PutStaffRules(ctx context.Context, r gen.PutStaffRulesRequestObject) (gen.PutStaffRulesResponseObject, error) {
	return gen.PutStaffRules204Response{}, a.Staff.Store.SetRequireFactor(ctx, r.Body.RequireFactor)
}

// PutMember changes a member.
func (a API) PutMember(ctx context.Context, r gen.PutMemberRequestObject) (gen.PutMemberResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Staff.Put(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutMember200JSONResponse(v), err
}

// RemoveMember takes somebody off the staff.
func (a API) RemoveMember(ctx context.Context, r gen.RemoveMemberRequestObject) (gen.RemoveMemberResponseObject, error) {
	return gen.RemoveMember204Response{}, a.Staff.Remove(ctx, r.ID)
}

// EraseMember takes the name off of somebody who is on the staff no more.
func (a API) EraseMember(ctx context.Context, r gen.EraseMemberRequestObject) (gen.EraseMemberResponseObject, error) {
	return gen.EraseMember204Response{}, a.Staff.Erase(ctx, r.ID)
}

// EndMemberSessions ends all sessions of a member.
func (a API) EndMemberSessions(ctx context.Context, r gen.EndMemberSessionsRequestObject) (gen.EndMemberSessionsResponseObject, error) {
	return gen.EndMemberSessions204Response{}, a.Staff.EndSessions(ctx, r.ID)
}

// Invite asks somebody onto the staff.
func (a API) Invite(ctx context.Context, r gen.InviteRequestObject) (gen.InviteResponseObject, error) {
	b := r.Body
	v, err := a.Staff.Invite(ctx, access.From(ctx), Invite{ID: r.ID, Email: b.Email, Name: b.Name, Title: b.Title, Role: string(b.Role), Groups: b.Groups}, b.Secret)
	return gen.Invite200JSONResponse(v), err
}

// RevokeInvite takes a link back.
func (a API) RevokeInvite(ctx context.Context, r gen.RevokeInviteRequestObject) (gen.RevokeInviteResponseObject, error) {
	return gen.RevokeInvite204Response{}, a.Staff.Revoke(ctx, r.ID)
}

// LookAtInvite says what a link offers.
func (a API) LookAtInvite(ctx context.Context, r gen.LookAtInviteRequestObject) (gen.LookAtInviteResponseObject, error) {
	c, _, err := a.Door.Signed(ctx)
	if err != nil {
		return nil, err
	}
	v, err := a.Staff.Look(ctx, r.Body.Secret, c.Account)
	return gen.LookAtInvite200JSONResponse(v), err
}

// Join comes onto the staff by a link, and in. An account that owes a second factor has shown it when it signed in.
func (a API) Join(ctx context.Context, r gen.JoinRequestObject) (gen.JoinResponseObject, error) {
	c, _, err := a.Door.Signed(ctx)
	if err != nil {
		return nil, err
	}
	account, member, err := a.Staff.Join(ctx, r.Body.Secret, contract.Value(r.Body.Name), contract.Value(r.Body.Password), c.Account)
	if err != nil {
		return nil, err
	}
	if err := a.Door.As(ctx, account, member); err != nil {
		return nil, err
	}
	s, err := a.Door.Describe(ctx)
	return gen.Join200JSONResponse{SessionJSONResponse: gen.SessionJSONResponse(s)}, err
}

// GetOutbox lists the letters of the demo.
func (a API) GetOutbox(ctx context.Context, _ gen.GetOutboxRequestObject) (gen.GetOutboxResponseObject, error) {
	if a.Outbox == nil {
		return nil, problem.ErrNotFound
	}
	letters, err := a.Outbox.Letters(ctx)
	out := gen.GetOutbox200JSONResponse{}
	for _, l := range letters {
		out = append(out, contract.Letter{ID: l.ID, To: l.To, Subject: l.Subject, Body: l.Body, At: l.At})
	}
	return out, err
}
