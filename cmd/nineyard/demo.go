package main

import (
	"context"
	"fmt"
	"os/signal"
	"path/filepath"
	"sync"
	"syscall"

	"github.com/spf13/cobra"
	"gocloud.dev/blob"

	"nineyard/internal/demo"
	"nineyard/internal/pgserver"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
	"nineyard/library"
)

func demoCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "demo",
		Short: "Serve the demo club on a private PostgreSQL, or on DATABASE_URL",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			c, log, err := readConfig()
			if err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			world := sync.OnceValues(drawn)
			if c.DatabaseURL == "" {
				draw := func() { go func() { _, _ = world() }() } // it will be asked for: meanwhile the server is made
				server, err := pgserver.Start(ctx, pgserver.Options{Dir: filepath.Join(c.DataDir, "pg"), New: draw})
				if err != nil {
					return err
				}
				defer func() {
					if err := server.Stop(); err != nil {
						log.Warn("stopping PostgreSQL", "error", err)
					}
				}()
				c.DatabaseURL = server.URL("postgres")
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Nine Yard: open http://%s and choose a coach.\n", c.ListenAddr)
			return serve(ctx, c, log, func(ctx context.Context, owner *pg.DB, film *blob.Bucket) (product.Options, error) {
				return loadDemo(ctx, owner, film, world)
			})
		},
	}
}

// drawn is the demo's club.
func drawn() (*demo.World, error) {
	edition, err := library.Shipped()
	if err != nil {
		return nil, err
	}
	return demo.Build(demo.Seed, edition.Taught), nil
}

// loadDemo loads the demo club into an empty database and pins the clock to its week. It
// refuses a database that holds any other club.
func loadDemo(ctx context.Context, owner *pg.DB, film *blob.Bucket, world func() (*demo.World, error)) (product.Options, error) {
	club := demo.ClubID(demo.Seed)
	err := demo.Ensure(ctx, owner, world, club)
	if err == nil {
		err = demo.Film(ctx, film, club)
	}
	return product.Options{Now: demo.Now, Demo: club}, err
}
