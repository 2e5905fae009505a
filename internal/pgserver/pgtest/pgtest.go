// Package pgtest gives tests a database of their own, on a private PostgreSQL that
// lives as long as the test program, or on the server that DATABASE_URL names.
package pgtest

import (
	"context"
	"database/sql"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver "pgx"

	"nineyard/internal/pgserver"
)

var (
	mu     sync.Mutex
	server *pgserver.Server
)

// Main runs the tests of a package and then stops the server they used.
func Main(m *testing.M) {
	code := m.Run()
	mu.Lock()
	if server != nil {
		_ = server.Stop()
	}
	mu.Unlock()
	for _, dir := range dirs {
		_ = os.RemoveAll(dir)
	}
	os.Exit(code)
}

var dirs []string

// URL makes an empty database and returns its address. It is dropped after the test.
func URL(t testing.TB) string {
	t.Helper()
	return create(t, "")
}

var copied = map[string]string{} // what was loaded → its database

// Copy makes a database like the one that load fills, which it does once for all tests
// of the package, and returns its address. It is dropped after the test.
func Copy(t testing.TB, what string, load func(url string) error) string {
	t.Helper()
	mu.Lock()
	template, ok := copied[what]
	mu.Unlock()
	if !ok {
		address := create(keep{t}, "")
		if err := load(address); err != nil {
			t.Fatal(err)
		}
		u, err := url.Parse(address)
		if err != nil {
			t.Fatal(err)
		}
		template = strings.TrimPrefix(u.Path, "/")
		mu.Lock()
		copied[what] = template
		mu.Unlock()
	}
	return create(t, " TEMPLATE "+template)
}

// keep is a test whose clean-up does not happen: the template outlives it. On a server of
// one's own it is dropped by its name, test_….
type keep struct{ testing.TB }

func (keep) Cleanup(func()) {}

func create(t testing.TB, like string) string {
	t.Helper()
	admin := os.Getenv("DATABASE_URL")
	if admin == "" {
		admin = start(t).URL("postgres")
	}
	db, err := sql.Open("pgx", admin)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = db.Close() })
	name := "test_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	if _, err := db.Exec("CREATE DATABASE " + name + like); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _, _ = db.Exec(fmt.Sprintf("DROP DATABASE IF EXISTS %s WITH (FORCE)", name)) })
	u, err := url.Parse(admin)
	if err != nil {
		t.Fatal(err)
	}
	u.Path = "/" + name
	return u.String()
}

func start(t testing.TB) *pgserver.Server {
	mu.Lock()
	defer mu.Unlock()
	if server == nil {
		dir, err := os.MkdirTemp("", "nineyard-pg-")
		if err != nil {
			t.Fatal(err)
		}
		dirs = append(dirs, dir)
		if err := os.Chmod(dir, 0o755); err != nil {
			t.Fatal(err)
		}
		if server, err = pgserver.Start(context.Background(), pgserver.Options{Dir: dir + "/pg", Throwaway: true}); err != nil {
			t.Fatal(err)
		}
	}
	return server
}
