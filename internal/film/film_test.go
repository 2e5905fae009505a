package film

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

type bench struct {
	*Service
	memory *memory
	game   uuid.UUID
	line   access.Coach
}

func open(t *testing.T) *bench {
	s := inMemory(t)
	m := s.Store.(*memory)
	return &bench{Service: &Service{Store: m, Labels: &words{mappings: map[string]map[string]string{}}, Words: m, Now: testkit.Now}, memory: m, game: s.game, line: testkit.Coach("ol")}
}

func first(number int) contract.PlayInput {
	return contract.PlayInput{Number: number, Unit: contract.SideOffense, Down: 1, Distance: new(10), Spot: "-25", Clock: "1205", Call: "  Lead   left ", Context: []string{}}
}

func field(t *testing.T, err error) string {
	t.Helper()
	e, ok := invalid.As(err)
	require.True(t, ok, "%v", err)
	return e.Field
}

func TestAPlayIsWrittenAndCorrected(t *testing.T) {
	b, ctx := open(t), context.Background()
	id := uuid.New()
	v, err := b.PutPlay(ctx, b.line, b.game, id, 0, first(1))
	require.NoError(t, err)
	assert.Equal(t, []any{1, "own 25", "12:05", "Lead left"}, []any{v.Version, v.Play.Spot, v.Play.Clock, v.Play.Call})
	v, err = b.PutPlay(ctx, b.line, b.game, id, 0, first(1))
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	changed := first(1)
	changed.Call = "Quick lantern"
	_, err = b.PutPlay(ctx, b.line, b.game, id, 0, changed)
	var stale *problem.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "Lead left", stale.Current.(contract.GamePlay).Play.Call)
	_, err = b.PutPlay(ctx, b.line, b.game, id, 1, changed)
	require.NoError(t, err)

	_, err = b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, first(1))
	assert.Equal(t, "number", field(t, err), "it is there")
	bad := first(2)
	bad.Spot = "midfield"
	_, err = b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, bad)
	assert.Equal(t, "spot", field(t, err))
	theirs := first(2)
	theirs.Unit = contract.SideDefense
	_, err = b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, theirs)
	require.ErrorIs(t, err, problem.ErrForbidden, "the defence's coaches label its plays")
	_, err = b.PutPlay(ctx, testkit.Head(), b.game, id, 2, contract.PlayInput{Number: 1, Unit: contract.SideDefense})
	require.NoError(t, err)
	_, err = b.PutPlay(ctx, b.line, uuid.New(), uuid.New(), 0, first(9))
	require.ErrorIs(t, err, problem.ErrNotFound)

	// With marks on record it stays what it is, and stays.
	b.memory.entries[0].Marks = 9
	_, err = b.PutPlay(ctx, testkit.Head(), b.game, id, 3, first(1))
	assert.Equal(t, "unit", field(t, err))
	_, err = b.DeletePlay(ctx, testkit.Head(), b.game, id, 3)
	assert.Equal(t, "id", field(t, err))
	b.memory.entries[0].Marks = 0
	_, err = b.DeletePlay(ctx, b.line, b.game, id, 3)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeletePlay(ctx, testkit.Head(), b.game, id, 1)
	require.ErrorAs(t, err, &stale)
	for range 2 {
		_, err = b.DeletePlay(ctx, testkit.Head(), b.game, id, 3)
		require.NoError(t, err)
	}
	g, err := b.GamePlays(ctx, b.line, b.game)
	require.NoError(t, err)
	assert.Empty(t, g.Plays)
	assert.Equal(t, []contract.Side{contract.SideOffense, contract.SideUnits}, g.Units)
}

