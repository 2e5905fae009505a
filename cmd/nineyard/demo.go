package main

import (
	"context"
	"fmt"
	"os/signal"
	"path/filepath"
	"syscall"

	"github.com/spf13/cobra"

	"nineyard/internal/app"
	"nineyard/internal/demo"
	"nineyard/internal/pgserver"
	"nineyard/internal/store"
	"nineyard/library"
)

// demoSeed makes the demo that the pictures and the tests show.
const demoSeed = 7

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
			prepare := func(ctx context.Context, st *store.Store) (*app.Service, error) { return loadDemo(ctx, st) }
			fmt.Fprintf(cmd.OutOrStdout(), "Nine Yard: open http://%s and choose a coach.\n", c.ListenAddr)
			return serve(ctx, c, log, prepare)
		},
	}
}

// loadDemo loads the demo club into an empty database and pins the clock to its week.
func loadDemo(ctx context.Context, st *store.Store) (*app.Service, error) {
	loaded, err := demo.Loaded(ctx, st.DB())
	if err != nil {
		return nil, err
	}
	if !loaded {
		edition, err := library.Shipped()
		if err != nil {
			return nil, err
		}
		lib, err := edition.Library()
		if err != nil {
			return nil, err
		}
		if err := demo.Load(ctx, st.DB(), demo.Build(demoSeed, lib)); err != nil {
			return nil, err
		}
	}
	return &app.Service{Store: st, Clock: demo.Now, Demo: true}, nil
}
