package teach

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/school"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
	"nineyard/library"
)

// ExportLibrary writes the house library as one file, or one technique, ladder or drill
// with all that it needs to stand in another club's.
func (s *Service) ExportLibrary(ctx context.Context, c access.Coach, format, kind, key string) (name string, content []byte, err error) {
	h, err := s.Of(ctx, c)
	if err != nil {
		return "", nil, err
	}
	entries := h.Entries
	name = "teaching-library"
	if kind != "" || key != "" {
		r := merge.Ref{Kind: kind, Key: key}
		if fieldsOf(entries, r) == nil {
			return "", nil, problem.ErrNotFound
		}
		wanted := needed(h.All, r)
		entries = slices.DeleteFunc(slices.Clone(entries), func(e merge.Entry) bool { return !wanted[e.Ref] })
		name = kind + "-" + key
	}
	bundle, err := library.Bundled(entries)
	if err != nil {
		return "", nil, err
	}
	if format == "json" {
		content, err = bundle.JSON()
		return name + ".json", content, err
	}
	content, err = bundle.YAML()
	return name + ".yaml", content, err
}

// needed collects an entry and everything it refers to: a ladder brings its technique and
// its drills, a drill the techniques it trains, a technique its checkpoints and faults, the
// tables they are measured against and the questions they follow from.
func needed(lib *teaching.Library, r merge.Ref) map[merge.Ref]bool {
	out := map[merge.Ref]bool{}
	question := func(from string) {
		key, _, _ := strings.Cut(from, "/")
		if _, ok := school.Chosen(lib, key); ok {
			out[merge.Ref{Kind: "question", Key: key}] = true
		}
	}
	technique := func(key string) {
		t, _ := lib.Technique(key)
		out[merge.Ref{Kind: "technique", Key: key}] = true
		for _, c := range t.Checkpoints {
			out[merge.Ref{Kind: "checkpoint", Key: c.Key}] = true
			question(c.School)
			if c.Table != "" {
				out[merge.Ref{Kind: "table", Key: c.Table}] = true
			}
			if c.Measure != nil && c.Measure.From != "" {
				table, _, _ := strings.Cut(c.Measure.From, "/")
				out[merge.Ref{Kind: "table", Key: table}] = true
			}
		}
		for _, f := range t.Faults {
			out[merge.Ref{Kind: "fault", Key: f.Key}] = true
			question(f.School)
		}
	}
	drill := func(key string) {
		d, _ := lib.Drill(key)
		out[merge.Ref{Kind: "drill", Key: key}] = true
		question(d.School)
		for _, t := range d.Techniques {
			technique(t)
		}
		for _, f := range d.WorksOn {
			if _, t, ok := lib.Fault(f); ok {
				technique(t.Key)
			}
		}
	}
	switch r.Kind {
	case "technique":
		technique(r.Key)
	case "drill":
		drill(r.Key)
	case "ladder":
		ld, _ := lib.Ladder(r.Key)
		out[r] = true
		technique(ld.Technique)
		for _, st := range ld.Stages {
			for _, k := range st.AllDrills() {
				drill(k)
			}
		}
	}
	// A question names the techniques it bears on; they come along.
	for _, q := range lib.Questions {
		if out[merge.Ref{Kind: "question", Key: q.Key}] {
			for _, k := range q.Techniques {
				technique(k)
			}
		}
	}
	return out
}

// LibraryFile is a library file to take in.
type LibraryFile struct {
	File io.Reader
	ID   uuid.UUID
	Take string // JSON array of "kind key"; empty: all
}

// incoming is a file that was read against the house.
type incoming struct {
	entries     []merge.Entry
	differences []merge.Difference
	lines       map[merge.Ref]int
}

// sent is a file as it was read, before it is looked at against any house.
type sent struct {
	entries []merge.Entry
	lines   map[merge.Ref]int
}

// readLibrary reads a file. It needs no house, so nobody waits for it.
func readLibrary(f io.Reader) (sent, error) {
	data, err := io.ReadAll(io.LimitReader(f, library.MaxBytes+1))
	if err != nil {
		return sent{}, err
	}
	bundle, lines, err := library.Parse(data)
	if err != nil {
		return sent{}, err
	}
	entries := bundle.Entries()
	if len(entries) == 0 {
		return sent{}, invalid.Field("file", "there is no entry in the file")
	}
	seen := map[merge.Ref]bool{}
	for _, e := range entries {
		if e.Key == "" || seen[e.Ref] {
			return sent{}, invalid.Field("file", "line %d: %s stands twice or has no key", lines[e.Ref], e.Ref)
		}
		seen[e.Ref] = true
	}
	return sent{entries, lines}, nil
}

