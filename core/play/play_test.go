package play_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/play"
)

func ExampleNext() {
	p := play.Play{Number: 7, Unit: group.Offense, Drive: 2, Quarter: 1, Down: 2, Distance: new(7), Spot: "own 44", Gain: new(9)}
	n := play.Next(p)
	fmt.Println(n.Number, n.Down, *n.Distance, n.Spot)
	p.Gain = new(3)
	n = play.Next(p)
	fmt.Println(n.Number, n.Down, *n.Distance, n.Spot)
	// Output:
	// 8 1 10 opp 47
	// 8 3 4 own 47
}

func TestNextByHand(t *testing.T) {
	at := func(down, distance, gain int, spot string) play.Play {
		return play.Play{Number: 3, Unit: group.Offense, Drive: 1, Down: down, Distance: &distance, Spot: spot, Gain: &gain}
	}
	for _, c := range []struct {
		name           string
		was            play.Play
		down, distance int
		spot           string
	}{
		{"goal to go", at(1, 10, 15, "opp 20"), 1, 5, "opp 5"},
		{"a loss", at(1, 10, -4, "own 30"), 2, 14, "own 26"},
		{"the middle", at(1, 10, 5, "own 45"), 2, 5, "50"},
		{"a score", at(1, 10, 20, "opp 20"), 0, 0, ""},
		{"a safety", at(2, 10, -5, "own 3"), 0, 0, ""},
		{"on downs", at(4, 2, 1, "own 40"), 0, 0, ""},
		{"nothing said", play.Play{Number: 3, Unit: group.Defense}, 0, 0, ""},
	} {
		n := play.Next(c.was)
		distance := 0
		if n.Distance != nil {
			distance = *n.Distance
		}
		assert.Equal(t, []any{4, c.down, c.distance, c.spot}, []any{n.Number, n.Down, distance, n.Spot}, c.name)
	}
}

func plays() *rapid.Generator[play.Play] {
	words := rapid.StringMatching(`([A-Za-z0-9]{1,8}( [a-z]{1,5})?)?`)
	maybe := func(lo, hi int) *rapid.Generator[*int] {
		return rapid.Custom(func(t *rapid.T) *int {
			if rapid.Bool().Draw(t, "none") {
				return nil
			}
			return new(rapid.IntRange(lo, hi).Draw(t, "n"))
		})
	}
	return rapid.Custom(func(t *rapid.T) play.Play {
		p := play.Play{Number: rapid.IntRange(1, 200).Draw(t, "number"), Unit: rapid.SampledFrom([]group.Side{group.Offense, group.Defense, group.Units}).Draw(t, "unit"),
			Drive: rapid.IntRange(0, 20).Draw(t, "drive"), Quarter: rapid.IntRange(0, 5).Draw(t, "quarter"), Down: rapid.IntRange(0, 4).Draw(t, "down"),
			Distance: maybe(0, 30).Draw(t, "distance"), Gain: maybe(-20, 60).Draw(t, "gain"), Hash: rapid.SampledFrom(append(play.Hashes(), "")).Draw(t, "hash"),
			Personnel: words.Draw(t, "personnel"), Formation: words.Draw(t, "formation"), Motion: words.Draw(t, "motion"), Call: words.Draw(t, "call"),
			Front: words.Draw(t, "front"), Coverage: words.Draw(t, "coverage"), Result: words.Draw(t, "result")}
		if y := rapid.IntRange(0, 99).Draw(t, "yards"); y > 0 {
			p.Spot = map[bool]string{true: fmt.Sprintf("own %d", y), false: fmt.Sprintf("opp %d", 100-y)}[y < 50]
			if y == 50 {
				p.Spot = "50"
			}
		}
		if rapid.Bool().Draw(t, "clocked") {
			p.Clock = fmt.Sprintf("%d:%02d", rapid.IntRange(0, 15).Draw(t, "minutes"), rapid.IntRange(0, 59).Draw(t, "seconds"))
		}
		if w := words.Draw(t, "context"); w != "" {
			p.Context = []string{w}
		}
		return p
	})
}

// TestAListIsReadAsItWasWritten, whatever the order of its columns.
func TestAListIsReadAsItWasWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := rapid.SliceOfNDistinct(plays(), 0, 12, func(p play.Play) int { return p.Number }).Draw(t, "plays")
		require.NoError(t, play.CheckAll(list))
		order := rapid.Permutation(play.Columns()).Draw(t, "order")
		head := make([]string, len(order))
		for i, c := range order {
			head[i] = strings.ToUpper(string(c))
		}
		at := play.Guess(head)
		require.Len(t, at, len(order))
		var rows []play.Row
		for i, p := range list {
			fields := map[play.Column]string{}
			for j, c := range play.Columns() {
				fields[c] = play.Record(p)[j]
			}
			r := play.Row{Number: i + 2}
			for _, c := range order {
				r.Fields = append(r.Fields, fields[c])
			}
			rows = append(rows, r)
		}
		for i, l := range play.Read(rows, at, group.Offense) {
			require.Empty(t, l.Says, "%v", l)
			require.Equal(t, list[i], l.Play)
		}
	})
}

