package clip_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/clip"
	"nineyard/core/invalid"
)

func TestAClipLiesInItsVideo(t *testing.T) {
	at := func(first, last int, snap ...int) clip.Clip {
		c := clip.Clip{First: first, Last: last}
		if len(snap) > 0 {
			c.Snap = &snap[0]
		}
		return c
	}
	thirty, ntsc := clip.Rate{Num: 30, Den: 1}, clip.Rate{Num: 30000, Den: 1001}
	for name, c := range map[string]struct {
		clip  clip.Clip
		rate  clip.Rate
		field string
	}{
		"the whole":                  {at(0, 17999), thirty, ""},
		"one frame, its own snap":    {at(5, 5, 5), thirty, ""},
		"before the video":           {at(-1, 5), thirty, "first"},
		"behind the video":           {at(20000, 20001), thirty, "first"},
		"backwards":                  {at(6, 5), thirty, "last"},
		"over the end":               {at(6, 20000), thirty, "last"},
		"ten minutes":                {at(1, 18000), thirty, ""},
		"ten minutes and a frame":    {at(1, 18001), thirty, "last"},
		"ten minutes at 29.97":       {at(0, 17981), ntsc, ""},
		"a frame more than that":     {at(0, 17982), ntsc, "last"},
		"the snap before it":         {at(10, 20, 9), thirty, "snap"},
		"the snap behind it":         {at(10, 20, 21), thirty, "snap"},
		"the snap on its last frame": {at(10, 20, 20), thirty, ""},
	} {
		err := c.clip.Check(20000, c.rate)
		if c.field == "" {
			require.NoError(t, err, name)
			continue
		}
		e, ok := invalid.As(err)
		require.True(t, ok, name)
		assert.Equal(t, c.field, e.Field, name)
	}
}
