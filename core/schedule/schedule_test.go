package schedule_test

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/schedule"
)

func period(key string, start, minutes int, kind string, groups ...string) schedule.Period {
	return schedule.Period{Key: key, Start: start, Minutes: minutes, Kind: kind, Groups: groups}
}

func evening() schedule.Script {
	hard := period("inside", 30, 20, "group", "OL", "DL")
	hard.Contact = practice.Thud
	return schedule.Script{Minutes: 60, Groups: []string{"OL", "DL", "DB"}, Limits: schedule.Shipped(),
		Places: []schedule.Stock{{Key: "north", Count: 1}}, Equipment: []schedule.Stock{{Key: "chutes", Count: 5}},
		Periods: []schedule.Period{
			period("warm", 0, 10, "warm_up", "OL", "DL", "DB"),
			period("own_ol", 10, 15, "individual", "OL"), period("own_dl", 10, 15, "individual", "DL"), period("own_db", 10, 15, "individual", "DB"),
			period("water", 25, 5, "water", "OL", "DL", "DB"), hard, period("walk", 50, 10, "walk_through", "OL", "DL", "DB"),
		}}
}

func said(f []schedule.Finding) (list []string) {
	for _, x := range f {
		list = append(list, fmt.Sprintf("%s %s %s %s%s", x.Code, x.Severity, strings.Join(x.Periods, "+"), strings.Join(x.Groups, "+"), x.What))
	}
	return list
}

func of(t *testing.T, s schedule.Script) schedule.Report {
	t.Helper()
	r, err := schedule.Of(s)
	require.NoError(t, err)
	return r
}

// TestByHand: an evening that is in order but for the secondary, who stand around during inside
// run, and then everything that can go wrong with it.
func TestByHand(t *testing.T) {
	r := of(t, evening())
	assert.Equal(t, []string{"group_idle warning  DB"}, said(r.Findings))
	assert.Equal(t, []schedule.Free{{Groups: []string{"DB"}, Span: schedule.Span{Start: 30, End: 50}}}, r.Free)
	assert.Empty(t, r.SharedFree)
	assert.Equal(t, map[string]int{"OL": 20, "DL": 20, "DB": 0}, r.Contact)

	for _, c := range []struct {
		name string
		do   func(s *schedule.Script)
		want string
	}{
		{"a group twice", func(s *schedule.Script) { s.Periods[1].Minutes = 18 }, "group_overlap error own_ol+water OL"},
		{"a coach twice", func(s *schedule.Script) {
			s.Periods[1].Coaches, s.Periods[2].Coaches = []string{"kell"}, []string{"kell", "orr"}
		}, "coach_overlap error own_ol+own_dl "},
		{"a place for one", func(s *schedule.Script) {
			for i := 1; i < 4; i++ {
				s.Periods[i].Place = "north"
			}
		}, "place_full error own_ol+own_dl+own_db north"},
		{"five chutes for six", func(s *schedule.Script) {
			s.Periods[1].Equipment, s.Periods[2].Equipment = map[string]int{"chutes": 2}, map[string]int{"chutes": 4}
		}, "equipment_short error own_ol+own_dl chutes"},
		{"too late", func(s *schedule.Script) { s.Periods[6].Minutes = 11 }, "outside_practice error walk "},
		{"too long a rep", func(s *schedule.Script) { s.Periods[1].RepSeconds = 10.5 }, "rep_long warning own_ol "},
		{"nobody to block", func(s *schedule.Script) { s.Periods[1].NeedsGroups = []string{"OL", "DB", "DL"} }, "needs_missing error own_ol DL+DB"},
		{"no water", func(s *schedule.Script) { s.Periods[4].Kind = "meeting" }, "water_gap error  OL"},
		{"too much contact", func(s *schedule.Script) { s.Periods[6].Contact, s.Limits.ContactMinutes = practice.Live, new(29) }, "contact_over error inside+walk DL"},
		{"cold", func(s *schedule.Script) { s.Periods[0].Groups = []string{"OL", "DB"} }, "no_warm_up error inside DL"},
	} {
		s := evening()
		c.do(&s)
		assert.Contains(t, said(of(t, s).Findings), c.want, c.name)
	}
}

