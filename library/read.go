package library

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"go.yaml.in/yaml/v4"

	"nineyard/core/invalid"
	"nineyard/core/legible"
	"nineyard/core/merge"
	"nineyard/core/standard"
	"nineyard/core/teaching"
)

// Limits of a file that is read. All of them are looked at before anything is made of it, so that what reading takes
// grows with the file and is bounded.
const (
	MaxBytes   = 6 << 20 // of the file
	maxParts   = 600_000 // signs that divide a file: line ends, commas and colons
	maxEntries = 5_000   // of a list
	maxText    = 4_000   // characters of a text
	maxNumber  = 1e6     // of a number, either way
)

// Parse reads one bundle, YAML or JSON, and the line on which each entry begins. Unknown fields are errors, since a
// misspelt one would be lost; so are anchors, aliases and tags, which no library needs. A file of the first edition is read
// into the form of the second. Errors are invalid.Errors on "file" and name the line and the field in the words of this form.
func Parse(data []byte) (Bundle, map[merge.Ref]int, error) {
	root, err := parse(data)
	if err != nil || root == nil {
		return Bundle{}, nil, err
	}
	lines := map[merge.Ref]int{}
	collect(root, lines)
	if edition(root) < edition2 {
		upgradeFile(root)
	}
	var b Bundle
	w := writer{}
	if err := w.write(root, reflect.TypeOf(b), ""); err != nil {
		return Bundle{}, nil, err
	}
	if err := json.Unmarshal(w.Bytes(), &b); err != nil { // all that it may refuse has been looked at
		return Bundle{}, nil, invalid.Caused("file", "the file is not a library that can be read", err)
	}
	b.Edition = edition2
	return b, lines, nil
}

var atLine = regexp.MustCompile(`line (\d+)`)

// parse reads the tree of a file; nil where there is nothing in it.
func parse(data []byte) (*yaml.Node, error) {
	if len(data) > MaxBytes {
		return nil, invalid.Field("file", "the file is larger than %d MiB", MaxBytes>>20)
	}
	if n := bytes.Count(data, []byte("\n")) + bytes.Count(data, []byte(",")) + bytes.Count(data, []byte(":")); n > maxParts {
		return nil, invalid.Field("file", "the file has more parts than a library: %d, of %d at most", n, maxParts)
	}
	for i, line := range bytes.Split(data, []byte("\n")) {
		if r, ok := legible.Text(strings.TrimPrefix(string(line), "\ufeff")); !ok {
			return nil, invalid.Field("file", "line %d holds a character that cannot be read (%U)", i+1, r)
		}
	}
	var root yaml.Node
	dec := yaml.NewDecoder(bytes.NewReader(data))
	switch err := dec.Decode(&root); {
	case errors.Is(err, io.EOF):
		return nil, nil
	case err != nil:
		where := "the file"
		if m := atLine.FindStringSubmatch(err.Error()); m != nil {
			where = "line " + m[1]
		}
		return nil, invalid.Caused("file", where+" cannot be read as YAML or JSON: a sign, a quote or the indent of a line is wrong", err)
	}
	if err := dec.Decode(new(yaml.Node)); !errors.Is(err, io.EOF) {
		return nil, invalid.Field("file", "one file holds one document")
	}
	if len(root.Content) != 1 {
		return nil, nil
	}
	return root.Content[0], nil
}

// writer holds a file to the form it is to become and writes it as JSON.
type writer struct{ bytes.Buffer }

var bandType = reflect.TypeFor[standard.Band]()

