package mark

import (
	"context"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/marklist"
	"nineyard/core/marks"
	"nineyard/core/teaching"
	"nineyard/core/term"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/table"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// listed is a game as a list of its marks is written and read.
type listed struct {
	house   *house.House
	game    reel.Game
	players []squad.Player
	marks   []record.Detail
}

func (s *Service) listed(ctx context.Context, c access.Coach, game uuid.UUID, group string) (l listed, err error) {
	if _, l.house, l.game, err = s.filmed(ctx, c, game, group); err != nil {
		return l, err
	}
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) {
			l.players, err = s.Squad.Group(ctx, group, l.game.On)
			return err
		},
		func(ctx context.Context) (err error) { l.marks, err = s.Store.OfGame(ctx, game, group); return err })
	return l, err
}

// entry is a mark by the names of what it is of.
func (l listed) entry(m record.Detail) marklist.Entry {
	e := marklist.Entry{State: m.State, Assignment: m.Assignment, Right: m.Technique, Finish: m.Finish, Praise: m.Praise, Result: m.Result, Tallies: m.Tallies, Note: m.Note, Coach: m.By, Technique: l.house.TechniqueName(m.TechniqueKey)}
	if m.Grade != nil && m.State == marks.Looked {
		e.Grade = &m.Grade.Value
	}
	for _, p := range l.game.Plays {
		if m.PlayID != nil && p.ID == *m.PlayID {
			e.Play = p.Number
		}
	}
	if p, ok := squad.Find(l.players, m.PlayerID); ok {
		e.Number, e.Player = p.Jersey, p.LastName
	}
	if m.Side != nil {
		e.Side = *m.Side
	}
	for _, f := range m.Faults {
		x := marklist.Fault{Name: l.house.FaultName(f.Key), Flag: f.Penalty}
		if id, err := uuid.Parse(f.CausedBy); err == nil {
			x.By = f.CausedBy // of another group
			if p, ok := squad.Find(l.players, id); ok {
				x.By = p.Jersey
			}
		}
		e.Faults = append(e.Faults, x)
	}
	for _, x := range m.Measures {
		e.Measures = append(e.Measures, marklist.Measure{Checkpoint: x.Checkpoint, Value: x.Value})
	}
	return e
}

// ExportMarks writes a group's marks of a game as a list that is read again: csv or xlsx. It returns the file's
// name and what is in it.
func (s *Service) ExportMarks(ctx context.Context, c access.Coach, game uuid.UUID, group, format string) (string, []byte, error) {
	l, err := s.listed(ctx, c, game, group)
	if err != nil {
		return "", nil, err
	}
	entries := make([]marklist.Entry, len(l.marks))
	for i, m := range l.marks {
		entries[i] = l.entry(m)
	}
	slices.SortStableFunc(entries, func(a, b marklist.Entry) int { return a.Play - b.Play })
	rows := [][]any{table.Texts(marklist.Columns())}
	for _, e := range entries {
		rows = append(rows, table.Texts(marklist.Record(e)))
	}
	return table.File(format, "marks "+l.game.On.String()+" "+l.game.Opponent+" "+group, "Marks", rows)
}

// ExportGrades writes the grades of a group in a game, by the club's scheme, a line a player and one for all.
func (s *Service) ExportGrades(ctx context.Context, c access.Coach, game uuid.UUID, group, format string) (string, []byte, error) {
	l, err := s.listed(ctx, c, game, group)
	if err != nil {
		return "", nil, err
	}
	judging, err := s.Store.House(ctx)
	if err != nil {
		return "", nil, err
	}
	scheme := judging.For(group)
	report, err := marks.Grade(scheme, toGrade(scheme, l.marks))
	if err != nil {
		return "", nil, err
	}
	head := []any{"No", "Player", "Marks", "Graded", "Clean", "Clean rate", "Score", "Assumed", "Not graded"}
	for _, f := range scheme.Facets {
		head = append(head, facetNames[f.Key])
	}
	rows := [][]any{append(head, "Faults", "Caused for teammates")}
	add := func(number, name string, x marks.Summary) {
		row := []any{number, name, x.Marks, x.Graded, x.Clean, share(x.CleanRate, x.Graded > 0), share(x.Score, x.Scored), x.Assumed, x.NotGraded}
		for _, f := range scheme.Facets {
			m := x.Facets[f.Key]
			row = append(row, share(m.Mean, m.N > 0 && !math.IsNaN(m.Mean)))
		}
		rows = append(rows, append(row, l.counts(x.Faults), l.counts(x.Caused)))
	}
	for _, x := range report.Players {
		id, err := uuid.Parse(x.Player)
		p, here := squad.Find(l.players, id)
		if err != nil || !here {
			continue // a teammate of another group, who caused something
		}
		add(p.Jersey, p.LastName, x)
	}
	add("", "All", report.Group)
	return table.File(format, "grades "+l.game.On.String()+" "+l.game.Opponent+" "+group, "Grades", rows)
}

