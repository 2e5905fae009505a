package players

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/growth"
	"nineyard/core/ladder"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
)

// openGrowth reads a group as of the end of a week and what the core makes of its season.
func (s *Service) openGrowth(ctx context.Context, c access.Coach, group string, week int) (v view, r growth.Report, err error) {
	var sums record.Sums
	v, err = s.open(ctx, c, group, week, func(ctx context.Context, v view) (err error) {
		sums, err = s.Marks.Season(ctx, group, c.Season.Start, v.asOf, v.asOf+1) // no faults
		return err
	})
	if err != nil {
		return v, r, err
	}
	r, err = growth.Of(v.asOf, growth.Default(), record.Growth(sums))
	return v, r, err
}

// Matrix returns the group as a matrix of players and techniques at the end of a week.
func (s *Service) Matrix(ctx context.Context, c access.Coach, group string, week int) (contract.Matrix, error) {
	v, report, err := s.openGrowth(ctx, c, group, week)
	if err != nil {
		return contract.Matrix{}, err
	}
	byTechnique := map[string]growth.GroupRate{}
	for _, g := range report.Group {
		byTechnique[g.Technique] = g
	}
	cells := map[string][]contract.Cell{}
	for _, e := range report.Rows {
		cells[e.Player] = append(cells[e.Player], cell(e))
	}
	overall := map[string]contract.Overall{}
	for _, p := range report.Players {
		overall[p.Player] = over(p)
	}
	out := contract.Matrix{Techniques: []contract.MatrixTechnique{}, Players: []contract.MatrixRow{}}
	for _, t := range v.house.Library.ForGroup(group).Techniques {
		mt := contract.MatrixTechnique{Key: t.Key, Name: t.Name}
		if g, ok := byTechnique[t.Key]; ok {
			mt.Rate = &g.Rate
			if practice, game, ok := g.Beside(); ok {
				mt.Beside = &contract.Beside{Practice: practice, Game: game}
			}
		}
		out.Techniques = append(out.Techniques, mt)
	}
	for _, p := range v.players {
		row := contract.MatrixRow{Player: squad.View(p), Cells: append([]contract.Cell{}, cells[p.ID.String()]...), Overall: over(growth.Player{Trend: growth.TooFew, Carry: growth.CarryTooFew})}
		if o, ok := overall[p.ID.String()]; ok {
			row.Overall = o
		}
		out.Players = append(out.Players, row)
	}
	return out, nil
}

// TechniqueForm returns how a group does a technique, in practice and in games, and what may
// be claimed of its players at it.
func (s *Service) TechniqueForm(ctx context.Context, c access.Coach, group, key string, week int) (contract.TechniqueForm, error) {
	out := contract.TechniqueForm{Voices: []contract.Voice{}}
	v, report, err := s.openGrowth(ctx, c, group, week)
	if err != nil {
		return out, err
	}
	if _, ok := v.house.Library.Technique(key); !ok {
		return out, problem.ErrNotFound
	}
	for _, g := range report.Group {
		if g.Technique == key {
			out.Rate = &g.Rate
			out.Practice, out.Game = contract.Count(g.Practice), contract.Count(g.Game)
		}
	}
	for _, x := range standing.Voices(report, v.house.Library, v.players) {
		if x.Technique != nil && *x.Technique == key {
			out.Voices = append(out.Voices, x)
		}
	}
	return out, nil
}

func cell(e growth.Estimate) contract.Cell {
	return contract.Cell{Technique: e.Technique, Reps: e.Reps, Estimate: e.Estimate, Low: e.Low, High: e.High,
		Trend: contract.Trend(e.Trend), TrendClaimed: e.TrendClaimed, Carry: contract.Carry(e.Carry), CarryClaimed: e.CarryClaimed}
}

// over is a player over all his techniques.
func over(p growth.Player) contract.Overall {
	return contract.Overall{Trend: contract.Trend(p.Trend), TrendClaimed: p.TrendClaimed, Carry: contract.Carry(p.Carry), CarryClaimed: p.CarryClaimed, Say: p.Say()}
}

// Sheet returns one player's development up to the end of a week.
func (s *Service) Sheet(ctx context.Context, c access.Coach, id uuid.UUID, group string, week int) (contract.PlayerSheet, error) {
	asOf, err := c.WeekEnd(week, s.Now())
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	var sums record.Sums
	var worked func() (development, error)
	l, err := s.openLadders(ctx, c, group, asOf, &id, func(ctx context.Context, v view) (err error) {
		if sums, err = s.Marks.Season(ctx, group, c.Season.Start, asOf, c.Season.Start); err != nil {
			return err
		}
		worked = aside.Work(func() (development, error) { return v.development(sums, id.String(), week) })
		return nil
	})
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	v := l.view
	player, err := v.player(id)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	d, err := worked()
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	sheet := contract.PlayerSheet{Player: squad.View(player), Weeks: c.Season.Weeks, Editable: c.MayEdit(group), Techniques: []contract.TechniqueLine{}, Standards: []contract.PlayerStandard{}}
	if err := l.techniqueLines(player, sums, d, &sheet); err != nil {
		return contract.PlayerSheet{}, err
	}
	for _, t := range v.house.Library.ForGroup(group).Techniques {
		sheet.Standards = append(sheet.Standards, standing.Standards(t, id, l.ranges)...)
	}
	sheet.Faults = faultLines(v, sums, id, week)
	sheet.Plain = plain(v, d.now, d.overall, sheet.Faults)
	return sheet, nil
}

