// Package find looks entries of what a club teaches up by what coaches call them, mistyped
// or not, and says where they are used.
//
// What can be found in an edition is kept once for all clubs; a club keeps only what
// differs, with hidden rows for what it does not teach.
package find

import (
	"context"
	"slices"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/teach/house"
	"nineyard/library"
)

// limit is how many hits are shown.
const limit = 12

// Term is an entry as it can be found.
type Term struct {
	Kind, Key, Technique string
	Groups               []string
	Name                 string
	Terms                string // name, aliases and the names it ships with, in small letters
	Body                 string // the words that describe it
	Hidden               bool   // not taught at the club
}

// Hit is an entry that was found.
type Hit struct {
	Kind, Key, Technique, Name, Terms, Body string
	Mine                                    bool // taught to the group that asks
	Score                                   float64
}

// Use is where an entry is used in a season.
type Use struct {
	Kind, Key string
	Practices int
	Marks     int
	Recent    []UseDay // the latest of the practices, newest first
}

// UseDay is a practice an entry is used in.
type UseDay struct {
	Practice uuid.UUID
	On       time.Time
}

// Keys are the entries whose use is asked for.
type Keys struct{ Techniques, Drills, Faults []string }

// Store keeps what can be found.
type Store interface {
	// Kept is the version of the club's house that its own terms follow from; 0 for none.
	Kept(ctx context.Context) (int, error)
	// Replace makes the club's own terms those given and notes the version they follow from.
	Replace(ctx context.Context, version int, own []Term) error
	// KeepEdition keeps the terms of an edition, once.
	KeepEdition(ctx context.Context, digest string, terms func() []Term) error
	// Search finds what holds words or their beginnings, and what is spelled most like them.
	Search(ctx context.Context, digest, words, group string, limit int) ([]Hit, error)
	// Uses tells where entries are used in a season; what is used nowhere is left out.
	Uses(ctx context.Context, c access.Season, keys Keys) ([]Use, error)
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
}

// Keep makes what can be found follow from the house, if it does not already.
func (s *Service) Keep(ctx context.Context, h *house.House) error {
	kept, err := s.Store.Kept(ctx)
	if err != nil || kept == h.Version {
		return err
	}
	e := h.Edition
	if err := s.Store.KeepEdition(ctx, e.Digest, func() []Term { return termsOf(e.Taught, e) }); err != nil {
		return err
	}
	return s.Store.Replace(ctx, h.Version, difference(termsOf(e.Taught, e), termsOf(h.Library, e)))
}

// difference lists what a club's terms change of an edition's: rows of its own, and hidden
// ones for what it does not teach.
func difference(edition, club []Term) []Term {
	type ref struct{ kind, key string }
	ships, left := map[ref]Term{}, map[ref]bool{}
	for _, t := range edition {
		ships[ref{t.Kind, t.Key}], left[ref{t.Kind, t.Key}] = t, true
	}
	var own []Term
	for _, t := range club {
		k := ref{t.Kind, t.Key}
		delete(left, k)
		if was, ok := ships[k]; !ok || was.Technique != t.Technique || was.Name != t.Name || was.Terms != t.Terms || was.Body != t.Body || !slices.Equal(was.Groups, t.Groups) {
			own = append(own, t)
		}
	}
	for _, t := range edition {
		if left[ref{t.Kind, t.Key}] {
			own = append(own, Term{Kind: t.Kind, Key: t.Key, Technique: t.Technique, Groups: []string{}, Name: t.Name, Hidden: true})
		}
	}
	return own
}

