package teach

import (
	"context"
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
	"nineyard/internal/testkit"
	"nineyard/library"
)

var bg = context.Background()

// index is an Index that remembers what it was asked to keep.
type index struct{ kept []int }

func (x *index) Keep(_ context.Context, h *house.House) error {
	x.kept = append(x.kept, h.Version)
	return nil
}

func (x *index) DrillUse(context.Context, access.Coach, string) (contract.Use, error) {
	return contract.Use{Practices: 3}, nil
}

// staff is the service over memory.
type staff struct {
	*Service
	memory *memory
	index  *index
	ships  *library.Edition
	coach  access.Coach
}

func open(t *testing.T) *staff {
	t.Helper()
	ships, err := library.Shipped()
	require.NoError(t, err)
	s := &staff{memory: newMemory(), index: &index{}, ships: ships, coach: testkit.Coach("ol")}
	s.start(ships)
	return s
}

// start runs a program, over the same records, that ships an edition.
func (s *staff) start(ships *library.Edition) {
	s.Service = &Service{Store: s.memory, Index: s.index, Squad: testkit.Line("ol", 9), Now: testkit.Now, Edition: func() (*library.Edition, error) { return ships, nil }}
}

// again is the coach of a later request: the number of the latest version is read with him.
func (s *staff) again() access.Coach {
	v, _, _ := s.memory.Version(bg, 0)
	s.coach.Club.Library = v.Version
	return s.coach
}

func (s *staff) entry(t *testing.T, kind, key string) contract.Entry {
	t.Helper()
	e, err := s.Entry(bg, s.again(), kind, key)
	require.NoError(t, err)
	return e
}

func (s *staff) rename(t *testing.T, kind, key, name string) contract.Entry {
	t.Helper()
	e := s.entry(t, kind, key)
	e.Fields["name"] = name
	e, err := s.PutEntry(bg, s.again(), kind, key, EntryChange{ID: uuid.New(), Version: e.Version, Fields: e.Fields})
	require.NoError(t, err)
	return e
}

func TestAClubTakesTheEditionInAtItsFirstRequest(t *testing.T) {
	s := open(t)
	assert.Empty(t, s.memory.versions, "not before")
	h, err := s.Of(bg, s.coach)
	require.NoError(t, err)
	assert.Equal(t, []any{1, s.ships.Digest}, []any{h.Version, h.Edition.Digest})
	require.Len(t, s.memory.versions, 1)
	assert.Equal(t, []int{1}, s.index.kept)
	assert.Contains(t, s.memory.editions, s.ships.Digest)
	for range 3 {
		again, err := s.Of(bg, s.again())
		require.NoError(t, err)
		assert.Same(t, h.Library, again.Library, "clubs share what they took over")
	}
	assert.Len(t, s.memory.versions, 1)
	assert.Equal(t, []int{1, 1}, s.index.kept, "kept in memory from the second request on")
}

// TestANewEditionIsLaidBeneath: what the club changed stays, and what both changed is asked.
func TestANewEditionIsLaidBeneath(t *testing.T) {
	s := open(t)
	s.rename(t, "technique", "base_block", "Drive the chest")
	technique, drill := merge.Ref{Kind: "technique", Key: "base_block"}, merge.Ref{Kind: "drill", Key: "pull_bag"}
	entries := slices.Clone(s.ships.Entries)
	for i, e := range entries {
		if e.Ref == technique || e.Ref == drill {
			entries[i].Fields = maps.Clone(e.Fields)
			entries[i].Fields["name"] = `"Of the second edition"`
		}
	}
	newer, err := library.NewEdition(entries)
	require.NoError(t, err)
	s.start(newer)
	h, err := s.Of(bg, s.again())
	require.NoError(t, err)
	assert.Equal(t, 3, h.Version)
	assert.ElementsMatch(t, []string{technique.String(), drill.String()}, s.memory.versions[2].Touched)
	block, _ := h.Library.Technique("base_block")
	assert.Equal(t, "Drive the chest", block.Name)
	bag, _ := h.Library.Drill("pull_bag")
	assert.Equal(t, "Of the second edition", bag.Name)
	require.Len(t, h.Conflicts, 1)
	v, err := s.HouseOf(bg, s.again())
	require.NoError(t, err)
	require.Len(t, v.Conflicts, 1)
	assert.Equal(t, []any{"base_block", "name", "Of the second edition"}, []any{v.Conflicts[0].Key, v.Conflicts[0].Field, v.Conflicts[0].Theirs})

	// A program that still ships the old edition serves the club on the new one.
	s.start(s.ships)
	for range 2 {
		h, err = s.Of(bg, s.again())
		require.NoError(t, err)
		assert.Equal(t, 3, h.Version)
		bag, _ = h.Library.Drill("pull_bag")
		assert.Equal(t, "Of the second edition", bag.Name)
	}
	delete(s.memory.editions, newer.Digest)
	s.start(s.ships)
	_, err = s.Of(bg, s.again())
	assert.ErrorContains(t, err, "is not in the database")
}

