package calls

import (
	"context"
	"fmt"
	"io"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/table"
)

// Typed reads calls that were typed, one a line. Nothing is changed.
func (s *Service) Typed(ctx context.Context, c access.Coach, text string) (contract.CallLines, error) {
	rows, at := call.Typed(text)
	return s.lines(ctx, c, "text", rows, at)
}

// List reads a list of calls. Nothing is changed.
func (s *Service) List(ctx context.Context, c access.Coach, file io.Reader) (contract.CallLines, error) {
	t, err := table.Read(file)
	if err != nil {
		return contract.CallLines{}, err
	}
	at, err := call.Guess(t.Headers)
	if err != nil {
		return contract.CallLines{}, invalid.Within("file", err)
	}
	rows := make([]call.Row, len(t.Rows))
	for i, r := range t.Rows {
		rows[i] = call.Row{Number: r.Line, Fields: r.Fields}
	}
	return s.lines(ctx, c, "file", rows, at)
}

// lines says of each row what saving it would do.
func (s *Service) lines(ctx context.Context, c access.Coach, field string, rows []call.Row, at map[call.Column]int) (contract.CallLines, error) {
	out := contract.CallLines{Columns: []string{}, Lines: []contract.CallLine{}}
	for _, col := range call.Columns() {
		out.Columns = append(out.Columns, string(col))
	}
	if len(rows) > call.MaxLines {
		return out, invalid.Field(field, "at most %d calls at once, got %d", call.MaxLines, len(rows))
	}
	known, err := s.known(ctx, c)
	if err != nil {
		return out, err
	}
	all, err := s.ordered(ctx, c)
	if err != nil {
		return out, err
	}
	for _, l := range call.Read(rows, at, known) {
		out.Lines = append(out.Lines, meant(c, l, all, known))
	}
	return out, nil
}

// meant says what a line would do: a call that one is called like is changed, keeping the names it
// has.
func meant(c access.Coach, l call.Line, all []Entry, known call.Known) contract.CallLine {
	v := contract.CallLine{Number: l.Number, Name: l.Call.Name, Action: contract.CallLineActionCreate}
	wrong := func(column call.Column, says string) contract.CallLine {
		v.Action, v.Column, v.Says, v.Fields = contract.CallLineActionWrong, new(string(column)), &says, []string{}
		return v
	}
	if l.Says != "" {
		return wrong(l.Column, l.Says)
	}
	if !c.MayEditSide(l.Call.Side) {
		return wrong(call.Side, fmt.Sprintf("the calls of the %s are its own coaches' to change", side(l.Call.Side)))
	}
	v.Version = new(0)
	for _, e := range all {
		if e.Call.Side != l.Call.Side || !names(e.Call, l.Call.Name) {
			continue
		}
		v.ID, v.Version, v.Action = &e.ID, &e.Version, contract.CallLineActionUpdate
		if alike(e.Call, l.Call) {
			v.Action = contract.CallLineActionSame
		}
	}
	for _, a := range l.Call.Aliases {
		for _, e := range all {
			if e.Call.Side == l.Call.Side && (v.ID == nil || e.ID != *v.ID) && names(e.Call, a) {
				return wrong(call.Aliases, fmt.Sprintf("%s is called %s already", e.Call.Name, a))
			}
		}
	}
	if v.ID == nil {
		v.ID = new(uuid.Must(uuid.NewV7()))
	}
	v.Call, v.Fields = new(input(l.Call)), call.Record(l.Call, known)
	return v
}

func side(s group.Side) string {
	if s == group.Units {
		return "kicking units"
	}
	return string(s)
}

// Export writes the calls as a list that is read again: csv or xlsx. It returns the file's name and
// what is in it.
func (s *Service) Export(ctx context.Context, c access.Coach, format string) (string, []byte, error) {
	known, err := s.known(ctx, c)
	if err != nil {
		return "", nil, err
	}
	all, err := s.ordered(ctx, c)
	if err != nil {
		return "", nil, err
	}
	rows := [][]any{table.Texts(call.Columns())}
	for _, e := range all {
		rows = append(rows, table.Texts(call.Record(e.Call, known)))
	}
	return table.File(format, "calls", "Calls", rows)
}
