package growth

import (
	"fmt"
	"math"
	"sort"

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

// Row is a count of graded reps of one technique by one player on one date.
type Row struct {
	Player    string
	Technique string
	Date      season.Date
	Source    Source
	Clean     int // ≥ 0
	Faulty    int // ≥ 0
}

// Settings are the constants of the estimate. Start from Default.
type Settings struct {
	HalfLifeDays float64 // > 0; a rep this old counts half
	PriorReps    float64 // > 0; weight of the group's rate, in reps
	Interval     float64 // between 0 and 1; mass of the equal-tailed range
	RecentDays   int     // ≥ 1; reps younger than this are "recent" in the trend
	CarryDays    int     // ≥ 1; reps younger than this enter the carry-over
	MinReps      int     // ≥ 1; with fewer on either side nothing is said
	FalseAlarm   float64 // between 0 and 1; Benjamini–Hochberg level
}

// Default returns the house settings: half-life 21 days, prior 8 reps, 80 % range,
// 14 recent days, 35 carry-over days, 6 reps, false alarm 0.1.
func Default() Settings {
	return Settings{HalfLifeDays: 21, PriorReps: 8, Interval: 0.8, RecentDays: 14, CarryDays: 35, MinReps: 6, FalseAlarm: 0.1}
}

// Trend compares a player's recent reps with his older ones.
type Trend string

// The trends.
const (
	TooFew    Trend = "too_few"
	Improving Trend = "improving" // P(recent better) ≥ 0.9
	Slipping  Trend = "slipping"  // P(recent better) ≤ 0.1
	Steady    Trend = "steady"
)

// Carry compares a player's games with his practices.
type Carry string

// The carry-overs.
const (
	CarryTooFew Carry = "too_few"
	NotCarrying Carry = "not_carrying" // P(game worse) ≥ 0.9
	Carrying    Carry = "carrying"     // P(game worse) ≤ 0.5
	Unclear     Carry = "unclear"
)

// Count is a number of clean and faulty reps.
type Count struct{ Clean, Faulty int }

// N is the number of reps.
func (c Count) N() int { return c.Clean + c.Faulty }

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
}

// GroupRate is the group's weighted clean rate μ of one technique.
type GroupRate struct {
	Technique string
	Rate      float64
}

// Report is the result: estimates by player then technique, rates by technique.
type Report struct {
	Rows  []Estimate
	Group []GroupRate
}

// tally gathers the rows of one player and technique.
type tally struct {
	player, technique string
	clean, faulty     float64 // weighted
	all               [2]Count
	carry             [2]Count
	recent, older     Count
}

// Of computes the report as of the given day.
//
// With age d in days and weight w = 2^(−d/half-life), the group's rate of a
// technique is μ = (Σ w·clean + 0.5)/(Σ w·(clean+faulty) + 1), and a player's is
// Beta(prior·μ + Σ w·clean, prior·(1−μ) + Σ w·faulty): the estimate is its mean,
// the range its equal-tailed interval. Trend and carry-over compare unweighted
// counts through Beta(1+clean, 1+faulty); see PGreater.
//
// It returns an invalid.Error for settings out of range, negative counts and rows
// after asOf. The order of the rows does not change the result beyond rounding.
func Of(asOf season.Date, s Settings, rows []Row) (Report, error) {
	if err := s.check(); err != nil {
		return Report{}, err
	}
	tallies, err := gather(asOf, s, rows)
	if err != nil {
		return Report{}, err
	}
	group, rate := groupRates(tallies)
	report := Report{Rows: make([]Estimate, 0, len(tallies)), Group: group}
	for _, t := range tallies {
		report.Rows = append(report.Rows, s.estimate(t, rate[t.technique]))
	}
	claim(report.Rows, s.FalseAlarm)
	return report, nil
}

// OfPlayer returns the estimates of one player alone, as they stand in the report of Of
// over the same rows, sorted by technique. It claims nothing (TrendClaimed and CarryClaimed
// are false): what may be claimed depends on every other estimate made on the day. It is
// for the weeks gone by, of which only the line and its range are drawn.
func OfPlayer(asOf season.Date, s Settings, rows []Row, player string) ([]Estimate, error) {
	if err := s.check(); err != nil {
		return nil, err
	}
	tallies, err := gather(asOf, s, rows)
	if err != nil {
		return nil, err
	}
	_, rate := groupRates(tallies)
	var list []Estimate
	for _, t := range tallies {
		if t.player == player {
			list = append(list, s.estimate(t, rate[t.technique]))
		}
	}
	return list, nil
}

