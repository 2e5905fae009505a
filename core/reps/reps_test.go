package reps_test

import (
	"fmt"
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/reps"
)

// house is the block of the hand-worked fixture: 9 players, 10 minutes, 4 lanes of one
// worker and one helper. T = 600 − 45 = 555 s; cycles = ⌊575/25⌋ = 23; 92 reps over
// 9 players: 10 for seven of them and 11 for two.
var house = reps.Block{
	Players: 9, Minutes: 10, SetupSeconds: 45, Lanes: 5, Working: 1, Helping: 1,
	RepSeconds: 5, ResetSeconds: 20, Sides: 2, TargetReps: 12,
}

func TestOfByHand(t *testing.T) {
	y, err := reps.Of(house)
	require.NoError(t, err)
	assert.Equal(t, 4, y.LanesUsed)
	assert.Equal(t, 23, y.Cycles)
	assert.Equal(t, 92, y.WorkingReps)
	assert.Equal(t, 10, y.PerPlayer.Min)
	assert.Equal(t, 11, y.PerPlayer.Max)
	assert.InDelta(t, 92.0/9, y.PerPlayer.Mean, 1e-12)
	assert.Equal(t, 5, y.PerSideMin)
	assert.InDelta(t, 92.0/9*5/555, y.WorkShare, 1e-12)
	assert.InDelta(t, 92.0*5/(9*555), y.HelpingShare, 1e-12)
	assert.InDelta(t, 1-2*92.0*5/(9*555), y.WaitingShare, 1e-12)
	assert.InDelta(t, (555-92.0/9*5)/(92.0/9*5), y.RestPerWork, 1e-12)
	// 12 reps each are 108 in all, 27 cycles: 27·25 − 20 + 45 = 700 s, so 12 minutes.
	assert.Equal(t, 12, y.MinutesForTarget)
}

func TestSetupLongerThanBlock(t *testing.T) {
	b := house
	b.Minutes, b.SetupSeconds, b.TargetReps = 2, 121, 0
	y, err := reps.Of(b)
	require.NoError(t, err)
	assert.Equal(t, reps.Yield{LanesUsed: 4}, y)
}

func TestRefuses(t *testing.T) {
	for field, change := range map[string]func(*reps.Block){
		"players":       func(b *reps.Block) { b.Players = 1 },
		"minutes":       func(b *reps.Block) { b.Minutes = 0 },
		"lanes":         func(b *reps.Block) { b.Lanes = 51 },
		"working":       func(b *reps.Block) { b.Working = 0 },
		"helping":       func(b *reps.Block) { b.Helping = -1 },
		"sides":         func(b *reps.Block) { b.Sides = 3 },
		"target_reps":   func(b *reps.Block) { b.TargetReps = -1 },
		"setup_seconds": func(b *reps.Block) { b.SetupSeconds = math.NaN() },
		"rep_seconds":   func(b *reps.Block) { b.RepSeconds = 0 },
		"reset_seconds": func(b *reps.Block) { b.ResetSeconds = -2 },
	} {
		b := house
		change(&b)
		_, err := reps.Of(b)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

func block() *rapid.Generator[reps.Block] {
	return rapid.Custom(func(t *rapid.T) reps.Block {
		b := reps.Block{
			Minutes:      rapid.IntRange(1, 30).Draw(t, "minutes"),
			SetupSeconds: float64(rapid.IntRange(0, 150).Draw(t, "setup")),
			Lanes:        rapid.IntRange(1, 8).Draw(t, "lanes"),
			Working:      rapid.IntRange(1, 3).Draw(t, "working"),
			Helping:      rapid.IntRange(0, 3).Draw(t, "helping"),
			RepSeconds:   float64(rapid.IntRange(1, 100).Draw(t, "rep")) / 10,
			ResetSeconds: float64(rapid.IntRange(0, 300).Draw(t, "reset")) / 10,
			Sides:        rapid.IntRange(1, 2).Draw(t, "sides"),
			TargetReps:   rapid.IntRange(0, 40).Draw(t, "target"),
		}
		b.Players = rapid.IntRange(b.Working+b.Helping, 24).Draw(t, "players")
		return b
	})
}

// bruteCycles runs the clock in tenths of a second, which is exact in whole numbers.
func bruteCycles(b reps.Block) int {
	left := 600*b.Minutes - int(math.Round(10*b.SetupSeconds))
	rep, reset := int(math.Round(10*b.RepSeconds)), int(math.Round(10*b.ResetSeconds))
	n := 0
	for left >= rep {
		n++
		left -= rep + reset
	}
	return n
}

func TestAgainstTheRunningClock(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := block().Draw(t, "block")
		y, err := reps.Of(b)
		require.NoError(t, err)
		require.Equal(t, bruteCycles(b), y.Cycles)

		// Deal the reps one at a time.
		got := make([]int, b.Players)
		for i := range y.LanesUsed * b.Working * y.Cycles {
			got[i%b.Players]++
		}
		require.Equal(t, got[0], y.PerPlayer.Max)
		require.Equal(t, got[b.Players-1], y.PerPlayer.Min)
		if 60*float64(b.Minutes) > b.SetupSeconds {
			require.InDelta(t, 1, y.WorkShare+y.HelpingShare+y.WaitingShare, 1e-12)
			require.GreaterOrEqual(t, y.WaitingShare, -1e-12)
		}
		if m := y.MinutesForTarget; m > 0 {
			for _, c := range []struct {
				minutes int
				enough  bool
			}{{m, true}, {m - 1, false}} {
				if c.minutes == 0 {
					continue
				}
				z := b
				z.Minutes = c.minutes
				w, err := reps.Of(z)
				require.NoError(t, err)
				require.Equal(t, c.enough, w.PerPlayer.Min >= b.TargetReps)
			}
		}
	})
}