func TestPutEntryMakesAVersionOnce(t *testing.T) {
	s := open(t)
	e := s.entry(t, "technique", "kick_slide")
	assert.Equal(t, []any{1, true, false, false}, []any{e.Version, e.Editable, e.Added, e.Retired})
	e.Fields["name"] = "Glide set"
	in := EntryChange{ID: uuid.New(), Version: 1, Fields: e.Fields, Note: "our word"}
	for range 2 { // sent again after a lost answer
		after, err := s.PutEntry(bg, s.again(), "technique", "kick_slide", in)
		require.NoError(t, err)
		assert.Equal(t, []any{2, "Glide set"}, []any{after.Version, after.Name})
		assert.Contains(t, after.Changed, "name")
		require.Len(t, after.Versions, 1)
		assert.Equal(t, []any{coachName, "Changed technique: Glide set. our word"}, []any{after.Versions[0].By, after.Versions[0].Summary})
	}
	assert.Len(t, s.memory.versions, 2)
	assert.Equal(t, 3, s.memory.locks, "the house is held while it is changed")

	in.ID = uuid.New() // as it was read before
	_, err := s.PutEntry(bg, s.again(), "technique", "kick_slide", in)
	var stale *problem.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "Glide set", stale.Current.(contract.Entry).Name)

	_, err = s.PutEntry(bg, testkit.Coach("db"), "technique", "kick_slide", EntryChange{ID: uuid.New(), Version: 2, Fields: e.Fields})
	assert.ErrorIs(t, err, problem.ErrForbidden)
	_, err = s.PutEntry(bg, s.again(), "technique", "none", EntryChange{ID: uuid.New(), Version: 2, Retired: new(true)})
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = s.Entry(bg, s.again(), "technique", "none")
	assert.ErrorIs(t, err, problem.ErrNotFound)
	e.Fields["name"] = ""
	_, err = s.PutEntry(bg, s.again(), "technique", "kick_slide", EntryChange{ID: uuid.New(), Version: 2, Fields: e.Fields})
	wrong, ok := invalid.As(err)
	require.True(t, ok, "%v", err)
	assert.Equal(t, "fields.name", wrong.Field)
}

func TestWhatIsRetiredComesBack(t *testing.T) {
	s := open(t)
	e, err := s.PutEntry(bg, s.again(), "drill", "pull_bag", EntryChange{ID: uuid.New(), Version: 1, Retired: new(true)})
	require.NoError(t, err)
	assert.True(t, e.Retired)
	v, err := s.LibraryOf(bg, s.again(), "ol")
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(v.Drills, func(d contract.Drill) bool { return d.Key == "pull_bag" }))
	house, err := s.HouseOf(bg, s.again())
	require.NoError(t, err)
	require.Len(t, house.Changes, 1)
	assert.Equal(t, []any{"pull_bag", true}, []any{house.Changes[0].Key, house.Changes[0].Retired})

	_, err = s.RestoreHouse(bg, s.again(), 9, uuid.New())
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = s.RestoreHouse(bg, testkit.Coach("db"), 1, uuid.New())
	assert.ErrorIs(t, err, problem.ErrForbidden)
	id := uuid.New()
	for range 2 {
		house, err = s.RestoreHouse(bg, s.again(), 1, id)
		require.NoError(t, err)
		assert.Equal(t, 3, house.Version)
		assert.Empty(t, house.Changes)
	}
	v, err = s.LibraryOf(bg, s.again(), "ol")
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(v.Drills, func(d contract.Drill) bool { return d.Key == "pull_bag" }))
}