func TestALimitLeftOutIsNotChecked(t *testing.T) {
	s := evening()
	s.Limits = schedule.Limits{}
	s.Periods = s.Periods[5:6]
	for _, f := range of(t, s).Findings {
		assert.Equal(t, schedule.GroupIdle, f.Code)
	}
}

func TestMessagesTellTheTimeByTheClock(t *testing.T) {
	s := evening()
	s.StartsAt, s.Names = new(18*60), map[string]string{"DB": "The secondary"}
	assert.Equal(t, "The secondary has nothing to do from 18:30 to 18:50", of(t, s).Findings[0].Message)
	assert.Equal(t, "23:50", schedule.Clock(-10))
}

func TestCheckNamesTheField(t *testing.T) {
	for field, do := range map[string]func(s *schedule.Script){
		"minutes":                     func(s *schedule.Script) { s.Minutes = 0 },
		"groups[1]":                   func(s *schedule.Script) { s.Groups[1] = "OL" },
		"places[0].capacity":          func(s *schedule.Script) { s.Places[0].Count = -1 },
		"equipment[0].key":            func(s *schedule.Script) { s.Equipment[0].Key = "" },
		"limits.water_every":          func(s *schedule.Script) { s.Limits.WaterEvery = new(-1) },
		"limits.max_rep_seconds":      func(s *schedule.Script) { s.Limits.MaxRepSeconds = new(0.0) },
		"periods[1].key":              func(s *schedule.Script) { s.Periods[1].Key = "warm" },
		"periods[0].minutes":          func(s *schedule.Script) { s.Periods[0].Minutes = 0 },
		"periods[0].start":            func(s *schedule.Script) { s.Periods[0].Start = -5000 },
		"periods[0].kind":             func(s *schedule.Script) { s.Periods[0].Kind = "indy" },
		"periods[0].groups[0]":        func(s *schedule.Script) { s.Periods[0].Groups[0] = "XX" },
		"periods[0].needs_groups[0]":  func(s *schedule.Script) { s.Periods[0].NeedsGroups = []string{"XX"} },
		"periods[0].place":            func(s *schedule.Script) { s.Periods[0].Place = "moon" },
		"periods[0].equipment.sled":   func(s *schedule.Script) { s.Periods[0].Equipment = map[string]int{"sled": 1} },
		"periods[0].equipment.chutes": func(s *schedule.Script) { s.Periods[0].Equipment = map[string]int{"chutes": -1} },
		"periods[0].rep_seconds":      func(s *schedule.Script) { s.Periods[0].RepSeconds = -1 },
		"periods[0].coaches[1]":       func(s *schedule.Script) { s.Periods[0].Coaches = []string{"kell", "kell"} },
	} {
		s := evening()
		do(&s)
		_, err := schedule.Of(s)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

var anyScript = rapid.Custom(func(t *rapid.T) schedule.Script {
	s := schedule.Script{Minutes: rapid.IntRange(1, 40).Draw(t, "minutes"), Groups: []string{"OL", "DL", "DB"}[:rapid.IntRange(1, 3).Draw(t, "groups")],
		Places: []schedule.Stock{{Key: "north", Count: rapid.IntRange(0, 2).Draw(t, "capacity")}}, Equipment: []schedule.Stock{{Key: "chutes", Count: rapid.IntRange(0, 4).Draw(t, "chutes")}}}
	if rapid.Bool().Draw(t, "limited") {
		s.Limits = schedule.Limits{ContactMinutes: new(rapid.IntRange(0, 10).Draw(t, "contact")), WaterEvery: new(rapid.IntRange(2, 15).Draw(t, "every")), MaxRepSeconds: new(8.0), WarmUpFirst: true}
	}
	some := func(list []string) []string {
		var out []string
		for _, g := range list {
			if rapid.Bool().Draw(t, g) {
				out = append(out, g)
			}
		}
		return out
	}
	for i := range rapid.IntRange(0, 7).Draw(t, "periods") {
		p := period(fmt.Sprintf("p%d", i), rapid.IntRange(-4, 42).Draw(t, "start"), rapid.IntRange(1, 14).Draw(t, "long"),
			rapid.SampledFrom([]string{"warm_up", "individual", "team", "water", "conditioning"}).Draw(t, "kind"), some(s.Groups)...)
		p.Contact = practice.Contact(rapid.IntRange(0, 4).Draw(t, "level"))
		p.NeedsGroups, p.Coaches = some(s.Groups), some([]string{"kell", "orr"})
		if rapid.Bool().Draw(t, "north") {
			p.Place = "north"
		}
		p.Equipment = map[string]int{"chutes": rapid.IntRange(0, 3).Draw(t, "takes")}
		p.RepSeconds = float64(rapid.IntRange(5, 10).Draw(t, "rep"))
		s.Periods = append(s.Periods, p)
	}
	return s
})

// TestAgainstAMinuteByMinuteWalk finds everything anew by looking at every minute.
func TestAgainstAMinuteByMinuteWalk(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := anyScript.Draw(t, "script")
		r, err := schedule.Of(s)
		require.NoError(t, err)
		want := walk(s)
		got := said(r.Findings)
		slices.Sort(got)
		slices.Sort(want)
		require.Equal(t, want, got)
		require.Equal(t, r.Contact, schedule.Contact(s))
		require.True(t, slices.IsSortedFunc(r.Findings, func(a, b schedule.Finding) int {
			return cmp.Or(cmp.Compare(a.Span.Start, b.Span.Start), cmp.Compare(a.Code, b.Code), slices.Compare(a.Periods, b.Periods), slices.Compare(a.Groups, b.Groups))
		}))
		for _, g := range s.Groups { // free stretches cover just the minutes without a period
			var free [60]bool
			for _, f := range r.Free {
				for m := f.Start; f.Groups[0] == g && m < f.End; m++ {
					require.False(t, free[m])
					free[m] = true
				}
			}
			shared := [60]int{}
			for _, f := range r.SharedFree {
				require.GreaterOrEqual(t, len(f.Groups), 2)
				for m := f.Start; m < f.End; m++ {
					shared[m] = len(f.Groups)
					if slices.Contains(f.Groups, g) {
						require.True(t, free[m])
					}
				}
			}
			for m := range s.Minutes {
				n := 0
				for _, other := range s.Groups {
					if !busy(s, other, m) {
						n++
					}
				}
				require.Equal(t, !busy(s, g, m), free[m], "%s at %d", g, m)
				if n < 2 {
					n = 0
				}
				require.Equal(t, n, shared[m], "minute %d", m)
			}
		}
	})
}

