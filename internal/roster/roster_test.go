package roster

import (
	"context"
	"io"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/platform/table"
	"nineyard/internal/testkit"
)

var bg = context.Background()

// office is the service over memory, with a coach of the line.
type office struct {
	*Service
	memory *memory
	line   access.Coach
	head   access.Coach
}

func open() office {
	m := newMemory()
	return office{Service: &Service{Store: m, Spells: m, Lists: m, Proposals: m, Now: testkit.Now}, memory: m, line: testkit.Coach("ol"), head: testkit.Head()}
}

// has puts players onto the roster.
func (o office) has(t *testing.T, entries ...Entry) {
	t.Helper()
	for _, e := range entries {
		require.NoError(t, o.memory.Save(bg, e, uuid.Nil))
	}
}

func wanted(number, last string, groups ...string) contract.PlayerInput {
	return contract.PlayerInput{Jersey: number, FirstName: "Jun", LastName: last, Position: "LG", Groups: groups, HeightIn: new(73.5), WeightLb: new(270.0), Returning: true}
}

func TestPutWritesAPlayerOnce(t *testing.T) {
	o := open()
	id := uuid.New()
	in := wanted("#064", " Sato ", "ol", "ol")
	p, err := o.Put(bg, o.line, id, 0, in)
	require.NoError(t, err)
	assert.Equal(t, []any{id, 1, "064", "Sato", []string{"ol"}, 73.5, 270, true, contract.AvailabilityAvailable, true},
		[]any{p.ID, p.Version, p.Jersey, p.LastName, p.Groups, *p.HeightIn, *p.WeightLb, p.Returning, p.Status, p.Editable})
	again, err := o.Put(bg, o.line, id, 0, in)
	require.NoError(t, err)
	assert.Equal(t, p, again, "the same again after a lost answer")

	in.LastName, in.HeightIn = "Satoh", nil
	p, err = o.Put(bg, o.line, id, 1, in)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "Satoh", (*float64)(nil)}, []any{p.Version, p.LastName, p.HeightIn})

	in.LastName = "Satou"
	var stale *problem.Stale
	_, err = o.Put(bg, o.line, id, 1, in)
	require.ErrorAs(t, err, &stale, "version 1 is gone")
	assert.Equal(t, "Satoh", stale.Current.(contract.RosterPlayer).LastName)
	_, err = o.Put(bg, o.line, uuid.New(), 1, in)
	assert.ErrorIs(t, err, problem.ErrNotFound, "a version of nobody")
}

func TestPutNamesTheFieldThatIsWrong(t *testing.T) {
	o := open()
	for field, spoil := range map[string]func(*contract.PlayerInput){
		"jersey":    func(in *contract.PlayerInput) { in.Jersey = "seven" },
		"last_name": func(in *contract.PlayerInput) { in.LastName = " " },
		"groups":    func(in *contract.PlayerInput) { in.Groups = []string{"nope"} },
		"height_in": func(in *contract.PlayerInput) { in.HeightIn = new(11.0) },
	} {
		in := wanted("64", "Sato", "ol")
		spoil(&in)
		_, err := o.Put(bg, o.line, uuid.New(), 0, in)
		assert.Equal(t, field, fieldOf(t, err))
	}
	_, err := o.Put(bg, o.line, uuid.New(), 0, wanted("64", "Sato"))
	assert.Equal(t, "groups", fieldOf(t, err), "in no group at all")
}

// TestACoachChangesHisOwnGroupsAlone: the head coach changes all.
func TestACoachChangesHisOwnGroupsAlone(t *testing.T) {
	o := open()
	theirs, both := named("7", "Lind", "te"), named("64", "Sato", "ol", "te")
	o.has(t, theirs, both)
	edit := func(c access.Coach, e Entry, change func(*contract.PlayerInput)) error {
		in := wanted(e.Person.Jersey, e.Person.Last, e.Groups...)
		change(&in)
		_, err := o.Put(bg, c, e.ID, 1, in)
		return err
	}
	rename := func(in *contract.PlayerInput) { in.FirstName = "Bo" }
	assert.ErrorIs(t, edit(o.line, theirs, rename), problem.ErrForbidden)
	assert.ErrorIs(t, edit(o.line, both, func(in *contract.PlayerInput) { in.Groups = []string{"ol"} }), problem.ErrForbidden, "taken from another coach")
	assert.ErrorIs(t, edit(o.line, both, func(in *contract.PlayerInput) { in.Archived = true }), problem.ErrForbidden, "archived away from another coach")
	_, err := o.Put(bg, o.line, uuid.New(), 0, wanted("9", "Ek", "te"))
	assert.ErrorIs(t, err, problem.ErrForbidden, "added to another coach's group")
	assert.NoError(t, edit(o.line, both, rename))
	assert.NoError(t, edit(o.head, theirs, rename))
}

