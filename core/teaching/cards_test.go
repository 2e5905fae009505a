package teaching_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/teaching"
)

func ExampleDrill_CardAt() {
	d := teaching.Drill{Shows: teaching.ShowsCard, Cards: []teaching.Card{{Key: "wide", Asks: "kick_slide"}, {Key: "bull", Asks: "anchor"}}}
	for rep := 1; rep <= 3; rep++ {
		c, _ := d.CardAt(rep)
		fmt.Println(rep, c.Key, c.AskedOf(""))
	}
	// Output:
	// 1 wide kick_slide
	// 2 bull anchor
	// 3 wide kick_slide
}

func TestPack(t *testing.T) {
	a, b, c := teaching.Card{Key: "a"}, teaching.Card{Key: "b"}, teaching.Card{Key: "c"}
	d := teaching.Drill{Cards: []teaching.Card{a, b, c}}
	for want, order := range map[*[]teaching.Card][]string{
		{a, b, c}: nil, {c, a}: {"c", "a"}, {b}: {"gone", "b"}, {c, b, a}: {"c", "b", "a"},
	} {
		assert.Equal(t, *want, d.Pack(order), order)
	}
	assert.Equal(t, d.Cards, d.Pack([]string{"gone"}), "nothing of the order is left")
	assert.Empty(t, teaching.Drill{}.Pack([]string{"a"}))
}

func TestCards(t *testing.T) {
	d := teaching.Drill{Shows: teaching.ShowsOne, Cards: []teaching.Card{{Key: "a"}}, DrillLinks: teaching.DrillLinks{Techniques: []string{"b", "a", "c"}}}
	_, ok := d.CardAt(1)
	assert.False(t, ok, "it goes by no cards")
	assert.Equal(t, []string{"c"}, d.Shown("c"))
	d.Shows = teaching.ShowsEach
	assert.Equal(t, []string{"b", "a", "c"}, d.Shown("c"))
	d.Shows, d.Cards = teaching.ShowsCard, []teaching.Card{{Asks: "a"}, {Each: map[string]string{"lt": "c", "c": "a"}}}
	assert.Equal(t, []string{"a", "c"}, d.Shown("b"), "in the order in which it trains them")
	_, ok = d.CardAt(0)
	assert.False(t, ok, "there is no rep before the first")
	x, ok := d.CardAt(4)
	assert.True(t, ok)
	assert.Equal(t, []string{"c", "lt"}, x.Places())
	assert.Equal(t, "c", x.AskedOf("lt"))
	assert.Empty(t, x.AskedOf("rt"))
	d.Cards = nil
	_, ok = d.CardAt(1)
	assert.False(t, ok)
}
