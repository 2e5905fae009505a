package app

import (
	"context"
	"encoding/json"
	"io"
	"math"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/roster"
	"nineyard/internal/contract"
	"nineyard/internal/interchange"
)

// RosterFile is an uploaded list.
type RosterFile struct {
	File    io.Reader
	Group   string // for players whose position does not tell
	Mapping string // JSON object of column to header index; empty to guess
}

// PreviewRoster says what importing a list would do, line by line.
func (s *Service) PreviewRoster(ctx context.Context, a Actor, f RosterFile) (contract.RosterPreview, error) {
	r, err := s.readRoster(ctx, s.Store, a, f)
	return r.preview, err
}

// ImportRoster imports the good lines in one transaction and remembers the mapping.
func (s *Service) ImportRoster(ctx context.Context, a Actor, f RosterFile) (contract.RosterPreview, error) {
	var out contract.RosterPreview
	err := s.Store.InTx(ctx, func(tx Store) error {
		if err := tx.LockRoster(ctx, a.ClubID); err != nil {
			return err
		}
		r, err := s.readRoster(ctx, tx, a, f)
		if err != nil {
			return err
		}
		out = r.preview
		if err := s.saveRoster(ctx, tx, a, f.Group, r); err != nil {
			return err
		}
		return tx.SaveRosterMapping(ctx, a.ClubID, headerKey(out.Headers), out.Mapping)
	})
	return out, err
}

// rosterReading is a list as it was read against the club's players and groups.
type rosterReading struct {
	preview contract.RosterPreview
	lines   []roster.Line
	known   []Player
	groups  map[string]bool
}

func (s *Service) saveRoster(ctx context.Context, tx Store, a Actor, fallback string, r rosterReading) error {
	known := playersByID(r.known)
	var create, update []Player
	into := map[uuid.UUID]string{}
	for _, l := range r.lines {
		var p Player
		switch l.Action {
		case roster.Create:
			id, err := uuid.NewV7()
			if err != nil {
				return err
			}
			p = Player{ID: id, ClubID: a.ClubID, FirstName: l.Person.First, LastName: l.Person.Last}
			merge(&p, l.Person)
			create = append(create, p)
		case roster.Update:
			id, err := uuid.Parse(l.ID)
			if err != nil {
				return err
			}
			p = known[id]
			merge(&p, roster.Merge(personOf(p), l.Person))
			update = append(update, p)
		default:
			continue
		}
		into[p.ID] = groupFor(l.Person, fallback, r.groups)
	}
	return tx.SavePlayers(ctx, create, update, a.UserID, into)
}

// readRoster reads the file and plans it against the players there are.
func (s *Service) readRoster(ctx context.Context, store Store, a Actor, f RosterFile) (rosterReading, error) {
	var out rosterReading
	groups, err := groupKeys(ctx, store, a)
	if err != nil {
		return out, err
	}
	if !groups[f.Group] {
		return out, invalid.Field("group", "there is no position group %q", f.Group)
	}
	if !a.mayEdit(f.Group) {
		return out, ErrForbidden
	}
	table, err := interchange.ReadTable(f.File)
	if err != nil {
		return out, err
	}
	mapping, remembered, err := s.mapping(ctx, store, a, f.Mapping, table.Headers)
	if err != nil {
		return out, err
	}
	all, err := store.AllPlayers(ctx, a.ClubID)
	if err != nil {
		return out, err
	}
	known := make([]roster.Known, len(all))
	for i, p := range all {
		known[i] = roster.Known{ID: p.ID.String(), Person: personOf(p)}
	}
	records := make([]roster.Record, len(table.Rows))
	for i, r := range table.Rows {
		records[i] = roster.Record{Number: r.Line, Fields: r.Fields}
	}
	lines := roster.Plan(mapping, records, known)
	return rosterReading{preview(table, mapping, remembered, lines, f.Group, groups), lines, all, groups}, nil
}

