package teaching

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// Words says where the coach stands: "Play side, four yards off, level with the feet of the row, so that he sees the
// second foot"; what was said in words stays as it was said.
func (c Coach) Words() string {
	if c.Side == "" {
		return c.At
	}
	parts := []string{strings.ToUpper(c.Side[:1]) + c.Side[1:]}
	if c.Yards > 0 {
		parts = append(parts, yards(c.Yards)+" off")
	}
	if c.Level != "" {
		parts = append(parts, "level "+strings.TrimPrefix(c.Level, "level "))
	}
	if c.Sees != "" {
		parts = append(parts, "to see "+c.Sees)
	}
	return strings.Join(parts, ", ")
}

func yards(n float64) string {
	if n == 1 {
		return "a yard"
	}
	return strconv.FormatFloat(n, 'f', -1, 64) + " yards"
}

// Total is what the drill takes in so many lanes, by what it is.
func (e Equipment) Total(lanes int) map[string]int {
	total := maps.Clone(e.Once)
	if total == nil {
		total = map[string]int{}
	}
	for what, n := range e.Lane {
		total[what] += n * lanes
	}
	return total
}

// Words lists what the drill takes in so many lanes: "8 cones, a ball".
func (e Equipment) Words(lanes int) string {
	var list []string
	total := e.Total(lanes)
	for _, what := range slices.Sorted(maps.Keys(total)) {
		name := strings.ReplaceAll(what, "_", " ")
		if n := total[what]; n == 1 {
			list = append(list, "1 "+name)
		} else {
			list = append(list, fmt.Sprintf("%d %s", n, plural(name)))
		}
	}
	if e.Text != "" {
		list = append(list, e.Text)
	}
	return strings.Join(list, ", ")
}

// plural is the word for more than one: boxes, ladders, bodies.
func plural(name string) string {
	switch {
	case strings.HasSuffix(name, "s"), strings.HasSuffix(name, "x"), strings.HasSuffix(name, "ch"), strings.HasSuffix(name, "sh"):
		return name + "es"
	case strings.HasSuffix(name, "y") && !strings.ContainsAny(name[len(name)-2:len(name)-1], "aeiou"):
		return name[:len(name)-1] + "ies"
	}
	return name + "s"
}
