package roster_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/roster"
)

func TestNormalize(t *testing.T) {
	p, err := roster.Normalize(roster.Person{Jersey: " #07a ", First: "  Jun ", Last: "Sato \t Ota", Position: " LG ", HeightIn: 74, WeightLb: 296})
	require.NoError(t, err)
	assert.Equal(t, roster.Person{Jersey: "07A", First: "Jun", Last: "Sato Ota", Position: "LG", HeightIn: 74, WeightLb: 296}, p)
	again, err := roster.Normalize(p)
	require.NoError(t, err)
	assert.Equal(t, p, again, "once is enough")
	for field, spoil := range map[string]func(*roster.Person){
		"jersey":     func(p *roster.Person) { p.Jersey = "seven" },
		"last_name":  func(p *roster.Person) { p.Last = " " },
		"first_name": func(p *roster.Person) { p.First = strings.Repeat("é", 81) },
		"position":   func(p *roster.Person) { p.Position = strings.Repeat("x", 41) },
		"height_in":  func(p *roster.Person) { p.HeightIn = 12 },
		"weight_lb":  func(p *roster.Person) { p.WeightLb = 900 },
	} {
		q := p
		spoil(&q)
		_, err := roster.Normalize(q)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

func TestAlike(t *testing.T) {
	sato := roster.Person{First: "Jun", Last: "Sato"}
	assert.True(t, roster.Alike(sato, roster.Person{First: "JUN", Last: " sato"}))
	assert.True(t, roster.Alike(sato, roster.Person{First: "Sato", Last: "Jun"}))
	assert.False(t, roster.Alike(sato, roster.Person{First: "Ken", Last: "Sato"}))
}
