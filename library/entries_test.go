package library_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/merge"
	"nineyard/library"
)

func TestAlignKeepsWhatIsShared(t *testing.T) {
	fault := func(everywhere string) []merge.Entry {
		return []merge.Entry{{Ref: merge.Ref{Kind: "fault", Key: "head"}, Fields: merge.Fields{"name": `"Head"`, "everywhere": everywhere}}}
	}
	for _, c := range []struct{ theirs, ours, want string }{
		{`["a"]`, `["b","a"]`, `["b","a"]`},
		{`["c","a"]`, `["b","a"]`, `["b","a","c"]`},
		{`["c"]`, ``, `["c"]`},
		{`7`, `["b"]`, `7`},
	} {
		in := fault(c.theirs)
		assert.Equal(t, c.want, library.Align(in, fault(c.ours))[0].Fields["everywhere"])
		assert.Equal(t, c.theirs, in[0].Fields["everywhere"], "what came in stays as it was")
	}
}