func at(p schedule.Period, m int) bool { return p.Start <= m && m < p.End() }

func busy(s schedule.Script, g string, m int) bool {
	return slices.ContainsFunc(s.Periods, func(p schedule.Period) bool { return at(p, m) && slices.Contains(p.Groups, g) })
}

// stretches lists what lies between from and to where holds is true.
func stretches(from, to int, holds func(m int) bool) (list [][2]int) {
	for m := from; m < to; m++ {
		if !holds(m) {
			continue
		}
		if n := len(list); n > 0 && list[n-1][1] == m {
			list[n-1][1] = m + 1
			continue
		}
		list = append(list, [2]int{m, m + 1})
	}
	return list
}

func walk(s schedule.Script) (found []string) {
	add := func(code, severity, periods, about string) {
		found = append(found, fmt.Sprintf("%s %s %s %s", code, severity, periods, about))
	}
	for j, b := range s.Periods {
		for _, a := range s.Periods[:j] {
			meet := false
			for m := -10; m < 80; m++ {
				meet = meet || at(a, m) && at(b, m)
			}
			both := func(x, y []string) (list []string) {
				for _, k := range x {
					if slices.Contains(y, k) {
						list = append(list, k)
					}
				}
				return list
			}
			if shared := both(a.Groups, b.Groups); meet && len(shared) > 0 {
				add("group_overlap", "error", a.Key+"+"+b.Key, strings.Join(shared, "+"))
			}
			if meet && len(both(a.Coaches, b.Coaches)) > 0 {
				add("coach_overlap", "error", a.Key+"+"+b.Key, "")
			}
		}
		inside := b.Start < s.Minutes && b.End() > 0
		if b.Start < 0 || b.End() > s.Minutes {
			add("outside_practice", "error", b.Key, "")
		}
		if inside && s.Limits.MaxRepSeconds != nil && b.RepSeconds > *s.Limits.MaxRepSeconds {
			add("rep_long", "warning", b.Key, "")
		}
		var missing []string
		for _, g := range b.NeedsGroups {
			if !slices.Contains(b.Groups, g) {
				missing = append(missing, g)
			}
		}
		if inside && len(missing) > 0 {
			add("needs_missing", "error", b.Key, strings.Join(missing, "+"))
		}
	}
	stock := func(code, what string, most int, takes func(p schedule.Period) int) {
		for _, x := range stretches(-10, 80, func(m int) bool {
			sum := 0
			for _, p := range s.Periods {
				if at(p, m) {
					sum += takes(p)
				}
			}
			return sum > most
		}) {
			var in []string
			for _, p := range s.Periods {
				if takes(p) > 0 && p.Start < x[1] && x[0] < p.End() {
					in = append(in, p.Key)
				}
			}
			add(code, "error", strings.Join(in, "+"), what)
		}
	}
	stock("place_full", "north", s.Places[0].Count, func(p schedule.Period) int { return len(p.Place) / 5 })
	stock("equipment_short", "chutes", s.Equipment[0].Count, func(p schedule.Period) int { return p.Equipment["chutes"] })
	for _, g := range s.Groups {
		of := func(m int, which func(p schedule.Period) bool) bool {
			return slices.ContainsFunc(s.Periods, func(p schedule.Period) bool { return at(p, m) && slices.Contains(p.Groups, g) && which(p) })
		}
		for _, x := range stretches(0, s.Minutes, func(m int) bool { return !busy(s, g, m) }) {
			if x[1]-x[0] >= 5 {
				add("group_idle", "warning", "", g)
			}
		}
		if every := s.Limits.WaterEvery; every != nil {
			for _, x := range stretches(0, s.Minutes, func(m int) bool { return !of(m, func(p schedule.Period) bool { return p.Kind == "water" }) }) {
				if x[1]-x[0] > *every {
					add("water_gap", "error", "", g)
				}
			}
		}
		hits := func(p schedule.Period) bool { return p.Contact >= practice.Thud }
		n := 0
		for m := range s.Minutes {
			if of(m, hits) {
				n++
			}
		}
		if most := s.Limits.ContactMinutes; most != nil && n > *most {
			var in []string
			for _, p := range s.Periods {
				if slices.Contains(p.Groups, g) && hits(p) && p.Start < s.Minutes && p.End() > 0 {
					in = append(in, p.Key)
				}
			}
			add("contact_over", "error", strings.Join(in, "+"), g)
		}
		if !s.Limits.WarmUpFirst {
			continue
		}
		for m := -10; m < s.Minutes; m++ { // the first minute at which something hard begins
			first := ""
			for _, p := range s.Periods {
				if first == "" && p.Start == m && p.End() > 0 && slices.Contains(p.Groups, g) && p.Kind != "warm_up" && (p.Contact >= practice.Bag || p.Kind == "conditioning") {
					first = p.Key
				}
			}
			if first == "" {
				continue
			}
			warm := slices.ContainsFunc(s.Periods, func(p schedule.Period) bool {
				return p.Kind == "warm_up" && slices.Contains(p.Groups, g) && p.End() > 0 && min(p.End(), s.Minutes) <= m
			})
			if !warm {
				add("no_warm_up", "error", first, g)
			}
			break
		}
	}
	return found
}

