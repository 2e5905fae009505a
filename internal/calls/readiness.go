package calls

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/crew"
	"nineyard/core/ladder"
	"nineyard/core/lineup"
	"nineyard/core/readiness"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Readiness says of every call whether it will be ready, and what each ladder of a group still
// asks, as of the end of a week or today.
func (s *Service) Readiness(ctx context.Context, c access.Coach, group string, week int) (contract.Readiness, error) {
	if _, err := c.Group(group); err != nil {
		return contract.Readiness{}, err
	}
	b, err := s.open(ctx, c, week)
	if err != nil {
		return contract.Readiness{}, err
	}
	out := contract.Readiness{AsOf: b.asOf.String(), Practices: len(b.days), Calls: []contract.CallReadiness{}, Ladders: []contract.LadderReadiness{}}
	for _, e := range b.calls {
		list, needs, err := b.ask(ctx, e.Call)
		if err != nil {
			return out, err
		}
		a := readiness.Of(b.days, e.Call.Install, needs)
		v := contract.CallReadiness{ID: e.ID, Verdict: contract.Verdict(a.Verdict), By: clamp(a.By), Practices: a.Practices, Weeks: b.weeksOf(a.After)}
		if a.Later != nil {
			v.Later = new(a.Later.String())
		}
		if text := weakest(b, list, needs, a); text != "" {
			v.Weakest = &text
		}
		out.Calls = append(out.Calls, v)
	}
	g, err := b.crowd(ctx, group)
	if err != nil {
		return out, err
	}
	for _, ld := range b.house.Library.ForGroup(group).Ladders {
		v, err := b.ladder(g, group, ld)
		if err != nil {
			return out, err
		}
		out.Ladders = append(out.Ladders, v)
	}
	return out, nil
}

// weakest words the spot of a call that is least ready by its install; "" for one that is ready,
// or of which nothing can be said.
func weakest(b *book, list []asked, needs []readiness.Need, a readiness.Answer) string {
	if a.Verdict == readiness.Ready || a.Verdict == readiness.NoNeeds || a.Verdict == readiness.NoLineUp {
		return ""
	}
	least, text := 2.0, ""
	for i, n := range needs {
		for j, spot := range n.Spots {
			p := readiness.Need{Stage: n.Stage, Spots: [][]readiness.Runner{spot}}.At(a.Practices)
			if p < least {
				t, _ := b.house.Library.Technique(list[i].need.Technique)
				least, text = p, fmt.Sprintf("%s at %s: %.0f %%", t.Name, list[i].spots[j].Name, 100*p)
			}
		}
	}
	return text
}

// ladder says what a ladder still asks of those of a group who will be on the field, of the whole
// group when it has no line-up: up to what the next call needs of them that has not passed, else up to
// the game.
func (b *book) ladder(g *crowd, group string, ld teaching.Ladder) (contract.LadderReadiness, error) {
	t, err := b.on(g, ld)
	if err != nil {
		return contract.LadderReadiness{}, err
	}
	v := contract.LadderReadiness{Ladder: ld.Key, Name: ld.Name, Technique: ld.Technique, Stages: []string{}, Weeks: append(b.stagesSoFar(t), b.stagesAhead(t)...)}
	for _, st := range ld.Stages {
		v.Stages = append(v.Stages, st.Name)
	}
	lineUp := present(b.lineUps[group], g.Players)
	stage, ways := t.upTo, t.on(lineUp.OnField())
	left, until, end := len(b.ahead), "", season.Date(math.MaxInt32)
	first, need := b.firstOf(t, lineUp, group)
	if first != nil {
		v.Install, v.Call = new(first.Install.String()), &first.Name
		stage, _ = call.UpTo(ld, need.Stage)
		ways = t.on(lineUp.OnField(need.Spots...))
		end = *first.Install
		left, until = 0, "the install of "+first.Name
	}
	for _, d := range b.ahead {
		if d.On < end {
			v.Minutes += d.Own[group]
			if first != nil {
				left++
			}
		}
	}
	line, err := readiness.Towards(stage, ways, t.form)
	if err != nil {
		return v, err
	}
	v.Says = line.Say(ld.Name, ld.Stages[stage].Name, left, until)
	v.Short = first != nil && line.Short(left)
	return v, nil
}

// on are the ways of those who are on the field, of everybody who takes part when nobody is named.
func (l ladderTracks) on(field lineup.LineUp) (ways []readiness.Way) {
	playing := map[string]bool{}
	for _, spot := range field {
		for _, p := range spot.Players {
			playing[p.Player] = true
		}
	}
	for i, c := range l.climbs {
		if playing[c.Player.ID.String()] || len(playing) == 0 && c.Player.Status.TakesPart() {
			ways = append(ways, l.ways[i])
		}
	}
	return ways
}

