package script

import (
	"strings"

	"nineyard/core/crew"
	"nineyard/core/invalid"
	"nineyard/core/reps"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
	"nineyard/internal/roster/squad"
)

// Rotation works out and words the rotation of a drill for the players of a group: first
// those who may do everything, then those who may only help. With too few of them it has no
// rows; the reps say why.
func Rotation(d teaching.Drill, players []squad.Player, minutes, lanes int) (contract.Rotation, error) {
	full, help := squad.Crew(players, d)
	out := contract.Rotation{Drill: d.Name, Rows: []contract.RotationRow{}}
	rotation, err := reps.Rotate(crew.Block(d, crew.Crew{Full: len(full), HelpOnly: len(help)}, minutes, lanes))
	if e, bad := invalid.As(err); bad && e.Field == "players" {
		return out, nil
	}
	if err != nil {
		return out, err
	}
	out.Cycles = len(rotation)
	for i, p := range append(full, help...) {
		row := contract.RotationRow{Jersey: p.Jersey, Name: p.LastName, HelpOnly: i >= len(full)}
		var sides []reps.Side
		if d.Sides == 2 {
			sides = rotation.Sides(i)
		}
		row.Roles = roles(rotation, sides, i, &row)
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

// roles writes a letter for each cycle of a player, and counts.
func roles(rotation reps.Rotation, sides []reps.Side, player int, row *contract.RotationRow) string {
	var b strings.Builder
	for c, cycle := range rotation {
		switch {
		case cycle[player] == reps.Works && sides == nil:
			row.Working++
			b.WriteByte('w')
		case cycle[player] == reps.Works && sides[c] == reps.Left:
			row.Working++
			row.Left++
			b.WriteByte('l')
		case cycle[player] == reps.Works:
			row.Working++
			row.Right++
			b.WriteByte('r')
		case cycle[player] == reps.Helps:
			row.Helping++
			b.WriteByte('h')
		default:
			row.Waiting++
			b.WriteByte('.')
		}
	}
	return b.String()
}
