package quality

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/crew"
	"nineyard/core/practice"
	"nineyard/core/reps"
	"nineyard/core/teaching"
)

// enough is C1.
func enough(l *looker) {
	for _, ld := range l.Ladders {
		t, _ := l.Technique(ld.Technique)
		for _, p := range l.placed(ld) {
			if !live(p.stage) {
				continue
			}
			working := p.drill.Working
			for _, c := range p.drill.Cards {
				if len(c.Men) == 2 && asks(c, t.Key) {
					working = max(working, c.Men[0])
				}
			}
			if need := max(t.Players, 1); working < need {
				l.fail("drill", p.drill.Key, "%d work, %s takes %d", working, t.Key, need)
			}
			for _, with := range t.With {
				if !has(p.drill, with) {
					l.fail("drill", p.drill.Key, "%s cannot be shown without a %s", t.Key, with)
				}
			}
		}
	}
}

// asks reports whether a card asks for a technique.
func asks(c teaching.Card, technique string) bool {
	if c.Asks == technique {
		return true
	}
	for _, k := range c.Each {
		if k == technique {
			return true
		}
	}
	return false
}

// has reports whether something or somebody is in a drill besides the players who show its technique.
func has(d teaching.Drill, what string) bool {
	if what == "ball" {
		return d.Setup.Count("ball") > 0 || d.Equipment.Total(1)["ball"] > 0
	}
	for _, h := range d.Help {
		if strings.Contains(strings.ToLower(h.Role), what) {
			return true
		}
	}
	for _, t := range d.Setup.Things {
		if strings.Contains(strings.ToLower(t.Says), what) {
			return true
		}
	}
	return false
}

// cards is C2.
func cards(l *looker) {
	seen := map[string]bool{}
	for _, ld := range l.Ladders {
		for _, p := range l.placed(ld) {
			if !live(p.stage) || seen[p.drill.Key] {
				continue
			}
			seen[p.drill.Key] = true
			if n := len(p.drill.Cards); n < 4 && (p.stage.Kind == teaching.Look || p.drill.Shows != teaching.ShowsEach) {
				l.fail("drill", p.drill.Key, "%d cards", n)
			}
		}
	}
	for _, d := range l.Drills {
		for _, c := range d.Cards {
			wanted := []string{}
			if c.Asks != "" {
				wanted = append(wanted, c.Asks)
			}
			for _, k := range c.Each {
				wanted = append(wanted, k)
			}
			if len(wanted) == 0 {
				l.fail("drill", d.Key, "card %s asks for nothing", c.Key)
			}
			invited := c.Invites == ""
			for _, k := range wanted {
				if !l.stands(k, d.Key) {
					l.fail("drill", d.Key, "card %s asks for %s, which has no stage with it", c.Key, k)
				}
				if _, ok := l.FaultOf(k, c.Invites); ok {
					invited = true
				}
			}
			if !invited {
				l.fail("drill", d.Key, "card %s invites %s, which is no fault of what it asks for", c.Key, c.Invites)
			}
		}
	}
}

// stands reports whether a technique's ladder has a stage with a drill.
func (l *looker) stands(technique, drill string) bool {
	ld, ok := l.LadderOf(technique)
	return ok && slices.ContainsFunc(l.placed(ld), func(p placed) bool { return p.drill.Key == drill })
}

