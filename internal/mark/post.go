package mark

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/change"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Sender is what is known of the device that sends marks.
type Sender struct {
	Device *uuid.UUID
	Sent   time.Time // by its clock; zero when it does not say
}

// Posted is what became of marks.
type Posted struct {
	Saved   []uuid.UUID
	Refused []Refused
}

// Refused is a mark that was refused, and why: an invalid.Error or one of package problem.
type Refused struct {
	ID  uuid.UUID
	Why error
}

// Post records marks. One that cannot be is refused by itself; the others are saved. One
// that is known already is saved if it says the same, else its id is taken. A mark is of the
// moment at which the coach made it.
func (s *Service) Post(ctx context.Context, c access.Coach, from Sender, in []contract.MarkInput) (Posted, error) {
	out := Posted{Saved: []uuid.UUID{}}
	check, err := s.checker(ctx, c, in)
	if err != nil {
		return out, err
	}
	before, known, err := s.before(ctx, in)
	if err != nil {
		return out, err
	}
	check.version, check.scheme, check.known = before.Version, before.Scheme, known
	now := s.Clock()
	var events []Event
	for i, m := range in {
		refuse := func(why error) {
			out.Refused = append(out.Refused, Refused{m.ID, invalid.Within(fmt.Sprintf("marks[%d]", i), why)})
		}
		if e, there := known[m.ID]; there {
			if !says(e, m, c.ID) {
				refuse(problem.ErrTaken)
				continue
			}
			out.Saved = append(out.Saved, m.ID)
			continue
		}
		e, err := check.event(m)
		if err != nil {
			if !refusal(err) {
				return Posted{}, err
			}
			refuse(err)
			continue
		}
		e.CreatedAt, e.Device, e.OnMark = s.Now(), from.Device, m.On
		made := now
		if m.MadeAt != nil {
			made = change.When(*m.MadeAt, from.Sent, now)
		}
		e.MadeAt = &made
		e.Grader = graderOf(m, c.ID, known)
		known[m.ID] = e
		events, out.Saved = append(events, e), append(out.Saved, m.ID)
	}
	added, err := s.Store.Add(ctx, events)
	if err != nil || added == len(events) {
		return out, err
	}
	return s.contested(ctx, c, in, out)
}

// graderOf says whose mark it is: the club's when it is settled, that of the one it corrects
// when the coach saw one, else his own. So two who grade the same rep blind keep their marks
// apart, and one who mends another's mark does not make a second.
func graderOf(m contract.MarkInput, coach uuid.UUID, known map[uuid.UUID]Event) uuid.UUID {
	if contract.Value(m.Settled) {
		return Settled
	}
	if m.On != nil {
		if e, there := known[*m.On]; there && e.PlayerID == m.PlayerID {
			return e.Grader
		}
	}
	return coach
}

// contested sorts out marks whose ids another request took meanwhile: the same marks, sent
// twice at once, or others.
func (s *Service) contested(ctx context.Context, c access.Coach, in []contract.MarkInput, out Posted) (Posted, error) {
	_, known, err := s.before(ctx, in)
	if err != nil {
		return Posted{}, err
	}
	inputs := map[uuid.UUID]contract.MarkInput{}
	for _, m := range in {
		inputs[m.ID] = m
	}
	out.Saved = slices.DeleteFunc(out.Saved, func(id uuid.UUID) bool {
		e, there := known[id]
		if there && says(e, inputs[id], c.ID) {
			return false
		}
		out.Refused = append(out.Refused, Refused{id, problem.ErrTaken})
		return true
	})
	return out, nil
}

// refusal reports that an error says no, instead of that something broke.
func refusal(err error) bool {
	_, no := invalid.As(err)
	return no || errors.Is(err, problem.ErrNotFound) || errors.Is(err, problem.ErrForbidden) || errors.Is(err, problem.ErrTaken)
}

// before reads what the marks are recorded upon: those of them that are there already, and those
// they were made on.
func (s *Service) before(ctx context.Context, in []contract.MarkInput) (Before, map[uuid.UUID]Event, error) {
	ids := make([]uuid.UUID, 0, len(in))
	for _, m := range in {
		ids = append(ids, m.ID)
		if m.On != nil {
			ids = append(ids, *m.On)
		}
	}
	b, err := s.Store.Before(ctx, ids)
	known := make(map[uuid.UUID]Event, len(b.Known))
	for _, e := range b.Known {
		known[e.ID] = e
	}
	return b, known, err
}