// TestWhatIsSaidOtherwise: plays that say another word are corrected when it is told what it means, and all that are
// written or read afterwards.
func TestWhatIsSaidOtherwise(t *testing.T) {
	b, ctx := open(t), context.Background()
	bear := first(1)
	bear.Front = "bear"
	id := uuid.New()
	_, err := b.PutPlay(ctx, b.line, b.game, id, 0, bear)
	require.NoError(t, err)
	word := contract.LabelWordInput{Label: "Front", Said: " Bear ", Means: "Odd"}
	alias := uuid.New()
	v, err := b.PutLabelWord(ctx, b.line, alias, 0, word)
	require.NoError(t, err)
	assert.Equal(t, []any{"Bear", "Odd", 1, 1}, []any{v.Said, v.Means, v.Version, *v.Corrected})
	again, err := b.PutLabelWord(ctx, b.line, alias, 0, word)
	require.NoError(t, err, "sent again after a lost answer")
	assert.Nil(t, again.Corrected)
	g, err := b.GamePlays(ctx, b.line, b.game)
	require.NoError(t, err)
	assert.Equal(t, "Odd", g.Plays[0].Play.Front)

	second := first(2)
	second.Front = "BEAR"
	p, err := b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, second)
	require.NoError(t, err)
	assert.Equal(t, "Odd", p.Play.Front)
	lines, err := b.List(ctx, b.line, b.game, "offense", nil, strings.NewReader("Play,Front\n3,Bear\n"))
	require.NoError(t, err)
	assert.Equal(t, "Odd", lines.Lines[0].Play.Front)
	list, err := b.LabelWords(ctx)
	require.NoError(t, err)
	assert.Equal(t, []contract.LabelUse{{Label: "Front", Words: []string{"Odd", "Odd"}}}, list.Used)

	_, err = b.PutLabelWord(ctx, b.line, uuid.New(), 0, contract.LabelWordInput{Label: "Front", Said: "bear", Means: "Even"})
	assert.Equal(t, "said", field(t, err))
	_, err = b.PutLabelWord(ctx, testkit.Coach(), uuid.New(), 0, contract.LabelWordInput{Label: "Front", Said: "Okie", Means: "Odd"})
	require.ErrorIs(t, err, problem.ErrForbidden)
	word.Means = "Even"
	var stale *problem.Stale
	_, err = b.PutLabelWord(ctx, b.line, alias, 7, word)
	require.ErrorAs(t, err, &stale)
	_, err = b.DeleteLabelWord(ctx, b.line, alias, 7)
	require.ErrorAs(t, err, &stale)
	for range 2 {
		_, err = b.DeleteLabelWord(ctx, b.line, alias, 1)
		require.NoError(t, err)
	}
}

// words are what goes with the words of the staff, in memory.
type words struct {
	mappings map[string]map[string]string
	cuts     []CutUp
	versions []Version
}

func (l *words) Versions(context.Context, uuid.UUID) ([]Version, error) { return l.versions, nil }
func (l *words) Mapping(_ context.Context, headers string) (map[string]string, bool, error) {
	m, found := l.mappings[headers]
	return m, found, nil
}
func (l *words) KeepMapping(_ context.Context, headers string, columns map[string]string) error {
	l.mappings[headers] = columns
	return nil
}
func (l *words) CutUps(context.Context, string) ([]CutUp, error) { return l.cuts, nil }
func (l *words) CutUp(_ context.Context, id uuid.UUID) (CutUp, bool, error) {
	for _, c := range l.cuts {
		if c.ID == id {
			return c, true, nil
		}
	}
	return CutUp{ID: id}, false, nil
}
func (l *words) PutCutUp(_ context.Context, c CutUp, _ uuid.UUID) error {
	c.Version++
	l.cuts = append(slices.DeleteFunc(l.cuts, func(x CutUp) bool { return x.ID == c.ID }), c)
	return nil
}
func (l *words) DeleteCutUp(_ context.Context, id uuid.UUID) error {
	l.cuts = slices.DeleteFunc(l.cuts, func(x CutUp) bool { return x.ID == id })
	return nil
}

// TestACutUpIsKeptByAName: by the group's own coaches; what it does not understand it names.
func TestACutUpIsKeptByAName(t *testing.T) {
	b, ctx, id := open(t), context.Background(), uuid.New()
	put := func(c access.Coach, version int, name, text string) error {
		_, err := b.PutCutUp(ctx, c, "ol", id, version, contract.CutUpInput{Name: name, Cut: text})
		return err
	}
	assert.Equal(t, "cut", field(t, put(b.line, 0, "Third", "down three")))
	require.NoError(t, put(b.line, 0, "Third  and long", "third and long"))
	require.NoError(t, put(b.line, 0, "Third and long", "third and long"), "sent again")
	var stale *problem.Stale
	require.ErrorAs(t, put(b.line, 0, "Long", "third and long"), &stale)
	require.ErrorIs(t, put(testkit.Coach("db"), 1, "Long", "third and long"), problem.ErrForbidden)
	list, err := b.CutUps(ctx, b.line, "ol")
	require.NoError(t, err)
	assert.Equal(t, []contract.CutUp{{ID: id, Name: "Third and long", Cut: "third and long", Version: 1}}, list)
	_, err = b.DeleteCutUp(ctx, b.line, "ol", id, 0)
	require.ErrorAs(t, err, &stale)
	_, err = b.DeleteCutUp(ctx, b.line, "ol", id, 1)
	require.NoError(t, err)
}

