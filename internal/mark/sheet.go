package mark

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/marks"
	"nineyard/core/standard"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Sheet returns the sheet for marking the reps of a placed drill.
func (s *Service) Sheet(ctx context.Context, c access.Coach, placement uuid.UUID) (contract.MarkSheet, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	placed, err := s.Plans.Placed(ctx, []uuid.UUID{placement})
	if err != nil {
		return contract.MarkSheet{}, err
	}
	if len(placed) == 0 {
		return contract.MarkSheet{}, problem.ErrNotFound
	}
	p := placed[0]
	d, ok := h.Known.Drill(p.DrillKey)
	technique := h.MarkedAs(p.TechniqueKey, d)
	if !ok || technique.Key == "" {
		return contract.MarkSheet{}, problem.ErrNotFound
	}
	players, err := s.Squad.Group(ctx, p.Group, p.On)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	existing, err := s.Store.OfPlacement(ctx, placement)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	judging, err := s.Store.House(ctx)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	ranges, err := s.Ranges.Ranges(ctx)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	att, _ := squad.Attendance(players)
	_, y, _ := crew.Planned(d, att, p.Minutes, p.Lanes)
	sheet := contract.MarkSheet{Judged: judged(judging.For(p.Group)), PlacementID: p.ID, PracticeID: p.PracticeID, Drill: d.Name, Technique: technique.Key, TechniqueName: technique.Name,
		Date: p.On.String(), PlannedReps: y.PerPlayer.Max, Sides: d.Sides, Watch: &d.Watch, Players: []contract.Player{},
		Faults: faults(h, technique), Measures: measured(h, technique), Own: own(h, technique, ranges), Decided: decided(h, technique), Marks: []contract.Mark{}}
	if len(d.FromEach) > 0 {
		sheet.FromEach = &d.FromEach
	}
	several := shows(h, d, technique.Key, strings.Fields(p.Cards), ranges, &sheet)
	marked := map[uuid.UUID]bool{}
	for _, m := range existing {
		if m.TechniqueKey != technique.Key && !several && slices.Contains(d.Techniques, m.TechniqueKey) {
			continue // another technique that the drill shows: such a sheet is of one
		}
		marked[m.PlayerID] = true
		sheet.Marks = append(sheet.Marks, view(m))
		sheet.PlannedReps = max(sheet.PlannedReps, *m.Rep)
	}
	full, _ := squad.Crew(players, d)
	working := squad.ByID(full)
	for _, x := range players {
		if _, ok := working[x.ID]; ok || marked[x.ID] {
			sheet.Players = append(sheet.Players, squad.View(x))
		}
	}
	return sheet, nil
}

// shows fills in what reps of a drill count for where that is not one technique alone, and the cards they go by.
func shows(h *house.House, d teaching.Drill, chosen string, order []string, ranges []standing.Range, sheet *contract.MarkSheet) bool {
	list := d.Shown(chosen)
	if d.Shows == "" || d.Shows == teaching.ShowsOne || len(list) == 0 {
		return false
	}
	sheet.Shows = new(contract.MarkSheetShows(d.Shows))
	techniques := []contract.SheetTechnique{}
	for _, k := range list {
		t := h.MarkedAs(k, d)
		techniques = append(techniques, techniqueView(h, t))
		if k != chosen {
			sheet.Own = append(sheet.Own, own(h, t, ranges)...)
		}
	}
	sheet.Techniques = &techniques
	if d.Shows != teaching.ShowsCard {
		return true
	}
	cards := []contract.SheetCard{}
	for _, c := range d.Pack(order) {
		v := contract.SheetCard{Key: c.Key, Look: c.Look, Right: c.Right}
		if f, _, ok := h.Known.Fault(c.Invites); ok {
			v.Invites = &f.Name
		}
		if says := rowWords(h.Known, c.Row); says != "" {
			v.Row = &says
		}
		if len(c.Men) == 2 {
			v.Men = &c.Men
		}
		if c.Asks != "" {
			v.Asks = &c.Asks
		} else {
			places := []contract.CardPlace{}
			for _, place := range c.Places() {
				places = append(places, contract.CardPlace{Place: place, Technique: c.Each[place]})
			}
			v.Places = &places
		}
		cards = append(cards, v)
	}
	sheet.Cards = &cards
	return true
}

// measured lists what can be measured at a technique, with what each call asks where the standard is a difference from that.
func measured(h *house.House, t teaching.Technique) []contract.PlayerStandard {
	list := standing.Standards(t, uuid.Nil, nil)
	for i, x := range list {
		table, column, there := strings.Cut(x.Measure.From, "/")
		tb, ok := h.Known.Table(table)
		if !there || !ok {
			continue
		}
		rows := []contract.StandardRow{}
		for _, r := range tb.Rows {
			if v, ok := r.Numbers[column]; ok {
				row := contract.StandardRow{Call: callOf(r), Value: v}
				var longer []contract.LongerRow
				for _, x := range tb.Longer(r, column) {
					longer = append(longer, contract.LongerRow{ToGo: x.ToGo, Value: x.Value})
				}
				if longer != nil {
					row.Longer = &longer
				}
				rows = append(rows, row)
			}
		}
		list[i].Rows = &rows
	}
	return list
}

