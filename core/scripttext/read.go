package scripttext

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/practice"
	"nineyard/core/schedule"
)

// Problem is what is wrong at a place of a text. Line and Column count from 1, columns in
// characters.
type Problem struct {
	Line, Column int
	Message      string
}

// String words a problem with its place.
func (p Problem) String() string {
	return fmt.Sprintf("line %d, column %d: %s", p.Line, p.Column, p.Message)
}

// mostProblems is after how many reading gives up.
const mostProblems = 20

// token is a word of a line: what is written, and the column it begins at.
type token struct {
	text   string
	column int
	quoted bool // all of it stands in quotes
}

// reader reads a text line by line.
type reader struct {
	Words
	line     int
	problems []Problem
	periods  []Period
}

// Read reads a text. It returns the periods, without keys, or the problems; never both. Groups
// and needs are in the order of the club's.
func Read(w Words, text string) ([]Period, []Problem) {
	if runes(text) > MaxText {
		return nil, []Problem{{1, 1, fmt.Sprintf("the text is longer than %d characters", MaxText)}}
	}
	r := &reader{Words: w}
	for i, line := range strings.Split(text, "\n") {
		r.line = i + 1
		tokens := r.split(strings.TrimSuffix(line, "\r"))
		if len(tokens) > 0 {
			r.read(tokens)
		}
		if len(r.periods) > schedule.MaxPeriods {
			r.fail(1, "a script has at most %d periods", schedule.MaxPeriods)
		}
		if len(r.problems) >= mostProblems || len(r.periods) > schedule.MaxPeriods {
			break
		}
	}
	if len(r.problems) > 0 {
		return nil, r.problems
	}
	return r.periods, nil
}

func (r *reader) fail(column int, format string, args ...any) {
	r.problems = append(r.problems, Problem{r.line, column, fmt.Sprintf(format, args...)})
}

// split cuts a line into tokens. Quotes keep what stands in them together, and what they hold is
// written as it is; a # outside of them ends the line.
func (r *reader) split(line string) (list []token) {
	chars := []rune(line)
	for i := 0; i < len(chars); {
		if chars[i] == ' ' || chars[i] == '\t' {
			i++
			continue
		}
		if chars[i] == '#' {
			break
		}
		t := token{column: i + 1, quoted: chars[i] == '"'}
		open := false
		begin := i
		for ; i < len(chars) && (open || chars[i] != ' ' && chars[i] != '\t' && chars[i] != '#'); i++ {
			switch {
			case open && chars[i] == '\\' && i+1 < len(chars):
				i++
			case chars[i] == '"':
				open = !open
				t.quoted = t.quoted && (open || i+1 == len(chars) || chars[i+1] == ' ' || chars[i+1] == '\t' || chars[i+1] == '#')
			}
		}
		if open {
			r.fail(t.column, `a quote is not closed`)
			return nil
		}
		t.text = string(chars[begin:i])
		list = append(list, t)
	}
	return list
}

// plain takes the quotes off a word.
func plain(s string) string {
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		switch {
		case s[i] == '"':
		case s[i] == '\\' && i+1 < len(s):
			i++
			switch s[i] {
			case 'n':
				b.WriteByte('\n')
			case 'r':
				b.WriteByte('\r')
			default:
				b.WriteByte(s[i])
			}
		default:
			b.WriteByte(s[i])
		}
	}
	return b.String()
}

// items cuts a token at its commas outside of quotes.
func items(t token) (list []token) {
	open, begin, column := false, 0, t.column
	for i := 0; i < len(t.text); i++ {
		switch t.text[i] {
		case '\\':
			if open {
				i++
			}
		case '"':
			open = !open
		case ',':
			if !open {
				list = append(list, token{text: t.text[begin:i], column: column})
				column += runes(t.text[begin:i]) + 1
				begin = i + 1
			}
		}
	}
	return append(list, token{text: t.text[begin:], column: column})
}

