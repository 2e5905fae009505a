package invalid

import (
	"errors"
	"fmt"
	"strings"
)

// Error says which field of the input is wrong and why.
//
// Field is a JSON path such as "periods[2].minutes"; it is empty when the input
// as a whole is at fault.
type Error struct {
	Field   string
	Message string
	Cause   error // what lies beneath; nil for input that was refused by a rule
}

// Error returns the message alone: it already names the field in words.
func (e *Error) Error() string { return e.Message }

// Field returns an error on the field at the given path.
func Field(path, format string, args ...any) error {
	return &Error{Field: path, Message: fmt.Sprintf(format, args...)}
}

// IntRange returns an error on path unless lo ≤ v ≤ hi.
func IntRange(path string, v, lo, hi int) error {
	if v < lo || v > hi {
		return Field(path, "%s must be between %d and %d, got %d", path, lo, hi, v)
	}
	return nil
}

// Within puts the field of err, if it has one, below the given path: an error on
// "minutes" within "drills[1]" is one on "drills[1].minutes".
func Within(path string, err error) error {
	var e *Error
	if !errors.As(err, &e) {
		return err
	}
	field := path
	if e.Field != "" {
		field = path + "." + e.Field
	}
	return &Error{Field: field, Message: e.Message, Cause: e.Cause}
}

// Without takes a path off the field of err: an error on "periods[0].kind" without "periods[0]"
// is one on "kind".
func Without(path string, err error) error {
	var e *Error
	if !errors.As(err, &e) {
		return err
	}
	field := strings.TrimPrefix(strings.TrimPrefix(e.Field, path), ".")
	return &Error{Field: field, Message: strings.ReplaceAll(e.Message, path+".", ""), Cause: e.Cause}
}

// As reports whether err is, or wraps, an invalid.Error, and returns it.
func As(err error) (*Error, bool) {
	var e *Error
	ok := errors.As(err, &e)
	return e, ok
}

// Caused returns an error on the field at the given path that keeps its cause, for the log:
// what a person is told is the message alone.
func Caused(path, message string, cause error) error {
	return &Error{Field: path, Message: message, Cause: cause}
}

// Unwrap returns the cause, if any.
func (e *Error) Unwrap() error { return e.Cause }
