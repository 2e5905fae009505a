package mark

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
)

// API is the operations of marking.
type API struct{ Mark *Service }

// GetMarkSheet returns the sheet of a placed drill.
func (a API) GetMarkSheet(ctx context.Context, r gen.GetMarkSheetRequestObject) (gen.GetMarkSheetResponseObject, error) {
	v, err := a.Mark.Sheet(ctx, access.From(ctx), r.ID)
	return gen.GetMarkSheet200JSONResponse(v), err
}

// PostMarks records marks.
func (a API) PostMarks(ctx context.Context, r gen.PostMarksRequestObject) (gen.PostMarksResponseObject, error) {
	saved, err := a.Mark.Post(ctx, access.From(ctx), r.Body.Marks)
	return gen.PostMarks200JSONResponse{Saved: saved}, err
}
