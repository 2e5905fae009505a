package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/ladder"
	"nineyard/core/season"
)

func TestSafetyHolds(t *testing.T) {
	day := season.Must("2026-10-13")
	fault := func(player, key string, ago season.Date, causedBy string) ladder.SafetyFault {
		return ladder.SafetyFault{Player: player, Technique: "base", Fault: key, On: day - ago, CausedBy: causedBy}
	}
	holds := ladder.SafetyHolds(day, []ladder.SafetyFault{
		fault("14", "ducks", 2, ""), fault("14", "dives", 6, ""), // the newest stands, in whatever order they come
		fault("64", "ducks", 13, ""),  // the last day of the fortnight
		fault("70", "ducks", 14, ""),  // over
		fault("73", "ducks", 1, "64"), // somebody else's doing
		fault("77", "ducks", -1, ""),  // not yet
	}, nil)
	assert.Len(t, holds, 2)
	assert.Equal(t, "ducks", holds[ladder.At{Player: "14", Technique: "base"}].Fault)
	assert.Equal(t, day-2, holds[ladder.At{Player: "14", Technique: "base"}].On)
	assert.Contains(t, holds, ladder.At{Player: "64", Technique: "base"})
	again := ladder.SafetyHolds(day, []ladder.SafetyFault{fault("14", "b", 2, ""), fault("14", "a", 2, "")}, nil)
	assert.Equal(t, "b", again[ladder.At{Player: "14", Technique: "base"}].Fault, "of one day the last by key")
}

// TestASharedFaultStandsWhateverHeDoes: until a fortnight is over and six reps on bags in a row are without it.
func TestASharedFaultStandsWhateverHeDoes(t *testing.T) {
	day := season.Must("2026-10-13")
	at := ladder.At{Player: "14", Fault: "head_down"}
	shown := func(ago season.Date, technique string) ladder.SafetyFault {
		return ladder.SafetyFault{Player: "14", Technique: technique, Fault: "head_down", On: day - ago, Shared: true}
	}
	bags := func(list ...[2]int) (out []ladder.BagReps) {
		for _, x := range list {
			out = append(out, ladder.BagReps{Player: "14", On: day - season.Date(x[0]), N: x[1]})
		}
		return out
	}
	for name, c := range map[string]struct {
		faults []ladder.SafetyFault
		bags   []ladder.BagReps
		held   bool
	}{
		"within the fortnight":                        {[]ladder.SafetyFault{shown(13, "base")}, bags([2]int{5, 20}), true},
		"the fortnight is over, no bag since":         {[]ladder.SafetyFault{shown(14, "base")}, nil, true},
		"five on bags are not six":                    {[]ladder.SafetyFault{shown(30, "base")}, bags([2]int{20, 3}, [2]int{10, 2}), true},
		"six on bags":                                 {[]ladder.SafetyFault{shown(30, "base")}, bags([2]int{20, 3}, [2]int{10, 3}), false},
		"those of the day of the fault are not since": {[]ladder.SafetyFault{shown(30, "base")}, bags([2]int{30, 9}), true},
		"shown again at another technique they begin": {[]ladder.SafetyFault{shown(30, "base"), shown(15, "reach")}, bags([2]int{20, 9}), true},
		"and six since then free him":                 {[]ladder.SafetyFault{shown(30, "base"), shown(15, "reach")}, bags([2]int{20, 9}, [2]int{3, 6}), false},
		"reps that are still to come are none":        {[]ladder.SafetyFault{shown(30, "base")}, bags([2]int{-1, 9}), true},
		"another player's reps are not his":           {[]ladder.SafetyFault{shown(30, "base")}, []ladder.BagReps{{Player: "64", On: day - 3, N: 9}}, true},
	} {
		holds := ladder.SafetyHolds(day, c.faults, c.bags)
		_, held := holds[at]
		assert.Equal(t, c.held, held, name)
		assert.Equal(t, c.held, len(holds) == 1, "%s: at no one technique", name)
	}
}