// TestAListIsReadLineByLine: any headers; what is there is changed or the same; what is wrong is named
// with its column, and nothing is changed by reading.
func TestAListIsReadLineByLine(t *testing.T) {
	b, ctx := open(t), context.Background()
	_, err := b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, first(1))
	require.NoError(t, err)
	_, err = b.PutPlay(ctx, b.line, b.game, uuid.New(), 0, first(2))
	require.NoError(t, err)
	list := "#,Side,Dn,Dist,Yard line,Time,Play name,Yds\n1,O,1,10,-25,12:05,Lead left,\n2,O,2,6,-29,,Quick lantern,7\n3,O,5,6,,,,\n4,D,1,10,,,,\n5,O,1,10,+20,,,x\n"
	read := func(columns map[string]string) contract.PlayLines {
		v, err := b.List(ctx, b.line, b.game, group.Offense, columns, strings.NewReader(list))
		require.NoError(t, err)
		return v
	}
	v := read(nil)
	var actions, wrong []string
	for _, l := range v.Lines {
		actions = append(actions, string(l.Action))
		if l.Column != nil {
			wrong = append(wrong, *l.Column)
		}
	}
	assert.Equal(t, []string{"same", "update", "wrong", "wrong", "create"}, actions)
	assert.Equal(t, []string{"Down", "Unit"}, wrong)
	assert.Nil(t, v.Lines[1].Play.Gain, "nobody said what Yds is")
	v = read(map[string]string{"Gain": "Yds"})
	assert.Equal(t, 7, *v.Lines[1].Play.Gain)
	assert.Equal(t, contract.PlayLineActionWrong, v.Lines[4].Action)
	assert.Equal(t, "Gain", *v.Lines[4].Column)
	again := read(nil)
	assert.Equal(t, 7, *again.Lines[1].Play.Gain, "it is remembered for such lists")
	assert.True(t, again.Remembered)
	v = read(map[string]string{"Call": ""})
	assert.Empty(t, v.Lines[1].Play.Call)
	_, err = b.List(ctx, b.line, b.game, group.Offense, map[string]string{"Gain": "Nothing"}, strings.NewReader(list))
	assert.Equal(t, "columns", field(t, err))
	_, err = b.List(ctx, b.line, b.game, group.Offense, map[string]string{"Weather": "Yds"}, strings.NewReader(list))
	assert.Equal(t, "columns", field(t, err))
	_, err = b.List(ctx, b.line, uuid.New(), group.Offense, nil, strings.NewReader(list))
	require.ErrorIs(t, err, problem.ErrNotFound)

	// What is written is read as the same.
	for _, format := range []string{"csv", "xlsx"} {
		name, content, err := b.Export(ctx, b.game, format)
		require.NoError(t, err)
		assert.Contains(t, name, "Dunmere."+format)
		read, err := b.List(ctx, b.line, b.game, group.Units, nil, strings.NewReader(string(content)))
		require.NoError(t, err)
		require.Len(t, read.Lines, 2)
		for _, l := range read.Lines {
			assert.Equal(t, contract.PlayLineActionSame, l.Action)
		}
	}
	_, _, err = b.Export(ctx, uuid.New(), "csv")
	require.ErrorIs(t, err, problem.ErrNotFound)
	g, found, err := b.Game(ctx, b.game)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Len(t, g.Plays, 2)
	plays, err := b.Plays(ctx, []uuid.UUID{g.Plays[0].ID})
	require.NoError(t, err)
	assert.Equal(t, []reel.Play{g.Plays[0]}, plays)
}