func share(v float64, known bool) any {
	if !known {
		return ""
	}
	return math.Round(v*1000) / 1000
}

func (l listed) counts(list []marks.FaultCount) string {
	words := make([]string, len(list))
	for i, f := range list {
		words[i] = fmt.Sprintf("%s %d", l.house.FaultName(f.Key), f.N)
	}
	return strings.Join(words, "; ")
}

// toGrade takes marks to the core, with what the scheme looks at. One that was made otherwise says nothing of facets,
// and on a scale all or nothing; see marks.Kept.
func toGrade(scheme marks.Scheme, list []record.Detail) []marks.Mark {
	out := make([]marks.Mark, 0, len(list))
	for _, m := range list {
		if m.State == marks.Withdrawn {
			continue
		}
		seen := marks.Seen{Assignment: m.Assignment, Technique: m.Technique, Finish: m.Finish, Grade: m.Grade}
		x := m.State.Mark(seen)
		x.Player = m.PlayerID.String()
		if scale, ok := scheme.Scale(); ok && x.Graded {
			x.Values = map[string]float64{"grade": 0}
			switch v := scheme.See(m.State, seen); {
			case m.Grade != nil && m.Grade.Of == scale.Of:
				x.Values["grade"] = float64(m.Grade.Value)
			case v.Clean:
				x.Values["grade"] = float64(scale.Of)
			}
		}
		for key := range x.Values {
			if key != "grade" && !slices.ContainsFunc(scheme.Facets, func(f marks.Facet) bool { return f.Key == key }) {
				delete(x.Values, key)
			}
		}
		for _, f := range m.Faults {
			x.Faults = append(x.Faults, marks.Fault{Key: f.Key, CausedBy: f.CausedBy})
		}
		out = append(out, x)
	}
	return out
}

// ReadMarks reads a list of marks and says of every line what saving it would do: make a mark, change one, or
// nothing. Nothing is changed.
func (s *Service) ReadMarks(ctx context.Context, c access.Coach, game uuid.UUID, group string, file io.Reader) (contract.MarkLines, error) {
	l, err := s.listed(ctx, c, game, group)
	if err != nil {
		return contract.MarkLines{}, err
	}
	t, err := table.Read(file)
	if err != nil {
		return contract.MarkLines{}, err
	}
	at := marklist.Guess(t.Headers)
	for _, col := range []marklist.Column{marklist.ColPlay, marklist.ColTechnique} {
		if _, ok := at[col]; !ok {
			return contract.MarkLines{}, invalid.Field("file", "no column of the list is called %s", col)
		}
	}
	rows := make([]marklist.Row, len(t.Rows))
	for i, r := range t.Rows {
		rows[i] = marklist.Row{Number: r.Line, Fields: r.Fields}
	}
	out := contract.MarkLines{Headers: append([]string{}, t.Headers...), Lines: []contract.MarkLine{}}
	inputs := []contract.MarkInput{}
	for _, line := range marklist.Read(rows, at) {
		v := contract.MarkLine{Line: line.Number, Action: contract.MarkLineActionWrong, Title: strings.TrimSpace(fmt.Sprintf("Play %d, %s %s", line.Play, line.Entry.Number, line.Player))}
		m, column, says := l.input(line, group)
		if says != "" {
			v.Column, v.Says = new(string(column)), &says
		} else {
			v.Mark = &m
			inputs = append(inputs, m)
		}
		out.Lines = append(out.Lines, v)
	}
	check, err := s.checker(ctx, c, inputs)
	if err != nil {
		return out, err
	}
	if check.scheme, err = s.Store.House(ctx); err != nil {
		return out, err
	}
	for i := range out.Lines {
		if out.Lines[i].Mark == nil {
			continue
		}
		if err := l.meant(check, &out.Lines[i]); err != nil {
			return out, err
		}
	}
	return out, nil
}

// meant says what a line would do, by the same check that a mark goes through when it is made.
func (l listed) meant(check checker, v *contract.MarkLine) error {
	m := v.Mark
	e, err := check.event(*m)
	if err != nil {
		if !refusal(err) {
			return err
		}
		v.Action, v.Mark, v.Column, v.Says = contract.MarkLineActionWrong, nil, new(columnOf(err)), new(err.Error())
		return nil
	}
	v.Action = contract.MarkLineActionCreate
	i := slices.IndexFunc(l.marks, func(x record.Detail) bool {
		return x.PlayerID == m.PlayerID && alike(x.PlayID, m.PlayID) && x.TechniqueKey == *m.TechniqueKey
	})
	if i < 0 {
		return nil
	}
	was := l.marks[i]
	m.On, v.Action = &was.ID, contract.MarkLineActionUpdate
	would := l.entry(record.Detail{PlayerID: e.PlayerID, PlayID: e.PlayID, TechniqueKey: e.TechniqueKey, State: marks.State(e.State), Assignment: e.Assignment, Technique: e.Technique, Finish: e.Finish,
		Faults: e.Faults, Measures: e.Measures, Praise: e.Praise, Note: e.Note, Side: e.Side, Result: e.Result, Tallies: e.Tallies, Grade: gradeOf(e), By: was.By})
	if slices.Equal(marklist.Record(would), marklist.Record(l.entry(was))) {
		v.Action = contract.MarkLineActionSame
	}
	return nil
}

