package roster

import (
	"context"
	"encoding/json"
	"io"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/roster"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/platform/table"
)

// keepUploads is how long a list that was sent is kept.
const keepUploads = 24 * time.Hour

// Upload is a list that was sent, read once.
type Upload struct {
	ID       uuid.UUID
	Table    table.Table
	Imported json.RawMessage // what importing it answered, once that is done
}

// Lists keeps lists that were sent, and takes them in.
type Lists interface {
	// KeepUpload keeps a list, and forgets those sent before a moment.
	KeepUpload(ctx context.Context, u Upload, by uuid.UUID, at, forget time.Time) error
	// Upload reads a list and the mapping chosen for one with its headers before (nil for
	// none); with lock it holds the club's roster until the transaction ends.
	Upload(ctx context.Context, id uuid.UUID, lock bool) (u Upload, chosen map[string]int, found bool, err error)
	// TakeIn creates and updates players in one statement; groups says into which group each
	// goes. A player keeps the groups he is in.
	TakeIn(ctx context.Context, create, update []Entry, by uuid.UUID, groups map[uuid.UUID]string) error
	// Done remembers the mapping for lists with these headers and what importing answered.
	Done(ctx context.Context, id uuid.UUID, headers string, mapping map[string]int, answer json.RawMessage) error
}

// reading is a list as it was read against the club's players and groups.
type reading struct {
	preview contract.RosterPreview
	lines   []roster.Line
	known   map[string]Entry // by id
}

// Send reads a list and says what importing it would do, line by line.
func (s *Service) Send(ctx context.Context, c access.Coach, id uuid.UUID, group string, file io.Reader) (contract.RosterPreview, error) {
	if err := mayImport(c, group); err != nil {
		return contract.RosterPreview{}, err
	}
	t, err := table.Read(file)
	if err != nil {
		return contract.RosterPreview{}, err
	}
	now := s.Now()
	if err := s.Lists.KeepUpload(ctx, Upload{ID: id, Table: t}, c.ID, now, now.Add(-keepUploads)); err != nil {
		return contract.RosterPreview{}, err
	}
	return s.Preview(ctx, c, id, contract.RosterChoice{Group: group})
}

func mayImport(c access.Coach, group string) error {
	if _, ok := c.Club.Groups.Find(group); !ok {
		return invalid.Field("group", "there is no position group %q", group)
	}
	if !c.MayEdit(group) {
		return problem.ErrForbidden
	}
	return nil
}

// Preview says what importing a list would do with a choice of columns and group.
func (s *Service) Preview(ctx context.Context, c access.Coach, id uuid.UUID, choice contract.RosterChoice) (contract.RosterPreview, error) {
	u, chosen, found, err := s.Lists.Upload(ctx, id, false)
	if err != nil {
		return contract.RosterPreview{}, err
	}
	if !found {
		return contract.RosterPreview{}, problem.ErrNotFound
	}
	r, err := s.read(ctx, c, u, chosen, choice)
	return r.preview, err
}

// Import takes the good lines in, in one transaction. Sent again it answers the same.
func (s *Service) Import(ctx context.Context, c access.Coach, id uuid.UUID, choice contract.RosterChoice) (contract.RosterPreview, error) {
	u, chosen, found, err := s.Lists.Upload(ctx, id, true)
	if err != nil {
		return contract.RosterPreview{}, err
	}
	if !found {
		return contract.RosterPreview{}, problem.ErrNotFound
	}
	var done contract.RosterPreview
	if len(u.Imported) > 0 {
		return done, json.Unmarshal(u.Imported, &done)
	}
	r, err := s.read(ctx, c, u, chosen, choice)
	if err != nil {
		return done, err
	}
	create, update, into, propose, err := r.changes(c, choice.Group)
	if err != nil {
		return done, err
	}
	if err := s.Lists.TakeIn(ctx, create, update, c.ID, into); err != nil {
		return done, err
	}
	if err := s.Proposals.Propose(ctx, propose, c.ID, s.Now()); err != nil {
		return done, err
	}
	answer, err := json.Marshal(r.preview)
	if err != nil {
		return done, err
	}
	return r.preview, s.Lists.Done(ctx, id, headerKey(u.Table.Headers), r.preview.Mapping, answer)
}

// changes lists the players to create and to update, into which group each goes, and what is proposed to other coaches.
func (r reading) changes(c access.Coach, fallback string) (create, update []Entry, into map[uuid.UUID]string, propose []Proposal, err error) {
	into = map[uuid.UUID]string{}
	for _, l := range r.lines {
		var e Entry
		group := groupFor(c, l.Person, fallback)
		if theirs(c, l, r.known, fallback) {
			p := Proposal{Group: group, Person: l.Person}
			if p.ID, err = uuid.NewV7(); err != nil {
				return nil, nil, nil, nil, err
			}
			if e, known := r.known[l.ID]; known {
				p.PlayerID = &e.ID
			}
			propose = append(propose, p)
			continue
		}
		switch l.Action {
		case roster.Create:
			if e.ID, err = uuid.NewV7(); err != nil {
				return nil, nil, nil, nil, err
			}
			e.Person = l.Person
			e.Person.SaysReturning = false
			create = append(create, e)
		case roster.Update:
			e = r.known[l.ID]
			e.Person = roster.Merge(e.Person, l.Person)
			e.Person.WeightLb = math.Round(e.Person.WeightLb)
			update = append(update, e)
		default:
			continue
		}
		if c.MayEdit(group) { // else he stays in the groups he is in
			into[e.ID] = group
		}
	}
	return create, update, into, propose, nil
}

