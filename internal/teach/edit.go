package teach

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/sound"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
	"nineyard/library"
)

// shownVersions is how many versions of the past a screen shows.
const shownVersions = 40

// fieldsOf returns the fields of an entry in a list, nil when it is not there.
func fieldsOf(list []merge.Entry, r merge.Ref) merge.Fields {
	for _, e := range list {
		if e.Ref == r {
			return e.Fields
		}
	}
	return nil
}

// fields returns an entry as a house has it, or as it would come back when it is
// retired; nil when the house never had it.
func fields(h *house.House, r merge.Ref) merge.Fields {
	if f := fieldsOf(h.Entries, r); f != nil {
		return f
	}
	c, retired := h.Layer.Find(r)
	if !retired {
		return nil
	}
	var alone []merge.Entry
	if f := fieldsOf(h.Edition.Entries, r); f != nil {
		alone = append(alone, merge.Entry{Ref: r, Fields: f})
	}
	c.Retired = false
	back, _ := merge.Apply(alone, merge.Layer{c})
	return fieldsOf(back, r)
}

// Entry returns an entry of the library with its history.
func (s *Service) Entry(ctx context.Context, c access.Coach, kind, key string) (contract.Entry, error) {
	h, err := s.Of(ctx, c)
	if err != nil {
		return contract.Entry{}, err
	}
	return s.entryView(ctx, c, h, merge.Ref{Kind: kind, Key: key})
}

func (s *Service) entryView(ctx context.Context, c access.Coach, h *house.House, r merge.Ref) (contract.Entry, error) {
	shipped, ours := fieldsOf(h.Edition.Entries, r), fields(h, r)
	change, changed := h.Layer.Find(r)
	if ours == nil {
		return contract.Entry{}, problem.ErrNotFound
	}
	v := contract.Entry{Kind: r.Kind, Key: r.Key, Version: h.Version, Changed: []string{}, Conflicts: conflictViews(h, r), Editable: mayEditEntry(c, h, r)}
	v.Fields, v.Name = values(ours), nameOf(ours, r)
	v.Names = namesIn(h, v.Fields)
	if shipped != nil {
		fields := values(shipped)
		v.Shipped = &fields
	}
	if changed {
		v.Added, v.Retired = change.Added && shipped == nil, change.Retired
		v.Changed = append(v.Changed, slices.Sorted(maps.Keys(change.Fields))...)
	}
	versions, err := s.Store.Versions(ctx, r.String(), 0, shownVersions)
	v.Versions = versionViews(versions)
	return v, err
}

func nameOf(f merge.Fields, r merge.Ref) string {
	var name string
	if json.Unmarshal([]byte(f["name"]), &name) != nil || name == "" {
		return r.Key
	}
	return name
}

// namesIn are the names of what the fields of an entry name by a key, whichever group or school teaches it and whether or
// not it is taught now: of an entry, or of a stage as technique/stage.
func namesIn(h *house.House, fields map[string]interface{}) map[string]string {
	asked := map[string]bool{}
	var ask func(v interface{})
	ask = func(v interface{}) {
		switch v := v.(type) {
		case string:
			asked[v] = true
		case []interface{}:
			for _, x := range v {
				ask(x)
			}
		case map[string]interface{}:
			for _, x := range v {
				ask(x)
			}
		}
	}
	ask(fields)
	names := map[string]string{}
	for _, entries := range [][]merge.Entry{h.Entries, h.Edition.Entries} {
		for _, e := range entries {
			if asked[e.Ref.Key] && names[e.Ref.Key] == "" && e.Ref.Kind != "ladder" {
				names[e.Ref.Key] = nameOf(e.Fields, e.Ref)
			}
		}
	}
	for key := range asked {
		technique, stage, _ := strings.Cut(key, "/")
		ladder, ok := h.All.LadderOf(technique)
		if i := slices.IndexFunc(ladder.Stages, func(s teaching.Stage) bool { return s.Key == stage }); ok && i >= 0 {
			names[key] = ladder.Name + ": " + ladder.Stages[i].Name
		}
	}
	return names
}

// values reads the fields for a screen.
func values(f merge.Fields) map[string]interface{} {
	out := map[string]interface{}{}
	for k, text := range f {
		out[k] = value(text)
	}
	return out
}

func value(text string) interface{} {
	var v interface{}
	if text == "" || json.Unmarshal([]byte(text), &v) != nil {
		return nil
	}
	return v
}

func versionViews(list []Version) []contract.HouseVersion {
	out := []contract.HouseVersion{}
	for _, v := range list {
		out = append(out, contract.HouseVersion{Version: v.Version, At: v.CreatedAt, By: v.ByName, Summary: v.Summary})
	}
	return out
}

