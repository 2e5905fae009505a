package mark

import (
	"cmp"
	"context"
	"net/http"

	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of marking.
type API struct{ Mark *Service }

// GetMarkSheet returns the sheet of a placed drill.
func (a API) GetMarkSheet(ctx context.Context, r gen.GetMarkSheetRequestObject) (gen.GetMarkSheetResponseObject, error) {
	v, err := a.Mark.Sheet(ctx, access.From(ctx), r.ID)
	return gen.GetMarkSheet200JSONResponse(v), err
}

// GetGameSheet returns the sheet of a game.
func (a API) GetGameSheet(ctx context.Context, r gen.GetGameSheetRequestObject) (gen.GetGameSheetResponseObject, error) {
	v, err := a.Mark.GameSheet(ctx, access.From(ctx), r.ID, r.Params.Group, contract.Value(r.Params.Blind))
	return gen.GetGameSheet200JSONResponse(v), err
}

// GetCut returns the plays of a cut-up.
func (a API) GetCut(ctx context.Context, r gen.GetCutRequestObject) (gen.GetCutResponseObject, error) {
	v, err := a.Mark.Cut(ctx, access.From(ctx), r.ID, r.Params.Group, r.Params.Cut, r.Params.Blind != nil && *r.Params.Blind)
	return gen.GetCut200JSONResponse(v), err
}

// GetAgreement returns how far two coaches graded alike.
func (a API) GetAgreement(ctx context.Context, r gen.GetAgreementRequestObject) (gen.GetAgreementResponseObject, error) {
	v, err := a.Mark.Agreement(ctx, access.From(ctx), r.ID, r.Params.Group, r.Params.A, r.Params.B)
	return gen.GetAgreement200JSONResponse(v), err
}

// GetUsual returns what players usually show first.
func (a API) GetUsual(ctx context.Context, r gen.GetUsualRequestObject) (gen.GetUsualResponseObject, error) {
	v, err := a.Mark.Usual(ctx, access.From(ctx), r.Group)
	return gen.GetUsual200JSONResponse(v), err
}

// GetQuestions returns what the coach is asked.
func (a API) GetQuestions(ctx context.Context, _ gen.GetQuestionsRequestObject) (gen.GetQuestionsResponseObject, error) {
	v, err := a.Mark.Questions(ctx, access.From(ctx))
	return gen.GetQuestions200JSONResponse(v), err
}

// attachment is a file that is taken away.
type attachment httpd.Attachment

// VisitExportMarksResponse writes the file.
func (f attachment) VisitExportMarksResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// VisitExportGradesResponse writes the file.
func (f attachment) VisitExportGradesResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

func file(name string, content []byte) attachment {
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}
}

// ExportMarks writes the marks of a game as a file.
func (a API) ExportMarks(ctx context.Context, r gen.ExportMarksRequestObject) (gen.ExportMarksResponseObject, error) {
	name, content, err := a.Mark.ExportMarks(ctx, access.From(ctx), r.ID, r.Params.Group, string(cmp.Or(contract.Value(r.Params.Format), "csv")))
	return file(name, content), err
}

// ExportGrades writes the grades of a game as a file.
func (a API) ExportGrades(ctx context.Context, r gen.ExportGradesRequestObject) (gen.ExportGradesResponseObject, error) {
	name, content, err := a.Mark.ExportGrades(ctx, access.From(ctx), r.ID, r.Params.Group, string(cmp.Or(contract.Value(r.Params.Format), "csv")))
	return file(name, content), err
}

// ReadMarkList reads a list of marks.
func (a API) ReadMarkList(ctx context.Context, r gen.ReadMarkListRequestObject) (gen.ReadMarkListResponseObject, error) {
	_, list, err := httpd.Upload(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := a.Mark.ReadMarks(ctx, access.From(ctx), r.ID, r.Params.Group, list)
	return gen.ReadMarkList200JSONResponse(v), err
}

// PostMarks records marks.
func (a API) PostMarks(ctx context.Context, r gen.PostMarksRequestObject) (gen.PostMarksResponseObject, error) {
	from := Sender{Device: httpd.Device(ctx), Sent: httpd.Sent(ctx)}
	posted, err := a.Mark.Post(ctx, access.From(ctx), from, r.Body.Marks)
	if err != nil {
		return nil, err
	}
	out := gen.PostMarks200JSONResponse{Saved: posted.Saved, Refused: []contract.MarkRefused{}}
	for _, x := range posted.Refused {
		said, ok := httpd.Meaning(x.Why)
		if !ok {
			return nil, x.Why
		}
		out.Refused = append(out.Refused, contract.MarkRefused{ID: x.ID, Status: said.Status, Title: said.Title, Detail: text(said.Detail), Field: text(said.Field)})
	}
	return out, nil
}

// GetScheme returns how the club judges a rep.
func (a API) GetScheme(ctx context.Context, _ gen.GetSchemeRequestObject) (gen.GetSchemeResponseObject, error) {
	v, err := a.Mark.SchemeView(ctx, access.From(ctx))
	return gen.GetScheme200JSONResponse(v), err
}

// PutScheme changes how the club judges a rep.
func (a API) PutScheme(ctx context.Context, r gen.PutSchemeRequestObject) (gen.PutSchemeResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	b := r.Body
	in := NewScheme{Group: contract.Value(b.Group), Own: b.Own == nil || *b.Own, Kind: marks.Kind(cmp.Or(contract.Value(b.Kind), "facets")), Max: contract.Value(b.Max), CleanAt: contract.Value(b.CleanAt), ByResult: contract.Value(b.ByResult), Facets: b.Facets}
	v, err := a.Mark.PutScheme(ctx, access.From(ctx), version, in)
	return gen.PutScheme200JSONResponse(v), err
}

// text is what is said of a part that may be left out.
func text(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}
