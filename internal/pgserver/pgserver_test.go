package pgserver_test

import (
	"context"
	"database/sql"
	"os"
	"sync"
	"testing"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver "pgx"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/pgserver"
)

func answers(s *pgserver.Server) error {
	db, err := sql.Open("pgx", s.URL("postgres"))
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	return db.Ping()
}

// TestProgramsThatStartAtOnceShareOneCluster: the first makes it, the last to stop ends it.
func TestProgramsThatStartAtOnceShareOneCluster(t *testing.T) {
	dir, err := os.MkdirTemp("", "nineyard-pgserver-") // t.TempDir is closed to the user "postgres"
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o755))
	var wait sync.WaitGroup
	servers, errs := make([]*pgserver.Server, 2), make([]error, 2)
	for i := range servers {
		wait.Go(func() {
			servers[i], errs[i] = pgserver.Start(context.Background(), pgserver.Options{Dir: dir + "/pg", Throwaway: true})
		})
	}
	wait.Wait()
	require.NoError(t, errs[0])
	require.NoError(t, errs[1])
	assert.Equal(t, servers[0].URL("x"), servers[1].URL("x"))
	require.NoError(t, servers[0].Stop())
	assert.NoError(t, answers(servers[1]), "the other still uses it")
	require.NoError(t, servers[1].Stop())
	assert.Error(t, answers(servers[1]))
}
