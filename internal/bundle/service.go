// Package bundle is a game's film work as one file: plays, marks, where plays are in videos, and drawings, without
// the videos. It writes as the screens do: what they refuse it refuses.
package bundle

import (
	"cmp"
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/film/reel"
	"nineyard/internal/footage/onfilm"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// Service runs the use cases.
type Service struct {
	Squad  squad.Source
	Reels  reel.Source
	Plays  reel.Writer
	Marks  record.Games
	Marked record.Writer
	Film   onfilm.Writer
}

// form names what a bundle is written in.
const form = contract.NineyardFilm1

// worked is a game with all that was worked out on its film.
type worked struct {
	game    reel.Game
	plays   map[uuid.UUID]reel.Play
	numbers map[int]uuid.UUID
	players map[uuid.UUID]squad.Player
	marks   []record.Detail // that stand, each once
	videos  []contract.Film
	clips   []contract.Clip
	drawn   []contract.Drawing
}

func (s *Service) worked(ctx context.Context, c access.Coach, game uuid.UUID) (w worked, err error) {
	var found bool
	w.game, found, err = s.Reels.Game(ctx, game)
	if err = problem.Found(found, err); err != nil {
		return w, err
	}
	w.plays, w.numbers = map[uuid.UUID]reel.Play{}, map[int]uuid.UUID{}
	for _, p := range w.game.Plays {
		w.plays[p.ID], w.numbers[p.Number] = p, p.ID
	}
	all, err := s.Squad.All(ctx, w.game.On)
	if err != nil {
		return w, err
	}
	w.players = squad.ByID(all)
	seen := map[uuid.UUID]bool{}
	for _, g := range c.Club.Groups {
		list, err := s.Marks.Game(ctx, game, g.Key)
		if err != nil {
			return w, err
		}
		for _, m := range list {
			if m.PlayID != nil && m.State != marks.Withdrawn && !seen[m.ID] { // who is in two groups is read twice
				seen[m.ID] = true
				w.marks = append(w.marks, m)
			}
		}
	}
	videos, err := s.Film.Videos(ctx, c, &game, nil)
	if err != nil {
		return w, err
	}
	w.videos, w.clips = videos.Videos, videos.Clips
	footage, err := s.Film.Game(ctx, c, game)
	w.drawn = footage.Drawings
	return w, err
}

func (w worked) name(id uuid.UUID) contract.BundlePlayer {
	p := w.players[id]
	return contract.BundlePlayer{Number: p.Jersey, Name: p.LastName}
}

// Export returns all that was worked out on the film of a game, in an order of its own: the same work is the same
// bundle.
func (s *Service) Export(ctx context.Context, c access.Coach, game uuid.UUID) (contract.Bundle, error) {
	w, err := s.worked(ctx, c, game)
	if err != nil {
		return contract.Bundle{}, err
	}
	out := contract.Bundle{Form: form, Game: contract.BundleGame{Date: w.game.On.String(), Opponent: w.game.Opponent, Home: w.game.Home}, Plays: []contract.PlayInput{}, Marks: []contract.BundleMark{},
		Videos: []contract.BundleVideo{}, Clips: []contract.BundleClip{}, Drawings: []contract.BundleDrawing{}}
	for _, p := range w.game.Plays {
		out.Plays = append(out.Plays, labels.View(p.Play))
	}
	for _, m := range w.marks {
		out.Marks = append(out.Marks, w.mark(m))
	}
	slices.SortStableFunc(out.Marks, func(a, b contract.BundleMark) int {
		return cmp.Or(a.Play-b.Play, cmp.Compare(a.Player.Number, b.Player.Number), cmp.Compare(a.Player.Name, b.Player.Name), cmp.Compare(a.TechniqueKey, b.TechniqueKey))
	})
	digest := map[uuid.UUID]string{}
	for _, v := range w.videos {
		digest[v.ID] = v.Digest
		out.Videos = append(out.Videos, contract.BundleVideo{Digest: v.Digest, Name: v.Name, View: v.View, MediaType: v.MediaType, Size: v.Size, Width: v.Width, Height: v.Height, FpsNum: v.FpsNum, FpsDen: v.FpsDen, Frames: v.Frames})
	}
	slices.SortStableFunc(out.Videos, func(a, b contract.BundleVideo) int {
		return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.Digest, b.Digest))
	})
	clips := map[uuid.UUID]contract.Clip{}
	for _, x := range w.clips {
		if x.PlayID == nil {
			continue
		}
		clips[x.ID] = x
		out.Clips = append(out.Clips, contract.BundleClip{Video: digest[x.FilmID], Play: w.plays[*x.PlayID].Number, First: x.First, Last: x.Last, Snap: x.Snap})
	}
	slices.SortStableFunc(out.Clips, func(a, b contract.BundleClip) int {
		return cmp.Or(cmp.Compare(a.Video, b.Video), a.Play-b.Play, a.First-b.First)
	})
	for _, d := range w.drawn {
		if x, ok := clips[d.ClipID]; ok {
			out.Drawings = append(out.Drawings, contract.BundleDrawing{Video: digest[x.FilmID], Play: w.plays[*x.PlayID].Number, Frame: d.Frame, Shapes: d.Shapes})
		}
	}
	slices.SortStableFunc(out.Drawings, func(a, b contract.BundleDrawing) int {
		return cmp.Or(cmp.Compare(a.Video, b.Video), a.Play-b.Play, a.Frame-b.Frame)
	})
	return out, nil
}

// mark is a mark by names.
func (w worked) mark(m record.Detail) contract.BundleMark {
	v := contract.BundleMark{Play: w.plays[*m.PlayID].Number, Player: w.name(m.PlayerID), TechniqueKey: m.TechniqueKey, State: contract.BundleMarkState(m.State), Result: m.Result}
	if m.State == marks.Looked {
		v.Assignment, v.Technique, v.Finish = m.Assignment, m.Technique, m.Finish
		if m.Grade != nil {
			v.Grade = &m.Grade.Value
		}
	}
	if m.Praise {
		v.Praise = &m.Praise
	}
	if m.Note != "" {
		v.Note = &m.Note
	}
	if m.Side != nil {
		v.Side = new(contract.BundleMarkSide(*m.Side))
	}
	var faults []contract.BundleFault
	for _, f := range m.Faults {
		x := contract.BundleFault{Key: f.Key}
		if id, err := uuid.Parse(f.CausedBy); err == nil {
			x.CausedBy = new(w.name(id))
		}
		if f.Penalty {
			x.Penalty = &f.Penalty
		}
		faults = append(faults, x)
	}
	if len(faults) > 0 {
		v.Faults = &faults
	}
	var measures []contract.MeasureInput
	for _, x := range m.Measures {
		measures = append(measures, contract.MeasureInput{Checkpoint: x.Checkpoint, Value: x.Value})
	}
	if len(measures) > 0 {
		v.Measures = &measures
	}
	v.Tallies = record.TallyViews(m.Tallies)
	return v
}
