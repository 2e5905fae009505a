// Package aside works something out beside what follows: the arithmetic of a screen while the
// database looks for the rest of it.
package aside

import "fmt"

// Work begins the work and returns what waits for its answer. A panic in it is an error of the
// answer: it would end the server, not the request.
func Work[T any](work func() (T, error)) (wait func() (T, error)) {
	var v T
	var err error
	done := make(chan struct{})
	go func() {
		defer close(done)
		defer func() {
			if r := recover(); r != nil {
				err = fmt.Errorf("aside: %v", r)
			}
		}()
		v, err = work()
	}()
	return func() (T, error) {
		<-done
		return v, err
	}
}
