package library

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"sort"
	"sync"

	"nineyard/core/merge"
	"nineyard/core/school"
	"nineyard/core/teaching"
)

// Edition is a library as it ships: its entries, a digest that names them, and the
// libraries that follow from them. Everything that is built over an edition shares what it
// takes over unchanged, so that a club which changed little costs little.
type Edition struct {
	Digest  string
	Entries []merge.Entry
	All     *teaching.Library // every school
	Taught  *teaching.Library // as a club that changed nothing teaches it

	parts map[merge.Ref]part
}

// part is an entry as it was read.
type part struct {
	fields merge.Fields
	value  any // of core/teaching; a sorted one for checkpoints and faults
}

// sorted is a checkpoint or fault with its place in its technique.
type sorted[T any] struct {
	value     T
	technique string
	sort      int
}

var edition = sync.OnceValues(func() (*Edition, error) {
	b, err := Load(shipped)
	if err != nil {
		return nil, err
	}
	return NewEdition(b.Entries())
})

// Shipped returns the edition that ships with the program. It is checked by the tests,
// so an error here means a broken build.
func Shipped() (*Edition, error) { return edition() }

// NewEdition names entries by their digest and builds their libraries.
func NewEdition(entries []merge.Entry) (*Edition, error) {
	text, err := json.Marshal(entries)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(text)
	e := &Edition{Digest: hex.EncodeToString(sum[:]), Entries: entries}
	parts := make(map[merge.Ref]part, len(entries))
	for _, x := range entries {
		v, err := read(x)
		if err != nil {
			return nil, err
		}
		parts[x.Ref] = part{x.Fields, v}
	}
	e.parts = parts
	if e.All, err = e.Build(entries); err != nil {
		return nil, err
	}
	e.Taught = school.Resolve(e.All)
	return e, nil
}

// Build reads entries into a library, linked but not resolved or checked. What stands in
// the edition as it is given is not read again.
func (e *Edition) Build(entries []merge.Entry) (*teaching.Library, error) {
	out := &teaching.Library{}
	points, faults := map[string][]sorted[teaching.Checkpoint]{}, map[string][]sorted[teaching.Fault]{}
	for _, x := range entries {
		p, ok := e.parts[x.Ref]
		v := p.value
		if !ok || !maps.Equal(p.fields, x.Fields) {
			var err error
			if v, err = read(x); err != nil {
				return nil, err
			}
		}
		switch v := v.(type) {
		case teaching.Question:
			out.Questions = append(out.Questions, v)
		case teaching.Technique:
			out.Techniques = append(out.Techniques, v)
		case sorted[teaching.Checkpoint]:
			points[v.technique] = append(points[v.technique], v)
		case sorted[teaching.Fault]:
			faults[v.technique] = append(faults[v.technique], v)
		case teaching.Drill:
			out.Drills = append(out.Drills, v)
		case teaching.Ladder:
			out.Ladders = append(out.Ladders, v)
		}
	}
	for i := range out.Techniques {
		t := &out.Techniques[i]
		t.Checkpoints, t.Faults = inOrder(points[t.Key]), inOrder(faults[t.Key])
	}
	return out.Link(), nil
}

func inOrder[T any](list []sorted[T]) []T {
	sort.SliceStable(list, func(i, j int) bool { return list[i].sort < list[j].sort })
	var out []T
	for _, x := range list {
		out = append(out, x.value)
	}
	return out
}

// read reads one entry into the types of core/teaching. An entry of another kind than ours,
// or whose fields cannot be read, is an error.
func read(e merge.Entry) (any, error) {
	form := formOf(e.Kind)
	if form == nil {
		return nil, fmt.Errorf("%s: unknown kind", e.Ref)
	}
	if err := json.Unmarshal(object(e), form); err != nil {
		return nil, fmt.Errorf("%s: %w", e.Ref, err)
	}
	switch x := form.(type) {
	case *question:
		return x.core(), nil
	case *technique:
		return teaching.Technique{Key: x.Key, Name: x.Name, Aliases: x.Aliases, Groups: x.Groups, Summary: x.Summary}, nil
	case *checkpoint:
		return sorted[teaching.Checkpoint]{x.core(), x.Technique, x.Sort}, nil
	case *fault:
		return sorted[teaching.Fault]{x.core(), x.Technique, x.Sort}, nil
	case *drill:
		return x.core(), nil
	case *ladder:
		return x.core(), nil
	}
	return nil, fmt.Errorf("%s: unknown kind", e.Ref)
}
