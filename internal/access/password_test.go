package access_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/internal/access"
)

// TestAPasswordIsNotOneThatIsGuessed: by its length, by lists and patterns, or by who knows whose it is.
func TestAPasswordIsNotOneThatIsGuessed(t *testing.T) {
	about := []string{"Rory Kell", "r.kell@lamplighters.example", "Marrow Point Lamplighters"}
	for _, bad := range []string{"", "short", strings.Repeat("x", 14), strings.Repeat("x", 201), "passwordpassword", "qwertyuiopasdfgh", "123456789012345678", "aaaaaaaaaaaaaaaaaaa",
		"Lamplighters2026", "rory kell rory kell", "marrowpointlamplighters", "r.kell@lamplighters.example", "footballfootball1"} {
		err := access.CheckPassword(bad, about...)
		e, ok := invalid.As(err)
		require.True(t, ok, bad)
		assert.Equal(t, "password", e.Field)
	}
	for _, good := range []string{"gravel heron umbrella", "copper-walnut-ladder", "Þrír gráir hestar í gær", "seven lamps at low tide", "Nine yards of wet rope, two gulls and a bell that nobody rings before noon on the far side of the harbour wall"} {
		assert.NoError(t, access.CheckPassword(good, about...), good)
	}
}
