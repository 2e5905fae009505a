package library

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"sort"
	"strconv"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/teaching"
)

// Kinds lists the kinds of entries.
func Kinds() []string { return slices.Clone(kinds) }

// sortStep leaves room for a house to put its own between two of ours.
const sortStep = 10

// Entries takes a bundle apart into entries of their own, for a house to lay its layer
// over.
func (b Bundle) Entries() []merge.Entry {
	var out []merge.Entry
	add := func(kind, key string, form any) {
		out = append(out, merge.Entry{Ref: merge.Ref{Kind: kind, Key: key}, Fields: fieldsOf(form)})
	}
	for _, q := range b.Questions {
		add("question", q.Key, q)
	}
	for _, t := range b.Tables {
		add("table", t.Key, t)
	}
	for _, f := range b.Faults {
		add("fault", f.Key, f)
	}
	for _, t := range b.Techniques {
		if len(t.Groups) == 0 {
			t.Groups = b.Groups
		}
		points, faults := t.Checkpoints, t.Faults
		t.Checkpoints, t.Faults = nil, nil
		add("technique", t.Key, t)
		for i, c := range points {
			c.Technique, c.Sort = t.Key, (i+1)*sortStep
			add("checkpoint", c.Key, c)
		}
		for i, f := range faults {
			f.Technique, f.Sort = t.Key, (i+1)*sortStep
			add("fault", f.Key, f)
		}
	}
	for _, d := range b.Drills {
		if d.Sides == 1 {
			d.Sides = 0 // written or not, it is the same
		}
		add("drill", d.Key, d)
	}
	for _, l := range b.Ladders {
		add("ladder", l.Key, l)
	}
	return out
}

// fieldsOf reads the fields of a form. The key is not one: it never changes.
func fieldsOf(form any) merge.Fields {
	text, err := json.Marshal(form)
	if err != nil {
		panic(err) // forms hold strings, numbers and lists of them
	}
	var raw map[string]json.RawMessage
	if err := json.Unmarshal(text, &raw); err != nil {
		panic(err)
	}
	fields := merge.Fields{}
	for k, v := range raw {
		if k != "key" {
			fields[k] = string(v)
		}
	}
	return fields
}

// formOf returns an empty form of a kind, or nil.
func formOf(kind string) any {
	switch kind {
	case "question":
		return &teaching.Question{}
	case "table":
		return &teaching.Table{}
	case "technique":
		return &teaching.Technique{}
	case "checkpoint":
		return &teaching.Checkpoint{}
	case "fault":
		return &teaching.Fault{}
	case "drill":
		return &teaching.Drill{}
	case "ladder":
		return &teaching.Ladder{}
	}
	return nil
}

// ReadFields reads the fields of an entry from JSON, refusing what the kind does not
// have, and returns them in the one way they are written. Errors are invalid.Errors that
// name the field.
func ReadFields(kind string, text []byte) (merge.Fields, error) {
	form := formOf(kind)
	if form == nil {
		return nil, invalid.Field("kind", "there are no entries of kind %q", kind)
	}
	dec := json.NewDecoder(bytes.NewReader(upgradeText(kind, text)))
	dec.DisallowUnknownFields()
	if err := dec.Decode(form); err != nil {
		var wrong *json.UnmarshalTypeError
		if errors.As(err, &wrong) && wrong.Field != "" {
			return nil, invalid.Field("fields."+wrong.Field, "%s is not what it should be", wrong.Field)
		}
		if name, ok := strings.CutPrefix(err.Error(), `json: unknown field "`); ok {
			name = strings.TrimSuffix(name, `"`)
			return nil, invalid.Field("fields."+name, "%s is not a field of a %s", name, kind)
		}
		return nil, invalid.Caused("fields", "the fields cannot be read", err)
	}
	if err := bounded(reflect.ValueOf(form), "fields"); err != nil {
		return nil, err
	}
	if d, ok := form.(*teaching.Drill); ok && d.Sides == 1 {
		d.Sides = 0
	}
	if t, ok := form.(*teaching.Technique); ok && (len(t.Checkpoints) > 0 || len(t.Faults) > 0) {
		return nil, invalid.Field("fields.checkpoints", "checkpoints and faults are entries of their own")
	}
	return fieldsOf(form), nil
}

// object writes the fields as one JSON object, with the key in it.
func object(e merge.Entry) []byte {
	n := len(`{"key":""}`) + len(e.Key)
	for k, v := range e.Fields {
		n += len(`,"":`) + len(k) + len(v)
	}
	b := append(make([]byte, 0, n), `{"key":`...)
	b = quoted(b, e.Key)
	for k, v := range e.Fields {
		b = append(quoted(append(b, ','), k), ':')
		b = append(b, v...)
	}
	return append(b, '}')
}