// read plans a list against the players there are.
func (s *Service) read(ctx context.Context, c access.Coach, u Upload, chosen map[string]int, choice contract.RosterChoice) (reading, error) {
	out := reading{known: map[string]Entry{}}
	if err := mayImport(c, choice.Group); err != nil {
		return out, err
	}
	mapping, remembered, err := mapping(choice.Mapping, chosen, u.Table.Headers)
	if err != nil {
		return out, err
	}
	entries, err := s.Store.Entries(ctx, c.Season)
	if err != nil {
		return out, err
	}
	known := make([]roster.Known, len(entries))
	for i, e := range entries {
		known[i] = roster.Known{ID: e.ID.String(), Person: e.Person}
		out.known[e.ID.String()] = e
	}
	records := make([]roster.Record, len(u.Table.Rows))
	for i, r := range u.Table.Rows {
		records[i] = roster.Record{Number: r.Line, Fields: r.Fields}
	}
	out.lines = roster.Match(mapping, records, known)
	out.preview = preview(c, u, mapping, remembered, out, choice.Group)
	return out, nil
}

// mapping takes the coach's choice, else the one remembered for such a list, else a guess.
func mapping(given *map[string]int, chosen map[string]int, headers []string) (map[roster.Column]int, bool, error) {
	raw, remembered := chosen, chosen != nil
	if given != nil {
		raw, remembered = *given, false
	}
	if raw == nil {
		return roster.Guess(headers), false, nil
	}
	out := map[roster.Column]int{}
	for _, col := range slices.Sorted(maps.Keys(raw)) {
		i := raw[col]
		if !slices.Contains(roster.Columns(), roster.Column(col)) || i < 0 || i >= len(headers) {
			return nil, false, invalid.Field("mapping."+col, "%s cannot be read from column %d: the list has %d", col, i+1, len(headers))
		}
		out[roster.Column(col)] = i
	}
	return out, remembered, nil
}

func preview(c access.Coach, u Upload, mapping map[roster.Column]int, remembered bool, r reading, fallback string) contract.RosterPreview {
	t := u.Table
	out := contract.RosterPreview{ID: u.ID, Headers: append([]string{}, t.Headers...), Columns: []string{}, Mapping: map[string]int{}, Remembered: &remembered,
		Encoding: t.Encoding, Separator: t.Separator, Sample: [][]string{}, Lines: []contract.RosterLine{}}
	for _, col := range roster.Columns() {
		out.Columns = append(out.Columns, string(col))
	}
	for col, i := range mapping {
		out.Mapping[string(col)] = i
	}
	for _, r := range t.Rows[:min(3, len(t.Rows))] {
		out.Sample = append(out.Sample, r.Fields)
	}
	for _, l := range r.lines {
		v := lineView(c, l, fallback)
		switch {
		case theirs(c, l, r.known, fallback):
			v.Action = contract.RosterLineActionPropose
			out.Propose++
		case l.Action == roster.Create:
			out.Create++
		case l.Action == roster.Update:
			out.Update++
		case l.Action == roster.Same:
			out.Same++
		default:
			out.Problems++
		}
		out.Lines = append(out.Lines, v)
	}
	return out
}

func lineView(c access.Coach, l roster.Line, fallback string) contract.RosterLine {
	p := l.Person
	v := contract.RosterLine{Line: l.Number, Action: contract.RosterLineAction(l.Action), Jersey: p.Jersey, Name: nameOf(p),
		Position: p.Position, Group: new(groupFor(c, p, fallback)), Changes: append([]string{}, l.Changes...), Reasons: []contract.RosterReason{}}
	if p.HeightIn > 0 {
		v.HeightIn = &p.HeightIn
	}
	if p.WeightLb > 0 {
		v.WeightLb = &p.WeightLb
	}
	for _, r := range l.Reasons {
		v.Reasons = append(v.Reasons, contract.RosterReason{Column: string(r.Column), Message: r.Message})
	}
	return v
}

// groupFor is the club's group that coaches a person's position, else the one chosen.
func groupFor(c access.Coach, p roster.Person, fallback string) string {
	if g, ok := c.Club.Groups.ForPosition(p.Position); ok {
		return g
	}
	return fallback
}

// headerKey names lists with the same columns in the same order.
func headerKey(headers []string) string {
	folded := make([]string, len(headers))
	for i, h := range headers {
		folded[i] = strings.ToLower(h)
	}
	return strings.Join(folded, "\x1f")
}

// Export writes the roster as a list: by number, one line a player, with headers that
// importing understands.
func (s *Service) Export(ctx context.Context, c access.Coach, format string, archived bool) (name string, content []byte, err error) {
	list, err := s.List(ctx, c, "")
	if err != nil {
		return "", nil, err
	}
	rows := [][]any{{"Number", "First name", "Last name", "Groups", "Position", "Height in", "Weight lb", "Returning", "Status", "Until", "Note", "Archived"}}
	yes := map[bool]string{true: "yes", false: "no"}
	for _, p := range list.Players {
		if p.Archived && !archived {
			continue
		}
		var short []string
		for _, k := range p.Groups {
			g, _ := c.Club.Groups.Find(k)
			short = append(short, g.Short)
		}
		var height, weight any = "", ""
		if p.HeightIn != nil {
			height = *p.HeightIn
		}
		if p.WeightLb != nil {
			weight = *p.WeightLb
		}
		until := ""
		if p.Until != nil {
			until = *p.Until
		}
		rows = append(rows, []any{p.Jersey, p.FirstName, p.LastName, strings.Join(short, ", "), p.Position, height, weight, yes[p.Returning],
			strings.ReplaceAll(string(p.Status), "_", " "), until, p.Note, yes[p.Archived]})
	}
	return table.File(format, "roster-"+list.On, "Roster", rows)
}
