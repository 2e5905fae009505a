package aside_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/platform/aside"
)

func TestWork(t *testing.T) {
	begun, resume := make(chan struct{}), make(chan struct{})
	wait := aside.Work(func() (int, error) { close(begun); <-resume; return 7, nil })
	<-begun // it works before anybody waits
	close(resume)
	v, err := wait()
	require.NoError(t, err)
	assert.Equal(t, 7, v)
	v, _ = wait()
	assert.Equal(t, 7, v, "asked again")
	boom := errors.New("boom")
	_, err = aside.Work(func() (int, error) { return 0, boom })()
	require.ErrorIs(t, err, boom)
	_, err = aside.Work(func() (int, error) { panic("x") })()
	require.ErrorContains(t, err, "x", "a panic ends the request, not the server")
}
