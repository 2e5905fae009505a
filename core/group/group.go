package group

import (
	"fmt"
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/term"
)

// Side is the side of the ball a group plays on.
type Side string

// The sides.
const (
	Offense Side = "offense"
	Defense Side = "defense"
	Units   Side = "units" // kicking units: neither
)

// Plays reports whether a group of the side is on the field in a play of its own offence
// (true) or of its own defence (false).
func (s Side) Plays(offense bool) bool {
	return s == Offense && offense || s == Defense && !offense
}

// Group is a position group.
type Group struct {
	Key       string   // names it for ever: 1–20 small letters, digits and underscores
	Name      string   // 1–60 characters
	Short     string   // 1–6 characters, for lanes
	Side      Side     //
	Positions []string // as lists write them: LG, guard; at most 40
}

// List is the groups of a club in the order of the lanes.
type List []Group

// Usual is the groups a club starts with.
func Usual() List {
	return List{
		{"ol", "Offensive line", "OL", Offense, []string{"OL", "LT", "LG", "C", "RG", "RT", "OT", "OG", "T", "G", "Center", "Guard", "Tackle", "O-line"}},
		{"te", "Tight ends", "TE", Offense, []string{"TE", "Tight end", "H", "H-back"}},
		{"rb", "Running backs", "RB", Offense, []string{"RB", "HB", "FB", "TB", "Running back", "Fullback"}},
		{"qb", "Quarterbacks", "QB", Offense, []string{"QB", "Quarterback"}},
		{"wr", "Receivers", "WR", Offense, []string{"WR", "X", "Z", "Slot", "Receiver", "Wide receiver"}},
		{"dl", "Defensive line", "DL", Defense, []string{"DL", "DE", "DT", "NT", "End", "Nose", "D-line"}},
		{"lb", "Linebackers", "LB", Defense, []string{"LB", "ILB", "OLB", "MLB", "Linebacker"}},
		{"db", "Secondary", "DB", Defense, []string{"DB", "CB", "S", "FS", "SS", "NI", "Nickel", "Corner", "Cornerback", "Safety"}},
		{"sp", "Specialists", "SP", Units, []string{"SP", "K", "P", "LS", "KR", "PR", "Kicker", "Punter", "Long snapper", "Holder", "Returner"}},
	}
}

// places are how lists write the places that single techniques belong to.
var places = map[string][]string{
	"c":        {"c", "center", "centre", "snapper", "long snapper", "ls"},
	"snapper":  {"snapper", "long snapper", "ls"},
	"holder":   {"holder", "h"},
	"kicker":   {"kicker", "k", "pk"},
	"punter":   {"punter", "p"},
	"returner": {"returner", "kr", "pr"},
}

// Plays reports whether somebody of a position, as a list writes it ("C/RG"), plays one of the places that a technique
// belongs to. He does where it belongs to none, and where his position is not said or says no more than his group. A place
// of the club's own is a position written like it.
func (g Group) Plays(position string, at []string) bool {
	if len(at) == 0 {
		return true
	}
	said := false
	for _, part := range parts(position) {
		is := term.Fold(part)
		if is == "" || is == term.Fold(g.Key) || is == term.Fold(g.Short) || is == term.Fold(g.Name) {
			continue
		}
		said = true
		for _, place := range at {
			if is == term.Fold(place) || slices.ContainsFunc(places[place], func(p string) bool { return term.Fold(p) == is }) {
				return true
			}
		}
	}
	return !said
}

// parts are the positions in what a list says: "CB/S" are two.
func parts(position string) []string {
	return strings.FieldsFunc(position, func(r rune) bool { return r == '/' || r == ',' || r == ';' })
}

// Find returns the group of a key.
func (l List) Find(key string) (Group, bool) {
	for _, g := range l {
		if g.Key == key {
			return g, true
		}
	}
	return Group{}, false
}

// Keys lists the keys in order.
func (l List) Keys() []string {
	keys := make([]string, len(l))
	for i, g := range l {
		keys[i] = g.Key
	}
	return keys
}

// Apart lists the keys of those that work by themselves when no period of a practice is theirs: the kicking units.
func (l List) Apart() []string {
	keys := []string{}
	for _, g := range l {
		if g.Side == Units {
			keys = append(keys, g.Key)
		}
	}
	return keys
}

// ForPosition returns the key of the group that coaches a position as it is written in a
// list ("LG", "Corner", "CB/S": the first that is known counts). Case, spaces and dashes do
// not matter; a group's own name, short name and key are positions of it too.
func (l List) ForPosition(position string) (string, bool) {
	for _, part := range parts(position) {
		want := term.Fold(part)
		if want == "" {
			continue
		}
		for _, g := range l {
			for _, p := range append([]string{g.Key, g.Short, g.Name}, g.Positions...) {
				if got := term.Fold(p); got == want || got+"s" == want {
					return g.Key, true
				}
			}
		}
	}
	return "", false
}

// Check returns an invalid.Error naming the field, such as "groups[1].key", when the list
// is empty or longer than 24, a key is malformed or repeated, a name is missing or too
// long, or a side is none.
func (l List) Check() error {
	if len(l) < 1 || len(l) > 24 {
		return invalid.Field("groups", "a club has 1 to 24 position groups, got %d", len(l))
	}
	seen := map[string]bool{}
	for i, g := range l {
		at := func(field string) string { return fmt.Sprintf("groups[%d].%s", i, field) }
		switch {
		case len(g.Key) < 1 || len(g.Key) > 20 || strings.Trim(g.Key, "abcdefghijklmnopqrstuvwxyz0123456789_") != "":
			return invalid.Field(at("key"), "a key is 1 to 20 small letters, digits and underscores, got %q", g.Key)
		case seen[g.Key]:
			return invalid.Field(at("key"), "the key %q stands twice", g.Key)
		case len([]rune(g.Name)) < 1 || len([]rune(g.Name)) > 60:
			return invalid.Field(at("name"), "a name has 1 to 60 characters, got %q", g.Name)
		case len([]rune(g.Short)) < 1 || len([]rune(g.Short)) > 6:
			return invalid.Field(at("short"), "a short name has 1 to 6 characters, got %q", g.Short)
		case g.Side != Offense && g.Side != Defense && g.Side != Units:
			return invalid.Field(at("side"), "a side is offense, defense or units, got %q", g.Side)
		case len(g.Positions) > 40:
			return invalid.Field(at("positions"), "at most 40 positions, got %d", len(g.Positions))
		}
		seen[g.Key] = true
	}
	return nil
}
