package calls

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/crew"
	"nineyard/core/lineup"
	"nineyard/core/pace"
	"nineyard/core/readiness"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// horizon is how many practices are followed at least; more when a call is installed later.
const horizon = 24

// book is what the readiness of calls rests on as of a day, read and worked out as it is needed.
type book struct {
	s       *Service
	coach   access.Coach
	house   *house.House
	asOf    season.Date
	calls   []Entry
	lineUps map[string]lineup.LineUp
	held    []script.Dated // days of practice that are over
	ahead   []script.Dated // and to come
	days    []season.Date  // of those to come that are followed
	groups  map[string]*crowd
}

// crowd is a group with the tracks of its players on its ladders.
type crowd struct {
	standing.Climbs
	attendance crew.Attendance
	tracks     map[string]ladderTracks
}

// ladderTracks are the players of a group on one ladder.
type ladderTracks struct {
	ladder teaching.Ladder
	upTo   int            // the last stage before the game
	form   readiness.Form // of all of them
	climbs []standing.Climb
	ways   []readiness.Way
	tracks []readiness.Track
}

// of is the place of a player among them; -1 when he is not of the group.
func (l ladderTracks) of(player string) int {
	return slices.IndexFunc(l.climbs, func(c standing.Climb) bool { return c.Player.ID.String() == player })
}

// open reads what readiness rests on as of the end of a week, or today.
func (s *Service) open(ctx context.Context, c access.Coach, week int) (*book, error) {
	b := &book{s: s, coach: c, groups: map[string]*crowd{}, lineUps: map[string]lineup.LineUp{}}
	var err error
	if b.asOf, err = c.WeekEnd(week, s.Now()); err != nil {
		return nil, err
	}
	if b.house, err = s.Houses.Of(ctx, c); err != nil {
		return nil, err
	}
	if b.calls, err = s.ordered(ctx, c); err != nil {
		return nil, err
	}
	lineUps, err := s.Store.LineUps(ctx, c.Season.ID, week)
	if err != nil {
		return nil, err
	}
	for _, l := range lineUps {
		b.lineUps[l.Group] = l.Spots
	}
	dates, err := s.Plans.Dates(ctx, c)
	if err != nil {
		return nil, err
	}
	today := c.Today(s.Now())
	for _, d := range dates {
		if d.On > b.asOf || d.On == today && b.asOf == today { // today's is still to come
			b.ahead = append(b.ahead, d)
		} else {
			b.held = append(b.held, d)
		}
	}
	b.follow()
	return b, nil
}

// follow chooses how many practices are followed: enough for every install, no more than can be.
func (b *book) follow() {
	n := horizon
	for _, e := range b.calls {
		if e.Call.Install != nil {
			for n < len(b.ahead) && b.ahead[n].On < *e.Call.Install {
				n++
			}
		}
	}
	for _, d := range b.ahead[:min(n, len(b.ahead), pace.MaxSessions)] {
		b.days = append(b.days, d.On)
	}
}

// crowd reads a group.
func (b *book) crowd(ctx context.Context, group string) (*crowd, error) {
	if g, ok := b.groups[group]; ok {
		return g, nil
	}
	climbs, err := b.s.Climbs.Climbs(ctx, b.coach, group, b.asOf)
	if err != nil {
		return nil, err
	}
	g := &crowd{Climbs: climbs, tracks: map[string]ladderTracks{}}
	g.attendance, _ = squad.Attendance(climbs.Players)
	b.groups[group] = g
	return g, nil
}

// since is the first of the last practices by which the present pace is taken, and how many they
// are.
func (b *book) since() (season.Date, int) {
	last := b.held[max(0, len(b.held)-readiness.RecentPractices):]
	if len(last) == 0 {
		return b.asOf, 0
	}
	return last[0].On, len(last)
}

// on follows the players of a group on the ladder of a technique.
func (b *book) on(g *crowd, ld teaching.Ladder) (ladderTracks, error) {
	if t, ok := g.tracks[ld.Key]; ok {
		return t, nil
	}
	t := ladderTracks{ladder: ld}
	t.upTo, _ = call.UpTo(ld, "")
	var err error
	if t.climbs, err = g.On(ld); err != nil {
		return t, err
	}
	game := ""
	for _, st := range ld.Stages {
		if st.Kind == teaching.Game {
			game = st.Key
		}
	}
	since, practices := b.since()
	forms := make([]readiness.Form, len(t.climbs))
	for i, c := range t.climbs {
		forms[i] = readiness.FormOf(c.Season, game, since)
		t.form = t.form.Add(forms[i])
	}
	for i, c := range t.climbs {
		per := readiness.PerPractice(forms[i].Made, practices)
		if !c.Player.Status.TakesPart() {
			per = 0 // who is out makes no reps until he is back
		}
		w := readiness.WayOf(c.Season, c.Standing, t.upTo, readiness.Rate(forms[i], t.form), per)
		track, err := w.Track(b.days)
		if err != nil {
			return t, err
		}
		t.ways, t.tracks = append(t.ways, w), append(t.tracks, track)
	}
	g.tracks[ld.Key] = t
	return t, nil
}

// asked is a need of a call with the players who will be on the field.
type asked struct {
	need  call.Need
	stage int
	spots lineup.LineUp
	ladderTracks
	crowd *crowd
}

// runners are those of the need in the core's form.
func (a asked) runners() readiness.Need {
	n := readiness.Need{Stage: a.stage}
	for _, s := range a.spots {
		var list []readiness.Runner
		for _, p := range s.Players {
			list = append(list, readiness.Runner{Share: p.Share, Track: a.tracks[a.of(p.Player)]})
		}
		n.Spots = append(n.Spots, list)
	}
	return n
}

// ask finds who must have what for a call. A technique that is not taught any longer asks nothing.
func (b *book) ask(ctx context.Context, x call.Call) (list []asked, needs []readiness.Need, err error) {
	for _, n := range x.Needs {
		ld, ok := b.house.Library.LadderOf(n.Technique)
		if !ok {
			continue
		}
		a := asked{need: n}
		if a.stage, ok = call.UpTo(ld, n.Stage); !ok {
			continue
		}
		if a.crowd, err = b.crowd(ctx, n.Group); err != nil {
			return nil, nil, err
		}
		a.spots = present(b.lineUps[n.Group], a.crowd.Players).OnField(n.Spots...)
		if a.ladderTracks, err = b.on(a.crowd, ld); err != nil {
			return nil, nil, err
		}
		list, needs = append(list, a), append(needs, a.runners())
	}
	return list, needs, nil
}

// weeksOf says how ready something is at the end of each week from now on.
func (b *book) weeksOf(after []float64) []contract.WeekReady {
	out := []contract.WeekReady{}
	for w := b.coach.WeekOf(b.asOf); w <= b.coach.Season.Weeks; w++ {
		end := season.WeekStart(b.coach.Season.Start, w+1)
		n := readiness.Before(b.days, end)
		if w >= 1 {
			out = append(out, contract.WeekReady{Week: w, Ready: clamp(after[min(n, len(after)-1)])})
		}
		if n == len(b.days) {
			break
		}
	}
	return out
}

// clamp keeps a probability within its bounds: sums run over them by a rounding.
func clamp(p float64) float64 { return min(max(p, 0), 1) }

func (b *book) find(id uuid.UUID) (Entry, bool) {
	i := slices.IndexFunc(b.calls, func(e Entry) bool { return e.ID == id })
	if i < 0 {
		return Entry{}, false
	}
	return b.calls[i], true
}