// firstOf is the call that is installed next of those that need of a group what not all have passed,
// with that need.
func (b *book) firstOf(t ladderTracks, l lineup.LineUp, group string) (first *call.Call, need call.Need) {
	for i, e := range b.calls {
		x := &b.calls[i].Call
		if e.Call.Install == nil || *e.Call.Install < b.asOf || first != nil && *x.Install >= *first.Install {
			continue
		}
		for _, n := range e.Call.Needs {
			stage, ok := call.UpTo(t.ladder, n.Stage)
			if n.Group != group || n.Technique != t.ladder.Technique || !ok {
				continue
			}
			if slices.ContainsFunc(t.on(l.OnField(n.Spots...)), func(w readiness.Way) bool { return w.Passed <= stage }) {
				first, need = x, n
			}
		}
	}
	return first, need
}

// stagesSoFar is where a group worked at the end of each week that is over.
func (b *book) stagesSoFar(t ladderTracks) []contract.WeekStage {
	out := []contract.WeekStage{}
	for w := 1; w < b.coach.WeekOf(b.asOf); w++ {
		var players []ladder.Player
		for _, c := range t.climbs {
			in := c.Season
			in.AsOf = season.WeekStart(in.SeasonStart, w+1) - 1
			st, err := ladder.Of(in)
			players = append(players, ladder.Player{Standing: st, Available: err == nil && c.Player.Status.TakesPart()})
		}
		out = append(out, contract.WeekStage{Week: w, Stage: ladder.GroupStage(len(t.ladder.Stages), players)})
	}
	return out
}

// stagesAhead is where it will work, at the present pace, from this week on.
func (b *book) stagesAhead(t ladderTracks) []contract.WeekStage {
	out := []contract.WeekStage{}
	var tracks []readiness.Track
	for i, c := range t.climbs {
		if c.Player.Status.TakesPart() {
			tracks = append(tracks, t.tracks[i])
		}
	}
	for w := max(1, b.coach.WeekOf(b.asOf)); w <= b.coach.Season.Weeks; w++ {
		n := readiness.Before(b.days, season.WeekStart(b.coach.Season.Start, w+1))
		out = append(out, contract.WeekStage{Week: w, Stage: readiness.StageAfter(t.upTo+1, tracks, n), Ahead: n > 0})
		if n == len(b.days) {
			break
		}
	}
	return out
}

// Detail says player by player how ready a call is, and what would mend it.
func (s *Service) Detail(ctx context.Context, c access.Coach, id uuid.UUID, week int) (contract.CallDetail, error) {
	b, err := s.open(ctx, c, week)
	if err != nil {
		return contract.CallDetail{}, err
	}
	e, found := b.find(id)
	if !found {
		return contract.CallDetail{}, problem.ErrNotFound
	}
	list, needs, err := b.ask(ctx, e.Call)
	if err != nil {
		return contract.CallDetail{}, err
	}
	a := readiness.Of(b.days, e.Call.Install, needs)
	out := contract.CallDetail{ID: e.ID, Verdict: contract.Verdict(a.Verdict), By: clamp(a.By), Practices: a.Practices, Needs: []contract.NeedReadiness{}, Mends: []contract.CallMend{}}
	for i, x := range list {
		v, err := b.needView(x, needs[i], a.Practices)
		if err != nil {
			return out, err
		}
		out.Needs = append(out.Needs, v)
	}
	if a.Later != nil && e.Call.Install != nil {
		if next := readiness.Before(b.days, *a.Later+1); next < len(b.days) { // the practice after it
			out.Mends = append(out.Mends, contract.CallMend{Kind: contract.Later, Day: new(b.days[next].String())})
		}
	}
	if a.Verdict == readiness.InDoubt || a.Verdict == readiness.WillNot {
		for i, x := range list {
			m, ok, err := b.minutes(x, needs[i], a.Practices)
			if err != nil {
				return out, err
			}
			if ok {
				out.Mends = append(out.Mends, m)
			}
		}
	}
	return out, nil
}

