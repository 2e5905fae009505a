package tell

import (
	"context"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of telling.
type API struct{ Tell *Service }

// ListFeedback returns what each player is told, in a line.
func (a API) ListFeedback(ctx context.Context, r gen.ListFeedbackRequestObject) (gen.ListFeedbackResponseObject, error) {
	v, err := a.Tell.List(ctx, access.From(ctx), r.ID, r.Params.Group)
	return gen.ListFeedback200JSONResponse(v), err
}

// GetFeedback returns what a player is told.
func (a API) GetFeedback(ctx context.Context, r gen.GetFeedbackRequestObject) (gen.GetFeedbackResponseObject, error) {
	v, err := a.Tell.Feedback(ctx, access.From(ctx), r.ID, r.Params.Group, r.Player)
	return gen.GetFeedback200JSONResponse(v), err
}

// PutFeedback writes what a player is told.
func (a API) PutFeedback(ctx context.Context, r gen.PutFeedbackRequestObject) (gen.PutFeedbackResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Tell.PutFeedback(ctx, access.From(ctx), r.ID, r.Params.Group, r.Player, version, *r.Body)
	return gen.PutFeedback200JSONResponse(v), err
}

// DeleteFeedback lets it be as proposed.
func (a API) DeleteFeedback(ctx context.Context, r gen.DeleteFeedbackRequestObject) (gen.DeleteFeedbackResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Tell.DeleteFeedback(ctx, access.From(ctx), r.ID, r.Params.Group, r.Player, version)
	return gen.DeleteFeedback200JSONResponse(v), err
}

// GetMeeting returns what a group looks at.
func (a API) GetMeeting(ctx context.Context, r gen.GetMeetingRequestObject) (gen.GetMeetingResponseObject, error) {
	v, err := a.Tell.Meeting(ctx, access.From(ctx), r.ID, r.Params.Group)
	return gen.GetMeeting200JSONResponse(v), err
}

// PutMeeting writes what a group looks at.
func (a API) PutMeeting(ctx context.Context, r gen.PutMeetingRequestObject) (gen.PutMeetingResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Tell.PutMeeting(ctx, access.From(ctx), r.ID, r.Params.Group, version, r.Body.Items)
	return gen.PutMeeting200JSONResponse(v), err
}
