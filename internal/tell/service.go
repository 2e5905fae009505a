// Package tell is what players are told after a game: a sheet for each, and the plays that the group looks at
// together. Both are proposed from the marks until a coach writes on them.
package tell

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/feedback"
	"nineyard/core/group"
	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/footage/onfilm"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Written is something a coach has written, with its version; 0 where it is proposed.
type Written[T any] struct {
	Content T
	Version int
	By      string
}

// Store keeps what coaches write, of the context's club.
type Store interface {
	// Feedbacks reads what players are told of a game, by player.
	Feedbacks(ctx context.Context, game uuid.UUID) (map[uuid.UUID]Written[contract.FeedbackInput], error)
	// PutFeedback writes it, new when the version is 0.
	PutFeedback(ctx context.Context, game, player uuid.UUID, version int, in contract.FeedbackInput, by uuid.UUID, at time.Time) error
	// DeleteFeedback lets it be as proposed.
	DeleteFeedback(ctx context.Context, game, player uuid.UUID) error
	// Meeting reads what a group looks at of a game.
	Meeting(ctx context.Context, game uuid.UUID, group string) (Written[[]contract.MeetingItem], error)
	// PutMeeting writes it, new when the version is 0.
	PutMeeting(ctx context.Context, game uuid.UUID, group string, version int, items []contract.MeetingItem, by uuid.UUID, at time.Time) error
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
	Squad  squad.Source
	Reels  reel.Source
	Marks  record.Games
	Climbs standing.Climbers
	OnFilm onfilm.Source
	Now    func() time.Time
}

// film is a game as a group was graded in it.
type film struct {
	group   group.Group
	house   *house.House
	game    reel.Game
	players []squad.Player // of the group as of the game's day
	plays   map[uuid.UUID]reel.Play
	marks   []record.Detail
	seen    []feedback.Seen
	weights map[string]feedback.Weight
	written map[uuid.UUID]Written[contract.FeedbackInput]
	filmed  []uuid.UUID
}

// film reads a game with the marks of a group.
func (s *Service) film(ctx context.Context, c access.Coach, game uuid.UUID, key string) (f film, err error) {
	if f.group, err = c.Group(key); err != nil {
		return f, err
	}
	if f.house, err = s.Houses.Of(ctx, c); err != nil {
		return f, err
	}
	var found bool
	f.game, found, err = s.Reels.Game(ctx, game)
	if err = problem.Found(found, err); err != nil {
		return f, err
	}
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) { f.players, err = s.Squad.Group(ctx, key, f.game.On); return err },
		func(ctx context.Context) (err error) { f.marks, err = s.Marks.Game(ctx, game, key); return err },
		func(ctx context.Context) (err error) { f.written, err = s.Store.Feedbacks(ctx, game); return err },
		func(ctx context.Context) (err error) { f.filmed, err = s.OnFilm.Plays(ctx, game); return err })
	if err != nil {
		return f, err
	}
	f.plays = map[uuid.UUID]reel.Play{}
	for _, p := range f.game.Plays {
		f.plays[p.ID] = p
	}
	f.weights = map[string]feedback.Weight{}
	for _, t := range f.house.Known.Techniques {
		for _, x := range t.Faults {
			f.weights[x.Key] = feedback.Weight{Severity: x.Severity, Safety: x.Safety}
		}
	}
	for _, m := range f.marks {
		if m.PlayID != nil {
			f.seen = append(f.seen, f.of(m))
		}
	}
	return f, nil
}

// of takes a mark to the core. What the group is up against is the front, for the defence the formation.
func (f film) of(m record.Detail) feedback.Seen {
	p := f.plays[*m.PlayID]
	look := p.Front
	if p.Unit != group.Offense {
		look = p.Formation
	}
	s := feedback.Seen{Player: m.PlayerID.String(), Play: m.PlayID.String(), Technique: m.TechniqueKey, Number: p.Number, Look: look, Verdict: m.Verdict, Looked: m.State.Graded() && m.State != marks.Assumed, Praise: m.Praise, Filmed: slices.Contains(f.filmed, p.ID)}
	for _, x := range m.Faults {
		if x.CausedBy == "" {
			s.Faults = append(s.Faults, x.Key)
		}
	}
	return s
}

