package library

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
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
	Known   *teaching.Library // every school, with what is retired: old marks keep its words

	parts map[merge.Ref]part
	old   []merge.Entry // as they were when they shipped, which layers of then are made over
}

// Layer returns a layer that was made over this edition in the form of today.
func (e *Edition) Layer(l merge.Layer) merge.Layer { return UpgradeLayer(e.old, l) }

// part is an entry as it was read.
type part struct {
	fields merge.Fields
	value  any // of core/teaching
}

var ships = sync.OnceValues(func() (*Edition, error) {
	digest, entries, values, err := decompile(compiled)
	if err != nil {
		return nil, err
	}
	return newEdition(digest, entries, entries, values)
})

// Shipped returns the edition that ships with the program. It is checked by the tests,
// so an error here means a broken build.
func Shipped() (*Edition, error) { return ships() }

// Folded says of each fault of the shipped library that was folded into another which one it counts for.
func Folded() (map[string]string, error) { return folded() }

var folded = sync.OnceValues(func() (map[string]string, error) {
	e, err := Shipped()
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	list := slices.Clone(e.Known.Shared)
	for _, t := range e.Known.Techniques {
		list = append(list, t.Faults...)
	}
	for _, f := range list {
		for _, was := range f.Was {
			out[was] = f.Key
		}
	}
	return out, nil
})

// NewEdition names entries by their digest and builds their libraries.
func NewEdition(entries []merge.Entry) (*Edition, error) {
	text, err := json.Marshal(entries)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(text)
	now, values := make([]merge.Entry, len(entries)), make([]any, len(entries))
	if err := each(len(entries), func(i int) (err error) {
		now[i] = Upgrade(entries[i])
		values[i], err = read(now[i])
		return err
	}); err != nil {
		return nil, err
	}
	return newEdition(hex.EncodeToString(sum[:]), entries, now, values)
}

// newEdition builds the libraries of entries in the form of today, as they were and as they were read.
func newEdition(digest string, old, entries []merge.Entry, values []any) (*Edition, error) {
	e := &Edition{Digest: digest, Entries: entries, old: old}
	e.parts = make(map[merge.Ref]part, len(entries))
	for i, x := range e.Entries {
		e.parts[x.Ref] = part{x.Fields, values[i]}
	}
	var err error
	if e.All, err = e.Build(e.Entries); err != nil {
		return nil, err
	}
	if e.Known = e.All; Retires(e.Entries) {
		if e.Known, err = e.BuildKnown(e.Entries); err != nil {
			return nil, err
		}
	}
	e.Taught = school.Resolve(e.All)
	return e, nil
}

// Build reads entries into a library, linked but not resolved or checked, without what is retired. What stands in
// the edition as it is given is not read again.
func (e *Edition) Build(entries []merge.Entry) (*teaching.Library, error) {
	return e.build(slices.DeleteFunc(slices.Clone(entries), retired))
}

// BuildKnown reads entries as Build does, with what is retired among them.
func (e *Edition) BuildKnown(entries []merge.Entry) (*teaching.Library, error) {
	return e.build(entries)
}

// Retires reports whether an entry is retired: without any, what is known is what is taught.
func Retires(entries []merge.Entry) bool { return slices.ContainsFunc(entries, retired) }

func retired(x merge.Entry) bool { return x.Fields["retired"] == "true" }

func (e *Edition) build(entries []merge.Entry) (*teaching.Library, error) {
	out := &teaching.Library{}
	points, faults := map[string][]teaching.Checkpoint{}, map[string][]teaching.Fault{}
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
		case teaching.Table:
			out.Tables = append(out.Tables, v)
		case teaching.Technique:
			out.Techniques = append(out.Techniques, v)
		case teaching.Checkpoint:
			points[v.Technique] = append(points[v.Technique], v)
		case teaching.Fault:
			if v.Technique == "" {
				out.Shared = append(out.Shared, v)
				continue
			}
			faults[v.Technique] = append(faults[v.Technique], v)
		case teaching.Drill:
			out.Drills = append(out.Drills, v)
		case teaching.Ladder:
			out.Ladders = append(out.Ladders, v)
		}
	}
	for i := range out.Techniques {
		t := &out.Techniques[i]
		t.Checkpoints, t.Faults = points[t.Key], faults[t.Key]
		sort.SliceStable(t.Checkpoints, func(i, j int) bool { return t.Checkpoints[i].Sort < t.Checkpoints[j].Sort })
		sort.SliceStable(t.Faults, func(i, j int) bool { return t.Faults[i].Sort < t.Faults[j].Sort })
	}
	return out.Spread().Link(), nil
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
	return reflect.ValueOf(form).Elem().Interface(), nil
}
