package lawtest

import (
	"cmp"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/agreement"
	"nineyard/core/availability"
	"nineyard/core/complete"
	"nineyard/core/group"
	"nineyard/core/growth"
	"nineyard/core/ladder"
	"nineyard/core/marks"
	"nineyard/core/merge"
	"nineyard/core/needs"
	"nineyard/core/play"
	"nineyard/core/practice"
	"nineyard/core/roster"
	"nineyard/core/school"
	"nineyard/core/season"
	"nineyard/core/sound"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

var today = season.Must("2026-10-14")

// What rows are about. Few of each, so that rows meet.
var (
	player    = rapid.SampledFrom([]string{"14", "7", "64", "72"})
	technique = rapid.SampledFrom([]string{"base", "reach", "pull"})
	fault     = rapid.SampledFrom([]string{"high", "late", "wide"})
	day       = rapid.Custom(func(t *rapid.T) season.Date { return today - season.Date(rapid.IntRange(0, 60).Draw(t, "age")) })
)

func partOf(t *rapid.T, n int) int { return rapid.IntRange(0, n).Draw(t, "of") }

func must[T any](v T, err error) T {
	if err != nil {
		panic(err) // a row that the rule refuses: the generator is wrong
	}
	return v
}

func TestGrowth(t *testing.T) {
	Check(t, Rule[growth.Row, growth.Report]{
		Name: "estimates",
		Row: rapid.Custom(func(t *rapid.T) growth.Row {
			return growth.Row{Player: player.Draw(t, "player"), Technique: technique.Draw(t, "technique"), Date: day.Draw(t, "day"),
				Source: growth.Source(rapid.IntRange(0, 1).Draw(t, "source")), Side: growth.Side(rapid.IntRange(0, 2).Draw(t, "side")), Clean: rapid.IntRange(0, 12).Draw(t, "clean"), Faulty: rapid.IntRange(0, 12).Draw(t, "faulty")}
		}),
		Answer: func(rows []growth.Row, _ Names) growth.Report { return must(growth.Of(today, growth.Default(), rows)) },
		Rename: func(r growth.Row, name Names) growth.Row {
			r.Player, r.Technique = name(r.Player), name(r.Technique)
			return r
		},
		Renamed: func(r growth.Report, name Names) growth.Report {
			r.Rows, r.Players, r.Group = slices.Clone(r.Rows), slices.Clone(r.Players), slices.Clone(r.Group)
			for i := range r.Players {
				r.Players[i].Player = name(r.Players[i].Player)
			}
			for i := range r.Rows {
				r.Rows[i].Player, r.Rows[i].Technique = name(r.Rows[i].Player), name(r.Rows[i].Technique)
			}
			for i := range r.Group {
				r.Group[i].Technique = name(r.Group[i].Technique)
			}
			return r
		},
		Split: func(t *rapid.T, r growth.Row) []growth.Row {
			a, b := r, r
			a.Clean, a.Faulty = partOf(t, r.Clean), partOf(t, r.Faulty)
			b.Clean, b.Faulty = r.Clean-a.Clean, r.Faulty-a.Faulty
			return []growth.Row{a, b}
		},
	})
}

func TestMarks(t *testing.T) {
	faults := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) marks.Fault {
		return marks.Fault{Key: fault.Draw(t, "fault"), CausedBy: rapid.SampledFrom([]string{"", "7"}).Draw(t, "cause")}
	}), 0, 3)
	Check(t, Rule[marks.Mark, marks.Report]{
		Name: "grading",
		Row: rapid.Custom(func(t *rapid.T) marks.Mark {
			m := marks.Mark{Player: player.Draw(t, "player"), Weight: float64(rapid.IntRange(0, 3).Draw(t, "weight")), Graded: true, Values: map[string]float64{}, Faults: faults.Draw(t, "faults")}
			for _, facet := range []string{"assignment", "technique", "finish"} {
				if v := rapid.IntRange(-1, 1).Draw(t, facet); v >= 0 {
					m.Values[facet] = float64(v)
				}
			}
			for i := range m.Faults {
				if m.Faults[i].CausedBy == m.Player {
					m.Faults[i].CausedBy = ""
				}
			}
			if rapid.IntRange(0, 4).Draw(t, "unseen") == 0 {
				m.Graded, m.Reason = false, marks.Unseen
			}
			return m
		}),
		Answer: func(rows []marks.Mark, _ Names) marks.Report {
			r := must(marks.Grade(marks.Shipped(), rows))
			// Players stand in the order in which they appear: that order is told.
			slices.SortFunc(r.Players, func(a, b marks.Summary) int { return cmp.Compare(a.Player, b.Player) })
			return r
		},
		Rename: func(m marks.Mark, name Names) marks.Mark {
			m.Player, m.Faults = name(m.Player), slices.Clone(m.Faults)
			for i := range m.Faults {
				m.Faults[i] = marks.Fault{Key: name(m.Faults[i].Key), CausedBy: name(m.Faults[i].CausedBy)}
			}
			return m
		},
		Renamed: func(r marks.Report, name Names) marks.Report {
			all := append([]marks.Summary{r.Group}, r.Players...)
			for i := range all {
				all[i].Player = name(all[i].Player)
				for _, list := range []*[]marks.FaultCount{&all[i].Faults, &all[i].Caused} {
					*list = slices.Clone(*list)
					for j := range *list {
						(*list)[j].Key = name((*list)[j].Key)
					}
				}
			}
			return marks.Report{Group: all[0], Players: all[1:]}
		},
		// A mark worth two is two marks as they score, not as they count: only weightless ones
		// would split. Marks are one thing.
	})
	Check(t, Rule[marks.Fault, map[string]float64]{
		Name: "filling",
		Row: rapid.Custom(func(t *rapid.T) marks.Fault {
			return faults.Filter(func(f []marks.Fault) bool { return len(f) > 0 }).Draw(t, "f")[0]
		}),
		Answer: func(rows []marks.Fault, _ Names) map[string]float64 { return marks.Fill(nil, rows) },
		Rename: func(f marks.Fault, name Names) marks.Fault {
			return marks.Fault{Key: name(f.Key), CausedBy: name(f.CausedBy)}
		},
		Renamed: func(v map[string]float64, _ Names) map[string]float64 { return v },
		Split:   func(_ *rapid.T, f marks.Fault) []marks.Fault { return []marks.Fault{f, f} },
	})
}

