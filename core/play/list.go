package play

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/term"
)

// Column is what stands in a column of a list of plays.
type Column string

// The columns, in the order in which they are written.
const (
	ColNumber    Column = "Play"
	ColUnit      Column = "Unit"
	ColDrive     Column = "Drive"
	ColQuarter   Column = "Quarter"
	ColClock     Column = "Clock"
	ColDown      Column = "Down"
	ColDistance  Column = "Distance"
	ColSpot      Column = "Spot"
	ColHash      Column = "Hash"
	ColPersonnel Column = "Personnel"
	ColFormation Column = "Formation"
	ColMotion    Column = "Motion"
	ColCall      Column = "Call"
	ColFront     Column = "Front"
	ColCoverage  Column = "Coverage"
	ColResult    Column = "Result"
	ColGain      Column = "Gain"
	ColContext   Column = "Context"
)

// Columns lists them in that order.
func Columns() []Column {
	return []Column{ColNumber, ColUnit, ColDrive, ColQuarter, ColClock, ColDown, ColDistance, ColSpot, ColHash, ColPersonnel, ColFormation, ColMotion, ColCall, ColFront, ColCoverage, ColResult, ColGain, ColContext}
}

// headers are further words over a column.
var headers = map[Column][]string{
	ColNumber: {"play number", "play no", "number", "no", "#"}, ColUnit: {"side", "offense or defense"}, ColDrive: {"series"}, ColQuarter: {"qtr", "period", "q"},
	ColClock: {"time", "time left"}, ColDown: {"dn"}, ColDistance: {"dist", "to go", "yards to go"}, ColSpot: {"yard line", "yardline", "field position", "ball on"},
	ColPersonnel: {"pers", "people"}, ColFormation: {"form", "off form"}, ColMotion: {"shift"}, ColCall: {"play call", "call name", "play name"},
	ColFront: {"def front"}, ColCoverage: {"cover", "cov"}, ColResult: {"outcome"}, ColGain: {"yards", "gain or loss", "gained"}, ColContext: {"note", "tags"},
}

// Guess finds the columns by the words over them: an exact name before a further word. What no header
// names is not in the map.
func Guess(over []string) map[Column]int {
	at := map[Column]int{}
	term.Headers(at, over, Columns(), func(c Column) []string { return []string{string(c)} })
	term.Headers(at, over, Columns(), func(c Column) []string { return headers[c] })
	return at
}

// Row is a line of a list with its number there.
type Row struct {
	Number int
	Fields []string
}

// Line is what a line of a list says.
type Line struct {
	Number int
	Play   Play
	// Column and Says name what is wrong; empty when the line is good.
	Column Column
	Says   string
}

// Read reads the rows of a list. Where no column says the number, rows are numbered on from one; where
// none says the unit it is the one given. A number that stands in an earlier line is refused.
func Read(rows []Row, at map[Column]int, unit group.Side) []Line {
	lines := make([]Line, 0, len(rows))
	seen, next := map[int]int{}, 1
	for _, r := range rows {
		l := Line{Number: r.Number}
		l.read(func(c Column) string {
			if i, ok := at[c]; ok && i < len(r.Fields) {
				return strings.Join(strings.Fields(r.Fields[i]), " ")
			}
			return ""
		}, next, unit)
		if before, taken := seen[l.Play.Number]; taken && l.Says == "" {
			l.Column, l.Says = ColNumber, fmt.Sprintf("play %d is in line %d already", l.Play.Number, before)
		}
		if l.Says == "" {
			seen[l.Play.Number] = r.Number
			next = l.Play.Number + 1
		}
		lines = append(lines, l)
	}
	return lines
}

func (l *Line) fail(c Column, says string) {
	if l.Says == "" {
		l.Column, l.Says = c, says
	}
}

func (l *Line) read(field func(Column) string, next int, unit group.Side) {
	p := &l.Play
	whole := func(c Column, none int) int {
		s := strings.TrimPrefix(field(c), "+")
		if s == "" {
			return none
		}
		n, err := strconv.Atoi(s)
		if err != nil {
			l.fail(c, fmt.Sprintf("a whole number, not %q", field(c)))
		}
		return n
	}
	maybe := func(c Column) *int {
		if field(c) == "" {
			return nil
		}
		return new(whole(c, 0))
	}
	p.Number, p.Drive, p.Quarter, p.Down = whole(ColNumber, next), whole(ColDrive, 0), whole(ColQuarter, 0), whole(ColDown, 0)
	p.Distance, p.Gain = maybe(ColDistance), maybe(ColGain)
	p.Unit = unit
	if s := field(ColUnit); s != "" {
		var ok bool
		if p.Unit, ok = unitOf(s); !ok {
			l.fail(ColUnit, fmt.Sprintf("a unit is offense, defense or kicking, not %q", s))
		}
	}
	var err error
	if s := field(ColClock); s != "" {
		if p.Clock, err = ParseClock(s); err != nil {
			l.fail(ColClock, err.Error())
		}
	}
	if s := field(ColSpot); s != "" {
		if p.Spot, err = ParseSpot(s); err != nil {
			l.fail(ColSpot, err.Error())
		}
	}
	if s := field(ColHash); s != "" {
		i := slices.IndexFunc(Hashes(), func(h string) bool { return strings.EqualFold(h, s) || strings.EqualFold(h[:1], s) })
		if i < 0 {
			l.fail(ColHash, fmt.Sprintf("a hash is left, middle or right, not %q", s))
		} else {
			p.Hash = Hashes()[i]
		}
	}
	p.Personnel, p.Formation, p.Motion, p.Call, p.Front, p.Coverage, p.Result = field(ColPersonnel), field(ColFormation), field(ColMotion), field(ColCall), field(ColFront), field(ColCoverage), field(ColResult)
	for c := range strings.SplitSeq(field(ColContext), ",") {
		if c = strings.TrimSpace(c); c != "" {
			p.Context = append(p.Context, c)
		}
	}
	if e, bad := invalid.As(p.Check()); bad {
		l.fail(columnOf(e.Field), e.Message)
	}
}

// unitOf reads a unit by its word or its letter.
func unitOf(s string) (group.Side, bool) {
	for w, u := range map[string]group.Side{"offense": group.Offense, "offence": group.Offense, "o": group.Offense, "defense": group.Defense, "defence": group.Defense, "d": group.Defense,
		"units": group.Units, "kicking": group.Units, "kick": group.Units, "k": group.Units} {
		if strings.EqualFold(w, s) {
			return u, true
		}
	}
	return "", false
}

// columnOf is the column in which a field of a play stands.
func columnOf(field string) Column {
	name, _, _ := strings.Cut(field, "[")
	if name == "number" {
		return ColNumber
	}
	for _, c := range Columns() {
		if strings.EqualFold(string(c), name) {
			return c
		}
	}
	return ColNumber
}

// Record writes a play in the order of Columns, as Read reads it.
func Record(p Play) []string {
	count := func(n int) string {
		if n == 0 {
			return ""
		}
		return strconv.Itoa(n)
	}
	maybe := func(n *int) string {
		if n == nil {
			return ""
		}
		return strconv.Itoa(*n)
	}
	unit := map[group.Side]string{group.Offense: "offense", group.Defense: "defense", group.Units: "kicking"}[p.Unit]
	return []string{strconv.Itoa(p.Number), unit, count(p.Drive), count(p.Quarter), p.Clock, count(p.Down), maybe(p.Distance), p.Spot, p.Hash,
		p.Personnel, p.Formation, p.Motion, p.Call, p.Front, p.Coverage, p.Result, maybe(p.Gain), strings.Join(p.Context, ", ")}
}
