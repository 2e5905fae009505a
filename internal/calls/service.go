// Package calls is what a staff calls and whether it will be ready: the calls with what they need
// and the day they are installed, each group's line-up, and by when the players who will be on the
// field will have passed what is asked of them.
package calls

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/lineup"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/core/term"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// MaxCalls is the most calls of a season.
const MaxCalls = 2000

// Entry is a call as it is kept.
type Entry struct {
	ID        uuid.UUID
	Call      call.Call
	Version   int
	ChangedBy string
}

// LineUp is a group's line-up as it is kept.
type LineUp struct {
	Group     string
	Week      int // from which it holds; 0 when it was never made
	Spots     lineup.LineUp
	Version   int
	ChangedBy string
}

// Store keeps the calls and line-ups of the context's club.
type Store interface {
	// Calls lists those of a season.
	Calls(ctx context.Context, season uuid.UUID) ([]Entry, error)
	// Call reads one and holds it until the transaction ends.
	Call(ctx context.Context, id uuid.UUID) (e Entry, found bool, err error)
	// PutCall writes one, new when its version is 0, and raises its version. An id that stands
	// elsewhere is problem.ErrTaken.
	PutCall(ctx context.Context, season uuid.UUID, e Entry, by uuid.UUID, at time.Time) error
	// DeleteCall takes one out.
	DeleteCall(ctx context.Context, id uuid.UUID) error
	// LineUps reads the line-ups of all groups that have one, as they hold in a week. Who was
	// merged into another player stands as that one.
	LineUps(ctx context.Context, season uuid.UUID, week int) ([]LineUp, error)
	// PutLineUp writes one from its week on, as its version; false when that is not the one that
	// comes next.
	PutLineUp(ctx context.Context, season uuid.UUID, l LineUp, by uuid.UUID, at time.Time) (bool, error)
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
	Squad  squad.Source
	Plans  script.Dates
	Climbs standing.Climbers
	Now    func() time.Time
}

// known is what the club's calls may speak of.
func (s *Service) known(ctx context.Context, c access.Coach) (call.Known, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return call.Known{}, err
	}
	return call.Known{Groups: c.Club.Groups, Library: h.Library, SeasonStart: c.Season.Start, Weeks: c.Season.Weeks}, nil
}

// Calls lists the calls of the season with what a call can need.
func (s *Service) Calls(ctx context.Context, c access.Coach) (contract.Calls, error) {
	known, err := s.known(ctx, c)
	if err != nil {
		return contract.Calls{}, err
	}
	list, err := s.ordered(ctx, c)
	if err != nil {
		return contract.Calls{}, err
	}
	out := contract.Calls{Calls: []contract.Call{}, Sides: []contract.Side{}, Teachable: teachable(known)}
	for _, side := range []group.Side{group.Offense, group.Defense, group.Units} {
		if c.MayEditSide(side) {
			out.Sides = append(out.Sides, contract.Side(side))
		}
	}
	for _, e := range list {
		out.Calls = append(out.Calls, view(c, e))
	}
	return out, nil
}

// ordered lists the calls of the season as they are listed.
func (s *Service) ordered(ctx context.Context, c access.Coach) ([]Entry, error) {
	list, err := s.Store.Calls(ctx, c.Season.ID)
	slices.SortFunc(list, func(a, b Entry) int { return call.Order(a.Call, b.Call) })
	return list, err
}

// Asked lists the calls that ask something of a group.
func (s *Service) Asked(ctx context.Context, c access.Coach, group string) ([]forecast.Asked, error) {
	list, err := s.ordered(ctx, c)
	out := []forecast.Asked{}
	for _, e := range list {
		a := forecast.Asked{Names: append([]string{e.Call.Name}, e.Call.Aliases...)}
		for _, n := range e.Call.Needs {
			if n.Group == group && !slices.Contains(a.Techniques, n.Technique) {
				a.Techniques = append(a.Techniques, n.Technique)
			}
		}
		if len(a.Techniques) > 0 {
			out = append(out, a)
		}
	}
	return out, err
}

// teachable lists the techniques that have a ladder, with the groups that are taught them.
func teachable(k call.Known) []contract.Teachable {
	list := []contract.Teachable{}
	for _, t := range k.Library.Techniques {
		ld, ok := k.Library.LadderOf(t.Key)
		if !ok {
			continue
		}
		v := contract.Teachable{Technique: t.Key, Name: t.Name, Groups: []string{}, Stages: []string{}}
		for _, g := range k.Groups {
			if t.Taught(g.Key) {
				v.Groups = append(v.Groups, g.Key)
			}
		}
		for _, st := range ld.Stages {
			if st.Kind != teaching.Game && !slices.Contains(v.Stages, st.Kind) {
				v.Stages = append(v.Stages, st.Kind)
			}
		}
		if len(v.Groups) > 0 && len(v.Stages) > 0 {
			list = append(list, v)
		}
	}
	return list
}

func view(c access.Coach, e Entry) contract.Call {
	v := contract.Call{ID: e.ID, Version: e.Version, Editable: c.MayEditSide(e.Call.Side), Call: input(e.Call)}
	if e.ChangedBy != "" {
		v.ChangedBy = &e.ChangedBy
	}
	return v
}

