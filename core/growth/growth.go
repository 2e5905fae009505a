package growth

import (
	"fmt"
	"math"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

// Source says where reps were seen.
type Source uint8

// The sources of reps.
const (
	Practice Source = iota
	Game
)

// Side says to which side a rep went.
type Side uint8

// The sides; NoSide where a technique has none or nobody noted it.
const (
	NoSide Side = iota
	Left
	Right
)

// Row is a count of graded reps of one technique by one player on one date.
type Row struct {
	Player    string
	Technique string
	Date      season.Date
	Source    Source
	Side      Side
	Clean     int // 0 to MaxCount
	Faulty    int // 0 to MaxCount
}

// MaxCount is the largest count a row may have, MaxAge the greatest age in days.
const (
	MaxCount = 1_000_000
	MaxAge   = 146_097 // 400 years
)

// Settings are the constants of the report. Start from Default.
type Settings struct {
	HalfLifeDays float64 // > 0; a rep this old counts half in the estimate
	PriorReps    float64 // > 0; weight of the group's rate in the estimate, in reps
	Interval     float64 // between 0 and 1; mass of the equal-tailed range
	RecentDays   int     // ≥ 1; reps younger than this are "recent" in the trend
	CarryDays    int     // ≥ 1; reps younger than this enter the carry-over and the sides
	MinReps      int     // ≥ 1; with fewer on either side nothing is said
	FalseAlarm   float64 // between 0 and 1; Benjamini–Hochberg level
}

// MinSessions is the least number of sessions on either side of a comparison, of dates
// when it is made over all techniques, and of others beside whom a player is set.
const MinSessions = 3

// Default returns the house settings: half-life 21 days, prior 8 reps, 80 % range,
// 14 recent days, 35 carry-over days, 6 reps, false alarm 0.1.
func Default() Settings {
	return Settings{HalfLifeDays: 21, PriorReps: 8, Interval: 0.8, RecentDays: 14, CarryDays: 35, MinReps: 6, FalseAlarm: 0.1}
}

// Trend compares a player's recent sessions with his older ones.
type Trend string

// The trends. Steady does not say that nothing changed, only that what is known does not
// tell which way.
const (
	TooFew    Trend = "too_few"
	Improving Trend = "improving" // P(better) ≥ 0.9
	Slipping  Trend = "slipping"  // P(better) ≤ 0.1
	Steady    Trend = "steady"
)

// Carry compares a player's games with his practices.
type Carry string

// The carry-overs.
const (
	CarryTooFew Carry = "too_few"
	NotCarrying Carry = "not_carrying" // P(he drops more than the others) ≥ 0.9
	Carrying    Carry = "carrying"     // P(he drops more than the others) ≤ 0.5
	Unclear     Carry = "unclear"
)

// Better compares a player's reps to the left with those to the right.
type Better string

// The sides that are better.
const (
	SidesTooFew Better = "too_few"
	LeftBetter  Better = "left"  // P(left better) ≥ 0.9
	RightBetter Better = "right" // P(left better) ≤ 0.1
	Even        Better = "even"
)

// Count is a number of clean and faulty reps.
type Count struct{ Clean, Faulty int }

// N is the number of reps.
func (c Count) N() int { return c.Clean + c.Faulty }

// Plus returns the sum of two counts.
func (c Count) Plus(d Count) Count { return Count{c.Clean + d.Clean, c.Faulty + d.Faulty} }

// Estimate is what is known of one player at one technique.
type Estimate struct {
	Player, Technique   string
	Reps                int
	EffectiveReps       float64
	Estimate, Low, High float64
	PImproved           float64 // meaningful unless Trend is TooFew
	Trend               Trend
	TrendClaimed        bool
	Practice, Game      Count // all reps given
	Recent, Older       Count // what the trend compares
	// What the carry-over compares.
	CarryPractice, CarryGame Count
	PDrop                    float64 // meaningful unless Carry is CarryTooFew
	Carry                    Carry
	CarryClaimed             bool
	Left, Right              Count   // what the sides compare
	PLeftBetter              float64 // meaningful unless Sides is SidesTooFew
	Sides                    Better
	SidesClaimed             bool
}

// Player is what is known of one player over all his techniques. The counts are those of
// the techniques that enter the comparison.
type Player struct {
	Player                   string
	PImproved                float64 // that he changed for the better more than the others; meaningful unless Trend is TooFew
	Trend                    Trend
	TrendClaimed             bool
	Recent, Older            Count
	PDrop                    float64 // meaningful unless Carry is CarryTooFew
	Carry                    Carry
	CarryClaimed             bool
	CarryPractice, CarryGame Count
}

// GroupRate is what is known of one technique over all players.
type GroupRate struct {
	Technique      string
	Rate           float64 // μ, the weighted clean rate
	Practice, Game Count   // of the carry-over days
}

// Report is the result: estimates by player then technique, players and techniques by key.
type Report struct {
	Rows    []Estimate
	Players []Player
	Group   []GroupRate
}

// Of computes the report as of the given day.
//
// With age d in days and weight w = 2^(−d/half-life), the group's rate of a technique is
// μ = (Σ w·clean + 0.5)/(Σ w·(clean+faulty) + 1), and a player's is
// Beta(prior·μ + Σ w·clean, prior·(1−μ) + Σ w·faulty): the estimate is its mean, the range
// its equal-tailed interval. Trends, carry-overs and sides compare unweighted sessions; see
// comparison, and those over all of a player's techniques, players.
//
// It returns an invalid.Error for settings out of range, counts below 0 or above MaxCount,
// and rows after asOf or more than MaxAge days before it. The order of the rows does not
// change the result, nor does cutting a row into two.
func Of(asOf season.Date, s Settings, rows []Row) (Report, error) {
	if err := s.check(); err != nil {
		return Report{}, err
	}
	in, err := gather(asOf, s, rows)
	if err != nil {
		return Report{}, err
	}
	report := Report{Rows: make([]Estimate, len(in.cells)), Players: make([]Player, len(in.players)), Group: in.group()}
	in.compare(report.Rows, report.Players, report.Group)
	claim(&report, s.FalseAlarm)
	return report, nil
}

// group returns what is known of every technique.
func (in *input) group() []GroupRate {
	list := make([]GroupRate, len(in.techniques))
	for k, t := range in.techniques {
		sum := &in.byTechnique[k]
		list[k] = GroupRate{Technique: t, Rate: rate(sum.clean, sum.faulty), Practice: sum.carry[Practice].count(), Game: sum.carry[Game].count()}
	}
	return list
}

// rate is μ of weighted counts.
func rate(clean, faulty float64) float64 { return (clean + 0.5) / (clean + faulty + 1) }

// estimate fills in what a cell says by itself.
func (in *input) estimate(e *Estimate, c *cell, group []GroupRate) {
	e.Player, e.Technique = in.players[c.player], in.techniques[c.technique]
	e.Practice, e.Game = c.all[Practice].count(), c.all[Game].count()
	e.Reps = e.Practice.N() + e.Game.N()
	e.EffectiveReps = c.clean + c.faulty
	e.Estimate, e.Low, e.High = in.settings.posterior(group[c.technique].Rate, c.clean, c.faulty)
}

// posterior is the mean and the range of a player's rate, given the group's and his own
// weighted counts.
func (s Settings) posterior(mu, clean, faulty float64) (mean, low, high float64) {
	a, b := s.PriorReps*mu+clean, s.PriorReps*(1-mu)+faulty
	tail := (1 - s.Interval) / 2
	low, high = quantiles(tail, a, b)
	return a / (a + b), low, high
}

func (s Settings) check() error {
	for _, c := range []struct {
		name string
		ok   bool
		want string
		got  any
	}{
		{"half_life_days", s.HalfLifeDays > 0 && !math.IsInf(s.HalfLifeDays, 0), "more than 0", s.HalfLifeDays},
		{"prior_reps", s.PriorReps > 0 && !math.IsInf(s.PriorReps, 0), "more than 0", s.PriorReps},
		{"interval", s.Interval > 0 && s.Interval < 1, "between 0 and 1", s.Interval},
		{"recent_days", s.RecentDays >= 1, "at least 1", s.RecentDays},
		{"carry_days", s.CarryDays >= 1, "at least 1", s.CarryDays},
		{"min_reps", s.MinReps >= 1, "at least 1", s.MinReps},
		{"false_alarm", s.FalseAlarm > 0 && s.FalseAlarm < 1, "between 0 and 1", s.FalseAlarm},
	} {
		if !c.ok {
			return invalid.Field(c.name, "%s must be %s, got %v", c.name, c.want, c.got)
		}
	}
	return nil
}

// check returns the row's age.
func (r *Row) check(i int, asOf season.Date) (age int, err error) {
	age = int(asOf) - int(r.Date)
	switch {
	case age < 0:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].date", i), "reps[%d].date %s is after as_of %s", i, r.Date, asOf)
	case age > MaxAge:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].date", i), "reps[%d].date %s is more than 400 years before as_of", i, r.Date)
	case r.Clean < 0 || r.Clean > MaxCount:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].clean", i), "reps[%d].clean must be between 0 and %d, got %d", i, MaxCount, r.Clean)
	case r.Faulty < 0 || r.Faulty > MaxCount:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].faulty", i), "reps[%d].faulty must be between 0 and %d, got %d", i, MaxCount, r.Faulty)
	case r.Source > Game:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].source", i), "reps[%d].source must be practice or game", i)
	case r.Side > Right:
		return 0, invalid.Field(fmt.Sprintf("reps[%d].side", i), "reps[%d].side must be left, right or left out", i)
	}
	return age, nil
}
