package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/plan/sheet"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Practice returns a practice as a group's coach sees it.
func (s *Service) Practice(ctx context.Context, c access.Coach, id uuid.UUID, group string) (contract.Practice, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Practice{}, err
	}
	p, found, err := s.Store.Practice(ctx, id)
	if err != nil {
		return contract.Practice{}, err
	}
	if _, err := c.Group(group); err != nil || !found {
		return contract.Practice{}, problem.ErrNotFound
	}
	periods, err := s.Store.Script(ctx, id)
	if err != nil {
		return contract.Practice{}, err
	}
	players, err := s.Squad.Group(ctx, group, p.On)
	if err != nil {
		return contract.Practice{}, err
	}
	att, holds := squad.Attendance(players)
	set, err := s.Settings(ctx, c)
	if err != nil {
		return contract.Practice{}, err
	}
	d, err := s.Conditions.Day(ctx, p, c.Season.ID, group)
	if err != nil {
		return contract.Practice{}, err
	}
	seen := conditioned(sheetOf(c, p, periods, set), d, p)
	out := contract.Practice{Settings: set, Look: sheet.Look(seen), PracticeDay: *seen.PracticeDay, Heat: []contract.HeatReading{}, Returning: returning(sheet.FirstDays(set.Limits), d, players, p.On), Practice: script.Ref(p), Week: c.WeekOf(p.On), Theme: p.Theme, Place: p.Place, Groups: lanes(c, periods),
		Periods: []contract.Period{}, Players: att.Players, Limited: att.Limited, Held: holds, Editable: c.MayWork(group)}
	for _, r := range d.Readings {
		out.Heat = append(out.Heat, readingView(r))
	}
	for _, e := range periods {
		v := view(h, e, att, group)
		v.Editable = mayScript(c, e.Groups)
		out.Periods = append(out.Periods, v)
	}
	return out, nil
}

// view words a period with the drills that lie in it.
func view(h *house.House, e script.Period, att crew.Attendance, group string) contract.Period {
	in := input(e)
	v := contract.Period{ID: e.ID, Start: e.Start, Minutes: e.Minutes, Kind: e.Kind, Name: e.Name, Contact: e.Contact, Groups: in.Groups, Place: in.Place, Coaches: in.Coaches,
		Equipment: in.Equipment, NeedsGroups: in.NeedsGroups, RepSeconds: in.RepSeconds, Version: e.Version, Own: e.Holds(group), Placements: []contract.Placement{}, Others: []contract.OtherPlacement{}}
	if e.ChangedBy != "" {
		v.ChangedBy = &e.ChangedBy
	}
	for _, pl := range e.Placements {
		if v.Own && pl.Group != group {
			d, _ := h.Known.Drill(pl.DrillKey)
			v.Others = append(v.Others, contract.OtherPlacement{Name: d.Name, Placed: inputs([]script.Placement{pl})[0]})
			continue
		}
		d, ok := h.Library.Drill(pl.DrillKey)
		if !ok {
			d, _ = h.Known.Drill(pl.DrillKey)
			d.Key, d.Name = pl.DrillKey, d.Name+" (no longer taught)"
		}
		t := h.MarkedAs(pl.TechniqueKey, d)
		v.Placements = append(v.Placements, contract.Placement{ID: pl.ID, Group: pl.Group, Drill: pl.DrillKey, Name: d.Name, Technique: t.Key, TechniqueName: t.Name, Techniques: h.TechniquesOf(d), Cards: order(pl),
			Start: pl.Start, Minutes: pl.Minutes, Lanes: pl.Lanes, Marks: pl.Marks, Reps: script.Reps(d, att, pl.Minutes, pl.Lanes)})
	}
	return v
}

// PreviewReps is the rep arithmetic of drills that are not saved.
func (s *Service) PreviewReps(ctx context.Context, c access.Coach, in contract.PreviewRepsJSONRequestBody) ([]contract.Reps, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	att := crew.Attendance{Players: in.Players, Limited: in.Limited}
	if att.Limited > att.Players {
		return nil, invalid.Field("limited", "limited players (%d) cannot be more than players (%d)", att.Limited, att.Players)
	}
	out := []contract.Reps{}
	for i, x := range in.Drills {
		d, ok := h.Library.Drill(x.Drill)
		if !ok {
			return nil, invalid.Field(fmt.Sprintf("drills[%d].drill", i), "there is no drill %q", x.Drill)
		}
		out = append(out, script.Reps(d, att, x.Minutes, x.Lanes))
	}
	return out, nil
}