// formed is a row of needs: reps, or a fault that was shown.
type formed struct {
	reps  *needs.Reps
	shown *needs.Shown
}

func TestNeeds(t *testing.T) {
	Check(t, Rule[formed, []needs.Need]{
		Name: "what hurts most",
		Row: rapid.Custom(func(t *rapid.T) formed {
			p, tech, on, n := player.Draw(t, "player"), technique.Draw(t, "technique"), day.Draw(t, "day"), rapid.IntRange(0, 12).Draw(t, "n")
			if rapid.Bool().Draw(t, "shown") {
				return formed{shown: &needs.Shown{Player: p, Technique: tech, Fault: fault.Draw(t, "fault"), On: on, CausedBy: rapid.SampledFrom([]string{"", "", "7"}).Draw(t, "cause"), N: n}}
			}
			return formed{reps: &needs.Reps{Player: p, Technique: tech, On: on, Game: rapid.SampledFrom([]string{"", "g1", "g2"}).Draw(t, "game"), Graded: rapid.Bool().Draw(t, "graded"), N: n}}
		}),
		Answer: func(rows []formed, name Names) []needs.Need {
			var reps []needs.Reps
			var shown []needs.Shown
			for _, r := range rows {
				if r.reps != nil {
					reps = append(reps, *r.reps)
				} else {
					shown = append(shown, *r.shown)
				}
			}
			in := needs.Form(today, reps, shown, []string{name("14"), name("64"), name("7")})
			in.Severity, in.Safety = map[string]float64{name("late"): 3, name("wide"): 2}, map[string]bool{name("high"): true}
			return must(needs.Rank(in))
		},
		Rename: func(r formed, name Names) formed {
			if r.reps != nil {
				x := *r.reps
				x.Player, x.Technique, x.Game = name(x.Player), name(x.Technique), name(x.Game)
				return formed{reps: &x}
			}
			x := *r.shown
			x.Player, x.Technique, x.Fault, x.CausedBy = name(x.Player), name(x.Technique), name(x.Fault), name(x.CausedBy)
			return formed{shown: &x}
		},
		Renamed: func(list []needs.Need, name Names) []needs.Need {
			list = slices.Clone(list)
			for i := range list {
				list[i].Fault, list[i].Technique, list[i].Players = name(list[i].Fault), name(list[i].Technique), slices.Clone(list[i].Players)
				for j := range list[i].Players {
					list[i].Players[j].Player = name(list[i].Players[j].Player)
				}
			}
			return list
		},
		Split: func(t *rapid.T, r formed) []formed {
			if r.reps != nil {
				a, b := *r.reps, *r.reps
				a.N = partOf(t, r.reps.N)
				b.N -= a.N
				return []formed{{reps: &a}, {reps: &b}}
			}
			a, b := *r.shown, *r.shown
			a.N = partOf(t, r.shown.N)
			b.N -= a.N
			return []formed{{shown: &a}, {shown: &b}}
		},
	})
	Check(t, Rule[needs.Use, needs.Input]{
		Name: "what will be needed",
		Row: rapid.Custom(func(t *rapid.T) needs.Use {
			return needs.Use{Player: player.Draw(t, "player"), Technique: technique.Draw(t, "technique"), N: rapid.IntRange(1, 30).Draw(t, "n")}
		}),
		Answer: func(rows []needs.Use, _ Names) needs.Input {
			var in needs.Input
			in.Exposure, in.Players = needs.Expect(rows, 3)
			return in
		},
		Rename: func(u needs.Use, name Names) needs.Use {
			u.Player, u.Technique = name(u.Player), name(u.Technique)
			return u
		},
		Renamed: func(in needs.Input, name Names) needs.Input {
			out := needs.Input{Exposure: map[string]float64{}}
			for k, v := range in.Exposure {
				out.Exposure[name(k)] = v
			}
			for _, p := range in.Players {
				out.Players = append(out.Players, needs.Player{Key: name(p.Key), SnapShare: p.SnapShare})
			}
			return out
		},
		Split: func(t *rapid.T, u needs.Use) []needs.Use {
			a, b := u, u
			a.N = partOf(t, u.N)
			b.N -= a.N
			return []needs.Use{a, b}
		},
	})
}

