package privacy

import (
	"context"
	"net/http"

	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of what is kept of people.
type API struct{ Privacy *Service }

// GetRetention reads for how long things are kept.
func (a API) GetRetention(ctx context.Context, _ gen.GetRetentionRequestObject) (gen.GetRetentionResponseObject, error) {
	v, err := a.Privacy.Store.Retention(ctx)
	return gen.GetRetention200JSONResponse(v), err
}

// PutRetention changes it.
func (a API) PutRetention(ctx context.Context, r gen.PutRetentionRequestObject) (gen.PutRetentionResponseObject, error) {
	return gen.PutRetention204Response{}, a.Privacy.Store.SetRetention(ctx, contract.Retention{Archived: r.Body.Archived, Spells: r.Body.Spells, Changes: r.Body.Changes})
}

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportPersonResponse writes the file.
func (f attachment) VisitExportPersonResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportPerson writes everything that is kept of a player.
func (a API) ExportPerson(ctx context.Context, r gen.ExportPersonRequestObject) (gen.ExportPersonResponseObject, error) {
	name, content, err := a.Privacy.Export(ctx, r.ID)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// ErasePerson takes everything away by which a player is known.
func (a API) ErasePerson(ctx context.Context, r gen.ErasePersonRequestObject) (gen.ErasePersonResponseObject, error) {
	return gen.ErasePerson204Response{}, a.Privacy.Erase(ctx, r.ID, r.Body.KeepMarks, r.Body.LastName)
}