func TestTheLibraryOfAGroupIsItsOwn(t *testing.T) {
	s := open(t)
	v, err := s.LibraryOf(bg, s.again(), "ol")
	require.NoError(t, err)
	assert.True(t, v.Editable)
	assert.NotEmpty(t, v.Ladders)
	assert.NotEmpty(t, v.Questions)
	for _, x := range v.Techniques {
		assert.Contains(t, x.Groups, "ol", x.Key)
	}
	v, err = s.LibraryOf(bg, s.again(), "db")
	require.NoError(t, err)
	assert.False(t, v.Editable)
	look := func(group string) (here []string) {
		v, err := s.LibraryOf(bg, s.again(), group)
		require.NoError(t, err)
		i := slices.IndexFunc(v.Ladders, func(l contract.Ladder) bool { return l.Technique == "tackle" })
		require.GreaterOrEqual(t, i, 0)
		j := slices.IndexFunc(v.Ladders[i].Stages, func(s contract.Stage) bool { return s.Key == "look" })
		assert.NotContains(t, v.Ladders[i].Stages[j].Called, "")
		for _, k := range v.Ladders[i].Stages[j].Here {
			assert.True(t, slices.ContainsFunc(v.Drills, func(d contract.Drill) bool { return d.Key == k }), "%s is a drill of %s", k, group)
			here = append(here, k)
		}
		assert.Equal(t, []string{"lb_play_look"}, v.Ladders[i].Stages[j].Drills, "those for all stay what they are")
		return here
	}
	assert.Equal(t, [][]string{{"lb_play_look"}, {"db_run_look"}, {"tackle_look"}}, [][]string{look("lb"), look("db"), look("dl")}, "a group has drills of its own at a stage of what others are taught too")
	_, err = s.LibraryOf(bg, s.again(), "nope")
	assert.Error(t, err)
}

func TestExportReadsBackTheSame(t *testing.T) {
	s := open(t)
	for _, format := range []string{"yaml", "json"} {
		name, content, err := s.ExportLibrary(bg, s.again(), format, "", "")
		require.NoError(t, err)
		assert.Equal(t, "teaching-library."+format, name)
		v, err := s.PreviewLibrary(bg, s.again(), LibraryFile{File: strings.NewReader(string(content))})
		require.NoError(t, err)
		assert.Zero(t, v.Create+v.Change, "taking one's own export in changes nothing")
		assert.Equal(t, len(s.ships.Entries), v.Same)
	}
	_, _, err := s.ExportLibrary(bg, s.again(), "yaml", "drill", "none")
	assert.ErrorIs(t, err, problem.ErrNotFound)
}

// TestAPartBringsWhatItNeeds: a ladder its technique and drills, a drill its techniques.
func TestAPartBringsWhatItNeeds(t *testing.T) {
	s := open(t)
	for part, want := range map[string][]string{
		"ladder base_ladder":   {"ladder base_ladder", "technique base_block"},
		"drill pull_bag":       {"drill pull_bag"},
		"technique base_block": {"technique base_block"},
	} {
		kind, key, _ := strings.Cut(part, " ")
		_, content, err := s.ExportLibrary(bg, s.again(), "json", kind, key)
		require.NoError(t, err)
		v, err := s.PreviewLibrary(bg, s.again(), LibraryFile{File: strings.NewReader(string(content))})
		require.NoError(t, err)
		var got []string
		for _, e := range v.Entries {
			got = append(got, string(e.Kind)+" "+e.Key)
		}
		assert.Subset(t, got, want)
		assert.Less(t, len(got), len(s.ships.Entries)/2, part)
	}
}