// quoted appends a word as JSON writes it.
func quoted(b []byte, word string) []byte {
	if strings.Trim(word, "abcdefghijklmnopqrstuvwxyz0123456789_") == "" {
		return append(append(append(b, '"'), word...), '"')
	}
	text, _ := json.Marshal(word)
	return append(b, text...)
}

// Bundled puts entries together again into one bundle. An entry of another kind than
// ours, or whose fields cannot be read, is an error.
func Bundled(entries []merge.Entry) (Bundle, error) {
	b := Bundle{Edition: edition2}
	points, faults := map[string][]teaching.Checkpoint{}, map[string][]teaching.Fault{}
	for _, e := range entries {
		form := formOf(e.Kind)
		if form == nil {
			return b, fmt.Errorf("%s: unknown kind", e.Ref)
		}
		if err := json.Unmarshal(object(e), form); err != nil {
			return b, fmt.Errorf("%s: %w", e.Ref, err)
		}
		switch x := form.(type) {
		case *teaching.Question:
			b.Questions = append(b.Questions, *x)
		case *teaching.Table:
			b.Tables = append(b.Tables, *x)
		case *teaching.Technique:
			b.Techniques = append(b.Techniques, *x)
		case *teaching.Checkpoint:
			points[x.Technique] = append(points[x.Technique], *x)
		case *teaching.Fault:
			if x.Technique == "" {
				b.Faults = append(b.Faults, *x)
				continue
			}
			faults[x.Technique] = append(faults[x.Technique], *x)
		case *teaching.Drill:
			b.Drills = append(b.Drills, *x)
		case *teaching.Ladder:
			b.Ladders = append(b.Ladders, *x)
		}
	}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		t.Checkpoints, t.Faults = points[t.Key], faults[t.Key]
		sort.SliceStable(t.Checkpoints, func(i, j int) bool { return t.Checkpoints[i].Sort < t.Checkpoints[j].Sort })
		sort.SliceStable(t.Faults, func(i, j int) bool { return t.Faults[i].Sort < t.Faults[j].Sort })
	}
	return b, nil
}

func (b Bundle) library() *teaching.Library {
	out := &teaching.Library{Questions: b.Questions, Tables: b.Tables, Shared: b.Faults, Techniques: slices.Clone(b.Techniques), Drills: b.Drills, Ladders: b.Ladders}
	for i := range out.Techniques {
		if len(out.Techniques[i].Groups) == 0 {
			out.Techniques[i].Groups = b.Groups
		}
	}
	return out.Spread().Link()
}

// Align gives the checkpoints and faults of a file the places they have here, so that a
// house that put its own between them does not see them all as moved. New ones come
// right after the one they follow in the file. A fault that is shared belongs where either says: who takes in one
// technique must not lose a safety fault of his others.
func Align(incoming, here []merge.Entry) []merge.Entry {
	sorts, shared := map[merge.Ref]string{}, map[merge.Ref]string{}
	for _, e := range here {
		if s := e.Fields["sort"]; s != "" {
			sorts[e.Ref] = s
		}
		if s := e.Fields["everywhere"]; s != "" {
			shared[e.Ref] = s
		}
	}
	out := make([]merge.Entry, len(incoming))
	last := map[string]int{} // kind and technique → place of the one before
	for i, e := range incoming {
		out[i] = e
		if ours, theirs := shared[e.Ref], e.Fields["everywhere"]; ours != theirs && ours != "" && theirs != "" {
			e.Fields = maps.Clone(e.Fields)
			e.Fields["everywhere"] = both(ours, theirs)
			out[i] = e
		}
		if e.Fields["sort"] == "" {
			continue
		}
		at := e.Kind + " " + e.Fields["technique"]
		fields := maps.Clone(e.Fields)
		if s, ok := sorts[e.Ref]; ok {
			fields["sort"] = s
		} else {
			fields["sort"] = strconv.Itoa(last[at] + 1)
		}
		last[at], _ = strconv.Atoi(fields["sort"])
		out[i].Fields = fields
	}
	return out
}

// both is a list of keys, as fields hold it, with what another has beside it. What cannot be read stays as it came,
// to be refused where it is looked at.
func both(ours, theirs string) string {
	var a, b []string
	if json.Unmarshal([]byte(ours), &a) != nil || json.Unmarshal([]byte(theirs), &b) != nil {
		return theirs
	}
	for _, k := range b {
		if !slices.Contains(a, k) {
			a = append(a, k)
		}
	}
	text, err := json.Marshal(a)
	if err != nil {
		return theirs
	}
	return string(text)
}