// write holds a node to a form and writes it.
func (w *writer) write(n *yaml.Node, form reflect.Type, at string) error {
	wrong := func(format string, args ...any) error {
		where := at
		if where == "" {
			where = "the file"
		}
		return invalid.Field("file", "line %d: %s %s", n.Line, where, fmt.Sprintf(format, args...))
	}
	if n.Kind == yaml.AliasNode || n.Anchor != "" || n.Style&yaml.TaggedStyle != 0 {
		return wrong("has an anchor, an alias or a tag, which are not read")
	}
	if n.Kind == yaml.ScalarNode && n.ShortTag() == "!!null" {
		w.WriteString("null")
		return nil
	}
	switch {
	case form.Kind() == reflect.Pointer:
		return w.write(n, form.Elem(), at)
	case form == bandType:
		return w.list(n, reflect.TypeFor[[2]*float64](), at, wrong)
	case form.Kind() == reflect.Struct || form.Kind() == reflect.Map:
		return w.fields(n, form, at, wrong)
	case form.Kind() == reflect.Slice || form.Kind() == reflect.Array:
		return w.list(n, form, at, wrong)
	}
	return w.value(n, form, wrong)
}

type refusal = func(format string, args ...any) error

func (w *writer) list(n *yaml.Node, form reflect.Type, at string, wrong refusal) error {
	if n.Kind != yaml.SequenceNode {
		return wrong("must be a list")
	}
	if form.Kind() == reflect.Array && len(n.Content) != form.Len() {
		return wrong("must have %d entries", form.Len())
	}
	if len(n.Content) > maxEntries {
		return wrong("has more than %d entries", maxEntries)
	}
	w.WriteByte('[')
	for i, item := range n.Content {
		if i > 0 {
			w.WriteByte(',')
		}
		if err := w.write(item, form.Elem(), fmt.Sprintf("%s[%d]", at, i)); err != nil {
			return err
		}
	}
	w.WriteByte(']')
	return nil
}

// value writes a single value.
func (w *writer) value(n *yaml.Node, form reflect.Type, wrong refusal) error {
	if n.Kind != yaml.ScalarNode {
		return wrong("must be a single value")
	}
	switch form.Kind() {
	case reflect.String:
		return w.text(n.Value, wrong)
	case reflect.Bool:
		if n.ShortTag() != "!!bool" {
			return wrong("must be true or false")
		}
		w.WriteString(strings.ToLower(n.Value))
	case reflect.Int:
		x, err := strconv.Atoi(n.Value)
		if n.ShortTag() != "!!int" || err != nil || x < -maxNumber || x > maxNumber {
			return wrong("must be a whole number between %d and %d", int(-maxNumber), int(maxNumber))
		}
		w.WriteString(strconv.Itoa(x))
	case reflect.Float64:
		x, err := strconv.ParseFloat(n.Value, 64)
		if tag := n.ShortTag(); tag != "!!int" && tag != "!!float" || err != nil || math.IsNaN(x) || math.Abs(x) > maxNumber {
			return wrong("must be a number between %d and %d", int(-maxNumber), int(maxNumber))
		}
		w.WriteString(strconv.FormatFloat(x, 'g', -1, 64))
	}
	return nil
}

func (w *writer) text(s string, wrong refusal) error {
	if r, ok := legible.Text(s); !ok {
		return wrong("holds a character that cannot be read (%U)", r)
	}
	if len([]rune(s)) > maxText {
		return wrong("is longer than %d characters", maxText)
	}
	text, err := json.Marshal(s)
	w.Write(text)
	return err
}

// fields writes a mapping: the fields of a form, or what a map of one holds.
func (w *writer) fields(n *yaml.Node, form reflect.Type, at string, wrong refusal) error {
	if n.Kind != yaml.MappingNode {
		return wrong("must have fields")
	}
	if form.Kind() == reflect.Map && len(n.Content)/2 > maxEntries {
		return wrong("has more than %d entries", maxEntries)
	}
	w.WriteByte('{')
	seen := map[string]bool{}
	for i := 0; i+1 < len(n.Content); i += 2 {
		key := n.Content[i]
		name := key.Value
		if len(name) > 80 {
			name = name[:80] + "…"
		}
		is, ok := fieldNamed(form, key.Value)
		if key.Kind != yaml.ScalarNode || !ok {
			return invalid.Field("file", "line %d: %q is not a field %s", key.Line, name, strings.TrimSpace("of "+orFile(at)))
		}
		if seen[key.Value] {
			return invalid.Field("file", "line %d: %s stands twice in %s", key.Line, name, orFile(at))
		}
		seen[key.Value] = true
		if i > 0 {
			w.WriteByte(',')
		}
		if err := w.text(key.Value, wrong); err != nil {
			return err
		}
		w.WriteByte(':')
		if err := w.write(n.Content[i+1], is, strings.TrimPrefix(at+"."+key.Value, ".")); err != nil {
			return err
		}
	}
	w.WriteByte('}')
	return nil
}