// TestAMendMends: after each the finding is gone, and no error is there that was not before.
func TestAMendMends(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := anyScript.Draw(t, "script")
		r, err := schedule.Of(s)
		require.NoError(t, err)
		about := func(f schedule.Finding) string { return fmt.Sprint(f.Code, f.Periods, f.Groups, f.What) }
		known := map[string]bool{}
		for _, f := range r.Findings {
			known[about(f)] = true
		}
		kept := fmt.Sprint(s.Periods)
		for _, f := range r.Findings {
			for _, m := range schedule.Mends(s, f, "new") {
				require.NotEmpty(t, m.Say)
				then := s
				then.Periods = m.Periods
				after, err := schedule.Of(then)
				require.NoError(t, err)
				for _, g := range after.Findings {
					if g.Severity == schedule.Error {
						require.True(t, known[about(g)], "%s: %s brings %s", f.Message, m.Say, g.Message)
					}
					if f.Code != schedule.WaterGap && f.Code != schedule.GroupIdle {
						require.NotEqual(t, about(f), about(g), "%s: %s", f.Message, m.Say)
					}
				}
			}
		}
		require.Equal(t, kept, fmt.Sprint(s.Periods), "the script that was given is not changed")
	})
}

// TestGatherSaysOnceWhatIsTrueOfSeveral groups, and a mend of it is for all of them.
func TestGatherSaysOnceWhatIsTrueOfSeveral(t *testing.T) {
	s := evening()
	s.Periods[5].Groups = []string{"OL"}
	r := of(t, s)
	gathered := schedule.Gather(s, r.Findings)
	assert.Equal(t, []string{"group_idle warning  DB", "group_idle warning  DL"}, said(r.Findings))
	assert.Equal(t, []string{"group_idle warning  DL+DB"}, said(gathered))
	assert.Equal(t, "DL and DB have nothing to do from minute 30 to 50", gathered[0].Message)
	mends := schedule.Mends(s, gathered[0], "new")
	require.Len(t, mends, 1)
	s.Periods = mends[0].Periods
	assert.Empty(t, of(t, s).Findings)
	s = evening()
	s.Periods[4].Kind = "meeting"
	gathered = schedule.Gather(s, of(t, s).Findings)
	assert.Equal(t, "OL, DL and DB go 60 minutes without water from minute 0 to 60: 30 at most", gathered[0].Message)
	mends = schedule.Mends(s, gathered[0], "new")
	require.NotEmpty(t, mends)
	s.Periods = mends[0].Periods
	for _, f := range of(t, s).Findings {
		assert.NotEqual(t, schedule.WaterGap, f.Code)
	}
}