// development is what the arithmetic makes of a season for one player.
type development struct {
	now     []growth.Estimate
	overall growth.Player
	points  map[string][]contract.TrendPoint // by technique, at the end of every week
}

// development works it out, up to the end of a week.
func (v view) development(sums record.Sums, player string, week int) (d development, err error) {
	rows := record.Growth(sums)
	report, err := growth.Of(v.asOf, growth.Default(), rows)
	if err != nil {
		return d, err
	}
	for _, e := range report.Rows {
		if e.Player == player {
			d.now = append(d.now, e)
		}
	}
	for _, p := range report.Players {
		if p.Player == player {
			d.overall = p
		}
	}
	byWeek := weekCounts(v.coach, rows, player)
	ends := make([]season.Date, week)
	for w := range ends {
		ends[w] = min(season.WeekStart(v.coach.Season.Start, w+1)+6, v.asOf)
	}
	past, err := growth.History(ends, growth.Default(), rows, player)
	d.points = map[string][]contract.TrendPoint{}
	for _, p := range past {
		c := byWeek[weekKey{p.Technique, p.End + 1}]
		d.points[p.Technique] = append(d.points[p.Technique], contract.TrendPoint{Week: p.End + 1, Estimate: p.Estimate, Low: p.Low, High: p.High,
			Reps: c.practice.N() + c.game.N(), Practice: contract.Count(c.practice), Game: contract.Count(c.game)})
	}
	return d, err
}

// techniqueLines fills in a line for each technique the player did.
func (l ladders) techniqueLines(player squad.Player, sums record.Sums, d development, sheet *contract.PlayerSheet) error {
	sides := sides(sums, player.ID)
	for _, e := range d.now {
		sheet.PracticeReps += e.Practice.N()
		sheet.GameReps += e.Game.N()
		t, ok := l.house.Library.Technique(e.Technique)
		if !ok {
			continue
		}
		line := contract.TechniqueLine{Technique: e.Technique, Name: t.Name, Cell: cell(e), Points: d.points[e.Technique],
			Practice: contract.Count(e.Practice), Game: contract.Count(e.Game),
			Left: contract.Count(sides[side{e.Technique, "left"}]), Right: contract.Count(sides[side{e.Technique, "right"}]), Imbalance: e.SaySides()}
		if ld, ok := l.house.Library.LadderOf(e.Technique); ok {
			st, err := l.standing(ld, player)
			if err != nil {
				return err
			}
			line.Ladder = new(l.standingView(ld, player.ID, st))
		}
		sheet.Techniques = append(sheet.Techniques, line)
	}
	return nil
}

type side struct{ technique, side string }

// sides counts a player's judged reps of the season by technique and side.
func sides(sums record.Sums, player uuid.UUID) map[side]growth.Count {
	out := map[side]growth.Count{}
	for _, d := range sums.Days {
		if d.PlayerID == player && d.Side != "" {
			k := side{d.TechniqueKey, d.Side}
			out[k] = out[k].Plus(growth.Count{Clean: d.Clean, Faulty: d.Faulty})
		}
	}
	return out
}

type weekKey struct {
	technique string
	week      int
}

type weekCount struct{ practice, game growth.Count }

func weekCounts(c access.Coach, rows []growth.Row, player string) map[weekKey]weekCount {
	out := map[weekKey]weekCount{}
	for _, r := range rows {
		if r.Player != player {
			continue
		}
		k := weekKey{r.Technique, c.WeekOf(r.Date)}
		n := out[k]
		to := &n.practice
		if r.Source == growth.Game {
			to = &n.game
		}
		to.Clean += r.Clean
		to.Faulty += r.Faulty
		out[k] = n
	}
	return out
}

