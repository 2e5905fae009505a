// Command entries makes everything that says what an entry of the teaching library is made of from the one place where
// it is said:
//
//	go run ./internal/contract/entries api/entries.yaml .
//
// It writes the Go types, library/schema.json and the fields of the editor below the directory. The contract's types and
// TypeScript's follow from the same file by way of the contract.
package main

import (
	"bytes"
	"errors"
	"fmt"
	"go/format"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"go.yaml.in/yaml/v4"
)

func main() {
	if len(os.Args) != 3 {
		fmt.Fprintln(os.Stderr, "usage: entries SOURCE DIRECTORY")
		os.Exit(2)
	}
	if err := run(os.Args[1], os.Args[2]); err != nil {
		fmt.Fprintln(os.Stderr, "entries:", err)
		os.Exit(1)
	}
}

func run(source, dir string) error {
	s, err := open(source)
	if err != nil {
		return err
	}
	files := map[string]func() ([]byte, error){
		"core/teaching/entries.gen.go": func() ([]byte, error) { return s.goFile("teaching") },
		"core/standard/measure.gen.go": func() ([]byte, error) { return s.goFile("standard") },
		"library/bundle.gen.go":        func() ([]byte, error) { return s.goFile("library") },
		"library/schema.json":          s.jsonSchema,
		"web/src/api/entries.gen.ts":   s.fields,
	}
	for name, make := range files {
		text, err := make()
		if err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(path, text, 0o644); err != nil {
			return err
		}
	}
	return nil
}

const generated = "// Made from api/entries.yaml by 'make generate'. Do not edit.\n"

// source is the file in which entries are described.
type source struct {
	names []string // of the schemas, in their order
	by    map[string]*yaml.Node
}

func open(name string) (*source, error) {
	data, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	var doc yaml.Node
	if err := yaml.Unmarshal(data, &doc); err != nil {
		return nil, err
	}
	if len(doc.Content) != 1 {
		return nil, errors.New("nothing in it")
	}
	schemas := get(get(doc.Content[0], "components"), "schemas")
	if schemas == nil {
		return nil, errors.New("there are no components.schemas")
	}
	s := &source{by: map[string]*yaml.Node{}}
	for name, n := range pairs(schemas) {
		s.names, s.by[name] = append(s.names, name), n
		if err := known(n, name); err != nil {
			return nil, err
		}
	}
	return s, nil
}

// words are those a schema may have: a comma in an unquoted description would make another one of what follows it.
var words = []string{"$ref", "type", "description", "title", "required", "properties", "items", "additionalProperties", "enum", "pattern", "format",
	"nullable", "minimum", "maximum", "minLength", "maxLength", "minItems", "maxItems", "maxProperties"}

// known refuses words that a schema does not have.
func known(n *yaml.Node, at string) error {
	for key, v := range pairs(n) {
		switch {
		case !slices.Contains(words, key) && !strings.HasPrefix(key, "x-"):
			return fmt.Errorf("line %d: %s: %q is no word of a schema", v.Line, at, key)
		case key == "properties":
			for name, p := range pairs(v) {
				if err := known(p, at+"."+name); err != nil {
					return err
				}
			}
		case key == "items" || key == "additionalProperties":
			if err := known(v, at+"."+key); err != nil {
				return err
			}
		}
	}
	return nil
}

// pairs goes through a mapping in its order.
func pairs(n *yaml.Node) func(func(string, *yaml.Node) bool) {
	return func(yield func(string, *yaml.Node) bool) {
		if n == nil || n.Kind != yaml.MappingNode {
			return
		}
		for i := 0; i+1 < len(n.Content); i += 2 {
			if !yield(n.Content[i].Value, n.Content[i+1]) {
				return
			}
		}
	}
}

func get(n *yaml.Node, key string) *yaml.Node {
	for k, v := range pairs(n) {
		if k == key {
			return v
		}
	}
	return nil
}

// text is the value at a key, empty where there is none.
func text(n *yaml.Node, key string) string {
	if v := get(n, key); v != nil {
		return v.Value
	}
	return ""
}

// look is a word of a property or, where it has none, of what it refers to.
func (s *source) look(n *yaml.Node, key string) *yaml.Node {
	if v := get(n, key); v != nil {
		return v
	}
	if _, target := s.target(n); target != nil {
		return s.look(target, key)
	}
	return nil
}

func (s *source) word(n *yaml.Node, key string) string {
	if v := s.look(n, key); v != nil {
		return v.Value
	}
	return ""
}

// target follows a reference.
func (s *source) target(n *yaml.Node) (string, *yaml.Node) {
	ref, ok := strings.CutPrefix(text(n, "$ref"), "#/components/schemas/")
	if !ok {
		return "", nil
	}
	return ref, s.by[ref]
}

// required are the names that an object requires.
func required(n *yaml.Node) map[string]bool {
	out := map[string]bool{}
	if list := get(n, "required"); list != nil {
		for _, x := range list.Content {
			out[x.Value] = true
		}
	}
	return out
}

