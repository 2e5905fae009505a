package roster

import (
	"strings"
	"unicode"
)

// Column is something a list may tell about a player.
type Column string

// The columns that are understood.
const (
	ColJersey    Column = "jersey"
	ColName      Column = "name" // full name in one field
	ColFirst     Column = "first_name"
	ColLast      Column = "last_name"
	ColPosition  Column = "position"
	ColHeight    Column = "height"
	ColWeight    Column = "weight"
	ColReturning Column = "returning"
)

// Columns lists them in the order in which they are guessed and shown.
func Columns() []Column {
	return []Column{ColJersey, ColFirst, ColLast, ColName, ColPosition, ColHeight, ColWeight, ColReturning}
}

// words are header words, folded, that mean a column. A header is matched whole
// first, then by its words.
var words = map[Column][]string{
	ColJersey:    {"#", "no", "nr", "num", "number", "jersey", "jerseynumber", "jerseyno", "shirt", "trikot"},
	ColFirst:     {"first", "firstname", "given", "givenname", "forename", "fname", "vorname"},
	ColLast:      {"last", "lastname", "surname", "family", "familyname", "lname", "nachname"},
	ColName:      {"name", "player", "playername", "fullname", "athlete", "spieler"},
	ColPosition:  {"pos", "position", "unit", "group", "positiongroup"},
	ColHeight:    {"ht", "hgt", "height", "heightcm", "heightin", "size"},
	ColWeight:    {"wt", "wgt", "weight", "weightlb", "weightlbs", "weightkg", "lbs"},
	ColReturning: {"returning", "returner", "ret", "vet", "veteran", "seasons", "yrs", "years", "experience", "exp"},
}

// Guess maps columns to the index of the header that most likely holds them. No
// header is used twice; a name in two parts is preferred to a full name.
func Guess(headers []string) map[Column]int {
	mapping := map[Column]int{}
	used := make([]bool, len(headers))
	match := func(folded func(string) []string) {
		for _, col := range Columns() {
			if _, ok := mapping[col]; ok {
				continue
			}
			for i, h := range headers {
				if !used[i] && overlap(folded(h), words[col]) {
					mapping[col], used[i] = i, true
					break
				}
			}
		}
	}
	match(func(h string) []string { return []string{fold(h)} })
	match(func(h string) []string {
		var parts []string
		for _, w := range strings.FieldsFunc(h, func(r rune) bool { return !unicode.IsLetter(r) && r != '#' }) {
			parts = append(parts, fold(w))
		}
		return parts
	})
	_, first := mapping[ColFirst]
	_, last := mapping[ColLast]
	if first && last {
		delete(mapping, ColName)
	}
	return mapping
}

func overlap(a, b []string) bool {
	for _, x := range a {
		for _, y := range b {
			if x == y {
				return true
			}
		}
	}
	return false
}

// fold keeps letters, digits and # in lower case.
func fold(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || r == '#' {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}