func TestLadder(t *testing.T) {
	stages := []string{"fit", "drive", "live"}
	gates := func(name Names) []ladder.Gate {
		return []ladder.Gate{{Key: name("fit"), Window: 4, Clean: 3}, {Key: name("drive"), Window: 6, Clean: 4, Sessions: 2, MaxSessions: 3}, {Key: name("live"), Window: 6, Clean: 5, FromWeek: 3}}
	}
	Check(t, Rule[ladder.Rep, ladder.Standing]{
		Name: "standing",
		Row: rapid.Custom(func(t *rapid.T) ladder.Rep {
			return ladder.Rep{Date: day.Draw(t, "day"), Stage: rapid.SampledFrom(stages).Draw(t, "stage"), Clean: rapid.Bool().Draw(t, "clean")}
		}),
		Answer: func(rows []ladder.Rep, name Names) ladder.Standing {
			return must(ladder.Of(ladder.Input{AsOf: today, SeasonStart: today - 45, Stages: gates(name), Reps: rows, Overrides: []ladder.Override{{Stage: name("drive"), On: today - 9}}}))
		},
		Rename: func(r ladder.Rep, name Names) ladder.Rep { r.Stage = name(r.Stage); return r },
		Renamed: func(s ladder.Standing, name Names) ladder.Standing {
			s.Current, s.Stages, s.Overexposed, s.Counting = name(s.Current), slices.Clone(s.Stages), slices.Clone(s.Overexposed), slices.Clone(s.Counting)
			for i := range s.Stages {
				s.Stages[i].Key = name(s.Stages[i].Key)
			}
			for i := range s.Overexposed {
				s.Overexposed[i] = name(s.Overexposed[i])
			}
			for i := range s.Counting {
				s.Counting[i].Stage = name(s.Counting[i].Stage)
			}
			return s
		},
		Together: func(r ladder.Rep) string { return r.Date.String() }, // reps of a day are told in their order
	})
	type holds = map[ladder.At]ladder.SafetyFault
	Check(t, Rule[ladder.SafetyFault, holds]{
		Name: "safety holds",
		Row: rapid.Custom(func(t *rapid.T) ladder.SafetyFault {
			return ladder.SafetyFault{Player: player.Draw(t, "player"), Technique: technique.Draw(t, "technique"), Fault: fault.Draw(t, "fault"), On: day.Draw(t, "day"),
				CausedBy: rapid.SampledFrom([]string{"", "7"}).Draw(t, "cause"), Shared: rapid.Bool().Draw(t, "shared")}
		}),
		Answer: func(rows []ladder.SafetyFault, _ Names) holds { return ladder.SafetyHolds(today, rows, nil) },
		Rename: func(f ladder.SafetyFault, name Names) ladder.SafetyFault {
			f.Player, f.Technique, f.Fault, f.CausedBy = name(f.Player), name(f.Technique), name(f.Fault), name(f.CausedBy)
			return f
		},
		Renamed: func(h holds, name Names) holds {
			out := holds{}
			for at, f := range h {
				f.Player, f.Technique, f.Fault = name(f.Player), name(f.Technique), name(f.Fault)
				to := ladder.At{Player: name(at.Player)}
				if at.Technique != "" {
					to.Technique = name(at.Technique)
				}
				if at.Fault != "" {
					to.Fault = name(at.Fault)
				}
				out[to] = f
			}
			return out
		},
		Split: func(_ *rapid.T, f ladder.SafetyFault) []ladder.SafetyFault { return []ladder.SafetyFault{f, f} },
	})
	Check(t, Rule[ladder.Player, int]{
		Name: "the group's stage",
		Row: rapid.Custom(func(t *rapid.T) ladder.Player {
			p := ladder.Player{Available: rapid.Bool().Draw(t, "available")}
			passed := rapid.IntRange(0, 3).Draw(t, "passed")
			for i := range 3 {
				p.Standing.Stages = append(p.Standing.Stages, ladder.StageStanding{Key: stages[i], Passed: i < passed})
			}
			return p
		}),
		Answer: func(rows []ladder.Player, _ Names) int { return ladder.GroupStage(3, rows) },
	})
}

