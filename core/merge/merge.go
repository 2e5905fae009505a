package merge

import (
	"cmp"
	"maps"
	"slices"
)

// Ref names an entry: its kind and its key, which never change.
type Ref struct{ Kind, Key string }

// String is the entry's name for people: "drill bag_pull".
func (r Ref) String() string { return r.Kind + " " + r.Key }

// Fields are the values of an entry by the name of the field. A field that is not there
// is empty.
type Fields map[string]string

// Entry is one entry of a library.
type Entry struct {
	Ref
	Fields Fields
}

// Edit is a field as the club has it, with the shipped value it was made from.
type Edit struct{ Base, Ours string }

// Change is what a club did to one entry.
type Change struct {
	Ref
	Added   bool // the shipped library does not have it, or did not when it was made
	Retired bool // not taught here
	Fields  map[string]Edit
}

// Layer is everything a club changed, in the order of the entries' names.
type Layer []Change

// Conflict is a field that the club and the shipped library both changed since their
// common base.
type Conflict struct {
	Ref
	Field              string
	Base, Ours, Theirs string
}

// Find returns the change of an entry, if there is one.
func (l Layer) Find(r Ref) (Change, bool) {
	for _, c := range l {
		if c.Ref == r {
			return c, true
		}
	}
	return Change{}, false
}

// Apply lays the layer over the shipped entries. Shipped entries keep their order,
// entries the club added follow, retired ones are left out. Neither argument is changed.
func Apply(shipped []Entry, l Layer) ([]Entry, []Conflict) {
	changes := make(map[Ref]Change, len(l))
	for _, c := range l {
		changes[c.Ref] = c
	}
	var out []Entry
	var conflicts []Conflict
	for _, e := range shipped {
		c, ok := changes[e.Ref]
		delete(changes, e.Ref)
		if !ok {
			out = append(out, e)
			continue
		}
		if c.Retired {
			continue
		}
		merged := Entry{e.Ref, maps.Clone(e.Fields)}
		for _, field := range slices.Sorted(maps.Keys(c.Fields)) {
			o := c.Fields[field]
			set(merged.Fields, field, o.Ours)
			if theirs := e.Fields[field]; theirs != o.Base && theirs != o.Ours {
				conflicts = append(conflicts, Conflict{e.Ref, field, o.Base, o.Ours, theirs})
			}
		}
		out = append(out, merged)
	}
	for _, c := range l {
		if _, left := changes[c.Ref]; !left || c.Retired || !c.Added {
			continue // not there any more, and never the club's own
		}
		e := Entry{c.Ref, Fields{}}
		for field, o := range c.Fields {
			set(e.Fields, field, o.Ours)
		}
		out = append(out, e)
	}
	return out, conflicts
}

// Put returns the layer with an entry as the club now wants it: the fields that differ
// from the shipped entry, each based on what is shipped today, so that saving an entry
// settles its conflicts. An entry equal to the shipped one leaves the layer. A nil
// shipped means that the library does not have it.
func (l Layer) Put(r Ref, shipped Fields, wanted Fields) Layer {
	return l.PutAll([]Want{{r, shipped, wanted}})
}

// Want is an entry as the club now wants it, beside the shipped one; nil where the library does not have it.
type Want struct {
	Ref
	Shipped Fields
	Fields  Fields
}

// PutAll is Put for many entries, each named once.
func (l Layer) PutAll(wants []Want) Layer {
	named := make(map[Ref]bool, len(wants))
	var changes []Change
	for _, w := range wants {
		named[w.Ref] = true
		c := Change{Ref: w.Ref, Added: w.Shipped == nil, Fields: map[string]Edit{}}
		for field, ours := range w.Fields {
			if base := w.Shipped[field]; ours != base {
				c.Fields[field] = Edit{base, ours}
			}
		}
		for field, base := range w.Shipped {
			if _, ok := w.Fields[field]; !ok && base != "" {
				c.Fields[field] = Edit{base, ""}
			}
		}
		if c.Added || len(c.Fields) > 0 {
			changes = append(changes, c)
		}
	}
	out := append(slices.DeleteFunc(slices.Clone(l), func(c Change) bool { return named[c.Ref] }), changes...)
	sorted(out)
	return out
}

// Retire returns the layer in which an entry is not taught here, or is again. What the
// club changed of it is kept for its return.
func (l Layer) Retire(r Ref, shipped bool, retired bool) Layer {
	c, _ := l.Find(r)
	c.Ref, c.Added, c.Retired = r, !shipped, retired
	if shipped && !retired && len(c.Fields) == 0 {
		return l.without(r)
	}
	return l.with(c)
}

func (l Layer) without(r Ref) Layer {
	return slices.DeleteFunc(slices.Clone(l), func(c Change) bool { return c.Ref == r })
}

func (l Layer) with(c Change) Layer {
	out := append(l.without(c.Ref), c)
	sorted(out)
	return out
}

func sorted(l Layer) {
	slices.SortFunc(l, func(a, b Change) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Key, b.Key))
	})
}

// Index finds the fields of entries by their names.
func Index(list []Entry) map[Ref]Fields {
	index := make(map[Ref]Fields, len(list))
	for _, e := range list {
		index[e.Ref] = e.Fields
	}
	return index
}

// Difference is one entry of an import beside the one that stands here.
type Difference struct {
	Ref
	New    bool
	Fields []string // that would change, by name; empty when they are the same
}

// Compare says what taking in the incoming entries would change, in their order. Entries
// that stand here alone are left alone: an import never takes anything away.
func Compare(here, incoming []Entry) []Difference {
	index := Index(here)
	out := make([]Difference, len(incoming))
	for i, e := range incoming {
		now, ok := index[e.Ref]
		d := Difference{Ref: e.Ref, New: !ok}
		for _, field := range slices.Sorted(maps.Keys(union(now, e.Fields))) {
			if now[field] != e.Fields[field] {
				d.Fields = append(d.Fields, field)
			}
		}
		out[i] = d
	}
	return out
}

func union(a, b Fields) map[string]bool {
	m := make(map[string]bool, len(a)+len(b))
	for k := range a {
		m[k] = true
	}
	for k := range b {
		m[k] = true
	}
	return m
}

func set(f Fields, field, value string) {
	if value == "" {
		delete(f, field)
		return
	}
	f[field] = value
}