func TestListSaysWhatEachMayTakePartInOnADay(t *testing.T) {
	o := open()
	p := named("64", "Sato", "ol")
	o.has(t, p, named("7", "Lind", "te"))
	_, err := o.PutSpell(bg, o.line, p.ID, uuid.New(), SpellInput{Status: "limited", From: "2026-10-14", To: "2026-10-15", Reason: "shoulder"})
	require.NoError(t, err)
	r, err := o.List(bg, o.line, "")
	require.NoError(t, err)
	assert.Equal(t, []any{"2026-10-13", true}, []any{r.On, r.Editable})
	assert.Equal(t, []bool{false, true}, []bool{r.Players[0].Editable, r.Players[1].Editable})
	assert.Equal(t, contract.AvailabilityAvailable, r.Players[1].Status)
	r, err = o.List(bg, o.line, "2026-10-15")
	require.NoError(t, err)
	assert.Equal(t, []any{contract.AvailabilityLimited, "shoulder", "2026-10-15", 1}, []any{r.Players[1].Status, r.Players[1].Note, *r.Players[1].Until, r.Players[1].Spells})
	_, err = o.List(bg, o.line, "soon")
	assert.Equal(t, "on", fieldOf(t, err))
}

func TestASpellIsRecordedChangedAndTakenBack(t *testing.T) {
	o := open()
	p, theirs := named("64", "Sato", "ol"), named("7", "Lind", "te")
	o.has(t, p, theirs)
	id, in := uuid.New(), SpellInput{Status: "out", From: "2026-10-12", Reason: "ankle"}
	first, err := o.PutSpell(bg, o.line, p.ID, id, in)
	require.NoError(t, err)
	again, err := o.PutSpell(bg, o.line, p.ID, id, in)
	require.NoError(t, err)
	assert.Equal(t, first, again)
	assert.Equal(t, []any{coachName, true, 1}, []any{first.By, first.Editable, first.Version})

	in.Version, in.To = 1, "2026-10-16"
	second, err := o.PutSpell(bg, o.line, p.ID, id, in)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "2026-10-16"}, []any{second.Version, *second.To})
	in.Reason = "knee"
	var stale *problem.Stale
	_, err = o.PutSpell(bg, o.line, p.ID, id, in)
	require.ErrorAs(t, err, &stale)
	for field, spoil := range map[string]func(*SpellInput){
		"from":   func(in *SpellInput) { in.From = "12.10." },
		"to":     func(in *SpellInput) { in.To = "never" },
		"status": func(in *SpellInput) { in.Status = "tired" },
	} {
		bad := SpellInput{Status: "out", From: "2026-10-12", Reason: "ankle"}
		spoil(&bad)
		_, err = o.PutSpell(bg, o.line, p.ID, uuid.New(), bad)
		assert.Equal(t, field, fieldOf(t, err))
	}
	_, err = o.PutSpell(bg, o.line, theirs.ID, uuid.New(), in)
	assert.ErrorIs(t, err, problem.ErrForbidden)
	_, err = o.PutSpell(bg, o.head, theirs.ID, id, in)
	assert.ErrorIs(t, err, problem.ErrNotFound, "another player's entry")
	_, err = o.PutSpell(bg, o.line, p.ID, uuid.New(), in)
	assert.ErrorIs(t, err, problem.ErrNotFound, "a version of no entry")
	_, err = o.PutSpell(bg, o.line, uuid.New(), uuid.New(), in)
	assert.ErrorIs(t, err, problem.ErrNotFound, "nobody")

	list, err := o.Availability(bg, o.line, p.ID)
	require.NoError(t, err)
	require.Len(t, list, 1)
	_, err = o.Availability(bg, o.line, uuid.New())
	assert.ErrorIs(t, err, problem.ErrNotFound)
	assert.ErrorIs(t, o.WithdrawSpell(bg, o.head, theirs.ID, id), problem.ErrNotFound)
	require.NoError(t, o.WithdrawSpell(bg, o.line, p.ID, id))
	assert.ErrorIs(t, o.WithdrawSpell(bg, o.line, p.ID, id), problem.ErrNotFound)
}

