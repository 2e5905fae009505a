package product_test

import (
	"fmt"
	"net"
	"net/http"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
)

// line is the line to the database, which can stand still and can break.
type line struct {
	net.Listener
	to    string
	mu    sync.Mutex
	moved *sync.Cond
	still bool
	open  []net.Conn
}

// through gives the address of a database a line of its own.
func through(t *testing.T, address string) (*line, string) {
	u, err := url.Parse(address)
	require.NoError(t, err)
	l := &line{to: u.Host}
	l.moved = sync.NewCond(&l.mu)
	l.Listener, err = net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close(); l.freeze(false); l.cut() })
	go func() {
		for {
			in, err := l.Accept()
			if err != nil {
				return
			}
			out, err := net.Dial("tcp", l.to)
			if err != nil {
				_ = in.Close()
				continue
			}
			l.mu.Lock()
			l.open = append(l.open, in, out)
			l.mu.Unlock()
			go l.carry(in, out)
			go l.carry(out, in)
		}
	}()
	u.Host = l.Addr().String()
	return l, u.String()
}

func (l *line) carry(from, to net.Conn) {
	b := make([]byte, 32<<10)
	for {
		n, err := from.Read(b)
		l.mu.Lock()
		for l.still {
			l.moved.Wait()
		}
		l.mu.Unlock()
		if n > 0 {
			if _, err := to.Write(b[:n]); err != nil {
				return
			}
		}
		if err != nil {
			_ = to.Close()
			return
		}
	}
}

func (l *line) freeze(still bool) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.still = still
	l.moved.Broadcast()
}

func (l *line) cut() {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, c := range l.open {
		_ = c.Close()
	}
	l.open = nil
}

// TestADatabaseThatStandsStill holds nobody up for long, and is gone on with when it moves again.
func TestADatabaseThatStandsStill(t *testing.T) {
	l, address := through(t, demotest.Copy(t))
	db, err := pg.Open(address, 5)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	s := openWith(t, product.Options{DB: db, Now: demo.Now, Demo: demotest.World().ClubID}).signIn(demo.LineCoachEmail)
	l.freeze(true)
	s.client.Timeout = time.Minute // for ever, that is
	type answer struct {
		status int
		retry  string
		after  time.Duration
	}
	var wait sync.WaitGroup
	answers := make([]answer, 12) // more than there are connections
	began := time.Now()
	for i := range answers {
		wait.Go(func() {
			r, _ := http.NewRequest("GET", s.server.URL+"/api/v1/frame", nil)
			if i == 0 {
				r, _ = http.NewRequest("GET", s.server.URL+"/readyz", nil)
			}
			got, err := s.client.Do(r)
			if !assert.NoError(t, err) {
				return
			}
			_ = got.Body.Close()
			answers[i] = answer{got.StatusCode, got.Header.Get("Retry-After"), time.Since(began)}
		})
	}
	wait.Wait()
	for i, a := range answers {
		assert.Equal(t, http.StatusServiceUnavailable, a.status, i)
		assert.Equal(t, "3", a.retry, i)
	}
	t.Logf("ready: said no after %s; a screen: after %s", answers[0].after.Round(time.Millisecond), answers[11].after.Round(time.Millisecond))
	l.freeze(false)
	assert.Eventually(t, func() bool { status, _ := s.do("GET", "/frame", nil); return status == http.StatusOK }, 10*time.Second, 50*time.Millisecond)
}

// TestALineThatBreaks in the middle of a request says so, and the same change sent again is made once.
func TestALineThatBreaks(t *testing.T) {
	l, address := through(t, demotest.Copy(t))
	db, err := pg.Open(address, 5)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	s := openWith(t, product.Options{DB: db, Now: demo.Now, Demo: demotest.World().ClubID}).signIn(demo.LineCoachEmail)
	statuses := map[int]int{}
	for i := range 25 {
		change, record := made(), made()
		stop := time.AfterFunc(time.Duration(i)*time.Millisecond, l.cut)
		put := func() int {
			status, body := s.do("PUT", "/roster/players/"+record, map[string]any{"version": 0, "jersey": fmt.Sprint(200 + i), "first_name": "Ora", "last_name": "Quill", "position": "LG",
				"groups": []string{"ol"}, "archived": false, "returning": false}, "Change-Id", change)
			statuses[status]++
			if status >= 500 {
				assert.Equal(t, http.StatusServiceUnavailable, status, body)
			}
			return status
		}
		for put() == http.StatusServiceUnavailable {
			stop.Stop()
		}
		stop.Stop()
		status, body := s.do("GET", "/roster/players", nil)
		if status == http.StatusServiceUnavailable { // it was cut just now
			status, body = s.do("GET", "/roster/players", nil)
		}
		assert.Equal(t, http.StatusOK, status)
		assert.Contains(t, body, record)
	}
	t.Log("answers:", statuses)
	assert.Zero(t, statuses[http.StatusInternalServerError])
}
