package contract_test

import (
	"fmt"
	"slices"
	"sort"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract/gen"
)

// walker looks at every schema of the contract once.
type walker struct {
	t    *testing.T
	seen map[*openapi3.Schema]bool
}

func (w walker) schema(at string, ref *openapi3.SchemaRef) {
	if ref == nil || ref.Value == nil || w.seen[ref.Value] {
		return
	}
	s := ref.Value
	w.seen[s] = true
	switch {
	case s.Type.Is("string"):
		bounded := s.MaxLength != nil || len(s.Enum) > 0 || s.Pattern != "" || slices.Contains([]string{"uuid", "date", "date-time", "binary"}, s.Format)
		assert.True(w.t, bounded, "%s: a string without a bound", at)
	case s.Type.Is("integer"), s.Type.Is("number"):
		assert.True(w.t, s.Min != nil && s.Max != nil, "%s: a number without bounds", at)
	case s.Type.Is("array"):
		assert.NotNil(w.t, s.MaxItems, "%s: a list without a bound", at)
		w.schema(at+"[]", s.Items)
	case s.Type.Is("object"):
		open := s.AdditionalProperties.Schema != nil || s.AdditionalProperties.Has != nil && *s.AdditionalProperties.Has
		assert.True(w.t, !open || s.MaxProps != nil, "%s: an open object without a bound", at)
		w.schema(at+"{}", s.AdditionalProperties.Schema)
	}
	names := make([]string, 0, len(s.Properties))
	for name := range s.Properties {
		names = append(names, name)
	}
	sort.Strings(names)
	for _, name := range names {
		w.schema(at+"."+name, s.Properties[name])
	}
	for _, list := range []openapi3.SchemaRefs{s.AllOf, s.AnyOf, s.OneOf} {
		for i, x := range list {
			w.schema(fmt.Sprintf("%s|%d", at, i), x)
		}
	}
}

// TestEverythingIsBounded: every string, number and list of the contract has a bound, in
// what is asked and in what is answered.
func TestEverythingIsBounded(t *testing.T) {
	spec, err := gen.GetSpec()
	require.NoError(t, err)
	w := walker{t, map[*openapi3.Schema]bool{}}
	for path, item := range spec.Paths.Map() {
		for _, p := range item.Parameters {
			w.schema(path+" "+p.Value.Name, p.Value.Schema)
		}
		for method, op := range item.Operations() {
			at := method + " " + path
			for _, p := range op.Parameters {
				w.schema(at+" "+p.Value.Name, p.Value.Schema)
			}
			if op.RequestBody != nil {
				for kind, m := range op.RequestBody.Value.Content {
					w.schema(at+" "+kind, m.Schema)
				}
			}
			for _, r := range op.Responses.Map() {
				for kind, m := range r.Value.Content {
					w.schema(at+" answers "+kind, m.Schema)
				}
			}
		}
	}
	for name, s := range spec.Components.Schemas {
		w.schema(name, s)
	}
	assert.Greater(t, len(w.seen), 200)
}

// TestEveryOperationTakesOneKindOfBody: the operation decides the content type, so it names
// exactly one, and its JSON refuses what it does not know.
func TestEveryOperationTakesOneKindOfBody(t *testing.T) {
	spec, err := gen.GetSpec()
	require.NoError(t, err)
	for path, item := range spec.Paths.Map() {
		for method, op := range item.Operations() {
			at := method + " " + path
			assert.NotEmpty(t, op.OperationID, at)
			if op.RequestBody == nil {
				continue
			}
			require.Len(t, op.RequestBody.Value.Content, 1, at)
			m, ok := op.RequestBody.Value.Content["application/json"]
			if !ok {
				assert.Contains(t, op.RequestBody.Value.Content, "multipart/form-data", at)
				continue
			}
			closed := m.Schema.Value.AdditionalProperties.Has
			assert.True(t, closed != nil && !*closed, "%s: its body takes fields it does not know", at)
		}
	}
}