func TestAvailability(t *testing.T) {
	Check(t, Rule[availability.Spell, string]{
		Name: "what a player may take part in",
		Row: rapid.Custom(func(t *rapid.T) availability.Spell {
			s := availability.Spell{Status: rapid.SampledFrom([]availability.Status{availability.Limited, availability.Out, availability.HeadHold}).Draw(t, "status"),
				From: today - 20 - season.Date(rapid.IntRange(-1, 4).Draw(t, "from")), Reason: rapid.SampledFrom([]string{"ankle", "exam"}).Draw(t, "reason")}
			if s.Status == availability.HeadHold && rapid.Bool().Draw(t, "cleared") {
				s.Cleared = &availability.Clearance{By: "Dr V. Aster", On: s.From + 5}
			} else if s.Status != availability.HeadHold && rapid.Bool().Draw(t, "ends") {
				s.To = new(s.From + season.Date(rapid.IntRange(0, 20).Draw(t, "days")))
			}
			return s
		}),
		Answer: func(rows []availability.Spell, _ Names) string {
			s, held := availability.On(rows, today-20)
			return fmt.Sprintf("%t %s %s %s %t", held, s.Status, s.From, s.Reason, s.To == nil)
		},
		Split: func(_ *rapid.T, s availability.Spell) []availability.Spell { return []availability.Spell{s, s} },
	})
}

func TestPractice(t *testing.T) {
	type room struct {
		Fits    bool
		Lengths []int
		New     practice.Placement
	}
	Check(t, Rule[practice.Placement, room]{
		Name: "making room",
		Max:  5,
		Row: rapid.Custom(func(t *rapid.T) practice.Placement { // in slots of six minutes, which do not meet
			return practice.Placement{Start: 6 * rapid.IntRange(0, 4).Draw(t, "slot"), Minutes: rapid.IntRange(1, 6).Draw(t, "minutes")}
		}),
		Distinct: func(p practice.Placement) string { return fmt.Sprint(p.Start) },
		Answer: func(rows []practice.Placement, _ Names) room {
			if err := practice.CheckPlacements(30, rows); err != nil {
				panic(err)
			}
			out, _, err := practice.Fit(30, rows, 8, 5, practice.KeepMinutes)
			if err != nil {
				return room{}
			}
			r := room{Fits: true, New: out[len(out)-1]}
			for _, p := range out {
				r.Lengths = append(r.Lengths, p.Minutes)
			}
			slices.Sort(r.Lengths)
			return r
		},
	})
}

