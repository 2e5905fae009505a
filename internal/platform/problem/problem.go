// Package problem is how a use case says that it could not do what was asked, in one way
// everywhere:
//
//   - input that breaks a rule is an invalid.Error of the core, with its field;
//   - a port that looks something up answers found == false when it is not there, and err
//     is for faults of the system alone; the use case then says ErrNotFound;
//   - what the person may not do is ErrForbidden, an id that is used by something else is
//     ErrTaken, and what was changed by somebody else since it was read is a Stale with what
//     now stands;
//   - nothing there is an empty list, never null, and never an error.
package problem

import "errors"

// What a use case may answer with. The HTTP layer words them.
var (
	ErrNotFound  = errors.New("not found")
	ErrForbidden = errors.New("not allowed")
	ErrTaken     = errors.New("the id is used by something else")
)

// Stale says that something was changed since it was read. Both versions are then shown.
type Stale struct {
	What    string // in words: "period"
	By      string // who changed it; empty when it is not known
	Current any    // as it now stands, in the contract's form
}

// Error says so in a sentence.
func (s *Stale) Error() string {
	by := s.By
	if by == "" {
		by = "someone else"
	}
	return "This " + s.What + " was changed by " + by + "."
}

// Found is the error of a reading: its own, else ErrNotFound where what was looked for is not there.
func Found(found bool, err error) error {
	if err == nil && !found {
		return ErrNotFound
	}
	return err
}