// goFile writes the types of a package.
func (s *source) goFile(pkg string) ([]byte, error) {
	var body, lists bytes.Buffer
	imports := map[string]bool{}
	for _, name := range s.names {
		n := s.by[name]
		typeName, ok := strings.CutPrefix(text(n, "x-go"), pkg+".")
		if !ok || text(n, "type") != "object" {
			continue
		}
		fmt.Fprintf(&body, "\n// %s\ntype %s struct {\n", text(n, "description"), typeName)
		must := required(n)
		for field, p := range pairs(get(n, "properties")) {
			is, err := s.goType(p, pkg, imports)
			if err != nil {
				return nil, fmt.Errorf("%s.%s: %w", name, field, err)
			}
			tag := field
			switch {
			case text(n, "x-entry") == "" && pkg != "library" && must[field]:
			case is.zero:
				tag += ",omitzero"
			default:
				tag += ",omitempty"
			}
			fmt.Fprintf(&body, "\t%s %s `json:%q`", goName(field, text(p, "x-name")), is.name, tag)
			if about := text(p, "description"); about != "" {
				fmt.Fprintf(&body, " // %s", about)
			}
			fmt.Fprintln(&body)
			if list := text(p, "x-list"); list != "" {
				fmt.Fprintf(&lists, "\n// %s lists what %s of a %s may be.\nfunc %[1]s() []string { return []string{", list, goName(field, text(p, "x-name")), typeName)
				for _, x := range get(p, "enum").Content {
					fmt.Fprintf(&lists, "%q, ", x.Value)
				}
				fmt.Fprintln(&lists, "} }")
			}
		}
		if linked := text(n, "x-linked"); linked != "" {
			fmt.Fprintf(&body, "\n\t%s `json:\"-\"`\n", linked)
		}
		fmt.Fprintln(&body, "}")
	}
	if pkg == "library" {
		kinds, err := s.kinds()
		if err != nil {
			return nil, err
		}
		fmt.Fprintf(&body, "\n// Kinds of entries, in the order in which they are built.\nvar kinds = []string{%q", kinds[0])
		for _, k := range kinds[1:] {
			fmt.Fprintf(&body, ", %q", k)
		}
		body.WriteString("}\n\n// What entries of each kind stand under in a file.\nvar sets = map[string]string{\n")
		for _, name := range s.names {
			if set := text(s.by[name], "x-sets"); set != "" {
				fmt.Fprintf(&body, "%q: %q,\n", set, text(s.by[name], "x-entry"))
			}
		}
		body.WriteString("\"checkpoints\": \"checkpoint\",\n}\n")
	}
	var out bytes.Buffer
	fmt.Fprintf(&out, "%s\npackage %s\n", generated, pkg)
	for _, path := range []string{"nineyard/core/standard", "nineyard/core/teaching"} {
		if imports[path] {
			fmt.Fprintf(&out, "\nimport %q\n", path)
		}
	}
	out.Write(body.Bytes())
	out.Write(lists.Bytes())
	return format.Source(out.Bytes())
}

// kind is a type in Go.
type kind struct {
	name string
	zero bool // a struct or an array, which is left out when it is zero
}

func (s *source) goType(n *yaml.Node, pkg string, imports map[string]bool) (kind, error) {
	var is kind
	own := text(n, "x-go")
	_, target := s.target(n)
	switch {
	case own != "":
		is = named(own, pkg, imports)
		is.zero = is.zero || text(n, "type") == "object" && !strings.HasPrefix(own, "map[")
	case target != nil:
		below, err := s.goType(target, pkg, imports)
		if err != nil {
			return is, err
		}
		is = below
	default:
		switch text(n, "type") {
		case "string":
			is.name = "string"
		case "integer":
			is.name = "int"
		case "number":
			is.name = "float64"
		case "boolean":
			is.name = "bool"
		case "array":
			item, err := s.goType(get(n, "items"), pkg, imports)
			if err != nil {
				return is, err
			}
			is.name = "[]" + item.name
		default:
			return is, fmt.Errorf("no type in Go for %q", text(n, "type"))
		}
	}
	if text(n, "x-pointer") == "true" {
		return kind{name: "*" + is.name}, nil
	}
	return is, nil
}

// named is a type by its name, imported where it is another package's.
func named(full, pkg string, imports map[string]bool) kind {
	of, name, ok := strings.Cut(full, ".")
	if !ok || strings.ContainsAny(of, "[]") {
		return kind{full, strings.HasPrefix(full, "[2]")}
	}
	if of == pkg {
		return kind{name, true}
	}
	imports["nineyard/core/"+of] = true
	return kind{full, true}
}

func goName(field, own string) string {
	if own != "" {
		return own
	}
	var b strings.Builder
	for _, part := range strings.Split(field, "_") {
		b.WriteString(strings.ToUpper(part[:1]) + part[1:])
	}
	return b.String()
}

// kinds are those of the schemas that are entries; EntryKind must list the same.
func (s *source) kinds() ([]string, error) {
	var list, named []string
	for _, name := range s.names {
		if kind := text(s.by[name], "x-entry"); kind != "" {
			list = append(list, kind)
		}
	}
	if enum := get(s.by["EntryKind"], "enum"); enum != nil {
		for _, x := range enum.Content {
			named = append(named, x.Value)
		}
	}
	if !slices.Equal(list, named) {
		return nil, fmt.Errorf("EntryKind lists %v, the entries are %v", named, list)
	}
	return list, nil
}