// says reports whether an event is what a coach sends as m. What follows from the house as
// it was then is not compared: the house may have changed since.
func says(e Event, m contract.MarkInput, by uuid.UUID) bool {
	if e.CreatedBy == nil || *e.CreatedBy != by || e.PlayerID != m.PlayerID || !alike(e.PlacementID, m.PlacementID) || !alike(e.Rep, m.Rep) || !alike(e.PlayID, m.PlayID) || e.State != string(m.State) || e.Note != contract.Value(m.Note) || e.Praise != contract.Value(m.Praise) ||
		contract.Value(e.Side) != string(contract.Value(m.Side)) || !alike(e.Result, m.Result) || !alike(e.Asked, m.Asked) || !slices.Equal(e.Tallies, tallies(m)) || m.TechniqueKey != nil && e.TechniqueKey != *m.TechniqueKey {
		return false
	}
	if m.State == contract.MarkInputStateLooked && m.Grade != nil && !alike(e.Grade, m.Grade) {
		return false
	}
	for _, facet := range []struct{ is, said *int }{{e.Assignment, m.Assignment}, {e.Technique, m.Technique}, {e.Finish, m.Finish}} {
		if m.State == contract.MarkInputStateLooked && facet.said != nil && (facet.is == nil || *facet.is != *facet.said) {
			return false
		}
	}
	return slices.EqualFunc(e.Faults, contract.Value(m.Faults), func(f record.Fault, g contract.MarkFaultInput) bool {
		cause := ""
		if g.CausedBy != nil {
			cause = g.CausedBy.String()
		}
		return f.Key == g.Key && f.CausedBy == cause && f.Penalty == contract.Value(g.Penalty)
	}) && slices.EqualFunc(e.Measures, contract.Value(m.Measures), func(x record.Measured, y contract.MeasureInput) bool {
		return x.Checkpoint == y.Checkpoint && x.Value == y.Value
	})
}

// alike reports whether two parts that may be left out say the same.
func alike[T comparable](a, b *T) bool {
	return (a == nil) == (b == nil) && contract.Value(a) == contract.Value(b)
}

// checker reads what the marks are checked against.
func (s *Service) checker(ctx context.Context, c access.Coach, in []contract.MarkInput) (checker, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return checker{}, err
	}
	check := checker{coach: c, house: h, today: c.Today(s.Now()), placements: map[uuid.UUID]script.PlacedOn{}, plays: map[uuid.UUID]reel.Play{}, players: map[season.Date]map[uuid.UUID]squad.Player{}}
	there := func(on season.Date) error { // who was there, as they were on the day
		if check.players[on] != nil {
			return nil
		}
		all, err := s.Squad.All(ctx, on)
		check.players[on] = squad.ByID(all)
		return err
	}
	if ids := wanted(in, func(m contract.MarkInput) *uuid.UUID { return m.PlacementID }); len(ids) > 0 {
		placed, err := s.Plans.Placed(ctx, ids)
		if err != nil {
			return checker{}, err
		}
		for _, p := range placed {
			check.placements[p.ID] = p
			if err := there(p.On); err != nil {
				return checker{}, err
			}
		}
	}
	if ids := wanted(in, func(m contract.MarkInput) *uuid.UUID { return m.PlayID }); len(ids) > 0 {
		plays, err := s.Reels.Plays(ctx, ids)
		if err != nil {
			return checker{}, err
		}
		for _, p := range plays {
			check.plays[p.ID] = p
			if err := there(p.On); err != nil {
				return checker{}, err
			}
		}
	}
	if slices.ContainsFunc(in, func(m contract.MarkInput) bool { return m.Asked != nil }) {
		if check.staff, err = s.Staff.Coaches(ctx, c.Club.ID); err != nil {
			return checker{}, err
		}
	}
	if slices.ContainsFunc(in, func(m contract.MarkInput) bool { return len(contract.Value(m.Measures)) > 0 }) {
		check.ranges, err = s.Ranges.Ranges(ctx)
	}
	return check, err
}

// wanted lists what marks are of, each once.
func wanted(in []contract.MarkInput, of func(contract.MarkInput) *uuid.UUID) (ids []uuid.UUID) {
	seen := map[uuid.UUID]bool{}
	for _, m := range in {
		if id := of(m); id != nil && !seen[*id] {
			seen[*id] = true
			ids = append(ids, *id)
		}
	}
	return ids
}

