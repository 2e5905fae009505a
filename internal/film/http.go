package film

import (
	"context"
	"net/http"
	"strings"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of the film room.
type API struct{ Film *Service }

// GetGamePlays returns a game with its plays.
func (a API) GetGamePlays(ctx context.Context, r gen.GetGamePlaysRequestObject) (gen.GetGamePlaysResponseObject, error) {
	v, err := a.Film.GamePlays(ctx, access.From(ctx), r.ID)
	return gen.GetGamePlays200JSONResponse(v), err
}

// PutPlay writes a play.
func (a API) PutPlay(ctx context.Context, r gen.PutPlayRequestObject) (gen.PutPlayResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.PutPlay(ctx, access.From(ctx), r.ID, r.Play, version, *r.Body)
	return gen.PutPlay200JSONResponse(v), err
}

// DeletePlay takes a play out.
func (a API) DeletePlay(ctx context.Context, r gen.DeletePlayRequestObject) (gen.DeletePlayResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.DeletePlay(ctx, access.From(ctx), r.ID, r.Play, version)
	return gen.DeletePlay200JSONResponse(v), err
}

// GetPlayHistory returns what was corrected on a play.
func (a API) GetPlayHistory(ctx context.Context, r gen.GetPlayHistoryRequestObject) (gen.GetPlayHistoryResponseObject, error) {
	v, err := a.Film.History(ctx, r.ID, r.Play)
	return gen.GetPlayHistory200JSONResponse(v), err
}

// GetLabelWords returns the words under the labels.
func (a API) GetLabelWords(ctx context.Context, _ gen.GetLabelWordsRequestObject) (gen.GetLabelWordsResponseObject, error) {
	v, err := a.Film.LabelWords(ctx)
	return gen.GetLabelWords200JSONResponse(v), err
}

// PutLabelWord says what another word means.
func (a API) PutLabelWord(ctx context.Context, r gen.PutLabelWordRequestObject) (gen.PutLabelWordResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.PutLabelWord(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutLabelWord200JSONResponse(v), err
}

// DeleteLabelWord forgets another word.
func (a API) DeleteLabelWord(ctx context.Context, r gen.DeleteLabelWordRequestObject) (gen.DeleteLabelWordResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.DeleteLabelWord(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteLabelWord200JSONResponse(v), err
}

// ListCutUps returns the cut-ups that a group keeps.
func (a API) ListCutUps(ctx context.Context, r gen.ListCutUpsRequestObject) (gen.ListCutUpsResponseObject, error) {
	v, err := a.Film.CutUps(ctx, access.From(ctx), r.Group)
	return gen.ListCutUps200JSONResponse(v), err
}

// PutCutUp keeps a cut-up.
func (a API) PutCutUp(ctx context.Context, r gen.PutCutUpRequestObject) (gen.PutCutUpResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.PutCutUp(ctx, access.From(ctx), r.Group, r.ID, version, *r.Body)
	return gen.PutCutUp200JSONResponse(v), err
}

// DeleteCutUp forgets a cut-up.
func (a API) DeleteCutUp(ctx context.Context, r gen.DeleteCutUpRequestObject) (gen.DeleteCutUpResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Film.DeleteCutUp(ctx, access.From(ctx), r.Group, r.ID, version)
	return gen.DeleteCutUp200JSONResponse(v), err
}

// ReadPlayList reads a list of plays.
func (a API) ReadPlayList(ctx context.Context, r gen.ReadPlayListRequestObject) (gen.ReadPlayListResponseObject, error) {
	_, file, err := httpd.Upload(r.Body)
	if err != nil {
		return nil, err
	}
	columns := map[string]string{}
	if r.Params.Columns != nil {
		for _, pair := range *r.Params.Columns {
			name, header, ok := strings.Cut(pair, "=")
			if !ok {
				return nil, invalid.Field("columns", "which header stands for what is written Gain=Yds, not %q", pair)
			}
			columns[name] = header
		}
	}
	v, err := a.Film.List(ctx, access.From(ctx), r.ID, group.Side(r.Params.Unit), columns, file)
	return gen.ReadPlayList200JSONResponse(v), err
}

// attachment is a file that is taken away.
type attachment httpd.Attachment

// VisitExportPlaysResponse writes the file.
func (f attachment) VisitExportPlaysResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportPlays writes the plays as a file.
func (a API) ExportPlays(ctx context.Context, r gen.ExportPlaysRequestObject) (gen.ExportPlaysResponseObject, error) {
	format := "csv"
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	name, content, err := a.Film.Export(ctx, r.ID, format)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}
