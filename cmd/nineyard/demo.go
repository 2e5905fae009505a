package main

import (
	"context"
	"fmt"
	"os/signal"
	"path/filepath"
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
			if c.DatabaseURL == "" {
				server, err := pgserver.Start(ctx, pgserver.Options{Dir: filepath.Join(c.DataDir, "pg")})
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
			return serve(ctx, c, log, loadDemo)
		},
	}
}

// loadDemo loads the demo club into an empty database and pins the clock to its week. It
// refuses a database that holds any other club.
func loadDemo(ctx context.Context, owner *pg.DB, film *blob.Bucket) (product.Options, error) {
	club := demo.ClubID(demo.Seed)
	edition, err := library.Shipped()
	if err != nil {
		return product.Options{}, err
	}
	err = demo.Ensure(ctx, owner, func() *demo.World { return demo.Build(demo.Seed, edition.Taught) }, club)
	if err == nil {
		err = demo.Film(ctx, film, club)
	}
	return product.Options{Now: demo.Now, Demo: club}, err
}
