package mark

import (
	"context"
	"maps"
	"time"

	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/problem"
)

// Judging is how a club judges, and how far its marks are judged by it.
type Judging struct {
	Version    int
	Scheme     marks.House
	By         string     // who chose it; empty: it is the shipped one
	At         *time.Time // when
	Marks      int        // in all
	JudgedAnew int        // of them, by this version
}

// names of the facets, as a coach says them.
var facetNames = map[string]string{"assignment": "Assignment", "technique": "Technique", "finish": "Finish"}

// judged is how a group is marked, as its sheets are told.
func judged(s marks.Scheme) contract.Judged {
	v := contract.Judged{Kind: contract.JudgedKind(s.Kind)}
	if scale, ok := s.Scale(); ok {
		v.Of, v.CleanAt = scale.Of, scale.CleanAt
	}
	return v
}

// facetViews are the facets in the order in which they ship, with what each counts.
func facetViews(s marks.Scheme) []contract.SchemeFacet {
	list := []contract.SchemeFacet{}
	for _, f := range marks.Shipped().Facets {
		x := contract.SchemeFacet{Key: contract.SchemeFacetKey(f.Key), Name: facetNames[f.Key]}
		for _, own := range s.Facets {
			if own.Key == f.Key {
				x.Weight, x.Clean = own.Weight, own.Clean
			}
		}
		list = append(list, x)
	}
	return list
}

// switching says what of marks made by one kind is sound by another.
func switching() []contract.Switching {
	list, kinds := []contract.Switching{}, []marks.Kind{marks.Facets, marks.PlusMinus, marks.Points}
	for _, made := range kinds {
		for _, by := range kinds {
			if says := marks.Kept(made, by); says != "" {
				list = append(list, contract.Switching{Made: contract.SwitchingMade(made), By: contract.SwitchingBy(by), Says: says})
			}
		}
	}
	return list
}

// SchemeView returns how the club judges a rep, and its groups that judge otherwise, and how far its marks are judged
// by it.
func (s *Service) SchemeView(ctx context.Context, c access.Coach) (contract.Scheme, error) {
	j, err := s.Store.Judging(ctx)
	scheme := j.Scheme
	v := contract.Scheme{Version: j.Version, Kind: contract.SchemeKind(scheme.Kind), Max: int(scheme.Max), CleanAt: int(scheme.CleanAt), ByResult: scheme.ByResult, Facets: facetViews(scheme.Scheme), Switching: switching(),
		Groups: []contract.GroupScheme{}, Editable: c.IsHead(), Marks: j.Marks, Judged: j.JudgedAnew, By: j.By}
	if j.At != nil {
		v.On = new(j.At.UTC().Format(time.DateOnly))
	}
	for _, g := range c.Club.Groups {
		of := scheme.For(g.Key)
		_, own := scheme.Groups[g.Key]
		v.Groups = append(v.Groups, contract.GroupScheme{Group: g.Key, Name: g.Name, Own: own, Kind: contract.GroupSchemeKind(of.Kind), Max: int(of.Max), CleanAt: int(of.CleanAt), ByResult: of.ByResult, Facets: facetViews(of)})
	}
	return v, err
}

// NewScheme is a way of judging as it is chosen.
type NewScheme struct {
	Group    string // empty: the club's
	Own      bool   // false: the group judges as the club does
	Kind     marks.Kind
	Max      int
	CleanAt  int
	ByResult bool
	Facets   []contract.SchemeFacetInput
}

// scheme is what was chosen, or why it cannot be.
func (n NewScheme) scheme() (marks.Scheme, error) {
	s := marks.Scheme{Kind: n.Kind, ByResult: n.ByResult}
	switch n.Kind {
	case marks.Points:
		s.Max, s.CleanAt = float64(n.Max), float64(n.CleanAt)
	case marks.Facets:
		for _, f := range n.Facets {
			if f.Weight > 0 {
				s.Facets = append(s.Facets, marks.Facet{Key: string(f.Key), Weight: f.Weight, Clean: f.Clean})
			} else if f.Clean {
				return s, invalid.Field("facets", "%s cannot decide whether a rep is clean while it counts for nothing; give it a weight", facetNames[string(f.Key)])
			}
		}
	}
	if err := (marks.House{Scheme: s}).CheckHouse(); err != nil {
		e, _ := invalid.As(err)
		if n.Kind == marks.Points {
			return s, invalid.Field("max", "%s", err)
		}
		return s, invalid.Field("facets", "%s", plain(e.Field, err))
	}
	return s, nil
}

// PutScheme changes how the club, or one of its groups, judges a rep. All marks are then judged anew, in the
// background; until that is done each says by which version it is judged.
func (s *Service) PutScheme(ctx context.Context, c access.Coach, version int, in NewScheme) (contract.Scheme, error) {
	if !c.IsHead() {
		return contract.Scheme{}, problem.ErrForbidden
	}
	j, err := s.Store.Judging(ctx)
	if err != nil {
		return contract.Scheme{}, err
	}
	next := j.Scheme
	next.Groups = maps.Clone(next.Groups)
	switch {
	case in.Group == "":
		next.Scheme, err = in.scheme()
	case !in.Own:
		delete(next.Groups, in.Group)
	default:
		if _, err := c.Group(in.Group); err != nil {
			return contract.Scheme{}, invalid.Field("group", "there is no group %q", in.Group)
		}
		var own marks.Scheme
		if own, err = in.scheme(); err == nil {
			if next.Groups == nil {
				next.Groups = map[string]marks.Scheme{}
			}
			next.Groups[in.Group] = own
		}
	}
	if err != nil {
		return contract.Scheme{}, err
	}
	put, err := s.Store.PutScheme(ctx, version+1, next, c.ID, s.Now())
	if err != nil {
		return contract.Scheme{}, err
	}
	now, err := s.SchemeView(ctx, c)
	if err == nil && !put {
		return now, &problem.Stale{What: "way of judging", By: now.By, Current: now}
	}
	return now, err
}

var _ record.Schools = (*Service)(nil)

// Teach takes over how the staff teaches that a rep is marked: by facets or plus and minus, and whether a lost one
// with the right process counts by its result. Groups that judge in a way of their own go on with theirs.
func (s *Service) Teach(ctx context.Context, c access.Coach, marking, lost string) error {
	j, err := s.Store.Judging(ctx)
	if err != nil {
		return err
	}
	next := j.Scheme
	next.ByResult = lost == "result"
	switch {
	case marking == "plus_minus" && next.Kind != marks.PlusMinus:
		next.Scheme = marks.Scheme{Kind: marks.PlusMinus, ByResult: next.ByResult}
	case marking == "points" && next.Kind != marks.Points:
		next.Scheme = marks.Scheme{Kind: marks.Points, Max: 4, CleanAt: 3, ByResult: next.ByResult}
	case marking == "facets" && next.Kind != marks.Facets:
		next.Scheme = marks.Shipped()
		next.ByResult = lost == "result"
	case next.ByResult == j.Scheme.ByResult:
		return nil
	}
	put, err := s.Store.PutScheme(ctx, j.Version+1, next, c.ID, s.Now())
	if err == nil && !put {
		err = problem.ErrTaken
	}
	return err
}

// plain says what is wrong with a scheme as a whole in a coach's words.
func plain(field string, err error) string {
	if field == "scheme.facets" {
		return "at least one facet with a weight must decide whether a rep is clean"
	}
	return err.Error()
}
