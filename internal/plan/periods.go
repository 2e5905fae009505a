package plan

import (
	"cmp"
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/plan/sheet"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
)

// mayScript reports whether a coach may change a period: the head coach every one, a position
// coach those that are of his groups alone.
func mayScript(c access.Coach, groups []string) bool {
	return c.IsHead() || len(groups) > 0 && !slices.ContainsFunc(groups, func(g string) bool { return !c.MayWork(g) })
}

// input is a period in the contract's form, as it would be sent.
func input(e script.Period) contract.PeriodInput {
	in := contract.PeriodInput{Start: e.Start, Minutes: e.Minutes, Kind: contract.PeriodKind(e.Kind), Name: e.Name, Contact: contract.ContactLevel(e.Contact), Groups: append([]string{}, e.Groups...),
		Place: e.Place, Coaches: append([]string{}, e.Coaches...), Equipment: []contract.EquipmentUse{}, NeedsGroups: append([]string{}, e.NeedsGroups...), RepSeconds: e.RepSeconds}
	in.Equipment = append(in.Equipment, e.Equipment...)
	return in
}

// scripted is a period as looked at by the core.
func scripted(e script.Period) contract.ScriptPeriod {
	in := input(e)
	return contract.ScriptPeriod{ID: e.ID.String(), Start: in.Start, Minutes: in.Minutes, Kind: in.Kind, Name: in.Name, Contact: in.Contact, Groups: in.Groups,
		Place: in.Place, Coaches: in.Coaches, Equipment: in.Equipment, NeedsGroups: in.NeedsGroups, RepSeconds: in.RepSeconds}
}

// lanes are the groups of a practice.
func lanes(c access.Coach, periods []script.Period) []string {
	list := make([]schedule.Period, len(periods))
	for i, e := range periods {
		list[i] = schedule.Period{Groups: e.Groups}
	}
	return schedule.Lanes(c.Club.Groups.Keys(), c.Club.Groups.Apart(), list)
}

// sheetOf is the script of a practice as the core looks at it.
func sheetOf(c access.Coach, p script.Practice, periods []script.Period, set contract.PracticeSettings) contract.ScriptSheet {
	s := contract.ScriptSheet{Minutes: p.Minutes, StartMinute: p.StartMinute, Groups: []contract.Named{}, Settings: set, Periods: []contract.ScriptPeriod{}}
	for _, g := range c.Club.Groups {
		s.Groups = append(s.Groups, contract.Named{Key: g.Key, Name: g.Short})
	}
	s.Apart = new(c.Club.Groups.Apart())
	for _, e := range periods {
		s.Periods = append(s.Periods, scripted(e))
	}
	return s
}

func saved(e script.Period, shortened []contract.Shortened) contract.SavedPeriod {
	v := contract.SavedPeriod{ID: e.ID, PracticeID: e.PracticeID, Version: e.Version, Minutes: e.Minutes, Period: new(input(e)), Shortened: append([]contract.Shortened{}, shortened...)}
	if e.ChangedBy != "" {
		v.ChangedBy = &e.ChangedBy
	}
	return v
}

// gone is a period that is not there: what a change of it stands against.
func gone(practiceID, id uuid.UUID) contract.SavedPeriod {
	return contract.SavedPeriod{ID: id, PracticeID: practiceID, Shortened: []contract.Shortened{}}
}

// PutPeriod puts a period into a practice or changes it. It returns a *problem.Stale when it was
// changed since the version given, or is not there any longer.
func (s *Service) PutPeriod(ctx context.Context, c access.Coach, practiceID, id uuid.UUID, version int, in contract.PeriodInput) (contract.SavedPeriod, error) {
	p, found, err := s.Store.Practice(ctx, practiceID)
	if err != nil {
		return contract.SavedPeriod{}, err
	}
	if !found {
		return contract.SavedPeriod{}, problem.ErrNotFound
	}
	was, there, err := s.Store.Period(ctx, id)
	if err != nil {
		return contract.SavedPeriod{}, err
	}
	next := period(practiceID, id, was.Version, in)
	switch {
	case there && was.PracticeID != practiceID:
		return contract.SavedPeriod{}, problem.ErrTaken
	case !mayScript(c, next.Groups), there && !mayScript(c, was.Groups):
		return contract.SavedPeriod{}, problem.ErrForbidden
	case there && alike(was, next): // sent again after a lost answer
		return saved(was, nil), nil
	case there && version != was.Version:
		return contract.SavedPeriod{}, &problem.Stale{What: "period", By: was.ChangedBy, Current: saved(was, nil)}
	case !there && version != 0:
		return contract.SavedPeriod{}, &problem.Stale{What: "period", Current: gone(practiceID, id)}
	}
	if err := s.checkPeriod(ctx, c, p, was, next); err != nil {
		return contract.SavedPeriod{}, err
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.SavedPeriod{}, err
	}
	drills, shortened, err := hanging(h, was, next)
	if err != nil {
		return contract.SavedPeriod{}, err
	}
	if err := s.Scripts.Put(ctx, next, c.ID, s.Now()); err != nil {
		return contract.SavedPeriod{}, err
	}
	if !there && in.Placements != nil {
		if drills, err = placements(next, "", *in.Placements); err != nil {
			return contract.SavedPeriod{}, err
		}
		if err := check(h, next, next.Holders(), drills); err != nil {
			return contract.SavedPeriod{}, err
		}
	}
	if len(drills) > 0 {
		if err := s.Store.Replace(ctx, id, next.Holders(), c.ID, s.Now(), drills); err != nil {
			return contract.SavedPeriod{}, err
		}
	}
	now, _, err := s.Store.Period(ctx, id)
	return saved(now, shortened), err
}

