package today

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
)

// API is the operations of Today.
type API struct{ Today *Service }

// GetToday returns what is next for a group.
func (a API) GetToday(ctx context.Context, r gen.GetTodayRequestObject) (gen.GetTodayResponseObject, error) {
	v, err := a.Today.Today(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.GetToday200JSONResponse(v), err
}

// GetSuggestions says which drills to look at.
func (a API) GetSuggestions(ctx context.Context, r gen.GetSuggestionsRequestObject) (gen.GetSuggestionsResponseObject, error) {
	v, err := a.Today.Suggestions(ctx, access.From(ctx), r.Group, r.ID)
	return gen.GetSuggestions200JSONResponse(v), err
}

// GetLoad says what a week asks of every player.
func (a API) GetLoad(ctx context.Context, r gen.GetLoadRequestObject) (gen.GetLoadResponseObject, error) {
	v, err := a.Today.Load(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.GetLoad200JSONResponse(v), err
}

// AskLate says what it costs to shorten periods.
func (a API) AskLate(ctx context.Context, r gen.AskLateRequestObject) (gen.AskLateResponseObject, error) {
	v, err := a.Today.Late(ctx, access.From(ctx), r.ID, r.Body.Cuts)
	return gen.AskLate200JSONResponse(v), err
}