// checker turns inputs into events, refusing what does not fit.
type checker struct {
	coach      access.Coach
	house      *house.House
	today      season.Date
	placements map[uuid.UUID]script.PlacedOn
	plays      map[uuid.UUID]reel.Play
	players    map[season.Date]map[uuid.UUID]squad.Player // as of the day of a practice or a game
	ranges     []standing.Range                           // when something was measured
	staff      []access.Member                            // when somebody is asked
	known      map[uuid.UUID]Event                        // what the marks were made on, among others
	version    int                                        // of the scheme
	scheme     marks.House
}

func (c checker) event(m contract.MarkInput) (Event, error) {
	switch {
	case m.PlayID != nil && m.PlacementID == nil && m.Rep == nil:
		return c.onPlay(m)
	case m.PlayID == nil && m.PlacementID != nil && m.Rep != nil:
		return c.onRep(m)
	}
	return Event{}, invalid.Field("placement_id", "a mark is of a rep of a placed drill (placement_id and rep) or of a play (play_id)")
}

// onRep is a mark of a rep of a placed drill.
func (c checker) onRep(m contract.MarkInput) (Event, error) {
	p, ok := c.placements[*m.PlacementID]
	if !ok {
		return Event{}, problem.ErrNotFound
	}
	if !c.coach.MayWork(p.Group) {
		return Event{}, problem.ErrForbidden
	}
	if p.On > c.today {
		return Event{}, invalid.Field("placement_id", "the practice is on %s; its reps can be marked from that day", p.On)
	}
	player, err := c.player(m, p.On)
	if err != nil {
		return Event{}, err
	}
	// His group may have become another since; what was marked then can be marked again.
	if was, there := c.known[contract.Value(m.On)]; !slices.Contains(player.Groups, p.Group) && !(there && was.PlayerID == m.PlayerID && alike(was.PlacementID, m.PlacementID)) {
		return Event{}, invalid.Field("player_id", "%s is not in the group whose drill this is", player.LastName)
	}
	d, ok := c.house.Known.Drill(p.DrillKey)
	technique := c.house.MarkedAs(p.TechniqueKey, d)
	if !ok || technique.Key == "" {
		return Event{}, invalid.Field("placement_id", "the drill is no longer in the library")
	}
	if m.TechniqueKey != nil && *m.TechniqueKey != technique.Key {
		if !slices.Contains(d.Techniques, *m.TechniqueKey) {
			return Event{}, invalid.Field("technique_key", "%s does not show %q", d.Name, *m.TechniqueKey)
		}
		technique = c.house.MarkedAs(*m.TechniqueKey, d)
	}
	return c.made(m, p.On, technique, p.Group)
}

// player is who is marked, as he was on the day.
func (c checker) player(m contract.MarkInput, on season.Date) (squad.Player, error) {
	player, ok := c.players[on][m.PlayerID]
	if !ok {
		return player, invalid.Field("player_id", "there is no such player in this club")
	}
	if player.Status == availability.HeadHold && m.State != contract.MarkInputStateWithdrawn {
		return player, invalid.Field("player_id", "%s was on a head-injury hold that day and takes no reps", player.LastName)
	}
	return player, nil
}

// onPlay is a mark of a play of a game: of a player in a group of the coach's that is on the field then
// and is taught the technique.
func (c checker) onPlay(m contract.MarkInput) (Event, error) {
	p, ok := c.plays[*m.PlayID]
	if !ok {
		return Event{}, problem.ErrNotFound
	}
	if p.On > c.today {
		return Event{}, invalid.Field("play_id", "the game is on %s; its plays can be marked from that day", p.On)
	}
	if m.TechniqueKey == nil {
		return Event{}, invalid.Field("technique_key", "say what it is a mark of")
	}
	technique, ok := c.house.Technique(*m.TechniqueKey)
	if !ok {
		return Event{}, invalid.Field("technique_key", "there is no technique %q", *m.TechniqueKey)
	}
	player, err := c.player(m, p.On)
	if err != nil {
		return Event{}, err
	}
	plays, mine, group := false, false, ""
	for _, g := range c.coach.Club.Groups {
		if slices.Contains(player.Groups, g.Key) && g.Side == p.Unit && technique.Taught(g.Key) {
			plays, mine, group = true, mine || c.coach.MayWork(g.Key), cmp.Or(group, g.Key)
		}
	}
	switch {
	case !plays:
		return Event{}, invalid.Field("technique_key", "%s is in no group that is on the field in play %d and is taught %s", player.LastName, p.Number, technique.Name)
	case !mine && !c.answers(m, technique.Key):
		return Event{}, problem.ErrForbidden
	}
	return c.made(m, p.On, technique, group)
}

