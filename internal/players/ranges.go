package players

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/standard"
	"nineyard/internal/access"
	"nineyard/internal/platform/problem"
)

// PutRange gives a player his own range at a checkpoint.
func (s *Service) PutRange(ctx context.Context, c access.Coach, player uuid.UUID, checkpoint string, id uuid.UUID, own standard.OwnRange, reason string) error {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return err
	}
	point, t, ok := h.Library.Checkpoint(checkpoint)
	if !ok {
		return problem.ErrNotFound
	}
	if _, err := s.coaches(ctx, c, player, t); err != nil {
		return err
	}
	if point.Measure == nil {
		return invalid.Field("checkpoint", "%s is judged by eye; only a measure has a range", point.Name)
	}
	if reason = strings.TrimSpace(reason); reason == "" {
		return invalid.Field("reason", "say why he has a range of his own")
	}
	if _, err := point.Measure.For(own); err != nil {
		return rangeField(err)
	}
	return s.Store.PutRange(ctx, NewRange{ID: id, PlayerID: player, Checkpoint: checkpoint, Own: own, Reason: reason, By: c.ID, At: s.Now()})
}

// rangeField names the field of the request that a rule of the core refused.
func rangeField(err error) error {
	e, ok := invalid.As(err)
	if !ok {
		return err
	}
	field, known := map[string]string{"ok": "ok_low", "watch": "watch_low", "min": "watch_low", "max": "watch_high", "target": "ok_low"}[e.Field]
	if !known {
		return err
	}
	return invalid.Field(field, "%s", e.Message)
}

// WithdrawRange lets the house standard hold for a player again.
func (s *Service) WithdrawRange(ctx context.Context, c access.Coach, player uuid.UUID, checkpoint string) error {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return err
	}
	_, t, ok := h.Known.Checkpoint(checkpoint)
	if !ok {
		return problem.ErrNotFound
	}
	if _, err := s.coaches(ctx, c, player, t); err != nil {
		return err
	}
	found, err := s.Store.WithdrawRange(ctx, player, checkpoint, s.Now())
	if err == nil && !found {
		return problem.ErrNotFound
	}
	return err
}