func (l ladders) standingView(ld teaching.Ladder, player uuid.UUID, st ladder.Standing) contract.LadderStanding {
	v := contract.LadderStanding{Key: ld.Key, Name: ld.Name, Done: st.Done, Week: st.Week, Overexposed: st.Overexposed, Stages: []contract.StageStanding{}}
	if !st.Done {
		v.Current = &st.Current
		v.Status = new(contract.LadderStandingStatus(st.Status))
	}
	for i, x := range st.Stages {
		sv := contract.StageStanding{Key: x.Key, Name: ld.Stages[i].Name, Reps: x.Reps, RecentReps: x.RecentReps, RecentClean: x.RecentClean,
			Window: x.Window, Clean: x.Clean, Sessions: x.Sessions, Passed: x.Passed, Overridden: x.Overridden, Override: l.override(ld, player, ld.Stages[i]), Open: x.Open, FromWeek: max(ld.Stages[i].FromWeek, 1)}
		if x.Passed {
			sv.PassedOn = new(x.PassedOn.String())
		}
		v.Stages = append(v.Stages, sv)
	}
	return v
}

// faultLines lists a player's faults of the season, in the order in which the core says
// them, with those he caused for a teammate.
func faultLines(v view, sums record.Sums, id uuid.UUID, week int) []contract.FaultLine {
	graded := map[string]int{}
	byFault := map[string]*contract.FaultLine{}
	line := func(key, technique string) *contract.FaultLine {
		if l, ok := byFault[key]; ok {
			return l
		}
		fault, t, ok := v.house.Known.Fault(key)
		if !ok {
			fault.Name, fault.Severity = key, 1
		}
		if fault.Shared { // one habit: it is said of the technique at which it was seen, and counted over all
			t, _ = v.house.Technique(technique)
		}
		l := &contract.FaultLine{Fault: key, Name: fault.Name, Technique: t.Key, TechniqueName: t.Name, Severity: fault.Severity, Safety: fault.Safety, ByWeek: make([]int, week)}
		if d, ok := v.house.Library.DrillFor(key, -1); ok {
			l.Drill = &d.Name
		}
		byFault[key] = l
		return l
	}
	for _, d := range sums.Days {
		if d.PlayerID == id {
			graded[d.TechniqueKey] += d.Graded()
		}
	}
	for _, f := range sums.Faults {
		w := v.coach.WeekOf(f.On)
		switch {
		case f.CausedBy != nil && *f.CausedBy == id:
			line(f.Fault, f.TechniqueKey).Caused += f.N
		case f.PlayerID == id && f.CausedBy == nil:
			l := line(f.Fault, f.TechniqueKey)
			l.N += f.N
			if w >= 1 && w <= week {
				l.ByWeek[w-1] += f.N
			}
		}
	}
	lines := []contract.FaultLine{}
	for _, k := range slices.Sorted(maps.Keys(byFault)) {
		l := *byFault[k]
		l.Graded = graded[l.Technique]
		if fault, _, ok := v.house.Known.Fault(k); ok && fault.Shared {
			l.Graded = 0
			for technique, n := range graded {
				if _, ok := v.house.Known.FaultOf(technique, k); ok {
					l.Graded += n
				}
			}
		}
		lines = append(lines, l)
	}
	weight := func(l contract.FaultLine) marks.Weighed {
		return marks.Weighed{N: l.N, Severity: l.Severity, Safety: l.Safety}
	}
	sort.SliceStable(lines, func(i, j int) bool { return weight(lines[i]).Before(weight(lines[j])) })
	return lines
}

// plain says the sheet in a few sentences: the best thing, the first to fix, and what may be
// claimed, over all his techniques first.
func plain(v view, mine []growth.Estimate, overall growth.Player, faults []contract.FaultLine) []string {
	name := func(key string) string {
		t, _ := v.house.Library.Technique(key)
		return t.Name
	}
	lines := []string{}
	if best, ok := growth.Best(mine); ok {
		clean := best.Practice.Clean + best.Game.Clean
		lines = append(lines, fmt.Sprintf("Best: %s. Clean on %d of %d.", strings.ToLower(name(best.Technique)), clean, best.Reps))
	}
	// A safety fault is always said; of the others only the first.
	for _, f := range faults {
		if f.N == 0 {
			continue
		}
		lead := "Fix first"
		if f.Safety {
			lead = "Safety"
		}
		lines = append(lines, fmt.Sprintf("%s: %s at %s, %d of %d.", lead, strings.ToLower(f.Name), strings.ToLower(f.TechniqueName), f.N, f.Graded))
		if !f.Safety {
			break
		}
	}
	if text := overall.Say(); text != "" {
		lines = append(lines, text)
	}
	var few []string
	for _, e := range mine {
		if text := e.Say(); text != "" {
			lines = append(lines, name(e.Technique)+" "+text)
		}
		if text := e.SaySides(); text != "" {
			lines = append(lines, name(e.Technique)+": "+strings.ToLower(text[:1])+text[1:])
		}
		if e.Reps < growth.SheetReps {
			few = append(few, fmt.Sprintf("%s (%d)", strings.ToLower(name(e.Technique)), e.Reps))
		}
	}
	if len(few) > 0 {
		lines = append(lines, "Too few reps to say: "+strings.Join(few, ", ")+".")
	}
	if len(mine) == 0 {
		lines = append(lines, "No marks yet this season.")
	}
	return lines
}
