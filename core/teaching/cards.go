package teaching

import (
	"maps"
	"slices"
)

// CardAt returns the card of a rep, the first of which is 1: cards are shown in their order, and then again from the first.
// It reports false where the drill goes by no cards.
func (d Drill) CardAt(rep int) (Card, bool) {
	if d.Shows != ShowsCard || len(d.Cards) == 0 || rep < 1 {
		return Card{}, false
	}
	return d.Cards[(rep-1)%len(d.Cards)], true
}

// Pack returns the cards of a drill in an order of their keys, without those that it leaves out or that are there no more;
// all of them in the library's order where none is left.
func (d Drill) Pack(order []string) []Card {
	var pack []Card
	for _, k := range order {
		if i := slices.IndexFunc(d.Cards, func(c Card) bool { return c.Key == k }); i >= 0 {
			pack = append(pack, d.Cards[i])
		}
	}
	if len(pack) == 0 {
		return d.Cards
	}
	return pack
}

// AskedOf returns the technique that a card asks of a place; where it asks the same of all, of any.
func (c Card) AskedOf(place string) string {
	if c.Asks != "" {
		return c.Asks
	}
	return c.Each[place]
}

// Places lists the places of a card that asks for a technique by place, in the order of their letters; none where it asks the
// same of all.
func (c Card) Places() []string { return slices.Sorted(maps.Keys(c.Each)) }

// Shown lists the techniques that reps of a drill may count for, in the order in which it trains them: the one chosen for the
// placement, each that it trains, or those that its cards ask for.
func (d Drill) Shown(chosen string) []string {
	switch d.Shows {
	case ShowsEach:
		return d.Techniques
	case ShowsCard:
		asked := map[string]bool{}
		for _, c := range d.Cards {
			asked[c.Asks] = true
			for _, k := range c.Each {
				asked[k] = true
			}
		}
		return slices.DeleteFunc(slices.Clone(d.Techniques), func(k string) bool { return !asked[k] })
	}
	return []string{chosen}
}
