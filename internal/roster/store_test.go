package roster

import (
	"context"
	"encoding/json"
	"slices"
	"sort"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/roster"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/platform/table"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

const coachName = "H. Coach"

// memory is the Store, the Spells and the Lists in memory.
type memory struct {
	entries map[uuid.UUID]*Entry
	merged  map[uuid.UUID]bool
	spells  []*keptSpell
	uploads map[uuid.UUID]*keptUpload
	chosen  map[string]map[string]int
	groups  group.List

	proposed []Proposal
}

type keptSpell struct {
	Spell
	withdrawn bool
}

type keptUpload struct {
	Upload
	by uuid.UUID
	at time.Time
}

func newMemory() *memory {
	return &memory{entries: map[uuid.UUID]*Entry{}, merged: map[uuid.UUID]bool{}, uploads: map[uuid.UUID]*keptUpload{}, chosen: map[string]map[string]int{}, groups: group.Usual()}
}

func (m *memory) read(e *Entry) Entry {
	out := *e
	out.Groups = []string{}
	for _, g := range m.groups {
		if slices.Contains(e.Groups, g.Key) {
			out.Groups = append(out.Groups, g.Key)
		}
	}
	out.Spells = []Spell{}
	for _, s := range m.spells {
		if s.PlayerID == e.ID && !s.withdrawn {
			out.Spells = append(out.Spells, s.Spell)
		}
	}
	sort.SliceStable(out.Spells, func(i, j int) bool { return out.Spells[i].Is.From < out.Spells[j].Is.From })
	return out
}

func (m *memory) Entries(context.Context, access.Season) ([]Entry, error) {
	list := []Entry{}
	for id, e := range m.entries {
		if !m.merged[id] {
			list = append(list, m.read(e))
		}
	}
	number := func(s string) int {
		n, digits := 0, false
		for _, r := range s {
			if r >= '0' && r <= '9' {
				n, digits = n*10+int(r-'0'), true
			}
		}
		if !digits {
			return 1 << 30
		}
		return n
	}
	sort.Slice(list, func(i, j int) bool {
		a, b := list[i].Person, list[j].Person
		if x, y := number(a.Jersey), number(b.Jersey); x != y {
			return x < y
		}
		return a.Jersey+a.Last+a.First < b.Jersey+b.Last+b.First
	})
	return list, nil
}

func (m *memory) Entry(_ context.Context, _ access.Season, id uuid.UUID) (Entry, bool, error) {
	e := m.entries[id]
	if e == nil || m.merged[id] {
		return Entry{}, false, nil
	}
	return m.read(e), true, nil
}

func (m *memory) Save(_ context.Context, e Entry, _ uuid.UUID) error {
	was := m.entries[e.ID]
	switch {
	case e.Version == 0 && was != nil:
		return problem.ErrTaken
	case e.Version != 0 && (was == nil || was.Version != e.Version):
		return problem.ErrNotFound
	}
	e.Version++
	m.entries[e.ID] = &e
	return nil
}

func (m *memory) Merge(_ context.Context, gone, kept uuid.UUID) (int, error) {
	g, k := m.entries[gone], m.entries[kept]
	moved := g.Marks
	k.Marks, g.Marks = k.Marks+moved, 0
	k.Groups = append(append([]string{}, k.Groups...), g.Groups...)
	k.Version++
	for _, s := range m.spells {
		if s.PlayerID == gone {
			s.PlayerID = kept
		}
	}
	m.merged[gone] = true
	return moved, nil
}

func (m *memory) Spell(_ context.Context, id uuid.UUID) (Spell, bool, error) {
	for _, s := range m.spells {
		if s.ID == id && !s.withdrawn {
			return s.Spell, true, nil
		}
	}
	return Spell{}, false, nil
}

func (m *memory) SaveSpell(_ context.Context, s Spell, _ uuid.UUID, at time.Time) error {
	if s.Is.Cleared != nil {
		s.RecordedBy = coachName
	}
	if s.Version == 0 {
		s.Version, s.By, s.At = 1, coachName, at
		m.spells = append(m.spells, &keptSpell{Spell: s})
		return nil
	}
	for _, k := range m.spells {
		if k.ID == s.ID {
			s.Version, s.By, s.At = k.Version+1, k.By, k.At
			k.Spell = s
		}
	}
	return nil
}

func (m *memory) WithdrawSpell(_ context.Context, id uuid.UUID, _ time.Time) error {
	for _, k := range m.spells {
		if k.ID == id {
			k.withdrawn = true
		}
	}
	return nil
}

func (m *memory) Group(ctx context.Context, group string, day season.Date) ([]squad.Player, error) {
	all, err := m.All(ctx, day)
	list := []squad.Player{}
	for _, p := range all {
		if slices.Contains(p.Groups, group) && !m.entries[p.ID].Archived {
			list = append(list, p)
		}
	}
	return list, err
}

func (m *memory) All(ctx context.Context, day season.Date) ([]squad.Player, error) {
	entries, err := m.Entries(ctx, access.Season{})
	list := []squad.Player{}
	for _, e := range entries {
		p := squad.Player{ID: e.ID, Jersey: e.Person.Jersey, FirstName: e.Person.First, LastName: e.Person.Last, Position: e.Person.Position, HeightIn: orNull(e.Person.HeightIn),
			WeightLb: orNull(int(e.Person.WeightLb)), Returning: e.Person.Returning, Groups: e.Groups, Status: availability.Available}
		if s, holds := availability.On(facts(e.Spells), day); holds {
			p.Status, p.Note = s.Status, s.Reason
		}
		list = append(list, p)
	}
	return list, err
}

func (m *memory) KeepUpload(_ context.Context, u Upload, by uuid.UUID, at, forget time.Time) error {
	for id, k := range m.uploads {
		if k.at.Before(forget) {
			delete(m.uploads, id)
		}
	}
	if k := m.uploads[u.ID]; k != nil {
		a, _ := json.Marshal(k.Table)
		b, _ := json.Marshal(u.Table)
		if k.by != by || string(a) != string(b) {
			return problem.ErrTaken
		}
	}
	m.uploads[u.ID] = &keptUpload{Upload: u, by: by, at: at}
	return nil
}

func (m *memory) Upload(_ context.Context, id uuid.UUID, _ bool) (Upload, map[string]int, bool, error) {
	k := m.uploads[id]
	if k == nil {
		return Upload{}, nil, false, nil
	}
	return k.Upload, m.chosen[headerKey(k.Table.Headers)], true, nil
}

func (m *memory) TakeIn(_ context.Context, create, update []Entry, _ uuid.UUID, groups map[uuid.UUID]string) error {
	for _, e := range slices.Concat(create, update) {
		if g := groups[e.ID]; g != "" {
			e.Groups = append(append([]string{}, e.Groups...), g)
		}
		e.Version, e.Archived = e.Version+1, false
		e.Person.SaysReturning = false
		m.entries[e.ID] = &e
	}
	return nil
}

func (m *memory) Done(_ context.Context, id uuid.UUID, headers string, mapping map[string]int, answer json.RawMessage) error {
	m.chosen[headers] = mapping
	m.uploads[id].Imported = answer
	return nil
}

func (m *memory) Propose(_ context.Context, list []Proposal, _ uuid.UUID, at time.Time) error {
	for _, p := range list {
		m.proposed = slices.DeleteFunc(m.proposed, func(was Proposal) bool { return was.subject() == p.subject() })
		p.By, p.At = coachName, at
		m.proposed = append(m.proposed, p)
	}
	return nil
}

func (m *memory) Proposed(context.Context) ([]Proposal, error) { return slices.Clone(m.proposed), nil }

func (m *memory) Decided(_ context.Context, id uuid.UUID) (Proposal, bool, error) {
	i := slices.IndexFunc(m.proposed, func(p Proposal) bool { return p.ID == id })
	if i < 0 {
		return Proposal{}, false, nil
	}
	p := m.proposed[i]
	p.By = ""
	m.proposed = slices.Delete(m.proposed, i, i+1)
	return p, true, nil
}

// everything is what the roster's ports ask for together.
type everything interface {
	Store
	Spells
	Lists
	Proposals
}

// shelf is a store with no players of its own to begin with.
type shelf struct {
	everything
	season access.Season
	by     uuid.UUID
	in     func(func(ctx context.Context) error) error
	other  func(func(ctx context.Context) error) error // of another club; nil when there is none
}

func inMemory(*testing.T) shelf {
	return shelf{everything: newMemory(), season: access.Season{Start: testkit.Day}, by: uuid.New(),
		in: func(do func(context.Context) error) error { return do(context.Background()) }}
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	require.NoError(t, f.In(func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `DELETE FROM players`, pg.Args{})
		return err
	}))
	return shelf{everything: SQL{}, season: f.Season, by: f.HeadCoach, other: f.InOther,
		in: func(do func(context.Context) error) error { return pg.Meaning(f.In(do)) }}
}

