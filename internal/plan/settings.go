package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/schedule"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Kept is what a club has set for its practices, as it is kept.
type Kept struct {
	Places    []contract.PracticePlace  `json:"places"`
	Equipment []contract.EquipmentStock `json:"equipment"`
	Helpers   []contract.Helper         `json:"helpers"`
	Limits    contract.PracticeLimits   `json:"limits"`
	Themes    []string                  `json:"themes"`
}

// Settings are what is kept, with the staff of the club.
type Settings struct {
	Kept
	Version   int // 0: nothing is set yet
	ChangedBy string
	Staff     []contract.Named
}

// Begin is what a club begins with: example limits, nothing else.
func Begin() Kept {
	s := schedule.Shipped()
	k := Kept{Places: []contract.PracticePlace{}, Equipment: []contract.EquipmentStock{}, Helpers: []contract.Helper{}, Themes: []string{},
		Limits: contract.PracticeLimits{ContactMinutes: s.ContactMinutes, WaterEvery: s.WaterEvery, MaxRepSeconds: s.MaxRepSeconds, WarmUpFirst: s.WarmUpFirst,
			ThrowsDay: new(70), KicksDay: new(40), SprintDay: new(600), RestAfter: new(3)}}
	examples(&k.Limits)
	return k
}

func (s Settings) view(c access.Coach) contract.PracticeSettings {
	v := contract.PracticeSettings{Version: s.Version, Places: append([]contract.PracticePlace{}, s.Places...), Equipment: append([]contract.EquipmentStock{}, s.Equipment...),
		Staff: []contract.StaffMember{}, Limits: s.Limits, Themes: append([]string{}, s.Themes...), Editable: c.IsHead()}
	for _, m := range s.Staff {
		v.Staff = append(v.Staff, contract.StaffMember{Key: m.Key, Name: m.Name})
	}
	for _, h := range s.Helpers {
		v.Staff = append(v.Staff, contract.StaffMember{Key: h.Key, Name: h.Name, Helper: true})
	}
	if s.ChangedBy != "" {
		v.ChangedBy = &s.ChangedBy
	}
	return v
}

// Settings returns what the club has set for its practices.
func (s *Service) Settings(ctx context.Context, c access.Coach) (contract.PracticeSettings, error) {
	set, err := s.Scripts.Settings(ctx)
	return set.view(c), err
}

// PutSettings changes them; the head coach alone may. It returns a *problem.Stale when they were
// changed since the version given.
func (s *Service) PutSettings(ctx context.Context, c access.Coach, version int, in contract.PracticeSettingsInput) (contract.PracticeSettings, error) {
	if !c.IsHead() {
		return contract.PracticeSettings{}, problem.ErrForbidden
	}
	next := Kept{Places: in.Places, Equipment: in.Equipment, Helpers: in.Helpers, Limits: in.Limits, Themes: in.Themes}
	if err := checkConditions(in.Limits); err != nil {
		return contract.PracticeSettings{}, err
	}
	if err := next.check(); err != nil {
		return contract.PracticeSettings{}, err
	}
	done, err := s.Scripts.PutSettings(ctx, version+1, next, c.ID, s.Now())
	if err != nil {
		return contract.PracticeSettings{}, err
	}
	now, err := s.Settings(ctx, c)
	if err == nil && !done {
		by := ""
		if now.ChangedBy != nil {
			by = *now.ChangedBy
		}
		return now, &problem.Stale{What: "list", By: by, Current: now}
	}
	return now, err
}

// check refuses a key or a name that stands twice in one list: a typed script could not tell
// them apart.
func (k Kept) check() error {
	var places, equipment, helpers, themes []contract.Named
	for _, p := range k.Places {
		places = append(places, contract.Named{Key: p.Key, Name: p.Name})
	}
	for _, e := range k.Equipment {
		equipment = append(equipment, contract.Named{Key: e.Key, Name: e.Name})
	}
	for _, h := range k.Helpers {
		helpers = append(helpers, contract.Named(h))
	}
	for _, t := range k.Themes {
		themes = append(themes, contract.Named{Key: t, Name: t})
	}
	for _, list := range []struct {
		field string
		of    []contract.Named
	}{{"places", places}, {"equipment", equipment}, {"helpers", helpers}, {"themes", themes}} {
		for i, x := range list.of {
			same := func(y contract.Named) bool {
				return y.Key == x.Key || strings.EqualFold(strings.TrimSpace(y.Name), strings.TrimSpace(x.Name))
			}
			if strings.TrimSpace(x.Name) == "" || slices.ContainsFunc(list.of[:i], same) {
				at := fmt.Sprintf("%s[%d]", list.field, i)
				if list.field != "themes" {
					at += ".name"
				}
				return invalid.Field(at, "the name is missing, or another in the list has it: %q", x.Name)
			}
		}
	}
	return nil
}