func TestCyclesAreExactInDecimals(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rep := rapid.IntRange(1, 999).Draw(t, "rep hundredths")
		reset := rapid.IntRange(0, 4000).Draw(t, "reset hundredths")
		minutes := rapid.IntRange(1, 240).Draw(t, "minutes")
		y, err := reps.Of(reps.Block{Players: 1, Minutes: minutes, Lanes: 1, Working: 1,
			RepSeconds: float64(rep) / 100, ResetSeconds: float64(reset) / 100})
		require.NoError(t, err)
		q := big.NewRat(int64(6000*minutes+reset), int64(rep+reset))
		want := new(big.Int).Quo(q.Num(), q.Denom())
		require.Equal(t, want.Int64(), int64(y.Cycles))
	})
}

func TestRotationIsFair(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := block().Draw(t, "block")
		y, err := reps.Of(b)
		require.NoError(t, err)
		rotation, err := reps.Rotate(b)
		require.NoError(t, err)
		require.Len(t, rotation, y.Cycles)
		turns := map[reps.Role][]int{reps.Works: make([]int, b.Players), reps.Helps: make([]int, b.Players), reps.Waits: make([]int, b.Players)}
		for c, cycle := range rotation {
			n := map[reps.Role]int{}
			for p, role := range cycle {
				n[role]++
				turns[role][p]++
			}
			require.Equal(t, y.LanesUsed*b.Working, n[reps.Works], "cycle %d", c)
			require.Equal(t, y.LanesUsed*b.Helping, n[reps.Helps], "cycle %d", c)
		}
		for _, role := range []reps.Role{reps.Works, reps.Helps} {
			lo, hi := math.MaxInt, 0
			for _, n := range turns[role] {
				lo, hi = min(lo, n), max(hi, n)
			}
			require.LessOrEqual(t, hi-lo, 1, "role %d", role)
		}
		again, err := reps.Rotate(b)
		require.NoError(t, err)
		require.Equal(t, rotation, again)
	})
}

func TestAdvise(t *testing.T) {
	poor := reps.Block{Players: 9, Minutes: 5, Lanes: 2, Working: 1, RepSeconds: 6, ResetSeconds: 15, SetupSeconds: 30}
	for _, c := range []struct {
		name   string
		change func(*reps.Block)
		want   string
	}{
		{"few lanes", func(*reps.Block) {}, "9 players, 2 lanes: each waits 4 of 5 minutes; 5 lanes would give 7 reps."},
		{"good", func(b *reps.Block) { b.Lanes = 9 }, ""},
		{"no more players for lanes", func(b *reps.Block) { b.Players = 2; b.Lanes = 1; b.Helping = 1; b.Minutes = 3 },
			"2 players, 1 lane: each waits 2 of 3 minutes and gets 3 reps; 5 minutes would give 6."},
		{"set-up takes all", func(b *reps.Block) { b.Minutes = 1; b.SetupSeconds = 90 },
			"1 minute is too short: setting up takes 1:30 and no rep fits."},
	} {
		b := poor
		c.change(&b)
		assert.Equal(t, c.want, reps.Advise(b), c.name)
	}
}

func ExampleOf() {
	y, _ := reps.Of(reps.Block{Players: 9, Minutes: 10, SetupSeconds: 45, Lanes: 5,
		Working: 1, Helping: 1, RepSeconds: 5, ResetSeconds: 20})
	fmt.Printf("%d lanes, %d cycles, %d to %d reps a player\n", y.LanesUsed, y.Cycles, y.PerPlayer.Min, y.PerPlayer.Max)
	// Output: 4 lanes, 23 cycles, 10 to 11 reps a player
}

