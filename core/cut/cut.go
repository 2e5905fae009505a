package cut

import (
	"slices"
	"strconv"
	"strings"

	"nineyard/core/marks"
	"nineyard/core/play"
	"nineyard/core/term"
)

// Bounds of a cut-up.
const (
	MaxText  = 300 // characters
	MaxTerms = 20
)

// Mark is what stands of a player on a play, as far as cut-ups ask.
type Mark struct {
	Jersey, Position string
	Faults           []string // their names
	Praise           bool
	Open             bool // a question is
	Unseen           bool
	NoFinish         bool
	Verdict          marks.Verdict // of how he did it
	Result           *int          // of his own duel: 1 won, 0 lost, nil not said
	Tallies          []marks.Tally
}

// Cut is a cut-up.
type Cut struct{ terms []clause }

// clause is a term: what it is about, and the values of which one must be met.
type clause struct {
	not    bool
	about  string
	spans  []span   // of numbers
	words  []string // of words, folded
	ofMark bool
}

// span is numbers from one to another, both of them.
type span struct{ lo, hi int }

const far = 1 << 30

// numbers are what a term about a number looks at; false where the play does not say it.
var numbers = map[string]func(p play.Play) (int, bool){
	"down":     func(p play.Play) (int, bool) { return p.Down, p.Down > 0 },
	"distance": func(p play.Play) (int, bool) { return said(p.Distance) },
	"gain":     func(p play.Play) (int, bool) { return said(p.Gain) },
	"quarter":  func(p play.Play) (int, bool) { return p.Quarter, p.Quarter > 0 },
	"drive":    func(p play.Play) (int, bool) { return p.Drive, p.Drive > 0 },
	"play":     func(p play.Play) (int, bool) { return p.Number, true },
}

func said(n *int) (int, bool) {
	if n == nil {
		return 0, false
	}
	return *n, true
}

// fields are what a term about a word looks at.
var fields = map[string]func(p play.Play) []string{
	"hash":      func(p play.Play) []string { return []string{p.Hash} },
	"personnel": func(p play.Play) []string { return []string{p.Personnel} },
	"formation": func(p play.Play) []string { return []string{p.Formation} },
	"motion":    func(p play.Play) []string { return []string{p.Motion} },
	"call":      func(p play.Play) []string { return []string{p.Call} },
	"front":     func(p play.Play) []string { return []string{p.Front} },
	"coverage":  func(p play.Play) []string { return []string{p.Coverage} },
	"result":    func(p play.Play) []string { return []string{p.Result} },
	"spot":      func(p play.Play) []string { return []string{p.Spot} },
	"context":   func(p play.Play) []string { return p.Context },
}

// Meaning is the cut-up as the staff means it: a word under a label asks for what it is said for, too.
func (c Cut) Meaning(aliases []play.Alias) Cut {
	out := Cut{terms: slices.Clone(c.terms)}
	for i, t := range out.terms {
		var words []string
		for _, w := range t.words {
			words = append(words, play.MeansOf(t.about, w, aliases)...)
		}
		out.terms[i].words = words
	}
	return out
}

// Matches says whether a play with its marks is in the cut-up. The marks are those that are asked about: of a
// group, or of the club.
func (c Cut) Matches(p play.Play, marks []Mark) bool {
	asked, one := false, false // of marks; whether one mark meets all that is asked
	for _, t := range c.terms {
		switch {
		case !t.ofMark:
			if t.onPlay(p) == t.not {
				return false
			}
		case t.not:
			for _, m := range marks {
				if t.onMark(m) {
					return false
				}
			}
		default:
			asked = true
		}
	}
	for _, m := range marks {
		all := true
		for _, t := range c.terms {
			all = all && (!t.ofMark || t.not || t.onMark(m))
		}
		one = one || all
	}
	return one || !asked
}

func (t clause) onPlay(p play.Play) bool {
	if of, ok := numbers[t.about]; ok {
		n, there := of(p)
		return there && t.holds(n)
	}
	for _, written := range fields[t.about](p) {
		if t.in(written) {
			return true
		}
	}
	return false
}

func (t clause) holds(n int) bool {
	for _, s := range t.spans {
		if s.lo <= n && n <= s.hi {
			return true
		}
	}
	return false
}

// in says whether what is written holds one of the words.
func (t clause) in(written string) bool {
	folded := term.Fold(written)
	for _, w := range t.words {
		if folded != "" && strings.Contains(folded, w) {
			return true
		}
	}
	return false
}

func (t clause) onMark(m Mark) bool {
	switch t.about {
	case "player":
		n, err := strconv.Atoi(m.Jersey)
		return err == nil && t.holds(n)
	case "position":
		for _, w := range t.words {
			if term.Fold(m.Position) == w {
				return true
			}
		}
		return false
	case "fault":
		if len(t.words) == 0 {
			return len(m.Faults) > 0
		}
		for _, f := range m.Faults {
			if t.in(f) {
				return true
			}
		}
		return false
	}
	return flags[t.about](m)
}