// conflictViews words the conflicts of an entry, or of all when it is zero.
func conflictViews(h *house.House, r merge.Ref) []contract.HouseConflict {
	out := []contract.HouseConflict{}
	for _, c := range h.Conflicts {
		if r == (merge.Ref{}) || c.Ref == r {
			out = append(out, contract.HouseConflict{Kind: c.Kind, Key: c.Key, Name: nameOf(fieldsOf(h.Entries, c.Ref), c.Ref), Field: c.Field,
				Base: value(c.Base), Ours: value(c.Ours), Theirs: value(c.Theirs)})
		}
	}
	return out
}

// groupsOf lists the groups an entry is taught to; nil: the whole staff.
func groupsOf(lib *teaching.Library, r merge.Ref) []string {
	switch r.Kind {
	case "technique":
		t, _ := lib.Technique(r.Key)
		return t.Groups
	case "checkpoint":
		_, t, _ := lib.Checkpoint(r.Key)
		return t.Groups
	case "fault":
		f, t, _ := lib.Fault(r.Key)
		if f.Shared {
			return nil
		}
		return t.Groups
	case "table":
		t, _ := lib.Table(r.Key)
		return t.Groups
	case "drill":
		d, _ := lib.Drill(r.Key)
		return d.Groups
	case "ladder":
		l, _ := lib.Ladder(r.Key)
		t, _ := lib.Technique(l.Technique)
		return t.Groups
	}
	var groups []string
	for _, q := range lib.Questions {
		if q.Key == r.Key {
			for _, k := range q.Techniques {
				t, _ := lib.Technique(k)
				groups = append(groups, t.Groups...)
			}
		}
	}
	return groups
}

// mayEditEntry reports whether the coach may change an entry: it is taught to a group of
// his. What the whole staff shares is the head coach's.
func mayEditEntry(c access.Coach, h *house.House, r merge.Ref) bool {
	return c.IsHead() || slices.ContainsFunc(groupsOf(h.Known, r), c.MayEdit)
}

// EntryChange is what a coach wants an entry to be.
type EntryChange struct {
	ID      uuid.UUID
	Version int // of the house, as it was read
	Fields  map[string]interface{}
	Retired *bool
	Note    string
}

// PutEntry changes, adds or retires an entry, as a new version of the house. It returns a
// *problem.Stale when the entry was changed since the version was read. The same id again
// changes nothing.
func (s *Service) PutEntry(ctx context.Context, c access.Coach, kind, key string, in EntryChange) (contract.Entry, error) {
	r := merge.Ref{Kind: kind, Key: key}
	h, done, err := s.begin(ctx, in.ID)
	if err != nil {
		return contract.Entry{}, err
	}
	if done {
		return s.entryView(ctx, c, h, r)
	}
	if err := s.fresh(ctx, c, h, r, in.Version); err != nil {
		return contract.Entry{}, err
	}
	layer, summary, err := change(c, h, r, in)
	if err != nil {
		return contract.Entry{}, err
	}
	next, err := h.With(layer)
	if err != nil {
		return contract.Entry{}, invalid.Caused("fields", "the entry does not go together with what it refers to", err)
	}
	touched := []merge.Ref{r}
	if err := stays(h, next, touched); err != nil {
		return contract.Entry{}, err
	}
	if err := s.commit(ctx, c, next, in.ID, touched, summary); err != nil {
		return contract.Entry{}, err
	}
	return s.entryView(ctx, c, next, r)
}

// begin holds the club's house for a change and reads it as it now is. It reports whether
// the request with this id made its version already.
func (s *Service) begin(ctx context.Context, id uuid.UUID) (h *house.House, done bool, err error) {
	if err := s.Store.Lock(ctx); err != nil {
		return nil, false, err
	}
	if h, err = s.latest(ctx); err != nil {
		return nil, false, err
	}
	_, done, err = s.Store.VersionByID(ctx, id)
	return h, done, err
}

// fresh refuses a change to an entry that was changed since the version was read.
func (s *Service) fresh(ctx context.Context, c access.Coach, h *house.House, r merge.Ref, version int) error {
	touched, err := s.Store.Versions(ctx, r.String(), 0, 1)
	if err != nil {
		return err
	}
	if len(touched) > 0 && touched[0].Version > version {
		current, err := s.entryView(ctx, c, h, r)
		if err != nil {
			return err
		}
		return &problem.Stale{What: "entry", By: touched[0].ByName, Current: current}
	}
	return nil
}

