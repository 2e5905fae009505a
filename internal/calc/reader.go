package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

// MaxInput is the most bytes of input that are read: a million reps fit.
const MaxInput = 256 << 20

// A node is a JSON value. Objects are kept as lists so that a repeated key is seen.
type node any

type member struct {
	key   string
	value node
}

type object []member

// decode reads exactly one JSON value.
func decode(r io.Reader) (node, error) {
	data, err := io.ReadAll(io.LimitReader(r, MaxInput+1))
	if err != nil {
		return nil, err
	}
	if len(data) > MaxInput {
		return nil, invalid.Field("", "the input is larger than %d MiB", MaxInput>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	v, err := value(dec, &place{}, 0)
	if err != nil {
		var known *invalid.Error
		if errors.As(err, &known) {
			return nil, err
		}
		return nil, invalid.Field("", "the input is not JSON: %s", plain(err))
	}
	if _, err := dec.Token(); err != io.EOF {
		return nil, invalid.Field("", "the input has something after its JSON object")
	}
	return v, nil
}

func plain(err error) string {
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return "it ends too early"
	}
	return err.Error()
}

const maxDepth = 50

// place is where a value stands. It is put into words only when something is wrong there: a
// million rows have ten million places.
type place struct {
	in    *place // nil at the top
	key   string
	index int // in a list, when key is empty
}

func (p *place) String() string {
	switch {
	case p.in == nil:
		return ""
	case p.key == "":
		return fmt.Sprintf("%s[%d]", p.in, p.index)
	}
	return join(p.in.String(), p.key)
}

func value(dec *json.Decoder, at *place, depth int) (node, error) {
	if depth > maxDepth {
		return nil, invalid.Field(at.String(), "%s is nested too deeply", at)
	}
	t, err := dec.Token()
	if err != nil {
		return nil, err
	}
	switch t {
	case json.Delim('{'):
		o := object{}
		for dec.More() {
			k, err := dec.Token()
			if err != nil {
				return nil, err
			}
			here := place{in: at, key: k.(string)}
			v, err := value(dec, &here, depth+1)
			if err != nil {
				return nil, err
			}
			o = append(o, member{here.key, v})
		}
		if key, twice := o.twice(); twice {
			here := join(at.String(), key)
			return nil, invalid.Field(here, "%s is given twice", here)
		}
		_, err := dec.Token()
		return o, err
	case json.Delim('['):
		list := []node{}
		for dec.More() {
			v, err := value(dec, &place{in: at, index: len(list)}, depth+1)
			if err != nil {
				return nil, err
			}
			list = append(list, v)
		}
		_, err := dec.Token()
		return list, err
	}
	return t, nil
}

// few is how many members are looked through one by one; of more a map is made.
const few = 16

// twice returns the first key that was there before.
func (o object) twice() (string, bool) {
	if len(o) <= few {
		for i := range o {
			for j := range i {
				if o[j].key == o[i].key {
					return o[i].key, true
				}
			}
		}
		return "", false
	}
	seen := make(map[string]bool, len(o))
	for _, m := range o {
		if seen[m.key] {
			return m.key, true
		}
		seen[m.key] = true
	}
	return "", false
}

func join(path, key string) string {
	if path == "" {
		return key
	}
	return path + "." + key
}

// reader takes an object apart field by field. The first thing wrong is kept in
// *err and everything after it reads as zero.
type reader struct {
	path   string
	fields object
	asked  []bool         // by field
	index  map[string]int // of an object with many fields
	err    *error
}

func open(v node, path string, err *error) *reader {
	r := &reader{path: path, err: err}
	o, ok := v.(object)
	if !ok {
		what := path
		if what == "" {
			what = "the input"
		}
		r.fail(path, "%s must be a JSON object", what)
		return r
	}
	r.fields, r.asked = o, make([]bool, len(o))
	if len(o) > few {
		r.index = make(map[string]int, len(o))
		for i, m := range o {
			r.index[m.key] = i
		}
	}
	return r
}

// find returns where a field stands, or −1.
func (r *reader) find(key string) int {
	if r.index != nil {
		if i, ok := r.index[key]; ok {
			return i
		}
		return -1
	}
	for i := range r.fields {
		if r.fields[i].key == key {
			return i
		}
	}
	return -1
}

// keys lists the fields in the order in which they were given.
func (r *reader) keys() []string {
	list := make([]string, len(r.fields))
	for i, m := range r.fields {
		list[i] = m.key
	}
	return list
}

func (r *reader) fail(path, format string, args ...any) {
	if *r.err == nil {
		*r.err = invalid.Field(path, format, args...)
	}
}

// close complains about fields nobody asked for.
func (r *reader) close() {
	for i, asked := range r.asked {
		if !asked {
			at := join(r.path, r.fields[i].key)
			r.fail(at, "%s is not a field here", at)
		}
	}
}

// get returns a field; null counts as absent. It complains when a required one is.
func (r *reader) get(key string, required bool) (node, string, bool) {
	at := join(r.path, key)
	i := r.find(key)
	if i >= 0 {
		r.asked[i] = true
	}
	if i < 0 || r.fields[i].value == nil {
		if required {
			r.fail(at, "%s is missing", at)
		}
		return nil, at, false
	}
	return r.fields[i].value, at, true
}

func (r *reader) number(key string, required bool, fallback float64) float64 {
	v, at, ok := r.get(key, required)
	if !ok {
		return fallback
	}
	return r.asNumber(v, at)
}

func (r *reader) asNumber(v node, at string) float64 {
	n, ok := v.(json.Number)
	if !ok {
		r.fail(at, "%s must be a number", at)
		return 0
	}
	f, err := n.Float64()
	if err != nil || math.IsInf(f, 0) {
		r.fail(at, "%s is out of range: %s", at, n)
	}
	return f
}

// integer reads a whole number between lo and hi.
func (r *reader) integer(key string, required bool, fallback, lo, hi int) int {
	v, at, ok := r.get(key, required)
	if !ok {
		return fallback
	}
	f := r.asNumber(v, at)
	if f != math.Trunc(f) {
		r.fail(at, "%s must be a whole number, got %v", at, v)
		return 0
	}
	if f < float64(lo) || f > float64(hi) {
		r.fail(at, "%s must be between %d and %d, got %v", at, lo, hi, v)
		return 0
	}
	return int(f)
}

func (r *reader) text(key string, required bool) string {
	v, at, ok := r.get(key, required)
	if !ok {
		return ""
	}
	s, ok := v.(string)
	if !ok {
		r.fail(at, "%s must be text", at)
	}
	if ok && required && s == "" {
		r.fail(at, "%s must not be empty", at)
	}
	return s
}

// oneOf reads text that must be one of the words.
func (r *reader) oneOf(key string, required bool, words ...string) string {
	s := r.text(key, required)
	for _, w := range words {
		if s == w {
			return s
		}
	}
	if s != "" {
		at := join(r.path, key)
		r.fail(at, "%s must be %s, got %q", at, strings.Join(words, " or "), s)
	}
	return s
}

func (r *reader) flag(key string, required, fallback bool) bool {
	v, at, ok := r.get(key, required)
	if !ok {
		return fallback
	}
	b, ok := v.(bool)
	if !ok {
		r.fail(at, "%s must be true or false", at)
	}
	return b
}

func (r *reader) date(key string) season.Date {
	at := join(r.path, key)
	s := r.text(key, true)
	if *r.err != nil {
		return 0
	}
	d, err := season.Parse(s)
	if err != nil {
		r.fail(at, "%s %s", at, err)
	}
	return d
}

// list reads an array; each item is handed over as an object reader, which is
// closed after it.
func (r *reader) list(key string, required bool, limit int, item func(*reader)) {
	for i, v := range r.items(key, required, limit) {
		if *r.err != nil {
			return
		}
		sub := open(v, fmt.Sprintf("%s[%d]", join(r.path, key), i), r.err)
		item(sub)
		sub.close()
	}
}

func (r *reader) items(key string, required bool, limit int) []node {
	v, at, ok := r.get(key, required)
	if !ok {
		return nil
	}
	items, ok := v.([]node)
	if !ok {
		r.fail(at, "%s must be a list", at)
	}
	if len(items) > limit {
		r.fail(at, "%s has more than %d items", at, limit)
		return nil
	}
	return items
}

// has reports whether a field is given.
func (r *reader) has(key string) bool {
	_, _, ok := r.get(key, false)
	return ok
}

// object hands over a field that is an object, if it is there, and closes it.
func (r *reader) object(key string, required bool, fields func(*reader)) {
	v, at, ok := r.get(key, required)
	if !ok {
		return
	}
	sub := open(v, at, r.err)
	fields(sub)
	sub.close()
}

// names reads a list of names.
func (r *reader) names(key string, required bool, limit int) []string {
	list := []string{}
	for i, v := range r.items(key, required, limit) {
		name, ok := v.(string)
		if !ok || name == "" {
			at := fmt.Sprintf("%s[%d]", join(r.path, key), i)
			r.fail(at, "%s must be a name", at)
		}
		list = append(list, name)
	}
	return list
}