// callOf is a row's call, with what must hold besides.
func callOf(r teaching.Row) string {
	if r.When != "" {
		return r.Call + ", " + r.When
	}
	return r.Call
}

// rowWords says what a row of a table, "table/call", answers.
func rowWords(lib *teaching.Library, row string) string {
	tb, r, ok := lib.Row(row)
	if !ok {
		return ""
	}
	return answers(tb, r)
}

// answers says what a row of a table answers: its words, and its numbers with their units.
func answers(tb teaching.Table, r teaching.Row) string {
	var says []string
	for _, c := range tb.Columns {
		switch v, number := r.Numbers[c.Key]; {
		case r.Words[c.Key] != "":
			says = append(says, r.Words[c.Key])
		case number:
			says = append(says, strings.TrimSpace(fmt.Sprintf("%s %v %s", cmp.Or(c.Name, strings.ReplaceAll(c.Key, "_", " ")), v, c.Unit)))
		}
	}
	return strings.Join(says, "; ")
}

// decided lists the tables that decide what is right at a technique's checkpoints; nil when none does.
func decided(h *house.House, t teaching.Technique) *[]contract.Decided {
	var list []contract.Decided
	for _, p := range t.Checkpoints {
		tb, ok := h.Known.Table(p.Table)
		if !ok {
			continue
		}
		d := contract.Decided{Checkpoint: p.Name, Table: tb.Name, Rows: []contract.DecidedRow{}}
		for _, r := range tb.Rows {
			d.Rows = append(d.Rows, contract.DecidedRow{Call: callOf(r), Says: answers(tb, r)})
		}
		list = append(list, d)
	}
	if list == nil {
		return nil
	}
	return &list
}

// faults lists the faults of a technique in the library's order, the most important first;
// the screen gives them their letters.
func faults(h *house.House, t teaching.Technique) []contract.SheetFault {
	list := []contract.SheetFault{}
	for _, f := range t.Faults {
		v := contract.SheetFault{Key: f.Key, Name: f.Name, Safety: f.Safety, Severity: f.Severity}
		if f.Penalty {
			v.Penalty = &f.Penalty
		}
		if say := f.Say[f.Checkpoint]; say != "" {
			v.Say = &say
		}
		if behind := h.Behind(f); behind != "" {
			v.Behind = &behind
		}
		list = append(list, v)
	}
	return list
}

// own lists the players' own ranges at a technique.
func own(h *house.House, technique teaching.Technique, ranges []standing.Range) []contract.SheetRange {
	list := []contract.SheetRange{}
	for _, x := range ranges {
		c, t, ok := h.Library.Checkpoint(x.Checkpoint)
		if m, by := standing.For(c, x.PlayerID, ranges); ok && by != nil && t.Key == technique.Key {
			list = append(list, contract.SheetRange{PlayerID: x.PlayerID, Checkpoint: c.Key, Measure: m})
		}
	}
	return list
}

// view words a mark.
func view(m record.Detail) contract.Mark {
	v := contract.Mark{ID: m.ID, TechniqueKey: &m.TechniqueKey, PlayerID: m.PlayerID, State: contract.MarkState(m.State), Assignment: m.Assignment,
		Technique: m.Technique, Finish: m.Finish, Praise: m.Praise, Note: m.Note, Side: m.Side, Result: m.Result, Asked: m.Asked, By: &m.By, Faults: []contract.MarkFault{}, Measures: []contract.MarkMeasure{}}
	for _, x := range m.Measures {
		v.Measures = append(v.Measures, contract.MarkMeasure{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: contract.MarkMeasureVerdict(x.Verdict)})
	}
	v.Tallies = record.TallyViews(m.Tallies)
	if m.Grade != nil {
		v.Grade, v.GradeOf, v.GradeClean = &m.Grade.Value, &m.Grade.Of, &m.Grade.CleanAt
	}
	if box, ok := marks.BoxOf(m.Verdict, m.Result); ok {
		v.Box = new(contract.MarkBox(box))
	}
	if m.Rep != nil {
		v.Rep = *m.Rep
	}
	for _, f := range m.Faults {
		view := contract.MarkFault{Key: f.Key}
		if f.CausedBy != "" {
			view.CausedBy = &f.CausedBy
		}
		if f.Penalty {
			view.Penalty = &f.Penalty
		}
		v.Faults = append(v.Faults, view)
	}
	return v
}

// faulty reports whether a measured value is a fault.
func faulty(m record.Measured) bool { return standard.Verdict(m.Verdict).Faulty() }
