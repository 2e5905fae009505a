package library

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"math"
	"reflect"
	"regexp"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v4"

	"nineyard/core/invalid"
	"nineyard/core/legible"
	"nineyard/core/merge"
)

// Limits of a file that is read. All of them are looked at before anything is made of it, so that what reading takes
// grows with the file and is bounded.
const (
	MaxBytes   = 2 << 20 // of the file
	maxParts   = 200_000 // signs that divide a file: line ends, commas and colons
	maxEntries = 5_000   // of a list
	maxText    = 4_000   // characters of a text
	maxNumber  = 1e6     // of a number, either way
)

// Parse reads one bundle, YAML or JSON, and the line on which each entry begins. Unknown fields are errors, since a
// misspelt one would be lost; so are anchors, aliases and tags, which no library needs. Errors are invalid.Errors on
// "file" and name the line and the field in the words of this form.
func Parse(data []byte) (Bundle, map[merge.Ref]int, error) {
	root, err := parse(data)
	if err != nil || root == nil {
		return Bundle{}, nil, err
	}
	var b Bundle
	if err := check(root, reflect.TypeOf(b), ""); err != nil {
		return Bundle{}, nil, err
	}
	if err := root.Decode(&b); err != nil { // all that it may refuse has been looked at
		return Bundle{}, nil, invalid.Caused("file", "the file is not a library that can be read", err)
	}
	lines := map[merge.Ref]int{}
	collect(root, lines)
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

// check holds a node to the form it is to become.
func check(n *yaml.Node, form reflect.Type, at string) error {
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
		return nil
	}
	switch form.Kind() {
	case reflect.Pointer:
		return check(n, form.Elem(), at)
	case reflect.Struct:
		return checkFields(n, form, at, wrong)
	case reflect.Slice, reflect.Array:
		if n.Kind != yaml.SequenceNode {
			return wrong("must be a list")
		}
		if form.Kind() == reflect.Array && len(n.Content) != form.Len() {
			return wrong("must have %d entries", form.Len())
		}
		if len(n.Content) > maxEntries {
			return wrong("has more than %d entries", maxEntries)
		}
		for i, item := range n.Content {
			if err := check(item, form.Elem(), fmt.Sprintf("%s[%d]", at, i)); err != nil {
				return err
			}
		}
		return nil
	}
	if n.Kind != yaml.ScalarNode {
		return wrong("must be a single value")
	}
	switch form.Kind() {
	case reflect.String:
		if r, ok := legible.Text(n.Value); !ok {
			return wrong("holds a character that cannot be read (%U)", r)
		}
		if len([]rune(n.Value)) > maxText {
			return wrong("is longer than %d characters", maxText)
		}
	case reflect.Bool:
		if n.ShortTag() != "!!bool" {
			return wrong("must be true or false")
		}
	case reflect.Int:
		x, err := strconv.Atoi(n.Value)
		if n.ShortTag() != "!!int" || err != nil || x < -maxNumber || x > maxNumber {
			return wrong("must be a whole number between %d and %d", int(-maxNumber), int(maxNumber))
		}
	case reflect.Float64:
		x, err := strconv.ParseFloat(n.Value, 64)
		if tag := n.ShortTag(); tag != "!!int" && tag != "!!float" || err != nil || math.IsNaN(x) || math.Abs(x) > maxNumber {
			return wrong("must be a number between %d and %d", int(-maxNumber), int(maxNumber))
		}
	}
	return nil
}

func checkFields(n *yaml.Node, form reflect.Type, at string, wrong func(string, ...any) error) error {
	if n.Kind != yaml.MappingNode {
		return wrong("must have fields")
	}
	seen := map[string]bool{}
	for i := 0; i+1 < len(n.Content); i += 2 {
		key := n.Content[i]
		name := key.Value
		if len(name) > 80 {
			name = name[:80] + "…"
		}
		field, ok := fieldNamed(form, key.Value)
		if key.Kind != yaml.ScalarNode || !ok {
			return invalid.Field("file", "line %d: %q is not a field %s", key.Line, name, strings.TrimSpace("of "+orFile(at)))
		}
		if seen[key.Value] {
			return invalid.Field("file", "line %d: %s stands twice in %s", key.Line, name, orFile(at))
		}
		seen[key.Value] = true
		if err := check(n.Content[i+1], field.Type, strings.TrimPrefix(at+"."+key.Value, ".")); err != nil {
			return err
		}
	}
	return nil
}

func orFile(at string) string {
	if at == "" {
		return "a library"
	}
	return at
}

// fieldNamed finds the field of a form by its name in a file.
func fieldNamed(form reflect.Type, name string) (reflect.StructField, bool) {
	for i := range form.NumField() {
		f := form.Field(i)
		if own, _, _ := strings.Cut(f.Tag.Get("yaml"), ","); own == name && own != "-" {
			return f, true
		}
	}
	return reflect.StructField{}, false
}

// bounded holds a form that was read from JSON to the limits of what a file may hold. Errors are invalid.Errors on
// "fields." and the field.
func bounded(v reflect.Value, at string) error {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			return bounded(v.Elem(), at)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
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
