package plan

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/schedule"
	"nineyard/internal/access"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/platform/table"
)

// ExportScript writes the script of a practice as a list, a line a period, to keep, to print or
// to take elsewhere: csv or xlsx. It returns the file's name and what is in it.
func (s *Service) ExportScript(ctx context.Context, c access.Coach, id uuid.UUID, format string) (string, []byte, error) {
	p, found, err := s.Store.Practice(ctx, id)
	if err != nil {
		return "", nil, err
	}
	if !found {
		return "", nil, problem.ErrNotFound
	}
	periods, err := s.Store.Script(ctx, id)
	if err != nil {
		return "", nil, err
	}
	set, err := s.Settings(ctx, c)
	if err != nil {
		return "", nil, err
	}
	names := map[string]string{}
	for _, x := range set.Places {
		names[x.Key] = x.Name
	}
	for _, x := range set.Equipment {
		names[x.Key] = x.Name
	}
	for _, x := range set.Staff {
		names[x.Key] = x.Name
	}
	for _, g := range c.Club.Groups {
		names[g.Key] = g.Short
	}
	rows := [][]any{{"From", "To", "Minutes", "Period", "Kind", "Groups", "Contact", "Place", "Coaches", "Equipment", "Needs"}}
	for _, e := range periods {
		rows = append(rows, line(p, e, names))
	}
	if format != "csv" && format != "xlsx" {
		return "", nil, invalid.Field("format", "a script is written as csv or xlsx")
	}
	return table.File(format, "script-"+p.On.String(), "Script", rows)
}

func line(p script.Practice, e script.Period, names map[string]string) []any {
	called := func(keys []string) string {
		list := make([]string, len(keys))
		for i, k := range keys {
			if list[i] = k; names[k] != "" {
				list[i] = names[k]
			}
		}
		return strings.Join(list, ", ")
	}
	var uses []string
	for _, u := range e.Equipment {
		uses = append(uses, fmt.Sprintf("%d %s", u.Count, called([]string{u.Key})))
	}
	place := ""
	if e.Place != "" {
		place = called([]string{e.Place})
	}
	return []any{schedule.Clock(p.StartMinute + e.Start), schedule.Clock(p.StartMinute + e.Start + e.Minutes), e.Minutes, e.Name, strings.ReplaceAll(e.Kind, "_", " "),
		called(e.Groups), e.Contact, place, called(e.Coaches), strings.Join(uses, ", "), called(e.NeedsGroups)}
}