func orFile(at string) string {
	if at == "" {
		return "a library"
	}
	return at
}

// byNesting are the fields of an entry that a file says by nesting and order.
var byNesting = []string{"technique", "sort"}

// nested are the forms that have them.
var nested = []reflect.Type{reflect.TypeFor[teaching.Checkpoint](), reflect.TypeFor[teaching.Fault]()}

var named sync.Map // of a form and a field's name: its type

type fieldName struct {
	form reflect.Type
	name string
}

// fieldNamed finds what a form holds under a name in a file.
func fieldNamed(form reflect.Type, name string) (reflect.Type, bool) {
	if form.Kind() == reflect.Map {
		return form.Elem(), true
	}
	if slices.Contains(byNesting, name) && slices.Contains(nested, form) {
		return nil, false
	}
	if is, ok := named.Load(fieldName{form, name}); ok {
		return is.(reflect.Type), true
	}
	for i := range form.NumField() {
		f := form.Field(i)
		if own, _, _ := strings.Cut(f.Tag.Get("json"), ","); own == name && own != "-" {
			named.Store(fieldName{form, name}, f.Type)
			return f.Type, true
		}
	}
	return nil, false
}

// bounded holds a form that was read from JSON to the limits of what a file may hold. Errors are invalid.Errors on
// "fields." and the field.
func bounded(v reflect.Value, at string) error {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			return bounded(v.Elem(), at)
		}
	case reflect.Map:
		if v.Len() > maxEntries {
			return invalid.Field(at, "it has more than %d entries", maxEntries)
		}
		for k, x := range v.Seq2() {
			if err := bounded(k, at); err != nil {
				return err
			}
			if err := bounded(x, at+"."+k.String()); err != nil {
				return err
			}
		}
	case reflect.Struct:
		if v.Type() == bandType {
			for _, end := range []float64{v.Field(0).Float(), v.Field(1).Float()} {
				if !math.IsInf(end, 0) && math.Abs(end) > maxNumber { // an open side is infinite
					return invalid.Field(at, "it must be between %d and %d", int(-maxNumber), int(maxNumber))
				}
			}
			return nil
		}
		for i := range v.NumField() {
			name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
			if name == "-" {
				continue
			}
			if err := bounded(v.Field(i), at+"."+name); err != nil {
				return err
			}
		}
	case reflect.Slice, reflect.Array:
		if v.Len() > maxEntries {
			return invalid.Field(at, "it has more than %d entries", maxEntries)
		}
		for i := range v.Len() {
			if err := bounded(v.Index(i), fmt.Sprintf("%s[%d]", at, i)); err != nil {
				return err
			}
		}
	case reflect.String:
		if r, ok := legible.Text(v.String()); !ok {
			return invalid.Field(at, "it holds a character that cannot be read (%U)", r)
		}
		if len([]rune(v.String())) > maxText {
			return invalid.Field(at, "it is longer than %d characters", maxText)
		}
	case reflect.Int:
		if x := v.Int(); x < -maxNumber || x > maxNumber {
			return invalid.Field(at, "it must be between %d and %d", int(-maxNumber), int(maxNumber))
		}
	case reflect.Float64:
		if math.Abs(v.Float()) > maxNumber {
			return invalid.Field(at, "it must be between %d and %d", int(-maxNumber), int(maxNumber))
		}
	}
	return nil
}
