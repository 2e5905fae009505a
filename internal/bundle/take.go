package bundle

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/term"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// atOnce is how many marks are recorded together.
const atOnce = 400

// schema is that of a bundle in the contract.
var schema = sync.OnceValues(func() (*openapi3.Schema, error) {
	doc, err := gen.GetSpec()
	if err != nil {
		return nil, err
	}
	return doc.Components.Schemas["Bundle"].Value, nil
})

// read reads a bundle, held to the contract. It returns an invalid.Error that names the place.
func read(r io.Reader) (b contract.Bundle, err error) {
	data, err := io.ReadAll(r)
	if err != nil {
		return b, err
	}
	if err := httpd.Legible(data); err != nil {
		return b, err
	}
	var plain any
	if err := json.Unmarshal(data, &plain); err != nil {
		return b, invalid.Caused("file", "this is no bundle: it is not JSON", err)
	}
	s, err := schema()
	if err != nil {
		return b, err
	}
	if err := s.VisitJSON(plain); err != nil {
		var at *openapi3.SchemaError
		if errors.As(err, &at) {
			return b, invalid.Field(place(at.JSONPointer()), "%s", httpd.InWords(at))
		}
		return b, invalid.Field("file", "this is no bundle")
	}
	return b, json.Unmarshal(data, &b)
}

// place writes marks, 3, player as marks[3].player.
func place(parts []string) string {
	var out strings.Builder
	for _, p := range parts {
		switch {
		case p != "" && strings.Trim(p, "0123456789") == "":
			fmt.Fprintf(&out, "[%s]", p)
		case out.Len() > 0:
			out.WriteString("." + p)
		default:
			out.WriteString(p)
		}
	}
	if out.Len() == 0 {
		return "file"
	}
	return out.String()
}

// Import takes a bundle into a game. What is there already stays; what is refused refuses all of it, naming its place.
func (s *Service) Import(ctx context.Context, c access.Coach, game uuid.UUID, file io.Reader) (out contract.BundleTaken, err error) {
	b, err := read(file)
	if err != nil {
		return out, err
	}
	if err := s.plays(ctx, c, game, b, &out); err != nil {
		return out, err
	}
	w, err := s.worked(ctx, c, game)
	if err != nil {
		return out, err
	}
	if err := s.marks(ctx, c, w, b, &out); err != nil {
		return out, err
	}
	return out, s.film(ctx, c, w, b, &out)
}

func (s *Service) plays(ctx context.Context, c access.Coach, game uuid.UUID, b contract.Bundle, out *contract.BundleTaken) error {
	now, err := s.Plays.GamePlays(ctx, c, game)
	if err != nil {
		return err
	}
	byNumber := map[int]contract.GamePlay{}
	for _, p := range now.Plays {
		byNumber[p.Play.Number] = p
	}
	for i, p := range b.Plays {
		was, there := byNumber[p.Number]
		if !there {
			was.ID = uuid.Must(uuid.NewV7())
		}
		if there && reflect.DeepEqual(was.Play, p) {
			out.Same++
			continue
		}
		if _, err := s.Plays.PutPlay(ctx, c, game, was.ID, was.Version, p); err != nil {
			return invalid.Within(fmt.Sprintf("plays[%d]", i), err)
		}
		out.Plays++
	}
	return nil
}

// who is the one player with a number and a name.
func (w worked) who(p contract.BundlePlayer) (uuid.UUID, bool) {
	var found []uuid.UUID
	for _, x := range w.players {
		if x.Jersey == p.Number && term.Same(x.LastName, p.Name) {
			found = append(found, x.ID)
		}
	}
	if len(found) != 1 {
		return uuid.Nil, false
	}
	return found[0], true
}

func (s *Service) marks(ctx context.Context, c access.Coach, w worked, b contract.Bundle, out *contract.BundleTaken) error {
	type slot struct {
		play, player uuid.UUID
		technique    string
	}
	standing := map[slot]int{}
	for i, m := range w.marks {
		standing[slot{*m.PlayID, m.PlayerID, m.TechniqueKey}] = i
	}
	var inputs []contract.MarkInput
	var at []int // in the bundle
	for i, m := range b.Marks {
		in, err := w.input(m)
		if err != nil {
			return invalid.Within(fmt.Sprintf("marks[%d]", i), err)
		}
		if j, there := standing[slot{*in.PlayID, in.PlayerID, m.TechniqueKey}]; there {
			if reflect.DeepEqual(w.mark(w.marks[j]), m) {
				out.Same++
				continue
			}
			in.On = &w.marks[j].ID
		}
		inputs, at = append(inputs, in), append(at, i)
	}
	for from := 0; from < len(inputs); from += atOnce {
		part := inputs[from:min(len(inputs), from+atOnce)]
		if err := s.Marked.Write(ctx, c, part); err != nil {
			if e, ok := invalid.As(err); ok { // of the part it was in, to that of the bundle
				var i int
				if n, _ := fmt.Sscanf(e.Field, "marks[%d]", &i); n == 1 {
					return invalid.Field(fmt.Sprintf("marks[%d]%s", at[from+i], e.Field[strings.Index(e.Field, "]")+1:]), "%s", e.Message)
				}
			}
			return err
		}
		out.Marks += len(part)
	}
	return nil
}