// gather sums the rows by player and technique, sorted by both.
func gather(asOf season.Date, s Settings, rows []Row) ([]*tally, error) {
	type key struct{ player, technique string }
	byKey := map[key]*tally{}
	weight := map[season.Date]float64{}
	var last *tally // rows come mostly in runs of the same player and technique
	for i := range rows {
		r := &rows[i]
		if r.Date > asOf {
			return nil, invalid.Field(fmt.Sprintf("reps[%d].date", i), "reps[%d].date %s is after as_of %s", i, r.Date, asOf)
		}
		if r.Clean < 0 || r.Faulty < 0 {
			return nil, invalid.Field(fmt.Sprintf("reps[%d]", i), "reps[%d] has a negative count", i)
		}
		w, ok := weight[r.Date]
		if !ok {
			w = math.Exp2(-float64(asOf-r.Date) / s.HalfLifeDays)
			weight[r.Date] = w
		}
		t := last
		if t == nil || t.player != r.Player || t.technique != r.Technique {
			k := key{r.Player, r.Technique}
			if t, ok = byKey[k]; !ok {
				t = &tally{player: r.Player, technique: r.Technique}
				byKey[k] = t
			}
			last = t
		}
		t.add(r, w, int(asOf-r.Date), s)
	}
	tallies := make([]*tally, 0, len(byKey))
	for _, t := range byKey {
		tallies = append(tallies, t)
	}
	sort.Slice(tallies, func(i, j int) bool {
		if tallies[i].player != tallies[j].player {
			return tallies[i].player < tallies[j].player
		}
		return tallies[i].technique < tallies[j].technique
	})
	return tallies, nil
}

func (t *tally) add(r *Row, w float64, age int, s Settings) {
	t.clean += w * float64(r.Clean)
	t.faulty += w * float64(r.Faulty)
	add := func(c *Count) { c.Clean += r.Clean; c.Faulty += r.Faulty }
	add(&t.all[r.Source])
	if age < s.CarryDays {
		add(&t.carry[r.Source])
	}
	if age < s.RecentDays {
		add(&t.recent)
	} else {
		add(&t.older)
	}
}

// groupRates returns μ of each technique, sorted, and the same as a map.
func groupRates(tallies []*tally) ([]GroupRate, map[string]float64) {
	type sum struct{ clean, all float64 }
	sums := map[string]sum{}
	for _, t := range tallies {
		s := sums[t.technique]
		s.clean += t.clean
		s.all += t.clean + t.faulty
		sums[t.technique] = s
	}
	group := make([]GroupRate, 0, len(sums))
	rate := make(map[string]float64, len(sums))
	for k, s := range sums {
		rate[k] = (s.clean + 0.5) / (s.all + 1)
		group = append(group, GroupRate{k, rate[k]})
	}
	sort.Slice(group, func(i, j int) bool { return group[i].Technique < group[j].Technique })
	return group, rate
}

func (s Settings) estimate(t *tally, mu float64) Estimate {
	a, b := s.PriorReps*mu+t.clean, s.PriorReps*(1-mu)+t.faulty
	tail := (1 - s.Interval) / 2
	e := Estimate{
		Player: t.player, Technique: t.technique,
		Reps: t.all[Practice].N() + t.all[Game].N(), EffectiveReps: t.clean + t.faulty,
		Estimate: a / (a + b), Low: quantile(tail, a, b), High: quantile(1-tail, a, b),
		Practice: t.all[Practice], Game: t.all[Game],
		Recent: t.recent, Older: t.older, CarryPractice: t.carry[Practice], CarryGame: t.carry[Game],
		Trend: TooFew, Carry: CarryTooFew,
	}
	if t.recent.N() >= s.MinReps && t.older.N() >= s.MinReps {
		e.PImproved = PGreater(t.recent, t.older)
		switch {
		case e.PImproved >= 0.9:
			e.Trend = Improving
		case e.PImproved <= 0.1:
			e.Trend = Slipping
		default:
			e.Trend = Steady
		}
	}
	if t.carry[Practice].N() >= s.MinReps && t.carry[Game].N() >= s.MinReps {
		e.PDrop = PGreater(t.carry[Practice], t.carry[Game])
		switch {
		case e.PDrop >= 0.9:
			e.Carry = NotCarrying
		case e.PDrop <= 0.5:
			e.Carry = Carrying
		default:
			e.Carry = Unclear
		}
	}
	return e
}

// claim marks the trends and the carry-overs that may be spoken of.
func claim(rows []Estimate, level float64) {
	var trends, carries []float64
	for _, e := range rows {
		if e.Trend != TooFew {
			trends = append(trends, trendValue(e))
		}
		if e.Carry != CarryTooFew {
			carries = append(carries, 1-e.PDrop)
		}
	}
	trendCut, carryCut := cut(trends, level), cut(carries, level)
	for i := range rows {
		e := &rows[i]
		e.TrendClaimed = e.Trend != TooFew && trendValue(*e) <= trendCut
		e.CarryClaimed = e.Carry != CarryTooFew && 1-e.PDrop <= carryCut
	}
}

func trendValue(e Estimate) float64 { return 2 * min(e.PImproved, 1-e.PImproved) }

// cut is the Benjamini–Hochberg cut: the largest v₍ₖ₎ with v₍ₖ₎ ≤ k/m·level, or −1.
// It sorts its argument.
func cut(v []float64, level float64) float64 {
	sort.Float64s(v)
	for k := len(v); k >= 1; k-- {
		if v[k-1] <= float64(k)/float64(len(v))*level {
			return v[k-1]
		}
	}
	return -1
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