// input writes a call in the contract's form.
func input(x call.Call) contract.CallInput {
	in := contract.CallInput{Name: x.Name, Side: contract.Side(x.Side), Kind: x.Kind, Aliases: append([]string{}, x.Aliases...), Tags: append([]string{}, x.Tags...), Share: x.Share, Needs: []contract.CallNeed{}}
	if x.Install != nil {
		in.Install = new(x.Install.String())
	}
	for _, n := range x.Needs {
		v := contract.CallNeed{Group: n.Group, Technique: n.Technique}
		if n.Stage != "" {
			v.Stage = &n.Stage
		}
		if len(n.Spots) > 0 {
			v.Spots = &n.Spots
		}
		in.Needs = append(in.Needs, v)
	}
	return in
}

// parse reads a call from the contract's form.
func parse(in contract.CallInput) (call.Call, error) {
	x := call.Call{Name: strings.TrimSpace(in.Name), Side: group.Side(in.Side), Kind: strings.TrimSpace(in.Kind), Aliases: trimmed(in.Aliases), Tags: trimmed(in.Tags), Share: in.Share}
	if in.Install != nil && *in.Install != "" {
		d, err := season.Parse(*in.Install)
		if err != nil {
			return x, invalid.Field("install", "%s", err)
		}
		x.Install = &d
	}
	for _, n := range in.Needs {
		need := call.Need{Group: n.Group, Technique: n.Technique}
		if n.Stage != nil {
			need.Stage = *n.Stage
		}
		if n.Spots != nil {
			need.Spots = trimmed(*n.Spots)
		}
		x.Needs = append(x.Needs, need)
	}
	return x, nil
}

func trimmed(words []string) []string {
	var out []string
	for _, w := range words {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	return out
}

// alike reports whether two calls say the same.
func alike(a, b call.Call) bool {
	day := func(d *season.Date) season.Date {
		if d == nil {
			return 0
		}
		return *d
	}
	return a.Name == b.Name && a.Side == b.Side && a.Kind == b.Kind && a.Share == b.Share && day(a.Install) == day(b.Install) && slices.Equal(a.Aliases, b.Aliases) && slices.Equal(a.Tags, b.Tags) &&
		slices.EqualFunc(a.Needs, b.Needs, func(a, b call.Need) bool {
			return a.Group == b.Group && a.Technique == b.Technique && a.Stage == b.Stage && slices.Equal(a.Spots, b.Spots)
		})
}

// PutCall writes a call. It returns a *problem.Stale when it was changed since the version given,
// or is not there any longer.
func (s *Service) PutCall(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.CallInput) (contract.Call, error) {
	was, there, err := s.Store.Call(ctx, id)
	if err != nil {
		return contract.Call{}, err
	}
	next, err := parse(in)
	if err != nil {
		return contract.Call{}, err
	}
	if !c.MayEditSide(next.Side) || there && !c.MayEditSide(was.Call.Side) {
		return contract.Call{}, problem.ErrForbidden
	}
	switch {
	case there && alike(was.Call, next): // sent again after a lost answer
		return view(c, was), nil
	case version != was.Version:
		return contract.Call{}, &problem.Stale{What: "call", By: was.ChangedBy, Current: view(c, Entry{ID: id, Call: was.Call, Version: was.Version})}
	}
	if err := s.fits(ctx, c, id, next); err != nil {
		return contract.Call{}, err
	}
	if err := s.Store.PutCall(ctx, c.Season.ID, Entry{ID: id, Call: next, Version: was.Version}, c.ID, s.Now()); err != nil {
		return contract.Call{}, err
	}
	return contract.Call{ID: id, Version: was.Version + 1, Editable: true, ChangedBy: &c.Name, Call: input(next)}, nil
}

// fits refuses a call that cannot be, and one that another is called.
func (s *Service) fits(ctx context.Context, c access.Coach, id uuid.UUID, next call.Call) error {
	known, err := s.known(ctx, c)
	if err != nil {
		return err
	}
	if err := next.Check(known); err != nil {
		return err
	}
	all, err := s.Store.Calls(ctx, c.Season.ID)
	if err != nil {
		return err
	}
	if len(all) >= MaxCalls && !slices.ContainsFunc(all, func(e Entry) bool { return e.ID == id }) {
		return invalid.Field("name", "a season has at most %d calls", MaxCalls)
	}
	for _, e := range all {
		if e.ID == id || e.Call.Side != next.Side {
			continue
		}
		if names(e.Call, next.Name) {
			return invalid.Field("name", "%s is called that already", e.Call.Name)
		}
		for i, a := range next.Aliases {
			if names(e.Call, a) {
				return invalid.Field("aliases", "%s is called %s already", e.Call.Name, next.Aliases[i])
			}
		}
	}
	return nil
}

// names reports whether a word names a call.
func names(x call.Call, word string) bool {
	return slices.ContainsFunc(append([]string{x.Name}, x.Aliases...), func(w string) bool { return term.Same(w, word) })
}

// DeleteCall takes a call out.
func (s *Service) DeleteCall(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Store.Call(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case !c.MayEditSide(was.Call.Side):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "call", By: was.ChangedBy, Current: view(c, was)}
	}
	return contract.Gone{ID: id}, s.Store.DeleteCall(ctx, id)
}
