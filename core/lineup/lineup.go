package lineup

import (
	"fmt"
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/term"
)

// Bounds of a line-up.
const (
	MaxSpots   = 20
	MaxPlayers = 12 // at a spot
	MaxName    = 30 // characters of a spot's name
)

// Place is a player at a spot.
type Place struct {
	Player string
	Share  int // expected share of the snaps, 0–100 per cent; 0: in the order, not expected to play
}

// Spot is a place in the formation, in the coach's words, with its players in his order.
type Spot struct {
	Name    string
	Players []Place
}

// LineUp is the spots of a group.
type LineUp []Spot

// Check returns an invalid.Error naming the field for a line-up that cannot be: too long, a spot
// without a name or with that of another, a player twice at one spot, a share out of range, or
// shares of a spot or of a player of more than 100.
func (l LineUp) Check() error {
	if len(l) > MaxSpots {
		return invalid.Field("spots", "at most %d spots, got %d", MaxSpots, len(l))
	}
	total := map[string]int{}
	for i, s := range l {
		at := fmt.Sprintf("spots[%d]", i)
		same := func(o Spot) bool { return term.Same(o.Name, s.Name) }
		switch {
		case term.Fold(s.Name) == "" || len([]rune(s.Name)) > MaxName:
			return invalid.Field(at+".name", "a spot has a name of 1 to %d characters", MaxName)
		case strings.ContainsAny(s.Name, "|;,[]"):
			return invalid.Field(at+".name", "a spot's name has none of | ; , [ ]: lists of calls are written with them")
		case slices.ContainsFunc(l[:i], same):
			return invalid.Field(at+".name", "two spots are called %s", s.Name)
		case len(s.Players) > MaxPlayers:
			return invalid.Field(at+".players", "at most %d players at a spot, got %d", MaxPlayers, len(s.Players))
		}
		sum := 0
		for j, p := range s.Players {
			at := fmt.Sprintf("%s.players[%d]", at, j)
			if slices.ContainsFunc(s.Players[:j], func(o Place) bool { return o.Player == p.Player }) {
				return invalid.Field(at, "a player stands twice at %s", s.Name)
			}
			if err := invalid.IntRange(at+".share", p.Share, 0, 100); err != nil {
				return err
			}
			if sum += p.Share; sum > 100 {
				return invalid.Field(at+".share", "at %s the shares come to %d per cent", s.Name, sum)
			}
			if total[p.Player] += p.Share; total[p.Player] > 100 {
				return invalid.Field(at+".share", "with %s he would play %d per cent of the snaps", s.Name, total[p.Player])
			}
		}
	}
	return nil
}

// OnField is the spots that are named, all of them when none is, with the players expected to
// play there. A name that is no spot's is left out: the coach has taken it out since.
func (l LineUp) OnField(names ...string) LineUp {
	var out LineUp
	for _, s := range l {
		if len(names) > 0 && !slices.ContainsFunc(names, func(n string) bool { return term.Same(n, s.Name) }) {
			continue
		}
		on := Spot{Name: s.Name}
		for _, p := range s.Players {
			if p.Share > 0 {
				on.Players = append(on.Players, p)
			}
		}
		if len(on.Players) > 0 {
			out = append(out, on)
		}
	}
	return out
}

// Shares is the share of the snaps that each player is expected to play, over all spots.
func (l LineUp) Shares() map[string]int {
	out := map[string]int{}
	for _, s := range l {
		for _, p := range s.Players {
			out[p.Player] += p.Share
		}
	}
	return out
}