// TestMendsByHand: what a coach would do himself, in his words.
func TestMendsByHand(t *testing.T) {
	for _, c := range []struct {
		name string
		do   func(s *schedule.Script)
		code schedule.Code
		want []string
	}{
		{"idle", func(*schedule.Script) {}, schedule.GroupIdle, []string{"Give DB the time for itself from minute 30 to 50"}},
		{"overlap", func(s *schedule.Script) { s.Periods[1].Minutes = 18 }, schedule.GroupOverlap, []string{"End own_ol at minute 25"}},
		{"place", func(s *schedule.Script) {
			s.Places = append(s.Places, schedule.Stock{Key: "south", Count: 2})
			s.Periods[1].Place, s.Periods[3].Place = "north", "north"
		}, schedule.PlaceFull, []string{"own_ol at south", "own_db at south", "Move own_db to minute 30"}},
		{"what carries least gives way", func(s *schedule.Script) {
			s.Places = append(s.Places, schedule.Stock{Key: "south", Count: 2})
			s.Periods[1].Place, s.Periods[3].Place = "north", "north"
			s.Periods[1].Equipment = map[string]int{"chutes": 1}
		}, schedule.PlaceFull, []string{"own_db at south", "own_ol at south", "Move own_db to minute 30"}},
		{"late", func(s *schedule.Script) { s.Periods[6].Minutes = 12 }, schedule.OutsidePractice, []string{"End walk at minute 60"}},
		{"needs", func(s *schedule.Script) { s.Periods[5].NeedsGroups = []string{"DB"} }, schedule.NeedsMissing, []string{"Put DB into inside"}},
		{"water", func(s *schedule.Script) { s.Minutes, s.Periods[4].Kind = 50, "meeting"; s.Periods = s.Periods[:6] }, schedule.WaterGap, nil},
		{"contact", func(s *schedule.Script) { s.Limits.ContactMinutes = new(12) }, schedule.ContactOver, []string{"Shorten inside to 12 minutes", "inside with control, not thud"}},
	} {
		s := evening()
		c.do(&s)
		for _, f := range of(t, s).Findings {
			if f.Code != c.code {
				continue
			}
			var say []string
			for _, m := range schedule.Mends(s, f, "new") {
				say = append(say, m.Say)
			}
			if c.want == nil {
				require.NotEmpty(t, say, c.name)
			} else {
				assert.Equal(t, c.want, say, c.name)
			}
			break
		}
	}
}

