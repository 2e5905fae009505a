package library

import (
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v4"

	"nineyard/core/merge"
)

// edition2 is the form of today. The first edition had one helping role with one contact level, and texts for equipment,
// the coach's place and the self-check.
const edition2 = 2

// edition reads which form a file has.
func edition(root *yaml.Node) int {
	if n, err := strconv.Atoi(find(root, "edition").Value); err == nil {
		return n
	}
	return 1
}

// find returns what stands at a key of a mapping; an empty node where nothing does.
func find(n *yaml.Node, key string) *yaml.Node {
	for i := 0; n.Kind == yaml.MappingNode && i+1 < len(n.Content); i += 2 {
		if n.Content[i].Value == key {
			return n.Content[i+1]
		}
	}
	return &yaml.Node{}
}

// upgradeFile puts the drills of a file of the first edition into the form of the second, keeping the lines.
func upgradeFile(root *yaml.Node) {
	for _, d := range find(root, "drills").Content {
		if d.Kind != yaml.MappingNode {
			continue
		}
		var kept []*yaml.Node
		old := map[string]*yaml.Node{}
		for i := 0; i+1 < len(d.Content); i += 2 {
			key, value := d.Content[i], d.Content[i+1]
			_, text := texts[key.Value]
			if !text && key.Value != "helping" && key.Value != "help_contact" || text && value.Kind != yaml.ScalarNode || old[key.Value] != nil {
				kept = append(kept, key, value)
				continue
			}
			old[key.Value] = value
		}
		say := func(line int, s string) *yaml.Node {
			return &yaml.Node{Kind: yaml.ScalarNode, Tag: "!!str", Value: s, Line: line}
		}
		group := func(line int, content ...*yaml.Node) *yaml.Node {
			return &yaml.Node{Kind: yaml.MappingNode, Content: content, Line: line}
		}
		for _, field := range []string{"equipment", "coach_at", "self_check"} {
			if v := old[field]; v != nil {
				to := texts[field]
				kept = append(kept, say(v.Line, to.field), group(v.Line, say(v.Line, to.part), v))
			}
		}
		if n := old["helping"]; n != nil && n.Value != "0" {
			contact := old["help_contact"]
			if contact == nil {
				contact = find(d, "contact")
			}
			role := group(n.Line, say(n.Line, "role"), say(n.Line, helps), say(n.Line, "men"), n, say(n.Line, "contact"), contact)
			kept = append(kept, say(n.Line, "help"), &yaml.Node{Kind: yaml.SequenceNode, Line: n.Line, Content: []*yaml.Node{role}})
		}
		d.Content = kept
	}
}

// helps is what a helping role of the first edition is said to do: its drill's roles say it.
const helps = "helps"

// texts are the fields of the first edition that were texts, and the parts of the fields that they now are.
var texts = map[string]struct{ field, part string }{
	"equipment": {"equipment", "text"}, "coach_at": {"coach", "at"}, "self_check": {"self_check", "text"},
}

// changed are the fields of a drill that have another form, or another name, in the second edition.
var changed = []string{"helping", "help_contact", "help", "equipment", "coach_at", "coach", "self_check"}

// Upgrade puts an entry of the first edition into the form of the second; an entry that has it already stays the same.
func Upgrade(e merge.Entry) merge.Entry {
	if e.Kind != "drill" || !first(e.Fields) {
		return e
	}
	fields := maps.Clone(e.Fields)
	for old, to := range texts {
		if text := e.Fields[old]; strings.HasPrefix(text, `"`) {
			delete(fields, old)
			fields[to.field] = written(map[string]json.RawMessage{to.part: json.RawMessage(text)})
		}
	}
	delete(fields, "helping")
	delete(fields, "help_contact")
	if n, err := strconv.Atoi(e.Fields["helping"]); err == nil && n > 0 {
		contact := e.Fields["help_contact"]
		if contact == "" {
			contact = e.Fields["contact"]
		}
		fields["help"] = written([]any{struct {
			Role    string          `json:"role"`
			Men     int             `json:"men"`
			Contact json.RawMessage `json:"contact"`
		}{helps, n, json.RawMessage(contact)}})
	}
	return merge.Entry{Ref: e.Ref, Fields: fields}
}

// upgradeText puts the fields of an entry as JSON into the form of the second edition: a device may have kept a change that
// was made before there was one. What cannot be read stays as it is.
func upgradeText(kind string, text []byte) []byte {
	var raw map[string]json.RawMessage
	if kind != "drill" || json.Unmarshal(text, &raw) != nil {
		return text
	}
	fields := merge.Fields{}
	for name, v := range raw {
		fields[name] = string(v)
	}
	if !first(fields) {
		return text
	}
	now := map[string]json.RawMessage{}
	for name, v := range Upgrade(merge.Entry{Ref: merge.Ref{Kind: kind}, Fields: fields}).Fields {
		now[name] = json.RawMessage(v)
	}
	return []byte(written(now))
}

// first reports whether a drill has a field of the first edition.
func first(fields merge.Fields) bool {
	for _, old := range []string{"helping", "help_contact", "coach_at"} {
		if fields[old] != "" {
			return true
		}
	}
	return strings.HasPrefix(fields["equipment"], `"`) || strings.HasPrefix(fields["self_check"], `"`)
}

func written(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // texts that were read as JSON
	}
	return string(text)
}

// UpgradeLayer puts what a club changed of a first edition into the form of the second: each entry is taken as the club had
// it, so that what it left alone is not taken for a change. The entries are those that the layer was made over, as they
// were then.
func UpgradeLayer(shipped []merge.Entry, l merge.Layer) merge.Layer {
	index := merge.Index(shipped)
	out := l
	for i, c := range l {
		base := index[c.Ref]
		ours := maps.Clone(base)
		if ours == nil {
			ours = merge.Fields{}
		}
		for field, edit := range c.Fields {
			if ours[field] = edit.Ours; edit.Ours == "" {
				delete(ours, field)
			}
		}
		if c.Kind != "drill" || !first(base) && !first(ours) {
			continue
		}
		was, now := Upgrade(merge.Entry{Ref: c.Ref, Fields: base}).Fields, Upgrade(merge.Entry{Ref: c.Ref, Fields: ours}).Fields
		next := c
		next.Fields = map[string]merge.Edit{}
		for field, edit := range c.Fields {
			if !slices.Contains(changed, field) { // as it was, with the value it was made from
				next.Fields[field] = edit
			}
		}
		for field := range union(was, now) {
			if _, kept := next.Fields[field]; !kept && was[field] != now[field] {
				next.Fields[field] = merge.Edit{Base: was[field], Ours: now[field]}
			}
		}
		if &out[0] == &l[0] {
			out = append(merge.Layer{}, l...)
		}
		out[i] = next
	}
	return out
}

func union(a, b merge.Fields) merge.Fields {
	all := maps.Clone(a)
	if all == nil {
		all = merge.Fields{}
	}
	maps.Copy(all, b)
	return all
}
