package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/house"
	"nineyard/core/invalid"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
	"nineyard/library"
)

// EntryConflict says that somebody else changed an entry since it was read.
type EntryConflict struct{ Current contract.Entry }

// Error says so in a sentence.
func (c *EntryConflict) Error() string {
	if v := c.Current.Versions; len(v) > 0 && v[0].By != "" {
		return "This entry was changed by " + v[0].By + "."
	}
	return "This entry was changed by someone else."
}

// shownVersions is how many versions of the past a screen shows.
const shownVersions = 40

// fieldsOf returns the fields of an entry in a list, nil when it is not there.
func fieldsOf(list []house.Entry, r house.Ref) house.Fields {
	for _, e := range list {
		if e.Ref == r {
			return e.Fields
		}
	}
	return nil
}

// fields returns an entry as the house has it, or as it would come back when it is
// retired; nil when the house never had it.
func (h *House) fields(r house.Ref) house.Fields {
	if f := fieldsOf(h.Entries, r); f != nil {
		return f
	}
	c, retired := h.Layer.Find(r)
	if !retired {
		return nil
	}
	var alone []house.Entry
	if f := fieldsOf(h.Shipped, r); f != nil {
		alone = append(alone, house.Entry{Ref: r, Fields: f})
	}
	c.Retired = false
	back, _ := house.Merge(alone, house.Layer{c})
	return fieldsOf(back, r)
}

// Entry returns an entry of the library with its history.
func (s *Service) Entry(ctx context.Context, a Actor, kind, key string) (contract.Entry, error) {
	return s.entryView(ctx, s.Store, a, a.House, house.Ref{Kind: kind, Key: key})
}

func (s *Service) entryView(ctx context.Context, store Store, a Actor, h *House, r house.Ref) (contract.Entry, error) {
	shipped, ours := fieldsOf(h.Shipped, r), h.fields(r)
	change, changed := h.Layer.Find(r)
	if ours == nil {
		return contract.Entry{}, ErrNotFound
	}
	v := contract.Entry{Kind: r.Kind, Key: r.Key, Version: h.Version, Changed: []string{}, Conflicts: conflictViews(h, r), Editable: a.mayEditEntry(h, r)}
	v.Fields, v.Name = values(ours), nameOf(ours, r)
	if shipped != nil {
		v.Shipped = ptr(values(shipped))
	}
	if changed {
		v.Added, v.Retired = change.Added && shipped == nil, change.Retired
		v.Changed = sortedKeys(change.Fields)
	}
	versions, err := store.HouseVersions(ctx, a.ClubID, r.String(), shownVersions)
	v.Versions = versionViews(versions)
	return v, err
}

func nameOf(f house.Fields, r house.Ref) string {
	var name string
	if json.Unmarshal([]byte(f["name"]), &name) != nil || name == "" {
		return r.Key
	}
	return name
}

