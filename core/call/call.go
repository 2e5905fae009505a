package call

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/core/term"
)

// Bounds of a call.
const (
	MaxName  = 80 // characters of a name, an alias, a kind or a tag
	MaxWords = 20 // aliases, and tags
	MaxNeeds = 24
	MaxSpots = 20 // of a need
)

// Need is a technique that players of a group must have.
type Need struct {
	Group     string
	Technique string
	Stage     string   // kind of the ladder's stage that must be passed; "" for the last before the game
	Spots     []string // of the group's line-up; none for all
}

// Call is a play or a defence in the staff's own words.
type Call struct {
	Name    string
	Aliases []string
	Side    group.Side
	Kind    string // in the staff's words: run, pass, pressure
	Tags    []string
	Share   int          // expected share of the next game's snaps of its side, 0–100 per cent
	Install *season.Date // the day on which it is installed; nil when it is not set
	Needs   []Need
}

// Known is what calls may speak of.
type Known struct {
	Groups      group.List
	Library     *teaching.Library
	SeasonStart season.Date
	Weeks       int
}

var sides = []group.Side{group.Offense, group.Defense, group.Units}

// separators are what lists of calls are written with. No name has bars, no word that stands in a
// list with others any of them.
const (
	bars       = "|\n\r\t"
	separators = bars + ";,[]>"
)

// Check returns an invalid.Error naming the field for a call that cannot be: without a name, with a
// word that is too long, repeated, or cannot be written into a list, a day outside of the season,
// or a need of a technique that the group is not taught by a ladder.
func (c Call) Check(k Known) error {
	if err := word("name", c.Name, bars); err != nil {
		return err
	}
	for _, list := range []struct {
		field string
		of    []string
	}{{"aliases", c.Aliases}, {"tags", c.Tags}} {
		if len(list.of) > MaxWords {
			return invalid.Field(list.field, "at most %d, got %d", MaxWords, len(list.of))
		}
		for i, w := range list.of {
			at := fmt.Sprintf("%s[%d]", list.field, i)
			if err := word(at, w, separators); err != nil {
				return err
			}
			if list.field == "aliases" && term.Same(w, c.Name) || slices.ContainsFunc(list.of[:i], func(o string) bool { return term.Same(o, w) }) {
				return invalid.Field(at, "%s is there before", w)
			}
		}
	}
	if c.Kind != "" {
		if err := word("kind", c.Kind, bars); err != nil {
			return err
		}
	}
	if !slices.Contains(sides, c.Side) {
		return invalid.Field("side", "a side is offense, defense or units")
	}
	if err := invalid.IntRange("share", c.Share, 0, 100); err != nil {
		return err
	}
	if c.Install != nil && !season.Within(k.SeasonStart, k.Weeks, *c.Install) {
		return invalid.Field("install", "%s is outside of the season, which runs from %s to %s", *c.Install, k.SeasonStart, season.End(k.SeasonStart, k.Weeks))
	}
	if len(c.Needs) > MaxNeeds {
		return invalid.Field("needs", "at most %d needs, got %d", MaxNeeds, len(c.Needs))
	}
	for i, n := range c.Needs {
		if err := n.check(k); err != nil {
			return invalid.Within(fmt.Sprintf("needs[%d]", i), err)
		}
		if slices.ContainsFunc(c.Needs[:i], n.same) {
			return invalid.Field(fmt.Sprintf("needs[%d]", i), "the need is there before")
		}
	}
	return nil
}

func word(field, w, without string) error {
	switch n := len([]rune(w)); {
	case term.Fold(w) == "" || n > MaxName:
		return invalid.Field(field, "a name of 1 to %d characters, with a letter or a digit", MaxName)
	case strings.ContainsAny(w, without):
		return invalid.Field(field, "none of %s: lists of calls are written with them", strings.Join(strings.Split(strings.TrimSpace(strings.Replace(without, "|\n\r\t", "|", 1)), ""), " "))
	case strings.TrimSpace(w) != w:
		return invalid.Field(field, "a name neither begins nor ends with a space")
	}
	return nil
}

func (n Need) check(k Known) error {
	g, ok := k.Groups.Find(n.Group)
	if !ok {
		return invalid.Field("group", "there is no position group %q", n.Group)
	}
	t, ok := k.Library.Technique(n.Technique)
	if !ok {
		return invalid.Field("technique", "there is no technique %q", n.Technique)
	}
	if !t.Taught(n.Group) {
		return invalid.Field("technique", "%s is not taught to %s", t.Name, g.Name)
	}
	ld, ok := k.Library.LadderOf(n.Technique)
	if !ok {
		return invalid.Field("technique", "%s has no ladder, and nobody can say who has it", t.Name)
	}
	if _, ok := UpTo(ld, n.Stage); !ok {
		return invalid.Field("stage", "the ladder %s has no stage of the kind %q; it has %s", ld.Name, n.Stage, strings.Join(kinds(ld), ", "))
	}
	if len(n.Spots) > MaxSpots {
		return invalid.Field("spots", "at most %d spots, got %d", MaxSpots, len(n.Spots))
	}
	for i, s := range n.Spots {
		at := fmt.Sprintf("spots[%d]", i)
		if err := word(at, s, separators); err != nil {
			return err
		}
		if slices.ContainsFunc(n.Spots[:i], func(o string) bool { return term.Same(o, s) }) {
			return invalid.Field(at, "%s is there before", s)
		}
	}
	return nil
}

// same reports whether two needs ask the same of the same players.
func (n Need) same(o Need) bool {
	return n.Group == o.Group && n.Technique == o.Technique && n.Stage == o.Stage && slices.Equal(n.Spots, o.Spots)
}

// UpTo is the index of the last stage of a ladder that a need asks to be passed: the last one of
// the kind, the last before the game for "". It is false when the ladder has none.
func UpTo(ld teaching.Ladder, kind string) (int, bool) {
	for i, s := range slices.Backward(ld.Stages) {
		if s.Kind != teaching.Game && (kind == "" || s.Kind == kind) {
			return i, true
		}
	}
	return 0, false
}

// kinds lists the kinds of stage that a need may ask of a ladder.
func kinds(ld teaching.Ladder) (list []string) {
	for _, s := range ld.Stages {
		if s.Kind != teaching.Game && !slices.Contains(list, s.Kind) {
			list = append(list, s.Kind)
		}
	}
	return list
}

// Exposure is how large a share of a group's snaps is expected to need each technique, as the
// calls say: the sum of the shares of the calls that need it of the group, 0–100 per cent.
func Exposure(calls []Call, groupKey string) map[string]int {
	out := map[string]int{}
	for _, c := range calls {
		seen := map[string]bool{}
		for _, n := range c.Needs {
			if n.Group == groupKey && !seen[n.Technique] {
				seen[n.Technique] = true
				out[n.Technique] = min(100, out[n.Technique]+c.Share)
			}
		}
	}
	return out
}

// Order sorts calls as they are listed: by side, then by what is expected most, then by name.
func Order(a, b Call) int {
	return cmp.Or(cmp.Compare(slices.Index(sides, a.Side), slices.Index(sides, b.Side)), cmp.Compare(b.Share, a.Share), cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)))
}