// shown is C3.
func shown(l *looker) {
	for _, t := range l.Techniques {
		ld, ok := l.LadderOf(t.Key)
		if !ok {
			l.fail("technique", t.Key, "no ladder")
			continue
		}
		trained := map[string]bool{}
		for _, p := range l.placed(ld) {
			if live(p.stage) {
				for _, k := range p.drill.Trains {
					trained[k] = true
				}
			}
		}
		n := 0
		for _, c := range t.Checkpoints {
			if trained[c.Key] {
				n++
			}
		}
		if 5*n < 4*len(t.Checkpoints) {
			l.fail("technique", t.Key, "%d of %d checkpoints are trained against the look or in the group", n, len(t.Checkpoints))
		}
	}
	for _, d := range l.Drills {
		for _, k := range d.WorksOn {
			points := []string{}
			for _, t := range d.Techniques {
				if f, ok := l.FaultOf(t, k); ok {
					points = append(points, f.Checkpoint)
				}
			}
			if !slices.ContainsFunc(points, func(p string) bool { return slices.Contains(d.Trains, p) }) {
				l.fail("drill", d.Key, "works on %s and does not train its checkpoint", k)
			}
		}
	}
}

// headFault reports whether a technique has a shared head fault.
func (l *looker) headFault(technique string) bool {
	t, _ := l.Technique(technique)
	return slices.ContainsFunc(t.Faults, teaching.Fault.Head)
}

// heads is C4.
func heads(l *looker) {
	for _, t := range l.Techniques {
		if !l.touches(t.Key, practice.Bag) {
			continue
		}
		if !l.headFault(t.Key) {
			l.fail("technique", t.Key, "contact without a shared head fault")
		}
	}
	for _, d := range l.Drills {
		if c, err := practice.ParseContact(d.Contact); err != nil || c < practice.Control {
			continue
		}
		trains, works := false, false
		for _, k := range d.Techniques {
			t, _ := l.Technique(k)
			for _, f := range t.Faults {
				if f.Head() {
					works = works || slices.Contains(d.WorksOn, f.Key)
					trains = trains || slices.Contains(d.Trains, f.Checkpoint)
				}
			}
		}
		if !trains || !works {
			l.fail("drill", d.Key, "%s without training and working on where the head is", d.Contact)
		}
	}
}

// touches reports whether a technique is drilled at a contact level or above.
func (l *looker) touches(technique string, least practice.Contact) bool {
	ld, _ := l.LadderOf(technique)
	return slices.ContainsFunc(l.placed(ld), func(p placed) bool {
		c, err := practice.ParseContact(p.drill.Contact)
		return err != nil || c >= least
	})
}

// drawable are the things of a drawing that are equipment.
var drawable = []string{"cone", "bag", "ball", "board", "chute", "rope", "sled", "shield", "wheel", "mat", "hoop", "net", "target"}

// gear is what a text speaks of and a list has to bring: a word, and what of the list it may be. A line that is drawn
// may be chalk.
var gear = []struct {
	word *regexp.Regexp
	is   []string
}{
	{regexp.MustCompile(`(?i)\bcloths?\b`), []string{"cloth"}},
	{regexp.MustCompile(`(?i)\btaped?\b`), []string{"tape"}},
	{regexp.MustCompile(`(?i)\bsticks?\b`), []string{"stick"}},
	{regexp.MustCompile(`(?i)\bropes?\b`), []string{"rope"}},
	{regexp.MustCompile(`(?i)\bboards?\b`), []string{"board"}},
	{regexp.MustCompile(`(?i)\bcones?\b`), []string{"cone"}},
	{regexp.MustCompile(`(?i)\b(stripes?|chalk(ed)?)\b`), []string{"stripe", "tape", "line", "spot"}},
	{regexp.MustCompile(`(?i)\bcards?\b`), []string{"card", "card_pack"}},
}

// textOfDrill is all that a drill tells the one who sets it up.
func textOfDrill(d teaching.Drill) string {
	text := []string{d.Roles, d.Start, d.Rotation, d.Ends, d.Coach.Level, d.Coach.Sees, d.Watch, d.SelfCheck.Text, d.Alone, d.Cautions}
	for _, h := range d.Help {
		text = append(text, h.Role)
	}
	return strings.Join(text, ". ")
}