// needView words a need player by player, after so many practices.
func (b *book) needView(x asked, n readiness.Need, practices int) (contract.NeedReadiness, error) {
	t, _ := b.house.Library.Technique(x.need.Technique)
	v := contract.NeedReadiness{Group: x.need.Group, Technique: t.Key, Name: t.Name, Stage: x.ladder.Stages[x.stage].Name, By: clamp(n.At(practices)), Spots: []contract.SpotReadiness{}}
	if len(n.Spots) == 0 {
		v.By = 0
	}
	for i, s := range x.spots {
		spot := contract.SpotReadiness{Name: s.Name, Players: []contract.RunnerReadiness{}}
		spot.By = clamp(readiness.Need{Stage: n.Stage, Spots: n.Spots[i : i+1]}.At(practices))
		for _, p := range s.Players {
			at := x.of(p.Player)
			w, track, who := x.ways[at], x.tracks[at], x.climbs[at].Player
			needed, err := w.Needed(x.stage)
			if err != nil {
				return v, err
			}
			r := contract.RunnerReadiness{PlayerID: who.ID, Jersey: who.Jersey, Name: who.LastName, Share: p.Share, Passed: track.Has(x.stage), By: clamp(track.At(x.stage, practices)),
				Reps: int(math.Ceil(needed - 1e-6)), PerPractice: w.PerPractice, CleanRate: clamp(w.CleanRate), Status: contract.Availability(who.Status)}
			r.At = x.ladder.Stages[min(w.Passed, x.upTo)].Name
			spot.Players = append(spot.Players, r)
		}
		v.Spots = append(v.Spots, spot)
	}
	return v, nil
}

// minutes is how long a practice the drill of the stage at hand would have to be for everybody on
// the field to be likely there by the install; where no length would do, by when it then would be.
// It is of the player who needs most.
func (b *book) minutes(x asked, n readiness.Need, practices int) (m contract.CallMend, ok bool, err error) {
	days := b.days[:practices]
	if n.At(practices) >= readiness.Likely {
		return m, false, nil
	}
	most, who := -1, readiness.Way{}
	for _, w := range x.behind(practices) {
		reps, enough, err := w.Enough(days)
		if err == nil && !enough {
			days = b.days
			reps, enough, err = w.Enough(days)
		}
		if err != nil || !enough {
			return m, false, err // not even as many reps as can be
		}
		if reps > most {
			most, who = reps, w
		}
	}
	d, found := b.drillOf(x, who.Passed)
	if most < 0 || !found {
		return m, false, nil
	}
	minutes, ok := crew.MinutesFor(d, x.crowd.attendance, d.Lanes, most, 60)
	m = contract.CallMend{Kind: contract.Minutes, Group: &x.need.Group, Technique: &x.need.Technique, Drill: &d.Name, Minutes: &minutes, Reps: &most, Now: &who.PerPractice}
	if len(days) > practices {
		m.Day = new(b.days[len(b.days)-1].String())
	}
	return m, ok, nil
}

// behind are the ways, up to the stage that is needed, of those on the field who are not likely to
// have passed it after so many practices.
func (a asked) behind(practices int) (list []readiness.Way) {
	for _, s := range a.spots {
		for _, p := range s.Players {
			at := a.of(p.Player)
			w := a.ways[at]
			if w.Passed <= a.stage && a.tracks[at].At(a.stage, practices) < readiness.Likely {
				w.Left = w.Left[:a.stage+1-w.Passed]
				list = append(list, w)
			}
		}
	}
	return list
}

// drillOf is the first drill of the stage at which a player works.
func (b *book) drillOf(x asked, stage int) (teaching.Drill, bool) {
	for _, k := range x.ladder.Stages[stage].DrillsOf(x.need.Group) {
		if d, ok := b.house.Library.Drill(k); ok {
			return d, true
		}
	}
	return teaching.Drill{}, false
}

// Short lists what calls that will not be ready still ask of a group.
func (s *Service) Short(ctx context.Context, c access.Coach, group string, week int) ([]forecast.Short, error) {
	b, err := s.open(ctx, c, week)
	if err != nil {
		return nil, err
	}
	var list []forecast.Short
	for _, e := range b.calls {
		if e.Call.Install == nil || *e.Call.Install < b.asOf || !slices.ContainsFunc(e.Call.Needs, func(n call.Need) bool { return n.Group == group }) {
			continue
		}
		asks, needs, err := b.ask(ctx, e.Call)
		if err != nil {
			return nil, err
		}
		a := readiness.Of(b.days, e.Call.Install, needs)
		if a.Verdict != readiness.WillNot && a.Verdict != readiness.InDoubt {
			continue
		}
		for i, x := range asks {
			if x.need.Group != group || needs[i].At(a.Practices) >= readiness.Likely {
				continue
			}
			short := forecast.Short{Call: e.Call.Name, Install: *e.Call.Install, Ladder: x.ladder.Key}
			for _, w := range x.behind(a.Practices) {
				if !slices.Contains(short.Stages, w.Passed) {
					short.Stages = append(short.Stages, w.Passed)
				}
			}
			list = append(list, short)
		}
	}
	slices.SortStableFunc(list, func(a, b forecast.Short) int { return cmp.Compare(a.Install, b.Install) })
	return list, nil
}
