package marklist

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/marks"
	"nineyard/core/term"
)

// Column is what stands in a column.
type Column string

// The columns, in the order in which they are written.
const (
	ColPlay       Column = "Play"
	ColNumber     Column = "No"
	ColPlayer     Column = "Player"
	ColTechnique  Column = "Technique"
	ColState      Column = "State"
	ColAssignment Column = "Assignment"
	ColRight      Column = "Technique right"
	ColFinish     Column = "Finish"
	ColGrade      Column = "Grade"
	ColFaults     Column = "Faults"
	ColPraise     Column = "Praise"
	ColSide       Column = "Side"
	ColResult     Column = "Result"
	ColTallies    Column = "Tallies"
	ColMeasures   Column = "Measures"
	ColNote       Column = "Note"
	ColCoach      Column = "Coach"
)

// Columns lists them in that order.
func Columns() []Column {
	return []Column{ColPlay, ColNumber, ColPlayer, ColTechnique, ColState, ColAssignment, ColRight, ColFinish, ColGrade, ColFaults, ColPraise, ColSide, ColResult, ColTallies, ColMeasures, ColNote, ColCoach}
}

var headers = map[Column][]string{
	ColPlay: {"play number", "play no", "#"}, ColNumber: {"number", "jersey", "no."}, ColPlayer: {"name", "last name"}, ColTechnique: {"block", "skill"}, ColFaults: {"fault", "error"}, ColNote: {"notes", "comment"},
}

// Guess finds the columns by the words over them.
func Guess(over []string) map[Column]int {
	at := map[Column]int{}
	term.Headers(at, over, Columns(), func(c Column) []string { return []string{string(c)} })
	term.Headers(at, over, Columns(), func(c Column) []string { return headers[c] })
	return at
}

// Fault is a fault by its name.
type Fault struct {
	Name string
	By   string // number of the teammate who caused it; empty for his own
	Flag bool
}

// Measure is a value measured at a checkpoint.
type Measure struct {
	Checkpoint string
	Value      float64
}

// Entry is a mark by the names of what it is of.
type Entry struct {
	Play                      int
	Number, Player            string // on his back; his last name
	Technique                 string
	State                     marks.State
	Assignment, Right, Finish *int
	Grade                     *int // where the group is marked by one
	Faults                    []Fault
	Praise                    bool
	Side                      string // left, right or empty
	Result                    *int
	Tallies                   []marks.Tally
	Measures                  []Measure
	Note, Coach               string
}

// Row is a line of a list with its number there.
type Row struct {
	Number int
	Fields []string
}

// Line is what a line of a list says.
type Line struct {
	Number int
	Entry
	// Column and Says name what is wrong; empty when the line is good.
	Column Column
	Says   string
}

var states = map[marks.State]string{marks.Assumed: "assumed", marks.Looked: "looked", marks.StateUnseen: "unseen", marks.StateOpen: "open", marks.StateNone: "not gradable"}

var tallies = map[marks.Tally]string{marks.Effort: "effort", marks.NoEffort: "no effort", marks.CallEchoed: "call echoed", marks.CallNotEchoed: "call not echoed", marks.CallMissing: "call missing", marks.WrongCall: "wrong call"}

// Record writes a mark in the order of Columns.
func Record(e Entry) []string {
	facet := func(v *int) string {
		if v == nil {
			return ""
		}
		return strconv.Itoa(*v)
	}
	var faults, said, measured []string
	for _, f := range e.Faults {
		text := f.Name
		if f.By != "" {
			text += " (by " + f.By + ")"
		}
		if f.Flag {
			text += " !"
		}
		faults = append(faults, text)
	}
	for _, t := range e.Tallies {
		said = append(said, tallies[t])
	}
	for _, m := range e.Measures {
		measured = append(measured, m.Checkpoint+"="+strconv.FormatFloat(m.Value, 'g', -1, 64))
	}
	praise, result := "", ""
	if e.Praise {
		praise = "yes"
	}
	if e.Result != nil {
		result = [2]string{"lost", "won"}[*e.Result]
	}
	return []string{strconv.Itoa(e.Play), e.Number, e.Player, e.Technique, states[e.State], facet(e.Assignment), facet(e.Right), facet(e.Finish), facet(e.Grade), strings.Join(faults, "; "), praise, e.Side, result,
		strings.Join(said, "; "), strings.Join(measured, "; "), e.Note, e.Coach}
}

