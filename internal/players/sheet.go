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
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
)

// Matrix returns the group as a matrix of players and techniques at the end of a week.
func (s *Service) Matrix(ctx context.Context, c access.Coach, group string, week int) (contract.Matrix, error) {
	v, err := s.open(ctx, c, group, week)
	if err != nil {
		return contract.Matrix{}, err
	}
	tallies, err := s.Marks.Season(ctx, group, c.Season.Start, v.asOf)
	if err != nil {
		return contract.Matrix{}, err
	}
	report, err := growth.Of(v.asOf, growth.Default(), record.Growth(s.Judge, tallies, v.asOf))
	if err != nil {
		return contract.Matrix{}, err
	}
	rate := map[string]float64{}
	for _, g := range report.Group {
		rate[g.Technique] = g.Rate
	}
	cells := map[string][]contract.Cell{}
	for _, e := range report.Rows {
		cells[e.Player] = append(cells[e.Player], cell(e))
	}
	out := contract.Matrix{Techniques: []contract.MatrixTechnique{}, Players: []contract.MatrixRow{}}
	for _, t := range v.house.Library.ForGroup(group).Techniques {
		mt := contract.MatrixTechnique{Key: t.Key, Name: t.Name}
		if r, ok := rate[t.Key]; ok {
			mt.Rate = &r
		}
		out.Techniques = append(out.Techniques, mt)
	}
	for _, p := range v.players {
		out.Players = append(out.Players, contract.MatrixRow{Player: squad.View(p), Cells: append([]contract.Cell{}, cells[p.ID.String()]...)})
	}
	return out, nil
}

func cell(e growth.Estimate) contract.Cell {
	return contract.Cell{Technique: e.Technique, Reps: e.Reps, Estimate: e.Estimate, Low: e.Low, High: e.High,
		Trend: contract.CellTrend(e.Trend), TrendClaimed: e.TrendClaimed, Carry: contract.CellCarry(e.Carry), CarryClaimed: e.CarryClaimed}
}

// Sheet returns one player's development up to the end of a week.
func (s *Service) Sheet(ctx context.Context, c access.Coach, id uuid.UUID, group string, week int) (contract.PlayerSheet, error) {
	v, err := s.open(ctx, c, group, week)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	player, err := v.player(id)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	tallies, err := s.Marks.Season(ctx, group, c.Season.Start, v.asOf)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	l, err := s.ladders(ctx, v, &id)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	sheet := contract.PlayerSheet{Player: squad.View(player), Weeks: c.Season.Weeks, Editable: c.MayEdit(group), Techniques: []contract.TechniqueLine{}, Standards: []contract.PlayerStandard{}}
	mine, err := s.techniqueLines(l, player, tallies, week, &sheet)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	for _, t := range v.house.Library.ForGroup(group).Techniques {
		sheet.Standards = append(sheet.Standards, standing.Standards(t, id, l.ranges)...)
	}
	sheet.Faults = faultLines(v, tallies, id, week)
	sheet.Plain = plain(v, mine, sheet.Faults)
	for _, line := range sheet.Techniques {
		if line.Imbalance != "" {
			sheet.Plain = append(sheet.Plain, line.Name+": "+strings.ToLower(line.Imbalance[:1])+line.Imbalance[1:])
		}
	}
	return sheet, nil
}