// gradeOf is the grade of an event.
func gradeOf(e Event) *marks.OneGrade {
	if e.Grade == nil {
		return nil
	}
	return &marks.OneGrade{Value: *e.Grade, Of: *e.GradeOf, CleanAt: *e.GradeClean}
}

// columnOf is the column in which a field of a mark stands.
func columnOf(err error) string {
	e, ok := invalid.As(err)
	if !ok {
		return string(marklist.ColPlayer)
	}
	field, _, _ := strings.Cut(e.Field, "[")
	for name, col := range map[string]marklist.Column{"technique_key": marklist.ColTechnique, "faults": marklist.ColFaults, "measures": marklist.ColMeasures, "tallies": marklist.ColTallies, "result": marklist.ColResult, "grade": marklist.ColGrade, "play_id": marklist.ColPlay} {
		if field == name {
			return string(col)
		}
	}
	return string(marklist.ColPlayer)
}

// input is a line as a mark, or what of it is not understood.
func (l listed) input(line marklist.Line, group string) (m contract.MarkInput, column marklist.Column, says string) {
	if line.Says != "" {
		return m, line.Column, line.Says
	}
	e := line.Entry
	i := slices.IndexFunc(l.game.Plays, func(p reel.Play) bool { return p.Number == e.Play })
	if i < 0 {
		return m, marklist.ColPlay, fmt.Sprintf("the game has no play %d", e.Play)
	}
	who, found := l.who(e.Number, e.Player)
	if !found {
		return m, marklist.ColNumber, "nobody of the group, or more than one, is called so"
	}
	t, ok := techniqueOf(l.house.Library.ForGroup(group).Techniques, e.Technique)
	if !ok {
		return m, marklist.ColTechnique, fmt.Sprintf("the group is taught nothing called %q", e.Technique)
	}
	m = contract.MarkInput{ID: uuid.Must(uuid.NewV7()), PlayID: &l.game.Plays[i].ID, PlayerID: who.ID, TechniqueKey: &t.Key, State: contract.MarkInputState(e.State), Praise: new(e.Praise), Note: new(e.Note), Result: e.Result}
	if e.State == marks.Looked {
		m.Assignment, m.Technique, m.Finish, m.Grade = e.Assignment, e.Right, e.Finish, e.Grade
	}
	if e.Side != "" {
		m.Side = new(contract.MarkInputSide(e.Side))
	}
	var faults []contract.MarkFaultInput
	for _, f := range e.Faults {
		j := slices.IndexFunc(t.Faults, func(x teaching.Fault) bool { return x.Key == f.Name || term.Same(x.Name, f.Name) })
		if j < 0 {
			return m, marklist.ColFaults, fmt.Sprintf("%s has no fault %q", t.Name, f.Name)
		}
		in := contract.MarkFaultInput{Key: t.Faults[j].Key}
		if f.Flag {
			in.Penalty = new(true)
		}
		if f.By != "" {
			id, err := uuid.Parse(f.By)
			if by, ok := l.who(f.By, ""); ok {
				id = by.ID
			} else if err != nil {
				return m, marklist.ColFaults, fmt.Sprintf("nobody of the group has the number %q", f.By)
			}
			in.CausedBy = &id
		}
		faults = append(faults, in)
	}
	if len(faults) > 0 {
		m.Faults = &faults
	}
	m.Tallies = record.TallyViews(e.Tallies)
	if len(e.Measures) > 0 {
		list := make([]contract.MeasureInput, len(e.Measures))
		for j, x := range e.Measures {
			list[j] = contract.MeasureInput{Checkpoint: x.Checkpoint, Value: x.Value}
		}
		m.Measures = &list
	}
	return m, "", ""
}

// who is the one player with a number and, where it is said, a name.
func (l listed) who(number, name string) (squad.Player, bool) {
	var found []squad.Player
	for _, p := range l.players {
		if (number == "" || p.Jersey == number) && (name == "" || term.Same(p.LastName, name)) {
			found = append(found, p)
		}
	}
	if len(found) != 1 {
		return squad.Player{}, false
	}
	return found[0], true
}

// techniqueOf finds a technique by its name, another name of it, or its key.
func techniqueOf(list []teaching.Technique, said string) (teaching.Technique, bool) {
	i := slices.IndexFunc(list, func(t teaching.Technique) bool {
		return t.Key == said || term.Same(t.Name, said) || slices.ContainsFunc(t.Aliases, func(a string) bool { return term.Same(a, said) })
	})
	if i < 0 {
		return teaching.Technique{}, false
	}
	return list[i], true
}