// input is a mark of a bundle as it is recorded.
func (w worked) input(m contract.BundleMark) (in contract.MarkInput, err error) {
	play, ok := w.numbers[m.Play]
	if !ok {
		return in, invalid.Field("play", "the game has no play %d", m.Play)
	}
	player, ok := w.who(m.Player)
	if !ok {
		return in, invalid.Field("player", "nobody of the club, or more than one, is %s %s", m.Player.Number, m.Player.Name)
	}
	in = contract.MarkInput{ID: uuid.Must(uuid.NewV7()), PlayID: &play, PlayerID: player, TechniqueKey: &m.TechniqueKey, State: contract.MarkInputState(m.State), Assignment: m.Assignment, Technique: m.Technique, Finish: m.Finish, Grade: m.Grade,
		Measures: m.Measures, Praise: m.Praise, Note: m.Note, Result: m.Result, Tallies: m.Tallies}
	if m.Side != nil {
		in.Side = new(contract.MarkInputSide(*m.Side))
	}
	if m.Faults == nil {
		return in, nil
	}
	faults := []contract.MarkFaultInput{}
	for i, f := range *m.Faults {
		x := contract.MarkFaultInput{Key: f.Key, Penalty: f.Penalty}
		if f.CausedBy != nil {
			id, ok := w.who(*f.CausedBy)
			if !ok {
				return in, invalid.Field(fmt.Sprintf("faults[%d].caused_by", i), "nobody of the club, or more than one, is %s %s", f.CausedBy.Number, f.CausedBy.Name)
			}
			x.CausedBy = &id
		}
		faults = append(faults, x)
	}
	in.Faults = &faults
	return in, nil
}

func (s *Service) film(ctx context.Context, c access.Coach, w worked, b contract.Bundle, out *contract.BundleTaken) error {
	videos := map[string]uuid.UUID{}
	for _, v := range w.videos {
		videos[v.Digest] = v.ID
	}
	for i, v := range b.Videos {
		if _, there := videos[v.Digest]; there {
			out.Same++
			continue
		}
		id := uuid.Must(uuid.NewV7())
		if _, err := s.Film.PutFilm(ctx, c, id, 0, contract.FilmInput{Name: v.Name, View: v.View, Local: &contract.LocalFilm{GameID: &w.game.ID, MediaType: contract.LocalFilmMediaType(v.MediaType), Digest: v.Digest, Size: v.Size,
			Width: v.Width, Height: v.Height, FpsNum: v.FpsNum, FpsDen: v.FpsDen, Frames: v.Frames}}); err != nil {
			return invalid.Within(fmt.Sprintf("videos[%d]", i), err)
		}
		videos[v.Digest] = id
		out.Videos++
	}
	type of struct{ video, play uuid.UUID }
	clips := map[of]contract.Clip{}
	for _, x := range w.clips {
		if x.PlayID != nil {
			clips[of{x.FilmID, *x.PlayID}] = x
		}
	}
	find := func(at, video string, play int) (of, error) {
		v, ok := videos[video]
		if !ok {
			return of{}, invalid.Field(at+".video", "the bundle has no such video")
		}
		p, ok := w.numbers[play]
		if !ok {
			return of{}, invalid.Field(at+".play", "the game has no play %d", play)
		}
		return of{v, p}, nil
	}
	for i, x := range b.Clips {
		at := fmt.Sprintf("clips[%d]", i)
		k, err := find(at, x.Video, x.Play)
		if err != nil {
			return err
		}
		was, there := clips[k]
		if there && was.First == x.First && was.Last == x.Last && reflect.DeepEqual(was.Snap, x.Snap) {
			out.Same++
			continue
		}
		if !there {
			was.ID = uuid.Must(uuid.NewV7())
		}
		now, err := s.Film.PutClip(ctx, c, was.ID, was.Version, contract.ClipInput{FilmID: k.video, PlayID: &k.play, First: x.First, Last: x.Last, Snap: x.Snap})
		if err != nil {
			return invalid.Within(at, err)
		}
		clips[k] = now
		out.Clips++
	}
	for i, x := range b.Drawings {
		at := fmt.Sprintf("drawings[%d]", i)
		k, err := find(at, x.Video, x.Play)
		if err != nil {
			return err
		}
		clip, there := clips[k]
		if !there {
			return invalid.Field(at+".play", "play %d is not in that video", x.Play)
		}
		if slices.ContainsFunc(w.drawn, func(d contract.Drawing) bool {
			return d.ClipID == clip.ID && d.Frame == x.Frame && slices.Equal(d.Shapes, x.Shapes)
		}) {
			out.Same++
			continue
		}
		if _, err := s.Film.PutDrawing(ctx, c, clip.ID, uuid.Must(uuid.NewV7()), 0, contract.DrawingInput{Frame: x.Frame, Shapes: x.Shapes}); err != nil {
			return invalid.Within(at, err)
		}
		out.Drawings++
	}
	return nil
}
