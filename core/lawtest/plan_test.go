package lawtest

import (
	"cmp"
	"fmt"
	"reflect"
	"slices"
	"testing"

	"pgregory.net/rapid"

	"nineyard/core/call"
	"nineyard/core/clip"
	"nineyard/core/conditions"
	"nineyard/core/cut"
	"nineyard/core/feedback"
	"nineyard/core/lineup"
	"nineyard/core/load"
	"nineyard/core/marklist"
	"nineyard/core/marks"
	"nineyard/core/pace"
	"nineyard/core/palette"
	"nineyard/core/play"
	"nineyard/core/practice"
	"nineyard/core/readiness"
	"nineyard/core/replan"
	"nineyard/core/schedule"
	"nineyard/core/season"
	"nineyard/core/suggest"
)

// TestSchedule: what is wrong with a script does not hang on the order in which its periods are
// written, but for which of two that begin together is named.
func TestSchedule(t *testing.T) {
	groups := []string{"14", "64", "7", "72"}
	type answer struct {
		Found   []string
		Free    []schedule.Free
		Shared  []schedule.Free
		Contact map[string]int
	}
	Check(t, Rule[schedule.Period, answer]{
		Name: "schedule", Max: 8,
		Row: rapid.Custom(func(t *rapid.T) schedule.Period {
			return schedule.Period{Key: rapid.StringMatching(`[a-z]{2}`).Draw(t, "key"), Start: rapid.IntRange(-3, 40).Draw(t, "start"), Minutes: rapid.IntRange(1, 20).Draw(t, "minutes"),
				Kind: rapid.SampledFrom([]string{"warm_up", "team", "water"}).Draw(t, "kind"), Contact: practice.Contact(rapid.IntRange(0, 4).Draw(t, "contact")),
				Groups: rapid.SliceOfDistinct(player, func(g string) string { return g }).Draw(t, "groups"), Place: "north"}
		}),
		Distinct: func(p schedule.Period) string { return p.Key },
		Answer: func(rows []schedule.Period, name Names) answer {
			s := schedule.Script{Minutes: 45, Limits: schedule.Shipped(), Periods: rows, Places: []schedule.Stock{{Key: "north", Count: 1}}}
			for _, g := range groups {
				s.Groups = append(s.Groups, name(g))
			}
			r := must(schedule.Of(s))
			a := answer{Free: r.Free, Shared: r.SharedFree, Contact: r.Contact}
			for _, f := range r.Findings {
				if slices.Sort(f.Periods); f.Code == schedule.NoWarmUp {
					f.Periods = nil
				}
				a.Found = append(a.Found, fmt.Sprint(f.Code, f.Periods, f.Groups, f.Span.Start))
			}
			slices.Sort(a.Found)
			return a
		},
	})
}

// TestReplan: what can be kept is worth the same however the periods are ordered and called.
func TestReplan(t *testing.T) {
	Check(t, Rule[replan.Period, []float64]{
		Name: "replan", Max: 10,
		Row: rapid.Custom(func(t *rapid.T) replan.Period {
			p := replan.Period{Key: rapid.StringMatching(`[a-z]{2}`).Draw(t, "key"), Planned: rapid.IntRange(1, 20).Draw(t, "planned"), Droppable: rapid.Bool().Draw(t, "droppable"), Value: rapid.Float64Range(0, 9).Draw(t, "value")}
			p.Min = rapid.IntRange(0, min(p.Planned, 4)).Draw(t, "min")
			return p
		}),
		Distinct: func(p replan.Period) string { return p.Key },
		Answer: func(rows []replan.Period, _ Names) []float64 {
			plan := must(replan.Of(50, rows))
			return []float64{plan.Value, plan.FullValue}
		},
		Rename:  func(p replan.Period, name Names) replan.Period { p.Key = name(p.Key); return p },
		Renamed: func(a []float64, _ Names) []float64 { return a },
	})
}

// TestPace: sessions are what their days say, in whatever order they are known.
func TestPace(t *testing.T) {
	Check(t, Rule[pace.Session, pace.Forecast]{
		Name: "pace", Max: 8,
		Row: rapid.Custom(func(t *rapid.T) pace.Session {
			return pace.Session{Date: day.Draw(t, "day"), Reps: rapid.IntRange(0, 6).Draw(t, "reps")}
		}),
		Distinct: func(s pace.Session) string { return s.Date.String() },
		Answer: func(rows []pace.Session, _ Names) pace.Forecast {
			if len(rows) == 0 {
				return pace.Forecast{}
			}
			slices.SortFunc(rows, func(a, b pace.Session) int { return cmp.Compare(a.Date, b.Date) })
			return must(pace.Of(pace.Input{Stages: []pace.Stage{{Key: "a", Window: 4, Clean: 3, Sessions: 2}, {Key: "b", Window: 3, Clean: 2, Sessions: 1}}, CleanRate: 0.7, Sessions: rows}))
		},
	})
}

