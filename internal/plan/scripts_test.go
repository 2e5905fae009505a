package plan

import (
	"context"
	"errors"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func (m *memory) Put(_ context.Context, p script.Period, _ uuid.UUID, _ time.Time) error {
	p.ChangedBy = "H. Coach"
	for i, e := range m.periods {
		if e.ID == p.ID {
			p.Placements, p.Version = e.Placements, e.Version+1
			p.Since = since(p)
			m.periods[i] = p
			return nil
		}
	}
	p.Version, p.Placements = 1, []script.Placement{}
	p.Since = since(p)
	m.periods = append(m.periods, p)
	return nil
}

// since says that the drills of all its groups stand at the version of the period.
func since(p script.Period) map[string]int {
	at := map[string]int{}
	for _, g := range p.Groups {
		at[g] = p.Version
	}
	return at
}

func (m *memory) Delete(_ context.Context, id uuid.UUID) error {
	for i, e := range m.periods {
		if e.ID == id {
			m.periods = append(m.periods[:i], m.periods[i+1:]...)
			break
		}
	}
	return nil
}

func (m *memory) Settings(context.Context) (Settings, error) {
	if m.settings.Version == 0 {
		return Settings{Kept: Begin(), Staff: m.staff}, nil
	}
	m.settings.Staff = m.staff
	return m.settings, nil
}

func (m *memory) PutSettings(_ context.Context, version int, k Kept, _ uuid.UUID, _ time.Time) (bool, error) {
	if version != m.settings.Version+1 {
		return false, nil
	}
	m.settings = Settings{Kept: k, Version: version, ChangedBy: "H. Coach"}
	return true, nil
}

// TestScripts holds every store of scripts to the same contract.
func TestScripts(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			scripts := s.Store.(Scripts)
			id := uuid.New()
			p := script.Period{ID: id, PracticeID: s.practice, Start: -5, Minutes: 12, Kind: "group", Name: "Inside run", Contact: "thud", Groups: []string{"ol"}, Place: "north", Coaches: []string{"a", "b"},
				Equipment: []contract.EquipmentUse{{Key: "chutes", Count: 5}}, NeedsGroups: []string{"ol"}, RepSeconds: 6.5}
			put := func(p script.Period) error {
				return s.in(func(ctx context.Context) error { return scripts.Put(ctx, p, s.by, testkit.Now()) })
			}
			read := func() (e script.Period, found bool) {
				require.NoError(t, s.in(func(ctx context.Context) (err error) { e, found, err = s.Period(ctx, id); return err }))
				return e, found
			}
			require.NoError(t, put(p))
			e, _ := read()
			want := p
			want.Version, want.ChangedBy, want.Placements, want.Since = 1, "H. Coach", []script.Placement{}, map[string]int{"ol": 1}
			assert.Equal(t, want, e)
			p.Version, p.Groups, p.Coaches, p.Equipment, p.NeedsGroups, p.Place = 1, []string{}, []string{}, []contract.EquipmentUse{}, []string{}, ""
			require.NoError(t, put(p))
			e, _ = read()
			want = p
			want.Version, want.ChangedBy, want.Placements, want.Since = 2, "H. Coach", []script.Placement{}, map[string]int{}
			assert.Equal(t, want, e)
			require.NoError(t, s.in(func(ctx context.Context) error { return scripts.Delete(ctx, id) }))
			_, found := read()
			assert.False(t, found)

			require.NoError(t, s.in(func(ctx context.Context) error {
				set, err := scripts.Settings(ctx)
				require.NoError(t, err)
				assert.Equal(t, Begin(), set.Kept)
				k := Kept{Places: []contract.PracticePlace{{Key: "north", Name: "North", Capacity: 2}}, Themes: []string{"Zone day"}}
				for version, done := range map[int]bool{2: false} {
					ok, err := scripts.PutSettings(ctx, version, k, s.by, testkit.Now())
					require.NoError(t, err)
					assert.Equal(t, done, ok)
				}
				for _, c := range []struct {
					version int
					done    bool
				}{{1, true}, {1, false}, {3, false}, {2, true}} {
					ok, err := scripts.PutSettings(ctx, c.version, k, s.by, testkit.Now())
					require.NoError(t, err)
					assert.Equal(t, c.done, ok, c.version)
				}
				set, err = scripts.Settings(ctx)
				assert.Equal(t, []any{2, "H. Coach", k.Places, k.Themes}, []any{set.Version, set.ChangedBy, set.Places, set.Themes})
				return err
			}))
		})
	}
}