func TestRoster(t *testing.T) {
	records := []roster.Record{{Number: 2, Fields: []string{"64", "Jun Sato"}}, {Number: 3, Fields: []string{"7", "Bo Lind"}}, {Number: 4, Fields: []string{"", "Ulf Ek"}}}
	Check(t, Rule[roster.Known, []roster.Line]{
		Name: "matching a list",
		Max:  8,
		Row: rapid.Custom(func(t *rapid.T) roster.Known {
			last := rapid.SampledFrom([]string{"Sato", "Lind", "Ek"}).Draw(t, "last")
			return roster.Known{Person: roster.Person{First: map[string]string{"Sato": "Jun", "Lind": "Bo", "Ek": "Ulf"}[last], Last: last, Jersey: fmt.Sprint(rapid.IntRange(1, 80).Draw(t, "number"))}}
		}),
		Distinct: func(k roster.Known) string { return k.Last + k.Jersey },
		Answer: func(rows []roster.Known, _ Names) []roster.Line {
			for i := range rows {
				rows[i].ID = rows[i].Last + rows[i].Jersey
			}
			return roster.Match(map[roster.Column]int{roster.ColJersey: 0, roster.ColName: 1}, records, rows)
		},
	})
}

func TestMerge(t *testing.T) {
	drill := func(key string) merge.Ref { return merge.Ref{Kind: "drill", Key: key} }
	keys := rapid.SampledFrom([]string{"gate", "mirror", "sled", "own_a", "own_b"})
	Check(t, Rule[merge.Change, map[merge.Ref]merge.Fields]{
		Name: "laying a club's changes over an edition",
		Row: rapid.Custom(func(t *rapid.T) merge.Change {
			key := keys.Draw(t, "key")
			return merge.Change{Ref: drill(key), Added: strings.HasPrefix(key, "own"), Retired: rapid.Bool().Draw(t, "retired"),
				Fields: map[string]merge.Edit{"name": {Base: "as shipped", Ours: rapid.StringMatching(`[a-c]{0,2}`).Draw(t, "ours")}}}
		}),
		Distinct: func(c merge.Change) string { return c.String() },
		Answer: func(rows []merge.Change, name Names) map[merge.Ref]merge.Fields {
			var edition []merge.Entry
			for _, k := range []string{"gate", "mirror", "sled"} {
				edition = append(edition, merge.Entry{Ref: drill(name(k)), Fields: merge.Fields{"name": "as shipped", "minutes": "5"}})
			}
			entries, _ := merge.Apply(edition, rows)
			out := map[merge.Ref]merge.Fields{}
			for _, e := range entries {
				out[e.Ref] = e.Fields
			}
			return out
		},
		Rename: func(c merge.Change, name Names) merge.Change { c.Key = name(c.Key); return c },
		Renamed: func(a map[merge.Ref]merge.Fields, name Names) map[merge.Ref]merge.Fields {
			out := map[merge.Ref]merge.Fields{}
			for r, f := range a {
				out[drill(name(r.Key))] = f
			}
			return out
		},
	})
}

func TestTeaching(t *testing.T) {
	issues := func(check func(*teaching.Library) []sound.Issue) func([]teaching.Drill, Names) []string {
		return func(rows []teaching.Drill, _ Names) []string {
			l := *teachingtest.Library()
			l.Drills = rows
			var says []string
			for _, i := range check(l.Link()) {
				says = append(says, i.Error())
			}
			slices.Sort(says)
			return says
		}
	}
	drills := rapid.Custom(func(t *rapid.T) teaching.Drill {
		d := rapid.SampledFrom(teachingtest.Library().Drills).Draw(t, "drill")
		// A copy has a name and words of its own: of two alike the later one is told.
		copied := fmt.Sprint(rapid.IntRange(0, 3).Draw(t, "copy"))
		d.Key, d.Name, d.Cautions = d.Key+"_"+copied, d.Name+copied, d.Key+copied
		if rapid.Bool().Draw(t, "spoilt") {
			d.Minutes, d.Watch = 0, ""
		}
		return d
	})
	key := func(d teaching.Drill) string { return d.Key }
	Check(t, Rule[teaching.Drill, []string]{Name: "soundness", Max: 8, Row: drills, Distinct: key, Answer: issues(sound.Check)})
	Check(t, Rule[teaching.Drill, []string]{Name: "completeness", Max: 8, Row: drills, Distinct: key, Answer: issues(complete.Check)})

	type choice struct{ question, school string }
	Check(t, Rule[choice, string]{
		Name: "choosing schools",
		Row: rapid.Custom(func(t *rapid.T) choice {
			q := rapid.SampledFrom(teachingtest.Library().Questions).Draw(t, "question")
			return choice{q.Key, rapid.SampledFrom(q.Schools).Draw(t, "school").Key}
		}),
		Distinct: func(c choice) string { return c.question },
		Answer: func(rows []choice, _ Names) string {
			l := teachingtest.Library()
			for _, c := range rows {
				l = school.Choose(l, c.question, c.school)
			}
			var keys []string
			for _, d := range school.Resolve(l).Drills {
				keys = append(keys, d.Key)
			}
			return strings.Join(keys, " ")
		},
		Split: func(_ *rapid.T, c choice) []choice { return []choice{c, c} },
	})
}