func BenchmarkOf(b *testing.B) {
	for b.Loop() {
		_, _ = reps.Of(house)
	}
}

// TestHelpersWhoMayNotWork: limited players help first, so that the others work more; turns
// are shared, and both sides are balanced.
func TestHelpersWhoMayNotWork(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := block().Draw(t, "block")
		b.HelpOnly = rapid.IntRange(0, 6).Draw(t, "help only")
		y, err := reps.Of(b)
		require.NoError(t, err)
		alone := b
		alone.HelpOnly = 0
		without, err := reps.Of(alone)
		require.NoError(t, err)
		require.GreaterOrEqual(t, y.WorkingReps, without.WorkingReps, "one more player never costs a rep")

		rotation, err := reps.Rotate(b)
		require.NoError(t, err)
		work, help := make([]int, b.Players+b.HelpOnly), make([]int, b.Players+b.HelpOnly)
		for _, cycle := range rotation {
			w, h := 0, 0
			for p, role := range cycle {
				switch role {
				case reps.Works:
					require.Less(t, p, b.Players, "a player who may only help never works")
					work[p]++
					w++
				case reps.Helps:
					help[p]++
					h++
				}
			}
			require.Equal(t, y.LanesUsed*b.Working, w)
			require.Equal(t, y.LanesUsed*b.Helping, h)
		}
		spread(t, work[:b.Players])
		spread(t, help[:b.Players])
		if b.HelpOnly > 0 {
			spread(t, help[b.Players:])
		}
		for p := range b.Players {
			left, right := 0, 0
			for _, side := range rotation.Sides(p) {
				switch side {
				case reps.Left:
					left++
				case reps.Right:
					right++
				}
			}
			require.Equal(t, work[p], left+right)
			require.InDelta(t, left, right, 1)
		}
	})
}

func spread(t *rapid.T, turns []int) {
	lo, hi := turns[0], turns[0]
	for _, n := range turns {
		lo, hi = min(lo, n), max(hi, n)
	}
	require.LessOrEqual(t, hi-lo, 1)
}

// TestWorkGoesRound: with one lane, one working and the rest helping, work passes from player
// to player and nobody works twice before the others have.
func TestWorkGoesRound(t *testing.T) {
	b := reps.Block{Players: 3, Minutes: 5, Lanes: 1, Working: 1, Helping: 2, RepSeconds: 5, ResetSeconds: 14}
	rotation, err := reps.Rotate(b)
	require.NoError(t, err)
	for c, cycle := range rotation {
		for p, role := range cycle {
			assert.Equal(t, c%3 == p, role == reps.Works, "cycle %d, player %d", c, p)
		}
	}
}

// ExampleRotate shows nine players in three lanes of one working and one helping: three lines
// that work, wait and help in turn.
func ExampleRotate() {
	rotation, err := reps.Rotate(reps.Block{Players: 9, Minutes: 5, SetupSeconds: 45, Lanes: 3, Working: 1, Helping: 1, RepSeconds: 5, ResetSeconds: 20})
	if err != nil {
		panic(err)
	}
	for p := range 9 {
		for _, cycle := range rotation {
			fmt.Print([]string{".", "w", "h"}[cycle[p]])
		}
		fmt.Println()
	}
	// Output:
	// w.hw.hw.hw.
	// w.hw.hw.hw.
	// w.hw.hw.hw.
	// hw.hw.hw.hw
	// hw.hw.hw.hw
	// hw.hw.hw.hw
	// .hw.hw.hw.h
	// .hw.hw.hw.h
	// .hw.hw.hw.h
}

// TestTheRotationAllocatesNothingForAPlayerOrACycle: ten times the cycles take as many pieces.
func TestTheRotationAllocatesNothingForAPlayerOrACycle(t *testing.T) {
	pieces := func(players, minutes int) float64 {
		b := reps.Block{Players: players, Minutes: minutes, Lanes: 50, Working: 1, Helping: 1, RepSeconds: 4, ResetSeconds: 6, HelpOnly: 3}
		return testing.AllocsPerRun(10, func() {
			if _, err := reps.Rotate(b); err != nil {
				t.Fatal(err)
			}
		})
	}
	assert.Equal(t, pieces(20, 4), pieces(20, 40))
	assert.Equal(t, pieces(20, 4), pieces(200, 40))
}

func BenchmarkRotate(b *testing.B) {
	block := reps.Block{Players: 200, Minutes: 240, Lanes: 50, Working: 1, Helping: 1, RepSeconds: 1, ResetSeconds: 0}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := reps.Rotate(block); err != nil {
			b.Fatal(err)
		}
	}
}
