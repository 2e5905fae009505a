package footage

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gocloud.dev/blob"

	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/footage/onfilm"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
)

// Film is a video as it is kept.
type Film struct {
	ID             uuid.UUID
	Digest         string // SHA-256 of what it holds, in hexadecimal digits
	Name           string
	MediaType      string
	Size           int64
	Width, Height  int
	FPSNum, FPSDen int // frames a second, as a fraction
	Frames         int
	CreatedAt      time.Time

	GameID, PlacementID *uuid.UUID // what it is of
	View                string     // which camera
	Local               bool       // it stays on a coach's machine; Digest is by what it is recognised there
	Version             int
	By                  *uuid.UUID // who brought it

	Work                     string // how far the one that steps quickly is
	WorkDone                 int    // in per cent
	ProxyDigest, StripDigest *string
	ProxySize                int64
}

// How far work on a video is.
const (
	WorkNone   = "none" // nothing is made of it: it is local, or there is nothing here that makes it
	WorkWaits  = "waits"
	WorkRuns   = "runs"
	WorkDone   = "done"
	WorkFailed = "failed"
)

// Clip is where in a video a play is, or a player's rep of a drill.
type Clip struct {
	ID, FilmID  uuid.UUID
	View        string
	PlayID      *uuid.UUID
	PlacementID *uuid.UUID
	PlayerID    *uuid.UUID
	Rep         *int
	First, Last int // frames, both of it
	Snap        *int
	Version     int
}

// Place is where somebody is in a film.
type Place struct {
	ClipID uuid.UUID
	Frame  int
}

// OnFilm counts what is on film of a game, or of a placed drill.
type OnFilm struct {
	GameID      *uuid.UUID
	PlacementID *uuid.UUID
	PracticeID  *uuid.UUID
	DrillKey    string
	Period      string // a team period, by name; empty for a game
	On          time.Time
	Count       int
}

// Shown is what is on film of a game or a drill.
type Shown struct {
	Films    []Film
	Clips    []Clip
	Drawings []Drawing
}

// Store keeps the footage of the context's club.
type Store interface {
	// Season counts what is on film of a season: plays by game, and a group's reps by placed drill; the last first.
	Season(ctx context.Context, season uuid.UUID, group string) ([]OnFilm, error)
	// OfGame lists what is on film of a game, by play and view.
	OfGame(ctx context.Context, game uuid.UUID) (Shown, error)
	// OfDrill lists what is on film of a placed drill, by player and rep.
	OfDrill(ctx context.Context, placement uuid.UUID) (Shown, error)
	// Plays lists the plays of a game that are on film.
	Plays(ctx context.Context, game uuid.UUID) ([]uuid.UUID, error)
	// Clip reads one.
	Clip(ctx context.Context, id uuid.UUID) (c Clip, found bool, err error)
	// Drawing reads one and holds it until the transaction ends.
	Drawing(ctx context.Context, id uuid.UUID) (d Drawing, found bool, err error)
	// PutDrawing writes one, new when its version is 0, and raises its version. An id that stands
	// elsewhere is problem.ErrTaken.
	PutDrawing(ctx context.Context, d Drawing, at time.Time) error
	// DeleteDrawing takes one out.
	DeleteDrawing(ctx context.Context, id uuid.UUID) error
	// Film reads one.
	Film(ctx context.Context, id uuid.UUID) (f Film, found bool, err error)
	// Watching is where a person was; false when he was not there yet.
	Watching(ctx context.Context, person, subject uuid.UUID) (p Place, found bool, err error)
	// Watch keeps where a person is. A clip that is not there is problem.ErrNotFound.
	Watch(ctx context.Context, person, subject uuid.UUID, p Place, at time.Time) error
}

// Service runs the use cases.
type Service struct {
	Store   Store
	Films   Films
	Uploads Uploads
	Houses  house.Source
	Reels   reel.Source
	Files   *blob.Bucket
	Jobs    Putter
	Limits  Limits
	Now     func() time.Time
	Log     *slog.Logger
}

// Limits of what is kept, in bytes.
type Limits struct {
	One  int64 // of one video
	Club int64 // of all of a club's, unless it has a limit of its own
}

// DefaultLimits hold unless others are set: a game of four hours, and a season of games from two cameras.
var DefaultLimits = Limits{One: 16e9, Club: 200e9}