// against looks at what was sent beside a house.
func (in sent) against(h *house.House) incoming {
	entries := library.Align(in.entries, h.Entries)
	return incoming{entries, merge.Compare(h.Entries, entries), in.lines}
}

func (in incoming) view(h *house.House) contract.LibraryPreview {
	v := contract.LibraryPreview{Entries: []contract.PreviewEntry{}}
	here := merge.Index(h.Entries)
	for i, d := range in.differences {
		e := contract.PreviewEntry{Kind: d.Kind, Key: d.Key, Name: nameOf(in.entries[i].Fields, d.Ref), Line: in.lines[d.Ref], Action: contract.PreviewEntryActionSame, Fields: []contract.PreviewField{}}
		now := here[d.Ref]
		switch {
		case d.New:
			e.Action = contract.PreviewEntryActionCreate
			v.Create++
		case len(d.Fields) > 0:
			e.Action = contract.PreviewEntryActionChange
			v.Change++
			for _, f := range d.Fields {
				e.Fields = append(e.Fields, contract.PreviewField{Field: f, Ours: value(now[f]), Theirs: value(in.entries[i].Fields[f])})
			}
		default:
			v.Same++
		}
		v.Entries = append(v.Entries, e)
	}
	return v
}

// PreviewLibrary says what taking a file in would change.
func (s *Service) PreviewLibrary(ctx context.Context, c access.Coach, f LibraryFile) (contract.LibraryPreview, error) {
	in, err := readLibrary(f.File)
	if err != nil {
		return contract.LibraryPreview{}, err
	}
	h, err := s.Of(ctx, c)
	if err != nil {
		return contract.LibraryPreview{}, err
	}
	return in.against(h).view(h), ctx.Err()
}

// ImportLibrary takes the chosen entries of a file in as one version, or none of them.
func (s *Service) ImportLibrary(ctx context.Context, c access.Coach, f LibraryFile) (contract.LibraryPreview, error) {
	var take []string
	if f.Take != "" {
		if err := json.Unmarshal([]byte(f.Take), &take); err != nil {
			return contract.LibraryPreview{}, invalid.Field("take", "take must be a list of entries")
		}
	}
	if f.ID == uuid.Nil {
		return contract.LibraryPreview{}, invalid.Field("id", "an import needs an id made by the client")
	}
	file, err := readLibrary(f.File) // before the club's house is held
	if err != nil {
		return contract.LibraryPreview{}, err
	}
	h, done, err := s.begin(ctx, f.ID)
	if err != nil {
		return contract.LibraryPreview{}, err
	}
	in := file.against(h)
	if done {
		return in.view(h), nil
	}
	return in.view(h), s.takeIn(ctx, c, h, in, take, f)
}

func (s *Service) takeIn(ctx context.Context, c access.Coach, h *house.House, in incoming, take []string, f LibraryFile) error {
	here, ships := merge.Index(h.Entries), merge.Index(h.Edition.Entries)
	var wants []merge.Want
	var touched []merge.Ref
	for i, d := range in.differences {
		if !d.New && len(d.Fields) == 0 || f.Take != "" && !slices.Contains(take, d.String()) {
			continue
		}
		if !d.New && !mayEditEntry(c, h, d.Ref) {
			return problem.ErrForbidden
		}
		wants = append(wants, merge.Want{Ref: d.Ref, Shipped: ships[d.Ref], Fields: in.entries[i].Fields})
		touched = append(touched, d.Ref)
	}
	if len(touched) == 0 {
		return invalid.Field("take", "there is nothing to take in")
	}
	if err := ctx.Err(); err != nil { // whoever sent it has gone
		return err
	}
	next, err := h.With(h.Layer.PutAll(wants))
	if err != nil {
		return invalid.Caused("file", "the entries of the file do not go together", err)
	}
	for _, r := range touched {
		if here[r] == nil && !mayEditEntry(c, next, r) {
			return problem.ErrForbidden
		}
	}
	if broken := breaks(h, next); len(broken) > 0 {
		i := broken[0]
		return invalid.Field("file", "line %d: %s", in.lines[merge.Ref{Kind: i.Kind, Key: i.Key}], i.Error())
	}
	return s.commit(ctx, c, next, f.ID, touched, fmt.Sprintf("Took in %d entries from a file", len(touched)))
}
