package app

import (
	"context"
	"fmt"
	"sort"
	"strings"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"nineyard/core/growth"
	"nineyard/core/ladder"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// Players returns the group as a matrix of players and techniques at the end of a week.
func (s *Service) Players(ctx context.Context, a Actor, group string, week int) (contract.Matrix, error) {
	if err := a.checkWeek(week); err != nil {
		return contract.Matrix{}, err
	}
	players, err := s.playersOf(ctx, a, group)
	if err != nil {
		return contract.Matrix{}, err
	}
	asOf := s.weekEnd(a, week)
	tallies, err := s.Store.MarkTallies(ctx, a.ClubID, group, a.SeasonStart, asOf.Time())
	if err != nil {
		return contract.Matrix{}, err
	}
	report, err := growth.Of(asOf, growth.Default(), growthRows(tallies, asOf))
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
	for _, t := range a.lib().ForGroup(group).Techniques {
		mt := contract.MatrixTechnique{Key: t.Key, Name: t.Name}
		if r, ok := rate[t.Key]; ok {
			mt.Rate = ptr(r)
		}
		out.Techniques = append(out.Techniques, mt)
	}
	for _, p := range players {
		row := contract.MatrixRow{Player: playerView(p), Cells: cells[p.ID.String()]}
		if row.Cells == nil {
			row.Cells = []contract.Cell{}
		}
		out.Players = append(out.Players, row)
	}
	return out, nil
}

// Player returns one player's development up to the end of a week.
func (s *Service) Player(ctx context.Context, a Actor, id uuid.UUID, group string, week int) (contract.PlayerSheet, error) {
	if err := a.checkWeek(week); err != nil {
		return contract.PlayerSheet{}, err
	}
	players, err := s.playersOf(ctx, a, group)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	player, ok := playersByID(players)[id]
	if !ok {
		return contract.PlayerSheet{}, ErrNotFound
	}
	asOf := s.weekEnd(a, week)
	f, g, exceptions, err := s.season(ctx, a, group, players, id, asOf)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	sheet := contract.PlayerSheet{Player: playerView(player), Weeks: a.SeasonWeeks, Editable: a.mayEdit(group), Techniques: []contract.TechniqueLine{}, Standards: []contract.PlayerStandard{}}
	mine, err := s.techniqueLines(a, f, player, g, week, &sheet)
	if err != nil {
		return contract.PlayerSheet{}, err
	}
	for _, t := range a.lib().ForGroup(group).Techniques {
		sheet.Standards = append(sheet.Standards, a.standardsOf(t, id, exceptions)...)
	}
	sheet.Faults = s.faultLines(a, f, id, week)
	sheet.Plain = a.plain(mine, sheet.Faults)
	for _, line := range sheet.Techniques {
		if line.Imbalance != "" {
			sheet.Plain = append(sheet.Plain, line.Name+": "+strings.ToLower(line.Imbalance[:1])+line.Imbalance[1:])
		}
	}
	return sheet, nil
}

// techniqueLines fills in a line for each technique the player did, with the estimate
// as it stood at the end of every week, and returns his estimates of today.
func (s *Service) techniqueLines(a Actor, f form, player Player, g climbing, week int, sheet *contract.PlayerSheet) ([]growth.Estimate, error) {
	rows := growthRows(f.tallies, f.asOf)
	id := player.ID.String()
	points := map[string][]contract.TrendPoint{}
	byWeek := weekCounts(a, rows, id)
	sides := sideCounts(g.runs)
	for w := 1; w <= week; w++ {
		end := min(season.WeekStart(a.start(), w)+6, f.asOf)
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
	report, err := growth.Of(f.asOf, growth.Default(), rows)
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
		t, ok := a.lib().Technique(e.Technique)
		if !ok {
			continue
		}
		line := contract.TechniqueLine{Technique: e.Technique, Name: t.Name, Cell: cell(e), Points: points[e.Technique],
			Practice: contract.Count(e.Practice), Game: contract.Count(e.Game)}
		left, right := sides[e.Technique+"/left"], sides[e.Technique+"/right"]
		line.Left, line.Right, line.Imbalance = contract.Count(left), contract.Count(right), growth.Imbalance(left, right)
		if ld, ok := a.lib().LadderOf(e.Technique); ok {
			standing, err := g.standing(ld, player)
			if err != nil {
				return nil, err
			}
			line.Ladder = ptr(g.standingView(ld, player.ID, standing))
		}
		sheet.Techniques = append(sheet.Techniques, line)
	}
	return now, nil
}

// season reads all that a player's sheet is made of; the reads do not wait for each other.
func (s *Service) season(ctx context.Context, a Actor, group string, players []Player, id uuid.UUID, asOf season.Date) (f form, c climbing, x []Exception, err error) {
	c = climbing{actor: a, asOf: asOf}
	var runs []StageRun
	g, gctx := errgroup.WithContext(ctx)
	g.Go(func() (err error) {
		f, err = s.form(gctx, a, group, players, asOf)
		return err
	})
	g.Go(func() (err error) {
		if runs, err = s.Store.StageRuns(gctx, a.ClubID, group, &id, a.SeasonStart, asOf.Time()); err != nil {
			return err
		}
		if c.overrides, err = s.Store.Overrides(gctx, a.ClubID, a.SeasonID); err != nil {
			return err
		}
		x, err = s.Store.Exceptions(gctx, a.ClubID)
		return err
	})
	err = g.Wait()
	c.runs = indexRuns(runs)
	return f, c, x, err
}

// sideCounts counts the graded reps of one player by technique and side.
func sideCounts(runs map[climbKey][]StageRun) map[string]growth.Count {
	out := map[string]growth.Count{}
	for k, list := range runs {
		for _, run := range list {
			for _, r := range run.Reps {
				v := judge(r.State, r.Assignment, r.Technique)
				if r.Side == "" || !v.graded {
					continue
				}
				c := out[k.technique+"/"+r.Side]
				if v.clean {
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

func weekCounts(a Actor, rows []growth.Row, player string) map[weekKey]weekCount {
	out := map[weekKey]weekCount{}
	for _, r := range rows {
		if r.Player != player {
			continue
		}
		k := weekKey{r.Technique, season.Week(a.start(), r.Date)}
		c := out[k]
		if r.Source == growth.Game {
			c.game.Clean += r.Clean
			c.game.Faulty += r.Faulty
		} else {
			c.practice.Clean += r.Clean
			c.practice.Faulty += r.Faulty
		}
		out[k] = c
	}
	return out
}

func (g climbing) standingView(ld teaching.Ladder, player uuid.UUID, st ladder.Standing) contract.LadderStanding {
	v := contract.LadderStanding{Key: ld.Key, Name: ld.Name, Done: st.Done, Week: st.Week, Overexposed: st.Overexposed, Stages: []contract.StageStanding{}}
	if !st.Done {
		v.Current = ptr(st.Current)
		v.Status = ptr(contract.LadderStandingStatus(st.Status))
	}
	for i, x := range st.Stages {
		sv := contract.StageStanding{Key: x.Key, Name: ld.Stages[i].Name, Reps: x.Reps, RecentReps: x.RecentReps, RecentClean: x.RecentClean,
			Window: x.Window, Clean: x.Clean, Sessions: x.Sessions, Passed: x.Passed, Overridden: x.Overridden, Override: g.override(ld, player, ld.Stages[i]), Open: x.Open, FromWeek: max(ld.Stages[i].FromWeek, 1)}
		if x.Passed {
			sv.PassedOn = ptr(x.PassedOn.String())
		}
		v.Stages = append(v.Stages, sv)
	}
	return v
}

// faultLines lists a player's faults of the season, safety first, then by how often
// and how bad; with those he caused for a teammate.
func (s *Service) faultLines(a Actor, f form, id uuid.UUID, week int) []contract.FaultLine {
	graded := map[string]int{}
	for _, t := range f.tallies {
		if t.PlayerID == id && (t.State == "assumed" || t.State == "looked") {
			graded[t.TechniqueKey] += t.N
		}
	}
	byFault := map[string]*contract.FaultLine{}
	line := func(key string) *contract.FaultLine {
		if l, ok := byFault[key]; ok {
			return l
		}
		fault, t, ok := a.House.Known.Fault(key)
		if !ok {
			fault.Name, fault.Severity = key, 1
		}
		l := &contract.FaultLine{Fault: key, Name: fault.Name, Technique: t.Key, TechniqueName: t.Name, Severity: fault.Severity,
			Safety: fault.Safety, Graded: graded[t.Key], Caused: 0, ByWeek: make([]int, week)}
		if d, ok := a.lib().DrillFor(key, -1); ok {
			l.Drill = ptr(d.Name)
		}
		byFault[key] = l
		return l
	}
	for _, t := range f.faults {
		w := season.Week(a.start(), season.Of(t.OnDate))
		switch {
		case t.CausedBy == id.String():
			line(t.Fault).Caused += t.N
		case t.PlayerID == id && t.CausedBy == "":
			l := line(t.Fault)
			l.N += t.N
			if w >= 1 && w <= week {
				l.ByWeek[w-1] += t.N
			}
		}
	}
	lines := []contract.FaultLine{}
	for _, k := range sortedKeys(byFault) {
		lines = append(lines, *byFault[k])
	}
	sort.SliceStable(lines, func(i, j int) bool {
		x, y := lines[i], lines[j]
		if x.Safety != y.Safety {
			return x.Safety
		}
		return x.N*x.Severity > y.N*y.Severity
	})
	return lines
}

// plain says the sheet in a few sentences: the best thing, the first to fix, and what
// may be claimed.
func (a Actor) plain(mine []growth.Estimate, faults []contract.FaultLine) []string {
	const minReps = 6
	name := func(key string) string {
		t, _ := a.lib().Technique(key)
		return t.Name
	}
	lines := []string{}
	if best, ok := growth.Best(mine, minReps); ok {
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
		if e.Reps < minReps {
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