func period(practiceID, id uuid.UUID, version int, in contract.PeriodInput) script.Period {
	p := script.Period{ID: id, PracticeID: practiceID, Start: in.Start, Minutes: in.Minutes, Kind: string(in.Kind), Name: in.Name, Contact: string(in.Contact), Version: version,
		Groups: in.Groups, Place: in.Place, Coaches: in.Coaches, NeedsGroups: in.NeedsGroups, RepSeconds: in.RepSeconds}
	p.Equipment = append(p.Equipment, in.Equipment...)
	slices.SortFunc(p.Equipment, func(a, b contract.EquipmentUse) int { return cmp.Compare(a.Key, b.Key) })
	return p
}

// alike reports whether two say the same, in whatever order they name groups.
func alike(a, b script.Period) bool {
	sorted := func(list []string) []string { return slices.Sorted(slices.Values(list)) }
	return a.Start == b.Start && a.Minutes == b.Minutes && a.Kind == b.Kind && a.Name == b.Name && a.Contact == b.Contact && a.Place == b.Place && a.RepSeconds == b.RepSeconds &&
		slices.Equal(sorted(a.Groups), sorted(b.Groups)) && slices.Equal(sorted(a.NeedsGroups), sorted(b.NeedsGroups)) && slices.Equal(a.Coaches, b.Coaches) && slices.Equal(a.Equipment, b.Equipment)
}

// checkPeriod refuses what breaks the bounds of a script, and what speaks of something that the
// club's lists do not know and that did not stand there before.
func (s *Service) checkPeriod(ctx context.Context, c access.Coach, p script.Practice, was, next script.Period) error {
	set, err := s.Settings(ctx, c)
	if err != nil {
		return err
	}
	if err := sheet.Script(sheetOf(c, p, []script.Period{next}, set)).Check(); err != nil {
		return invalid.Without("periods[0]", err)
	}
	if next.Place != "" && next.Place != was.Place && !slices.ContainsFunc(set.Places, func(x contract.PracticePlace) bool { return x.Key == next.Place }) {
		return invalid.Field("place", "there is no place %q", next.Place)
	}
	for _, u := range next.Equipment {
		known := slices.ContainsFunc(set.Equipment, func(x contract.EquipmentStock) bool { return x.Key == u.Key })
		if !known && !slices.ContainsFunc(was.Equipment, func(x contract.EquipmentUse) bool { return x.Key == u.Key }) {
			return invalid.Field("equipment", "there is no equipment %q", u.Key)
		}
	}
	for _, k := range next.Coaches {
		if !slices.ContainsFunc(set.Staff, func(x contract.StaffMember) bool { return x.Key == k }) && !slices.Contains(was.Coaches, k) {
			return invalid.Field("coaches", "there is no coach or helper %q", k)
		}
	}
	return nil
}

// hanging is what becomes of the drills of a period that changes: they move with it and are
// shortened with it. It is refused where drills would be left in a period that may not hold them.
func hanging(h *house.House, was, next script.Period) ([]script.Placement, []contract.Shortened, error) {
	if len(was.Placements) == 0 {
		return nil, nil, nil
	}
	for _, d := range was.Placements {
		if !next.Holds(d.Group) {
			return nil, nil, invalid.Field("groups", "%d drills are placed in it, and they belong to a group's own period or to one that two groups share: take them out first", len(was.Placements))
		}
	}
	places := make([]practice.Placement, len(was.Placements))
	for i, d := range was.Placements {
		places[i] = practice.Placement{Start: d.Start, Minutes: d.Minutes, Of: d.Group}
	}
	fit, cuts, err := practice.Squeeze(next.Minutes, places, practice.KeepMinutes)
	if err != nil {
		return nil, nil, err
	}
	drills := slices.Clone(was.Placements)
	moved := false
	for i := range drills {
		moved = moved || drills[i].Start != fit[i].Start
		drills[i].Start, drills[i].Minutes = fit[i].Start, fit[i].Minutes
	}
	list := []contract.Shortened{}
	for _, cut := range cuts {
		d, _ := h.Known.Drill(drills[cut.Index].DrillKey)
		list = append(list, contract.Shortened{Drill: d.Name, From: cut.From, To: cut.To})
	}
	if !moved && len(list) == 0 {
		return nil, nil, nil
	}
	return drills, list, nil
}

// DeletePeriod takes a period out of a practice with the drills placed in it. It is refused
// when reps of them are marked, and returns a *problem.Stale when the period was changed since
// the version given.
func (s *Service) DeletePeriod(ctx context.Context, c access.Coach, practiceID, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Store.Period(ctx, id)
	switch {
	case err != nil:
		return contract.Gone{}, err
	case !there: // sent again after a lost answer
		return contract.Gone{ID: id}, nil
	case was.PracticeID != practiceID:
		return contract.Gone{}, problem.ErrNotFound
	case !mayScript(c, was.Groups):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "period", By: was.ChangedBy, Current: saved(was, nil)}
	}
	if was.Marks > 0 {
		return contract.Gone{}, invalid.Field("id", "%s has %d marks on its plays on the record; withdraw them first", was.Name, was.Marks)
	}
	for _, d := range was.Placements {
		if d.Marks > 0 {
			return contract.Gone{}, invalid.Field("id", "%s has %d marks on the record; withdraw them first", was.Name, d.Marks)
		}
	}
	return contract.Gone{ID: id}, s.Scripts.Delete(ctx, id)
}
