package bundle

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of bundles.
type API struct{ Bundle *Service }

// ExportBundle returns a game's film work.
func (a API) ExportBundle(ctx context.Context, r gen.ExportBundleRequestObject) (gen.ExportBundleResponseObject, error) {
	v, err := a.Bundle.Export(ctx, access.From(ctx), r.ID)
	return gen.ExportBundle200JSONResponse(v), err
}

// ImportBundle takes a game's film work in.
func (a API) ImportBundle(ctx context.Context, r gen.ImportBundleRequestObject) (gen.ImportBundleResponseObject, error) {
	_, file, err := httpd.Upload(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := a.Bundle.Import(ctx, access.From(ctx), r.ID, file)
	return gen.ImportBundle200JSONResponse(v), err
}