// values reads the fields for a screen.
func values(f house.Fields) map[string]interface{} {
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

func versionViews(list []HouseVersion) []contract.HouseVersion {
	out := []contract.HouseVersion{}
	for _, v := range list {
		out = append(out, contract.HouseVersion{Version: v.Version, At: v.CreatedAt, By: v.ByName, Summary: v.Summary})
	}
	return out
}

// conflictViews words the conflicts of an entry, or of all when it is zero.
func conflictViews(h *House, r house.Ref) []contract.HouseConflict {
	out := []contract.HouseConflict{}
	for _, c := range h.Conflicts {
		if r == (house.Ref{}) || c.Ref == r {
			out = append(out, contract.HouseConflict{Kind: c.Kind, Key: c.Key, Name: nameOf(fieldsOf(h.Entries, c.Ref), c.Ref), Field: c.Field,
				Base: value(c.Base), Ours: value(c.Ours), Theirs: value(c.Theirs)})
		}
	}
	return out
}

// groupsOf lists the groups an entry is taught to; nil: the whole staff.
func groupsOf(lib *teaching.Library, r house.Ref) []string {
	switch r.Kind {
	case "technique":
		t, _ := lib.Technique(r.Key)
		return t.Groups
	case "checkpoint":
		_, t, _ := lib.Checkpoint(r.Key)
		return t.Groups
	case "fault":
		_, t, _ := lib.Fault(r.Key)
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
func (a Actor) mayEditEntry(h *House, r house.Ref) bool {
	return a.Role == "head" || slices.ContainsFunc(groupsOf(h.Known, r), a.mayEdit)
}

// EntryChange is what a coach wants an entry to be.
type EntryChange struct {
	ID      uuid.UUID
	Version int // of the house, as it was read
	Fields  map[string]interface{}
	Retired *bool
	Note    string
}

// PutEntry changes, adds or retires an entry, as a new version of the house. It returns
// an *EntryConflict when the entry was changed since the version was read.
func (s *Service) PutEntry(ctx context.Context, a Actor, kind, key string, in EntryChange) (contract.Entry, error) {
	r := house.Ref{Kind: kind, Key: key}
	var out contract.Entry
	err := s.Store.InTx(ctx, func(tx Store) error {
		if err := tx.LockHouse(ctx, a.ClubID); err != nil {
			return err
		}
		h, err := s.latestHouse(ctx, tx, a.ClubID)
		if err != nil {
			return err
		}
		if done, err := s.sentBefore(ctx, tx, a, in.ID); done || err != nil {
			if err == nil {
				out, err = s.entryView(ctx, tx, a, h, r)
			}
			return err
		}
		if err := s.fresh(ctx, tx, a, h, r, in.Version); err != nil {
			return err
		}
		layer, summary, err := a.change(h, r, in)
		if err != nil {
			return err
		}
		next, err := h.with(layer)
		if err != nil {
			return invalid.Field("fields", "the entry cannot be read: %s", err)
		}
		touched := []house.Ref{r}
		if err := h.sound(next, touched); err != nil {
			return err
		}
		if err := s.commitHouse(ctx, tx, a, next, in.ID, touched, summary); err != nil {
			return err
		}
		out, err = s.entryView(ctx, tx, a, next, r)
		return err
	})
	return out, err
}

// sentBefore reports whether the request made its version already.
func (s *Service) sentBefore(ctx context.Context, tx Store, a Actor, id uuid.UUID) (bool, error) {
	_, err := tx.HouseVersionByID(ctx, a.ClubID, id)
	if errors.Is(err, ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

// fresh refuses a change to an entry that was changed since the version was read.
func (s *Service) fresh(ctx context.Context, tx Store, a Actor, h *House, r house.Ref, version int) error {
	touched, err := tx.HouseVersions(ctx, a.ClubID, r.String(), 1)
	if err != nil {
		return err
	}
	if len(touched) > 0 && touched[0].Version > version {
		current, err := s.entryView(ctx, tx, a, h, r)
		if err != nil {
			return err
		}
		return &EntryConflict{current}
	}
	return nil
}

// change returns the layer with the entry as the coach wants it, and what was done in
// words.
func (a Actor) change(h *House, r house.Ref, in EntryChange) (house.Layer, string, error) {
	shipped, now := fieldsOf(h.Shipped, r), h.fields(r)
	was, _ := h.Layer.Find(r)
	known := now != nil
	if known && !a.mayEditEntry(h, r) {
		return nil, "", ErrForbidden
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
		return nil, "", ErrNotFound
	}
	if in.Retired != nil && *in.Retired != was.Retired {
		layer = layer.Retire(r, shipped != nil, *in.Retired)
		verb = map[bool]string{true: "Retired", false: "Took back"}[*in.Retired]
	}
	if verb == "Added" {
		if next, err := h.with(layer); err == nil && !a.mayEditEntry(next, r) {
			return nil, "", ErrForbidden
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
func keepIdentity(kind string, now, wanted house.Fields) {
	if kind == "checkpoint" || kind == "fault" || kind == "ladder" {
		wanted["technique"] = now["technique"]
	}
	if (kind == "checkpoint" || kind == "fault") && wanted["sort"] == "" {
		wanted["sort"] = now["sort"]
	}
}

// keepTerm keeps the name that is replaced as an alias, so that nobody's word is lost.
func keepTerm(now, wanted house.Fields) {
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
func place(h *House, kind string, wanted house.Fields) {
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
func (h *House) breaks(next *House) []teaching.Issue {
	before := map[teaching.Issue]bool{}
	for _, i := range h.All.Check() {
		before[i] = true
	}
	return slices.DeleteFunc(next.All.Check(), func(i teaching.Issue) bool { return before[i] })
}

// sound refuses a next house that a change of the entries touched would break. A mere
// reference to something that is retired does not: resolving leaves it out.
func (h *House) sound(next *House, touched []house.Ref) error {
	broken := h.breaks(next)
	if len(broken) == 0 {
		return nil
	}
	left := next.Library.Check()
	for _, i := range broken {
		if slices.Contains(touched, house.Ref{Kind: i.Kind, Key: i.Key}) {
			return invalid.Field("fields."+i.Field, "%s: %s", i.Field, i.Message)
		}
		if slices.Contains(left, i) {
			return invalid.Field("fields", "%s", i.Error())
		}
	}
	return nil
}

// commitHouse appends the next house, which is sound, as a version by the coach.
func (s *Service) commitHouse(ctx context.Context, tx Store, a Actor, next *House, id uuid.UUID, touched []house.Ref, summary string) error {
	names := make([]string, len(touched))
	for i, r := range touched {
		names[i] = r.String()
	}
	return s.saveHouse(ctx, tx, HouseVersion{ClubID: a.ClubID, Version: next.Version, ID: id, Digest: next.Digest, Layer: next.Layer, Touched: names,
		Summary: summary, CreatedBy: ptr(a.UserID), CreatedAt: s.Clock()}, next)
}
