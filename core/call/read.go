package call

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/core/term"
)

// Column is what stands in a column of a list of calls.
type Column string

// The columns, in the order in which they are typed and written.
const (
	Name    Column = "Call"
	Kind    Column = "Kind"
	Needs   Column = "Needs"
	Share   Column = "Share"
	Install Column = "Install"
	Aliases Column = "Also called"
	Tags    Column = "Tags"
	Side    Column = "Side"
)

// Columns lists them in that order.
func Columns() []Column { return []Column{Name, Kind, Needs, Share, Install, Aliases, Tags, Side} }

// MaxLines is the most calls that are read at once.
const MaxLines = 400

// headers are further words over a column.
var headers = map[Column][]string{
	Name: {"name", "play", "defence", "defense"}, Kind: {"type", "category"}, Needs: {"techniques", "technique", "need"},
	Share: {"snaps", "share of snaps", "percent", "per cent", "%"}, Install: {"installed", "installed on", "day", "date"},
	Aliases: {"alias", "aliases", "other names"}, Tags: {"tag"}, Side: {"unit", "offense or defense"},
}

// Guess finds the columns by the words over them. It returns an invalid.Error on "columns" when
// none names the call.
func Guess(over []string) (map[Column]int, error) {
	at := map[Column]int{}
	term.Headers(at, over, Columns(), func(c Column) []string { return append([]string{string(c)}, headers[c]...) })
	if _, ok := at[Name]; !ok {
		return nil, invalid.Field("columns", "no column is called %q; the columns are %s", Name, columnWords())
	}
	return at, nil
}

func columnWords() string {
	var words []string
	for _, c := range Columns() {
		words = append(words, string(c))
	}
	return strings.Join(words, ", ")
}

// Row is a line of a list with its number there.
type Row struct {
	Number int
	Fields []string
}

// Typed splits a typed text into its lines and those at the bars, the columns in their order.
// Empty lines are left out.
func Typed(text string) (rows []Row, at map[Column]int) {
	for i, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) != "" {
			rows = append(rows, Row{Number: i + 1, Fields: strings.Split(line, "|")})
		}
	}
	at = map[Column]int{}
	for i, c := range Columns() {
		at[c] = i
	}
	return rows, at
}

// Line is what a line of a list says.
type Line struct {
	Number int
	Call   Call
	// Column and Says name what is wrong; empty when the line is good.
	Column Column
	Says   string
}

// Read reads the rows of a list. A line whose name or alias stands in an earlier line is refused:
// nobody could tell the two calls apart.
func Read(rows []Row, at map[Column]int, k Known) []Line {
	lines := make([]Line, 0, len(rows))
	seen := map[string]int{}
	for _, r := range rows {
		l := Line{Number: r.Number}
		l.read(func(c Column) string {
			if i, ok := at[c]; ok && i < len(r.Fields) {
				return strings.TrimSpace(r.Fields[i])
			}
			return ""
		}, k)
		for _, w := range append([]string{l.Call.Name}, l.Call.Aliases...) {
			if before, taken := seen[term.Fold(w)]; taken && l.Says == "" {
				l.Column, l.Says = Name, fmt.Sprintf("%s is in line %d already", w, before)
			}
		}
		if l.Says == "" {
			for _, w := range append([]string{l.Call.Name}, l.Call.Aliases...) {
				seen[term.Fold(w)] = l.Number
			}
		}
		lines = append(lines, l)
	}
	return lines
}

func (l *Line) fail(c Column, err error) {
	if err != nil && l.Says == "" {
		l.Column, l.Says = c, err.Error()
	}
}

func (l *Line) read(field func(Column) string, k Known) {
	c := &l.Call
	c.Name, c.Kind, c.Aliases, c.Tags = tidy(field(Name)), tidy(field(Kind)), list(field(Aliases), ","), list(field(Tags), ",")
	var err error
	c.Needs, err = ParseNeeds(field(Needs), k)
	l.fail(Needs, err)
	c.Share, err = parseShare(field(Share))
	l.fail(Share, err)
	c.Install, err = parseDay(field(Install), k)
	l.fail(Install, err)
	c.Side, err = parseSide(field(Side), c.Needs, k)
	l.fail(Side, err)
	if e, bad := invalid.As(c.Check(k)); bad {
		l.fail(columnOf(e.Field), e)
	}
}

// columnOf is the column in which a field of a call stands.
func columnOf(field string) Column {
	for name, c := range map[string]Column{"name": Name, "kind": Kind, "needs": Needs, "share": Share, "install": Install, "aliases": Aliases, "tags": Tags, "side": Side} {
		if strings.HasPrefix(field, name) {
			return c
		}
	}
	return Name
}

func tidy(s string) string { return strings.Join(strings.Fields(s), " ") }

func list(s, by string) (words []string) {
	for w := range strings.SplitSeq(s, by) {
		if w = tidy(w); w != "" {
			words = append(words, w)
		}
	}
	return words
}

func parseShare(s string) (int, error) {
	if s = strings.TrimSpace(strings.TrimSuffix(s, "%")); s == "" {
		return 0, nil
	}
	n, err := strconv.Atoi(s)
	if err != nil || n < 0 || n > 100 {
		return 0, fmt.Errorf("a share is a whole number of per cent from 0 to 100, not %q", s)
	}
	return n, nil
}

