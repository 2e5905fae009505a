package plan

import (
	"bytes"
	"context"
	"errors"
	"net/http"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of planning.
type API struct{ Plan *Service }

// Word says what an error of planning means.
func Word(err error) (httpd.Said, bool) {
	if errors.Is(err, ErrNoPractice) {
		return httpd.Said{Status: http.StatusUnprocessableEntity, Title: "No practice to come has an individual period of this group", Field: "group"}, true
	}
	return httpd.Said{}, false
}

// GetFrame returns what holds for every screen.
func (a API) GetFrame(ctx context.Context, _ gen.GetFrameRequestObject) (gen.GetFrameResponseObject, error) {
	v, err := a.Plan.Frame(ctx, access.From(ctx))
	return gen.GetFrame200JSONResponse(v), err
}

// GetPractice returns a practice.
func (a API) GetPractice(ctx context.Context, r gen.GetPracticeRequestObject) (gen.GetPracticeResponseObject, error) {
	v, err := a.Plan.Practice(ctx, access.From(ctx), r.ID, r.Params.Group)
	return gen.GetPractice200JSONResponse(v), err
}

// GetRotation returns the rotation of a placed drill.
func (a API) GetRotation(ctx context.Context, r gen.GetRotationRequestObject) (gen.GetRotationResponseObject, error) {
	v, err := a.Plan.Rotation(ctx, access.From(ctx), r.ID, r.Placement)
	return gen.GetRotation200JSONResponse(v), err
}

// PutPlacements replaces the drills of a period.
func (a API) PutPlacements(ctx context.Context, r gen.PutPlacementsRequestObject) (gen.PutPlacementsResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutPlacements(ctx, access.From(ctx), r.ID, word(r.Params.Group), version, *r.Body)
	return gen.PutPlacements200JSONResponse(v), err
}

// PreviewReps returns the reps of drills that are not saved.
func (a API) PreviewReps(ctx context.Context, r gen.PreviewRepsRequestObject) (gen.PreviewRepsResponseObject, error) {
	v, err := a.Plan.PreviewReps(ctx, access.From(ctx), *r.Body)
	return gen.PreviewReps200JSONResponse(v), err
}

// PutFix puts the drill against a fault in.
func (a API) PutFix(ctx context.Context, r gen.PutFixRequestObject) (gen.PutFixResponseObject, error) {
	v, err := a.Plan.Fix(ctx, access.From(ctx), r.Group, r.Body.ID, r.Body.Fault)
	return gen.PutFix200JSONResponse(v), err
}

// MoveLadder moves the next practice to the group's stage.
func (a API) MoveLadder(ctx context.Context, r gen.MoveLadderRequestObject) (gen.MoveLadderResponseObject, error) {
	v, err := a.Plan.MoveLadder(ctx, access.From(ctx), r.Group, r.Ladder, r.Body.ID)
	return gen.MoveLadder200JSONResponse(v), err
}

// PutPeriod puts a period into a practice.
func (a API) PutPeriod(ctx context.Context, r gen.PutPeriodRequestObject) (gen.PutPeriodResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutPeriod(ctx, access.From(ctx), r.ID, r.Period, version, *r.Body)
	return gen.PutPeriod200JSONResponse(v), err
}

// DeletePeriod takes a period out of a practice.
func (a API) DeletePeriod(ctx context.Context, r gen.DeletePeriodRequestObject) (gen.DeletePeriodResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.DeletePeriod(ctx, access.From(ctx), r.ID, r.Period, version)
	return gen.DeletePeriod200JSONResponse(v), err
}

// PutHeat enters a heat index.
func (a API) PutHeat(ctx context.Context, r gen.PutHeatRequestObject) (gen.PutHeatResponseObject, error) {
	v, err := a.Plan.PutHeat(ctx, access.From(ctx), r.ID, r.Reading, r.Body.Index)
	return gen.PutHeat200JSONResponse(v), err
}

// GetDrillsTogether names drills for groups that are free together.
func (a API) GetDrillsTogether(ctx context.Context, r gen.GetDrillsTogetherRequestObject) (gen.GetDrillsTogetherResponseObject, error) {
	v, err := a.Plan.Together(ctx, access.From(ctx), r.Params.Groups, r.Params.Minutes)
	return gen.GetDrillsTogether200JSONResponse(v), err
}

// GetPracticeSettings returns the settings of the club's practices.
func (a API) GetPracticeSettings(ctx context.Context, _ gen.GetPracticeSettingsRequestObject) (gen.GetPracticeSettingsResponseObject, error) {
	v, err := a.Plan.Settings(ctx, access.From(ctx))
	return gen.GetPracticeSettings200JSONResponse(v), err
}

// PutPracticeSettings changes them.
func (a API) PutPracticeSettings(ctx context.Context, r gen.PutPracticeSettingsRequestObject) (gen.PutPracticeSettingsResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutSettings(ctx, access.From(ctx), version, *r.Body)
	return gen.PutPracticeSettings200JSONResponse(v), err
}

// GetTemplates lists the club's templates.
func (a API) GetTemplates(ctx context.Context, _ gen.GetTemplatesRequestObject) (gen.GetTemplatesResponseObject, error) {
	v, err := a.Plan.ListTemplates(ctx)
	return gen.GetTemplates200JSONResponse(v), err
}

// PutTemplate keeps a template.
func (a API) PutTemplate(ctx context.Context, r gen.PutTemplateRequestObject) (gen.PutTemplateResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutTemplate(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutTemplate200JSONResponse(v), err
}

// DeleteTemplate forgets a template.
func (a API) DeleteTemplate(ctx context.Context, r gen.DeleteTemplateRequestObject) (gen.DeleteTemplateResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.DeleteTemplate(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteTemplate200JSONResponse(v), err
}

// PutPractice puts a practice on the calendar.
func (a API) PutPractice(ctx context.Context, r gen.PutPracticeRequestObject) (gen.PutPracticeResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutPractice(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutPractice200JSONResponse(v), err
}

// DeletePractice takes a practice off the calendar.
func (a API) DeletePractice(ctx context.Context, r gen.DeletePracticeRequestObject) (gen.DeletePracticeResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.DeletePractice(ctx, access.From(ctx), r.ID, version)
	return gen.DeletePractice200JSONResponse(v), err
}

// PutGame puts a game on the calendar.
func (a API) PutGame(ctx context.Context, r gen.PutGameRequestObject) (gen.PutGameResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutGame(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutGame200JSONResponse(v), err
}

// DeleteGame takes a game off the calendar.
func (a API) DeleteGame(ctx context.Context, r gen.DeleteGameRequestObject) (gen.DeleteGameResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.DeleteGame(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteGame200JSONResponse(v), err
}

// GetSeason returns the whole season.
func (a API) GetSeason(ctx context.Context, _ gen.GetSeasonRequestObject) (gen.GetSeasonResponseObject, error) {
	v, err := a.Plan.Season(ctx, access.From(ctx))
	return gen.GetSeason200JSONResponse(v), err
}

// GetDrillSets lists the sets of a group.
func (a API) GetDrillSets(ctx context.Context, r gen.GetDrillSetsRequestObject) (gen.GetDrillSetsResponseObject, error) {
	v, err := a.Plan.DrillSets(ctx, access.From(ctx), r.Group)
	return gen.GetDrillSets200JSONResponse(v), err
}

// PutDrillSet saves a set.
func (a API) PutDrillSet(ctx context.Context, r gen.PutDrillSetRequestObject) (gen.PutDrillSetResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutDrillSet(ctx, access.From(ctx), r.Group, r.ID, version, *r.Body)
	return gen.PutDrillSet200JSONResponse(v), err
}

// DeleteDrillSet forgets a set.
func (a API) DeleteDrillSet(ctx context.Context, r gen.DeleteDrillSetRequestObject) (gen.DeleteDrillSetResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.DeleteDrillSet(ctx, access.From(ctx), r.Group, r.ID, version)
	return gen.DeleteDrillSet200JSONResponse(v), err
}

// PutSeason sets the dates of the season.
func (a API) PutSeason(ctx context.Context, r gen.PutSeasonRequestObject) (gen.PutSeasonResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Plan.PutSeason(ctx, access.From(ctx), version, *r.Body)
	return gen.PutSeason200JSONResponse(v), err
}

// GetCalendarLinks lists a coach's own addresses.
func (a API) GetCalendarLinks(ctx context.Context, _ gen.GetCalendarLinksRequestObject) (gen.GetCalendarLinksResponseObject, error) {
	v, err := a.Plan.CalendarLinks(ctx, access.From(ctx))
	return gen.GetCalendarLinks200JSONResponse(v), err
}

// PutCalendarLink makes an address.
func (a API) PutCalendarLink(ctx context.Context, r gen.PutCalendarLinkRequestObject) (gen.PutCalendarLinkResponseObject, error) {
	v, err := a.Plan.PutCalendarLink(ctx, access.From(ctx), r.ID, r.Body.Name, r.Body.Secret)
	return gen.PutCalendarLink200JSONResponse(v), err
}

// RevokeCalendarLink revokes one.
func (a API) RevokeCalendarLink(ctx context.Context, r gen.RevokeCalendarLinkRequestObject) (gen.RevokeCalendarLinkResponseObject, error) {
	v, err := a.Plan.RevokeCalendarLink(ctx, access.From(ctx), r.ID)
	return gen.RevokeCalendarLink200JSONResponse(v), err
}

// ReadCalendar is the season for a calendar program.
func (a API) ReadCalendar(ctx context.Context, r gen.ReadCalendarRequestObject) (gen.ReadCalendarResponseObject, error) {
	content, err := a.Plan.ReadCalendar(ctx, r.Secret)
	return gen.ReadCalendar200TextCalendarResponse{Body: bytes.NewReader(content), ContentLength: int64(len(content))}, err
}

// attachment is a file that is taken away.
type attachment httpd.Attachment

// VisitExportScriptResponse writes the file.
func (f attachment) VisitExportScriptResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportScript writes the script of a practice as a file.
func (a API) ExportScript(ctx context.Context, r gen.ExportScriptRequestObject) (gen.ExportScriptResponseObject, error) {
	format := "csv"
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	name, content, err := a.Plan.ExportScript(ctx, access.From(ctx), r.ID, format)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// VisitExportCalendarResponse writes the file.
func (f attachment) VisitExportCalendarResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportCalendar writes the season as a file for a calendar.
func (a API) ExportCalendar(ctx context.Context, _ gen.ExportCalendarRequestObject) (gen.ExportCalendarResponseObject, error) {
	name, content, err := a.Plan.ExportCalendar(ctx, access.From(ctx))
	return attachment{Kind: "text/calendar; charset=utf-8", Name: name, Content: content}, err
}

// word is what a parameter says; "" when it was left out.
func word(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}
