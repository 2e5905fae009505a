package teach

import (
	"context"
	"mime/multipart"
	"net/http"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
	"nineyard/library"
)

// API is the operations of teaching.
type API struct{ Teach *Service }

// GetLibrary returns what is taught to a group.
func (a API) GetLibrary(ctx context.Context, r gen.GetLibraryRequestObject) (gen.GetLibraryResponseObject, error) {
	v, err := a.Teach.LibraryOf(ctx, access.From(ctx), r.Group)
	return gen.GetLibrary200JSONResponse(v), err
}

// GetDrill returns a drill's page.
func (a API) GetDrill(ctx context.Context, r gen.GetDrillRequestObject) (gen.GetDrillResponseObject, error) {
	v, err := a.Teach.DrillPage(ctx, access.From(ctx), r.Group, r.Drill, r.Params.Minutes, r.Params.Lanes)
	return gen.GetDrill200JSONResponse(v), err
}

// GetHouse returns what the club changed.
func (a API) GetHouse(ctx context.Context, _ gen.GetHouseRequestObject) (gen.GetHouseResponseObject, error) {
	v, err := a.Teach.HouseOf(ctx, access.From(ctx))
	return gen.GetHouse200JSONResponse(v), err
}

// GetEntry returns one entry with its history.
func (a API) GetEntry(ctx context.Context, r gen.GetEntryRequestObject) (gen.GetEntryResponseObject, error) {
	v, err := a.Teach.Entry(ctx, access.From(ctx), string(r.Kind), r.Key)
	return gen.GetEntry200JSONResponse(v), err
}

// PutEntry changes, adds or retires an entry.
func (a API) PutEntry(ctx context.Context, r gen.PutEntryRequestObject) (gen.PutEntryResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	in := EntryChange{ID: r.Body.ID, Version: version, Retired: r.Body.Retired}
	if r.Body.Note != nil {
		in.Note = *r.Body.Note
	}
	if r.Body.Fields != nil {
		in.Fields = *r.Body.Fields
	}
	v, err := a.Teach.PutEntry(ctx, access.From(ctx), string(r.Kind), r.Key, in)
	return gen.PutEntry200JSONResponse(v), err
}

// CheckEntry says what an entry as it is being typed would break.
func (a API) CheckEntry(ctx context.Context, r gen.CheckEntryRequestObject) (gen.CheckEntryResponseObject, error) {
	v, err := a.Teach.CheckEntry(ctx, access.From(ctx), string(r.Kind), r.Key, r.Body.Fields)
	return gen.CheckEntry200JSONResponse(v), err
}

// RestoreHouse goes back to a version.
func (a API) RestoreHouse(ctx context.Context, r gen.RestoreHouseRequestObject) (gen.RestoreHouseResponseObject, error) {
	v, err := a.Teach.RestoreHouse(ctx, access.From(ctx), r.Version, r.Body.ID)
	return gen.RestoreHouse200JSONResponse(v), err
}

// ListVersions lists the versions of the house.
func (a API) ListVersions(ctx context.Context, r gen.ListVersionsRequestObject) (gen.ListVersionsResponseObject, error) {
	before := 0
	if r.Params.Before != nil {
		before = *r.Params.Before
	}
	page, err := a.Teach.Versions(ctx, before)
	return gen.ListVersions200JSONResponse(page), err
}

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportLibraryResponse writes the file.
func (f attachment) VisitExportLibraryResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// VisitGetLibrarySchemaResponse writes the file.
func (f attachment) VisitGetLibrarySchemaResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportLibrary writes what is taught, or a part of it, as a file.
func (a API) ExportLibrary(ctx context.Context, r gen.ExportLibraryRequestObject) (gen.ExportLibraryResponseObject, error) {
	var format, kind, key string
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	if r.Params.Kind != nil {
		kind = string(*r.Params.Kind)
	}
	if r.Params.Key != nil {
		key = *r.Params.Key
	}
	name, content, err := a.Teach.ExportLibrary(ctx, access.From(ctx), format, kind, key)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// GetLibrarySchema returns the schema of library files.
func (API) GetLibrarySchema(context.Context, gen.GetLibrarySchemaRequestObject) (gen.GetLibrarySchemaResponseObject, error) {
	return attachment{Kind: "application/schema+json", Name: "teaching-library.schema.json", Content: library.Schema()}, nil
}

// PreviewLibrary says what taking a file in would change.
func (a API) PreviewLibrary(ctx context.Context, r gen.PreviewLibraryRequestObject) (gen.PreviewLibraryResponseObject, error) {
	f, err := fileOf(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := a.Teach.PreviewLibrary(ctx, access.From(ctx), f)
	return gen.PreviewLibrary200JSONResponse(v), err
}

// ImportLibrary takes entries of a file in.
func (a API) ImportLibrary(ctx context.Context, r gen.ImportLibraryRequestObject) (gen.ImportLibraryResponseObject, error) {
	f, err := fileOf(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := a.Teach.ImportLibrary(ctx, access.From(ctx), f)
	return gen.ImportLibrary200JSONResponse(v), err
}

// maxTake is the longest list of entries to take in, in bytes; the contract says so too.
const maxTake = 200_000

func fileOf(form *multipart.Reader) (LibraryFile, error) {
	var f LibraryFile
	values, file, err := httpd.Upload(form, "id", "take")
	if err != nil {
		return f, err
	}
	f.File, f.Take = file, values["take"]
	if len(f.Take) > maxTake {
		return f, invalid.Field("take", "the list of entries is longer than %d bytes", maxTake)
	}
	if text := values["id"]; text != "" {
		if f.ID, err = uuid.Parse(text); err != nil {
			return f, invalid.Field("id", "%q is not an id", text)
		}
	}
	return f, nil
}