// BenchmarkFortyPeriodsOfFourteenGroups measures a script with a handful of findings, and one
// in which almost everything overlaps.
func BenchmarkFortyPeriodsOfFourteenGroups(b *testing.B) {
	for _, c := range []struct {
		name              string
		minutes, capacity int
	}{{"usual", 15, 14}, {"tangled", 25, 2}} {
		b.Run(c.name, func(b *testing.B) {
			s := schedule.Script{Minutes: 120, Limits: schedule.Shipped(), Places: []schedule.Stock{{Key: "north", Count: c.capacity}}, Equipment: []schedule.Stock{{Key: "chutes", Count: 3 * c.capacity}}}
			for g := range 14 {
				s.Groups = append(s.Groups, fmt.Sprintf("g%02d", g))
			}
			for i := range 40 {
				p := period(fmt.Sprintf("p%d", i), i/14*20, c.minutes, "individual", s.Groups[i%14])
				p.Contact, p.Place, p.Coaches, p.Equipment = practice.Contact(i%5), "north", []string{fmt.Sprintf("coach %d", i%c.capacity)}, map[string]int{"chutes": 3}
				s.Periods = append(s.Periods, p)
			}
			for b.Loop() {
				if _, err := schedule.Of(s); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestSomebodyIsTakenOut: who, or what, is at two places at once leaves one of them where nothing can be
// moved; the period that has most groups gives first.
func TestSomebodyIsTakenOut(t *testing.T) {
	full := func(a, b schedule.Period) schedule.Script { // an hour in which nothing has room to move
		a.Key, a.Minutes, a.Kind, b.Key, b.Minutes, b.Kind = "a", 60, "individual", "b", 60, "individual"
		return schedule.Script{Minutes: 60, Groups: []string{"ol", "te"}, Equipment: []schedule.Stock{{Key: "chutes", Count: 5}}, Periods: []schedule.Period{a, b}, Names: map[string]string{"ol": "OL", "te": "TE", "k": "Kell", "chutes": "chutes"}}
	}
	for _, c := range []struct {
		s    schedule.Script
		want []string
	}{
		{full(schedule.Period{Groups: []string{"ol"}}, schedule.Period{Groups: []string{"ol", "te"}}), []string{"Take OL out of b"}},
		{full(schedule.Period{Groups: []string{"ol"}, Coaches: []string{"k"}}, schedule.Period{Groups: []string{"te"}, Coaches: []string{"x", "k"}}), []string{"a without Kell", "b without Kell"}},
		{full(schedule.Period{Groups: []string{"ol"}, Equipment: map[string]int{"chutes": 4}}, schedule.Period{Groups: []string{"te"}, Equipment: map[string]int{"chutes": 3}}), []string{"a with 2 chutes", "b with 1 chutes"}},
	} {
		r, err := schedule.Of(c.s)
		require.NoError(t, err)
		require.Len(t, r.Findings, 1)
		var said []string
		for _, m := range schedule.Mends(c.s, r.Findings[0], "new") {
			said = append(said, m.Say)
			s := c.s
			s.Periods = m.Periods
			after, err := schedule.Of(s)
			require.NoError(t, err)
			require.NotContains(t, fmt.Sprint(after.Findings), string(r.Findings[0].Code))
		}
		require.Equal(t, c.want, said)
	}
}

// TestWhoWorksApart: kicking units are neither idle nor without water nor free to be put together, and have no lane until a
// period is theirs.
func TestWhoWorksApart(t *testing.T) {
	s := evening()
	groups := slices.Clone(s.Groups)
	s.Groups, s.Apart = append(s.Groups, "SP"), []string{"SP"}
	before := of(t, evening())
	r := of(t, s)
	assert.Equal(t, before.Findings, r.Findings)
	assert.Equal(t, before.SharedFree, r.SharedFree)
	for _, f := range r.Findings {
		for i, m := range schedule.Mends(s, f, "new") {
			assert.Equal(t, schedule.Mends(evening(), f, "new")[i].Say, m.Say)
		}
	}
	assert.Equal(t, groups, schedule.Lanes(s.Groups, s.Apart, s.Periods))
	s.Periods[0].Groups = append(slices.Clone(s.Periods[0].Groups), "SP")
	assert.Equal(t, s.Groups, schedule.Lanes(s.Groups, s.Apart, s.Periods))
	assert.Equal(t, before.Findings, of(t, s).Findings)
}
