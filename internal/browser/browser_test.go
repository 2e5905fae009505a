package browser_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/browser"
)

const question = `{"sheet":{"minutes":30,"start_minute":1080,"groups":[{"key":"ol","name":"OL"}],"settings":{"limits":{"warm_up_first":false}},
	"periods":[{"id":"a","start":0,"minutes":10,"kind":"individual","name":"Individual","contact":"bag","groups":["ol"]}]},
	"finding":{"code":"group_idle","severity":"warning","periods":[],"groups":["ol"],"start":10,"end":30},"text":"20 team all","ids":["n1"],"play":{"number":7,"unit":"offense","down":2,"distance":7,"spot":"own 44","gain":9}}`

func TestAsk(t *testing.T) {
	for what, want := range map[string]string{
		"look":      `"code":"group_idle"`,
		"mends":     `Give OL the time for itself from 18:10 to 18:30`,
		"templates": `"name":"Full practice"`,
		"late":      `at least 1|lost must be between`,
		"write":     `18:00 10 individual all bag`,
		"read":      `"id":"n1"`,
		"next":      `"number":8.*"spot":"opp 47"`,
	} {
		got, err := browser.Ask(what, question)
		require.NoError(t, err, what)
		assert.Regexp(t, want, got)
		assert.True(t, json.Valid([]byte(got)))
	}
	_, err := browser.Ask("sing", question)
	require.ErrorContains(t, err, "sing")
	_, err = browser.Ask("look", "{")
	require.Error(t, err)
}
