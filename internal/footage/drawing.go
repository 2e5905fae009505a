package footage

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Drawing is what somebody drew on a frame of a clip.
type Drawing struct {
	ID, ClipID uuid.UUID
	Frame      int
	Shapes     []contract.Shape
	Version    int
	By         uuid.UUID // who drew it first
	ByName     string
}

func (d Drawing) view() contract.Drawing {
	return contract.Drawing{ID: d.ID, ClipID: d.ClipID, Frame: d.Frame, Shapes: append([]contract.Shape{}, d.Shapes...), Version: d.Version, By: d.By, ByName: d.ByName}
}

// mayChange says whether somebody may change a drawing: whoever drew it, and the head coach.
func (d Drawing) mayChange(c access.Coach) bool { return d.By == c.ID || c.IsHead() }

// PutDrawing writes what is drawn on a frame. It returns a *problem.Stale when it was changed since the
// version given, or is not there any longer.
func (s *Service) PutDrawing(ctx context.Context, c access.Coach, clip, id uuid.UUID, version int, in contract.DrawingInput) (contract.Drawing, error) {
	of, found, err := s.Store.Clip(ctx, clip)
	if err != nil {
		return contract.Drawing{}, err
	}
	if !found {
		return contract.Drawing{}, problem.ErrNotFound
	}
	was, there, err := s.Store.Drawing(ctx, id)
	next := Drawing{ID: id, ClipID: clip, Frame: in.Frame, Shapes: in.Shapes, Version: was.Version, By: c.ID}
	switch {
	case err != nil:
		return contract.Drawing{}, err
	case there && was.ClipID != clip:
		return contract.Drawing{}, problem.ErrTaken
	case !c.Works(), there && !was.mayChange(c):
		return contract.Drawing{}, problem.ErrForbidden
	case there && was.Frame == next.Frame && slices.Equal(was.Shapes, next.Shapes): // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		was.ID, was.ClipID = id, clip // where it is not there any longer
		return contract.Drawing{}, &problem.Stale{What: "drawing", By: was.ByName, Current: was.view()}
	case in.Frame < of.First || in.Frame > of.Last:
		return contract.Drawing{}, invalid.Field("frame", "the clip has the frames %d to %d, not %d", of.First, of.Last, in.Frame)
	}
	if err := s.Store.PutDrawing(ctx, next, s.Now()); err != nil {
		return contract.Drawing{}, err
	}
	now, _, err := s.Store.Drawing(ctx, id)
	return now.view(), err
}

// DeleteDrawing rubs a drawing out.
func (s *Service) DeleteDrawing(ctx context.Context, c access.Coach, clip, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Store.Drawing(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case was.ClipID != clip:
		return contract.Gone{}, problem.ErrNotFound
	case !was.mayChange(c):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "drawing", By: was.ByName, Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Store.DeleteDrawing(ctx, id)
}
