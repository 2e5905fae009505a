package httpapi

import (
	"context"
	"errors"
	"io"
	"mime/multipart"
	"net/http"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/app"
	"nineyard/internal/httpapi/gen"
	"nineyard/library"
)

func (h *handlers) FindInLibrary(ctx context.Context, r gen.FindInLibraryRequestObject) (gen.FindInLibraryResponseObject, error) {
	v, err := h.service.Find(ctx, actor(ctx), r.Params.Q, r.Params.Group)
	return gen.FindInLibrary200JSONResponse(v), err
}

func (h *handlers) GetHouse(ctx context.Context, _ gen.GetHouseRequestObject) (gen.GetHouseResponseObject, error) {
	v, err := h.service.HouseOf(ctx, actor(ctx))
	return gen.GetHouse200JSONResponse(v), err
}

func (h *handlers) GetEntry(ctx context.Context, r gen.GetEntryRequestObject) (gen.GetEntryResponseObject, error) {
	v, err := h.service.Entry(ctx, actor(ctx), string(r.Kind), r.Key)
	return gen.GetEntry200JSONResponse(v), err
}

func (h *handlers) PutEntry(ctx context.Context, r gen.PutEntryRequestObject) (gen.PutEntryResponseObject, error) {
	in := app.EntryChange{ID: r.Body.ID, Version: r.Body.Version, Retired: r.Body.Retired, Note: text(r.Body.Note)}
	if r.Body.Fields != nil {
		in.Fields = *r.Body.Fields
	}
	v, err := h.service.PutEntry(ctx, actor(ctx), string(r.Kind), r.Key, in)
	var conflict *app.EntryConflict
	if errors.As(err, &conflict) {
		detail := "Both versions are shown; nothing of yours is lost."
		return gen.PutEntry409ApplicationProblemPlusJSONResponse{Status: http.StatusConflict, Title: conflict.Error(), Detail: &detail, Current: conflict.Current}, nil
	}
	return gen.PutEntry200JSONResponse(v), err
}

func (h *handlers) RestoreHouse(ctx context.Context, r gen.RestoreHouseRequestObject) (gen.RestoreHouseResponseObject, error) {
	v, err := h.service.RestoreHouse(ctx, actor(ctx), r.Version, r.Body.ID)
	return gen.RestoreHouse200JSONResponse(v), err
}

// attachment answers with a file to keep.
type attachment struct {
	kind, name string
	content    []byte
}

// VisitExportLibraryResponse writes the file.
func (f attachment) VisitExportLibraryResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetLibrarySchemaResponse writes the file.
func (f attachment) VisitGetLibrarySchemaResponse(w http.ResponseWriter) error { return f.write(w) }

func (f attachment) write(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", f.kind)
	w.Header().Set("Content-Disposition", `attachment; filename="`+f.name+`"`)
	w.WriteHeader(http.StatusOK)
	_, err := w.Write(f.content)
	return err
}

func (h *handlers) ExportLibrary(ctx context.Context, r gen.ExportLibraryRequestObject) (gen.ExportLibraryResponseObject, error) {
	var format, kind string
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	if r.Params.Kind != nil {
		kind = string(*r.Params.Kind)
	}
	name, content, err := h.service.ExportLibrary(actor(ctx), format, kind, text(r.Params.Key))
	return attachment{"application/octet-stream", name, content}, err
}

func (h *handlers) GetLibrarySchema(_ context.Context, _ gen.GetLibrarySchemaRequestObject) (gen.GetLibrarySchemaResponseObject, error) {
	return attachment{"application/schema+json", "teaching-library.schema.json", library.Schema()}, nil
}

func (h *handlers) PreviewLibrary(ctx context.Context, r gen.PreviewLibraryRequestObject) (gen.PreviewLibraryResponseObject, error) {
	f, err := libraryFile(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := h.service.PreviewLibrary(actor(ctx), f)
	return gen.PreviewLibrary200JSONResponse(v), err
}

func (h *handlers) ImportLibrary(ctx context.Context, r gen.ImportLibraryRequestObject) (gen.ImportLibraryResponseObject, error) {
	f, err := libraryFile(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := h.service.ImportLibrary(ctx, actor(ctx), f)
	return gen.ImportLibrary200JSONResponse(v), err
}

func libraryFile(form *multipart.Reader) (app.LibraryFile, error) {
	var f app.LibraryFile
	values, file, err := upload(form, "id", "take")
	if err != nil {
		return f, err
	}
	f.File, f.Take = file, values["take"]
	if text := values["id"]; text != "" {
		if f.ID, err = uuid.Parse(text); err != nil {
			return f, invalid.Field("id", "%q is not an id", text)
		}
	}
	return f, nil
}

// upload reads the form of an upload: one file and the fields named. The file is held in
// memory, never on disk; limitBody bounds it.
func upload(form *multipart.Reader, fields ...string) (map[string]string, io.Reader, error) {
	values, err := form.ReadForm(maxUpload)
	if err != nil {
		return nil, nil, badRequest{err}
	}
	defer func() { _ = values.RemoveAll() }()
	out := map[string]string{}
	for name, list := range values.Value {
		known := false
		for _, f := range fields {
			known = known || f == name
		}
		if !known {
			return nil, nil, invalid.Field(name, "%s is not a field here", name)
		}
		out[name] = list[0]
	}
	files := values.File["file"]
	if len(files) != 1 || len(values.File) != 1 {
		return nil, nil, invalid.Field("file", "choose one file")
	}
	// ReadForm keeps files below its limit in memory, so closing is left to the collector.
	file, err := files[0].Open()
	return out, file, err
}