// Read reads the rows of a list. Of two lines of one play, player and technique the second is refused.
func Read(rows []Row, at map[Column]int) []Line {
	lines := make([]Line, 0, len(rows))
	seen := map[string]int{}
	for _, r := range rows {
		l := Line{Number: r.Number}
		l.read(func(c Column) string {
			if i, ok := at[c]; ok && i < len(r.Fields) {
				return strings.TrimSpace(r.Fields[i])
			}
			return ""
		})
		key := fmt.Sprintf("%d\x00%s\x00%s\x00%s", l.Play, l.Entry.Number, term.Fold(l.Player), term.Fold(l.Technique))
		if before, taken := seen[key]; taken && l.Says == "" {
			l.fail(ColPlay, fmt.Sprintf("the mark is in line %d already", before))
		}
		if l.Says == "" {
			seen[key] = r.Number
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

var faultForm = regexp.MustCompile(`^(.*?)(?:\s*\(by\s+([^()\s]+)\))?(\s*!)?$`)

func (l *Line) read(field func(Column) string) {
	e := &l.Entry
	var err error
	if e.Play, err = strconv.Atoi(field(ColPlay)); err != nil || e.Play < 1 || e.Play > 999 {
		l.fail(ColPlay, fmt.Sprintf("the number of a play, not %q", field(ColPlay)))
	}
	e.Number, e.Player, e.Technique, e.Note, e.Coach = field(ColNumber), field(ColPlayer), field(ColTechnique), field(ColNote), field(ColCoach)
	if e.Number == "" && e.Player == "" {
		l.fail(ColNumber, "say which player")
	}
	if e.Technique == "" {
		l.fail(ColTechnique, "say what it is a mark of")
	}
	e.Assignment, e.Right, e.Finish = l.facet(ColAssignment, field), l.facet(ColRight, field), l.facet(ColFinish, field)
	if s := field(ColGrade); s != "" {
		n, err := strconv.Atoi(s)
		if err != nil || n < 0 || n > marks.MaxPoints {
			l.fail(ColGrade, fmt.Sprintf("0 to %d, not %q", marks.MaxPoints, s))
		}
		e.Grade = &n
	}
	for _, text := range parts(field(ColFaults)) {
		m := faultForm.FindStringSubmatch(text)
		e.Faults = append(e.Faults, Fault{Name: strings.TrimSpace(m[1]), By: m[2], Flag: m[3] != ""})
	}
	e.Praise = l.yes(ColPraise, field)
	for _, text := range parts(field(ColTallies)) {
		t, ok := named(tallies, text)
		if !ok {
			l.fail(ColTallies, fmt.Sprintf("effort, no effort, call echoed, call not echoed, call missing or wrong call, not %q", text))
		}
		e.Tallies = append(e.Tallies, t)
	}
	for _, text := range parts(field(ColMeasures)) {
		point, value, ok := strings.Cut(text, "=")
		v, err := strconv.ParseFloat(strings.TrimSpace(value), 64)
		if !ok || err != nil || v != v || v < -1000 || v > 1000 {
			l.fail(ColMeasures, fmt.Sprintf("a checkpoint and a number from -1000 to 1000, as first_step=7.5, not %q", text))
			continue
		}
		e.Measures = append(e.Measures, Measure{strings.TrimSpace(point), v})
	}
	switch side := strings.ToLower(field(ColSide)); side {
	case "", "left", "right":
		e.Side = side
	default:
		l.fail(ColSide, fmt.Sprintf("left or right, not %q", field(ColSide)))
	}
	switch strings.ToLower(field(ColResult)) {
	case "":
	case "won":
		e.Result = new(1)
	case "lost":
		e.Result = new(0)
	default:
		l.fail(ColResult, fmt.Sprintf("won or lost, not %q", field(ColResult)))
	}
	e.State = marks.Assumed
	if len(e.Faults)+len(e.Measures) > 0 || e.Assignment != nil || e.Right != nil || e.Finish != nil || e.Grade != nil {
		e.State = marks.Looked
	}
	if s := field(ColState); s != "" {
		var ok bool
		if e.State, ok = named(states, s); !ok {
			l.fail(ColState, fmt.Sprintf("assumed, looked, unseen, open or not gradable, not %q", s))
		}
	}
}

func (l *Line) facet(c Column, field func(Column) string) *int {
	switch field(c) {
	case "":
		return nil
	case "0":
		return new(0)
	case "1":
		return new(1)
	}
	l.fail(c, fmt.Sprintf("1, 0 or nothing, not %q", field(c)))
	return nil
}

func (l *Line) yes(c Column, field func(Column) string) bool {
	switch strings.ToLower(field(c)) {
	case "", "no", "0", "false":
		return false
	case "yes", "y", "x", "1", "true":
		return true
	}
	l.fail(c, fmt.Sprintf("yes or nothing, not %q", field(c)))
	return false
}

func parts(text string) []string {
	list := strings.Split(text, ";")
	for i := range list {
		list[i] = strings.TrimSpace(list[i])
	}
	return slices.DeleteFunc(list, func(s string) bool { return s == "" })
}

func named[K ~string](names map[K]string, text string) (K, bool) {
	for k, name := range names {
		if strings.EqualFold(name, text) {
			return k, true
		}
	}
	return "", false
}
