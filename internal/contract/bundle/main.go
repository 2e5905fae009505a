// Command bundle puts the files of the contract, one a feature, together into one.
//
//	go run ./internal/contract/bundle api > api/openapi.gen.yaml
//
// Each file has paths and components of its own; references among them need no file name.
// An address or a name that stands in two files is an error.
package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"

	"go.yaml.in/yaml/v4"
)

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "usage: bundle DIRECTORY")
		os.Exit(2)
	}
	if err := run(os.Args[1], os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "bundle:", err)
		os.Exit(1)
	}
}

func run(dir string, out io.Writer) error {
	files, err := filepath.Glob(filepath.Join(dir, "*.yaml"))
	if err != nil {
		return err
	}
	sort.Strings(files)
	var whole *yaml.Node
	var parts []*yaml.Node
	for _, name := range files {
		if base := filepath.Base(name); strings.HasSuffix(base, ".gen.yaml") || strings.HasSuffix(base, ".cfg.yaml") {
			continue
		}
		data, err := os.ReadFile(name)
		if err != nil {
			return err
		}
		var doc yaml.Node
		if err := yaml.Unmarshal(data, &doc); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		if len(doc.Content) != 1 || doc.Content[0].Kind != yaml.MappingNode {
			return fmt.Errorf("%s: not a mapping", name)
		}
		if filepath.Base(name) == "entries.yaml" {
			entries(doc.Content[0])
		}
		if filepath.Base(name) == "common.yaml" {
			whole = doc.Content[0]
			continue
		}
		parts = append(parts, doc.Content[0])
	}
	if whole == nil {
		return errors.New("there is no common.yaml")
	}
	for _, p := range parts {
		if err := merge(whole, p, ""); err != nil {
			return err
		}
	}
	carry(whole)
	open(whole)
	fmt.Fprintln(out, "# Put together from the files beside this one by 'make generate'. Do not edit.")
	enc := yaml.NewEncoder(out)
	enc.SetIndent(2)
	if err := enc.Encode(whole); err != nil {
		return err
	}
	return enc.Close()
}

// merge puts the mapping from into the mapping to, down to the entries of paths and of each
// kind of component, which may not stand twice.
func merge(to, from *yaml.Node, at string) error {
	for i := 0; i+1 < len(from.Content); i += 2 {
		key, value := from.Content[i], from.Content[i+1]
		there := find(to, key.Value)
		path := at + "/" + key.Value
		switch {
		case there == nil:
			to.Content = append(to.Content, key, value)
		case path == "/paths" || path == "/components" || strings.Count(path, "/") == 2 && strings.HasPrefix(path, "/components/"):
			if err := merge(there, value, path); err != nil {
				return err
			}
		default:
			return fmt.Errorf("line %d: %s stands in two files", key.Line, path)
		}
	}
	return nil
}

// entries takes out of the description of library entries what the contract has no use for: the words beside a reference,
// those of our own, and what a file holds as a whole. Types that are there in Go are named as the generator wants it.
func entries(n *yaml.Node) {
	ref := n.Kind == yaml.MappingNode && find(n, "$ref") != nil
	var kept []*yaml.Node
	for i, c := range n.Content {
		if n.Kind != yaml.MappingNode {
			entries(c)
			kept = append(kept, c)
			continue
		}
		if i%2 == 1 {
			continue
		}
		key, value := c, n.Content[i+1]
		is, own := strings.CutPrefix(key.Value, "x-")
		switch {
		case own && is == "go":
			word := func(s string) *yaml.Node { return &yaml.Node{Kind: yaml.ScalarNode, Value: s} }
			kept = append(kept, word("x-go-type"), word(value.Value))
			if pkg, _, ok := strings.Cut(value.Value, "."); ok {
				kept = append(kept, word("x-go-type-import"), &yaml.Node{Kind: yaml.MappingNode, Content: []*yaml.Node{word("path"), word("nineyard/core/" + pkg)}})
			}
		case own, ref && key.Value != "$ref", key.Value == "LibraryFile":
		default:
			entries(value)
			kept = append(kept, key, value)
		}
	}
	n.Content = kept
}

// headers are the parameters that every change carries; see common.yaml.
var headers = []string{"ChangeId", "ChangeMade", "ChangeSent", "Device"}

// carry gives every operation that changes something the headers of a change. Those marked
// x-asks change nothing of the club.
func carry(whole *yaml.Node) {
	paths := find(whole, "paths")
	if paths == nil {
		return
	}
	for i := 1; i < len(paths.Content); i += 2 {
		for _, method := range []string{"post", "put", "delete", "patch"} {
			op := find(paths.Content[i], method)
			if op == nil || find(op, "x-asks") != nil {
				continue
			}
			list := find(op, "parameters")
			if list == nil {
				list = &yaml.Node{Kind: yaml.SequenceNode}
				op.Content = append(op.Content, &yaml.Node{Kind: yaml.ScalarNode, Value: "parameters"}, list)
			}
			for _, h := range headers {
				list.Content = append(list.Content, &yaml.Node{Kind: yaml.MappingNode, Content: []*yaml.Node{
					{Kind: yaml.ScalarNode, Value: "$ref"}, {Kind: yaml.ScalarNode, Value: "#/components/parameters/" + h, Style: yaml.DoubleQuotedStyle}}})
			}
		}
	}
}

// open lets the entries that are a part of what is answered have more beside them: of a schema in an allOf nothing further
// may be refused, or nothing fits the whole. What is sent is held to its fields by who reads it.
func open(whole *yaml.Node) {
	schemas := find(find(whole, "components"), "schemas")
	for i := 1; i < len(schemas.Content); i += 2 {
		all := find(schemas.Content[i], "allOf")
		if all == nil {
			continue
		}
		for _, part := range all.Content {
			if ref := find(part, "$ref"); ref != nil && strings.HasSuffix(ref.Value, "Entry") {
				drop(find(schemas, ref.Value[strings.LastIndex(ref.Value, "/")+1:]), "additionalProperties")
			}
		}
	}
}

// drop takes a key out of a mapping.
func drop(n *yaml.Node, key string) {
	for i := 0; i+1 < len(n.Content); i += 2 {
		if n.Content[i].Value == key {
			n.Content = slices.Delete(n.Content, i, i+2)
			return
		}
	}
}

func find(n *yaml.Node, key string) *yaml.Node {
	for i := 0; i+1 < len(n.Content); i += 2 {
		if n.Content[i].Value == key {
			return n.Content[i+1]
		}
	}
	return nil
}