func eachStore(t *testing.T, test func(t *testing.T, s shelf)) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) { test(t, open(t)) })
	}
}

func named(number, last string, groups ...string) Entry {
	return Entry{ID: uuid.New(), Person: roster.Person{Jersey: number, First: "Jun", Last: last, Position: "LG", HeightIn: 73.5, WeightLb: 270, Returning: true}, Groups: groups}
}

// TestStoreOfPlayers holds every Store to the same contract.
func TestStoreOfPlayers(t *testing.T) {
	eachStore(t, func(t *testing.T, s shelf) {
		a, b := named("64", "Sato", "te", "ol"), named("7", "Lind", "ol")
		b.Person.HeightIn, b.Person.WeightLb, b.Person.Returning = 0, 0, false
		require.NoError(t, s.in(func(ctx context.Context) error {
			require.NoError(t, s.Save(ctx, a, s.by))
			require.NoError(t, s.Save(ctx, b, s.by))
			list, err := s.Entries(ctx, s.season)
			require.NoError(t, err)
			require.Len(t, list, 2)
			assert.Equal(t, []uuid.UUID{b.ID, a.ID}, []uuid.UUID{list[0].ID, list[1].ID}, "by number, 7 before 64")
			got := list[1]
			assert.Equal(t, a.Person, got.Person)
			assert.Equal(t, []string{"ol", "te"}, got.Groups, "in the order of the lanes")
			assert.Equal(t, []any{1, false, 0, 0}, []any{got.Version, got.Archived, got.Marks, len(got.Spells)})
			assert.Zero(t, list[0].Person.HeightIn)

			got.Person.Last, got.Groups, got.Archived, got.Person.WeightLb = "Satoh", []string{"ol"}, true, 0
			require.NoError(t, s.Save(ctx, got, s.by))
			again, found, err := s.Entry(ctx, s.season, a.ID)
			require.NoError(t, err)
			require.True(t, found)
			assert.Equal(t, []any{2, "Satoh", true, 0.0}, []any{again.Version, again.Person.Last, again.Archived, again.Person.WeightLb})
			assert.Equal(t, []string{"ol"}, again.Groups)
			assert.ErrorIs(t, s.Save(ctx, got, s.by), problem.ErrNotFound, "a version that is gone")
			_, found, err = s.Entry(ctx, s.season, uuid.New())
			require.NoError(t, err)
			assert.False(t, found)

			line, err := s.Group(ctx, "ol", testkit.Day)
			require.NoError(t, err)
			require.Len(t, line, 1, "an archived player is in no group's list")
			assert.Equal(t, "Lind", line[0].LastName)
			assert.Nil(t, line[0].HeightIn)
			all, err := s.All(ctx, testkit.Day)
			require.NoError(t, err)
			assert.Len(t, all, 2)
			return nil
		}))
		if s.other == nil {
			return
		}
		require.NoError(t, s.other(func(ctx context.Context) error {
			_, found, err := s.Entry(ctx, s.season, a.ID)
			assert.False(t, found, "another club's")
			return err
		}))
	})
}

