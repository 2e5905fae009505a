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
	})
	assert.Len(t, holds, 2)
	assert.Equal(t, "ducks", holds[ladder.At{Player: "14", Technique: "base"}].Fault)
	assert.Equal(t, day-2, holds[ladder.At{Player: "14", Technique: "base"}].On)
	assert.Contains(t, holds, ladder.At{Player: "64", Technique: "base"})
	again := ladder.SafetyHolds(day, []ladder.SafetyFault{fault("14", "b", 2, ""), fault("14", "a", 2, "")})
	assert.Equal(t, "b", again[ladder.At{Player: "14", Technique: "base"}].Fault, "of one day the last by key")
}
