package httpapi

import (
	"context"
	"crypto/rand"
	"errors"
	"mime/multipart"
	"net/http"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"nineyard/internal/app"
	"nineyard/internal/contract"
	"nineyard/internal/httpapi/gen"
)

// handlers implement the contract.
type handlers struct {
	service  *app.Service
	sessions *scs.SessionManager
}

var _ gen.StrictServerInterface = (*handlers)(nil)

// actor is who is signed in; requireActor put it there.
func actor(ctx context.Context) app.Actor {
	a, _ := ctx.Value(keyActor).(app.Actor)
	return a
}

// request is the context the session lives in.
func request(ctx context.Context) *http.Request { return ctx.(*gin.Context).Request }

// session describes the session, making its request token on first sight.
func (h *handlers) session(ctx context.Context) (gen.SessionJSONResponse, error) {
	rctx := request(ctx).Context()
	token := h.sessions.GetString(rctx, keyCSRF)
	if token == "" {
		token = rand.Text()
		h.sessions.Put(rctx, keyCSRF, token)
	}
	out := gen.SessionJSONResponse{Csrf: token, Demo: h.service.Demo}
	id, err := uuid.Parse(h.sessions.GetString(rctx, keyUser))
	if err != nil {
		return out, nil
	}
	a, err := h.service.Store.Actor(ctx, id)
	if errors.Is(err, app.ErrNotFound) {
		return out, nil
	}
	groups := a.Groups
	if groups == nil {
		groups = []string{}
	}
	out.User = &contract.User{ID: a.UserID, Name: a.Name, Role: contract.UserRole(a.Role), Groups: groups}
	return out, err
}

// enter signs a user in under a fresh session token.
func (h *handlers) enter(ctx context.Context, id uuid.UUID) error {
	rctx := request(ctx).Context()
	if err := h.sessions.RenewToken(rctx); err != nil {
		return err
	}
	h.sessions.Put(rctx, keyUser, id.String())
	h.sessions.Put(rctx, keyCSRF, rand.Text())
	return nil
}

func (h *handlers) GetSession(ctx context.Context, _ gen.GetSessionRequestObject) (gen.GetSessionResponseObject, error) {
	s, err := h.session(ctx)
	return gen.GetSession200JSONResponse{SessionJSONResponse: s}, err
}

func (h *handlers) SignIn(ctx context.Context, r gen.SignInRequestObject) (gen.SignInResponseObject, error) {
	id, err := h.service.SignIn(ctx, r.Body.Email, r.Body.Password, ctx.(*gin.Context).ClientIP())
	if err != nil {
		return nil, err
	}
	if err := h.enter(ctx, id); err != nil {
		return nil, err
	}
	s, err := h.session(ctx)
	return gen.SignIn200JSONResponse{SessionJSONResponse: s}, err
}

func (h *handlers) SignOut(ctx context.Context, _ gen.SignOutRequestObject) (gen.SignOutResponseObject, error) {
	return gen.SignOut204Response{}, h.sessions.Destroy(request(ctx).Context())
}

func (h *handlers) ListDemoStaff(ctx context.Context, _ gen.ListDemoStaffRequestObject) (gen.ListDemoStaffResponseObject, error) {
	list, err := h.service.DemoStaff(ctx)
	return gen.ListDemoStaff200JSONResponse(list), err
}

func (h *handlers) DemoSignIn(ctx context.Context, r gen.DemoSignInRequestObject) (gen.DemoSignInResponseObject, error) {
	if err := h.service.DemoSignIn(ctx, r.Body.UserID); err != nil {
		return nil, err
	}
	if err := h.enter(ctx, r.Body.UserID); err != nil {
		return nil, err
	}
	s, err := h.session(ctx)
	return gen.DemoSignIn200JSONResponse{SessionJSONResponse: s}, err
}

func (h *handlers) GetFrame(ctx context.Context, _ gen.GetFrameRequestObject) (gen.GetFrameResponseObject, error) {
	v, err := h.service.Frame(ctx, actor(ctx))
	return gen.GetFrame200JSONResponse(v), err
}

func (h *handlers) GetToday(ctx context.Context, r gen.GetTodayRequestObject) (gen.GetTodayResponseObject, error) {
	v, err := h.service.Today(ctx, actor(ctx), r.Group, r.Params.Week)
	return gen.GetToday200JSONResponse(v), err
}

func (h *handlers) ListPlayers(ctx context.Context, r gen.ListPlayersRequestObject) (gen.ListPlayersResponseObject, error) {
	v, err := h.service.Players(ctx, actor(ctx), r.Group, r.Params.Week)
	return gen.ListPlayers200JSONResponse(v), err
}

func (h *handlers) GetLibrary(ctx context.Context, r gen.GetLibraryRequestObject) (gen.GetLibraryResponseObject, error) {
	v, err := h.service.LibraryOf(ctx, actor(ctx), r.Group)
	return gen.GetLibrary200JSONResponse(v), err
}

func (h *handlers) PutFix(ctx context.Context, r gen.PutFixRequestObject) (gen.PutFixResponseObject, error) {
	v, err := h.service.Fix(ctx, actor(ctx), r.Group, r.Body.ID, r.Body.Fault)
	return gen.PutFix200JSONResponse(v), err
}

func (h *handlers) GetPlayer(ctx context.Context, r gen.GetPlayerRequestObject) (gen.GetPlayerResponseObject, error) {
	v, err := h.service.Player(ctx, actor(ctx), r.ID, r.Params.Group, r.Params.Week)
	return gen.GetPlayer200JSONResponse(v), err
}

