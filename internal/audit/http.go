package audit

import (
	"context"
	"net/http"

	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of the audit.
type API struct{ Audit *Service }

func value[S ~string](s *S) string {
	if s == nil {
		return ""
	}
	return string(*s)
}

// GetAudit reads a page of the log.
func (a API) GetAudit(ctx context.Context, r gen.GetAuditRequestObject) (gen.GetAuditResponseObject, error) {
	p := r.Params
	f := Filter{Person: id(p.Person), Kind: value(p.Kind), From: value(p.From), To: value(p.To)}
	if p.Before != nil {
		f.Before = *p.Before
	}
	v, err := a.Audit.View(ctx, access.From(ctx), f)
	return gen.GetAudit200JSONResponse(v), err
}

func id(p *uuid.UUID) *uuid.UUID { return p }

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportAuditResponse writes the file.
func (f attachment) VisitExportAuditResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportAudit writes the log as a file.
func (a API) ExportAudit(ctx context.Context, r gen.ExportAuditRequestObject) (gen.ExportAuditResponseObject, error) {
	p := r.Params
	name, content, err := a.Audit.Export(ctx, access.From(ctx), value(p.Format), Filter{Person: id(p.Person), Kind: value(p.Kind), From: value(p.From), To: value(p.To)})
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}