// answers reports whether a mark answers an open question that the coach was asked: in its place, of the same
// player on the same play. He may, whatever group the player is in, and once: what stands then is no question.
func (c checker) answers(m contract.MarkInput, technique string) bool {
	if m.On == nil {
		return false
	}
	q, there := c.known[*m.On]
	return there && q.State == string(marks.StateOpen) && alike(q.Asked, &c.coach.ID) && q.PlayerID == m.PlayerID && alike(q.PlayID, m.PlayID) && q.TechniqueKey == technique
}

// tallies are those of a mark.
func tallies(m contract.MarkInput) []marks.Tally {
	list := []marks.Tally{}
	for _, t := range contract.Value(m.Tallies) {
		list = append(list, marks.Tally(t))
	}
	return list
}

// made is the event of a mark that may be.
func (c checker) made(m contract.MarkInput, on season.Date, technique teaching.Technique, group string) (Event, error) {
	e := Event{ID: m.ID, PlayerID: m.PlayerID, PlacementID: m.PlacementID, Rep: m.Rep, PlayID: m.PlayID, TechniqueKey: technique.Key, State: string(m.State),
		Standard: c.house.Version, Scheme: c.version, CreatedBy: &c.coach.ID, Faults: []record.Fault{}, Measures: []record.Measured{}}
	if m.Note != nil {
		e.Note = *m.Note
	}
	if m.Praise != nil {
		e.Praise = *m.Praise
	}
	if m.Side != nil {
		side := string(*m.Side)
		e.Side = &side
	}
	e.Result, e.Tallies, e.Asked = m.Result, tallies(m), m.Asked
	if err := (marks.Said{Result: e.Result, Tallies: e.Tallies, Asked: e.Asked != nil}).Check(marks.State(e.State)); err != nil {
		return Event{}, err
	}
	if m.Asked != nil && !slices.ContainsFunc(c.staff, func(x access.Member) bool { return x.ID == *m.Asked }) {
		return Event{}, invalid.Field("asked", "there is no such coach in this club")
	}
	e.GroupKey = &group
	if err := c.judge(&e, m, technique, c.players[on]); err != nil {
		return Event{}, err
	}
	seen := marks.Seen{Assignment: e.Assignment, Technique: e.Technique, Finish: e.Finish, Result: e.Result, Grade: gradeOf(e)}
	e.Verdict = verdictOf(c.scheme.For(group), marks.State(e.State), seen)
	return e, nil
}

// judge fills in facets and faults. Only a mark that was looked at can have faults;
// an assumed one is clean by definition and the others judge nothing.
func (c checker) judge(e *Event, m contract.MarkInput, technique teaching.Technique, players map[uuid.UUID]squad.Player) error {
	looked := m.State == contract.MarkInputStateLooked
	scheme := c.scheme.For(*e.GroupKey)
	scale, graded := scheme.Scale()
	switch {
	case m.Grade != nil && (!looked || !graded || *m.Grade > scale.Of):
		return invalid.Field("grade", "%s", gradeRefused(looked, graded, scale))
	case !looked && m.Faults != nil && len(*m.Faults) > 0:
		return invalid.Field("faults", "only a rep that was looked at can show a fault")
	case !looked && m.Measures != nil && len(*m.Measures) > 0:
		return invalid.Field("measures", "only a rep that was looked at can be measured")
	case !looked && m.State != contract.MarkInputStateAssumed:
		return nil
	}
	stored, err := c.faults(e.PlayerID, m, technique, players)
	if err != nil {
		return err
	}
	measured, err := c.measure(e.PlayerID, m, technique)
	if err != nil {
		return err
	}
	if graded {
		wrong := func(facet *int) bool { return facet != nil && *facet == 0 }
		g := scheme.Given(m.Grade, wrong(m.Assignment) || wrong(m.Technique), weights(stored, measured, technique))
		e.Grade, e.GradeOf, e.GradeClean = &g.Value, &g.Of, &g.CleanAt
		e.Measures, e.Faults = measured, stored
		return nil
	}
	values := map[string]float64{}
	if looked {
		for key, v := range map[string]*int{"assignment": m.Assignment, "technique": m.Technique, "finish": m.Finish} {
			if v != nil {
				values[key] = float64(*v)
			}
		}
	}
	for _, x := range measured {
		if _, given := values["technique"]; faulty(x) && !given {
			values["technique"] = 0
		}
	}
	shown := make([]marks.Fault, len(stored))
	for i, f := range stored {
		shown[i] = marks.Fault{Key: f.Key, CausedBy: f.CausedBy}
	}
	filled := marks.Fill(values, shown)
	if err := marks.Shipped().Check(marks.Mark{Player: e.PlayerID.String(), Weight: 1, Graded: true, Values: filled, Faults: shown}); err != nil {
		return err
	}
	facet := func(key string) *int {
		if v, ok := filled[key]; ok {
			n := int(v)
			return &n
		}
		return nil
	}
	e.Assignment, e.Technique, e.Finish = facet("assignment"), facet("technique"), facet("finish")
	e.Measures, e.Faults = measured, stored
	return nil
}

