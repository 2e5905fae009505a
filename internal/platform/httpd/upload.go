package httpd

import (
	"io"
	"mime/multipart"
	"net/http"

	"nineyard/core/invalid"
	"nineyard/core/legible"
)

// Upload reads the form of an upload: one file and the fields named. The body was read
// whole and bounded before (see takes), so the file is held in memory and never on disk.
// Other fields, fields that are no text and anything but one file are invalid.Errors.
func Upload(form *multipart.Reader, fields ...string) (map[string]string, io.Reader, error) {
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
		if r, ok := legible.Text(list[0]); !ok {
			return nil, nil, invalid.Field(name, "%s", unseen(r))
		}
		out[name] = list[0]
	}
	files := values.File["file"]
	if len(files) != 1 || len(values.File) != 1 {
		return nil, nil, invalid.Field("file", "choose one file")
	}
	file, err := files[0].Open() // in memory: closing is left to the collector
	return out, file, err
}

// Attachment answers with a file to keep.
type Attachment struct {
	Kind, Name string
	Content    []byte
}

// Write writes the file.
func (f Attachment) Write(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", f.Kind)
	w.Header().Set("Content-Disposition", `attachment; filename="`+f.Name+`"`)
	w.WriteHeader(http.StatusOK)
	_, err := w.Write(f.Content)
	return err
}