// TestAHeadInjuryHoldEndsByWrittenClearanceAlone: no coach takes it back, shortens it or
// turns it into something else, and the athletic-health staff records the clearance.
func TestAHeadInjuryHoldEndsByWrittenClearanceAlone(t *testing.T) {
	o := open()
	p := named("64", "Sato", "ol")
	o.has(t, p)
	id := uuid.New()
	hold := SpellInput{Status: "head_hold", From: "2026-10-10", Reason: "hit on Saturday"}
	_, err := o.PutSpell(bg, o.line, p.ID, id, hold)
	require.NoError(t, err)
	assert.Equal(t, "id", fieldOf(t, o.WithdrawSpell(bg, o.head, p.ID, id)))
	for _, change := range []func(*SpellInput){func(in *SpellInput) { in.To = "2026-10-11" }, func(in *SpellInput) { in.Status = "limited" }, func(in *SpellInput) { in.From = "2026-12-01" }} {
		in := hold
		in.Version = 1
		change(&in)
		_, err = o.PutSpell(bg, o.head, p.ID, id, in)
		fieldOf(t, err)
	}
	_, err = o.Clear(bg, o.line, p.ID, id, "Dr V. Aster", "2026-10-12", "letter 12")
	assert.ErrorIs(t, err, problem.ErrForbidden)
	_, err = o.Clear(bg, o.head, p.ID, id, "Dr V. Aster", "2026-10-12", "letter 12")
	assert.ErrorIs(t, err, problem.ErrForbidden, "not even the head coach")
	health := testkit.Coach()
	health.Role, health.Club, health.Season = access.Health, o.head.Club, o.head.Season
	_, err = o.Clear(bg, health, p.ID, id, "Dr V. Aster", "Monday", "letter 12")
	assert.Equal(t, "on", fieldOf(t, err))
	_, err = o.Clear(bg, health, p.ID, id, "Dr V. Aster", "2026-10-14", "letter 12")
	assert.Equal(t, "on", fieldOf(t, err), "tomorrow")
	_, err = o.Clear(bg, health, p.ID, uuid.New(), "Dr V. Aster", "2026-10-12", "letter 12")
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = o.Clear(bg, health, p.ID, id, "Dr V. Aster", "2026-10-12", " ")
	assert.Equal(t, "document", fieldOf(t, err))
	for range 2 {
		v, err := o.Clear(bg, health, p.ID, id, "Dr V. Aster", "2026-10-12", "letter 12")
		require.NoError(t, err)
		assert.Equal(t, []any{"Dr V. Aster", "2026-10-12", "letter 12", false}, []any{*v.ClearedBy, *v.ClearedOn, *v.ClearedDocument, v.Editable})
	}
	r, err := o.List(bg, o.line, "")
	require.NoError(t, err)
	assert.Equal(t, contract.AvailabilityAvailable, r.Players[0].Status)
}

func TestMergeGivesEverythingToTheOtherEntry(t *testing.T) {
	o := open()
	a, b, theirs := named("64", "Sato", "ol"), named("", "Sato", "ol"), named("7", "Lind", "te")
	b.Marks = 12
	o.has(t, a, b, theirs)
	for _, pair := range [][2]uuid.UUID{{theirs.ID, a.ID}, {a.ID, theirs.ID}} {
		_, err := o.Merge(bg, o.line, pair[0], pair[1])
		assert.ErrorIs(t, err, problem.ErrForbidden)
	}
	_, err := o.Merge(bg, o.line, a.ID, a.ID)
	assert.Equal(t, "into", fieldOf(t, err))
	_, err = o.Merge(bg, o.line, a.ID, uuid.New())
	assert.ErrorIs(t, err, problem.ErrNotFound)
	m, err := o.Merge(bg, o.line, b.ID, a.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{12, "64", 12}, []any{m.Marks, m.Player.Jersey, m.Player.Marks})
	_, err = o.Merge(bg, o.line, b.ID, a.ID)
	assert.ErrorIs(t, err, problem.ErrNotFound, "he is there no longer")
}

