package today

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
)

// API is the operation of Today.
type API struct{ Today *Service }

// GetToday returns what is next for a group.
func (a API) GetToday(ctx context.Context, r gen.GetTodayRequestObject) (gen.GetTodayResponseObject, error) {
	v, err := a.Today.Today(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.GetToday200JSONResponse(v), err
}
