package players

import (
	"context"

	"nineyard/core/standard"
	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
)

// API is the operations of the players' development.
type API struct{ Players *Service }

// ListPlayers returns the matrix.
func (a API) ListPlayers(ctx context.Context, r gen.ListPlayersRequestObject) (gen.ListPlayersResponseObject, error) {
	v, err := a.Players.Matrix(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.ListPlayers200JSONResponse(v), err
}

// GetTechniqueForm returns how the group does a technique.
func (a API) GetTechniqueForm(ctx context.Context, r gen.GetTechniqueFormRequestObject) (gen.GetTechniqueFormResponseObject, error) {
	v, err := a.Players.TechniqueForm(ctx, access.From(ctx), r.Group, r.Key, r.Params.Week)
	return gen.GetTechniqueForm200JSONResponse(v), err
}

// GetPlayer returns one player's sheet.
func (a API) GetPlayer(ctx context.Context, r gen.GetPlayerRequestObject) (gen.GetPlayerResponseObject, error) {
	v, err := a.Players.Sheet(ctx, access.From(ctx), r.ID, r.Params.Group, r.Params.Week)
	return gen.GetPlayer200JSONResponse(v), err
}

// GetEvidence returns the reps behind a number.
func (a API) GetEvidence(ctx context.Context, r gen.GetEvidenceRequestObject) (gen.GetEvidenceResponseObject, error) {
	asked := Asked{Group: r.Params.Group, Week: r.Params.Week}
	for to, from := range map[*string]*string{&asked.Technique: r.Params.Technique, &asked.Fault: r.Params.Fault, &asked.After: r.Params.After} {
		if from != nil {
			*to = *from
		}
	}
	v, err := a.Players.Evidence(ctx, access.From(ctx), r.ID, asked)
	return gen.GetEvidence200JSONResponse(v), err
}

// GetBoard returns the group on its ladders.
func (a API) GetBoard(ctx context.Context, r gen.GetBoardRequestObject) (gen.GetBoardResponseObject, error) {
	v, err := a.Players.Board(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.GetBoard200JSONResponse(v), err
}

// AddOverride records a coach's word.
func (a API) AddOverride(ctx context.Context, r gen.AddOverrideRequestObject) (gen.AddOverrideResponseObject, error) {
	return gen.AddOverride204Response{}, a.Players.AddOverride(ctx, access.From(ctx), r.ID, r.Body.ID, r.Body.Ladder, r.Body.Stage, r.Body.Reason)
}

// WithdrawOverride takes a coach's word back.
func (a API) WithdrawOverride(ctx context.Context, r gen.WithdrawOverrideRequestObject) (gen.WithdrawOverrideResponseObject, error) {
	return gen.WithdrawOverride204Response{}, a.Players.WithdrawOverride(ctx, access.From(ctx), r.ID)
}

// PutOwnRange gives a player a range of his own.
func (a API) PutOwnRange(ctx context.Context, r gen.PutOwnRangeRequestObject) (gen.PutOwnRangeResponseObject, error) {
	own := standard.OwnRange{OK: standard.Band{Low: r.Body.OkLow, High: r.Body.OkHigh}, Watch: standard.Band{Low: r.Body.WatchLow, High: r.Body.WatchHigh}}
	return gen.PutOwnRange204Response{}, a.Players.PutRange(ctx, access.From(ctx), r.ID, r.Checkpoint, r.Body.ID, own, r.Body.Reason)
}

// WithdrawOwnRange takes it back.
func (a API) WithdrawOwnRange(ctx context.Context, r gen.WithdrawOwnRangeRequestObject) (gen.WithdrawOwnRangeResponseObject, error) {
	return gen.WithdrawOwnRange204Response{}, a.Players.WithdrawRange(ctx, access.From(ctx), r.ID, r.Checkpoint)
}
