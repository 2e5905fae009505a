package audit

import (
	"context"
	"net/http"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of the audit.
type API struct{ Audit *Service }

// GetAudit reads a page of the log.
func (a API) GetAudit(ctx context.Context, r gen.GetAuditRequestObject) (gen.GetAuditResponseObject, error) {
	p := r.Params
	v, err := a.Audit.View(ctx, access.From(ctx), Filter{Person: p.Person, Kind: string(contract.Value(p.Kind)), From: contract.Value(p.From), To: contract.Value(p.To), Before: contract.Value(p.Before)})
	return gen.GetAudit200JSONResponse(v), err
}

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportAuditResponse writes the file.
func (f attachment) VisitExportAuditResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportAudit writes the log as a file.
func (a API) ExportAudit(ctx context.Context, r gen.ExportAuditRequestObject) (gen.ExportAuditResponseObject, error) {
	p := r.Params
	name, content, err := a.Audit.Export(ctx, access.From(ctx), string(contract.Value(p.Format)), Filter{Person: p.Person, Kind: string(contract.Value(p.Kind)), From: contract.Value(p.From), To: contract.Value(p.To)})
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}
