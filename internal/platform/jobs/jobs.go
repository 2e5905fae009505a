// Package jobs is work that goes on behind the requests. A job is a row of the database, written in the
// transaction of what asks for it: it is there when that is, survives a kill, and is given to one server at a
// time. The queue is River's; this package says how it runs here.
package jobs

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"time"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivertype"

	"nineyard/internal/platform/pg"
)

// schema is where the tables of the queue lie; see migration 26.
const schema = "river"

// Tries is how often a job is begun before it is given up.
const Tries = 3

// Queue keeps jobs and carries them out.
type Queue struct {
	db     *pg.DB
	id     string
	client *river.Client[*sql.Tx]
}

// Workers are what carries out the jobs of each kind.
type Workers = river.Workers

// Open opens the queue as the server id, which no other server that runs is called: what it was at when it
// was killed it begins anew. Jobs go on after Run.
func Open(db *pg.DB, log *slog.Logger, id string, workers *Workers, every ...*river.PeriodicJob) (*Queue, error) {
	client, err := river.NewClient(riverdatabasesql.New(db.Pool()), &river.Config{
		ID: id, Schema: schema, Logger: slog.New(troubles{log.Handler()}), Workers: workers, PeriodicJobs: every, MaxAttempts: Tries,
		Queues:     map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 1}}, // a video takes all the processors there are
		JobTimeout: -1, RescueStuckJobsAfter: 24 * time.Hour, SoftStopTimeout: time.Second, FetchPollInterval: 500 * time.Millisecond, PollOnly: true,
	})
	if err != nil {
		return nil, fmt.Errorf("jobs: %w", err)
	}
	return &Queue{db, id, client}, nil
}

// troubles passes on what is wrong and leaves out what goes on: a queue that has nothing to do says so all day.
type troubles struct{ slog.Handler }

func (t troubles) Enabled(ctx context.Context, l slog.Level) bool {
	return l >= slog.LevelWarn && t.Handler.Enabled(ctx, l)
}
func (t troubles) WithAttrs(a []slog.Attr) slog.Handler { return troubles{t.Handler.WithAttrs(a)} }
func (t troubles) WithGroup(name string) slog.Handler   { return troubles{t.Handler.WithGroup(name)} }

// Put writes a job in the context's transaction. One of the same kind with the same arguments that is not
// finished yet is left as it is.
func (q *Queue) Put(ctx context.Context, args river.JobArgs) error {
	tx, err := pg.Tx(ctx)
	if err != nil {
		return err
	}
	_, err = q.client.InsertTx(ctx, tx, args, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: []rivertype.JobState{
		rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateRetryable, rivertype.JobStateScheduled}}})
	return err
}

// Run carries jobs out until the context ends, and then gives those that run a moment to stop.
func (q *Queue) Run(ctx context.Context) error {
	if err := q.again(ctx); err != nil {
		return err
	}
	if err := q.client.Start(context.WithoutCancel(ctx)); err != nil {
		return fmt.Errorf("jobs: %w", err)
	}
	<-ctx.Done()
	stopping, cancel := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
	defer cancel()
	return q.client.StopAndCancel(stopping)
}

// again frees what this server was at when it ended without a word: nobody else is at it, and nobody would
// take it before a day is over.
func (q *Queue) again(ctx context.Context) error {
	_, err := q.db.Pool().ExecContext(ctx, `UPDATE river.river_job SET state = 'available', scheduled_at = now() WHERE state = 'running' AND attempted_by[array_upper(attempted_by, 1)] = $1`, q.id)
	return err
}