// equipment is C9.
func equipment(l *looker) {
	for _, d := range l.Drills {
		if len(d.Equipment.Lane)+len(d.Equipment.Once) == 0 {
			l.fail("drill", d.Key, "its equipment is not counted")
			continue
		}
		if len(d.Cards) > 0 && d.Equipment.Lane["card_pack"]+d.Equipment.Once["card_pack"] == 0 {
			l.fail("drill", d.Key, "it shows cards and lists no card pack")
		}
		text := textOfDrill(d)
		for _, g := range gear {
			if w := g.word.FindString(text); w != "" && !slices.ContainsFunc(g.is, func(is string) bool {
				return d.Equipment.Lane[is]+d.Equipment.Once[is]+d.Setup.Count(is) > 0
			}) {
				l.fail("drill", d.Key, "“%s” is spoken of and not listed", w)
			}
		}
		for _, is := range drawable {
			listed, n := d.Equipment.Lane[is]+d.Equipment.Once[is], d.Setup.Count(is)
			switch {
			case n > 0 && listed < n:
				l.fail("drill", d.Key, "%d %s drawn, %d listed", n, is, listed)
			case n == 0 && listed > 0:
				l.fail("drill", d.Key, "%s listed and not drawn", is)
			case listed > 2*n && n > 0 && d.Equipment.Lane[is] > 2*n:
				l.fail("drill", d.Key, "%d %s a lane listed, %d drawn", d.Equipment.Lane[is], is, n)
			}
		}
	}
}

// coachPlace is C10.
func coachPlace(l *looker) {
	for _, d := range l.Drills {
		at := slices.IndexFunc(d.Setup.Things, func(t teaching.Thing) bool { return t.Is == "coach" })
		if at < 0 {
			l.fail("drill", d.Key, "the coach is not drawn")
			continue
		}
		coach := d.Setup.Things[at].At
		if d.Coach.Side != "" && d.Coach.Yards > 0 {
			nearest := math.Inf(1)
			for _, t := range d.Setup.Things {
				if t.Is == "worker" {
					nearest = min(nearest, apart(t.At, coach))
				}
			}
			if math.Abs(nearest-d.Coach.Yards) > 1 {
				l.fail("drill", d.Key, "the coach stands %v yards off and is drawn %.1f from the nearest who works", d.Coach.Yards, nearest)
			}
		}
		for _, w := range d.Setup.Ways {
			if moves(w.Is) && apart(w.Points[len(w.Points)-1], coach) < 2 {
				l.fail("drill", d.Key, "who %ss ends at the coach", w.Is)
			}
		}
		if d.Contact != practice.Air.String() {
			continue
		}
		for i, a := range d.Setup.Ways {
			for _, b := range d.Setup.Ways[i+1:] {
				if moves(a.Is) && moves(b.Is) && apart(a.Points[len(a.Points)-1], b.Points[len(b.Points)-1]) < 1 && !slices.ContainsFunc(d.Help, func(h teaching.Help) bool { return h.Contact != practice.Air.String() }) {
					l.fail("drill", d.Key, "two end in the same place without contact")
				}
			}
		}
	}
}

func moves(way string) bool { return slices.Contains([]string{"run", "jog", "pedal", "slide"}, way) }

func apart(a, b [2]float64) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

// named are things of a drawing that mean nothing until it is said what they stand for.
var named = []string{"cone", "target", "hoop"}