// read reads a line.
func (r *reader) read(tokens []token) {
	problems := len(r.problems)
	p := Period{}
	rest, ok := r.when(&p, tokens)
	if !ok {
		return
	}
	r.parts(&p, rest)
	if len(r.problems) > problems {
		return
	}
	first := tokens[0].column
	switch {
	case p.Kind == "" && p.Name == "":
		r.fail(first, "say what it is: %s, or a name in quotes", strings.Join(Kinds(), ", "))
		return
	case p.Groups == nil:
		r.fail(first, "say who: all, or groups such as %s", r.some(r.Words.Groups))
		return
	case p.Kind == "":
		p.Kind = r.kindOf(p)
	case p.Name == "":
		p.Name = NameOf(p.Kind)
	}
	r.periods = append(r.periods, p)
}

// kindOf is the kind of a period that has only a name.
func (r *reader) kindOf(p Period) string {
	for _, k := range kindWords {
		if strings.EqualFold(k.name, p.Name) {
			return k.kind
		}
	}
	if len(p.Groups) == 1 {
		return "individual"
	}
	return "group"
}

// when reads the time at the beginning of a line and returns the rest.
func (r *reader) when(p *Period, t []token) ([]token, bool) {
	var last *Period
	if n := len(r.periods); n > 0 {
		last = &r.periods[n-1]
	}
	first := t[0]
	from, to, ranged := strings.Cut(strings.ReplaceAll(first.text, "–", "-"), "-")
	switch {
	case first.text == "&":
		if last == nil {
			r.fail(first.column, "& begins with the line before, and there is none")
			return nil, false
		}
		p.Start, p.Minutes = last.Start, last.Minutes
		if len(t) > 1 && number(t[1].text) {
			return t[2:], r.minutes(p, t[1])
		}
		return t[1:], true
	case number(first.text):
		if last != nil {
			p.Start = last.End()
		}
		return t[1:], r.minutes(p, first)
	}
	start, ok := r.clock(token{text: from, column: first.column})
	if !ok {
		return nil, false
	}
	p.Start = start
	if ranged {
		end, ok := r.clock(token{text: to, column: first.column + runes(from) + 1})
		if p.Minutes = end - start; ok && p.Minutes < 1 {
			r.fail(first.column, "it ends before it begins")
		}
		return t[1:], ok && p.Minutes >= 1
	}
	if len(t) < 2 || !number(t[1].text) {
		r.fail(first.column, "say how many minutes, such as %s 10", first.text)
		return nil, false
	}
	return t[2:], r.minutes(p, t[1])
}

func number(s string) bool { return s != "" && strings.Trim(s, "0123456789") == "" }

func (r *reader) minutes(p *Period, t token) bool {
	n, err := strconv.Atoi(t.text)
	if err != nil || n < 1 || n > schedule.MaxMinutes {
		r.fail(t.column, "minutes are 1 to %d, got %s", schedule.MaxMinutes, t.text)
		return false
	}
	p.Minutes = n
	return true
}

// clock reads a time of day as minutes from the start of practice, up to half a day before or
// after it.
func (r *reader) clock(t token) (int, bool) {
	h, m, ok := strings.Cut(t.text, ":")
	hour, err1 := strconv.Atoi(h)
	minute, err2 := strconv.Atoi(m)
	if !ok || err1 != nil || err2 != nil || !number(h) || !number(m) || len(h) > 2 || len(m) != 2 || hour > 23 || minute > 59 {
		r.fail(t.column, "a line begins with a time such as 18:05, with minutes, or with &; got %s", t.text)
		return 0, false
	}
	const day = 24 * 60
	since := ((hour*60+minute-r.StartsAt)%day + day) % day
	if since >= day/2 {
		since -= day
	}
	return since, true
}

// parts reads all that follows the time.
func (r *reader) parts(p *Period, t []token) {
	seen := map[string]bool{}
	once := func(what string, at token) bool {
		if seen[what] {
			r.fail(at.column, "%s is said twice", what)
			return false
		}
		seen[what] = true
		return true
	}
	for i := 0; i < len(t); i++ {
		at := t[i]
		low := strings.ToLower(at.text)
		switch {
		case at.quoted:
			if once("the name", at) {
				r.name(p, at)
			}
		case strings.HasPrefix(at.text, "@"):
			if once("the place", at) {
				p.Place = r.one("place", r.Places, token{text: at.text[1:], column: at.column + 1})
			}
		case slices.Contains(markers[1:], low):
			if i++; i == len(t) {
				r.fail(at.column, "%s what?", low)
				return
			}
			if once(low, at) {
				r.marked(p, low, t[i])
			}
		default:
			r.bare(p, at, low, once)
		}
	}
}

