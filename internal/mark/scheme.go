package mark

import (
	"context"
	"time"

	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Judging is how a club judges, and how far its marks are judged by it.
type Judging struct {
	Version    int
	Scheme     marks.Scheme
	By         string     // who chose it; empty: it is the shipped one
	At         *time.Time // when
	Marks      int        // in all
	JudgedAnew int        // of them, by this version
}

// names of the facets, as a coach says them.
var facetNames = map[string]string{"assignment": "Assignment", "technique": "Technique", "finish": "Finish"}

// SchemeView returns how the club judges a rep, and how far its marks are judged by it.
func (s *Service) SchemeView(ctx context.Context, c access.Coach) (contract.Scheme, error) {
	j, err := s.Store.Judging(ctx)
	v := contract.Scheme{Version: j.Version, Facets: []contract.SchemeFacet{}, Editable: c.IsHead(), Marks: j.Marks, Judged: j.JudgedAnew, By: j.By}
	if j.At != nil {
		v.On = new(j.At.UTC().Format(time.DateOnly))
	}
	for _, f := range marks.Shipped().Facets { // in the order in which they ship
		x := contract.SchemeFacet{Key: contract.SchemeFacetKey(f.Key), Name: facetNames[f.Key]}
		for _, own := range j.Scheme.Facets {
			if own.Key == f.Key {
				x.Weight, x.Clean = own.Weight, own.Clean
			}
		}
		v.Facets = append(v.Facets, x)
	}
	return v, err
}

// PutScheme changes how the club judges a rep: by the facets that have a weight, of which those
// that decide must be right for a rep to be clean. All marks are then judged anew, in the
// background; until that is done each says by which version it is judged.
func (s *Service) PutScheme(ctx context.Context, c access.Coach, version int, facets []contract.SchemeFacetInput) (contract.Scheme, error) {
	if !c.IsHead() {
		return contract.Scheme{}, problem.ErrForbidden
	}
	scheme := marks.Scheme{Kind: marks.Facets}
	for _, f := range facets {
		if f.Weight > 0 {
			scheme.Facets = append(scheme.Facets, marks.Facet{Key: string(f.Key), Weight: f.Weight, Clean: f.Clean})
		} else if f.Clean {
			return contract.Scheme{}, invalid.Field("facets", "%s cannot decide whether a rep is clean while it counts for nothing; give it a weight", facetNames[string(f.Key)])
		}
	}
	if err := scheme.CheckHouse(); err != nil {
		e, _ := invalid.As(err)
		return contract.Scheme{}, invalid.Field("facets", "%s", plain(e.Field, err))
	}
	put, err := s.Store.PutScheme(ctx, version+1, scheme, c.ID, s.Now())
	if err != nil {
		return contract.Scheme{}, err
	}
	now, err := s.SchemeView(ctx, c)
	if err == nil && !put {
		return now, &problem.Stale{What: "way of judging", By: now.By, Current: now}
	}
	return now, err
}

// plain says what is wrong with a scheme as a whole in a coach's words.
func plain(field string, err error) string {
	if field == "scheme.facets" {
		return "at least one facet with a weight must decide whether a rep is clean"
	}
	return err.Error()
}