func (h *handlers) GetEvidence(ctx context.Context, r gen.GetEvidenceRequestObject) (gen.GetEvidenceResponseObject, error) {
	v, err := h.service.Evidence(ctx, actor(ctx), r.ID, r.Params.Group, r.Params.Week, text(r.Params.Technique), text(r.Params.Fault))
	return gen.GetEvidence200JSONResponse(v), err
}

func (h *handlers) GetPractice(ctx context.Context, r gen.GetPracticeRequestObject) (gen.GetPracticeResponseObject, error) {
	v, err := h.service.Practice(ctx, actor(ctx), r.ID, r.Params.Group)
	return gen.GetPractice200JSONResponse(v), err
}

func (h *handlers) GetRotation(ctx context.Context, r gen.GetRotationRequestObject) (gen.GetRotationResponseObject, error) {
	v, err := h.service.Rotation(ctx, actor(ctx), r.ID, r.Drill)
	return gen.GetRotation200JSONResponse(v), err
}

func (h *handlers) PutDrills(ctx context.Context, r gen.PutDrillsRequestObject) (gen.PutDrillsResponseObject, error) {
	v, err := h.service.PutDrills(ctx, actor(ctx), r.ID, *r.Body)
	var conflict *app.Conflict
	if errors.As(err, &conflict) {
		detail := "Both versions are shown; nothing of yours is lost."
		return gen.PutDrills409ApplicationProblemPlusJSONResponse{Status: http.StatusConflict, Title: conflict.Error(), Detail: &detail, Current: conflict.Current}, nil
	}
	return gen.PutDrills200JSONResponse(v), err
}

func (h *handlers) PreviewReps(ctx context.Context, r gen.PreviewRepsRequestObject) (gen.PreviewRepsResponseObject, error) {
	v, err := h.service.PreviewReps(actor(ctx), *r.Body)
	return gen.PreviewReps200JSONResponse(v), err
}

func (h *handlers) GetMarkSheet(ctx context.Context, r gen.GetMarkSheetRequestObject) (gen.GetMarkSheetResponseObject, error) {
	v, err := h.service.MarkSheet(ctx, actor(ctx), r.ID)
	return gen.GetMarkSheet200JSONResponse(v), err
}

func (h *handlers) PostMarks(ctx context.Context, r gen.PostMarksRequestObject) (gen.PostMarksResponseObject, error) {
	saved, err := h.service.PostMarks(ctx, actor(ctx), r.Body.Marks)
	return gen.PostMarks200JSONResponse{Saved: saved}, err
}

func (h *handlers) PreviewRoster(ctx context.Context, r gen.PreviewRosterRequestObject) (gen.PreviewRosterResponseObject, error) {
	f, err := rosterFile(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := h.service.PreviewRoster(ctx, actor(ctx), f)
	return gen.PreviewRoster200JSONResponse(v), err
}

func (h *handlers) ImportRoster(ctx context.Context, r gen.ImportRosterRequestObject) (gen.ImportRosterResponseObject, error) {
	f, err := rosterFile(r.Body)
	if err != nil {
		return nil, err
	}
	v, err := h.service.ImportRoster(ctx, actor(ctx), f)
	return gen.ImportRoster200JSONResponse(v), err
}

func (h *handlers) GetDrill(ctx context.Context, r gen.GetDrillRequestObject) (gen.GetDrillResponseObject, error) {
	v, err := h.service.DrillPage(ctx, actor(ctx), r.Group, r.Drill, r.Params.Minutes, r.Params.Lanes)
	return gen.GetDrill200JSONResponse(v), err
}

func (h *handlers) GetBoard(ctx context.Context, r gen.GetBoardRequestObject) (gen.GetBoardResponseObject, error) {
	v, err := h.service.Board(ctx, actor(ctx), r.Group, r.Params.Week)
	return gen.GetBoard200JSONResponse(v), err
}

func (h *handlers) MoveLadder(ctx context.Context, r gen.MoveLadderRequestObject) (gen.MoveLadderResponseObject, error) {
	v, err := h.service.MoveLadder(ctx, actor(ctx), r.Group, r.Ladder, r.Body.ID)
	return gen.MoveLadder200JSONResponse(v), err
}

func (h *handlers) AddOverride(ctx context.Context, r gen.AddOverrideRequestObject) (gen.AddOverrideResponseObject, error) {
	return gen.AddOverride204Response{}, h.service.AddOverride(ctx, actor(ctx), r.ID, r.Body.ID, r.Body.Ladder, r.Body.Stage, r.Body.Reason)
}

func (h *handlers) WithdrawOverride(ctx context.Context, r gen.WithdrawOverrideRequestObject) (gen.WithdrawOverrideResponseObject, error) {
	return gen.WithdrawOverride204Response{}, h.service.WithdrawOverride(ctx, actor(ctx), r.ID)
}

func (h *handlers) PutException(ctx context.Context, r gen.PutExceptionRequestObject) (gen.PutExceptionResponseObject, error) {
	x := app.Exception{ID: r.Body.ID, OkLow: r.Body.OkLow, OkHigh: r.Body.OkHigh, WatchLow: r.Body.WatchLow, WatchHigh: r.Body.WatchHigh, Reason: r.Body.Reason}
	return gen.PutException204Response{}, h.service.PutException(ctx, actor(ctx), r.ID, r.Checkpoint, x)
}

func (h *handlers) WithdrawException(ctx context.Context, r gen.WithdrawExceptionRequestObject) (gen.WithdrawExceptionResponseObject, error) {
	return gen.WithdrawException204Response{}, h.service.WithdrawException(ctx, actor(ctx), r.ID, r.Checkpoint)
}

func text(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

func rosterFile(form *multipart.Reader) (app.RosterFile, error) {
	values, file, err := upload(form, "group", "mapping")
	return app.RosterFile{File: file, Group: values["group"], Mapping: values["mapping"]}, err
}
