// Package library is the teaching library that ships with the program: one YAML
// file a position group, readable and editable with a text editor, embedded in the
// binary and read into the types of core/teaching. The same form, as YAML or JSON,
// carries a house's library from club to club; schema.json describes it.
package library

import (
	"bytes"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"sort"

	"go.yaml.in/yaml/v4"

	"nineyard/core/merge"
	"nineyard/core/sound"
)

//go:embed *.yaml
var shipped embed.FS

//go:embed schema.json
var schema []byte

// Schema is the JSON Schema of a bundle.
func Schema() []byte { return bytes.Clone(schema) }

// Load reads every *.yaml file of fsys, in the order of their names, into one bundle
// and checks it as a whole. An error names file, line and key.
func Load(fsys fs.FS) (Bundle, error) {
	names, err := fs.Glob(fsys, "*.yaml")
	if err != nil {
		return Bundle{}, err
	}
	sort.Strings(names)
	var out Bundle
	at := places{}
	for _, name := range names {
		data, err := fs.ReadFile(fsys, name)
		if err != nil {
			return Bundle{}, err
		}
		b, lines, err := Parse(data)
		if err != nil {
			return Bundle{}, fmt.Errorf("%s: %w", name, err)
		}
		for ref, line := range lines {
			at[ref] = fmt.Sprintf("%s:%d", name, line)
		}
		for i := range b.Techniques {
			if len(b.Techniques[i].Groups) == 0 {
				b.Techniques[i].Groups = b.Groups
			}
		}
		out.Edition = max(out.Edition, b.Edition)
		out.Questions = append(out.Questions, b.Questions...)
		out.Tables = append(out.Tables, b.Tables...)
		out.Faults = append(out.Faults, b.Faults...)
		out.Techniques = append(out.Techniques, b.Techniques...)
		out.Drills = append(out.Drills, b.Drills...)
		out.Ladders = append(out.Ladders, b.Ladders...)
	}
	var problems []error
	for _, issue := range sound.Check(out.library()) {
		problems = append(problems, at.name(issue))
	}
	return out, errors.Join(problems...)
}

// places are where entries stand in their files.
type places map[merge.Ref]string

func (p places) name(issue sound.Issue) error {
	if where, ok := p[merge.Ref{Kind: issue.Kind, Key: issue.Key}]; ok {
		return fmt.Errorf("%s: %w", where, issue)
	}
	return issue
}

// collect notes the line of every entry below a mapping node.
func collect(n *yaml.Node, lines map[merge.Ref]int) {
	if n.Kind != yaml.MappingNode {
		return
	}
	for i := 0; i+1 < len(n.Content); i += 2 {
		kind, ok := sets[n.Content[i].Value]
		list := n.Content[i+1]
		if !ok || list.Kind != yaml.SequenceNode {
			continue
		}
		for _, item := range list.Content {
			for j := 0; j+1 < len(item.Content) && item.Kind == yaml.MappingNode; j += 2 {
				if item.Content[j].Value == "key" {
					lines[merge.Ref{Kind: kind, Key: item.Content[j+1].Value}] = item.Line
				}
			}
			collect(item, lines)
		}
	}
}

// YAML writes a bundle as the shipped files are written: what is short on one line.
func (b Bundle) YAML() ([]byte, error) {
	text, err := b.JSON()
	if err != nil {
		return nil, err
	}
	var doc yaml.Node
	if err := yaml.Unmarshal(text, &doc); err != nil { // JSON is YAML, and keeps the order of its fields
		return nil, err
	}
	restyle(&doc)
	var out bytes.Buffer
	enc := yaml.NewEncoder(&out)
	enc.SetIndent(2)
	if err := enc.Encode(&doc); err != nil {
		return nil, err
	}
	return out.Bytes(), enc.Close()
}

// oneLine is how long something may be that is written on one line.
const oneLine = 110

// restyle takes the quotes off and puts on one line what is short; it returns how long the node is on one.
func restyle(n *yaml.Node) int {
	long := 2
	for _, c := range n.Content {
		long += restyle(c) + 2
	}
	n.Style = 0
	switch {
	case n.Kind == yaml.ScalarNode:
		return len(n.Value)
	case long <= oneLine:
		n.Style = yaml.FlowStyle
	}
	return long
}

// JSON writes a bundle as indented JSON.
func (b Bundle) JSON() ([]byte, error) {
	b.Techniques = slices.Clone(b.Techniques)
	for i := range b.Techniques { // nesting and order say what these fields say of an entry alone
		t := &b.Techniques[i]
		t.Checkpoints, t.Faults = slices.Clone(t.Checkpoints), slices.Clone(t.Faults)
		for j := range t.Checkpoints {
			t.Checkpoints[j].Technique, t.Checkpoints[j].Sort = "", 0
		}
		for j := range t.Faults {
			t.Faults[j].Technique, t.Faults[j].Sort = "", 0
		}
	}
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	err := enc.Encode(b)
	return out.Bytes(), err
}
