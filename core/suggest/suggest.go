package suggest

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nineyard/core/practice"
)

// Most is how many drills are suggested, and alike how many of them come first for one and the same reason: a habit that
// twenty drills work on must not hide what else is due.
const (
	Most  = 12
	alike = 4
)

// Code names a reason.
type Code string

// The reasons, the strongest first.
const (
	Safety   Code = "safety"
	Call     Code = "call"
	Stage    Code = "stage"
	Hurts    Code = "hurts"
	EveryDay Code = "every_day"
	Side     Code = "side"
)

// weights say how much a reason speaks for a drill. Of what hurts most it is that of the worst,
// the others have less.
var weights = map[Code]float64{Safety: 8, Call: 5, Stage: 3, Hurts: 3, EveryDay: 2.5, Side: 1.5}

// Reason speaks for a drill.
type Reason struct {
	Code Code
	Says string
}

// Drill is one that the group may do.
type Drill struct {
	Key       string
	WorksOn   []string // faults
	Trains    []string // techniques
	Contact   practice.Contact
	Sides     int      // 2 when it is done left and right
	Begun     bool     // the group works at its technique
	SelfCheck bool     // it shows the fault without a coach
	Reps      int      // a player at its usual minutes, with those who are there; 0 when it cannot be run
	Short     []string // equipment of which too little is left
}

// Ladder is a stage that is to be worked at.
type Ladder struct {
	Says   string // such as "Base block is at “Drive through the bag”"
	Call   string // the call that will not be ready; empty for the stage the group is at
	Drills []string
}

// Need is a fault that hurts, the worst first.
type Need struct {
	Fault, Name string
	Safety      bool
}

// Sides are the reps of a technique to the left and the right.
type Sides struct {
	Technique, Name string
	Left, Right     int
}

// Input is what is known.
type Input struct {
	Drills   []Drill
	Placed   []string // in the practice already
	Ladders  []Ladder
	Needs    []Need
	EveryDay []string
	Sides    []Sides
	Alone    bool // one coach for the group
}

// Suggestion is a drill with what speaks for it, and what stands in its way.
type Suggestion struct {
	Drill   string
	Reasons []Reason
	Blocked string // why it cannot be run now; empty when it can
}

// leastSided is of how many reps on a side is left behind when it has less than a third.
const leastSided = 12

// behind is the side that is left behind, in words; empty when none is.
func (s Sides) behind() string {
	n := s.Left + s.Right
	if n < leastSided || 3*min(s.Left, s.Right) >= n {
		return ""
	}
	side, k := "left", s.Left
	if s.Right < s.Left {
		side, k = "right", s.Right
	}
	return fmt.Sprintf("%s: %d of %d reps to the %s", s.Name, k, n, side)
}

// Of lists what is suggested, what weighs most first.
func Of(in Input) []Suggestion {
	type weighed struct {
		Suggestion
		weight float64
		hits   practice.Contact // of a drill for what is not safe; Air for all others
		begun  bool
		self   bool
		reps   int
	}
	var list []weighed
	for _, d := range in.Drills {
		if slices.Contains(in.Placed, d.Key) {
			continue
		}
		w := weighed{Suggestion: Suggestion{Drill: d.Key}, begun: d.Begun, self: in.Alone && d.SelfCheck, reps: d.Reps}
		for _, r := range in.reasons(d) {
			w.Reasons = append(w.Reasons, r.Reason)
			w.weight += r.weight
		}
		if len(w.Reasons) == 0 {
			continue
		}
		if w.Reasons[0].Code == Safety {
			w.hits = d.Contact
		}
		switch {
		case len(d.Short) > 0:
			w.Blocked = "the other groups have the " + strings.ToLower(strings.Join(d.Short, " and "))
		case d.Reps == 0:
			w.Blocked = "too few players can take part"
		}
		list = append(list, w)
	}
	slices.SortStableFunc(list, func(a, b weighed) int {
		return cmp.Or(cmp.Compare(order(a.Blocked != ""), order(b.Blocked != "")), cmp.Compare(b.weight, a.weight), cmp.Compare(order(b.begun), order(a.begun)), cmp.Compare(a.hits, b.hits), cmp.Compare(order(b.self), order(a.self)),
			cmp.Compare(b.reps, a.reps), cmp.Compare(a.Drill, b.Drill))
	})
	first, rest := []Suggestion{}, []Suggestion{}
	times := map[string]int{}
	for _, w := range list {
		why := w.Reasons[0].Says
		if times[why]++; times[why] <= alike || w.Blocked != "" {
			first = append(first, w.Suggestion)
		} else {
			rest = append(rest, w.Suggestion)
		}
	}
	at := slices.IndexFunc(first, func(s Suggestion) bool { return s.Blocked != "" })
	if at < 0 {
		at = len(first)
	}
	out := slices.Insert(first, at, rest...)
	return out[:min(len(out), Most)]
}