// TestLineUp: how much a player plays does not hang on the order in which spots are written.
func TestLineUp(t *testing.T) {
	type row struct {
		Spot string
		lineup.Place
	}
	Check(t, Rule[row, map[string]int]{
		Name: "shares of a line-up",
		Row: rapid.Custom(func(t *rapid.T) row {
			return row{rapid.SampledFrom([]string{"LG", "C"}).Draw(t, "spot"), lineup.Place{Player: player.Draw(t, "player"), Share: rapid.IntRange(0, 20).Draw(t, "share")}}
		}),
		Answer: func(rows []row, _ Names) map[string]int {
			var l lineup.LineUp
			for _, r := range rows {
				l = append(l, lineup.Spot{Name: r.Spot, Players: []lineup.Place{r.Place}})
			}
			return l.Shares()
		},
		Rename: func(r row, name Names) row { r.Player = name(r.Player); return r },
		Renamed: func(m map[string]int, name Names) map[string]int {
			out := map[string]int{}
			for k, v := range m {
				out[name(k)] = v
			}
			return out
		},
		Split: func(t *rapid.T, r row) []row {
			a, b := r, r
			a.Share = partOf(t, r.Share)
			b.Share -= a.Share
			return []row{a, b}
		},
	})
}

// TestCall: how often a technique is needed does not hang on the order of the calls, nor on one
// being written as two.
func TestCall(t *testing.T) {
	Check(t, Rule[call.Call, map[string]int]{
		Name: "exposure to calls", Max: 10,
		Row: rapid.Custom(func(t *rapid.T) call.Call {
			c := call.Call{Share: rapid.IntRange(0, 30).Draw(t, "share")}
			for range rapid.IntRange(1, 3).Draw(t, "needs") {
				c.Needs = append(c.Needs, call.Need{Group: rapid.SampledFrom([]string{"ol", "te"}).Draw(t, "group"), Technique: technique.Draw(t, "technique")})
			}
			return c
		}),
		Answer: func(rows []call.Call, _ Names) map[string]int { return call.Exposure(rows, "ol") },
		Split: func(t *rapid.T, c call.Call) []call.Call {
			a, b := c, c
			a.Share = partOf(t, c.Share)
			b.Share -= a.Share
			return []call.Call{a, b}
		},
	})
}

// TestReadiness: a call is as ready whatever the order of its needs, and a player who is named in
// two shares is one.
func TestReadiness(t *testing.T) {
	days := []season.Date{today, today + 1, today + 2}
	install := today + 2
	Check(t, Rule[readiness.Runner, readiness.Answer]{
		Name: "readiness at a spot", Max: 8,
		Row: rapid.Custom(func(t *rapid.T) readiness.Runner {
			w := readiness.Way{CleanRate: .6, PerPractice: rapid.IntRange(0, 4).Draw(t, "per"), Left: []pace.Stage{{Key: "a", Window: 3, Clean: 2, Sessions: 1}}}
			return readiness.Runner{Share: rapid.IntRange(2, 30).Draw(t, "share"), Track: must(w.Track(days))}
		}),
		Answer: func(rows []readiness.Runner, _ Names) readiness.Answer {
			return readiness.Of(days, &install, []readiness.Need{{Spots: [][]readiness.Runner{rows}}})
		},
		Split: func(t *rapid.T, r readiness.Runner) []readiness.Runner {
			a, b := r, r
			a.Share = 1 + partOf(t, r.Share-2)
			b.Share -= a.Share
			return []readiness.Runner{a, b}
		},
	})
}