// gradeRefused says why a mark can have no such grade.
func gradeRefused(looked, graded bool, scale marks.OneGrade) string {
	switch {
	case !graded:
		return "the group is marked by facets and not by one grade"
	case !looked:
		return "only a rep that was looked at has a grade"
	}
	return fmt.Sprintf("a grade is 0 to %d", scale.Of)
}

// weights are the severities of the faults of his own that a mark names, and of what was measured beyond its band.
func weights(faults []record.Fault, measured []record.Measured, technique teaching.Technique) (list []int) {
	for _, f := range faults {
		i := slices.IndexFunc(technique.Faults, func(x teaching.Fault) bool { return x.Key == f.Key })
		if f.CausedBy == "" && i >= 0 {
			list = append(list, technique.Faults[i].Severity)
		}
	}
	for _, x := range measured {
		if faulty(x) {
			list = append(list, 1)
		}
	}
	return list
}

// faults checks that the faults are the technique's and their causes teammates.
func (c checker) faults(player uuid.UUID, m contract.MarkInput, technique teaching.Technique, players map[uuid.UUID]squad.Player) ([]record.Fault, error) {
	out := []record.Fault{}
	if m.Faults == nil {
		return out, nil
	}
	known := map[string]bool{}
	for _, f := range technique.Faults {
		known[f.Key] = true
	}
	for i, f := range *m.Faults {
		if !known[f.Key] {
			return nil, invalid.Field(fmt.Sprintf("faults[%d].key", i), "%q is not a fault of %s", f.Key, technique.Name)
		}
		fault := record.Fault{Key: f.Key, Penalty: contract.Value(f.Penalty)}
		if f.CausedBy != nil {
			if _, ok := players[*f.CausedBy]; !ok || *f.CausedBy == player {
				return nil, invalid.Field(fmt.Sprintf("faults[%d].caused_by", i), "the cause must be a teammate")
			}
			fault.CausedBy = f.CausedBy.String()
		}
		if slices.ContainsFunc(out, func(x record.Fault) bool { return x.Key == fault.Key && x.CausedBy == fault.CausedBy }) {
			return nil, invalid.Field(fmt.Sprintf("faults[%d].key", i), "%q is named twice", f.Key)
		}
		out = append(out, fault)
	}
	return out, nil
}

// measure judges what was measured, by the player's own range where he has one.
func (c checker) measure(player uuid.UUID, m contract.MarkInput, technique teaching.Technique) ([]record.Measured, error) {
	out := []record.Measured{}
	if m.Measures == nil {
		return out, nil
	}
	for i, x := range *m.Measures {
		point, t, ok := c.house.Library.Checkpoint(x.Checkpoint)
		if !ok || t.Key != technique.Key || point.Measure == nil {
			return nil, invalid.Field(fmt.Sprintf("measures[%d].checkpoint", i), "%q is not measured at %s", x.Checkpoint, technique.Name)
		}
		held, _ := standing.For(point, player, c.ranges)
		out = append(out, record.Measured{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: string(held.Judge(x.Value))})
	}
	return out, nil
}
