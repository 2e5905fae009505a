package film

import (
	"context"
	"fmt"
	"io"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/play"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/platform/problem"
	"nineyard/internal/platform/table"
)

// List reads a list of plays and says of every line what saving it would do: make a play, change the one
// that has its number, or nothing. Nothing is changed. columns say which header stands for what, where
// that is not what the words over the columns say.
func (s *Service) List(ctx context.Context, c access.Coach, game uuid.UUID, unit group.Side, columns map[string]string, file io.Reader) (contract.PlayLines, error) {
	_, found, err := s.Store.Game(ctx, game)
	if err := problem.Found(found, err); err != nil {
		return contract.PlayLines{}, err
	}
	t, err := table.Read(file)
	if err != nil {
		return contract.PlayLines{}, err
	}
	at := play.Guess(t.Headers)
	kept, remembered, err := s.Labels.Mapping(ctx, headerKey(t.Headers))
	if err != nil {
		return contract.PlayLines{}, err
	}
	for name, header := range kept {
		if err := choose(at, t.Headers, name, header); err != nil {
			return contract.PlayLines{}, err // the headers are the same: it was kept for them
		}
	}
	for name, header := range columns {
		if err := choose(at, t.Headers, name, header); err != nil {
			return contract.PlayLines{}, err
		}
	}
	if len(columns) > 0 {
		all := map[string]string{}
		for _, col := range play.Columns() {
			all[string(col)] = ""
			if i, ok := at[col]; ok {
				all[string(col)] = t.Headers[i]
			}
		}
		if err := s.Labels.KeepMapping(ctx, headerKey(t.Headers), all); err != nil {
			return contract.PlayLines{}, err
		}
	}
	if len(t.Rows) > play.MaxPlays {
		return contract.PlayLines{}, invalid.Field("file", "a game has at most %d plays, the list has %d lines", play.MaxPlays, len(t.Rows))
	}
	rows := make([]play.Row, len(t.Rows))
	for i, r := range t.Rows {
		rows[i] = play.Row{Number: r.Line, Fields: r.Fields}
	}
	all, err := s.Store.Entries(ctx, game)
	if err != nil {
		return contract.PlayLines{}, err
	}
	byNumber := map[int]Entry{}
	for _, e := range all {
		byNumber[e.Play.Number] = e
	}
	out := contract.PlayLines{Remembered: remembered, Headers: append([]string{}, t.Headers...), Columns: []contract.PlayColumn{}, Lines: []contract.PlayLine{}}
	for _, col := range play.Columns() {
		v := contract.PlayColumn{Name: string(col)}
		if i, ok := at[col]; ok {
			v.Header = &t.Headers[i]
		}
		out.Columns = append(out.Columns, v)
	}
	aliases, err := s.Aliases(ctx)
	if err != nil {
		return contract.PlayLines{}, err
	}
	for _, l := range play.Read(rows, at, unit) {
		l.Play = play.Meant(l.Play, aliases)
		out.Lines = append(out.Lines, meant(c, l, byNumber))
	}
	return out, nil
}

// choose makes a header stand for a column; an empty one stands for none.
func choose(at map[play.Column]int, headers []string, name, header string) error {
	for _, c := range play.Columns() {
		if string(c) != name {
			continue
		}
		delete(at, c)
		if header == "" {
			return nil
		}
		for i, h := range headers {
			if h == header {
				for other, j := range at {
					if i == j {
						delete(at, other)
					}
				}
				at[c] = i
				return nil
			}
		}
		return invalid.Field("columns", "the list has no column %q", header)
	}
	return invalid.Field("columns", "there is no column %q", name)
}

// meant says what a line would do.
func meant(c access.Coach, l play.Line, byNumber map[int]Entry) contract.PlayLine {
	v := contract.PlayLine{Line: l.Number, Action: contract.PlayLineActionCreate}
	wrong := func(column play.Column, says string) contract.PlayLine {
		v.Action, v.Column, v.Says = contract.PlayLineActionWrong, new(string(column)), &says
		return v
	}
	if l.Says != "" {
		return wrong(l.Column, l.Says)
	}
	if !c.MayWorkSide(l.Play.Unit) {
		return wrong(play.ColUnit, fmt.Sprintf("the plays of the %s are its own coaches' to change", l.Play.Unit))
	}
	v.Play = new(labels.View(l.Play))
	v.ID, v.Version = new(uuid.Must(uuid.NewV7())), new(0)
	if e, there := byNumber[l.Play.Number]; there {
		v.ID, v.Version, v.Action = &e.ID, &e.Version, contract.PlayLineActionUpdate
		switch {
		case same(e.Play, l.Play):
			v.Action = contract.PlayLineActionSame
		case e.Marks > 0 && e.Play.Unit != l.Play.Unit:
			return wrong(play.ColUnit, fmt.Sprintf("play %d is the %s's, and %d marks are on record of it", l.Play.Number, e.Play.Unit, e.Marks))
		}
	}
	return v
}

// Export writes the plays of a game as a list that is read again: csv or xlsx. It returns the file's name
// and what is in it.
func (s *Service) Export(ctx context.Context, game uuid.UUID, format string) (string, []byte, error) {
	g, found, err := s.Store.Game(ctx, game)
	if err := problem.Found(found, err); err != nil {
		return "", nil, err
	}
	rows := [][]any{table.Texts(play.Columns())}
	for _, p := range g.Plays {
		rows = append(rows, table.Texts(play.Record(p.Play)))
	}
	return table.File(format, "plays "+g.On.String()+" "+g.Opponent, "Plays", rows)
}