// TestLoad: what a week asks does not hang on the order of its drills, nor on one being written as
// two.
func TestLoad(t *testing.T) {
	Check(t, Rule[load.Given, []load.Line]{
		Name: "planned reps",
		Row: rapid.Custom(func(t *rapid.T) load.Given {
			return load.Given{Player: player.Draw(t, "player"), Week: rapid.IntRange(2, 8).Draw(t, "week"), Reps: float64(rapid.IntRange(2, 40).Draw(t, "reps")), High: rapid.Bool().Draw(t, "high")}
		}),
		Answer: func(rows []load.Given, _ Names) []load.Line { return load.Of(7, rows) },
		Rename: func(g load.Given, name Names) load.Given { g.Player = name(g.Player); return g },
		Renamed: func(list []load.Line, name Names) []load.Line {
			out := slices.Clone(list)
			for i := range out {
				out[i].Player = name(out[i].Player)
			}
			return out
		},
		Split: func(t *rapid.T, g load.Given) []load.Given {
			a, b := g, g
			a.Reps = float64(1 + partOf(t, int(g.Reps)-2))
			b.Reps -= a.Reps
			return []load.Given{a, b}
		},
	})
}

// TestPalette: what comes first is what is usual, whoever counts and however faults are called.
func TestPalette(t *testing.T) {
	faults := []string{"f1", "f2", "f3"}
	named := func(list []string, name Names) []string {
		out := slices.Clone(list)
		for i := range out {
			out[i] = name(out[i])
		}
		return out
	}
	Check(t, Rule[palette.Count, []palette.Palette]{
		Name: "the palette of a technique",
		Row: rapid.Custom(func(t *rapid.T) palette.Count {
			return palette.Count{Player: player.Draw(t, "player"), Technique: rapid.SampledFrom([]string{"base", "reach"}).Draw(t, "technique"),
				Fault: rapid.SampledFrom(faults).Draw(t, "fault"), N: float64(rapid.IntRange(2, 20).Draw(t, "n"))}
		}),
		Answer: func(rows []palette.Count, name Names) []palette.Palette {
			return palette.Of(name("base"), named(faults, name), rows)
		},
		Rename: func(c palette.Count, name Names) palette.Count {
			return palette.Count{Player: name(c.Player), Technique: name(c.Technique), Fault: name(c.Fault), N: c.N}
		},
		Renamed: func(list []palette.Palette, name Names) []palette.Palette {
			out := slices.Clone(list)
			for i := range out {
				out[i] = palette.Palette{Player: name(out[i].Player), Technique: name(out[i].Technique), Faults: named(out[i].Faults, name)}
			}
			return out
		},
		Split: func(t *rapid.T, c palette.Count) []palette.Count {
			a, b := c, c
			a.N = float64(1 + partOf(t, int(c.N)-2))
			b.N -= a.N
			return []palette.Count{a, b}
		},
	})
}

// TestSuggest: drills are suggested in the same order however they are known.
func TestSuggest(t *testing.T) {
	Check(t, Rule[suggest.Drill, []suggest.Suggestion]{
		Name: "suggestions", Max: 20,
		Row: rapid.Custom(func(t *rapid.T) suggest.Drill {
			return suggest.Drill{Key: rapid.StringMatching(`[a-z]{2}`).Draw(t, "key"), WorksOn: []string{fault.Draw(t, "fault")}, Reps: rapid.IntRange(0, 2).Draw(t, "reps"), SelfCheck: rapid.Bool().Draw(t, "self")}
		}),
		Distinct: func(d suggest.Drill) string { return d.Key },
		Answer: func(rows []suggest.Drill, _ Names) []suggest.Suggestion {
			return suggest.Of(suggest.Input{Drills: rows, Alone: true, Needs: []suggest.Need{{Fault: "late", Name: "Late", Safety: true}, {Fault: "high", Name: "High"}}})
		},
	})
}

// TestConditions: on which day of his way back a player is does not hang on the order of his
// absences, nor on one being written as two that touch.
func TestConditions(t *testing.T) {
	first, _ := conditions.Shipped()
	first.AbsenceDays = 5
	practices := []season.Date{today - 20, today - 12, today - 9, today - 6, today - 3, today}
	Check(t, Rule[conditions.Absence, string]{
		Name: "the way back", Max: 4,
		Row: rapid.Custom(func(t *rapid.T) conditions.Absence {
			from := today - season.Date(rapid.IntRange(1, 30).Draw(t, "from"))
			return conditions.Absence{From: from, To: from + season.Date(rapid.IntRange(0, 12).Draw(t, "days"))}
		}),
		Answer: func(rows []conditions.Absence, _ Names) string {
			r, back := first.Returning(practices, rows, today)
			return fmt.Sprint(r, back)
		},
		Split: func(t *rapid.T, a conditions.Absence) []conditions.Absence {
			if a.To == a.From {
				return []conditions.Absence{a, a}
			}
			at := a.From + season.Date(partOf(t, int(a.To-a.From)-1))
			return []conditions.Absence{{From: a.From, To: at}, {From: at + 1, To: a.To}}
		},
	})
}