// change returns the layer with the entry as the coach wants it, and what was done in
// words.
func change(c access.Coach, h *house.House, r merge.Ref, in EntryChange) (merge.Layer, string, error) {
	shipped, now := fieldsOf(h.Edition.Entries, r), fields(h, r)
	was, _ := h.Layer.Find(r)
	known := now != nil
	if known && !mayEditEntry(c, h, r) {
		return nil, "", problem.ErrForbidden
	}
	layer := h.Layer
	verb := "Changed"
	if in.Fields != nil {
		text, err := json.Marshal(in.Fields)
		if err != nil {
			return nil, "", err
		}
		wanted, err := library.ReadFields(r.Kind, text)
		if err != nil {
			return nil, "", err
		}
		if now != nil {
			keepIdentity(r.Kind, now, wanted)
			keepTerm(now, wanted)
		} else {
			verb = "Added"
			place(h, r.Kind, wanted)
		}
		layer = layer.Put(r, shipped, wanted)
		now = wanted
	} else if !known {
		return nil, "", problem.ErrNotFound
	}
	if in.Retired != nil && *in.Retired != was.Retired {
		layer = layer.Retire(r, shipped != nil, *in.Retired)
		verb = map[bool]string{true: "Retired", false: "Took back"}[*in.Retired]
	}
	if verb == "Added" {
		if next, err := h.With(layer); err == nil && !mayEditEntry(c, next, r) {
			return nil, "", problem.ErrForbidden
		}
	}
	summary := fmt.Sprintf("%s %s: %s", verb, r.Kind, nameOf(now, r))
	if in.Note != "" {
		summary += ". " + in.Note
	}
	return layer, summary, nil
}

// keepIdentity keeps what an entry cannot change: the technique it belongs to, and its
// place unless one is given.
func keepIdentity(kind string, now, wanted merge.Fields) {
	if kind == "checkpoint" || kind == "fault" || kind == "ladder" {
		wanted["technique"] = now["technique"]
	}
	if (kind == "checkpoint" || kind == "fault") && wanted["sort"] == "" {
		wanted["sort"] = now["sort"]
	}
}

// keepTerm keeps the name that is replaced as an alias, so that nobody's word is lost.
func keepTerm(now, wanted merge.Fields) {
	var old, name string
	if json.Unmarshal([]byte(now["name"]), &old) != nil || json.Unmarshal([]byte(wanted["name"]), &name) != nil || old == name {
		return
	}
	var aliases []string
	if text := wanted["aliases"]; text != "" && json.Unmarshal([]byte(text), &aliases) != nil {
		return
	}
	if kept, err := json.Marshal(teaching.KeepTerm(aliases, old, name)); err == nil {
		wanted["aliases"] = string(kept)
	}
}

// place puts a new checkpoint or fault behind the others of its technique.
func place(h *house.House, kind string, wanted merge.Fields) {
	if kind != "checkpoint" && kind != "fault" || wanted["sort"] != "" {
		return
	}
	last := 0
	for _, e := range h.Entries {
		var sort int
		if e.Kind == kind && e.Fields["technique"] == wanted["technique"] && json.Unmarshal([]byte(e.Fields["sort"]), &sort) == nil {
			last = max(last, sort)
		}
	}
	wanted["sort"] = fmt.Sprint(last + 10)
}

// breaks lists what is wrong with the next house and was not before: what was wrong is
// not held against a change, what it breaks is.
func breaks(h, next *house.House) []sound.Issue {
	return added(sound.Check(h.All), sound.Check(next.All))
}

// added lists what is wrong and was not before.
func added(before, now []sound.Issue) []sound.Issue {
	was := map[sound.Issue]bool{}
	for _, i := range before {
		was[i] = true
	}
	return slices.DeleteFunc(now, func(i sound.Issue) bool { return was[i] })
}

// stays refuses a next house that a change of the entries touched would break. A mere
// reference to something that is retired does not: resolving leaves it out.
func stays(h, next *house.House, touched []merge.Ref) error {
	broken := breaks(h, next)
	if len(broken) == 0 {
		return nil
	}
	left := sound.Check(next.Library)
	for _, i := range broken {
		if slices.Contains(touched, merge.Ref{Kind: i.Kind, Key: i.Key}) {
			return invalid.Field("fields."+i.Field, "%s: %s", i.Field, i.Message)
		}
		if slices.Contains(left, i) {
			return invalid.Field("fields", "%s", i.Error())
		}
	}
	return nil
}

// The questions whose answer says how marks are judged.
const (
	questionMarking = "marking"
	questionLost    = "lost_rep"
)

// answer is the school that a house holds to in a question; empty where it does not ask it.
func answer(h *house.House, key string) string {
	for _, q := range h.Known.Questions {
		if q.Key == key {
			return q.House
		}
	}
	return ""
}

// commit appends the next house, which is sound, as a version by the coach.
func (s *Service) commit(ctx context.Context, c access.Coach, next *house.House, id uuid.UUID, touched []merge.Ref, summary string) error {
	names := make([]string, len(touched))
	for i, r := range touched {
		names[i] = r.String()
	}
	if slices.ContainsFunc(touched, func(r merge.Ref) bool {
		return r.Kind == "question" && (r.Key == questionMarking || r.Key == questionLost)
	}) {
		if err := s.Schools.Teach(ctx, c, answer(next, questionMarking), answer(next, questionLost)); err != nil {
			return err
		}
	}
	return s.save(ctx, Version{Version: next.Version, ID: id, Digest: next.Edition.Digest, Layer: next.Layer, Touched: names,
		Summary: summary, CreatedBy: &c.ID, CreatedAt: s.Now()}, next)
}
