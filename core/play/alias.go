package play

import (
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/term"
)

// MaxAliases is how many other words a staff may have.
const MaxAliases = 500

// Alias is another word for one of the staff's: whoever writes Said under the label means Means.
type Alias struct {
	Label Column
	Said  string
	Means string
}

// AliasLabels are the labels whose words may be said otherwise. A call has its other names in the book of calls.
func AliasLabels() []Column {
	return []Column{ColPersonnel, ColFormation, ColMotion, ColFront, ColCoverage, ColResult}
}

// Check returns an invalid.Error naming the field for an alias that cannot be beside the others: a word means one
// thing, and what it means is no alias again, so that nothing hangs on the order in which they are looked up.
func (a Alias) Check(others []Alias) error {
	if !slices.Contains(AliasLabels(), a.Label) {
		return invalid.Field("label", "a word of %q cannot be said otherwise here", a.Label)
	}
	for _, x := range []named{{"said", a.Said}, {"means", a.Means}} {
		if err := word(x.field, x.says); err != nil {
			return err
		}
		if term.Fold(x.says) == "" {
			return invalid.Field(x.field, "a word has a letter or a digit")
		}
	}
	if term.Same(a.Said, a.Means) {
		return invalid.Field("said", "%q is %q already", a.Said, a.Means)
	}
	if len(others) >= MaxAliases {
		return invalid.Field("said", "at most %d words are said otherwise", MaxAliases)
	}
	for _, o := range others {
		switch {
		case o.Label != a.Label:
		case term.Same(o.Said, a.Said):
			return invalid.Field("said", "%q means %q already", o.Said, o.Means)
		case term.Same(o.Said, a.Means):
			return invalid.Field("means", "%q is said for %q: write that", o.Said, o.Means)
		case term.Same(o.Means, a.Said):
			return invalid.Field("said", "%q is what %q means", o.Means, o.Said)
		}
	}
	return nil
}

// Meant is a play with the words that its words mean.
func Meant(p Play, aliases []Alias) Play {
	for _, a := range aliases {
		if w := wordOf(&p, a.Label); w != nil && term.Same(*w, a.Said) {
			*w = a.Means
		}
	}
	return p
}

// Word is what a play says under a label that has aliases; empty for another.
func Word(p Play, label Column) string {
	if w := wordOf(&p, label); w != nil {
		return *w
	}
	return ""
}

func wordOf(p *Play, label Column) *string {
	switch label {
	case ColPersonnel:
		return &p.Personnel
	case ColFormation:
		return &p.Formation
	case ColMotion:
		return &p.Motion
	case ColFront:
		return &p.Front
	case ColCoverage:
		return &p.Coverage
	case ColResult:
		return &p.Result
	}
	return nil
}

// MeansOf are the words, folded, that a folded word under a label asks for: itself, and what it means. The label is
// written in any case.
func MeansOf(label, word string, aliases []Alias) []string {
	list := []string{word}
	for _, a := range aliases {
		if strings.EqualFold(string(a.Label), label) && term.Fold(a.Said) == word {
			list = append(list, term.Fold(a.Means))
		}
	}
	return list
}
