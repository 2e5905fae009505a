package footage

import (
	"context"
	"reflect"

	"github.com/google/uuid"

	"nineyard/core/clip"
	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// PutClip says where in a video a play is, or a player's rep. It returns a *problem.Stale when it was changed
// since the version given, or is not there any longer.
func (s *Service) PutClip(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.ClipInput) (contract.Clip, error) {
	film, found, err := s.Store.Film(ctx, in.FilmID)
	if err != nil {
		return contract.Clip{}, err
	}
	if !found {
		return contract.Clip{}, invalid.Field("film_id", "there is no such video in this club")
	}
	was, there, err := s.Films.HeldClip(ctx, id)
	next := Clip{ID: id, FilmID: film.ID, View: film.View, PlayID: in.PlayID, PlacementID: in.PlacementID, PlayerID: in.PlayerID, Rep: in.Rep, First: in.First, Last: in.Last, Snap: in.Snap, Version: was.Version}
	switch {
	case err != nil:
		return contract.Clip{}, err
	case !c.Works():
		return contract.Clip{}, problem.ErrForbidden
	case there && was.FilmID != film.ID:
		return contract.Clip{}, problem.ErrTaken
	case there && reflect.DeepEqual(was, next): // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		was.ID, was.FilmID, was.View = id, film.ID, film.View // where it is not there any longer
		return contract.Clip{}, &problem.Stale{What: "clip", Current: was.view()}
	}
	if err := s.of(ctx, film, in); err != nil {
		return contract.Clip{}, err
	}
	if err := (clip.Clip{First: in.First, Last: in.Last, Snap: in.Snap}).Check(film.Frames, clip.Rate{Num: film.FPSNum, Den: film.FPSDen}); err != nil {
		return contract.Clip{}, err
	}
	if err := s.Films.PutClip(ctx, next, c.ID); err != nil {
		return contract.Clip{}, err
	}
	now, _, err := s.Films.HeldClip(ctx, id)
	return now.view(), err
}

// of checks what a clip is of: a play of the video's game, or a player's rep of its drill.
func (s *Service) of(ctx context.Context, film Film, in contract.ClipInput) error {
	switch {
	case in.PlayID != nil && in.PlacementID == nil && in.PlayerID == nil && in.Rep == nil:
		plays, err := s.Reels.Plays(ctx, []uuid.UUID{*in.PlayID})
		if err == nil && (len(plays) == 0 || film.GameID == nil || plays[0].GameID != *film.GameID) {
			err = invalid.Field("play_id", "the game of the video has no such play")
		}
		return err
	case in.PlayID == nil && in.PlacementID != nil && in.PlayerID != nil && in.Rep != nil:
		if film.PlacementID == nil || *film.PlacementID != *in.PlacementID {
			return invalid.Field("placement_id", "the video is of another drill")
		}
		return nil
	}
	return invalid.Field("play_id", "a clip is of a play (play_id), or of a player's rep (placement_id, player_id and rep)")
}

// DeleteClip takes a clip out, with what is drawn on it. Marks of the play stay.
func (s *Service) DeleteClip(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Films.HeldClip(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case !c.Works():
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "clip", Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Films.DeleteClip(ctx, id)
}
