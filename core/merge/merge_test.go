package merge_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/merge"
)

func ExampleApply() {
	shipped := []merge.Entry{{Ref: merge.Ref{Kind: "fault", Key: "late_hat"}, Fields: merge.Fields{"name": "Late hat", "severity": "2"}}}
	layer := merge.Layer{}.Put(shipped[0].Ref, shipped[0].Fields, merge.Fields{"name": "Slow head", "severity": "2"})
	// The next version of the library words it differently and makes it graver.
	shipped[0].Fields = merge.Fields{"name": "Hat comes late", "severity": "3"}
	merged, conflicts := merge.Apply(shipped, layer)
	fmt.Println(merged[0].Fields["name"], merged[0].Fields["severity"])
	fmt.Println(conflicts[0].Field, conflicts[0].Base, "|", conflicts[0].Ours, "|", conflicts[0].Theirs)
	// Output:
	// Slow head 3
	// name Late hat | Slow head | Hat comes late
}

var fieldNames = []string{"a", "b", "c"}

func fields() *rapid.Generator[merge.Fields] {
	return rapid.Custom(func(t *rapid.T) merge.Fields {
		f := merge.Fields{}
		for _, name := range fieldNames {
			if v := rapid.SampledFrom([]string{"", "1", "2", "3"}).Draw(t, name); v != "" {
				f[name] = v
			}
		}
		return f
	})
}

func entries(label string) *rapid.Generator[[]merge.Entry] {
	return rapid.Custom(func(t *rapid.T) []merge.Entry {
		var list []merge.Entry
		for _, key := range []string{"k", "l", "m"} {
			if rapid.Bool().Draw(t, label+key) {
				list = append(list, merge.Entry{Ref: merge.Ref{Kind: "drill", Key: key}, Fields: fields().Draw(t, key)})
			}
		}
		return list
	})
}

func byRef(list []merge.Entry) map[merge.Ref]merge.Fields {
	m := map[merge.Ref]merge.Fields{}
	for _, e := range list {
		m[e.Ref] = e.Fields
	}
	return m
}

// TestPutThenMerge: over the library it was made from, the layer gives exactly what the
// club wanted, with no conflict.
func TestPutThenMerge(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		shipped := entries("shipped").Draw(t, "shipped")
		wanted := entries("wanted").Draw(t, "wanted")
		have := byRef(shipped)
		layer := merge.Layer{}
		for _, e := range wanted {
			layer = layer.Put(e.Ref, have[e.Ref], e.Fields)
		}
		merged, conflicts := merge.Apply(shipped, layer)
		require.Empty(t, conflicts)
		got := byRef(merged)
		for _, e := range wanted {
			require.Equal(t, e.Fields, got[e.Ref])
			delete(got, e.Ref)
			delete(have, e.Ref)
		}
		require.Equal(t, have, got, "what the club did not touch is as shipped")
	})
}

// TestUpdateMergesBeneath checks the three-way merge field by field against its rule.
func TestUpdateMergesBeneath(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ref := merge.Ref{Kind: "drill", Key: "k"}
		base, ours, theirs := fields().Draw(t, "base"), fields().Draw(t, "ours"), fields().Draw(t, "theirs")
		layer := merge.Layer{}.Put(ref, base, ours)
		merged, conflicts := merge.Apply([]merge.Entry{{Ref: ref, Fields: theirs}}, layer)
		clash := map[string]bool{}
		for _, c := range conflicts {
			clash[c.Field] = true
		}
		for _, f := range fieldNames {
			want := theirs[f]
			if ours[f] != base[f] {
				want = ours[f]
			}
			require.Equal(t, want, merged[0].Fields[f], f)
			require.Equal(t, ours[f] != base[f] && theirs[f] != base[f] && theirs[f] != ours[f], clash[f], f)
		}
		// Saving what now stands settles every conflict.
		_, conflicts = merge.Apply([]merge.Entry{{Ref: ref, Fields: theirs}}, layer.Put(ref, theirs, merged[0].Fields))
		require.Empty(t, conflicts)
	})
}

func TestRetireAndReturn(t *testing.T) {
	ref := merge.Ref{Kind: "drill", Key: "k"}
	shipped := []merge.Entry{{Ref: ref, Fields: merge.Fields{"a": "1"}}}
	layer := merge.Layer{}.Put(ref, shipped[0].Fields, merge.Fields{"a": "2"}).Retire(ref, true, true)
	merged, _ := merge.Apply(shipped, layer)
	assert.Empty(t, merged)
	merged, _ = merge.Apply(shipped, layer.Retire(ref, true, false))
	assert.Equal(t, "2", merged[0].Fields["a"], "its changes come back with it")
	assert.Empty(t, merge.Layer{}.Retire(ref, true, true).Retire(ref, true, false), "nothing is left of it")
	// A shipped entry that is no longer shipped does not come back as the club's own.
	merged, _ = merge.Apply(nil, merge.Layer{}.Put(ref, merge.Fields{"a": "1"}, merge.Fields{"a": "2"}))
	assert.Empty(t, merged)
}

func TestCompare(t *testing.T) {
	ref := func(k string) merge.Ref { return merge.Ref{Kind: "drill", Key: k} }
	here := []merge.Entry{{Ref: ref("k"), Fields: merge.Fields{"a": "1", "b": "2"}}, {Ref: ref("l"), Fields: merge.Fields{"a": "1"}}}
	got := merge.Compare(here, []merge.Entry{{Ref: ref("m"), Fields: merge.Fields{"a": "1"}}, {Ref: ref("k"), Fields: merge.Fields{"a": "3"}}, {Ref: ref("l"), Fields: merge.Fields{"a": "1"}}})
	assert.Equal(t, []merge.Difference{
		{Ref: ref("m"), New: true, Fields: []string{"a"}},
		{Ref: ref("k"), Fields: []string{"a", "b"}},
		{Ref: ref("l")},
	}, got)
}
