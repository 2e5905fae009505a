package cut

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/term"
)

// flags are terms of a mark that stand alone.
var flags = map[string]func(Mark) bool{
	"praise":    func(m Mark) bool { return m.Praise },
	"open":      func(m Mark) bool { return m.Open },
	"unseen":    func(m Mark) bool { return m.Unseen },
	"no finish": func(m Mark) bool { return m.NoFinish },

	"won":            func(m Mark) bool { return m.Result != nil && *m.Result == 1 },
	"lost":           func(m Mark) bool { return m.Result != nil && *m.Result == 0 },
	"right but lost": boxed(marks.RightLost),
	"wrong but won":  boxed(marks.WrongWon),

	"effort":          tallied(marks.Effort),
	"no effort":       tallied(marks.NoEffort),
	"call echoed":     tallied(marks.CallEchoed),
	"call not echoed": tallied(marks.CallNotEchoed),
	"call missing":    tallied(marks.CallMissing),
	"wrong call":      tallied(marks.WrongCall),
}

func boxed(box marks.Box) func(Mark) bool {
	return func(m Mark) bool {
		is, ok := marks.BoxOf(m.Verdict, m.Result)
		return ok && is == box
	}
}

func tallied(t marks.Tally) func(Mark) bool {
	return func(m Mark) bool { return slices.Contains(m.Tallies, t) }
}

var (
	ordinals = map[string]int{"first": 1, "second": 2, "third": 3, "fourth": 4, "1st": 1, "2nd": 2, "3rd": 3, "4th": 4}
	lengths  = map[string]span{"short": {0, 2}, "medium": {3, 6}, "long": {7, far}}

	downAnd = regexp.MustCompile(`^(\S+)(?:\s+(?:and|&)\s+(.+))?$`)
	atFault = regexp.MustCompile(`^(\S+)\s+at\s+fault$`)
	from    = regexp.MustCompile(`^(-?\d+)\s+to\s+(-?\d+)$`)
	single  = regexp.MustCompile(`^([<>]?)\s*(-?\d+)(\+?)$`)
)

// Parse reads a cut-up. It returns an invalid.Error on "cut" that names the term which is not understood.
func Parse(text string) (Cut, error) {
	var c Cut
	if len([]rune(text)) > MaxText {
		return c, invalid.Field("cut", "a cut-up has at most %d characters", MaxText)
	}
	for _, t := range strings.Split(text, ",") {
		t = strings.ToLower(strings.Join(strings.Fields(t), " "))
		if t == "" {
			continue
		}
		list, err := clauses(t)
		if err != nil {
			return Cut{}, invalid.Field("cut", "%q: %v", t, err)
		}
		c.terms = append(c.terms, list...)
	}
	if len(c.terms) > MaxTerms {
		return Cut{}, invalid.Field("cut", "a cut-up has at most %d terms", MaxTerms)
	}
	return c, nil
}

// clauses reads one term, which may say two things: third and long, 64 at fault.
func clauses(t string) ([]clause, error) {
	rest, not := strings.CutPrefix(t, "not ")
	if flags[rest] != nil || rest == "fault" {
		return []clause{{not: not, about: rest, ofMark: true}}, nil
	}
	if m := atFault.FindStringSubmatch(rest); m != nil {
		if not {
			return nil, fmt.Errorf("say player %s, not fault", m[1])
		}
		who := clause{about: "position", words: []string{term.Fold(m[1])}, ofMark: true}
		if n, err := strconv.Atoi(m[1]); err == nil {
			who = clause{about: "player", spans: []span{{n, n}}, ofMark: true}
		}
		return []clause{who, {about: "fault", ofMark: true}}, nil
	}
	if m := downAnd.FindStringSubmatch(rest); m != nil && ordinals[m[1]] > 0 {
		down := clause{not: not, about: "down", spans: []span{{ordinals[m[1]], ordinals[m[1]]}}}
		if m[2] == "" {
			return []clause{down}, nil
		}
		if not {
			return nil, fmt.Errorf("say one of both, such as not distance %s", m[2])
		}
		s, err := numbersOf(m[2])
		return []clause{down, {about: "distance", spans: s}}, err
	}
	about, value, _ := strings.Cut(rest, " ")
	if i := strings.LastIndex(rest, " "); !known(about) && i > 0 && fields[rest[i+1:]] != nil { // odd front
		about, value = rest[i+1:], rest[:i]
	}
	c := clause{not: not, about: about, ofMark: about == "player" || about == "position" || about == "fault"}
	var err error
	switch {
	case numbers[about] != nil, about == "player":
		c.spans, err = numbersOf(value)
	case fields[about] != nil, about == "position", about == "fault":
		for _, w := range strings.Split(value, " or ") {
			if w = term.Fold(w); w == "" {
				return nil, fmt.Errorf("which %s?", about)
			}
			c.words = append(c.words, w)
		}
	default:
		return nil, fmt.Errorf("a term begins with down, distance, gain, quarter, drive, play, hash, personnel, formation, motion, call, front, coverage, result, context, spot, player, position, fault, praise, open, unseen, no finish, won, lost, right but lost, wrong but won, effort, no effort, call echoed, call not echoed, call missing or wrong call")
	}
	return []clause{c}, err
}

func known(about string) bool {
	return numbers[about] != nil || fields[about] != nil || about == "player" || about == "position" || about == "fault"
}

// numbersOf reads 3, 3 or 4, 4 to 6, 7+, >7, <0 and long.
func numbersOf(value string) (list []span, err error) {
	for _, v := range strings.Split(value, " or ") {
		v = strings.TrimSpace(v)
		if s, ok := lengths[v]; ok {
			list = append(list, s)
			continue
		}
		if m := from.FindStringSubmatch(v); m != nil {
			lo, errLo := strconv.Atoi(m[1])
			hi, errHi := strconv.Atoi(m[2])
			if errLo != nil || errHi != nil || hi < lo {
				return nil, fmt.Errorf("%s: from the lower to the higher", v)
			}
			list = append(list, span{lo, hi})
			continue
		}
		m := single.FindStringSubmatch(v)
		if m == nil || m[1] != "" && m[3] != "" {
			return nil, fmt.Errorf("a number is written 3, 3 or 4, 4 to 6, 7+, >7 or <0, not %q", v)
		}
		n, err := strconv.Atoi(m[2])
		if err != nil {
			return nil, fmt.Errorf("%s is no number that a play has", v)
		}
		switch {
		case m[1] == "<":
			list = append(list, span{-far, n - 1})
		case m[1] == ">":
			list = append(list, span{n + 1, far})
		case m[3] == "+":
			list = append(list, span{n, far})
		default:
			list = append(list, span{n, n})
		}
	}
	return list, nil
}