// termsOf lists what can be found in a library: entries by their names, their aliases and
// the names they ship with, and by the words that describe them.
func termsOf(lib *teaching.Library, e *library.Edition) []Term {
	shipped := func(kind, key string) string {
		switch kind {
		case "technique":
			t, _ := e.All.Technique(key)
			return t.Name
		case "fault":
			f, _, _ := e.All.Fault(key)
			return f.Name
		case "drill":
			d, _ := e.All.Drill(key)
			return d.Name
		case "table":
			t, _ := e.All.Table(key)
			return t.Name
		}
		return ""
	}
	var out []Term
	add := func(kind, key, technique string, groups []string, name string, aliases []string, body ...string) {
		terms := append([]string{name}, aliases...)
		if old := shipped(kind, key); old != "" && !slices.ContainsFunc(terms, func(s string) bool { return strings.EqualFold(s, old) }) {
			terms = append(terms, old)
		}
		out = append(out, Term{Kind: kind, Key: key, Technique: technique, Groups: append([]string{}, groups...), Name: name,
			Terms: strings.ToLower(strings.Join(terms, " · ")), Body: strings.Join(body, " · ")})
	}
	for _, t := range lib.Techniques {
		add("technique", t.Key, t.Key, t.Groups, t.Name, t.Aliases, t.Summary)
		for _, c := range t.Checkpoints {
			add("checkpoint", c.Key, t.Key, t.Groups, c.Name, []string{c.Cue}, c.Cue, c.Phase, t.Name)
		}
		for _, f := range t.Faults {
			if f.Shared {
				continue // it is found once
			}
			add("fault", f.Key, t.Key, t.Groups, f.Name, f.Aliases, f.Effect, t.Name)
		}
	}
	for _, f := range lib.Shared {
		add("fault", f.Key, "", nil, f.Name, f.Aliases, f.Effect)
	}
	for _, d := range lib.Drills {
		add("drill", d.Key, d.Technique, d.Groups, d.Name, d.Aliases, d.Roles, d.Watch, d.Game)
	}
	for _, l := range lib.Ladders {
		t, _ := lib.Technique(l.Technique)
		add("ladder", l.Key, l.Technique, t.Groups, "Ladder: "+l.Name, nil, t.Name)
	}
	for _, t := range lib.Tables {
		var rows []string
		for _, r := range t.Rows {
			rows = append(rows, strings.TrimSpace(r.Call+" "+r.When))
		}
		add("table", t.Key, "", t.Groups, t.Name, nil, strings.Join(rows, ", "))
	}
	for _, q := range lib.Questions {
		var reasons []string
		for _, x := range q.Schools {
			reasons = append(reasons, x.Name, x.Reason)
		}
		add("question", q.Key, "", nil, q.Name, nil, append(reasons, q.Asks)...)
	}
	return out
}

// Find looks an entry up by name, alias, fault or cue, mistyped or not, and says where it
// is used.
func (s *Service) Find(ctx context.Context, c access.Coach, words, group string) ([]contract.Hit, error) {
	words = strings.ToLower(strings.TrimSpace(words))
	if !strings.ContainsFunc(words, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
		return nil, invalid.Field("q", "type a word to look for")
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	hits, err := s.Store.Search(ctx, h.Edition.Digest, words, group, limit)
	if err != nil {
		return nil, err
	}
	var keys Keys
	for _, x := range hits {
		switch x.Kind {
		case "drill":
			keys.Drills = append(keys.Drills, x.Key)
		case "fault":
			keys.Faults = append(keys.Faults, x.Key)
		case "technique", "checkpoint", "ladder":
			keys.Techniques = append(keys.Techniques, x.Technique)
		}
	}
	uses, err := s.Store.Uses(ctx, c.Season, keys)
	if err != nil {
		return nil, err
	}
	out := []contract.Hit{}
	for _, x := range hits {
		t, _ := h.Library.Technique(x.Technique)
		kind, key := x.Kind, x.Key
		if kind == "checkpoint" || kind == "ladder" {
			kind, key = "technique", x.Technique
		}
		says, _, _ := strings.Cut(x.Body, " · ")
		out = append(out, contract.Hit{Kind: contract.HitKind(x.Kind), Key: x.Key, Name: x.Name, Technique: x.Technique, TechniqueName: t.Name, Mine: x.Mine,
			Says: says, Use: view(uses, kind, key), Ladders: ladders(h.Library, x)})
	}
	return out, nil
}

// DrillUse tells where a drill is used in the season.
func (s *Service) DrillUse(ctx context.Context, c access.Coach, drill string) (contract.Use, error) {
	uses, err := s.Store.Uses(ctx, c.Season, Keys{Drills: []string{drill}})
	return view(uses, "drill", drill), err
}

func view(uses []Use, kind, key string) contract.Use {
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

// ladders names the ladders on which something that was found is taught.
func ladders(lib *teaching.Library, h Hit) []string {
	names := []string{}
	add := func(ld teaching.Ladder) {
		if !slices.Contains(names, ld.Name) {
			names = append(names, ld.Name)
		}
	}
	if h.Kind == "drill" {
		for _, r := range lib.RungsOf(h.Key) {
			add(r.Ladder)
		}
	} else if ld, ok := lib.LadderOf(h.Technique); ok {
		add(ld)
	}
	return names
}
