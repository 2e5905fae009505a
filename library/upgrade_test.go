package library_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/merge"
	"nineyard/core/teaching"
	"nineyard/library"
)

// TestAFileOfTheFirstEditionIsReadIntoTheSecond: the helping role, and what was text.
func TestAFileOfTheFirstEditionIsReadIntoTheSecond(t *testing.T) {
	text, err := os.ReadFile("testdata/edition1.yaml")
	require.NoError(t, err)
	b, lines, err := library.Parse(text)
	require.NoError(t, err)
	assert.Equal(t, 2, b.Edition)
	drills := map[string]teaching.Drill{}
	for _, d := range b.Drills {
		drills[d.Key] = d
		assert.NotZero(t, lines[merge.Ref{Kind: "drill", Key: d.Key}])
	}
	require.Len(t, drills, 9)
	d := drills["te_edge_group"]
	assert.Equal(t, []teaching.Help{{Role: "helps", Men: d.Helping(), Contact: "control"}}, d.Help)
	assert.NotEmpty(t, d.Coach.At)
	assert.NotEmpty(t, d.SelfCheck.Text)
	assert.NotEmpty(t, d.Equipment.Text)
	for _, d := range drills {
		for _, h := range d.Help {
			assert.NotEmpty(t, h.Contact, "%s: what the drill is where the role said nothing", d.Key)
		}
	}
	again, _, err := library.Parse([]byte("edition: 2\n" + string(text)))
	assert.ErrorContains(t, err, `"helping" is not a field`, "a file that says it is of the second has its form")
	assert.Empty(t, again.Drills)
	for _, bad := range []string{"drills: [{key: d, helping: [1]}]", "drills: [{key: d, helping: 1, contact: {a: 1}}]", "drills: [3]", "drills: {a: b}", "edition: no\ndrills: [{key: d, helping: x}]"} {
		_, _, err := library.Parse([]byte(bad))
		assert.Error(t, err, bad)
	}
}

// first is an entry as the first edition had it.
func first(t *rapid.T, label string) merge.Fields {
	fields := merge.Fields{"name": `"N"`, "contact": rapid.SampledFrom([]string{`"air"`, `"control"`}).Draw(t, label+"contact")}
	for _, x := range [][]string{
		{"helping", "", "1", "2"}, {"help_contact", "", `"air"`, `"bag"`}, {"equipment", "", `"bags"`, `"cones"`}, {"coach_at", "", `"Behind"`}, {"self_check", "", `"He says"`}, {"minutes", "4", "5"},
	} {
		if v := rapid.SampledFrom(x[1:]).Draw(t, label+x[0]); v != "" {
			fields[x[0]] = v
		}
	}
	return fields
}

// TestALayerOverTheFirstEditionMeansTheSameOverTheSecond: a club has what it had, and what it left alone is not taken for a
// change.
func TestALayerOverTheFirstEditionMeansTheSameOverTheSecond(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ref := merge.Ref{Kind: "drill", Key: "k"}
		shipped := []merge.Entry{{Ref: ref, Fields: first(t, "shipped")}}
		ours := first(t, "ours")
		layer := merge.Layer{}.Put(ref, shipped[0].Fields, ours)
		own := merge.Ref{Kind: "drill", Key: "own"}
		layer = layer.Put(own, nil, first(t, "own"))
		before, _ := merge.Apply(shipped, layer)

		now := []merge.Entry{library.Upgrade(shipped[0])}
		upgraded := library.UpgradeLayer(shipped, layer)
		after, conflicts := merge.Apply(now, upgraded)
		require.Empty(t, conflicts)
		require.Len(t, after, len(before))
		for i := range before {
			require.Equal(t, library.Upgrade(before[i]), after[i])
			require.Equal(t, after[i], library.Upgrade(after[i]), "once is enough")
			var d teaching.Drill
			text, err := json.Marshal(after[i].Fields)
			require.NoError(t, err)
			raw := map[string]json.RawMessage{}
			var fields map[string]string
			require.NoError(t, json.Unmarshal(text, &fields))
			for k, v := range fields {
				raw[k] = json.RawMessage(v)
			}
			text, err = json.Marshal(raw)
			require.NoError(t, err)
			require.NoError(t, json.Unmarshal(text, &d), "it has the form of today")
		}
		if c, ok := upgraded.Find(ref); ok {
			for field, e := range c.Fields {
				require.NotEqual(t, e.Base, e.Ours, "%s was left alone", field)
			}
		}
		require.Equal(t, upgraded, library.UpgradeLayer(now, upgraded), "what is made over the second stays")
	})
}

// TestAChangeMadeBeforeTheSecondEditionIsTaken: it waited on a device that was offline.
func TestAChangeMadeBeforeTheSecondEditionIsTaken(t *testing.T) {
	fields, err := library.ReadFields("drill", []byte(`{"name": "N", "helping": 2, "contact": "control", "help_contact": "air", "equipment": "bags", "coach_at": "Behind", "self_check": "He says"}`))
	require.NoError(t, err)
	assert.Equal(t, merge.Fields{"name": `"N"`, "contact": `"control"`, "help": `[{"role":"helps","men":2,"contact":"air"}]`, "equipment": `{"text":"bags"}`,
		"coach": `{"at":"Behind"}`, "self_check": `{"text":"He says"}`}, fields)
	_, err = library.ReadFields("drill", []byte(`{"helping": "two", "contact": 3}`))
	assert.Error(t, err)
}

func TestARetiredEntryIsKnownAndNotTaught(t *testing.T) {
	e, err := library.NewEdition([]merge.Entry{
		{Ref: merge.Ref{Kind: "technique", Key: "t"}, Fields: merge.Fields{"name": `"T"`}},
		{Ref: merge.Ref{Kind: "checkpoint", Key: "c"}, Fields: merge.Fields{"name": `"C"`, "technique": `"t"`}},
		{Ref: merge.Ref{Kind: "fault", Key: "old"}, Fields: merge.Fields{"name": `"Old words"`, "technique": `"t"`, "at": `"c"`, "retired": "true"}},
		{Ref: merge.Ref{Kind: "table", Key: "x"}, Fields: merge.Fields{"name": `"X"`}},
	})
	require.NoError(t, err)
	_, _, ok := e.Taught.Fault("old")
	assert.False(t, ok)
	_, _, ok = e.All.Fault("old")
	assert.False(t, ok)
	f, _, ok := e.Known.Fault("old")
	assert.True(t, ok)
	assert.Equal(t, "Old words", f.Name)
	_, ok = e.Taught.Table("x")
	assert.True(t, ok)
}
