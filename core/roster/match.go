package roster

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"nineyard/core/legible"
)

// Person is a player as a list tells of him. Zero values were not told.
type Person struct {
	Jersey        string
	First, Last   string
	Position      string
	HeightIn      float64
	WeightLb      float64
	Returning     bool
	SaysReturning bool
}

// Known is a player already in the club.
type Known struct {
	ID string
	Person
}

// Action says what importing a line would do.
type Action string

// The actions.
const (
	Create  Action = "create"
	Update  Action = "update"
	Same    Action = "same"    // known, and nothing would change
	Problem Action = "problem" // cannot be imported; see Reasons
)

// Line is what became of one line of the list.
type Line struct {
	Number  int // line number in the file
	Person  Person
	Action  Action
	ID      string   // of the known player, for Update and Same
	Changes []string // for Update: what changes, in words
	Reasons []Reason // for Problem
}

// Reason says which column of a line cannot be read, and why.
type Reason struct {
	Column  Column
	Message string
}

// Record is one line of the file, with its number.
type Record struct {
	Number int
	Fields []string
}

// Match reads the records by the mapping and decides for each what to do. A player
// is recognized by his name, spelled alike but for case and spacing; namesakes by
// their jersey as well. A second line for the same player is a problem.
func Match(mapping map[Column]int, records []Record, known []Known) []Line {
	byName := map[string][]Known{}
	for _, k := range known {
		byName[nameKey(k.Person)] = append(byName[nameKey(k.Person)], k)
	}
	taken := map[string]int{} // identity → line number that claimed it
	lines := make([]Line, 0, len(records))
	for _, rec := range records {
		line := read(mapping, rec)
		if line.Action != Problem {
			decide(&line, byName[nameKey(line.Person)], taken)
		}
		lines = append(lines, line)
	}
	return lines
}

func decide(line *Line, namesakes []Known, taken map[string]int) {
	var match *Known
	for i, k := range namesakes {
		if len(namesakes) == 1 || line.Person.Jersey != "" && k.Jersey == line.Person.Jersey {
			match = &namesakes[i]
			break
		}
	}
	if match == nil && len(namesakes) > 1 {
		line.fail(ColJersey, "there are %d players of this name; give the jersey he has here", len(namesakes))
		return
	}
	id := nameKey(line.Person)
	if match != nil {
		id = match.ID
	} else if line.Person.Jersey != "" {
		// Two new namesakes with different shirts are two players.
		id += "#" + line.Person.Jersey
	}
	if at, ok := taken[id]; ok {
		line.fail(ColName, "the same player stands on line %d", at)
		return
	}
	taken[id] = line.Number
	if match == nil {
		line.Action = Create
		return
	}
	line.ID = match.ID
	line.Changes = Changes(match.Person, line.Person)
	line.Action = Update
	if len(line.Changes) == 0 {
		line.Action = Same
	}
}

// Merge returns the known person with everything the list tells put over it.
func Merge(known, told Person) Person {
	out := known
	if told.Jersey != "" {
		out.Jersey = told.Jersey
	}
	if told.Position != "" {
		out.Position = told.Position
	}
	if told.HeightIn > 0 {
		out.HeightIn = told.HeightIn
	}
	if told.WeightLb > 0 {
		out.WeightLb = told.WeightLb
	}
	if told.SaysReturning {
		out.Returning = told.Returning
	}
	return out
}

// Changes says in words what Merge would change.
func Changes(known, told Person) []string {
	after := Merge(known, told)
	var list []string
	add := func(what string, from, to any) {
		if from != to {
			list = append(list, fmt.Sprintf("%s %v → %v", what, from, to))
		}
	}
	add("jersey", known.Jersey, after.Jersey)
	add("position", known.Position, after.Position)
	add("height", known.HeightIn, after.HeightIn)
	add("weight", known.WeightLb, after.WeightLb)
	add("returning", known.Returning, after.Returning)
	return list
}

func nameKey(p Person) string {
	return strings.ToLower(Tidy(p.First + " " + p.Last))
}

// read turns one record into a person, or a problem with every reason found.
func read(mapping map[Column]int, rec Record) Line {
	line := Line{Number: rec.Number}
	field := func(c Column) string {
		if i, ok := mapping[c]; ok && i >= 0 && i < len(rec.Fields) {
			return Tidy(rec.Fields[i])
		}
		return ""
	}
	p := &line.Person
	if full := field(ColName); full != "" {
		p.First, p.Last = SplitName(full)
	}
	if s := field(ColFirst); s != "" {
		p.First = s
	}
	if s := field(ColLast); s != "" {
		p.Last = s
	}
	switch {
	case p.First == "" && p.Last == "":
		line.fail(ColName, "the name is missing")
	case !legibleName(p.First) || !legibleName(p.Last):
		line.fail(ColName, "the name holds a character that cannot be seen")
	case utf8.RuneCountInString(p.First) > maxName || utf8.RuneCountInString(p.Last) > maxName:
		line.fail(ColName, "the name is longer than %d characters", maxName)
	case p.Last == "":
		p.First, p.Last = "", p.First
	}
	var err error
	if p.Jersey, err = Jersey(field(ColJersey)); err != nil {
		line.fail(ColJersey, "%s", err)
	}
	if p.HeightIn, err = Height(field(ColHeight)); err != nil {
		line.fail(ColHeight, "%s", err)
	}
	if p.WeightLb, err = Weight(field(ColWeight)); err != nil {
		line.fail(ColWeight, "%s", err)
	}
	if p.Returning, p.SaysReturning, err = Returning(field(ColReturning)); err != nil {
		line.fail(ColReturning, "%s", err)
	}
	p.Position = field(ColPosition)
	if utf8.RuneCountInString(p.Position) > 40 {
		line.fail(ColPosition, "the position is longer than 40 characters")
	}
	return line
}

func legibleName(s string) bool {
	_, ok := legible.Name(s)
	return ok
}

func (l *Line) fail(c Column, format string, args ...any) {
	l.Action = Problem
	l.Reasons = append(l.Reasons, Reason{c, fmt.Sprintf(format, args...)})
}
