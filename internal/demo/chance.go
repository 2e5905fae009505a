package demo

import (
	"fmt"
	"hash/fnv"
	"math"
	"math/rand/v2"

	"nineyard/core/season"
)

// chances is the simulator's truth: how likely a rep is clean. It is a logit, the sum of what
// the player is like and of what happens to all alike: a good or bad day of his group, one
// of his own, a harder or easier opponent, and that a game is harder than a practice. So the
// reps of a day resemble each other, as real ones do.
//
// Every effect is drawn by what it is of, not in the order in which it is asked for: a drill or a technique more does not
// change the season of the others.
type chances struct {
	seed    uint64
	truths  bool // with those planted; without, nobody changes
	effects map[effect]float64
}

// drawnBy is a generator that belongs to what is named, whatever else is drawn.
func drawnBy(seed uint64, what ...any) *rand.Rand {
	h := fnv.New64a()
	fmt.Fprintln(h, what...)
	return rand.New(rand.NewPCG(seed, h.Sum64())) //nolint:gosec // it plays
}

// effect is one thing that happens to reps.
type effect struct {
	what  string
	who   string // a player or a group
	about string // a technique
	on    season.Date
}

// Sizes of the effects, as standard deviations of logits, and what a game takes off.
const (
	usually     = 1.75 // 85 of 100 clean
	ofPlayer    = 7.   // for a skill of 1
	ofTechnique = .20
	ofHisOwn    = .15 // a player at a technique, all season
	ofDay       = .20 // of a group
	ofHisDay    = .30 // of a player
	ofOpponent  = .25
	gameTakes   = .35
)

// drawn returns an effect of a size, drawn when it is first asked for.
func (c *chances) drawn(e effect, size float64) float64 {
	v, ok := c.effects[e]
	if !ok {
		v = size * drawnBy(c.seed, "effect", e.what, e.who, e.about, e.on).NormFloat64()
		c.effects[e] = v
	}
	return v
}

// clean is how likely a rep is clean.
func (c *chances) clean(p person, technique string, on season.Date, game bool) float64 {
	who := p.group + " " + p.jersey
	x := usually + ofPlayer*p.skill
	x += c.drawn(effect{what: "technique", about: technique}, ofTechnique)
	x += c.drawn(effect{what: "his own", who: who, about: technique}, ofHisOwn)
	x += c.drawn(effect{what: "day", who: p.group, on: on}, ofDay)
	x += c.drawn(effect{what: "his day", who: who, on: on}, ofHisDay)
	if game {
		x += c.drawn(effect{what: "opponent", on: on}, ofOpponent) - gameTakes
	}
	if c.truths {
		x += planted(p, technique, season.Week(season.Must(SeasonStart), on), game)
	}
	return 1 / (1 + math.Exp(-x))
}

// planted is what the planted truths add.
func planted(p person, technique string, week int, game bool) float64 {
	if p.group != "ol" {
		return 0
	}
	switch {
	case p.jersey == Improving && technique == "kick_slide":
		return -3.2 + .75*float64(week-1)
	case p.jersey == Slipping && technique == "base_block" && week < 5:
		return 1.2
	case p.jersey == Slipping && technique == "base_block":
		return -1.6
	case p.jersey == PracticeOnly && technique == "close_turn" && game:
		return -1.6
	case p.jersey == PracticeOnly && technique == "close_turn":
		return 1.2
	}
	return 0
}
