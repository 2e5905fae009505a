package practice

import (
	"fmt"
	"slices"
	"sort"

	"nineyard/core/invalid"
)

// kinds are the kinds of period, in the order of the handbook.
var kinds = [...]string{"warm_up", "individual", "group", "team", "special_teams", "walk_through", "meeting", "water", "conditioning"}

// IsKind reports whether k is a kind of period.
func IsKind(k string) bool {
	for _, known := range kinds {
		if k == known {
			return true
		}
	}
	return false
}

// FilmedKinds are the kinds of period whose plays are written, filmed and marked as those of a game are; a group's own
// period has drills.
func FilmedKinds() []string { return []string{"team", "group", "special_teams"} }

// Contact is the level of contact of a drill or period, from none to live.
type Contact int

// The levels of contact.
const (
	Air Contact = iota
	Bag
	Control
	Thud
	Live
)

var contacts = [...]string{"air", "bag", "control", "thud", "live"}

// ParseContact reads a level by its name.
func ParseContact(s string) (Contact, error) {
	for i, name := range contacts {
		if s == name {
			return Contact(i), nil
		}
	}
	return 0, invalid.Field("contact", "contact must be air, bag, control, thud or live, got %q", s)
}

// String is the level's name.
func (c Contact) String() string { return contacts[c] }

// Collides reports whether players meet each other: control and above. A player
// who is limited or held takes no part in such a drill.
func (c Contact) Collides() bool { return c >= Control }

// Placement is a drill put into a period.
type Placement struct {
	Start   int    // minutes from the start of the period, ≥ 0
	Minutes int    // ≥ 1
	Of      string // whose it is, where groups share the period: their drills go on side by side
}

// End is the first minute after the placement.
func (p Placement) End() int { return p.Start + p.Minutes }

// CheckPlacements returns an invalid.Error naming the field when a drill starts
// before its period, has no minutes, runs past the end of the period or overlaps
// another of the same group. Paths are "placements[i].start" and "placements[i].minutes".
func CheckPlacements(periodMinutes int, drills []Placement) error {
	for i, d := range drills {
		start, minutes := fmt.Sprintf("placements[%d].start", i), fmt.Sprintf("placements[%d].minutes", i)
		switch {
		case d.Minutes < 1:
			return invalid.Field(minutes, "a drill needs at least 1 minute, got %d", d.Minutes)
		case d.Minutes > periodMinutes:
			return invalid.Field(minutes, "the drill is longer than its period: %d of %d minutes", d.Minutes, periodMinutes)
		case d.Start < 0:
			return invalid.Field(start, "a drill cannot start before its period, got minute %d", d.Start)
		case d.End() > periodMinutes:
			return invalid.Field(start, "the drill ends at minute %d, the period at %d", d.End(), periodMinutes)
		}
		for j, e := range drills[:i] {
			if d.Of == e.Of && d.Start < e.End() && e.Start < d.End() {
				return invalid.Field(start, "drill %d overlaps drill %d at minute %d", i+1, j+1, max(d.Start, e.Start))
			}
		}
	}
	return nil
}

// Cut says that the placement at Index was shortened from one length to another.
type Cut struct{ Index, From, To int }