// TestStoreOfAvailability: by day, and a spell taken back is not read again.
func TestStoreOfAvailability(t *testing.T) {
	eachStore(t, func(t *testing.T, s shelf) {
		p := named("64", "Sato", "ol")
		to := testkit.Day + 2
		out := Spell{ID: uuid.New(), PlayerID: p.ID, Is: availability.Spell{Status: availability.Out, From: testkit.Day, To: &to, Reason: "ankle"}}
		hold := Spell{ID: uuid.New(), PlayerID: p.ID, Is: availability.Spell{Status: availability.HeadHold, From: testkit.Day + 5, Reason: "hit on Saturday"}}
		require.NoError(t, s.in(func(ctx context.Context) error {
			require.NoError(t, s.Save(ctx, p, s.by))
			require.NoError(t, s.SaveSpell(ctx, out, s.by, testkit.Now()))
			require.NoError(t, s.SaveSpell(ctx, hold, s.by, testkit.Now()))
			for day, want := range map[season.Date]availability.Status{testkit.Day - 1: availability.Available, testkit.Day: availability.Out, to: availability.Out,
				to + 1: availability.Available, testkit.Day + 40: availability.HeadHold} {
				list, err := s.Group(ctx, "ol", day)
				require.NoError(t, err)
				require.Len(t, list, 1)
				assert.Equal(t, want, list[0].Status, day)
			}
			got, found, err := s.Spell(ctx, hold.ID)
			require.NoError(t, err)
			require.True(t, found)
			assert.Equal(t, hold.Is, got.Is)
			assert.Equal(t, []any{p.ID, 1, coachName, ""}, []any{got.PlayerID, got.Version, got.By, got.RecordedBy})
			assert.True(t, testkit.Now().Equal(got.At))

			got.Is.Cleared = &availability.Clearance{By: "Dr V. Aster", Document: "letter 12", On: testkit.Day + 12}
			require.NoError(t, s.SaveSpell(ctx, got, s.by, testkit.Now()))
			got, _, err = s.Spell(ctx, hold.ID)
			require.NoError(t, err)
			assert.Equal(t, &availability.Clearance{By: "Dr V. Aster", Document: "letter 12", On: testkit.Day + 12}, got.Is.Cleared)
			assert.Equal(t, []any{2, coachName}, []any{got.Version, got.RecordedBy})

			e, _, err := s.Entry(ctx, s.season, p.ID)
			require.NoError(t, err)
			assert.Equal(t, []uuid.UUID{out.ID, hold.ID}, []uuid.UUID{e.Spells[0].ID, e.Spells[1].ID}, "oldest first")
			require.NoError(t, s.WithdrawSpell(ctx, out.ID, testkit.Now()))
			_, found, err = s.Spell(ctx, out.ID)
			require.NoError(t, err)
			assert.False(t, found)
			list, err := s.Group(ctx, "ol", testkit.Day)
			assert.Equal(t, availability.Available, list[0].Status)
			return err
		}))
	})
}