func (r *reader) name(p *Period, at token) {
	p.Name = plain(at.text)
	if n := runes(p.Name); n < 1 || n > MaxName {
		r.fail(at.column, "a name has 1 to %d characters", MaxName)
	}
}

// marked reads what follows a marker.
func (r *reader) marked(p *Period, marker string, at token) {
	switch marker {
	case "for":
		p.Groups = []string{}
		if at.text != `""` {
			p.Groups = r.inOrder(r.many("group", r.Words.Groups, at))
		}
	case "with":
		p.Coaches = r.many("coach", r.Words.Coaches, at)
	case "needs":
		p.NeedsGroups = r.inOrder(r.many("group", r.Words.Groups, at))
	case "uses":
		r.equipment(p, at)
	case "rep":
		seconds, err := strconv.ParseFloat(strings.TrimSuffix(strings.ToLower(at.text), "s"), 64)
		if err != nil || !(seconds > 0 && seconds <= 3600) {
			r.fail(at.column, "a rep lasts more than 0 and at most 3600 seconds, got %s", at.text)
			return
		}
		p.RepSeconds = seconds
	}
}

// bare reads a word without a marker: a kind, a contact, or groups.
func (r *reader) bare(p *Period, at token, low string, once func(string, token) bool) {
	for _, k := range kindWords {
		if low == k.word || low == k.kind || low == "indy" && k.kind == "individual" {
			if once("the kind", at) {
				p.Kind = k.kind
			}
			return
		}
	}
	if c, err := practice.ParseContact(low); err == nil {
		if once("the contact", at) {
			p.Contact = c
		}
		return
	}
	if !once("who", at) {
		return
	}
	if low == "all" {
		p.Groups = []string{}
		for _, g := range r.Words.Groups {
			p.Groups = append(p.Groups, g.Key)
		}
		return
	}
	p.Groups = r.inOrder(r.many("group", r.Words.Groups, at))
}

func (r *reader) some(list []Word) string {
	var names []string
	for _, w := range list[:min(len(list), 12)] {
		names = append(names, word(call(list, w.Key)))
	}
	return strings.Join(names, ", ")
}

func (r *reader) one(what string, of []Word, t token) string {
	key, ok := find(of, plain(t.text))
	if !ok {
		r.fail(t.column, "there is no %s %s; there are %s", what, quoted(plain(t.text)), r.some(of))
	}
	return key
}

func (r *reader) many(what string, of []Word, t token) []string {
	list := []string{}
	for _, x := range items(t) {
		key := r.one(what, of, x)
		if key != "" && slices.Contains(list, key) {
			r.fail(x.column, "%s is named twice", plain(x.text))
			continue
		}
		list = append(list, key)
	}
	return list
}

func (r *reader) inOrder(keys []string) []string {
	at := func(key string) int {
		return slices.IndexFunc(r.Words.Groups, func(w Word) bool { return w.Key == key })
	}
	slices.SortFunc(keys, func(a, b string) int { return at(a) - at(b) })
	return keys
}

func (r *reader) equipment(p *Period, t token) {
	p.Equipment = map[string]int{}
	for _, x := range items(t) {
		name, n := x.text, 1
		if cut := strings.LastIndexByte(x.text, ':'); cut >= 0 {
			count, err := strconv.Atoi(x.text[cut+1:])
			if err != nil || count < 1 || count > schedule.MaxCount {
				r.fail(x.column, "say how many, such as %s:5", x.text[:cut])
				continue
			}
			name, n = x.text[:cut], count
		}
		key := r.one("equipment", r.Words.Equipment, token{text: name, column: x.column})
		if _, twice := p.Equipment[key]; twice && key != "" {
			r.fail(x.column, "%s is named twice", plain(name))
			continue
		}
		p.Equipment[key] = n
	}
}