func inside(groups ...string) contract.PeriodInput {
	return contract.PeriodInput{Start: 40, Minutes: 12, Kind: "group", Name: "Inside run", Contact: "thud", Groups: groups, Coaches: []string{}, Equipment: []contract.EquipmentUse{}, NeedsGroups: []string{}}
}

// TestAScriptIsWrittenPeriodByPeriod: made, changed against what was read, taken out.
func TestAScriptIsWrittenPeriodByPeriod(t *testing.T) {
	b := open(t)
	ctx, head, id := context.Background(), testkit.Head(), uuid.New()
	v, err := b.PutPeriod(ctx, head, b.practice, id, 0, inside("ol", "dl"))
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	v, err = b.PutPeriod(ctx, head, b.practice, id, 0, inside("dl", "ol"))
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	longer := inside("ol", "dl")
	longer.Minutes = 14
	_, err = b.PutPeriod(ctx, head, b.practice, id, 0, longer)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	assert.Equal(t, 12, stale.Current.(contract.SavedPeriod).Period.Minutes)
	_, err = b.PutPeriod(ctx, head, b.practice, id, 1, longer)
	require.NoError(t, err)

	page, err := b.Practice(ctx, b.coach, b.practice, "ol")
	require.NoError(t, err)
	require.Len(t, page.Periods, 2)
	assert.True(t, page.Periods[0].Editable, "his own")
	assert.False(t, page.Periods[1].Editable, "shared with another group")
	assert.NotEmpty(t, page.Look.Findings, "what is wrong is said with it")
	assert.Len(t, page.Look.Contact, len(b.coach.Club.Groups))

	_, err = b.DeletePeriod(ctx, head, b.practice, id, 1)
	require.True(t, errors.As(err, &stale))
	_, err = b.DeletePeriod(ctx, head, b.practice, id, 2)
	require.NoError(t, err)
	_, err = b.DeletePeriod(ctx, head, b.practice, id, 2)
	require.NoError(t, err, "sent again")
	_, err = b.PutPeriod(ctx, head, b.practice, id, 2, longer)
	require.True(t, errors.As(err, &stale), "somebody has taken it out")
	assert.Nil(t, stale.Current.(contract.SavedPeriod).Period)
	_, err = b.PutPeriod(ctx, head, uuid.New(), id, 0, longer)
	require.ErrorIs(t, err, problem.ErrNotFound)
}

// TestEachOwnsHisGroupsPeriods and the head coach all of them.
func TestEachOwnsHisGroupsPeriods(t *testing.T) {
	b := open(t)
	ctx, id := context.Background(), uuid.New()
	_, err := b.PutPeriod(ctx, b.coach, b.practice, id, 0, inside("ol", "dl"))
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.PutPeriod(ctx, b.coach, b.practice, id, 0, inside())
	require.ErrorIs(t, err, problem.ErrForbidden, "nobody's")
	_, err = b.PutPeriod(ctx, b.coach, b.practice, id, 0, inside("ol"))
	require.NoError(t, err)
	_, err = b.PutPeriod(ctx, testkit.Coach("dl"), b.practice, id, 1, inside("dl"))
	require.ErrorIs(t, err, problem.ErrForbidden, "taken over")
	_, err = b.DeletePeriod(ctx, testkit.Coach("dl"), b.practice, id, 1)
	require.ErrorIs(t, err, problem.ErrForbidden)
}