func TestAListIsTakenInWholeAndOnce(t *testing.T) {
	o := open()
	there := named("7", "Lind", "ol", "te")
	o.has(t, there)
	id := uuid.New()
	list := "No,Name,Pos,Wt\n64,\"Sato, Jun\",LG,270\n7,Jun Lind,LG,255.6\nbad!,Bo Ek,C,\n"
	p, err := o.Send(bg, o.line, id, "ol", strings.NewReader(list))
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1, 0, 1}, []int{p.Create, p.Update, p.Same, p.Problems})
	assert.False(t, *p.Remembered)
	assert.Equal(t, "ol", *p.Lines[0].Group)
	assert.Equal(t, "jersey", p.Lines[2].Reasons[0].Column)

	choice := contract.RosterChoice{Group: "ol", Mapping: &map[string]int{"jersey": 7}}
	_, err = o.Preview(bg, o.line, id, choice)
	assert.Equal(t, "mapping.jersey", fieldOf(t, err))
	_, err = o.Import(bg, o.line, id, choice)
	assert.Equal(t, "mapping.jersey", fieldOf(t, err))
	choice.Mapping = nil
	done, err := o.Import(bg, o.line, id, choice)
	require.NoError(t, err)
	again, err := o.Import(bg, o.line, id, choice)
	require.NoError(t, err)
	assert.Equal(t, done, again)
	r, err := o.List(bg, o.line, "")
	require.NoError(t, err)
	require.Len(t, r.Players, 2)
	assert.Equal(t, []any{"Lind", 256, []string{"ol", "te"}}, []any{r.Players[0].LastName, *r.Players[0].WeightLb, r.Players[0].Groups})

	p, err = o.Send(bg, o.line, uuid.New(), "ol", strings.NewReader(list))
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 2, 1}, []int{p.Create, p.Update, p.Same, p.Problems})
	assert.True(t, *p.Remembered)

	for _, try := range []func(group string) error{
		func(g string) error { _, err := o.Send(bg, o.line, uuid.New(), g, strings.NewReader(list)); return err },
		func(g string) error {
			_, err := o.Preview(bg, o.line, id, contract.RosterChoice{Group: g})
			return err
		},
	} {
		assert.Equal(t, "group", fieldOf(t, try("nope")))
		assert.ErrorIs(t, try("db"), problem.ErrForbidden)
	}
	_, err = o.Preview(bg, o.line, uuid.New(), choice)
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = o.Import(bg, o.line, uuid.New(), choice)
	assert.ErrorIs(t, err, problem.ErrNotFound)
	_, err = o.Send(bg, o.line, uuid.New(), "ol", io.LimitReader(strings.NewReader(""), 0))
	fieldOf(t, err)
}