// parseDay reads 2026-10-24 or 24 Oct, which is the first such day of the season.
func parseDay(s string, k Known) (*season.Date, error) {
	if s == "" {
		return nil, nil
	}
	if d, err := season.Parse(s); err == nil {
		return &d, nil
	}
	for d := k.SeasonStart; d <= season.End(k.SeasonStart, k.Weeks); d++ {
		if term.Same(s, d.Time().Format("2 Jan")) || term.Same(s, d.Time().Format("2 January")) {
			return &d, nil
		}
	}
	return nil, fmt.Errorf("a day of the season is written 2026-10-24 or 24 Oct, not %q", s)
}

// parseSide reads a side; where nothing is said it is that of the groups that are needed.
func parseSide(s string, of []Need, k Known) (group.Side, error) {
	for word, side := range map[string]group.Side{"offense": group.Offense, "offence": group.Offense, "defense": group.Defense, "defence": group.Defense, "units": group.Units, "kicking": group.Units} {
		if term.Same(s, word) {
			return side, nil
		}
	}
	if s != "" {
		return "", fmt.Errorf("a side is offense, defense or units, not %q", s)
	}
	side := group.Offense
	for i, n := range of {
		g, _ := k.Groups.Find(n.Group)
		if i > 0 && g.Side != side {
			return "", fmt.Errorf("the needs are of more than one side: say which it is")
		}
		side = g.Side
	}
	return side, nil
}

// need is GROUP technique > stage [spot, spot].
var need = regexp.MustCompile(`^(\S+)\s+([^>\[\]]+?)\s*(?:>\s*([^>\[\]]+?)\s*)?(?:\[([^\[\]]*)\]\s*)?$`)

// ParseNeeds reads needs, parted by semicolons: a group's letters, a technique by any of its
// names, then after > the kind of stage it must be passed to, and in brackets the spots of the
// line-up, if it is of some of them alone.
func ParseNeeds(text string, k Known) (needs []Need, err error) {
	for _, part := range list(text, ";") {
		m := need.FindStringSubmatch(part)
		if m == nil {
			return nil, fmt.Errorf("%q is not a need; write OL Base block > partner [LG, RG]", part)
		}
		n := Need{Stage: strings.ToLower(m[3]), Spots: list(m[4], ",")}
		g, ok := groupOf(k.Groups, m[1])
		if !ok {
			return nil, fmt.Errorf("there is no position group %q", m[1])
		}
		n.Group = g.Key
		t, ok := techniqueOf(k.Library, m[2])
		if !ok {
			return nil, fmt.Errorf("there is no technique %q", m[2])
		}
		n.Technique = t.Key
		needs = append(needs, n)
	}
	return needs, nil
}

// groupOf finds a group by its key, else by its letters.
func groupOf(l group.List, text string) (group.Group, bool) {
	if g, ok := l.Find(text); ok {
		return g, true
	}
	if i := slices.IndexFunc(l, func(g group.Group) bool { return term.Same(g.Short, text) || term.Same(g.Key, text) }); i >= 0 {
		return l[i], true
	}
	return group.Group{}, false
}

// techniqueOf finds a technique by its name, else by an alias or its key.
func techniqueOf(l *teaching.Library, text string) (teaching.Technique, bool) {
	for _, t := range l.Techniques {
		if term.Same(t.Name, text) {
			return t, true
		}
	}
	for _, t := range l.Techniques {
		if t.Key == text || slices.ContainsFunc(t.Aliases, func(a string) bool { return term.Same(a, text) }) {
			return t, true
		}
	}
	return teaching.Technique{}, false
}

// WriteNeeds writes needs so that ParseNeeds reads the same.
func WriteNeeds(needs []Need, k Known) string {
	var parts []string
	for _, n := range needs {
		g, _ := k.Groups.Find(n.Group)
		t, _ := k.Library.Technique(n.Technique)
		short, name := g.Short, t.Name // the key when another has the same name, or it has a mark of ours
		if found, ok := groupOf(k.Groups, short); !ok || found.Key != g.Key || strings.ContainsAny(short, separators+" ") {
			short = g.Key
		}
		if found, ok := techniqueOf(k.Library, name); !ok || found.Key != t.Key || strings.ContainsAny(name, bars+";>[]") || tidy(name) != name {
			name = t.Key
		}
		part := short + " " + name
		if n.Stage != "" {
			part += " > " + n.Stage
		}
		if len(n.Spots) > 0 {
			part += " [" + strings.Join(n.Spots, ", ") + "]"
		}
		parts = append(parts, part)
	}
	return strings.Join(parts, "; ")
}

// Record writes a call as a line of a list, in the order of Columns.
func Record(c Call, k Known) []string {
	share, day := "", ""
	if c.Share > 0 {
		share = strconv.Itoa(c.Share)
	}
	if c.Install != nil {
		day = c.Install.String()
	}
	return []string{c.Name, c.Kind, WriteNeeds(c.Needs, k), share, day, strings.Join(c.Aliases, ", "), strings.Join(c.Tags, ", "), string(c.Side)}
}
