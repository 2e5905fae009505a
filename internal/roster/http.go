package roster

import (
	"context"
	"net/http"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of the roster.
type API struct{ Roster *Service }

func text(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// ListRoster returns every player.
func (a API) ListRoster(ctx context.Context, r gen.ListRosterRequestObject) (gen.ListRosterResponseObject, error) {
	v, err := a.Roster.List(ctx, access.From(ctx), text(r.Params.On))
	return gen.ListRoster200JSONResponse(v), err
}

// PutPlayer adds or changes a player.
func (a API) PutPlayer(ctx context.Context, r gen.PutPlayerRequestObject) (gen.PutPlayerResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Roster.Put(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutPlayer200JSONResponse(v), err
}

// MergePlayers merges two entries of one player.
func (a API) MergePlayers(ctx context.Context, r gen.MergePlayersRequestObject) (gen.MergePlayersResponseObject, error) {
	v, err := a.Roster.Merge(ctx, access.From(ctx), r.ID, r.Body.Into)
	return gen.MergePlayers200JSONResponse(v), err
}

// ListAvailability returns a player's spells.
func (a API) ListAvailability(ctx context.Context, r gen.ListAvailabilityRequestObject) (gen.ListAvailabilityResponseObject, error) {
	v, err := a.Roster.Availability(ctx, access.From(ctx), r.ID)
	return gen.ListAvailability200JSONResponse(v), err
}

// PutSpell records or changes a spell.
func (a API) PutSpell(ctx context.Context, r gen.PutSpellRequestObject) (gen.PutSpellResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	b := r.Body
	v, err := a.Roster.PutSpell(ctx, access.From(ctx), r.ID, r.Spell, SpellInput{Version: version, Status: string(b.Status), From: b.From, To: text(b.To), Reason: b.Reason})
	return gen.PutSpell200JSONResponse(v), err
}

// WithdrawSpell takes a spell back.
func (a API) WithdrawSpell(ctx context.Context, r gen.WithdrawSpellRequestObject) (gen.WithdrawSpellResponseObject, error) {
	return gen.WithdrawSpell204Response{}, a.Roster.WithdrawSpell(ctx, access.From(ctx), r.ID, r.Spell)
}

// RecordClearance records a written clearance.
func (a API) RecordClearance(ctx context.Context, r gen.RecordClearanceRequestObject) (gen.RecordClearanceResponseObject, error) {
	v, err := a.Roster.Clear(ctx, access.From(ctx), r.ID, r.Spell, r.Body.By, r.Body.On, r.Body.Document)
	return gen.RecordClearance200JSONResponse(v), err
}

// attachment answers with a file to keep.
type attachment httpd.Attachment

// VisitExportRosterResponse writes the file.
func (f attachment) VisitExportRosterResponse(w http.ResponseWriter) error {
	return httpd.Attachment(f).Write(w)
}

// ExportRoster writes the roster as a file.
func (a API) ExportRoster(ctx context.Context, r gen.ExportRosterRequestObject) (gen.ExportRosterResponseObject, error) {
	format := "csv"
	if r.Params.Format != nil {
		format = string(*r.Params.Format)
	}
	name, content, err := a.Roster.Export(ctx, access.From(ctx), format, r.Params.Archived != nil && *r.Params.Archived)
	return attachment{Kind: "application/octet-stream", Name: name, Content: content}, err
}

// UploadRoster reads a list.
func (a API) UploadRoster(ctx context.Context, r gen.UploadRosterRequestObject) (gen.UploadRosterResponseObject, error) {
	values, file, err := httpd.Upload(r.Body, "id", "group")
	if err != nil {
		return nil, err
	}
	id, err := uuid.Parse(values["id"])
	if err != nil {
		return nil, invalid.Field("id", "an import needs an id made by the client")
	}
	v, err := a.Roster.Send(ctx, access.From(ctx), id, values["group"], file)
	return gen.UploadRoster200JSONResponse(v), err
}

// DecideProposal takes what a list says of a player, or leaves it.
func (a API) DecideProposal(ctx context.Context, r gen.DecideProposalRequestObject) (gen.DecideProposalResponseObject, error) {
	return gen.DecideProposal204Response{}, a.Roster.Decide(ctx, access.From(ctx), r.ID, r.Body.Take)
}

// PreviewRoster says what importing a list would do.
func (a API) PreviewRoster(ctx context.Context, r gen.PreviewRosterRequestObject) (gen.PreviewRosterResponseObject, error) {
	v, err := a.Roster.Preview(ctx, access.From(ctx), r.ID, *r.Body)
	return gen.PreviewRoster200JSONResponse(v), err
}

// ImportRoster takes a list in.
func (a API) ImportRoster(ctx context.Context, r gen.ImportRosterRequestObject) (gen.ImportRosterResponseObject, error) {
	v, err := a.Roster.Import(ctx, access.From(ctx), r.ID, *r.Body)
	return gen.ImportRoster200JSONResponse(v), err
}
