package attack

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
)

// Source makes values of schemas. It is not safe for several at once.
type Source struct {
	*rand.Rand
	IDs    []string // ids that there are, of the club and of others
	Keys   []string // keys of groups, drills, techniques
	Spoils int      // of a hundred values so many are spoiled
	Most   bool     // optional parts are there
	spoilt bool
}

// samples are texts for the patterns of the contract.
var samples = map[string]string{
	`^"[0-9]{1,8}"$`: `"0"`, `^[a-z2-7]{52}$`: strings.Repeat("ab23", 13), `^[0-9a-f]{64}$`: strings.Repeat("0f", 32), `^([a-z]{1,20}/[0-9a-f-]{36})?$`: "",
	`^[0-9a-f]{2,2048}$`: "0f0f", `^[0-9]{4}-[0-9]{2}-[0-9]{2}[.][0-9]{1,9}[.][0-9]{1,18}$`: "2026-10-01.1.1", `^[a-z2-7]{52}\.ics$`: strings.Repeat("ab23", 13) + ".ics",
}

// nasty are texts that have broken programs.
var nasty = []string{"", " ", "\x00", "a\x00b", "\xff\xfe", "a\xed\xa0\x80", "\u202eabc", "a\u200bb", "'; DROP TABLE users; --", "=cmd|' /C calc'!A0", "../../../etc/passwd", "%00", "NaN", "1e999", "-0",
	"９９", "\U0001F468\u200d\U0001F3EB", "{{7*7}}", "<script>alert(1)</script>", "null", "true", "2026-02-30", "9999-99-99", "0001-01-01", "00000000-0000-0000-0000-000000000000", "\r\nX-Bad: 1"}

// Value makes a value of a schema; of spoiled ones JSON may hold what the schema does not allow.
func (s *Source) Value(ref *openapi3.SchemaRef, depth int) any {
	if ref == nil || ref.Value == nil || depth > 12 {
		return nil
	}
	x := ref.Value
	if s.IntN(100) < s.Spoils {
		s.spoilt = true
		return s.spoiled(x, depth)
	}
	for _, list := range []openapi3.SchemaRefs{x.AllOf, x.OneOf, x.AnyOf} {
		if len(list) > 0 {
			return s.Value(list[0], depth+1)
		}
	}
	switch {
	case len(x.Enum) > 0:
		return x.Enum[s.IntN(len(x.Enum))]
	case x.Nullable && s.IntN(4) == 0:
		return nil
	case x.Type.Is("string"):
		return s.text(x)
	case x.Type.Is("boolean"):
		return s.IntN(2) == 0
	case x.Type.Is("integer"), x.Type.Is("number"):
		return s.number(x)
	case x.Type.Is("array"):
		list := []any{}
		for range min(int(x.MinItems)+s.IntN(3), limit(x.MaxItems, 3)) {
			list = append(list, s.Value(x.Items, depth+1))
		}
		return list
	}
	return s.object(x, depth)
}

func limit(n *uint64, most int) int {
	if n != nil {
		return min(int(*n), most)
	}
	return most
}

func (s *Source) object(x *openapi3.Schema, depth int) map[string]any {
	out := map[string]any{}
	for _, name := range x.Required {
		out[name] = s.Value(x.Properties[name], depth+1)
	}
	for name, p := range x.Properties {
		if _, there := out[name]; !there && (s.Most || s.IntN(3) == 0) {
			out[name] = s.Value(p, depth+1)
		}
	}
	if more := x.AdditionalProperties.Schema; more != nil && s.IntN(2) == 0 {
		out["jersey"] = s.Value(more, depth+1)
	}
	return out
}

func (s *Source) number(x *openapi3.Schema) any {
	low, high := 0.0, 100.0
	if x.Min != nil {
		low = *x.Min
	}
	if x.Max != nil {
		high = *x.Max
	}
	v := low
	switch s.IntN(4) {
	case 0:
	case 1:
		v = high
	default:
		v = low + s.Float64()*math.Min(high-low, 40)
	}
	if x.Type.Is("integer") {
		return int64(v)
	}
	return v
}

func (s *Source) text(x *openapi3.Schema) string {
	switch {
	case x.Format == "uuid":
		if len(s.IDs) > 0 && s.IntN(5) > 0 {
			return s.IDs[s.IntN(len(s.IDs))]
		}
		return fmt.Sprintf("%08x-0000-7000-8000-%012x", s.Uint32(), s.Uint32())
	case x.Format == "date":
		return fmt.Sprintf("2026-%02d-%02d", 8+s.IntN(4), 1+s.IntN(28))
	case x.Format == "date-time":
		return "2026-10-13T17:00:00Z"
	case samples[x.Pattern] != "" || x.Pattern == `^([a-z]{1,20}/[0-9a-f-]{36})?$`:
		return samples[x.Pattern]
	case x.Pattern != "" && len(s.Keys) > 0:
		return s.Keys[s.IntN(len(s.Keys))]
	}
	n := max(int(x.MinLength), 1)
	return strings.Repeat("Ab c", (n+3)/4)[:max(n, 3)]
}

// spoiled is a value that the schema may not allow.
func (s *Source) spoiled(x *openapi3.Schema, depth int) any {
	deep := func(n int) any {
		var v any = 1
		for range n {
			v = []any{v}
		}
		return v
	}
	extremes := []any{nil, true, "x", -1, 0, int64(math.MaxInt64), int64(math.MinInt64), 1e308, -1e308, 4.5, math.MaxInt32 + 1, []any{}, map[string]any{}, map[string]any{"x": 1}, deep(45), nasty[s.IntN(len(nasty))]}
	switch {
	case x.Type.Is("string") && s.IntN(3) > 0:
		if x.MaxLength != nil && s.IntN(3) == 0 {
			return strings.Repeat("ä", int(*x.MaxLength)+1)
		}
		return nasty[s.IntN(len(nasty))]
	case (x.Type.Is("integer") || x.Type.Is("number")) && s.IntN(2) == 0:
		if x.Max != nil {
			return *x.Max + 1
		}
	case x.Type.Is("array") && x.MaxItems != nil && s.IntN(4) == 0:
		spoils := s.Spoils
		s.Spoils = 0
		one := s.Value(x.Items, depth+1)
		s.Spoils = spoils
		list := make([]any, min(int(*x.MaxItems)+1, 6000))
		for i := range list {
			list[i] = one
		}
		return list
	case x.Type.Is("object") && s.IntN(2) == 0:
		out := s.object(x, depth)
		for name := range out {
			delete(out, name) // one of them, whichever
			break
		}
		out["extra\u2066"[:5+s.IntN(2)*3]] = 1
		return out
	}
	return extremes[s.IntN(len(extremes))]
}
