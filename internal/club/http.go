package club

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
)

// Door lets people in.
type Door interface {
	// Named gives the session to who has an e-mail.
	Named(ctx context.Context, email string) error
	// Describe describes the session.
	Describe(ctx context.Context) (contract.Session, error)
}

// API is the operations of the club.
type API struct {
	Club *Service
	Door Door
}

// GetClub reads the club.
func (a API) GetClub(ctx context.Context, _ gen.GetClubRequestObject) (gen.GetClubResponseObject, error) {
	v, err := a.Club.View(ctx, access.From(ctx))
	return gen.GetClub200JSONResponse(v), err
}

// PutClub changes its name and time zone.
func (a API) PutClub(ctx context.Context, r gen.PutClubRequestObject) (gen.PutClubResponseObject, error) {
	return gen.PutClub204Response{}, a.Club.Rename(ctx, r.Body.Name, r.Body.Timezone)
}

// FoundClub makes the first club.
func (a API) FoundClub(ctx context.Context, r gen.FoundClubRequestObject) (gen.FoundClubResponseObject, error) {
	b := r.Body
	var id uuid.UUID
	id, err := a.Club.Begin(ctx, b.Word, access.Founding{Club: b.Club, Timezone: b.Timezone, SeasonStart: b.SeasonStart, Weeks: b.Weeks, Name: b.Name, Email: b.Email, Password: b.Password})
	if err != nil || id == uuid.Nil {
		return nil, err
	}
	if err := a.Door.Named(ctx, b.Email); err != nil {
		return nil, err
	}
	s, err := a.Door.Describe(ctx)
	return gen.FoundClub200JSONResponse{SessionJSONResponse: gen.SessionJSONResponse(s)}, err
}

// PutGroup adds a position group or changes one.
func (a API) PutGroup(ctx context.Context, r gen.PutGroupRequestObject) (gen.PutGroupResponseObject, error) {
	b := r.Body
	positions := []string{}
	for _, p := range b.Positions {
		positions = append(positions, strings.TrimSpace(p))
	}
	return gen.PutGroup204Response{}, a.Club.PutGroup(ctx, group.Group{Key: r.Group, Name: strings.TrimSpace(b.Name), Short: strings.TrimSpace(b.Short), Side: group.Side(b.Side), Positions: positions}, b.Place)
}

// DeleteGroup takes a group away.
func (a API) DeleteGroup(ctx context.Context, r gen.DeleteGroupRequestObject) (gen.DeleteGroupResponseObject, error) {
	return gen.DeleteGroup204Response{}, a.Club.DropGroup(ctx, r.Group)
}
