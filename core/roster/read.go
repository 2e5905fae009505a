package roster

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Limits of what is believed. Outside them a value is a slip, not an athlete.
const (
	MinHeightIn, MaxHeightIn = 48, 96
	MinWeightLb, MaxWeightLb = 80, 500
	maxName                  = 80
)

var (
	jerseyForm   = regexp.MustCompile(`^#?\s*([0-9]{1,3}[A-Za-z]?)$`)
	feetForm     = regexp.MustCompile(`^([4-8])\s*(?:'|ft\.?|feet|-|–)\s*([0-9]{1,2}(?:\.[0-9]+)?)?\s*(?:"|''|in\.?|inches)?$`)
	numberForm   = regexp.MustCompile(`^([0-9]+(?:[.,][0-9]+)?)\s*(cm|m|in\.?|inches|"|''|kg|lbs?\.?|pounds)?$`)
	monthForm    = regexp.MustCompile(`(?i)^(?:[0-9]{1,2}[-/ .][a-z]{3,4}|[a-z]{3,4}[-/ .][0-9]{1,2})$`)
	curlyQuotes  = strings.NewReplacer("’", "'", "‘", "'", "′", "'", "´", "'", "`", "'", "”", `"`, "“", `"`, "″", `"`, "\u00a0", " ")
	spaceRuns    = regexp.MustCompile(`\s+`)
	controlChars = regexp.MustCompile(`[\x00-\x08\x0b-\x1f\x7f]`)
)

// Jersey reads a jersey number: one to three digits, perhaps a letter (07, 7A, #64).
// An empty field is no number.
func Jersey(s string) (string, error) {
	s = strings.TrimSpace(s)
	if s == "" {
		return "", nil
	}
	m := jerseyForm.FindStringSubmatch(s)
	if m == nil {
		return "", fmt.Errorf("jersey %q is not a number such as 64, 07 or 7A", s)
	}
	return strings.ToUpper(m[1]), nil
}

// Height reads a height in inches from 6-2, 6'2", 6 ft 2 in, 74, 74 in, 188 cm or
// 1.88 m. A bare number is inches up to 96 and centimetres from 120. An empty
// field is no height, 0.
func Height(s string) (float64, error) {
	s = strings.TrimSpace(curlyQuotes.Replace(s))
	if s == "" {
		return 0, nil
	}
	if monthForm.MatchString(s) && !strings.HasSuffix(s, "in") && !strings.HasSuffix(s, "cm") {
		return 0, fmt.Errorf("height %q looks like a date a spreadsheet made of it; write 6'2\" or 188 cm", s)
	}
	var in float64
	if m := feetForm.FindStringSubmatch(strings.ToLower(s)); m != nil {
		feet, _ := strconv.ParseFloat(m[1], 64)
		inches, _ := strconv.ParseFloat("0"+m[2], 64)
		if inches >= 12 {
			return 0, fmt.Errorf("height %q has %v inches; a foot has 12", s, inches)
		}
		in = 12*feet + inches
	} else if v, unit, ok := number(s); ok {
		switch {
		case unit == "cm" || unit == "" && v >= 120:
			in = v / 2.54
		case unit == "m":
			in = 100 * v / 2.54
		case unit == "" || strings.HasPrefix(unit, "in") || unit == `"` || unit == "''":
			in = v
		default:
			return 0, fmt.Errorf("height %q has the unit of a weight", s)
		}
	} else {
		return 0, fmt.Errorf("height %q is not written like 6-2, 6'2\" or 188 cm", s)
	}
	in = math.Round(in*10) / 10
	if in < MinHeightIn || in > MaxHeightIn {
		return 0, fmt.Errorf("height %q is not between 4 ft and 8 ft", s)
	}
	return in, nil
}

// Weight reads a weight in pounds from 285, 285 lb or 129 kg. An empty field is no
// weight, 0.
func Weight(s string) (float64, error) {
	s = strings.TrimSpace(s)
	if s == "" {
		return 0, nil
	}
	v, unit, ok := number(s)
	switch {
	case ok && unit == "kg":
		v /= 0.45359237
	case ok && (unit == "" || strings.HasPrefix(unit, "lb") || unit == "pounds"):
	default:
		return 0, fmt.Errorf("weight %q is not written like 285, 285 lb or 129 kg", s)
	}
	if v < MinWeightLb || v > MaxWeightLb {
		return 0, fmt.Errorf("weight %q is not between %d and %d lb", s, MinWeightLb, MaxWeightLb)
	}
	return math.Round(v), nil
}

func number(s string) (v float64, unit string, ok bool) {
	m := numberForm.FindStringSubmatch(strings.ToLower(s))
	if m == nil {
		return 0, "", false
	}
	v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
	return v, m[2], err == nil
}

// Returning reads whether a player was here last season: yes/no, x or empty, or a
// count of seasons (2 or more means he was). It reports whether the field said so.
func Returning(s string) (returning, said bool, err error) {
	switch strings.ToLower(strings.TrimSpace(s)) {
	case "":
		return false, false, nil
	case "y", "yes", "x", "true", "ret", "returning", "vet", "veteran", "returner":
		return true, true, nil
	case "n", "no", "-", "false", "new", "rookie", "first":
		return false, true, nil
	}
	n, err := strconv.Atoi(strings.TrimSpace(s))
	if err != nil || n < 0 || n > 30 {
		return false, false, fmt.Errorf("returning %q is neither yes or no nor a number of seasons", s)
	}
	return n >= 2, true, nil
}

// SplitName takes a full name apart. "Sato, Jun" and "Jun Sato" are the same player;
// everything after the first word is the family name.
func SplitName(s string) (first, last string) {
	s = Tidy(s)
	if family, given, ok := strings.Cut(s, ","); ok {
		return Tidy(given), Tidy(family)
	}
	first, last, ok := strings.Cut(s, " ")
	if !ok {
		return "", s
	}
	return first, last
}

// Tidy trims a name and folds runs of white space; control characters go.
func Tidy(s string) string {
	return strings.TrimSpace(spaceRuns.ReplaceAllString(controlChars.ReplaceAllString(s, ""), " "))
}