// Putter writes jobs in the context's transaction.
type Putter interface {
	Put(ctx context.Context, job river.JobArgs) error
}

// Season returns what is on film of the season.
func (s *Service) Season(ctx context.Context, c access.Coach, group string) (contract.OnFilm, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.OnFilm{}, err
	}
	list, err := s.Store.Season(ctx, c.Season.ID, group)
	out := contract.OnFilm{Games: []contract.GameOnFilm{}, Drills: []contract.DrillOnFilm{}, Periods: []contract.PeriodOnFilm{}}
	for _, x := range list {
		if x.Period != "" {
			out.Periods = append(out.Periods, contract.PeriodOnFilm{GameID: *x.GameID, Title: x.Period, Date: season.Of(x.On).String(), Plays: x.Count})
			continue
		}
		if x.GameID != nil {
			out.Games = append(out.Games, contract.GameOnFilm{GameID: *x.GameID, Plays: x.Count})
			continue
		}
		name := x.DrillKey
		if d, ok := h.Known.Drill(x.DrillKey); ok {
			name = d.Name
		}
		out.Drills = append(out.Drills, contract.DrillOnFilm{PlacementID: *x.PlacementID, PracticeID: *x.PracticeID, Date: season.Of(x.On).String(), Drill: name, Reps: x.Count})
	}
	return out, err
}

var _ onfilm.Source = (*Service)(nil)

// Plays lists the plays of a game that are on film.
func (s *Service) Plays(ctx context.Context, game uuid.UUID) ([]uuid.UUID, error) {
	return s.Store.Plays(ctx, game)
}

// Game returns what is on film of a game.
func (s *Service) Game(ctx context.Context, c access.Coach, id uuid.UUID) (contract.Footage, error) {
	shown, err := s.Store.OfGame(ctx, id)
	return view(shown, c), err
}

// Drill returns what is on film of a placed drill.
func (s *Service) Drill(ctx context.Context, c access.Coach, id uuid.UUID) (contract.Footage, error) {
	shown, err := s.Store.OfDrill(ctx, id)
	return view(shown, c), err
}

func view(shown Shown, c access.Coach) contract.Footage {
	out := contract.Footage{Films: []contract.Film{}, Clips: []contract.Clip{}, Drawings: []contract.Drawing{}}
	for _, f := range shown.Films {
		out.Films = append(out.Films, f.view(c))
	}
	for _, x := range shown.Clips {
		out.Clips = append(out.Clips, x.view())
	}
	for _, d := range shown.Drawings {
		out.Drawings = append(out.Drawings, d.view())
	}
	return out
}

// Watch keeps where somebody is, where he says it, and returns where he was last.
func (s *Service) Watch(ctx context.Context, c access.Coach, subject uuid.UUID, in contract.Watching) (contract.Watching, error) {
	if in.Place != nil {
		return in, s.Store.Watch(ctx, c.ID, subject, Place{in.Place.ClipID, in.Place.Frame}, s.Now())
	}
	p, found, err := s.Store.Watching(ctx, c.ID, subject)
	if err != nil || !found {
		return contract.Watching{}, err
	}
	return contract.Watching{Place: &contract.Place{ClipID: p.ClipID, Frame: p.Frame}}, nil
}

// Content is what a video holds, to be read from anywhere in it.
type Content struct {
	Film
	io.ReadSeekCloser
}

// Content opens a video. It is read after the transaction, so it does not end with its context.
func (s *Service) Content(ctx context.Context, id uuid.UUID) (Content, error) {
	f, found, err := s.Store.Film(ctx, id)
	if err != nil {
		return Content{}, err
	}
	if !found {
		return Content{}, problem.ErrNotFound
	}
	if f.Local {
		return Content{}, problem.ErrNotFound // it is on a coach's own machine
	}
	if f.ProxyDigest != nil {
		f.Digest, f.MediaType = *f.ProxyDigest, proxyType
	}
	r, err := s.Files.NewReader(context.WithoutCancel(ctx), Key(pg.Club(ctx), f.Digest), nil)
	if err != nil {
		return Content{}, fmt.Errorf("film %s: %w", id, err)
	}
	return Content{f, r}, nil
}

// Key is where in the film store a club's video lies.
func Key(club uuid.UUID, digest string) string { return club.String() + "/" + digest }
