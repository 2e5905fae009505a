package play

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/group"
	"nineyard/core/invalid"
)

// Bounds of a play and of a game.
const (
	MaxPlays    = 400 // of a game
	MaxNumber   = 999
	MaxWord     = 60 // characters of a word of the staff
	MaxContexts = 8
	MaxDrive    = 60
	MaxQuarter  = 8 // overtimes count on
	Field       = 100
)

// Play is a play of a game.
type Play struct {
	Number    int
	Unit      group.Side
	Drive     int    // from 1; 0 is not said
	Quarter   int    // from 1; 0 is not said
	Clock     string // what is left of the quarter, 12:05; empty is not said
	Down      int    // 1 to 4; 0 is none: a kick, or it is not said
	Distance  *int   // yards to go, 0 to 99
	Spot      string // as Spot writes it; empty is not said
	Hash      string // left, middle or right; empty is not said
	Personnel string
	Formation string
	Motion    string
	Call      string
	Front     string
	Coverage  string
	Result    string
	Gain      *int     // yards, -99 to 99
	Context   []string // such as second group, scout look, end of game
}

// Hashes are where a ball is put down across the field.
func Hashes() []string { return []string{"left", "middle", "right"} }

// Check returns an invalid.Error naming the field for a play that cannot be.
func (p Play) Check() error {
	if err := invalid.IntRange("number", p.Number, 1, MaxNumber); err != nil {
		return err
	}
	if !slices.Contains([]group.Side{group.Offense, group.Defense, group.Units}, p.Unit) {
		return invalid.Field("unit", "a unit is offense, defense or units")
	}
	for _, x := range []struct {
		field  string
		is     int
		lo, hi int
	}{{"drive", p.Drive, 0, MaxDrive}, {"quarter", p.Quarter, 0, MaxQuarter}, {"down", p.Down, 0, 4}, {"distance", number(p.Distance), 0, 99}, {"gain", number(p.Gain), -99, 99}} {
		if err := invalid.IntRange(x.field, x.is, x.lo, x.hi); err != nil {
			return err
		}
	}
	if p.Clock != "" {
		if c, err := ParseClock(p.Clock); err != nil || c != p.Clock {
			return invalid.Field("clock", "a clock is written 12:05, not %q", p.Clock)
		}
	}
	if p.Spot != "" {
		if s, err := ParseSpot(p.Spot); err != nil || s != p.Spot {
			return invalid.Field("spot", "a spot is written own 35, opp 20 or 50, not %q", p.Spot)
		}
	}
	if p.Hash != "" && !slices.Contains(Hashes(), p.Hash) {
		return invalid.Field("hash", "a hash is left, middle or right, not %q", p.Hash)
	}
	for _, x := range p.words() {
		if err := word(x.field, x.says); err != nil {
			return err
		}
	}
	if len(p.Context) > MaxContexts {
		return invalid.Field("context", "at most %d words of context, got %d", MaxContexts, len(p.Context))
	}
	for i, c := range p.Context {
		if err := word(fmt.Sprintf("context[%d]", i), c); err != nil || c == "" || strings.Contains(c, ",") {
			return invalid.Field(fmt.Sprintf("context[%d]", i), "a word of context has 1 to %d characters and no comma", MaxWord)
		}
	}
	return nil
}

// named is a word of the staff with its field.
type named struct{ field, says string }

func (p Play) words() []named {
	return []named{{"personnel", p.Personnel}, {"formation", p.Formation}, {"motion", p.Motion}, {"call", p.Call}, {"front", p.Front}, {"coverage", p.Coverage}, {"result", p.Result}}
}

func word(field, says string) error {
	if len([]rune(says)) > MaxWord || strings.ContainsAny(says, "\n\r\t") || strings.TrimSpace(says) != says {
		return invalid.Field(field, "at most %d characters on one line, without spaces around them", MaxWord)
	}
	return nil
}

func number(n *int) int {
	if n == nil {
		return 0
	}
	return *n
}