// TestDrillsGoWithTheirPeriod: they are shortened with it, named, and never lost in silence.
func TestDrillsGoWithTheirPeriod(t *testing.T) {
	b := open(t)
	ctx, a, c := context.Background(), uuid.New(), uuid.New()
	_, err := b.put(1, drill(a, "pull_bag", 0, 8), drill(c, "base_fit", 10, 8))
	require.NoError(t, err)
	own := contract.PeriodInput{Start: 20, Minutes: 12, Kind: "individual", Name: "Line", Contact: "bag", Groups: []string{"ol"}}
	v, err := b.PutPeriod(ctx, b.coach, b.practice, b.period, 2, own)
	require.NoError(t, err)
	assert.Equal(t, []contract.Shortened{{Drill: "Pull and kick the bag", From: 8, To: 6}, {Drill: "Base block fit", From: 8, To: 6}}[0], v.Shortened[0])
	page, err := b.Practice(ctx, b.coach, b.practice, "ol")
	require.NoError(t, err)
	assert.Equal(t, []int{6, 6}, []int{page.Periods[0].Placements[0].Minutes, page.Periods[0].Placements[1].Minutes})

	own.Minutes = 13
	v, err = b.PutPeriod(ctx, b.coach, b.practice, b.period, v.Version, own)
	require.NoError(t, err)
	_, err = b.put(b.memory.periods[0].Version, drill(a, "pull_bag", 0, 6), drill(c, "base_fit", 7, 6))
	require.NoError(t, err)
	own.Minutes = 12 // the minute between them is enough
	v, err = b.PutPeriod(ctx, b.coach, b.practice, b.period, b.memory.periods[0].Version, own)
	require.NoError(t, err)
	assert.Empty(t, v.Shortened)
	assert.Equal(t, 6, b.memory.periods[0].Placements[1].Start, "it moves up into the shorter period")

	own.Minutes = 5
	_, err = b.PutPeriod(ctx, b.coach, b.practice, b.period, v.Version, own)
	assert.Equal(t, "minutes", field(t, err))
	own.Minutes, own.Kind = 12, "group"
	_, err = b.PutPeriod(ctx, b.coach, b.practice, b.period, v.Version, own)
	assert.Equal(t, "groups", field(t, err))

	b.memory.periods[0].Placements[0].Marks = 3
	_, err = b.DeletePeriod(ctx, b.coach, b.practice, b.period, b.memory.periods[0].Version)
	assert.Equal(t, "id", field(t, err))
	b.memory.periods[0].Placements[0].Marks = 0
	_, err = b.DeletePeriod(ctx, b.coach, b.practice, b.period, b.memory.periods[0].Version)
	require.NoError(t, err)
	own.Kind, own.Placements = "individual", &[]contract.PlacementInput{drill(a, "pull_bag", 0, 6)}
	_, err = b.PutPeriod(ctx, b.coach, b.practice, b.period, 0, own) // taken back
	require.NoError(t, err)
	page, err = b.Practice(ctx, b.coach, b.practice, "ol")
	require.NoError(t, err)
	assert.Len(t, page.Periods[0].Placements, 1, "with its drills")
}

