// Command forms writes what a form must know of the contract, as TypeScript: for each operation
// marked x-form the schema of its body, and the entries of the teaching library.
//
//	go run ./internal/contract/forms api/openapi.gen.yaml > web/src/api/forms.gen.ts
//	go run ./internal/contract/forms library/schema.json >> web/src/api/entries.gen.ts
//
// References are put in place, and what only the server needs is left out: what remains are
// words, units, ranges and lengths, each written once and read by the fields and their checks.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"go.yaml.in/yaml/v4"
)

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "usage: forms CONTRACT|LIBRARY")
		os.Exit(2)
	}
	if err := run(os.Args[1], os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "forms:", err)
		os.Exit(1)
	}
}

type object = map[string]any

func run(name string, out io.Writer) error {
	doc, err := read(name)
	if err != nil {
		return err
	}
	is, says := "forms", "What each operation that a form fills in takes."
	shapes, err := bodies(doc)
	if doc["$defs"] != nil {
		is, says = "entries", "What an entry of the teaching library is made of."
		shapes, err = definitions(doc)
	} else {
		fmt.Fprintln(out, "// Made from the contract by 'make generate'. Do not edit.")
	}
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	text, err := json.MarshalIndent(shapes, "", "  ")
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "\n/** %s */\nexport const %s = %s as const;\n", says, is, text)
	return nil
}

// read takes YAML or JSON, which is YAML too.
func read(name string) (object, error) {
	data, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	var doc object
	if err := yaml.Unmarshal(data, &doc); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return doc, nil
}

// bodies are the schemas of the JSON bodies of all operations marked x-form, by operationId.
func bodies(api object) (object, error) {
	forms := object{}
	paths, _ := api["paths"].(object)
	for path, item := range paths {
		for method, op := range item.(object) {
			o, ok := op.(object)
			if !ok || o["x-form"] != true {
				continue
			}
			id, _ := o["operationId"].(string)
			schema, ok := at(o, "requestBody", "content", "application/json", "schema").(object)
			if id == "" || !ok {
				return nil, fmt.Errorf("%s %s is a form without a JSON body", method, path)
			}
			flat, err := flatten(api, schema, 0)
			if err != nil {
				return nil, fmt.Errorf("%s: %w", id, err)
			}
			forms[id] = flat
		}
	}
	return forms, nil
}

// definitions are the objects among the definitions of a JSON schema.
func definitions(lib object) (object, error) {
	entries := object{}
	defs, _ := lib["$defs"].(object)
	for name, d := range defs {
		schema, ok := d.(object)
		if !ok || schema["type"] != "object" {
			continue
		}
		flat, err := flatten(lib, schema, 0)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		entries[name] = flat
	}
	return entries, nil
}

func at(o object, path ...string) any {
	var now any = o
	for _, p := range path {
		next, ok := now.(object)
		if !ok {
			return nil
		}
		now = next[p]
	}
	return now
}

// keep are the words of a schema that a form reads. Formats other than a day say how the
// server keeps a value.
var keep = map[string]bool{
	"type": true, "title": true, "x-unit": true, "enum": true, "required": true, "nullable": true,
	"minimum": true, "maximum": true, "exclusiveMinimum": true, "exclusiveMaximum": true,
	"minLength": true, "maxLength": true, "pattern": true, "minItems": true, "maxItems": true,
}

const deepest = 20

var errDeep = errors.New("a schema that refers to itself has no form")

// flatten gives a schema without references, with only what a form reads.
func flatten(doc, schema object, depth int) (object, error) {
	if depth > deepest {
		return nil, errDeep
	}
	flat := object{}
	if ref, ok := schema["$ref"].(string); ok {
		target, ok := at(doc, strings.Split(strings.TrimPrefix(ref, "#/"), "/")...).(object)
		if !ok {
			return nil, fmt.Errorf("%s is not there", ref)
		}
		there, err := flatten(doc, target, depth+1)
		if err != nil {
			return nil, err
		}
		flat = there
	}
	for key, value := range schema {
		either, _ := value.([]any) // of JSON Schema: a type, or nothing
		switch {
		case key == "type" && len(either) == 2 && either[1] == "null":
			flat[key], flat["nullable"] = either[0], true
		case keep[key]:
			flat[key] = value
		case key == "format" && value == "date":
			flat[key] = value
		case key == "items" || key == "additionalProperties" && isObject(value):
			items, err := flatten(doc, value.(object), depth+1)
			if err != nil {
				return nil, err
			}
			flat[key] = items
		case key == "properties":
			list := object{}
			for name, p := range value.(object) {
				f, err := flatten(doc, p.(object), depth+1)
				if err != nil {
					return nil, err
				}
				list[name] = f
			}
			flat[key] = list
		}
	}
	return flat, nil
}

func isObject(v any) bool {
	_, ok := v.(object)
	return ok
}
