// Package forecast is what the calls offer to other features: which of them will not be ready, and
// what of them is still to be worked on.
package forecast

import (
	"context"

	"nineyard/core/season"
	"nineyard/internal/access"
)

// Short is what a call that will not be ready, or may not, still asks of a group.
type Short struct {
	Call    string
	Install season.Date
	Ladder  string
	Stages  []int // at which those on the field work who have not passed what it needs
}

// Asked is what a call asks of a group.
type Asked struct {
	Names      []string // its name and what it is called besides
	Techniques []string // that the group must have, the first of them first
}

// Source reads forecasts.
type Source interface {
	// Short lists what is short of a group as of the end of a week, the earliest install first.
	Short(ctx context.Context, c access.Coach, group string, week int) ([]Short, error)
	// Asked lists the calls of the season that ask something of a group.
	Asked(ctx context.Context, c access.Coach, group string) ([]Asked, error)
}
