package demo_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"nineyard/core/group"
	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
)

// look looks at a practice of the demo by the club's settings.
func look(t *testing.T, w *demo.World, p demo.Practice) []schedule.Finding {
	t.Helper()
	s := schedule.Script{Minutes: p.Minutes, Groups: group.Usual().Keys()}
	l := w.Settings.Limits
	s.Limits = schedule.Limits{ContactMinutes: l.ContactMinutes, WaterEvery: l.WaterEvery, MaxRepSeconds: l.MaxRepSeconds, WarmUpFirst: l.WarmUpFirst}
	for _, x := range w.Settings.Places {
		s.Places = append(s.Places, schedule.Stock{Key: x.Key, Count: x.Capacity})
	}
	for _, x := range w.Settings.Equipment {
		s.Equipment = append(s.Equipment, schedule.Stock{Key: x.Key, Count: x.Count})
	}
	for _, e := range w.Periods {
		if e.PracticeID != p.ID {
			continue
		}
		contact, err := practice.ParseContact(e.Contact)
		assert.NoError(t, err)
		q := schedule.Period{Key: e.ID.String(), Start: e.Start, Minutes: e.Minutes, Kind: e.Kind, Groups: e.Groups, Coaches: e.Coaches, Place: e.Place, Contact: contact,
			NeedsGroups: e.Needs, RepSeconds: e.RepSeconds, Equipment: map[string]int{}}
		for _, u := range e.Equipment {
			q.Equipment[u.Key] = u.Count
		}
		s.Periods = append(s.Periods, q)
	}
	r, err := schedule.Of(s)
	assert.NoError(t, err)
	return r.Findings
}

// TestOnePracticeIsTangledAndNoOther: every kind of finding is planted in the last one, and no
// other has an error.
func TestOnePracticeIsTangledAndNoOther(t *testing.T) {
	w := demotest.World()
	for _, p := range w.Practices {
		codes := map[schedule.Code]bool{}
		for _, f := range look(t, w, p) {
			codes[f.Code] = true
			if p.ID != w.Tangled().ID {
				assert.Equal(t, schedule.Warning, f.Severity, "%s: %s", p.OnDate.Format("2 January"), f.Message)
			}
		}
		if p.ID == w.Tangled().ID {
			for _, c := range schedule.Codes() {
				assert.True(t, codes[c], "%s is planted", c)
			}
		}
	}
}

// TestPeriodsHaveIDsOfTheirOwn: those that came later have another source.
func TestPeriodsHaveIDsOfTheirOwn(t *testing.T) {
	seen := map[uuid.UUID]bool{}
	for _, e := range demotest.World().Periods {
		assert.False(t, seen[e.ID])
		seen[e.ID] = true
	}
}