// drawing is C11.
func drawing(l *looker) {
	for _, d := range l.Drills {
		text := strings.ToLower(textOfDrill(d))
		for _, t := range d.Setup.Things {
			if slices.Contains(named, t.Is) && t.Says == "" && !strings.Contains(text, t.Is) {
				l.fail("drill", d.Key, "what the %s at %v is for is said nowhere", t.Is, t.At)
			}
		}
		if n := d.Setup.Count("worker"); n != d.Working {
			l.fail("drill", d.Key, "%d work, %d are drawn", d.Working, n)
		}
		if n := d.Setup.Count("helper"); n != d.Helping() {
			l.fail("drill", d.Key, "%d help, %d are drawn", d.Helping(), n)
		}
		for _, w := range d.Setup.Ways {
			far := 0.0
			for i := 1; i < len(w.Points); i++ {
				far += apart(w.Points[i-1], w.Points[i])
			}
			if w.Is == "kick" && d.Load.Kicks > 0 && far < 20 {
				l.fail("drill", d.Key, "a full kick is drawn %.0f yd long", far)
			}
			if !moves(w.Is) {
				continue
			}
			if speed := far / d.RepSeconds; speed > 9 {
				l.fail("drill", d.Key, "%.1f yd in %v s is faster than a player runs", far, d.RepSeconds)
			}
		}
	}
}

// sprints are drills in which a rep runs more than twenty yards.
func sprints(d teaching.Drill) bool { return d.Load.SprintYd > 20 }

// repsEnough is C12.
func repsEnough(l *looker) {
	for _, d := range l.Drills {
		t, _ := l.Technique(d.Technique)
		players := crew.UsualPlayers(groupOf(t))
		y := usual(d, groupOf(t))
		least := l.leastReps(d)
		if y.PerPlayer.Min < least {
			l.fail("drill", d.Key, "%d reps a player with %d players", y.PerPlayer.Min, players)
		} else if d.Sides == 2 && y.PerSideMin < least/2 {
			l.fail("drill", d.Key, "%d reps to a side with %d players", y.PerSideMin, players)
		}
	}
}

// leastReps is how many reps a player must have in the usual minutes of a drill; half as many to a side.
func (l *looker) leastReps(d teaching.Drill) int {
	if sprints(d) || l.isLive(d.Key) {
		return 4
	}
	return 6
}

// usual is what a drill gives with the players a group usually has.
func usual(d teaching.Drill, group string) reps.Yield {
	_, y, _ := crew.Planned(d, crew.Attendance{Players: crew.UsualPlayers(group)}, d.Minutes, d.Lanes)
	return y
}

// isLive reports whether a drill stands at a look or group stage.
func (l *looker) isLive(drill string) bool {
	return slices.ContainsFunc(l.RungsOf(drill), func(r teaching.Rung) bool { return live(r.Stage) })
}

// noAnswer is what was written where ten players have one coach and nothing is said about those who wait.
var noAnswer = regexp.MustCompile(`(?i)\b(agrees?|nods?|honest|among themselves|for themselves|as (he|they) likes?)\b`)

// said is C16.
func said(l *looker) {
	for _, d := range l.Drills {
		for _, x := range []struct {
			field string
			there bool
		}{
			{"start", d.Start != ""}, {"rotation", d.Rotation != ""}, {"ends", d.Ends != ""}, {"coach", d.Coach.Side != "" && d.Coach.Yards > 0},
			{"stop_when", d.StopWhen != "" || d.Contact == practice.Air.String()}, {"early", d.Early || !slices.Contains(d.Techniques, "tackle")},
		} {
			if !x.there {
				l.fail("drill", d.Key, "%s is not said", x.field)
			}
		}
		if w := noAnswer.FindString(d.Alone); w != "" {
			l.fail("drill", d.Key, "“%s” does not say what a player who waits feeds, watches or counts", w)
		}
		for _, k := range d.SelfCheck.Shows {
			if !slices.Contains(d.WorksOn, k) {
				l.fail("drill", d.Key, "its self-check shows %s, which it does not work on", k)
			}
		}
		if len(d.SelfCheck.Shows) == 0 {
			l.fail("drill", d.Key, "its self-check shows no fault")
		}
	}
}

var hits = regexp.MustCompile(`(?i)\b(struck|hit|driven|ripped|shielded against|blocked|jammed|tackled|punched)\b`)

var holding = regexp.MustCompile(`(?i)\bholds (the|a) (shield|bag)\b`)

