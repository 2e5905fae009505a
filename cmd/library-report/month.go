package main

import (
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"nineyard/library/quality"
)

// month prints the first month of a small group, practice by practice.
func month(out io.Writer, m quality.Month) {
	fmt.Fprintf(out, "%s, %d players\n", m.Group, m.Players)
	for _, p := range m.Practices {
		var gear []string
		for _, thing := range slices.Sorted(maps.Keys(p.Bring)) {
			gear = append(gear, fmt.Sprintf("%d %s", p.Bring[thing], thing))
		}
		fmt.Fprintf(out, "\n%d.%d  %s\n", p.Week, p.Day, strings.Join(gear, ", "))
		for _, t := range p.Turns {
			fmt.Fprintf(out, "  %2d min  %-44s %d %s, %d–%d reps  %s\n", t.Minutes, t.Drill.Name, t.Lanes, lanes(t.Lanes), t.Reps.Min, t.Reps.Max, t.Stage)
		}
	}
	fmt.Fprintf(out, "\npassed %d stages: %s\n", len(m.Passed), strings.Join(m.Passed, " "))
	fmt.Fprintf(out, "cannot be run: %s\n", strings.Join(m.Cannot, " "))
	fmt.Fprintf(out, "not come to, %d: %s\n\n", len(m.Unmet), strings.Join(m.Unmet, " "))
}

func lanes(n int) string {
	if n == 1 {
		return "lane"
	}
	return "lanes"
}
