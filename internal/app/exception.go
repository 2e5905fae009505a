package app

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// measureFor returns the standard a player is held to at a checkpoint, with the exception
// it is by when it is one of his own. A range that the house standard no longer allows
// falls back to it.
func (a Actor) measureFor(c teaching.Checkpoint, player uuid.UUID, exceptions []Exception) (teaching.Measure, *Exception) {
	if c.Measure == nil {
		return teaching.Measure{}, nil
	}
	for _, x := range exceptions {
		if x.PlayerID == player && x.CheckpointKey == c.Key {
			if m, err := c.Measure.Except(x.ranges()); err == nil {
				return m, &x
			}
		}
	}
	return *c.Measure, nil
}

func (x Exception) ranges() teaching.Exception {
	return teaching.Exception{OK: teaching.Band{Low: x.OkLow, High: x.OkHigh}, Watch: teaching.Band{Low: x.WatchLow, High: x.WatchHigh}}
}

// standardsOf lists what can be measured at a technique, as it holds for a player.
func (a Actor) standardsOf(t teaching.Technique, player uuid.UUID, exceptions []Exception) []contract.PlayerStandard {
	out := []contract.PlayerStandard{}
	for _, c := range t.Checkpoints {
		if c.Measure == nil {
			continue
		}
		m, x := a.measureFor(c, player, exceptions)
		v := contract.PlayerStandard{Checkpoint: c.Key, Name: c.Name, Technique: t.Key, TechniqueName: t.Name, Measure: measureView(m)}
		if x != nil {
			v.Own = &contract.OwnRange{Reason: x.Reason, By: x.ByName, On: season.Of(x.CreatedAt).String(), House: measureView(*c.Measure)}
		}
		out = append(out, v)
	}
	return out
}

// PutException gives a player his own range at a checkpoint.
func (s *Service) PutException(ctx context.Context, a Actor, player uuid.UUID, checkpoint string, x Exception) error {
	c, t, ok := a.lib().Checkpoint(checkpoint)
	if !ok {
		return ErrNotFound
	}
	if err := s.coachOf(ctx, a, player, t); err != nil {
		return err
	}
	if c.Measure == nil {
		return invalid.Field("checkpoint", "%s is judged by eye; only a measure has a range", c.Name)
	}
	if x.Reason = strings.TrimSpace(x.Reason); x.Reason == "" {
		return invalid.Field("reason", "say why he has a range of his own")
	}
	if _, err := c.Measure.Except(x.ranges()); err != nil {
		return rangeField(err)
	}
	x.ClubID, x.PlayerID, x.CheckpointKey, x.CreatedBy, x.CreatedAt = a.ClubID, player, checkpoint, ptr(a.UserID), s.Clock()
	return s.Store.PutException(ctx, x)
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

// WithdrawException lets the house standard hold for a player again.
func (s *Service) WithdrawException(ctx context.Context, a Actor, player uuid.UUID, checkpoint string) error {
	_, t, ok := a.House.Known.Checkpoint(checkpoint)
	if !ok {
		return ErrNotFound
	}
	if err := s.coachOf(ctx, a, player, t); err != nil {
		return err
	}
	return s.Store.WithdrawException(ctx, a.ClubID, player, checkpoint, s.Clock())
}