// techniqueLines fills in a line for each technique the player did, with the estimate
// as it stood at the end of every week, and returns his estimates of today.
func (s *Service) techniqueLines(l ladders, player squad.Player, tallies []record.Tally, week int, sheet *contract.PlayerSheet) ([]growth.Estimate, error) {
	rows := record.Growth(s.Judge, tallies, l.asOf)
	id := player.ID.String()
	points := map[string][]contract.TrendPoint{}
	byWeek := weekCounts(l.coach, rows, id)
	sides := l.sides()
	for w := 1; w <= week; w++ {
		end := min(season.WeekStart(l.coach.Season.Start, w)+6, l.asOf)
		upTo := rows[:0:0]
		for _, r := range rows {
			if r.Date <= end {
				upTo = append(upTo, r)
			}
		}
		estimates, err := growth.OfPlayer(end, growth.Default(), upTo, id)
		if err != nil {
			return nil, err
		}
		for _, e := range estimates {
			c := byWeek[weekKey{e.Technique, w}]
			points[e.Technique] = append(points[e.Technique], contract.TrendPoint{Week: w, Estimate: e.Estimate, Low: e.Low, High: e.High,
				Reps: c.practice.N() + c.game.N(), Practice: contract.Count(c.practice), Game: contract.Count(c.game)})
		}
	}
	report, err := growth.Of(l.asOf, growth.Default(), rows)
	if err != nil {
		return nil, err
	}
	var now []growth.Estimate
	for _, e := range report.Rows {
		if e.Player == id {
			now = append(now, e)
		}
	}
	for _, e := range now {
		sheet.PracticeReps += e.Practice.N()
		sheet.GameReps += e.Game.N()
		t, ok := l.house.Library.Technique(e.Technique)
		if !ok {
			continue
		}
		line := contract.TechniqueLine{Technique: e.Technique, Name: t.Name, Cell: cell(e), Points: points[e.Technique],
			Practice: contract.Count(e.Practice), Game: contract.Count(e.Game)}
		left, right := sides[e.Technique+"/left"], sides[e.Technique+"/right"]
		line.Left, line.Right, line.Imbalance = contract.Count(left), contract.Count(right), growth.Imbalance(left, right)
		if ld, ok := l.house.Library.LadderOf(e.Technique); ok {
			st, err := l.standing(ld, player)
			if err != nil {
				return nil, err
			}
			line.Ladder = new(l.standingView(ld, player.ID, st))
		}
		sheet.Techniques = append(sheet.Techniques, line)
	}
	return now, nil
}

// sides counts the graded reps by technique and side: "kick_slide/left".
func (l ladders) sides() map[string]growth.Count {
	out := map[string]growth.Count{}
	for k, list := range l.runs {
		for _, run := range list {
			for _, r := range run.Reps {
				v := l.judge.Of(r.State, r.Assignment, r.Technique)
				if r.Side == "" || !v.Graded {
					continue
				}
				c := out[k.technique+"/"+r.Side]
				if v.Clean {
					c.Clean++
				} else {
					c.Faulty++
				}
				out[k.technique+"/"+r.Side] = c
			}
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
func faultLines(v view, tallies []record.Tally, id uuid.UUID, week int) []contract.FaultLine {
	graded := map[string]int{}
	byFault := map[string]*contract.FaultLine{}
	line := func(key string) *contract.FaultLine {
		if l, ok := byFault[key]; ok {
			return l
		}
		fault, t, ok := v.house.Known.Fault(key)
		if !ok {
			fault.Name, fault.Severity = key, 1
		}
		l := &contract.FaultLine{Fault: key, Name: fault.Name, Technique: t.Key, TechniqueName: t.Name, Severity: fault.Severity, Safety: fault.Safety, ByWeek: make([]int, week)}
		if d, ok := v.house.Library.DrillFor(key, -1); ok {
			l.Drill = &d.Name
		}
		byFault[key] = l
		return l
	}
	for _, t := range tallies {
		if t.PlayerID == id && t.State.Graded() {
			graded[t.TechniqueKey] += t.N
		}
		w := v.coach.WeekOf(t.On)
		for _, f := range record.Shown(t) {
			switch {
			case f.CausedBy == id.String():
				line(f.Key).Caused += t.N
			case t.PlayerID == id && f.CausedBy == "":
				l := line(f.Key)
				l.N += t.N
				if w >= 1 && w <= week {
					l.ByWeek[w-1] += t.N
				}
			}
		}
	}
	lines := []contract.FaultLine{}
	for _, k := range slices.Sorted(maps.Keys(byFault)) {
		l := *byFault[k]
		l.Graded = graded[l.Technique]
		lines = append(lines, l)
	}
	weight := func(l contract.FaultLine) marks.Weighed {
		return marks.Weighed{N: l.N, Severity: l.Severity, Safety: l.Safety}
	}
	sort.SliceStable(lines, func(i, j int) bool { return weight(lines[i]).Before(weight(lines[j])) })
	return lines
}

// plain says the sheet in a few sentences: the best thing, the first to fix, and what
// may be claimed.
func plain(v view, mine []growth.Estimate, faults []contract.FaultLine) []string {
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
	var few []string
	for _, e := range mine {
		if text := growth.Say(e); text != "" {
			lines = append(lines, name(e.Technique)+" "+text)
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