// order puts what is before what is not behind it.
func order(b bool) int {
	if b {
		return 1
	}
	return 0
}

type reason struct {
	Reason
	weight float64
}

// reasons are what speaks for a drill, the strongest first.
func (in Input) reasons(d Drill) (list []reason) {
	add := func(c Code, weight float64, says string) { list = append(list, reason{Reason{c, says}, weight}) }
	for i, n := range in.Needs {
		switch {
		case !slices.Contains(d.WorksOn, n.Fault):
		case n.Safety && d.Contact.Collides(): // the habit is mended before he meets anybody
		case n.Safety:
			add(Safety, weights[Safety], n.Name+" is not safe")
		default:
			add(Hurts, weights[Hurts]/float64(1+i), n.Name)
		}
	}
	called := false
	for _, l := range in.Ladders {
		if l.Call != "" && slices.Contains(l.Drills, d.Key) && !called {
			called = true
			add(Call, weights[Call], l.Says)
		}
	}
	for _, l := range in.Ladders {
		if l.Call == "" && !called && slices.Contains(l.Drills, d.Key) {
			add(Stage, weights[Stage], l.Says)
			break
		}
	}
	if slices.Contains(in.EveryDay, d.Key) {
		add(EveryDay, weights[EveryDay], "one of your every-day drills")
	}
	if d.Sides == 2 {
		for _, s := range in.Sides {
			if says := s.behind(); says != "" && slices.Contains(d.Trains, s.Technique) {
				add(Side, weights[Side], says)
				break
			}
		}
	}
	slices.SortStableFunc(list, func(a, b reason) int { return cmp.Compare(b.weight, a.weight) })
	return list
}

// Stock is equipment of the club by its name, and how many there are.
type Stock struct {
	Key, Name string
	Count     int
}

// number is how many of something, written before its name.
var number = regexp.MustCompile(`(\d+)\s*$`)

// Wants reads from a drill's words how many of the club's things it takes: "5 half bags and a chalk
// stripe" takes five of what the club calls Half bags. A thing that is named without a number is
// taken once; what the club has no word for is nobody's to run out of.
func Wants(words string, stock []Stock) map[string]int {
	low := strings.ToLower(words)
	out, last := map[string]int{}, map[string]int{}
	for _, s := range stock {
		last[lastWord(s.Name)]++
	}
	for _, s := range stock {
		name := strings.TrimSuffix(strings.ToLower(strings.TrimSpace(s.Name)), "s")
		if name == "" {
			continue
		}
		at := strings.Index(low, name)
		if word := lastWord(s.Name); (at < 0 || at > 0 && isLetter(low[at-1])) && last[word] == 1 {
			at = strings.Index(low, word) // "4 shields" are the arm shields of a club that has no other
		}
		if at < 0 || at > 0 && isLetter(low[at-1]) {
			continue
		}
		out[s.Key] = 1
		if m := number.FindStringSubmatch(low[:at]); m != nil {
			if n, err := strconv.Atoi(m[1]); err == nil && n > 0 && n < 1000 {
				out[s.Key] = n
			}
		}
	}
	return out
}

// lastWord is the noun of a name, of one of them: the shield of "Arm shields".
func lastWord(name string) string {
	f := strings.Fields(strings.ToLower(name))
	if len(f) == 0 {
		return ""
	}
	return strings.TrimSuffix(f[len(f)-1], "s")
}

func isLetter(b byte) bool { return b >= 'a' && b <= 'z' }

// Missing names what of it is not left.
func Missing(wants map[string]int, left map[string]int, stock []Stock) (names []string) {
	for _, s := range stock {
		if n := wants[s.Key]; n > 0 && left[s.Key] < n {
			names = append(names, s.Name)
		}
	}
	return names
}
