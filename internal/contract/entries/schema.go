package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"go.yaml.in/yaml/v4"
)

// The words of a schema that are the contract's own and no part of JSON Schema. What begins with x- is neither.
var ours = map[string]bool{"format": true, "nullable": true}

// jsonSchema writes the JSON Schema of a file.
func (s *source) jsonSchema() ([]byte, error) {
	var b bytes.Buffer
	root := s.by["LibraryFile"]
	b.WriteString(`{"$schema":"https://json-schema.org/draft/2020-12/schema","title":"Nine Yard teaching library",`)
	first := true
	if err := s.words(&b, root, &first); err != nil {
		return nil, err
	}
	b.WriteString(`,"$defs":{`)
	first = true
	for _, name := range s.names {
		if name == "LibraryFile" {
			continue
		}
		comma(&b, &first)
		fmt.Fprintf(&b, "%q:", defName(name))
		if err := s.schema(&b, s.by[name]); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
	}
	b.WriteString("}}")
	var out bytes.Buffer
	if err := json.Indent(&out, b.Bytes(), "", "  "); err != nil {
		return nil, err
	}
	out.WriteByte('\n')
	return out.Bytes(), nil
}

func comma(b *bytes.Buffer, first *bool) {
	if !*first {
		b.WriteByte(',')
	}
	*first = false
}

// defName is what a schema is called in a file's schema: DrillEntry is drill.
func defName(name string) string {
	name = strings.TrimSuffix(name, "Entry")
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 {
				b.WriteByte('_')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}

func (s *source) schema(b *bytes.Buffer, n *yaml.Node) error {
	b.WriteByte('{')
	first := true
	if err := s.words(b, n, &first); err != nil {
		return err
	}
	b.WriteByte('}')
	return nil
}

// words writes the words of a schema.
func (s *source) words(b *bytes.Buffer, n *yaml.Node, first *bool) error {
	for key, v := range pairs(n) {
		switch {
		case strings.HasPrefix(key, "x-") || ours[key]:
			continue
		case key == "$ref":
			comma(b, first)
			fmt.Fprintf(b, `"$ref":%q`, "#/$defs/"+defName(strings.TrimPrefix(v.Value, "#/components/schemas/")))
		case key == "type" && text(n, "nullable") == "true":
			comma(b, first)
			fmt.Fprintf(b, `"type":[%q,"null"]`, v.Value)
		case key == "items" || key == "additionalProperties" && v.Kind == yaml.MappingNode:
			comma(b, first)
			fmt.Fprintf(b, "%q:", key)
			if err := s.schema(b, v); err != nil {
				return err
			}
		case key == "properties":
			comma(b, first)
			b.WriteString(`"properties":{`)
			one := true
			for name, p := range pairs(v) {
				if text(p, "x-place") == "true" { // said by nesting and order
					continue
				}
				comma(b, &one)
				fmt.Fprintf(b, "%q:", name)
				if err := s.schema(b, p); err != nil {
					return err
				}
			}
			b.WriteByte('}')
		default:
			var plain any
			if err := v.Decode(&plain); err != nil {
				return err
			}
			value, err := json.Marshal(plain)
			if err != nil {
				return err
			}
			comma(b, first)
			fmt.Fprintf(b, "%q:%s", key, value)
		}
	}
	return nil
}

// field is how a field of an entry is edited.
type field struct {
	Name   string  `json:"name"`
	Label  string  `json:"label"`
	Help   string  `json:"help,omitempty"`
	As     string  `json:"as"`
	Of     string  `json:"of,omitempty"`
	Hint   string  `json:"hint,omitempty"`
	One    string  `json:"one,omitempty"`
	Parts  []field `json:"parts,omitempty"`
	Needed bool    `json:"needed,omitempty"`
}

// fields writes the fields of each kind of entry, in their order.
func (s *source) fields() ([]byte, error) {
	var b bytes.Buffer
	b.WriteString(generated + `
/** How a field of an entry is edited; what it takes stands in the shape of the entry. */
export interface EntryField {
  name: string;
  label: string;
  help?: string;
  as: "line" | "text" | "flag" | "measure" | "stages" | "drawing" | "words" | "number" | "choice" | "keys" | "pair" | "list" | "group" | "map";
  /** What its keys name. */
  of?: string;
  /** An example. */
  hint?: string;
  /** What one of a list is called. */
  one?: string;
  /** The fields of what it holds, one or many. */
  parts?: EntryField[];
  needed?: boolean;
}

export type EntryKind = `)
	kinds, err := s.kinds()
	if err != nil {
		return nil, err
	}
	b.WriteString(`"` + strings.Join(kinds, `" | "`) + `"` + ";\n\nexport const entryFields: Record<EntryKind, EntryField[]> = {\n")
	for _, name := range s.names {
		k := text(s.by[name], "x-entry")
		if k == "" {
			continue
		}
		list, err := json.MarshalIndent(s.fieldsOf(s.by[name]), "", "  ")
		if err != nil {
			return nil, err
		}
		fmt.Fprintf(&b, "%s: %s,\n", k, list)
	}
	b.WriteString("};\n")
	return b.Bytes(), nil
}

func (s *source) fieldsOf(n *yaml.Node) []field {
	out := []field{}
	must := required(n)
	for name, p := range pairs(get(n, "properties")) {
		as := s.word(p, "x-as")
		f := field{Name: name, Label: s.word(p, "title"), Help: text(p, "x-help"), Of: text(p, "x-of"), Hint: s.word(p, "x-hint"), One: text(p, "x-one"), Needed: must[name]}
		if as == "none" || f.Label == "" {
			continue
		}
		f.As, f.Parts = s.control(p, as)
		out = append(out, f)
	}
	return out
}

// control is the field that edits a value, with the fields of its parts.
func (s *source) control(p *yaml.Node, as string) (string, []field) {
	items := s.look(p, "items")
	kind := s.word(p, "type")
	switch {
	case as != "":
		return as, nil
	case s.look(p, "enum") != nil:
		return "choice", nil
	case kind == "boolean":
		return "flag", nil
	case kind == "integer" || kind == "number":
		return "number", nil
	case kind == "string" && s.word(p, "maxLength") == "2000":
		return "text", nil
	case kind == "string" && text(p, "x-of") != "":
		return "keys", nil
	case kind == "string":
		return "line", nil
	case kind == "array" && s.word(items, "type") == "object":
		if _, target := s.target(items); target != nil {
			items = target
		}
		return "list", s.fieldsOf(items)
	case kind == "array" && s.word(items, "type") == "number" || kind == "array" && s.word(p, "maxItems") == "2":
		return "pair", nil
	case kind == "array" && text(p, "x-of") != "":
		return "keys", nil
	case kind == "array":
		return "words", nil
	case kind == "object" && s.look(p, "properties") == nil:
		return "map", nil
	}
	_, target := s.target(p)
	if target == nil {
		target = p
	}
	return "group", s.fieldsOf(target)
}