// mapping takes the coach's mapping, else the one remembered for such a file, else a guess.
func (s *Service) mapping(ctx context.Context, store Store, a Actor, given string, headers []string) (map[roster.Column]int, bool, error) {
	raw, remembered := map[string]int{}, false
	if given != "" {
		if err := json.Unmarshal([]byte(given), &raw); err != nil {
			return nil, false, invalid.Field("mapping", "the mapping is not a JSON object of column to number")
		}
	} else {
		kept, err := store.RosterMapping(ctx, a.ClubID, headerKey(headers))
		if err != nil {
			return nil, false, err
		}
		if kept == nil {
			return roster.Guess(headers), false, nil
		}
		raw, remembered = kept, true
	}
	known := map[string]bool{}
	for _, c := range roster.Columns() {
		known[string(c)] = true
	}
	mapping := map[roster.Column]int{}
	for _, col := range sortedKeys(raw) {
		i := raw[col]
		if !known[col] || i < 0 || i >= len(headers) {
			return nil, false, invalid.Field("mapping."+col, "%s cannot be read from column %d: the file has %d", col, i+1, len(headers))
		}
		mapping[roster.Column(col)] = i
	}
	return mapping, remembered, nil
}

func preview(table interchange.Table, mapping map[roster.Column]int, remembered bool, lines []roster.Line, fallback string, groups map[string]bool) contract.RosterPreview {
	out := contract.RosterPreview{Headers: table.Headers, Columns: []string{}, Mapping: map[string]int{}, Remembered: ptr(remembered),
		Encoding: table.Encoding, Separator: table.Separator, Sample: [][]string{}, Lines: []contract.RosterLine{}}
	for _, c := range roster.Columns() {
		out.Columns = append(out.Columns, string(c))
	}
	for c, i := range mapping {
		out.Mapping[string(c)] = i
	}
	for _, r := range table.Rows[:min(3, len(table.Rows))] {
		out.Sample = append(out.Sample, r.Fields)
	}
	for _, l := range lines {
		switch l.Action {
		case roster.Create:
			out.Create++
		case roster.Update:
			out.Update++
		case roster.Same:
			out.Same++
		default:
			out.Problems++
		}
		out.Lines = append(out.Lines, lineView(l, fallback, groups))
	}
	return out
}

func lineView(l roster.Line, fallback string, groups map[string]bool) contract.RosterLine {
	p := l.Person
	v := contract.RosterLine{Line: l.Number, Action: contract.RosterLineAction(l.Action), Jersey: p.Jersey, Name: strings.TrimSpace(p.First + " " + p.Last),
		Position: p.Position, Group: ptr(groupFor(p, fallback, groups)), Changes: append([]string{}, l.Changes...), Reasons: []contract.RosterReason{}}
	if p.HeightIn > 0 {
		v.HeightIn = ptr(p.HeightIn)
	}
	if p.WeightLb > 0 {
		v.WeightLb = ptr(p.WeightLb)
	}
	for _, r := range l.Reasons {
		v.Reasons = append(v.Reasons, contract.RosterReason{Column: string(r.Column), Message: r.Message})
	}
	return v
}

func groupFor(p roster.Person, fallback string, groups map[string]bool) string {
	if g, ok := roster.GroupOf(p.Position); ok && groups[g] {
		return g
	}
	return fallback
}

func groupKeys(ctx context.Context, store Store, a Actor) (map[string]bool, error) {
	list, err := store.Groups(ctx, a.ClubID)
	keys := map[string]bool{}
	for _, g := range list {
		keys[g.Key] = true
	}
	return keys, err
}

// headerKey names files with the same columns in the same order.
func headerKey(headers []string) string {
	folded := make([]string, len(headers))
	for i, h := range headers {
		folded[i] = strings.ToLower(h)
	}
	return strings.Join(folded, "\x1f")
}

func personOf(p Player) roster.Person {
	out := roster.Person{Jersey: p.Jersey, First: p.FirstName, Last: p.LastName, Position: p.Position, Returning: p.Returning}
	if p.HeightIn != nil {
		out.HeightIn = *p.HeightIn
	}
	if p.WeightLb != nil {
		out.WeightLb = float64(*p.WeightLb)
	}
	return out
}

// merge puts a person's data into a player.
func merge(p *Player, from roster.Person) {
	p.Jersey, p.Position, p.Returning = from.Jersey, from.Position, from.Returning
	if from.HeightIn > 0 {
		p.HeightIn = ptr(from.HeightIn)
	}
	if from.WeightLb > 0 {
		p.WeightLb = ptr(int(math.Round(from.WeightLb)))
	}
}
