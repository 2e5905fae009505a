// Package audit reads who changed what and when, from the log of changes.
package audit

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/table"
)

// Limits of what is read at once.
const (
	page   = 100
	export = 10_000
)

// Filter says which changes are wanted.
type Filter struct {
	Person     *uuid.UUID
	Kind       string // one of the kinds; empty: all
	From, To   string // days, in the club's time zone; empty: no end
	Operations []string
	Since      *time.Time
	Until      *time.Time // not included
	Before     int64      // numbers smaller than this; 0: all
	Limit      int
}

// Line is a change as the log has it, with the names behind its ids.
type Line struct {
	Number    int64
	At        time.Time
	By        string
	Operation string
	Record    string
	Of        string // the name of the player or the member it is about
}

// Store reads the log of the context's club.
type Store interface {
	Lines(ctx context.Context, f Filter) ([]Line, error)
	// People lists whoever was ever on the staff.
	People(ctx context.Context) ([]contract.CoachRef, error)
}

// Service runs the use cases.
type Service struct{ Store Store }

// filled works out the moments of the days, in the club's time zone.
func filled(c access.Coach, f Filter) (Filter, error) {
	zone, err := time.LoadLocation(c.Club.Timezone)
	if err != nil {
		zone = time.UTC
	}
	moment := func(field, day string, later int) (*time.Time, error) {
		if day == "" {
			return nil, nil
		}
		d, err := season.Parse(day)
		if err != nil {
			return nil, invalid.Field(field, "%s", err)
		}
		t := (d + season.Date(later)).Time()
		at := time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, zone)
		return &at, nil
	}
	if f.Since, err = moment("from", f.From, 0); err != nil {
		return f, err
	}
	if f.Until, err = moment("to", f.To, 1); err != nil {
		return f, err
	}
	if f.Kind != "" {
		f.Operations = of(f.Kind)
	}
	return f, nil
}

// View is a page of the log, newest first.
func (s *Service) View(ctx context.Context, c access.Coach, f Filter) (contract.Audit, error) {
	out := contract.Audit{Changes: []contract.AuditLine{}, People: []contract.CoachRef{}}
	f, err := filled(c, f)
	if err != nil {
		return out, err
	}
	f.Limit = page + 1
	lines, err := s.Store.Lines(ctx, f)
	if err != nil {
		return out, err
	}
	if len(lines) > page {
		lines = lines[:page]
		out.Next = &lines[page-1].Number
	}
	for _, l := range lines {
		d := say(l.Operation)
		out.Changes = append(out.Changes, contract.AuditLine{Number: l.Number, At: l.At, By: l.By, Did: d.says, Of: l.Of, Kind: d.kind})
	}
	out.People, err = s.Store.People(ctx)
	return out, err
}

// Export writes the log as a list.
func (s *Service) Export(ctx context.Context, c access.Coach, format string, f Filter) (name string, content []byte, err error) {
	if f, err = filled(c, f); err != nil {
		return "", nil, err
	}
	f.Limit = export
	lines, err := s.Store.Lines(ctx, f)
	if err != nil {
		return "", nil, err
	}
	rows := [][]any{{"Number", "At", "By", "Did", "Of", "Kind", "Record"}}
	for _, l := range lines {
		d := say(l.Operation)
		rows = append(rows, []any{l.Number, l.At.UTC().Format(time.RFC3339), l.By, d.says, l.Of, d.kind, l.Record})
	}
	return table.File(format, "changes", "Changes", rows)
}
