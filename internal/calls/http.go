package calls

import (
	"context"
	"net/http"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of calls.
type API struct{ Calls *Service }

// GetCalls lists the calls.
func (a API) GetCalls(ctx context.Context, _ gen.GetCallsRequestObject) (gen.GetCallsResponseObject, error) {
	v, err := a.Calls.Calls(ctx, access.From(ctx))
	return gen.GetCalls200JSONResponse(v), err
}

// PutCall writes a call.
func (a API) PutCall(ctx context.Context, r gen.PutCallRequestObject) (gen.PutCallResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Calls.PutCall(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutCall200JSONResponse(v), err
}

// DeleteCall takes a call out.
func (a API) DeleteCall(ctx context.Context, r gen.DeleteCallRequestObject) (gen.DeleteCallResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Calls.DeleteCall(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteCall200JSONResponse(v), err
}

// ReadTypedCalls reads calls that were typed.
func (a API) ReadTypedCalls(ctx context.Context, r gen.ReadTypedCallsRequestObject) (gen.ReadTypedCallsResponseObject, error) {
	v, err := a.Calls.Typed(ctx, access.From(ctx), r.Body.Text)
	return gen.ReadTypedCalls200JSONResponse(v), err
}

// ReadCallList reads a list of calls.
func (a API) ReadCallList(ctx context.Context, r gen.ReadCallListRequestObject) (gen.ReadCallListResponseObject, error) {
	_, file, err := httpd.Upload(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := a.Calls.List(ctx, access.From(ctx), file)
	return gen.ReadCallList200JSONResponse(v), err
}

// attachment is a file that is taken away.
type attachment httpd.Attachment

// VisitExportCallsResponse writes the file.
func (f attachment) VisitExportCallsResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportCalls writes the calls as a file.
func (a API) ExportCalls(ctx context.Context, r gen.ExportCallsRequestObject) (gen.ExportCallsResponseObject, error) {
	format := "csv"
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	name, content, err := a.Calls.Export(ctx, access.From(ctx), format)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// GetLineUp returns a group's line-up.
func (a API) GetLineUp(ctx context.Context, r gen.GetLineUpRequestObject) (gen.GetLineUpResponseObject, error) {
	v, err := a.Calls.LineUp(ctx, access.From(ctx), r.Group, r.Params.Week)
	return gen.GetLineUp200JSONResponse(v), err
}

// PutLineUp writes a group's line-up.
func (a API) PutLineUp(ctx context.Context, r gen.PutLineUpRequestObject) (gen.PutLineUpResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Calls.PutLineUp(ctx, access.From(ctx), r.Group, r.Params.Week, version, *r.Body)
	return gen.PutLineUp200JSONResponse(v), err
}

// GetReadiness says whether the calls will be ready.
func (a API) GetReadiness(ctx context.Context, r gen.GetReadinessRequestObject) (gen.GetReadinessResponseObject, error) {
	v, err := a.Calls.Readiness(ctx, access.From(ctx), r.Params.Group, r.Params.Week)
	return gen.GetReadiness200JSONResponse(v), err
}

// GetCallReadiness says player by player how ready a call is.
func (a API) GetCallReadiness(ctx context.Context, r gen.GetCallReadinessRequestObject) (gen.GetCallReadinessResponseObject, error) {
	v, err := a.Calls.Detail(ctx, access.From(ctx), r.ID, r.Params.Week)
	return gen.GetCallReadiness200JSONResponse(v), err
}