// ParseClock reads what is left of a quarter: 12:05, 12.05 or 1205 as 12:05.
func ParseClock(s string) (string, error) {
	digits := strings.NewReplacer(":", "", ".", "").Replace(strings.TrimSpace(s))
	n, err := strconv.Atoi(digits)
	if err != nil || n < 0 || len(digits) < 3 || len(digits) > 4 || n%100 > 59 || n/100 > 20 {
		return "", fmt.Errorf("a clock is written 12:05, not %q", s)
	}
	return fmt.Sprintf("%d:%02d", n/100, n%100), nil
}

// ParseSpot reads a yard line: own 35, opp 20, 50, or with a sign: -35 is one's own, +20 the
// opponents'.
func ParseSpot(s string) (string, error) {
	low := strings.ToLower(strings.Join(strings.Fields(s), " "))
	side, yards := "", low
	switch {
	case strings.HasPrefix(low, "-"):
		side, yards = "own", low[1:]
	case strings.HasPrefix(low, "+"):
		side, yards = "opp", low[1:]
	default:
		for _, w := range []string{"own", "opp"} {
			if rest, ok := strings.CutPrefix(low, w); ok {
				side, yards = w, strings.TrimSpace(strings.TrimPrefix(rest, "."))
			}
		}
	}
	n, err := strconv.Atoi(yards)
	switch {
	case err == nil && strings.Trim(yards, "0123456789") == "" && n == Field/2:
		return "50", nil
	case err == nil && side != "" && n >= 1 && n < Field/2:
		return fmt.Sprintf("%s %d", side, n), nil
	}
	return "", fmt.Errorf("a spot is written own 35, opp 20 or 50, not %q", s)
}

// Check of a game: no number stands twice. It returns an invalid.Error on plays[i].number, or what is
// wrong with a play.
func CheckAll(plays []Play) error {
	if len(plays) > MaxPlays {
		return invalid.Field("plays", "a game has at most %d plays, got %d", MaxPlays, len(plays))
	}
	seen := map[int]bool{}
	for i, p := range plays {
		if err := p.Check(); err != nil {
			return invalid.Within(fmt.Sprintf("plays[%d]", i), err)
		}
		if seen[p.Number] {
			return invalid.Field(fmt.Sprintf("plays[%d].number", i), "play %d is there before", p.Number)
		}
		seen[p.Number] = true
	}
	return nil
}

// Next is a play to begin with after another: its number, and what stays the same in a drive: unit,
// drive and quarter. After a gain that was said, the down, the distance and the spot follow, as long as
// the chains and the goal line allow; what does not follow from the play is left empty.
func Next(p Play) Play {
	n := Play{Number: min(p.Number+1, MaxNumber), Unit: p.Unit, Drive: p.Drive, Quarter: p.Quarter, Context: slices.Clone(p.Context)}
	if p.Gain == nil || p.Down == 0 || p.Distance == nil || p.Spot == "" {
		return n
	}
	at := FromOwnGoal(p.Spot) + *p.Gain
	if at <= 0 || at >= Field {
		return n // a score or a safety
	}
	switch {
	case *p.Gain >= *p.Distance:
		n.Down, n.Distance = 1, new(min(10, Field-at))
	case p.Down < 4:
		n.Down, n.Distance = p.Down+1, new(min(*p.Distance-*p.Gain, 99))
	default:
		return Play{Number: n.Number, Unit: p.Unit, Quarter: p.Quarter, Context: n.Context} // the ball changes hands
	}
	n.Spot = spotAt(at)
	return n
}

// FromOwnGoal is how many yards a spot, as Spot writes it, lies from the goal line of who has the ball.
func FromOwnGoal(spot string) int {
	side, yards, two := strings.Cut(spot, " ")
	if !two {
		return Field / 2
	}
	n, _ := strconv.Atoi(yards) // Check has seen it
	if side == "opp" {
		return Field - n
	}
	return n
}

func spotAt(yards int) string {
	switch {
	case yards == Field/2:
		return "50"
	case yards > Field/2:
		return fmt.Sprintf("opp %d", Field-yards)
	}
	return fmt.Sprintf("own %d", yards)
}
