package plan

import (
	"context"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/plan/sheet"
	"nineyard/internal/platform/problem"
)

// MaxTemplates is the most templates of a club.
const MaxTemplates = 100

// Template is a practice or a week that a club keeps to lay it again.
type Template struct {
	ID uuid.UUID
	contract.TemplateInput
	Version   int
	ChangedBy string
}

func (t Template) view() contract.Template {
	v := contract.Template{ID: t.ID, Version: t.Version, Template: t.TemplateInput}
	if t.ChangedBy != "" {
		v.ChangedBy = &t.ChangedBy
	}
	return v
}

// ListTemplates lists those of the club.
func (s *Service) ListTemplates(ctx context.Context) ([]contract.Template, error) {
	list, err := s.Templates.Templates(ctx)
	out := make([]contract.Template, len(list))
	for i, t := range list {
		out[i] = t.view()
	}
	return out, err
}

// PutTemplate keeps one; the head coach alone may. It returns a *problem.Stale when it was changed
// since the version given, or is not there any longer.
func (s *Service) PutTemplate(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.TemplateInput) (contract.Template, error) {
	if !c.IsHead() {
		return contract.Template{}, problem.ErrForbidden
	}
	was, _, err := s.Templates.Template(ctx, id)
	if err != nil {
		return contract.Template{}, err
	}
	in.Name = strings.TrimSpace(in.Name)
	next := Template{ID: id, TemplateInput: in, Version: was.Version}
	switch {
	case reflect.DeepEqual(was.TemplateInput, in): // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		return contract.Template{}, &problem.Stale{What: "template", By: was.ChangedBy, Current: was.view()}
	}
	if err := s.checkTemplate(ctx, c, next); err != nil {
		return contract.Template{}, err
	}
	if err := s.Templates.PutTemplate(ctx, next, c.ID, s.Now()); err != nil {
		return contract.Template{}, err
	}
	next.Version++
	next.ChangedBy = c.Name
	return next.view(), nil
}

// checkTemplate refuses a name that another has, days that are none, and scripts that cannot be.
func (s *Service) checkTemplate(ctx context.Context, c access.Coach, next Template) error {
	if next.Name == "" {
		return invalid.Field("name", "a template needs a name")
	}
	if !next.WholeWeek && (len(next.Days) != 1 || next.Days[0].Day != 0) {
		return invalid.Field("days", "a template of a practice has one day, the first")
	}
	set, err := s.Settings(ctx, c)
	if err != nil {
		return err
	}
	for i, d := range next.Days {
		p := script.Practice{Minutes: d.Minutes, StartMinute: d.StartMinute}
		for j, in := range d.Periods {
			if in.Placements != nil {
				return invalid.Field(fmt.Sprintf("days[%d].periods[%d].placements", i, j), "a template has no drills: a group's sets of drills are its own")
			}
			e := period(uuid.Nil, uuid.New(), 0, in)
			if err := sheet.Script(sheetOf(c, p, []script.Period{e}, set)).Check(); err != nil {
				return invalid.Within(fmt.Sprintf("days[%d].periods[%d]", i, j), invalid.Without("periods[0]", err))
			}
		}
	}
	all, err := s.Templates.Templates(ctx)
	if err != nil {
		return err
	}
	others := slices.DeleteFunc(all, func(t Template) bool { return t.ID == next.ID })
	if len(others) >= MaxTemplates {
		return invalid.Field("name", "a club keeps at most %d templates", MaxTemplates)
	}
	if slices.ContainsFunc(others, func(t Template) bool { return strings.EqualFold(t.Name, next.Name) }) {
		return invalid.Field("name", "another template is called %s", next.Name)
	}
	return nil
}

// DeleteTemplate forgets one; what was laid by it stays.
func (s *Service) DeleteTemplate(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	if !c.IsHead() {
		return contract.Gone{}, problem.ErrForbidden
	}
	was, there, err := s.Templates.Template(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "template", By: was.ChangedBy, Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Templates.DeleteTemplate(ctx, id)
}

// layTemplate gives a new practice the script of a template's practice. What the club's lists do not
// know any longer (a place that was given up, a coach who left) is left out.
func (s *Service) layTemplate(ctx context.Context, c access.Coach, practice uuid.UUID, from contract.FromTemplate) error {
	t, there, err := s.Templates.Template(ctx, from.ID)
	if err != nil {
		return err
	}
	if !there || from.Practice >= len(t.Days) {
		return invalid.Field("template", "there is no such template")
	}
	set, err := s.Settings(ctx, c)
	if err != nil {
		return err
	}
	for _, in := range t.Days[from.Practice].Periods {
		if err := s.Scripts.Put(ctx, period(practice, uuid.New(), 0, known(c, set, in)), c.ID, s.Now()); err != nil {
			return err
		}
	}
	return nil
}

// known is a period without what the club does not have.
func known(c access.Coach, set contract.PracticeSettings, in contract.PeriodInput) contract.PeriodInput {
	if !slices.ContainsFunc(set.Places, func(p contract.PracticePlace) bool { return p.Key == in.Place }) {
		in.Place = ""
	}
	gone := func(key string) bool { _, ok := c.Club.Groups.Find(key); return !ok }
	in.Groups = slices.DeleteFunc(slices.Clone(in.Groups), gone)
	in.NeedsGroups = slices.DeleteFunc(slices.Clone(in.NeedsGroups), gone)
	in.Coaches = slices.DeleteFunc(slices.Clone(in.Coaches), func(key string) bool {
		return !slices.ContainsFunc(set.Staff, func(m contract.StaffMember) bool { return m.Key == key })
	})
	in.Equipment = slices.DeleteFunc(slices.Clone(in.Equipment), func(u contract.EquipmentUse) bool {
		return !slices.ContainsFunc(set.Equipment, func(e contract.EquipmentStock) bool { return e.Key == u.Key })
	})
	return in
}