// TestNextIsAPlay: what follows from a play is one that can be, and one further.
func TestNextIsAPlay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := plays().Draw(t, "play")
		n := play.Next(p)
		require.NoError(t, n.Check())
		require.Equal(t, p.Number+1, n.Number)
		require.Equal(t, p.Unit, n.Unit)
	})
}

func TestReadSaysWhatIsWrong(t *testing.T) {
	over := []string{"#", "Side", "Qtr", "Dn", "Dist", "Yard line", "Gain or loss", "Play name", "Hash", "Tags"}
	at := play.Guess(over)
	assert.Equal(t, map[play.Column]int{play.ColNumber: 0, play.ColUnit: 1, play.ColQuarter: 2, play.ColDown: 3, play.ColDistance: 4, play.ColSpot: 5, play.ColGain: 6, play.ColCall: 7, play.ColHash: 8, play.ColContext: 9}, at)
	rows := []play.Row{
		{2, []string{"1", "O", "1", "1", "10", "-25", "+4", "Lead left", "L", "scout look, end of game"}},
		{3, []string{"1", "O"}},
		{4, []string{"", "X"}},
		{5, []string{"x"}},
		{6, []string{"7", "k", "", "5"}},
		{7, []string{"", "D", "", "", "", "60"}},
		{8, []string{"", "", "", "", "", "", "", "", "far"}},
		{9, nil},
	}
	lines := play.Read(rows, at, group.Defense)
	assert.Equal(t, play.Play{Number: 1, Unit: group.Offense, Quarter: 1, Down: 1, Distance: new(10), Spot: "own 25", Gain: new(4), Call: "Lead left", Hash: "left", Context: []string{"scout look", "end of game"}}, lines[0].Play)
	wrong := map[int]play.Column{3: play.ColNumber, 4: play.ColUnit, 5: play.ColNumber, 6: play.ColDown, 7: play.ColSpot, 8: play.ColHash}
	for _, l := range lines[1:7] {
		assert.Equal(t, wrong[l.Number], l.Column, "line %d: %s", l.Number, l.Says)
	}
	assert.Equal(t, play.Play{Number: 2, Unit: group.Defense}, lines[7].Play, "numbered on, of the unit that is given")
}

func TestCheck(t *testing.T) {
	good := play.Play{Number: 1, Unit: group.Offense}
	require.NoError(t, good.Check())
	for field, change := range map[string]func(*play.Play){
		"number":     func(p *play.Play) { p.Number = 0 },
		"unit":       func(p *play.Play) { p.Unit = "both" },
		"quarter":    func(p *play.Play) { p.Quarter = 9 },
		"down":       func(p *play.Play) { p.Down = 5 },
		"distance":   func(p *play.Play) { p.Distance = new(100) },
		"gain":       func(p *play.Play) { p.Gain = new(-100) },
		"clock":      func(p *play.Play) { p.Clock = "12.05" },
		"spot":       func(p *play.Play) { p.Spot = "-25" },
		"hash":       func(p *play.Play) { p.Hash = "L" },
		"call":       func(p *play.Play) { p.Call = " Lead" },
		"context[0]": func(p *play.Play) { p.Context = []string{"a,b"} },
		"context":    func(p *play.Play) { p.Context = make([]string, 9) },
	} {
		p := good
		change(&p)
		e, ok := invalid.As(p.Check())
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	e, _ := invalid.As(play.CheckAll([]play.Play{good, good}))
	assert.Equal(t, "plays[1].number", e.Field)
	for in, want := range map[string]string{"own 5": "own 5", "OPP  20": "opp 20", "-1": "own 1", "+49": "opp 49", "50": "50", "+50": "50", "own50": "50", "Opp. 20": "opp 20"} {
		got, err := play.ParseSpot(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, got, in)
	}
	for _, in := range []string{"", "35", "own", "own 0", "+0", "own 51", "own -3", "--5", "5 own"} {
		_, err := play.ParseSpot(in)
		assert.Error(t, err, in)
	}
}

// FuzzRead: whatever a sheet holds, a line is either a play that can be or says what is wrong.
func FuzzRead(f *testing.F) {
	f.Add("1,O,1,1,10,-25,4,Lead,L,x")
	f.Add(",,,,,,,,,")
	f.Fuzz(func(t *testing.T, line string) {
		at := play.Guess([]string{"Play", "Unit", "Quarter", "Down", "Distance", "Spot", "Gain", "Call", "Hash", "Context"})
		for _, l := range play.Read([]play.Row{{1, strings.Split(line, ",")}}, at, group.Offense) {
			if l.Says == "" {
				require.NoError(t, l.Play.Check())
			}
		}
	})
}
