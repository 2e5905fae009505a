package changes

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

// Change is what somebody changed, and what he was answered.
type Change struct {
	ID        uuid.UUID // made by the client
	Person    uuid.UUID
	Device    *uuid.UUID
	Operation string    // of the contract
	Record    string    // the address that was changed, below /api/v1
	Version   *int      // of the record, on which it was made; nil: the operation has none
	Digest    []byte    // of what was sent
	MadeAt    time.Time // by the person, by the server's clock
	At        time.Time // taken in
	Status    int
	Answer    json.RawMessage // nil: it had no body, or it was too long ago
}

// Event tells that something was changed, or where somebody is.
type Event struct {
	Number    int64      `json:"number"`
	ID        uuid.UUID  `json:"id"`
	Person    uuid.UUID  `json:"person"`
	Device    *uuid.UUID `json:"device,omitempty"`
	Operation string     `json:"operation"`
	Record    string     `json:"record"`
	Here      *Here      `json:"here,omitempty" db:"-"` // not a change: where somebody is
}

// channel is what the database notifies on; a notice is the club's id and an Event.
const channel = "nineyard_changes"

// Answers are kept so long that a device which was offline that long can ask again; every
// sweepEvery changes of a club those that are older are dropped.
const (
	KeepAnswers = 60 * 24 * time.Hour
	sweepEvery  = 500
)

// Find reads a change of the context's club.
func Find(ctx context.Context, id uuid.UUID) (c Change, found bool, err error) {
	return pg.One[Change](ctx, `
		SELECT id, person, device, operation, record, version, digest, made_at, at, status, answer
		FROM changes WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
}

// Append adds a change of the context's club to the log and tells who listens, once the
// transaction is kept. It returns the change's number. Until then no other change of the
// club gets one: call it last.
func Append(ctx context.Context, c Change) (int64, error) {
	event, err := json.Marshal(Event{ID: c.ID, Person: c.Person, Device: c.Device, Operation: c.Operation, Record: c.Record})
	if err != nil {
		return 0, err
	}
	type row struct {
		Number int64
		Told   string
	}
	r, _, err := pg.One[row](ctx, `
		WITH clock AS (
			INSERT INTO club_clocks (club_id, last) VALUES (@club, 1)
			ON CONFLICT (club_id) DO UPDATE SET last = club_clocks.last + 1 RETURNING last
		), added AS (
			INSERT INTO changes (club_id, number, id, person, device, operation, record, version, digest, made_at, at, status, answer)
			SELECT @club, last, @id, @person, @device, @operation, @record, @version, @digest, @made, @at, @status, @answer FROM clock RETURNING number
		)
		SELECT number, pg_notify(@channel, @club::text || ' ' || (@event::jsonb || jsonb_build_object('number', number))::text)::text AS told FROM added`,
		pg.Args{"id": c.ID, "person": c.Person, "device": c.Device, "operation": c.Operation, "record": c.Record, "version": c.Version,
			"digest": c.Digest, "made": c.MadeAt, "at": c.At, "status": c.Status, "answer": nullable(c.Answer), "event": string(event), "channel": channel})
	if err != nil || r.Number%sweepEvery != 0 {
		return r.Number, err
	}
	_, err = pg.Exec(ctx, `UPDATE changes SET answer = NULL WHERE club_id = @club AND answer IS NOT NULL AND at < @old`, pg.Args{"old": c.At.Add(-KeepAnswers)})
	return r.Number, err
}

func nullable(text json.RawMessage) *string {
	if len(text) == 0 {
		return nil
	}
	s := string(text)
	return &s
}

// After lists the changes of the context's club after a number, oldest first, at most limit.
func After(ctx context.Context, number int64, limit int) ([]Event, error) {
	return pg.Select[Event](ctx, `
		SELECT number, id, person, device, operation, record FROM changes
		WHERE club_id = @club AND number > @after ORDER BY number LIMIT @limit`, pg.Args{"after": number, "limit": limit})
}

// Latest is the number of the club's latest change; 0 before the first.
func Latest(ctx context.Context) (int64, error) {
	type row struct{ Last int64 }
	r, _, err := pg.One[row](ctx, `SELECT last FROM club_clocks WHERE club_id = @club`, pg.Args{})
	return r.Last, err
}