// Fit finds room for one more drill of want minutes, at least least ones, in a
// period. It takes the first free stretch that is long enough, else the longest
// that holds the least; when there is none it closes the gaps between the drills and
// shortens the longest ones, a minute at a time, never below keep minutes, until the
// least fits at the end.
//
// It returns the placements as they then are, in the order given with the new one
// last, and what was cut. It returns an invalid.Error on "minutes" when even that
// is not enough. The argument is not changed.
func Fit(periodMinutes int, drills []Placement, want, least, keep int) ([]Placement, []Cut, error) {
	out := append([]Placement(nil), drills...)
	best := Placement{}
	for _, gap := range gaps(periodMinutes, out) {
		if gap.Minutes >= want {
			return append(out, Placement{Start: gap.Start, Minutes: want}), nil, nil
		}
		if gap.Minutes >= least && gap.Minutes > best.Minutes {
			best = gap
		}
	}
	if best.Minutes > 0 {
		return append(out, best), nil, nil
	}
	used := 0
	for _, d := range out {
		used += d.Minutes
	}
	for used > periodMinutes-least {
		longest := -1
		for i, d := range out {
			if d.Minutes > keep && (longest < 0 || d.Minutes > out[longest].Minutes) {
				longest = i
			}
		}
		if longest < 0 {
			return nil, nil, invalid.Field("minutes", "no room for %d minutes: the period of %d is full", least, periodMinutes)
		}
		out[longest].Minutes--
		used--
	}
	order := byStart(drills)
	at := 0
	var cuts []Cut
	for _, i := range order {
		out[i].Start = at
		at = out[i].End()
	}
	for i := range out {
		if out[i].Minutes < drills[i].Minutes {
			cuts = append(cuts, Cut{i, drills[i].Minutes, out[i].Minutes})
		}
	}
	return append(out, Placement{Start: at, Minutes: min(want, periodMinutes-at)}), cuts, nil
}

// Squeeze makes the drills of a period that becomes shorter fit into it: of each group the gaps
// between them are closed as far as needed, then the longest are shortened, a minute at a time and
// never below keep minutes. It returns them in the order given, and what was cut. Drills of a group
// that fit are left where they are. It returns an invalid.Error on "minutes" when even that is not
// enough. The argument is not changed.
func Squeeze(periodMinutes int, drills []Placement, keep int) ([]Placement, []Cut, error) {
	out := append([]Placement(nil), drills...)
	var whose []string
	for _, d := range drills {
		if !slices.Contains(whose, d.Of) {
			whose = append(whose, d.Of)
		}
	}
	for _, of := range whose {
		if err := squeeze(periodMinutes, out, keep, of); err != nil {
			return nil, nil, err
		}
	}
	var cuts []Cut
	for i := range out {
		if out[i].Minutes < drills[i].Minutes {
			cuts = append(cuts, Cut{i, drills[i].Minutes, out[i].Minutes})
		}
	}
	return out, cuts, nil
}

// squeeze makes those of one group fit.
func squeeze(periodMinutes int, drills []Placement, keep int, of string) error {
	var order []int // theirs, by their start
	for _, i := range byStart(drills) {
		if drills[i].Of == of {
			order = append(order, i)
		}
	}
	end, used := 0, 0
	for _, i := range order {
		end, used = max(end, drills[i].End()), used+drills[i].Minutes
	}
	if end <= periodMinutes {
		return nil
	}
	for used > periodMinutes {
		longest := -1
		for _, i := range slices.Sorted(slices.Values(order)) {
			if drills[i].Minutes > keep && (longest < 0 || drills[i].Minutes > drills[longest].Minutes) {
				longest = i
			}
		}
		if longest < 0 {
			return invalid.Field("minutes", "its %d drills need at least %d minutes: take one out first", len(order), used)
		}
		drills[longest].Minutes--
		used--
	}
	free, at := periodMinutes-used, 0
	for _, i := range order {
		gap := min(max(drills[i].Start-at, 0), free) // as much of the gap before it as there is room for
		drills[i].Start, free = at+gap, free-gap
		at = drills[i].End()
	}
	return nil
}

// gaps lists the free stretches of a period in order of time.
func gaps(periodMinutes int, drills []Placement) []Placement {
	var free []Placement
	at := 0
	for _, i := range byStart(drills) {
		d := drills[i]
		if d.Start > at {
			free = append(free, Placement{Start: at, Minutes: d.Start - at})
		}
		at = max(at, d.End())
	}
	if at < periodMinutes {
		free = append(free, Placement{Start: at, Minutes: periodMinutes - at})
	}
	return free
}

func byStart(drills []Placement) []int {
	order := make([]int, len(drills))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(a, b int) bool { return drills[order[a]].Start < drills[order[b]].Start })
	return order
}

// KeepMinutes is the least a drill is shortened to when room is made for another: below it
// setting up and the coach's word take what is left.
const KeepMinutes = 3
