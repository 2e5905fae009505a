package changes

import (
	"context"
	"encoding/json"
	"log/slog"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

// pending is how many events may wait for a follower who reads slowly.
const pending = 64

// How long Run waits before it asks a database again that did not answer.
const (
	waitFirst = 100 * time.Millisecond
	waitLast  = 5 * time.Second
)

// Hub passes on what is changed to those who follow a club. The zero Hub works.
type Hub struct {
	mu        sync.Mutex
	followers map[uuid.UUID]map[*Follower]struct{} // by club
	closed    bool
}

// Follower hears what is changed in a club.
type Follower struct {
	// Events are what was changed. The channel is closed when the hub is.
	Events chan Event
	// Lost holds a value once events may have been missed: what was read must be read anew.
	Lost chan struct{}
}

// Follow begins to follow a club; call the function returned when done.
func (h *Hub) Follow(club uuid.UUID) (*Follower, func()) {
	f := &Follower{Events: make(chan Event, pending), Lost: make(chan struct{}, 1)}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		close(f.Events)
		return f, func() {}
	}
	if h.followers == nil {
		h.followers = map[uuid.UUID]map[*Follower]struct{}{}
	}
	if h.followers[club] == nil {
		h.followers[club] = map[*Follower]struct{}{}
	}
	h.followers[club][f] = struct{}{}
	return f, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.followers[club], f)
		if len(h.followers[club]) == 0 {
			delete(h.followers, club)
		}
	}
}

// Following counts the followers of all clubs.
func (h *Hub) Following() (n int) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, f := range h.followers {
		n += len(f)
	}
	return n
}

// Close ends every follower's events.
func (h *Hub) Close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for _, followers := range h.followers {
		for f := range followers {
			close(f.Events)
		}
	}
	h.followers = nil
}

// tell passes an event on. Who has no room left for it has lost it.
func (h *Hub) tell(club uuid.UUID, e Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for f := range h.followers[club] {
		select {
		case f.Events <- e:
		default:
			f.lose()
		}
	}
}

func (f *Follower) lose() {
	select {
	case f.Lost <- struct{}{}:
	default: // it is said already
	}
}

// lost tells everybody that events may have been missed.
func (h *Hub) lost() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, followers := range h.followers {
		for f := range followers {
			f.lose()
		}
	}
}

// Run listens to the database until the context ends. When the database goes away it comes
// back to it, and everybody is told that something may have been missed.
func (h *Hub) Run(ctx context.Context, db *pg.DB, log *slog.Logger) {
	wait := waitFirst
	for ctx.Err() == nil {
		err := db.Listen(ctx, channel, func() { wait = waitFirst; h.lost() }, h.hear)
		if ctx.Err() != nil {
			return
		}
		log.WarnContext(ctx, "listening for changes", "error", err)
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
		wait = min(2*wait, waitLast)
	}
}

// hear reads a notice; one it cannot read was not sent by Append.
func (h *Hub) hear(notice string) {
	id, text, _ := strings.Cut(notice, " ")
	club, err := uuid.Parse(id)
	var e Event
	if err != nil || json.Unmarshal([]byte(text), &e) != nil {
		return
	}
	h.tell(club, e)
}