// told is what a player is told: as written, else as proposed.
func (f film) told(player uuid.UUID) (in contract.FeedbackInput, w Written[contract.FeedbackInput]) {
	if w, ok := f.written[player]; ok {
		return w.Content, w
	}
	sheet := feedback.Of(player.String(), f.seen, f.weights)
	in.Fixes = []contract.PointInput{}
	if b := sheet.Best; b != nil {
		in.Best = &contract.PointInput{Technique: b.Technique, Plays: ids(b.Plays)}
	}
	for _, x := range sheet.Fixes {
		p := contract.PointInput{Technique: x.Technique, Fault: &x.Fault, Plays: ids(x.Plays)}
		if fault, _, ok := f.house.Known.Fault(x.Fault); ok {
			p.Text = fault.Effect
		}
		if d, ok := f.house.Library.DrillFor(x.Fault, -1); ok {
			p.Drill = &d.Key
		}
		if x.Right != nil {
			p.Pair = &contract.Pair{Wrong: uuid.MustParse(x.Wrong), Right: uuid.MustParse(x.Right.Play), PlayerID: uuid.MustParse(x.Right.Player)}
		}
		in.Fixes = append(in.Fixes, p)
	}
	return in, w
}

func ids(texts []string) []uuid.UUID {
	list := make([]uuid.UUID, len(texts))
	for i, t := range texts {
		list[i] = uuid.MustParse(t)
	}
	return list
}

// title is what a point is called.
func (f film) title(p contract.PointInput) string {
	if p.Fault != nil {
		return f.house.FaultName(*p.Fault)
	}
	return f.house.TechniqueName(p.Technique)
}

func (f film) ref() contract.GameRef {
	return contract.GameRef{ID: f.game.ID, Date: f.game.On.String(), Opponent: f.game.Opponent, Home: f.game.Home, Practice: f.game.Practice}
}

// List returns what each player of a group is told of a game, in a line: those that something is marked of.
func (s *Service) List(ctx context.Context, c access.Coach, game uuid.UUID, group string) (contract.FeedbackList, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.FeedbackList{}, err
	}
	out := contract.FeedbackList{Game: f.ref(), Group: group, Editable: c.MayEdit(group), Players: []contract.FeedbackLine{}}
	marked := map[uuid.UUID]int{}
	for _, m := range f.marks {
		marked[m.PlayerID]++
	}
	for _, p := range f.players {
		in, w := f.told(p.ID)
		if marked[p.ID] == 0 && w.Version == 0 {
			continue
		}
		line := contract.FeedbackLine{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName, Marks: marked[p.ID], Fixes: []string{}, Proposed: w.Version == 0}
		if in.Best != nil {
			line.Best = new(f.title(*in.Best))
		}
		for _, x := range in.Fixes {
			line.Fixes = append(line.Fixes, f.title(x))
		}
		out.Players = append(out.Players, line)
	}
	return out, nil
}

// says is what was marked, in words.
func (f film) says(m record.Detail) string {
	var words []string
	for _, x := range m.Faults {
		name := f.house.FaultName(x.Key)
		if x.CausedBy != "" {
			name += ", caused by a teammate"
		}
		words = append(words, name)
	}
	switch {
	case m.State == marks.StateUnseen:
		words = append(words, "unseen")
	case m.State == marks.StateOpen:
		words = append(words, "open question")
	case m.State == marks.StateNone:
		words = append(words, "not gradable")
	case len(words) == 0 && m.Verdict.Clean:
		words = append(words, "clean")
	case len(words) == 0:
		words = append(words, "wrong")
	}
	if m.Praise {
		words = append(words, "praised")
	}
	if m.Note != "" {
		words = append(words, "“"+m.Note+"”")
	}
	text := []rune(strings.Join(words, ", "))
	return string(text[:min(len(text), 400)])
}

// find is a player of the group as of the game.
func (f film) find(player uuid.UUID) (squad.Player, bool) {
	return squad.Find(f.players, player)
}