// TestStoreMergesTwoEntries: his groups and his availability follow, and he is listed once.
func TestStoreMergesTwoEntries(t *testing.T) {
	eachStore(t, func(t *testing.T, s shelf) {
		a, b := named("64", "Sato", "ol"), named("", "Sato", "te")
		hold := Spell{ID: uuid.New(), PlayerID: b.ID, Is: availability.Spell{Status: availability.Limited, From: testkit.Day, Reason: "shoulder"}}
		require.NoError(t, s.in(func(ctx context.Context) error {
			require.NoError(t, s.Save(ctx, a, s.by))
			require.NoError(t, s.Save(ctx, b, s.by))
			require.NoError(t, s.SaveSpell(ctx, hold, s.by, testkit.Now()))
			moved, err := s.Merge(ctx, b.ID, a.ID)
			require.NoError(t, err)
			assert.Zero(t, moved)
			_, found, err := s.Entry(ctx, s.season, b.ID)
			require.NoError(t, err)
			assert.False(t, found)
			list, err := s.Entries(ctx, s.season)
			require.NoError(t, err)
			require.Len(t, list, 1)
			assert.Equal(t, []string{"ol", "te"}, list[0].Groups)
			assert.Len(t, list[0].Spells, 1)
			return nil
		}))
	})
}