// TestCutsFollowTheLaws: the order of the marks on a play does not matter to a cut-up.
func TestCutsFollowTheLaws(t *testing.T) {
	asked := must(cut.Parse("64 at fault, not praise"))
	rapid.Check(t, func(t *rapid.T) {
		marks := rapid.SliceOf(rapid.Custom(func(t *rapid.T) cut.Mark {
			return cut.Mark{Jersey: rapid.SampledFrom([]string{"64", "70"}).Draw(t, "jersey"), Faults: rapid.SliceOfN(rapid.Just("Leans"), 0, 1).Draw(t, "faults"), Praise: rapid.Bool().Draw(t, "praise")}
		})).Draw(t, "marks")
		turned := slices.Clone(marks)
		slices.Reverse(turned)
		if asked.Matches(play.Play{}, marks) != asked.Matches(play.Play{}, turned) {
			t.Fatal("the order matters")
		}
	})
}

// TestFeedbackFollowsTheLaws: the order of the marks does not matter, and what is marked of others changes no count of his.
func TestFeedbackFollowsTheLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := 0
		rows := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) feedback.Seen {
			n++
			return feedback.Seen{Player: player.Draw(t, "player"), Play: fmt.Sprint(n), Number: n, Technique: technique.Draw(t, "technique"), Look: "odd", Praise: rapid.Bool().Draw(t, "praise"),
				Verdict: marks.Verdict{Graded: true, Clean: rapid.Bool().Draw(t, "clean")}, Faults: rapid.SliceOfN(fault, 0, 1).Draw(t, "faults")}
		}), 0, 12).Draw(t, "rows")
		turned := slices.Clone(rows)
		slices.Reverse(turned)
		told := feedback.Of("14", rows, nil)
		if !reflect.DeepEqual(told, feedback.Of("14", turned, nil)) {
			t.Fatal("the order matters")
		}
		his := feedback.Of("14", slices.DeleteFunc(slices.Clone(rows), func(s feedback.Seen) bool { return s.Player != "14" }), nil)
		for i, f := range his.Fixes {
			if told.Fixes[i].N != f.N || told.Fixes[i].Graded != f.Graded || told.Fixes[i].Fault != f.Fault {
				t.Fatal("others' marks count for him")
			}
		}
	})
}

// TestMarkListsFollowTheLaws: a line of a list of marks says the same wherever it stands.
func TestMarkListsFollowTheLaws(t *testing.T) {
	at := marklist.Guess([]string{"play", "number", "state", "assignment", "faults", "praise"})
	rapid.Check(t, func(t *rapid.T) {
		n := 0
		rows := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) marklist.Row {
			n++
			return marklist.Row{Number: n, Fields: []string{fmt.Sprint(n), player.Draw(t, "player"), rapid.SampledFrom([]string{"looked", "unseen", "?"}).Draw(t, "state"),
				rapid.SampledFrom([]string{"", "0", "1", "2"}).Draw(t, "assignment"), rapid.SampledFrom([]string{"", "Leans", "Leans (by 7) !"}).Draw(t, "faults"), rapid.SampledFrom([]string{"", "yes"}).Draw(t, "praise")}}
		}), 0, 12).Draw(t, "rows")
		said := marklist.Read(rows, at)
		slices.Reverse(rows)
		turned := marklist.Read(rows, at)
		slices.Reverse(turned)
		if !reflect.DeepEqual(said, turned) {
			t.Fatal("the order matters")
		}
	})
}

// TestClipsFollowTheLaws: what lies in a video lies in a longer one, and so does every part of it.
func TestClipsFollowTheLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		frame := rapid.IntRange(0, 400)
		c := clip.Clip{First: frame.Draw(t, "first"), Last: frame.Draw(t, "last")}
		frames, rate := rapid.IntRange(1, 400).Draw(t, "frames"), clip.Rate{Num: rapid.SampledFrom([]int{1, 30, 30000}).Draw(t, "rate"), Den: rapid.SampledFrom([]int{1, 1001}).Draw(t, "of")}
		if c.Check(frames, rate) != nil {
			return
		}
		if err := c.Check(frames+partOf(t, 100), rate); err != nil {
			t.Fatal("not in a longer one:", err)
		}
		part := c
		part.First += partOf(t, c.Last-c.First)
		part.Last -= partOf(t, c.Last-part.First)
		if err := part.Check(frames, rate); err != nil {
			t.Fatal("not a part of it:", err)
		}
	})
}
