package change

import "time"

// Longest is how long a change may have waited on a device, the most that is believed of
// its clock.
const Longest = 60 * 24 * time.Hour

// When is the moment a change was made by the server's clock: as long before now as it was
// made before it was sent, by the clock of the device. An age below zero counts as none, one
// above Longest as Longest; a zero made or sent says nothing, and now is answered.
func When(made, sent, now time.Time) time.Time {
	if made.IsZero() || sent.IsZero() {
		return now
	}
	return now.Add(-min(max(sent.Sub(made), 0), Longest))
}

// Made is one change of a thing.
type Made struct {
	ID  string
	On  string    // id of the change that its maker saw standing; empty: none
	At  time.Time // as When says
	Seq int64     // order in which the server took it in
}

// Holds reports whether next holds over standing, the change that holds now: it was made on
// top of it, or later; of two made at one moment the one that came in later holds.
func Holds(standing, next Made) bool {
	if next.On != "" && next.On == standing.ID {
		return true
	}
	if !next.At.Equal(standing.At) {
		return next.At.After(standing.At)
	}
	return next.Seq > standing.Seq
}