// taken finds the helping role that a tackle ends on.
var taken = regexp.MustCompile(`(?i)\b(tackled|wrapped|struck)\b`)

func asksTackle(d teaching.Drill) bool {
	return slices.ContainsFunc(d.Cards, func(c teaching.Card) bool { return asks(c, "tackle") })
}

// struck is C17.
func struck(l *looker) {
	for _, d := range l.Drills {
		for _, h := range d.Help {
			if h.Contact == practice.Air.String() && (hits.MatchString(h.Role) || holding.MatchString(h.Role)) {
				l.fail("drill", d.Key, "who %s is on air", h.Role)
			}
			if h.Role == "helps" {
				l.fail("drill", d.Key, "what its helping role does is not said")
			}
		}
		if asksTackle(d) && !slices.ContainsFunc(d.Help, func(h teaching.Help) bool { return h.Contact != practice.Air.String() && taken.MatchString(h.Role) }) {
			l.fail("drill", d.Key, "a card asks for a tackle and nobody who may be hit is tackled")
		}
	}
}

var inTurn = regexp.MustCompile(`(?i)\b(in turn|one lane at a time|lane after lane|one after the other)\b`)

// fed is C18.
func fed(l *looker) {
	for _, d := range l.Drills {
		if text := d.Roles + " " + d.Start + " " + d.Alone; d.FedBy == teaching.FedByCoach && d.Feeds == 0 && d.Lanes > 1 {
			l.fail("drill", d.Key, "the coach feeds %d lanes and it is not said how many at once", d.Lanes)
		} else if inTurn.MatchString(text) && d.Feeds != 1 {
			l.fail("drill", d.Key, "“%s” is one lane at a time", inTurn.FindString(text))
		}
		if d.FedBy == "" {
			l.fail("drill", d.Key, "who starts or feeds it is not said")
		}
	}
}

// noSituation is what was written where a down, a call or a score belongs.
var noSituation = regexp.MustCompile(`(?i)\b(week|script|plan|opponent|saturday|friday)\b`)

// ownText is C24.
func ownText(l *looker) {
	games := map[string]string{}
	for _, d := range l.Drills {
		words := strings.Fields(strings.ToLower(d.Game))
		begin := strings.Join(words[:min(4, len(words))], " ")
		if other, ok := games[begin]; ok {
			l.fail("drill", d.Key, "must show up in “%s”, as %s", begin, other)
		}
		games[begin] = d.Key
		if w := noSituation.FindString(d.Game); w != "" {
			l.fail("drill", d.Key, "must show up in “%s”: that is no down, call or score", d.Game)
		}
		if n := len(strings.Fields(d.Coach.Words())); n < 6 {
			l.fail("drill", d.Key, "the coach's place is said in %d words", n)
		}
		if n := len(strings.Fields(d.Watch)); n < 5 {
			l.fail("drill", d.Key, "what he watches is said in %d words", n)
		}
	}
}

// number finds what a name gives as a number, with the unit behind it.
var number = regexp.MustCompile(`(\d+(?:\.\d+)?)(?:\s*(?:to|–|-)\s*(\d+(?:\.\d+)?))?\s*(inch|inches|in|yards?|yd|degrees?|seconds?|s|strides?|steps?)?\b`)

var unitWords = map[string]string{"inch": "in", "inches": "in", "in": "in", "yard": "yd", "yards": "yd", "yd": "yd", "degree": "deg", "degrees": "deg",
	"second": "s", "seconds": "s", "s": "s", "stride": "strides", "strides": "strides", "step": "strides", "steps": "strides"}

func numbersIn(name, unit string) (out []float64) {
	for _, m := range number.FindAllStringSubmatch(name, -1) {
		if m[3] != "" && unitWords[m[3]] != unit {
			continue
		}
		for _, n := range m[1:3] {
			if x, err := strconv.ParseFloat(n, 64); err == nil {
				out = append(out, x)
			}
		}
	}
	return out
}
