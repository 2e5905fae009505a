package find

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
)

// API is the operation of finding.
type API struct{ Find *Service }

// FindInLibrary looks entries up.
func (a API) FindInLibrary(ctx context.Context, r gen.FindInLibraryRequestObject) (gen.FindInLibraryResponseObject, error) {
	v, err := a.Find.Find(ctx, access.From(ctx), r.Params.Q, r.Params.Group)
	return gen.FindInLibrary200JSONResponse(v), err
}