// TestOthersPlayersAreProposedToTheirCoach: a list rewrites nobody's player but one's own, and puts none into another
// coach's group.
func TestOthersPlayersAreProposedToTheirCoach(t *testing.T) {
	o := open()
	mine, his := named("64", "Sato", "ol"), named("88", "Lind", "te")
	o.has(t, mine, his)
	list := "No,Name,Pos,Wt\n64,\"Sato, Jun\",TE,280\n88,Jun Lind,LG,255\n21,Ora Quill,CB,180\n65,Bo Ek,C,300\n88,Ann Same,TE,\n"
	id := uuid.New()
	p, err := o.Send(bg, o.line, id, "ol", strings.NewReader(list))
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1, 3, 0}, []int{p.Create, p.Update, p.Propose, p.Problems})
	var does []string
	for _, l := range p.Lines {
		does = append(does, string(l.Action))
	}
	assert.Equal(t, []string{"update", "propose", "propose", "create", "propose"}, does)
	_, err = o.Import(bg, o.line, id, contract.RosterChoice{Group: "ol"})
	require.NoError(t, err)
	r, err := o.List(bg, o.line, "")
	require.NoError(t, err)
	by := map[string]contract.RosterPlayer{}
	for _, x := range r.Players {
		by[x.LastName] = x
	}
	require.Len(t, by, 3)
	assert.Equal(t, []any{280, "TE", []string{"ol"}}, []any{*by["Sato"].WeightLb, by["Sato"].Position, by["Sato"].Groups}, "his own, who goes into no other coach's group")
	assert.Equal(t, []any{270, "LG", []string{"te"}}, []any{*by["Lind"].WeightLb, by["Lind"].Position, by["Lind"].Groups}, "another's stays as he is")
	require.Len(t, r.Proposals, 3)
	for _, x := range r.Proposals {
		assert.False(t, x.Decidable)
		assert.ErrorIs(t, o.Decide(bg, o.line, x.ID, true), problem.ErrForbidden)
	}
	o.memory.proposed = nil // what is refused rolls back; memory does not
	_, err = o.Import(bg, o.line, id, contract.RosterChoice{Group: "ol"})
	require.NoError(t, err)
	assert.Empty(t, o.memory.proposed, "done once")

	again := uuid.New()
	_, err = o.Send(bg, o.line, again, "ol", strings.NewReader(list))
	require.NoError(t, err)
	_, err = o.Import(bg, o.line, again, contract.RosterChoice{Group: "ol"})
	require.NoError(t, err)
	ends := testkit.Coach("te")
	r, err = o.List(bg, ends, "")
	require.NoError(t, err)
	named := map[string]contract.RosterProposal{}
	for _, x := range r.Proposals {
		named[x.Name] = x
	}
	lind := named["88 Jun Lind"]
	assert.Equal(t, []any{true, []string{"weight 270 → 255"}}, []any{lind.Decidable, lind.Changes})
	assert.Equal(t, []any{false, "db"}, []any{named["21 Ora Quill"].Decidable, named["21 Ora Quill"].Group})
	require.NoError(t, o.Decide(bg, ends, lind.ID, true))
	require.NoError(t, o.Decide(bg, ends, named["88 Ann Same"].ID, false))
	require.NoError(t, o.Decide(bg, testkit.Coach("db"), named["21 Ora Quill"].ID, true))
	assert.ErrorIs(t, o.Decide(bg, ends, lind.ID, true), problem.ErrNotFound)
	r, err = o.List(bg, ends, "")
	require.NoError(t, err)
	assert.Empty(t, r.Proposals)
	require.Len(t, r.Players, 4, "who was left is not there")
	for _, x := range r.Players {
		switch x.LastName {
		case "Lind":
			assert.Equal(t, []any{255, []string{"te"}}, []any{*x.WeightLb, x.Groups})
		case "Quill":
			assert.Equal(t, []string{"db"}, x.Groups)
		}
	}
}

// TestExportIsAListThatImportUnderstands: a formula in a name stays a name.
func TestExportIsAListThatImportUnderstands(t *testing.T) {
	o := open()
	gone := named("99", "Marsh", "ol")
	gone.Archived = true
	odd := named("64", "Sato", "ol", "te")
	odd.Person.First = "=1+1"
	o.has(t, odd, gone, Entry{ID: uuid.New(), Person: named("7", "Lind").Person, Groups: []string{"te"}})
	for format, first := range map[string]string{"csv": "'=1+1", "xlsx": "=1+1"} { // a workbook says itself that it is text
		name, content, err := o.Export(bg, o.line, format, false)
		require.NoError(t, err)
		assert.Equal(t, "roster-2026-10-13."+format, name)
		read, err := table.Read(strings.NewReader(string(content)))
		require.NoError(t, err)
		assert.Equal(t, []string{"Number", "First name", "Last name", "Groups", "Position", "Height in", "Weight lb", "Returning", "Status", "Until", "Note", "Archived"}, read.Headers)
		require.Len(t, read.Rows, 2)
		assert.Equal(t, "Lind", read.Rows[0].Fields[2])
		assert.Equal(t, "OL, TE", read.Rows[1].Fields[3])
		assert.Equal(t, first, read.Rows[1].Fields[1], format)
	}
	_, content, err := o.Export(bg, o.line, "csv", true)
	require.NoError(t, err)
	assert.Contains(t, string(content), "Marsh")

	o.memory.entries[odd.ID].Person.First = "Jun"
	_, content, err = o.Export(bg, o.line, "csv", false)
	require.NoError(t, err)
	p, err := o.Send(bg, o.head, uuid.New(), "ol", strings.NewReader(string(content)))
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 2, 0}, []int{p.Create, p.Update, p.Same, p.Problems}, "what went out comes in unchanged")
}
