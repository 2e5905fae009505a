package quality

import (
	"fmt"
	"slices"

	"nineyard/core/crew"
	"nineyard/core/practice"
	"nineyard/core/teaching"
)

// Figure is a number of the library beside what it is to reach.
type Figure struct {
	Says   string
	Is     string
	Target string
	Met    bool
}

// Figures counts what the second edition is to reach, over all schools where it counts what there is, and as it is taught
// where it counts what is asked of a player.
func Figures(all, taught *teaching.Library, files int) []Figure {
	var out []Figure
	least := func(says string, is, target int) {
		out = append(out, Figure{says, fmt.Sprint(is), fmt.Sprintf("%d or more", target), is >= target})
	}
	most := func(says string, is, of, target int) {
		out = append(out, Figure{says, fmt.Sprintf("%d of %d", is, of), fmt.Sprintf("%d at most", target), is <= target})
	}
	share := func(says string, is, of int, target float64) {
		out = append(out, Figure{says, fmt.Sprintf("%d of %d", is, of), fmt.Sprintf("%.0f %% or more", 100*target), float64(is) >= target*float64(of)})
	}
	points, faults, stages := 0, len(all.Shared), 0
	groups := map[string]bool{}
	for _, t := range all.Techniques {
		points += len(t.Checkpoints)
		for _, f := range t.Faults {
			if !f.Shared {
				faults++
			}
		}
		for _, g := range t.Groups {
			groups[g] = true
		}
	}
	for _, l := range all.Ladders {
		stages += len(l.Stages)
	}
	least("techniques", len(all.Techniques), 180)
	least("checkpoints", points, 950)
	least("faults", faults, 650)
	least("drills", len(all.Drills), 300)
	least("stages", stages, 850)
	least("questions", len(all.Questions), 33)
	most("techniques without a ladder", len(all.Techniques)-len(all.Ladders), len(all.Techniques), 0)
	least("groups", len(groups), 10)
	least("files", files, 12)
	least("tables", len(all.Tables), 18)

	l := &looker{Library: taught}
	safe := 0
	for _, f := range all.Shared {
		if f.Safety {
			safe++
		}
	}
	least("shared safety faults", safe, 14)
	contact, bare := 0, 0
	for _, t := range taught.Techniques {
		if l.touches(t.Key, practice.Control) {
			contact++
			if !slices.ContainsFunc(t.Faults, func(f teaching.Fault) bool { return f.Safety }) {
				bare++
			}
		}
	}
	most("techniques drilled at control or more without a safety fault", bare, contact, 0)

	eye, three, two := 0, 0, 0
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		if c.Measure == nil {
			eye++
			if len(c.Words) >= 3 {
				three++
			}
			if len(c.Right) == 2 {
				two++
			}
		}
	})
	share("eye judgements with three words or more", three, eye, .85)
	least("eye judgements with two right answers", two, 12)
	n := 0
	l.points(func(teaching.Technique, teaching.Checkpoint) { n++ })
	open := len(broken(taught, "C21"))
	out = append(out, Figure{"checkpoints without a fault", fmt.Sprintf("%d of %d", open, n), "10 % at most", 10*open <= n})

	kinds := map[string][2]int{} // look and group drills: how many, and how many with cards enough
	seen := map[string]bool{}
	alone := map[string][2]int{}
	trained := map[string]bool{}
	for _, ld := range taught.Ladders {
		t, _ := taught.Technique(ld.Technique)
		for _, s := range ld.Stages {
			if !live(s) {
				continue
			}
			shows := 0
			for _, c := range t.Checkpoints {
				for _, p := range l.placed(teaching.Ladder{Stages: []teaching.Stage{s}}) {
					if slices.Contains(p.drill.Trains, c.Key) {
						trained[c.Key] = true
						shows++
						break
					}
				}
			}
			a := alone[s.Kind]
			a[1]++
			if shows <= 1 {
				a[0]++
			}
			alone[s.Kind] = a
		}
		for _, p := range l.placed(ld) {
			if live(p.stage) && !seen[p.drill.Key] {
				seen[p.drill.Key] = true
				k := kinds[p.stage.Kind]
				k[1]++
				if len(p.drill.Cards) >= 4 || p.stage.Kind == teaching.Group && p.drill.Shows == teaching.ShowsEach {
					k[0]++
				}
				kinds[p.stage.Kind] = k
			}
		}
	}
	share("look drills with four cards or more", kinds[teaching.Look][0], kinds[teaching.Look][1], 1)
	share("group drills with cards, or showing each technique", kinds[teaching.Group][0], kinds[teaching.Group][1], 1)
	most("look stages that train one checkpoint of their technique", alone[teaching.Look][0], alone[teaching.Look][1], 0)
	most("group stages that train one checkpoint of their technique", alone[teaching.Group][0], alone[teaching.Group][1], 0)
	share("checkpoints that look or group drills show", len(trained), n, .8)

	told, few, side := 0, 0, 0
	for _, d := range taught.Drills {
		if d.Start != "" && d.Rotation != "" && d.Ends != "" && d.Coach.Side != "" && d.Coach.Yards > 0 {
			told++
		}
		t, _ := taught.Technique(d.Technique)
		y, want := usual(d, groupOf(t)), l.leastReps(d)
		if y.PerPlayer.Min < want {
			few++
		}
		if d.Sides == 2 && float64(y.PerPlayer.Min)/2 < 2.5 && want == 6 {
			side++
		}
	}
	share("drills with start, rotation, end and the coach's side and distance", told, len(taught.Drills), 1)
	most("drills with too few reps a player", few, len(taught.Drills), 0)
	most("drills with too few reps to a side", side, len(taught.Drills), 0)
	most("drills whose equipment differs from the drawing", len(broken(taught, "C9")), len(taught.Drills), 0)
	most("struck roles on air", struckOnAir(taught), len(taught.Drills), 0)

	caps, freezes, high := 0, 0, 0
	for _, ld := range taught.Ladders {
		began := false
		for _, p := range l.placed(ld) {
			if c, err := practice.ParseContact(p.drill.Contact); !began && err == nil && c > practice.Bag {
				high++
			}
			began = true
		}
		for _, s := range ld.Stages {
			if s.Kind == teaching.Steps && s.MaxSessions > 0 || s.Kind == teaching.Fit && s.MaxSessions > 3 {
				caps++
			}
			if s.Kind == teaching.Freeze && s.MaxSessions != 1 {
				freezes++
			}
		}
	}
	most("steps with a limit, fits of more than three days", caps, stages, 0)
	most("freezes of more than a day", freezes, stages, 0)
	most("ladders that begin above a bag", high, len(taught.Ladders), 0)
	shares, clocks, fixed := 0, 0, 0
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		if m := c.Measure; m != nil {
			if m.Unit == "pct" && m.Read == "mark" {
				shares++
			}
			if m.Read == "clock" && m.Target < 1 {
				clocks++
			}
		}
	})
	fixed = len(broken(taught, "C6"))
	most("shares read off a mark", shares, n, 0)
	most("clocks under a second", clocks, n, 0)
	most("standards “by the call” with one number", fixed, n, 0)

	for _, g := range Groups {
		b, daily, minutes := budgetOf(taught, g), 0, 0
		for _, d := range taught.Drills {
			if t, _ := taught.Technique(d.Technique); groupOf(t) == g && d.Daily {
				daily++
				minutes += d.Minutes
			}
		}
		out = append(out, Figure{g + ": core techniques, minutes for look and group, for all stages, of thud", fmt.Sprintf("%d, %.0f, %.0f, %.0f", b.ladders, b.live, b.all, b.thud), "1–18, 150, 360, 60",
			b.ladders > 0 && b.ladders <= 18 && b.fits()})
		out = append(out, Figure{g + ": everyday drills and their minutes", fmt.Sprintf("%d, %d", daily, minutes), "2–5, 8", daily >= 2 && daily <= 5 && minutes <= 8})
	}
	cannot, few := small(taught)
	most(fmt.Sprintf("drills that %d players with %d bags and one coach cannot run", smallPlayers, smallBags), len(cannot), len(taught.Drills), 0)
	most("drills that give such a group fewer than three reps a player", few, len(taught.Drills), len(taught.Drills)/50)
	return out
}

func broken(lib *teaching.Library, id string) []string {
	for _, r := range rules() {
		if r.id == id {
			l := &looker{Library: lib}
			r.look(l)
			return l.broken
		}
	}
	return nil
}

// small is a group with little: nine players (or its usual number, when that is less), five bags or shields, and one coach.
const (
	smallPlayers = 9
	smallBags    = 5
)

// small lists the drills that such a group cannot run, and of how many a player gets fewer than three reps in their usual
// minutes, in as many lanes as its bags allow.
func small(lib *teaching.Library) (cannot []string, few int) {
	for _, d := range lib.Drills {
		switch _, each := runs(d, min(smallPlayers, crew.UsualPlayers(d.Groups[0])), d.Minutes); {
		case each.Max == 0:
			cannot = append(cannot, d.Key)
		case each.Min < 3:
			few++
		}
	}
	return cannot, few
}

func struckOnAir(lib *teaching.Library) (n int) {
	for _, d := range lib.Drills {
		if slices.ContainsFunc(d.Help, func(h teaching.Help) bool { return h.Contact == practice.Air.String() && hits.MatchString(h.Role) }) {
			n++
		}
	}
	return n
}
