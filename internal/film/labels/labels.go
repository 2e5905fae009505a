// Package labels is a play in the contract's form: what is said of it, out and in. It knows nothing but the core and
// the contract, so that the browser has it too.
package labels

import (
	"strings"

	"nineyard/core/group"
	"nineyard/core/play"
	"nineyard/internal/contract"
)

// View is a play as screens are told of it.
func View(p play.Play) contract.PlayInput {
	return contract.PlayInput{Number: p.Number, Unit: contract.Side(p.Unit), Drive: p.Drive, Quarter: p.Quarter, Clock: p.Clock, Down: p.Down, Distance: p.Distance, Spot: p.Spot,
		Hash: contract.PlayInputHash(p.Hash), Personnel: p.Personnel, Formation: p.Formation, Motion: p.Motion, Call: p.Call, Front: p.Front, Coverage: p.Coverage, Result: p.Result, Gain: p.Gain,
		Context: append([]string{}, p.Context...)}
}

// Read takes a play to the core: words without spaces around them, a spot and a clock as they are
// written.
func Read(in contract.PlayInput) play.Play {
	tidy := func(s string) string { return strings.Join(strings.Fields(s), " ") }
	p := play.Play{Number: in.Number, Unit: group.Side(in.Unit), Drive: in.Drive, Quarter: in.Quarter, Clock: tidy(in.Clock), Down: in.Down, Distance: in.Distance, Spot: tidy(in.Spot), Hash: string(in.Hash),
		Personnel: tidy(in.Personnel), Formation: tidy(in.Formation), Motion: tidy(in.Motion), Call: tidy(in.Call), Front: tidy(in.Front), Coverage: tidy(in.Coverage), Result: tidy(in.Result), Gain: in.Gain}
	for _, w := range in.Context {
		p.Context = append(p.Context, tidy(w))
	}
	if spot, err := play.ParseSpot(p.Spot); err == nil {
		p.Spot = spot
	}
	if clock, err := play.ParseClock(p.Clock); err == nil {
		p.Clock = clock
	}
	return p
}
