package httpd

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
)

// Limits of a stream.
const (
	beat      = 15 * time.Second // between signs of life; who asks is read anew with each
	writeBy   = 10 * time.Second // a reader who takes longer to take an event is let go
	replayed  = 500              // changes that are told to one who comes back; more are read anew
	retrySoon = 500              // ms after which a browser comes back
)

// stream tells a browser what is changed in its club, as server-sent events:
//
//	event: change   what was changed (changes.Event); its id is the change's number
//	event: here     where somebody is (changes.Here)
//	event: anew     something may have been missed: read anew
//	event: ended    the session has ended
//
// It begins after the number of Last-Event-ID, else of the query's "after", else now.
type stream struct {
	db       *pg.DB
	hub      *changes.Hub
	sessions *Sessions
	identify identify
	beat     time.Duration
}

// ServeHTTP streams until the browser goes, the session ends or the server stops.
func (s stream) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	p, found, err := s.who(ctx)
	switch {
	case err != nil:
		write(w, noDatabase, nil)
		return
	case !found:
		write(w, unauthorized, nil)
		return
	case p.FactorDue:
		write(w, factorDue, nil)
		return
	}
	after, known := lastSeen(r)
	follower, leave := s.hub.Follow(p.Club)
	defer leave()

	h := w.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	h.Set("X-Accel-Buffering", "no") // a proxy in front must not wait for more
	out := &events{http.NewResponseController(w), w}
	if out.say("retry: %d\n\n", retrySoon) != nil {
		return
	}
	if after, err = s.catchUp(ctx, p, out, after, known); err != nil {
		return
	}
	ticker := time.NewTicker(s.beat)
	defer ticker.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-follower.Lost:
			after, err = s.anew(ctx, p, out)
		case e, open := <-follower.Events:
			if !open {
				return // the server stops; the browser comes back to another
			}
			if e.Here != nil {
				err = out.here(*e.Here)
				break
			}
			if e.Number > after { // else it was told when it began
				after, err = e.Number, out.change(e)
			}
		case <-ticker.C:
			err = s.still(ctx, p, out)
		}
		if err != nil {
			return
		}
	}
}

// lastSeen is the number of the change that a browser saw last.
func lastSeen(r *http.Request) (number int64, known bool) {
	text := r.Header.Get("Last-Event-ID")
	if text == "" {
		text = r.URL.Query().Get("after")
	}
	n, err := strconv.ParseInt(text, 10, 64)
	return n, err == nil && n >= 0
}

// catchUp tells what was changed since a browser looked last, and returns where it stands.
func (s stream) catchUp(ctx context.Context, p Passed, out *events, after int64, known bool) (int64, error) {
	var latest int64
	var missed []changes.Event
	err := s.db.InClub(ctx, p.Club, func(ctx context.Context) (err error) {
		if latest, err = changes.Latest(ctx); err == nil && known && after < latest {
			missed, err = changes.After(ctx, after, replayed+1)
		}
		return err
	})
	switch {
	case err != nil:
		return 0, err
	case !known:
		return latest, out.at(latest)
	case len(missed) > replayed || after > latest: // too many, or of another database
		return latest, out.anew(latest)
	}
	for _, e := range missed {
		if err := out.change(e); err != nil {
			return 0, err
		}
	}
	return max(after, latest), nil
}

// anew tells a browser to read anew, and returns where it then stands.
func (s stream) anew(ctx context.Context, p Passed, out *events) (latest int64, err error) {
	err = s.db.InClub(ctx, p.Club, func(ctx context.Context) (err error) { latest, err = changes.Latest(ctx); return err })
	if err != nil {
		return 0, err
	}
	return latest, out.anew(latest)
}

var errEnded = errors.New("the session has ended")

// still says that the stream is alive, as long as whoever follows may.
func (s stream) still(ctx context.Context, p Passed, out *events) error {
	again, found, err := s.sessions.again(ctx, s.identify)
	if err != nil {
		return nil //nolint:nilerr // the database is away for a moment; the session is asked for again
	}
	if !found || again.Person != p.Person || again.Club != p.Club {
		return errors.Join(out.say("event: ended\ndata: {}\n\n"), errEnded)
	}
	return out.say(": still here\n\n")
}

func (s stream) who(ctx context.Context) (Passed, bool, error) {
	id, says, ok := s.sessions.Person(ctx)
	if !ok {
		return Passed{}, false, nil
	}
	_, p, found, err := s.identify(ctx, id, says)
	return p, found, err
}

// events writes server-sent events, each within writeBy.
type events struct {
	control *http.ResponseController
	w       http.ResponseWriter
}

func (e *events) say(format string, args ...any) error {
	// The server's own limit is of a whole answer, which this one never is.
	if err := e.control.SetWriteDeadline(time.Now().Add(writeBy)); err != nil && !errors.Is(err, http.ErrNotSupported) {
		return err
	}
	if _, err := fmt.Fprintf(e.w, format, args...); err != nil {
		return err
	}
	return e.control.Flush()
}

func (e *events) change(c changes.Event) error {
	text, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return e.say("id: %d\nevent: change\ndata: %s\n\n", c.Number, text)
}

func (e *events) here(h changes.Here) error {
	text, err := json.Marshal(h)
	if err != nil {
		return err
	}
	return e.say("event: here\ndata: %s\n\n", text)
}

func (e *events) anew(number int64) error {
	return e.say("id: %d\nevent: anew\ndata: {}\n\n", number)
}

// at says where a browser that begins stands.
func (e *events) at(number int64) error {
	return e.say("id: %d\nevent: at\ndata: {}\n\n", number)
}
