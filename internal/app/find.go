package app

import (
	"context"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/sync/errgroup"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// foundLimit is how many hits are shown.
const foundLimit = 12

// Find looks an entry up by name, alias, fault or cue, mistyped or not, and says where it
// is used.
func (s *Service) Find(ctx context.Context, a Actor, words, group string) ([]contract.Hit, error) {
	words = strings.ToLower(strings.TrimSpace(words))
	if !strings.ContainsFunc(words, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
		return nil, invalid.Field("q", "type a word to look for")
	}
	hits, err := s.Store.Find(ctx, a.ClubID, words, group, foundLimit)
	if err != nil {
		return nil, err
	}
	keys := map[string][]string{}
	for _, h := range hits {
		keys[h.Kind] = append(keys[h.Kind], h.Key)
		if h.Kind == "checkpoint" || h.Kind == "ladder" {
			keys["technique"] = append(keys["technique"], h.Technique)
		}
	}
	var lists [3][]Use // read side by side
	reads, rctx := errgroup.WithContext(ctx)
	for i, of := range [3][3][]string{{keys["technique"]}, {1: keys["drill"]}, {2: keys["fault"]}} {
		reads.Go(func() (err error) {
			lists[i], err = s.Store.Uses(rctx, a.ClubID, a.SeasonID, of[0], of[1], of[2])
			return err
		})
	}
	if err := reads.Wait(); err != nil {
		return nil, err
	}
	uses := slices.Concat(lists[:]...)
	out := []contract.Hit{}
	for _, h := range hits {
		t, _ := a.lib().Technique(h.Technique)
		kind, key := h.Kind, h.Key
		if kind == "checkpoint" || kind == "ladder" {
			kind, key = "technique", h.Technique
		}
		says, _, _ := strings.Cut(h.Body, " · ")
		out = append(out, contract.Hit{Kind: contract.HitKind(h.Kind), Key: h.Key, Name: h.Name, Technique: h.Technique, TechniqueName: t.Name, Mine: h.Mine,
			Says: says, Use: useView(uses, kind, key), Ladders: a.laddersOf(h)})
	}
	return out, nil
}

func useView(uses []Use, kind, key string) contract.Use {
	v := contract.Use{Recent: []contract.UseDay{}}
	for _, u := range uses {
		if u.Kind != kind || u.Key != key {
			continue
		}
		v.Practices, v.Marks = u.Practices, u.Marks
		for _, d := range u.Recent {
			v.Recent = append(v.Recent, contract.UseDay{ID: d.Practice, Date: season.Of(d.On).String()})
		}
	}
	return v
}

// laddersOf names the ladders on which something that was found is taught.
func (a Actor) laddersOf(h Hit) []string {
	names := []string{}
	add := func(ld teaching.Ladder) {
		if !slices.Contains(names, ld.Name) {
			names = append(names, ld.Name)
		}
	}
	if h.Kind == "drill" {
		for _, p := range a.lib().PlacesOf(h.Key) {
			add(p.Ladder)
		}
	} else if ld, ok := a.lib().LadderOf(h.Technique); ok {
		add(ld)
	}
	return names
}

// DrillPage returns a drill with its reps and rotation for the men of today.
func (s *Service) DrillPage(ctx context.Context, a Actor, group, key string, minutes, lanes *int) (contract.DrillPage, error) {
	d, ok := a.lib().Drill(key)
	if !ok {
		return contract.DrillPage{}, ErrNotFound
	}
	players, err := s.playersOf(ctx, a, group)
	if err != nil {
		return contract.DrillPage{}, err
	}
	v := contract.DrillPage{Drill: a.drillView(d), Minutes: d.Minutes, Lanes: d.Lanes, Out: []contract.Hold{}}
	if minutes != nil {
		v.Minutes = *minutes
	}
	if lanes != nil {
		v.Lanes = *lanes
	}
	att, holds := attendance(players)
	v.Reps = repsView(d, att, v.Minutes, v.Lanes)
	for _, h := range holds {
		if h.Status != contract.Limited || d.PartOf(true) != teaching.FullPart {
			v.Out = append(v.Out, h)
		}
	}
	if v.Rotation, err = rotationView(d, players, v.Minutes, v.Lanes); err != nil {
		return v, err
	}
	uses, err := s.Store.Uses(ctx, a.ClubID, a.SeasonID, nil, []string{key}, nil)
	v.Use = useView(uses, "drill", key)
	return v, err
}
