package scripttext

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"nineyard/core/practice"
	"nineyard/core/schedule"
)

// MaxText is the most characters of a text that is read.
const MaxText = 40_000

// MaxName is the most characters of a period's name.
const MaxName = 80

// Word is something of the club's by its key and its name.
type Word struct{ Key, Name string }

// Words are what a text may speak of.
type Words struct {
	Groups, Places, Equipment, Coaches []Word
	StartsAt                           int // when the practice begins, in minutes after midnight
}

// Period is a period with its name.
type Period struct {
	schedule.Period
	Name string
}

// kindWords are the kinds of period as they are typed, and what a period of the kind is called
// when it has no name of its own.
var kindWords = []struct{ kind, word, name string }{
	{"warm_up", "warm-up", "Warm-up"}, {"individual", "individual", "Individual"}, {"group", "group", "Group"}, {"team", "team", "Team"},
	{"special_teams", "kicking", "Kicking"}, {"walk_through", "walk-through", "Walk-through"}, {"meeting", "meeting", "Meeting"},
	{"water", "water", "Water"}, {"conditioning", "conditioning", "Conditioning"},
}

// Kinds lists the kinds of period as they are typed.
func Kinds() (list []string) {
	for _, k := range kindWords {
		list = append(list, k.word)
	}
	return list
}

// NameOf is what a period of a kind is called when it has no name of its own.
func NameOf(kind string) string {
	for _, k := range kindWords {
		if k.kind == kind {
			return k.name
		}
	}
	return kind
}

// markers begin a part of a line.
var markers = []string{"all", "for", "with", "needs", "uses", "rep"}

// reserved reports whether a bare word means something of its own.
func reserved(word string) bool {
	low := strings.ToLower(word)
	if slices.Contains(markers, low) {
		return true
	}
	if _, err := practice.ParseContact(low); err == nil {
		return true
	}
	return low == "indy" || slices.ContainsFunc(kindWords, func(k struct{ kind, word, name string }) bool { return k.word == low || k.kind == low })
}

// bare words need no quotes.
var bare = regexp.MustCompile(`^[\pL\pN_./'-]+$`)

func quoted(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\r", `\r`).Replace(s) + `"`
}

// word writes a name: bare where that can be read again.
func word(s string) string {
	if bare.MatchString(s) {
		return s
	}
	return quoted(s)
}

// call is what a key is called in a text: its name, unless another has the same.
func call(list []Word, key string) string {
	for _, w := range list {
		if w.Key != key {
			continue
		}
		if k, ok := find(list, w.Name); ok && k == key && w.Name != "" {
			return w.Name
		}
	}
	return key
}

// find looks a word up by its key, else by its name, however it is written.
func find(list []Word, said string) (key string, ok bool) {
	for _, same := range []func(w Word) bool{
		func(w Word) bool { return w.Key == said },
		func(w Word) bool { return w.Name == said },
		func(w Word) bool { return strings.EqualFold(w.Key, said) },
		func(w Word) bool { return strings.EqualFold(w.Name, said) },
	} {
		for _, w := range list {
			if same(w) {
				return w.Key, true
			}
		}
	}
	return "", false
}

func (w Words) list(of []Word, keys []string) string {
	called := make([]string, len(keys))
	for i, k := range keys {
		called[i] = word(call(of, k))
	}
	return strings.Join(called, ",")
}

// Write writes a script, a line a period, in the order given.
func Write(w Words, periods []Period) string {
	var b strings.Builder
	for _, p := range periods {
		b.WriteString(schedule.Clock(w.StartsAt+p.Start) + " " + strconv.Itoa(p.Minutes) + " ")
		for _, k := range kindWords {
			if k.kind != p.Kind {
				continue
			}
			b.WriteString(k.word)
			if p.Name != k.name {
				b.WriteString(" " + quoted(p.Name))
			}
		}
		b.WriteString(" " + w.groups(p.Groups))
		if p.Contact != practice.Air {
			b.WriteString(" " + p.Contact.String())
		}
		if p.Place != "" {
			b.WriteString(" @" + word(call(w.Places, p.Place)))
		}
		for _, part := range []struct {
			marker string
			of     []Word
			keys   []string
		}{{"with", w.Coaches, p.Coaches}, {"needs", w.Groups, p.NeedsGroups}} {
			if len(part.keys) > 0 {
				b.WriteString(" " + part.marker + " " + w.list(part.of, part.keys))
			}
		}
		b.WriteString(w.uses(p.Equipment))
		if p.RepSeconds > 0 {
			b.WriteString(" rep " + strconv.FormatFloat(p.RepSeconds, 'f', -1, 64))
		}
		b.WriteByte('\n')
	}
	return b.String()
}

func (w Words) groups(keys []string) string {
	if len(keys) == 0 {
		return `for ""`
	}
	all := make([]string, len(w.Groups))
	for i, g := range w.Groups {
		all[i] = g.Key
	}
	if slices.Equal(all, keys) {
		return "all"
	}
	list := w.list(w.Groups, keys)
	if slices.ContainsFunc(strings.Split(list, ","), func(s string) bool { return reserved(s) || strings.HasPrefix(s, `"`) }) {
		return "for " + list
	}
	return list
}

// uses writes equipment in the order of the club's list.
func (w Words) uses(equipment map[string]int) string {
	var list []string
	for _, e := range w.Equipment {
		if n := equipment[e.Key]; n > 0 {
			list = append(list, word(call(w.Equipment, e.Key))+":"+strconv.Itoa(n))
		}
	}
	if len(list) == 0 {
		return ""
	}
	return " uses " + strings.Join(list, ",")
}

// Keep gives periods that were read from a text the keys of the ones they stand for: first of
// those that are the same in kind, name and groups, in order, then of those that are the same in
// kind and groups or in kind and name. New ones have no key.
func Keep(before, read []Period) []Period {
	out := slices.Clone(read)
	taken := map[string]bool{}
	for _, alike := range []func(a, b Period) bool{
		func(a, b Period) bool {
			return a.Start == b.Start && a.Name == b.Name && slices.Equal(a.Groups, b.Groups)
		},
		func(a, b Period) bool { return a.Name == b.Name && slices.Equal(a.Groups, b.Groups) },
		func(a, b Period) bool { return slices.Equal(a.Groups, b.Groups) },
		func(a, b Period) bool { return a.Name == b.Name },
	} {
		for i := range out {
			for _, b := range before {
				if out[i].Key == "" && !taken[b.Key] && b.Kind == out[i].Kind && alike(b, out[i]) {
					out[i].Key, taken[b.Key] = b.Key, true
				}
			}
		}
	}
	return out
}

func runes(s string) int { return utf8.RuneCountInString(s) }