// PutPlacements replaces the drills of a group in a period of its own, or in one that it shares with
// another; "" is the only group of the period. It returns a *problem.Stale when the group's drills,
// or the period, were changed since the version and the drills differ from those that stand.
func (s *Service) PutPlacements(ctx context.Context, c access.Coach, period uuid.UUID, group string, version int, in contract.PutPlacementsJSONRequestBody) (contract.Period, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Period{}, err
	}
	e, found, err := s.Store.Period(ctx, period)
	if err != nil {
		return contract.Period{}, err
	}
	if !found {
		return contract.Period{}, problem.ErrNotFound
	}
	if group = e.Meant(group); !e.Holds(group) {
		return contract.Period{}, invalid.Field("id", "drills are placed only in a group's own individual period, or in one that two groups share")
	}
	if !c.MayWork(group) {
		return contract.Period{}, problem.ErrForbidden
	}
	att, err := s.attendance(ctx, e, group)
	if err != nil {
		return contract.Period{}, err
	}
	wanted, err := placements(e, group, in.Placements)
	if err != nil {
		return contract.Period{}, err
	}
	switch {
	case same(e.Of(group), wanted): // sent again after a lost answer
		return view(h, e, att, group), nil
	case version < e.Since[group] || version > e.Version:
		return contract.Period{}, &problem.Stale{What: "period", By: e.ChangedBy, Current: view(h, e, att, group)}
	}
	if err := check(h, e, []string{group}, wanted); err != nil {
		return contract.Period{}, err
	}
	return s.save(ctx, c, h, e, group, wanted, att)
}

// attendance says who takes part on the day of the period's practice.
func (s *Service) attendance(ctx context.Context, e script.Period, group string) (crew.Attendance, error) {
	p, _, err := s.Store.Practice(ctx, e.PracticeID)
	if err != nil {
		return crew.Attendance{}, err
	}
	players, err := s.Squad.Group(ctx, group, p.On)
	att, _ := squad.Attendance(players)
	return att, err
}

// save writes the placements of a group and returns the period as it then stands. Where what a drill
// is marked as is corrected, its marks follow.
func (s *Service) save(ctx context.Context, c access.Coach, h *house.House, e script.Period, group string, wanted []script.Placement, att crew.Attendance) (contract.Period, error) {
	then := byID(wanted)
	for _, p := range e.Of(group) {
		q, stays := then[p.ID]
		d, _ := h.Known.Drill(p.DrillKey)
		was, now := h.MarkedAs(p.TechniqueKey, d).Key, h.MarkedAs(q.TechniqueKey, d).Key
		if !stays || p.Marks == 0 || was == now {
			continue
		}
		if err := s.Store.Relabel(ctx, p.ID, was, now); err != nil {
			return contract.Period{}, err
		}
	}
	if err := s.Store.Replace(ctx, e.ID, []string{group}, c.ID, s.Now(), wanted); err != nil {
		return contract.Period{}, err
	}
	after, _, err := s.Store.Period(ctx, e.ID)
	return view(h, after, att, group), err
}

// placements are those of an input. Where it does not say whose one is, it is the group's given, or
// that of the period's only group.
func placements(e script.Period, group string, in []contract.PlacementInput) ([]script.Placement, error) {
	group = e.Meant(group)
	list := make([]script.Placement, len(in))
	for i, d := range in {
		list[i] = script.Placement{ID: d.ID, Group: group, DrillKey: d.Drill, Start: d.Start, Minutes: d.Minutes, Lanes: d.Lanes}
		if d.Technique != nil {
			list[i].TechniqueKey = *d.Technique
		}
		if d.Cards != nil {
			list[i].Cards = strings.Join(*d.Cards, " ")
		}
		if d.Group != nil {
			list[i].Group = *d.Group
		}
		if !e.Holds(list[i].Group) || group != "" && list[i].Group != group {
			return nil, invalid.Field(fmt.Sprintf("placements[%d].group", i), "the period holds no drills of %q", list[i].Group)
		}
	}
	return list, nil
}

