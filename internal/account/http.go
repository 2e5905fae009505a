package account

import (
	"context"
	"encoding/hex"
	"net/http"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/problem"
)

// API is the operations of one's own account.
type API struct{ Account *Service }

// GetAccount reads one's own account.
func (a API) GetAccount(ctx context.Context, _ gen.GetAccountRequestObject) (gen.GetAccountResponseObject, error) {
	v, err := a.Account.View(ctx, access.From(ctx))
	return gen.GetAccount200JSONResponse(v), err
}

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportAccountResponse writes the file.
func (f attachment) VisitExportAccountResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportAccount writes everything that is kept of oneself.
func (a API) ExportAccount(ctx context.Context, _ gen.ExportAccountRequestObject) (gen.ExportAccountResponseObject, error) {
	name, content, err := a.Account.Export(ctx, access.From(ctx))
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// PutAccount changes one's own name.
func (a API) PutAccount(ctx context.Context, r gen.PutAccountRequestObject) (gen.PutAccountResponseObject, error) {
	return gen.PutAccount204Response{}, a.Account.SetName(ctx, access.From(ctx), r.Body.Name)
}

// PutPassword changes one's own password.
func (a API) PutPassword(ctx context.Context, r gen.PutPasswordRequestObject) (gen.PutPasswordResponseObject, error) {
	return gen.PutPassword204Response{}, a.Account.SetPassword(ctx, access.From(ctx), r.Body.Password, r.Body.Next)
}

// PutEmail asks for another e-mail.
func (a API) PutEmail(ctx context.Context, r gen.PutEmailRequestObject) (gen.PutEmailResponseObject, error) {
	return gen.PutEmail204Response{}, a.Account.AskEmail(ctx, access.From(ctx), r.Body.Email, r.Body.Password)
}

// ConfirmEmail changes the e-mail by a link.
func (a API) ConfirmEmail(ctx context.Context, r gen.ConfirmEmailRequestObject) (gen.ConfirmEmailResponseObject, error) {
	return gen.ConfirmEmail204Response{}, a.Account.ConfirmEmail(ctx, r.Body.Secret)
}

// AskRecovery sends a link by which a new password is chosen.
func (a API) AskRecovery(ctx context.Context, r gen.AskRecoveryRequestObject) (gen.AskRecoveryResponseObject, error) {
	return gen.AskRecovery204Response{}, a.Account.AskRecovery(ctx, r.Body.Email, httpd.ClientIP(ctx))
}

// FinishRecovery chooses a new password by a link.
func (a API) FinishRecovery(ctx context.Context, r gen.FinishRecoveryRequestObject) (gen.FinishRecoveryResponseObject, error) {
	return gen.FinishRecovery204Response{}, a.Account.FinishRecovery(ctx, r.Body.Secret, r.Body.Password)
}

// EndSession ends one of one's own sessions.
func (a API) EndSession(ctx context.Context, r gen.EndSessionRequestObject) (gen.EndSessionResponseObject, error) {
	return gen.EndSession204Response{}, a.Account.EndSession(ctx, access.From(ctx), r.ID)
}

// EndOtherSessions ends all of one's own sessions but this one.
func (a API) EndOtherSessions(ctx context.Context, _ gen.EndOtherSessionsRequestObject) (gen.EndOtherSessionsResponseObject, error) {
	return gen.EndOtherSessions204Response{}, a.Account.EndOthers(ctx, access.From(ctx))
}

// BeginAuthenticator makes a secret for an authenticator.
func (a API) BeginAuthenticator(ctx context.Context, r gen.BeginAuthenticatorRequestObject) (gen.BeginAuthenticatorResponseObject, error) {
	v, err := a.Account.BeginAuthenticator(ctx, access.From(ctx), r.Body.Password)
	return gen.BeginAuthenticator200JSONResponse(v), err
}

// FinishAuthenticator has an authenticator count.
func (a API) FinishAuthenticator(ctx context.Context, r gen.FinishAuthenticatorRequestObject) (gen.FinishAuthenticatorResponseObject, error) {
	codes, err := a.Account.FinishAuthenticator(ctx, access.From(ctx), r.Body.Code)
	return gen.FinishAuthenticator200JSONResponse{RecoveryCodesJSONResponse: gen.RecoveryCodesJSONResponse{Codes: codes}}, err
}

// DropAuthenticator takes the authenticator away.
func (a API) DropAuthenticator(ctx context.Context, r gen.DropAuthenticatorRequestObject) (gen.DropAuthenticatorResponseObject, error) {
	return gen.DropAuthenticator204Response{}, a.Account.DropAuthenticator(ctx, access.From(ctx), r.Body.Password)
}

// RenewRecoveryCodes makes new recovery codes.
func (a API) RenewRecoveryCodes(ctx context.Context, r gen.RenewRecoveryCodesRequestObject) (gen.RenewRecoveryCodesResponseObject, error) {
	codes, err := a.Account.RenewCodes(ctx, access.From(ctx), r.Body.Password)
	return gen.RenewRecoveryCodes200JSONResponse{RecoveryCodesJSONResponse: gen.RecoveryCodesJSONResponse{Codes: codes}}, err
}

// BeginNewPasskey says what a device is asked to make a passkey.
func (a API) BeginNewPasskey(ctx context.Context, r gen.BeginNewPasskeyRequestObject) (gen.BeginNewPasskeyResponseObject, error) {
	options, err := a.Account.BeginPasskey(ctx, access.From(ctx), r.Body.Password, httpd.Origin(ctx))
	return gen.BeginNewPasskey200JSONResponse{Options: options}, err
}

// AddPasskey keeps a passkey that a device made.
func (a API) AddPasskey(ctx context.Context, r gen.AddPasskeyRequestObject) (gen.AddPasskeyResponseObject, error) {
	codes, err := a.Account.AddPasskey(ctx, access.From(ctx), r.Body.Name, r.Body.Credential, httpd.Origin(ctx))
	return gen.AddPasskey200JSONResponse{RecoveryCodesJSONResponse: gen.RecoveryCodesJSONResponse{Codes: codes}}, err
}

// DropPasskey takes a passkey away.
func (a API) DropPasskey(ctx context.Context, r gen.DropPasskeyRequestObject) (gen.DropPasskeyResponseObject, error) {
	id, err := hex.DecodeString(r.Key)
	if err != nil {
		return nil, problem.ErrNotFound
	}
	return gen.DropPasskey204Response{}, a.Account.DropPasskey(ctx, access.From(ctx), id, r.Body.Password)
}

// SeeNotice puts a notice away.
func (a API) SeeNotice(ctx context.Context, r gen.SeeNoticeRequestObject) (gen.SeeNoticeResponseObject, error) {
	c := access.From(ctx)
	return gen.SeeNotice204Response{}, a.Account.Store.SeeNotice(ctx, c.Account, r.ID, a.Account.Now())
}
