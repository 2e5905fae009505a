package changes

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

// Here tells where somebody of the club is. Nothing is kept of it: it is passed on to those who
// follow the club, and they forget it when it is not said again.
type Here struct {
	Person uuid.UUID `json:"person"`
	Name   string    `json:"name"`
	Device uuid.UUID `json:"device"`
	Where  string    `json:"where"` // such as practice/ID; empty: he has left
	What   string    `json:"what"`  // what he has before him there; may be empty
}

// Tell passes it on to whoever follows the context's club.
func Tell(ctx context.Context, h Here) error {
	event, err := json.Marshal(Event{Here: &h})
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `SELECT pg_notify(@channel, @club::text || ' ' || @event::text)`, pg.Args{"channel": channel, "event": string(event)})
	return err
}