// same reports whether two lists hold the same drills, whatever their order.
func same(a, b []script.Placement) bool {
	if len(a) != len(b) {
		return false
	}
	there := byID(a)
	for _, p := range b {
		q, ok := there[p.ID]
		p.Marks = q.Marks
		if !ok || p != q {
			return false
		}
	}
	return true
}

func byID(list []script.Placement) map[uuid.UUID]script.Placement {
	m := make(map[uuid.UUID]script.Placement, len(list))
	for _, p := range list {
		m[p.ID] = p
	}
	return m
}

// ordered refuses an order of cards that the drill does not have, or that shows one twice.
func ordered(at string, d teaching.Drill, order []string) error {
	for i, k := range order {
		if !slices.ContainsFunc(d.Cards, func(c teaching.Card) bool { return c.Key == k }) {
			return invalid.Field(at, "%s has no card %q", d.Name, k)
		}
		if slices.Contains(order[:i], k) {
			return invalid.Field(at, "the card %q stands twice in the order", k)
		}
	}
	return nil
}

// check refuses what the rules refuse of the drills that groups shall have in a period, and taking
// out a drill that was marked.
func check(h *house.House, e script.Period, groups []string, wanted []script.Placement) error {
	seen := map[uuid.UUID]bool{}
	places := make([]practice.Placement, len(wanted))
	for i, p := range wanted {
		at := fmt.Sprintf("placements[%d]", i)
		d, ok := h.Library.Drill(p.DrillKey)
		if (!ok || !slices.Contains(d.Groups, p.Group)) && !stands(e.Placements, p) {
			return invalid.Field(at+".drill", "there is no drill %q for this group", p.DrillKey)
		}
		if p.TechniqueKey != "" && ok && !slices.Contains(d.Techniques, p.TechniqueKey) {
			return invalid.Field(at+".technique", "%s does not train %q", d.Name, p.TechniqueKey)
		}
		if err := ordered(at+".cards", d, strings.Fields(p.Cards)); ok && err != nil {
			return err
		}
		if seen[p.ID] {
			return invalid.Field(at+".id", "the id stands twice in the list")
		}
		seen[p.ID] = true
		places[i] = practice.Placement{Start: p.Start, Minutes: p.Minutes, Of: p.Group}
	}
	if err := practice.CheckPlacements(e.Minutes, places); err != nil {
		return err
	}
	then := byID(wanted)
	for _, p := range e.Placements {
		if p.Marks == 0 || !slices.Contains(groups, p.Group) {
			continue
		}
		d, _ := h.Known.Drill(p.DrillKey)
		if q, ok := then[p.ID]; !ok || q.DrillKey != p.DrillKey {
			return invalid.Field("placements", "%s has %d marks and stays on the record; withdraw them first", d.Name, p.Marks)
		}
	}
	return nil
}

// stands reports whether the same drill stands there already: one that was retired since
// may stay.
func stands(current []script.Placement, p script.Placement) bool {
	return slices.ContainsFunc(current, func(c script.Placement) bool { return c.ID == p.ID && c.DrillKey == p.DrillKey })
}

// Rotation says who works, helps and waits in each cycle of a placed drill.
func (s *Service) Rotation(ctx context.Context, c access.Coach, practiceID, placement uuid.UUID) (contract.Rotation, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Rotation{}, err
	}
	placed, err := s.Store.Placed(ctx, []uuid.UUID{placement})
	if err != nil {
		return contract.Rotation{}, err
	}
	if len(placed) == 0 || placed[0].PracticeID != practiceID {
		return contract.Rotation{}, problem.ErrNotFound
	}
	p := placed[0]
	d, ok := h.Library.Drill(p.DrillKey)
	if !ok {
		return contract.Rotation{}, problem.ErrNotFound
	}
	players, err := s.Squad.Group(ctx, p.Group, p.On)
	if err != nil {
		return contract.Rotation{}, err
	}
	return script.Rotation(d, players, p.Minutes, p.Lanes)
}
