// Package house is what teaching offers to other features: what a club teaches.
//
// A club teaches its own layer of changes over the library that ships (the edition). The
// two together, with the schools it chose, are its house; every change of the layer and
// every new edition makes a version of it.
package house

import (
	"context"
	"slices"

	"nineyard/core/merge"
	"nineyard/core/school"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/library"
)

// House is what a club teaches, at a version. It is not changed once it is made; requests
// and clubs share it.
type House struct {
	Version   int
	Edition   *library.Edition // beneath
	Layer     merge.Layer
	Entries   []merge.Entry     // edition and layer merged, every school, without what is retired
	All       *teaching.Library // of Entries
	Library   *teaching.Library // as it is taught: the chosen schools only
	Known     *teaching.Library // with what is retired, for the marks of old
	Conflicts []merge.Conflict
}

// Source reads what a club teaches.
type Source interface {
	// Of returns the house of the coach's club at its latest version.
	Of(ctx context.Context, c access.Coach) (*House, error)
}

// New lays a layer over an edition.
func New(version int, edition *library.Edition, layer merge.Layer) (*House, error) {
	h := &House{Version: version, Edition: edition, Layer: layer}
	if len(layer) == 0 { // most clubs: all of it is the edition's own
		h.Entries, h.All, h.Library, h.Known = edition.Entries, edition.All, edition.Taught, edition.Known
		return h, nil
	}
	h.Entries, h.Conflicts = merge.Apply(edition.Entries, layer)
	var err error
	if h.All, err = edition.Build(h.Entries); err != nil {
		return nil, err
	}
	h.Library = school.Resolve(h.All)
	kept := slices.Clone(layer)
	retired := false
	for i := range kept {
		retired = retired || kept[i].Retired
		kept[i].Retired = false
	}
	known := h.Entries
	if retired {
		known, _ = merge.Apply(edition.Entries, kept)
	}
	if h.Known = h.All; retired || library.Retires(known) {
		h.Known, err = edition.BuildKnown(known)
	}
	return h, err
}

// With returns the house as it would be next, with another layer.
func (h *House) With(layer merge.Layer) (*House, error) { return New(h.Version+1, h.Edition, layer) }

// Technique returns a technique as it is taught now or, when it is retired, as it was.
func (h *House) Technique(key string) (teaching.Technique, bool) {
	if t, ok := h.Library.Technique(key); ok {
		return t, true
	}
	return h.Known.Technique(key)
}

// TechniqueName is what a technique is called; its key where there is none of that key.
func (h *House) TechniqueName(key string) string {
	if t, ok := h.Technique(key); ok {
		return t.Name
	}
	return key
}

// FaultName is what a fault is called, retired or not; its key where there is none of that key.
func (h *House) FaultName(key string) string {
	if f, _, ok := h.Known.Fault(key); ok {
		return f.Name
	}
	return key
}

// Behind names the fault of another group that may stand behind one, with the technique it belongs to; empty where none may.
func (h *House) Behind(f teaching.Fault) string {
	if f.CausedBy == "" {
		return ""
	}
	x, t, ok := h.Known.Fault(f.CausedBy)
	if !ok {
		return ""
	}
	return x.Name + ", " + t.Name
}

// MarkedAs is the technique the reps of a placed drill are marked as: the one chosen for
// it, else the drill's first.
func (h *House) MarkedAs(chosen string, d teaching.Drill) teaching.Technique {
	if !slices.Contains(d.Techniques, chosen) {
		chosen = d.Technique
	}
	t, _ := h.Technique(chosen)
	return t
}

// TechniquesOf names the techniques a drill trains, the one it is marked as first.
func (h *House) TechniquesOf(d teaching.Drill) []contract.Named {
	names := []contract.Named{}
	for _, k := range d.Techniques {
		t, _ := h.Library.Technique(k)
		names = append(names, contract.Named{Key: k, Name: t.Name})
	}
	return names
}

// StageViews are the stages of a ladder with the gates that apply, as a group climbs it.
func (h *House) StageViews(l teaching.Ladder, group string) []contract.Stage {
	views := []contract.Stage{}
	for _, st := range l.Stages {
		v := contract.Stage{Stage: st, StageView: contract.StageView{Game: st.Kind == teaching.Game, Here: append([]string{}, st.DrillsOf(group)...), Called: map[string]string{}}, Drills: append([]string{}, st.Drills...),
			Window: st.Window, Clean: st.Clean, Sessions: max(st.Sessions, 1), FromWeek: max(st.FromWeek, 1)}
		for _, k := range st.AllDrills() {
			d, _ := h.Library.Drill(k)
			v.Called[k] = d.Name
		}
		views = append(views, v)
	}
	return views
}