func TestGroups(t *testing.T) {
	Check(t, Rule[group.Group, []string]{
		Name:     "who coaches a position",
		Row:      rapid.SampledFrom(group.Usual()),
		Max:      len(group.Usual()),
		Distinct: func(g group.Group) string { return g.Key },
		Answer: func(rows []group.Group, _ Names) (found []string) {
			for _, p := range []string{"LG", "corner", "TE", "CB/S", "nobody", "Mike"} {
				key, _ := group.List(rows).ForPosition(p)
				found = append(found, key)
			}
			return found
		},
	})
}

// TestPlays: what a line of a list says does not hang on where in the list it stands, once its
// play is numbered.
func TestPlays(t *testing.T) {
	var header []string
	for _, c := range play.Columns() {
		header = append(header, string(c))
	}
	at := play.Guess(header)
	Check(t, Rule[play.Play, []string]{
		Name: "plays of a list", Max: 20,
		Row: rapid.Custom(func(t *rapid.T) play.Play {
			return play.Play{Number: rapid.IntRange(0, 30).Draw(t, "number"), Unit: group.Offense, Quarter: rapid.IntRange(0, 6).Draw(t, "quarter"),
				Call: rapid.SampledFrom([]string{"", "Base left", "Reach right"}).Draw(t, "call"), Gain: new(rapid.IntRange(-120, 120).Draw(t, "gain"))}
		}),
		Distinct: func(p play.Play) string { return fmt.Sprint(p.Number) },
		Answer: func(rows []play.Play, _ Names) (says []string) {
			list := make([]play.Row, len(rows))
			for i, p := range rows {
				list[i] = play.Row{Number: i + 1, Fields: play.Record(p)}
			}
			for _, l := range play.Read(list, at, group.Defense) {
				says = append(says, fmt.Sprintf("%+v %s %s", play.Record(l.Play), l.Column, l.Says))
			}
			slices.Sort(says)
			return says
		},
	})
}

func TestAgreement(t *testing.T) {
	for _, scale := range []agreement.Scale{agreement.Nominal, agreement.Ordinal} {
		facets := []string{"high", "late", "wide"}
		Check(t, Rule[agreement.Pair, agreement.Report]{
			Name: "agreement, " + string(scale),
			Row: rapid.Custom(func(t *rapid.T) agreement.Pair {
				return agreement.Pair{Facet: fault.Draw(t, "facet"), A: rapid.IntRange(0, 4).Draw(t, "a"), B: rapid.IntRange(0, 4).Draw(t, "b")}
			}),
			Answer: func(rows []agreement.Pair, name Names) agreement.Report {
				named := make([]string, len(facets))
				for i, f := range facets {
					named[i] = name(f)
				}
				return must(agreement.Of(scale, named, rows))
			},
			Rename: func(p agreement.Pair, name Names) agreement.Pair { p.Facet = name(p.Facet); return p },
			Renamed: func(r agreement.Report, name Names) agreement.Report {
				r.Facets = slices.Clone(r.Facets)
				for i := range r.Facets {
					r.Facets[i].Facet = name(r.Facets[i].Facet)
				}
				return r
			},
		})
	}
}

// TestEveryRuleIsHere: a package of core has its rules above, or a reason why it has none
// that the laws could see.
func TestEveryRuleIsHere(t *testing.T) {
	here := ""
	files, err := filepath.Glob("*_test.go")
	require.NoError(t, err)
	for _, f := range files {
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		here += string(text)
	}
	without := map[string]string{
		"change":     "it compares two moments; its own tests are its laws",
		"crew":       "counts, no rows",
		"invalid":    "the error of the others",
		"lawtest":    "the laws themselves",
		"legible":    "one text at a time",
		"reps":       "counts, no rows",
		"scripttext": "a text, whose order is told",
		"season":     "days, no rows",
		"standard":   "one measured value at a time",
		"term":       "one text at a time",
		"teaching":   "the types; their checks are sound, complete and school",
	}
	dirs, err := os.ReadDir("..")
	require.NoError(t, err)
	for _, d := range dirs {
		if _, none := without[d.Name()]; d.IsDir() && !none {
			assert.Contains(t, here, d.Name()+".", "no law is run for core/%s", d.Name())
		}
	}
}