// TestStoreOfLists: read once, kept a day, taken in whole, and remembered for lists like it.
func TestStoreOfLists(t *testing.T) {
	eachStore(t, func(t *testing.T, s shelf) {
		read, err := table.Read(strings.NewReader("Nr,Name\n64,\"Sato, Jun\"\n"))
		require.NoError(t, err)
		u := Upload{ID: uuid.New(), Table: read}
		at := testkit.Now()
		require.NoError(t, s.in(func(ctx context.Context) error {
			require.NoError(t, s.KeepUpload(ctx, u, s.by, at, at.Add(-time.Hour)))
			require.NoError(t, s.KeepUpload(ctx, u, s.by, at, at.Add(-time.Hour)), "the same again")
			other := u
			other.Table.Rows = nil
			assert.ErrorIs(t, s.KeepUpload(ctx, other, s.by, at, at.Add(-time.Hour)), problem.ErrTaken)
			got, chosen, found, err := s.Upload(ctx, u.ID, true)
			require.NoError(t, err)
			require.True(t, found)
			assert.Equal(t, u.Table, got.Table)
			assert.Nil(t, chosen)
			assert.Empty(t, got.Imported)
			_, _, found, err = s.Upload(ctx, uuid.New(), false)
			require.NoError(t, err)
			assert.False(t, found)

			there := named("7", "Lind", "te")
			there.Archived = true
			require.NoError(t, s.Save(ctx, there, s.by))
			there, _, err = s.Entry(ctx, s.season, there.ID)
			require.NoError(t, err)
			fresh := named("64", "Sato")
			there.Person.WeightLb = 255
			require.NoError(t, s.TakeIn(ctx, []Entry{fresh}, []Entry{there}, s.by, map[uuid.UUID]string{fresh.ID: "ol", there.ID: "ol"}))
			list, err := s.Entries(ctx, s.season)
			require.NoError(t, err)
			require.Len(t, list, 2)
			assert.Equal(t, []any{2, false, 255.0}, []any{list[0].Version, list[0].Archived, list[0].Person.WeightLb}, "a player on the list is brought back")
			assert.Equal(t, []string{"ol", "te"}, list[0].Groups)
			assert.Equal(t, []any{1, fresh.Person, []string{"ol"}}, []any{list[1].Version, list[1].Person, list[1].Groups})
			require.NoError(t, s.TakeIn(ctx, nil, nil, s.by, nil))

			require.NoError(t, s.Done(ctx, u.ID, headerKey(u.Table.Headers), map[string]int{"jersey": 0, "name": 1}, json.RawMessage(`{"create": 1}`)))
			got, chosen, _, err = s.Upload(ctx, u.ID, false)
			require.NoError(t, err)
			assert.JSONEq(t, `{"create": 1}`, string(got.Imported))
			assert.Equal(t, map[string]int{"jersey": 0, "name": 1}, chosen)

			next := Upload{ID: uuid.New(), Table: u.Table}
			require.NoError(t, s.KeepUpload(ctx, next, s.by, at.Add(2*time.Hour), at.Add(time.Hour)))
			_, _, found, err = s.Upload(ctx, u.ID, false)
			require.NoError(t, err)
			assert.False(t, found, "forgotten")
			_, chosen, _, err = s.Upload(ctx, next.ID, false)
			assert.NotNil(t, chosen, "the choice stays")
			return err
		}))
	})
}

func fieldOf(t *testing.T, err error) string {
	t.Helper()
	e, ok := invalid.As(err)
	require.True(t, ok, "%v", err)
	return e.Field
}

// TestStoreOfProposals: one a player, the latest, until it is decided; of another club nothing is seen.
func TestStoreOfProposals(t *testing.T) {
	eachStore(t, func(t *testing.T, s shelf) {
		there := named("7", "Lind", "te")
		at := testkit.Now()
		require.NoError(t, s.in(func(ctx context.Context) error {
			require.NoError(t, s.Save(ctx, there, s.by))
			of := func(weight float64) Proposal {
				return Proposal{ID: uuid.New(), PlayerID: &there.ID, Group: "te", Person: roster.Person{First: "Jun", Last: "Lind", WeightLb: weight}}
			}
			fresh := Proposal{ID: uuid.New(), Group: "db", Person: roster.Person{First: "Ora", Last: "Quill", Jersey: "21"}}
			require.NoError(t, s.Propose(ctx, nil, s.by, at))
			require.NoError(t, s.Propose(ctx, []Proposal{of(250), fresh}, s.by, at))
			last := of(260)
			require.NoError(t, s.Propose(ctx, []Proposal{last}, s.by, at.Add(time.Minute)))
			list, err := s.Proposed(ctx)
			require.NoError(t, err)
			require.Len(t, list, 2, "a later one takes its place")
			assert.Equal(t, []any{fresh.ID, "db", fresh.Person, coachName}, []any{list[0].ID, list[0].Group, list[0].Person, list[0].By})
			assert.Equal(t, []any{last.ID, there.ID, 260.0}, []any{list[1].ID, *list[1].PlayerID, list[1].Person.WeightLb})
			return nil
		}))
		if s.other != nil {
			require.NoError(t, s.other(func(ctx context.Context) error {
				list, err := s.Proposed(ctx)
				assert.Empty(t, list)
				return err
			}))
		}
		require.NoError(t, s.in(func(ctx context.Context) error {
			list, err := s.Proposed(ctx)
			require.NoError(t, err)
			got, found, err := s.Decided(ctx, list[1].ID)
			require.NoError(t, err)
			assert.True(t, found)
			assert.Equal(t, there.ID, *got.PlayerID)
			_, found, err = s.Decided(ctx, list[1].ID)
			assert.False(t, found, "it is decided once")
			return err
		}))
	})
}
