package footage

import (
	"context"
	"fmt"
	"io"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// Films keeps what is known of videos and what is marked in them.
type Films interface {
	// Videos lists those of a game or of a placed drill by name, with all that is marked in them.
	Videos(ctx context.Context, game, placement *uuid.UUID) ([]Film, []Clip, error)
	// Held reads a video and holds it until the transaction ends.
	Held(ctx context.Context, id uuid.UUID) (f Film, found bool, err error)
	// PutFilm writes one, new when its version is 0, and raises its version.
	PutFilm(ctx context.Context, f Film) error
	// DeleteFilm takes one out with its clips.
	DeleteFilm(ctx context.Context, id uuid.UUID) error
	// HeldClip reads a clip and holds it until the transaction ends.
	HeldClip(ctx context.Context, id uuid.UUID) (c Clip, found bool, err error)
	// PutClip writes one, new when its version is 0, and raises its version.
	PutClip(ctx context.Context, c Clip, by uuid.UUID) error
	// DeleteClip takes one out.
	DeleteClip(ctx context.Context, id uuid.UUID) error
	// Kept is how many bytes of video the club keeps, and how many it may; 0 where it has no limit of its own.
	Kept(ctx context.Context) (bytes, limit int64, err error)
	// Holds reports whether a video of the club has this content, or something made of it has.
	Holds(ctx context.Context, digest string) (bool, error)
}

// Videos returns the videos of a game or of a placed drill.
func (s *Service) Videos(ctx context.Context, c access.Coach, game, placement *uuid.UUID) (contract.Videos, error) {
	if (game == nil) == (placement == nil) {
		return contract.Videos{}, invalid.Field("game", "say a game or a placed drill, and not both")
	}
	out := contract.Videos{Videos: []contract.Film{}, Clips: []contract.Clip{}, Editable: c.Works(), Largest: s.Limits.One}
	films, clips, err := s.Films.Videos(ctx, game, placement)
	if err != nil {
		return out, err
	}
	for _, f := range films {
		out.Videos = append(out.Videos, f.view(c))
	}
	for _, x := range clips {
		out.Clips = append(out.Clips, x.view())
	}
	out.Used, out.Limit, err = s.kept(ctx)
	return out, err
}

// kept is what the club keeps and what it may.
func (s *Service) kept(ctx context.Context) (used, limit int64, err error) {
	used, limit, err = s.Films.Kept(ctx)
	if limit == 0 {
		limit = s.Limits.Club
	}
	return used, limit, err
}

// mayTake says whether somebody may take a video out: whoever brought it, and the head coach.
func (f Film) mayTake(c access.Coach) bool { return c.IsHead() || f.By != nil && *f.By == c.ID }

func (f Film) view(c access.Coach) contract.Film {
	v := contract.Film{ID: f.ID, Name: f.Name, MediaType: f.MediaType, Size: f.Size, Width: f.Width, Height: f.Height, FpsNum: f.FPSNum, FpsDen: f.FPSDen, Frames: f.Frames,
		Digest: f.Digest, View: f.View, GameID: f.GameID, PlacementID: f.PlacementID, Local: f.Local, Version: f.Version, Work: contract.FilmWork(f.Work), WorkDone: f.WorkDone,
		Fast: f.ProxyDigest != nil, Strip: f.StripDigest != nil, Mine: f.mayTake(c)}
	if v.Fast {
		v.MediaType, v.Size = proxyType, f.ProxySize
	}
	return v
}

func (c Clip) view() contract.Clip {
	return contract.Clip{ID: c.ID, FilmID: c.FilmID, View: c.View, PlayID: c.PlayID, PlacementID: c.PlacementID, PlayerID: c.PlayerID, Rep: c.Rep, First: c.First, Last: c.Last, Snap: c.Snap, Version: c.Version}
}

// PutFilm makes a video known that stays where it is, or changes what one is called and which camera it is of.
func (s *Service) PutFilm(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.FilmInput) (contract.Film, error) {
	was, there, err := s.Films.Held(ctx, id)
	next := was
	next.Name, next.View = in.Name, in.View
	switch {
	case err != nil:
		return contract.Film{}, err
	case !c.Works():
		return contract.Film{}, problem.ErrForbidden
	case there && in.Local != nil && !was.Local:
		return contract.Film{}, problem.ErrTaken
	case there && was.Name == next.Name && was.View == next.View: // sent again after a lost answer
		return was.view(c), nil
	case version != was.Version:
		was.ID = id
		return contract.Film{}, &problem.Stale{What: "video", Current: was.view(c)}
	case !there && in.Local == nil:
		return contract.Film{}, invalid.Field("local", "a video comes by being sent, or stays where it is")
	}
	if !there {
		x := in.Local
		if (x.GameID == nil) == (x.PlacementID == nil) {
			return contract.Film{}, invalid.Field("local.game_id", "a video is of a game or of a placed drill")
		}
		next = Film{ID: id, Name: in.Name, View: in.View, Local: true, GameID: x.GameID, PlacementID: x.PlacementID, Digest: x.Digest, MediaType: string(x.MediaType), Size: x.Size,
			Width: x.Width, Height: x.Height, FPSNum: x.FpsNum, FPSDen: x.FpsDen, Frames: x.Frames, Work: WorkNone, By: &c.ID}
	}
	if err := s.Films.PutFilm(ctx, next); err != nil {
		return contract.Film{}, err
	}
	now, _, err := s.Films.Held(ctx, id)
	return now.view(c), err
}

// DeleteFilm takes a video out. What it holds goes once nothing else of the club's holds the same.
func (s *Service) DeleteFilm(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Films.Held(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case !was.mayTake(c):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "video", Current: was.view(c)}
	}
	if err := s.Films.DeleteFilm(ctx, id); err != nil {
		return contract.Gone{}, err
	}
	for _, digest := range []*string{&was.Digest, was.ProxyDigest, was.StripDigest} {
		if digest != nil && !(was.Local && digest == &was.Digest) {
			if err := s.Jobs.Put(ctx, Sweep{Club: pg.Club(ctx), Digest: *digest}); err != nil {
				return contract.Gone{}, err
			}
		}
	}
	return contract.Gone{ID: id}, nil
}

// Strip opens the small pictures of a video.
func (s *Service) Strip(ctx context.Context, id uuid.UUID) (io.ReadCloser, error) {
	f, found, err := s.Store.Film(ctx, id)
	if err != nil {
		return nil, err
	}
	if !found || f.StripDigest == nil {
		return nil, problem.ErrNotFound
	}
	r, err := s.Files.NewReader(context.WithoutCancel(ctx), Key(pg.Club(ctx), *f.StripDigest), nil)
	if err != nil {
		return nil, fmt.Errorf("strip of film %s: %w", id, err)
	}
	return r, nil
}