// TestAPeriodSpeaksOfWhatTheClubHas: every other is refused with its field, but what stood there
// before may stay.
func TestAPeriodSpeaksOfWhatTheClubHas(t *testing.T) {
	b := open(t)
	ctx, head, id := context.Background(), testkit.Head(), uuid.New()
	b.memory.staff = []contract.Named{{Key: "kell", Name: "R. Kell"}}
	set := contract.PracticeSettingsInput{Places: []contract.PracticePlace{{Key: "north", Name: "North end", Capacity: 2}}, Equipment: []contract.EquipmentStock{{Key: "chutes", Name: "Chutes", Count: 5}},
		Helpers: []contract.Helper{{Key: "h1", Name: "Student helper"}}, Themes: []string{"Zone day"}}
	_, err := b.PutSettings(ctx, b.coach, 0, set)
	require.ErrorIs(t, err, problem.ErrForbidden)
	v, err := b.PutSettings(ctx, head, 0, set)
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	assert.Equal(t, []contract.StaffMember{{Key: "kell", Name: "R. Kell"}, {Key: "h1", Name: "Student helper", Helper: true}}, v.Staff)
	var stale *problem.Stale
	_, err = b.PutSettings(ctx, head, 0, set)
	require.True(t, errors.As(err, &stale))
	for field_, do := range map[string]func(s *contract.PracticeSettingsInput){
		"places[1].name": func(s *contract.PracticeSettingsInput) {
			s.Places = append(s.Places, contract.PracticePlace{Key: "n2", Name: "north END", Capacity: 1})
		},
		"equipment[0].name": func(s *contract.PracticeSettingsInput) {
			s.Equipment = []contract.EquipmentStock{{Key: "x", Name: " "}}
		},
		"themes[1]": func(s *contract.PracticeSettingsInput) { s.Themes = append(s.Themes, "Zone day") },
		"helpers[1].name": func(s *contract.PracticeSettingsInput) {
			s.Helpers = append(s.Helpers, contract.Helper{Key: "h1", Name: "Other"})
		},
	} {
		bad := set
		do(&bad)
		_, err := b.PutSettings(ctx, head, 1, bad)
		assert.Equal(t, field_, field(t, err))
	}
	for field_, do := range map[string]func(p *contract.PeriodInput){
		"place":           func(p *contract.PeriodInput) { p.Place = "moon" },
		"equipment":       func(p *contract.PeriodInput) { p.Equipment = []contract.EquipmentUse{{Key: "sled", Count: 1}} },
		"coaches":         func(p *contract.PeriodInput) { p.Coaches = []string{"nobody"} },
		"groups[1]":       func(p *contract.PeriodInput) { p.Groups = []string{"ol", "xx"} },
		"needs_groups[0]": func(p *contract.PeriodInput) { p.NeedsGroups = []string{"xx"} },
		"start":           func(p *contract.PeriodInput) { p.Start = -2000 },
	} {
		bad := inside("ol", "dl")
		do(&bad)
		_, err := b.PutPeriod(ctx, head, b.practice, id, 0, bad)
		assert.Equal(t, field_, field(t, err))
	}
	good := inside("ol", "dl")
	good.Place, good.Equipment, good.Coaches, good.NeedsGroups = "north", []contract.EquipmentUse{{Key: "chutes", Count: 2}}, []string{"kell", "h1"}, []string{"ol"}
	_, err = b.PutPeriod(ctx, head, b.practice, id, 0, good)
	require.NoError(t, err)
	_, err = b.PutSettings(ctx, head, 1, contract.PracticeSettingsInput{})
	require.NoError(t, err)
	good.Minutes++
	_, err = b.PutPeriod(ctx, head, b.practice, id, 1, good)
	require.NoError(t, err, "the club has no north end any longer, and the script still says it")
	_, err = b.Practice(ctx, head, b.practice, "ol")
	require.NoError(t, err)
}

// TestAScriptIsTakenAway as a list that a spreadsheet opens, in the words of the club.
func TestAScriptIsTakenAway(t *testing.T) {
	b := open(t)
	ctx, head := context.Background(), testkit.Head()
	_, err := b.PutSettings(ctx, head, 0, contract.PracticeSettingsInput{Places: []contract.PracticePlace{{Key: "north", Name: "North end", Capacity: 2}}, Equipment: []contract.EquipmentStock{{Key: "chutes", Name: "Chutes", Count: 5}}})
	require.NoError(t, err)
	p := inside("ol", "dl")
	p.Place, p.Equipment, p.NeedsGroups = "north", []contract.EquipmentUse{{Key: "chutes", Count: 2}}, []string{"ol"}
	_, err = b.PutPeriod(ctx, head, b.practice, uuid.New(), 0, p)
	require.NoError(t, err)
	name, content, err := b.ExportScript(ctx, b.coach, b.practice, "csv")
	require.NoError(t, err)
	assert.Equal(t, "script-2026-10-13.csv", name)
	assert.Contains(t, string(content), "18:40,18:52,12,Inside run,group,\"OL, DL\",thud,North end,,2 Chutes,OL")
	_, content, err = b.ExportScript(ctx, b.coach, b.practice, "xlsx")
	require.NoError(t, err)
	assert.Equal(t, "PK", string(content[:2]))
	_, _, err = b.ExportScript(ctx, b.coach, b.practice, "pdf")
	assert.Equal(t, "format", field(t, err))
	_, _, err = b.ExportScript(ctx, b.coach, uuid.New(), "csv")
	require.ErrorIs(t, err, problem.ErrNotFound)
}