func TestImportIsWholeOrNothing(t *testing.T) {
	s := open(t)
	theirs := open(t)
	theirs.rename(t, "drill", "pull_bag", "Trap the bag")
	theirs.rename(t, "technique", "base_block", "Drive block")
	_, content, err := theirs.ExportLibrary(bg, theirs.again(), "yaml", "", "")
	require.NoError(t, err)
	file := func(take ...string) LibraryFile {
		f := LibraryFile{File: strings.NewReader(string(content)), ID: uuid.New()}
		if take != nil {
			text, _ := json.Marshal(take)
			f.Take = string(text)
		}
		return f
	}
	v, err := s.PreviewLibrary(bg, s.again(), file())
	require.NoError(t, err)
	assert.Equal(t, []int{0, 2}, []int{v.Create, v.Change})
	for _, e := range v.Entries {
		for _, f := range e.Fields {
			if e.Key == "pull_bag" && f.Field == "name" {
				assert.Equal(t, []any{"Pull and kick the bag", "Trap the bag"}, []any{f.Ours, f.Theirs})
			}
		}
	}
	refuses := func(c access.Coach, f LibraryFile, field string) {
		t.Helper()
		_, err := s.ImportLibrary(bg, c, f)
		wrong, ok := invalid.As(err)
		require.True(t, ok, "%v", err)
		assert.Equal(t, field, wrong.Field)
	}
	bad := file()
	bad.Take = "all"
	refuses(s.again(), bad, "take")
	refuses(s.again(), file("drill none"), "take")
	bad = file()
	bad.ID = uuid.Nil
	refuses(s.again(), bad, "id")
	bad = file()
	bad.File = strings.NewReader("drills: {")
	refuses(s.again(), bad, "file")
	bad = file()
	bad.File = strings.NewReader(strings.Repeat("#", library.MaxBytes+1))
	refuses(s.again(), bad, "file")
	_, err = s.ImportLibrary(bg, testkit.Coach("db"), file())
	assert.ErrorIs(t, err, problem.ErrForbidden)
	assert.Len(t, s.memory.versions, 1, "nothing was taken in")

	one := file("drill pull_bag")
	for range 2 {
		one.File = strings.NewReader(string(content))
		_, err = s.ImportLibrary(bg, s.again(), one)
		require.NoError(t, err)
	}
	assert.Equal(t, []int{2, 1}, []int{len(s.memory.versions), len(s.memory.versions[1].Touched)})
	assert.Equal(t, "Trap the bag", s.entry(t, "drill", "pull_bag").Name)
	assert.Equal(t, "Base block", s.entry(t, "technique", "base_block").Name, "what was not chosen stays")
}

// TestTheDrillPageCountsForThePlayersOfToday: who may not take part is named, and the reps
// are those of the others.
func TestTheDrillPageCountsForThePlayersOfToday(t *testing.T) {
	s := open(t)
	line := testkit.Line("ol", 9)
	line.Status = func(p squad.Player, _ season.Date) availability.Status {
		if p.ID == line.Players[0].ID {
			return availability.Out
		}
		return availability.Available
	}
	s.Squad = line
	v, err := s.DrillPage(bg, s.again(), "ol", "pull_bag", nil, nil)
	require.NoError(t, err)
	require.Len(t, v.Out, 1)
	assert.Equal(t, line.Players[0].ID, v.Out[0].PlayerID)
	assert.Equal(t, 3, v.Use.Practices)
	longer, err := s.DrillPage(bg, s.again(), "ol", "pull_bag", new(2*v.Minutes), new(1))
	require.NoError(t, err)
	assert.Equal(t, []int{2 * v.Minutes, 1}, []int{longer.Minutes, longer.Lanes})
	assert.Equal(t, v.Drill, longer.Drill)
	_, err = s.DrillPage(bg, s.again(), "ol", "none", nil, nil)
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = s.DrillPage(bg, s.again(), "nope", "pull_bag", nil, nil)
	assert.Error(t, err)
}

// TestVersionsComeAPageAtATime: following the cursor leads through all of them once, newest
// first, whatever their number.
func TestVersionsComeAPageAtATime(t *testing.T) {
	for _, n := range []int{0, 1, shownVersions, shownVersions + 1, 2*shownVersions + 7} {
		m := newMemory()
		for v := 1; v <= n; v++ {
			m.versions = append(m.versions, Version{Version: v, ID: uuid.New()})
		}
		s := &Service{Store: m}
		seen, before := []int{}, 0
		for {
			page, err := s.Versions(context.Background(), before)
			require.NoError(t, err)
			assert.LessOrEqual(t, len(page.Versions), shownVersions)
			for _, v := range page.Versions {
				seen = append(seen, v.Version)
			}
			if page.Next == nil {
				break
			}
			before = *page.Next
		}
		require.Len(t, seen, n)
		for i, v := range seen {
			assert.Equal(t, n-i, v)
		}
	}
}
