package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"
	"gocloud.dev/blob"

	"nineyard/internal/access"
	"nineyard/internal/footage"
	"nineyard/internal/footage/store"
	"nineyard/internal/mark"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/post"
	"nineyard/internal/privacy"
	"nineyard/internal/product"
	"nineyard/library"
	"nineyard/web"
)

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "serve",
		Short: "Serve Nine Yard on the database that DATABASE_URL names",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			c, log, err := readConfig()
			if err != nil {
				return err
			}
			if c.DatabaseURL == "" {
				return errors.New("DATABASE_URL is not set; for a demo on a database of its own run 'nineyard demo'")
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			return serve(ctx, c, log, nil)
		},
	}
}

// serve migrates, prepares (for the demo) and serves until the context ends, then lets
// running requests finish.
func serve(ctx context.Context, c config, log *slog.Logger, prepare func(context.Context, *pg.DB, *blob.Bucket) (product.Options, error)) error {
	go func() { _, _ = library.Shipped() }() // while the database is looked at, so that the first coach need not wait for it
	version, err := pg.Migrate(ctx, c.DatabaseURL)
	if err != nil {
		return err
	}
	log.Debug("database ready", "schema", version)
	film, err := store.Open(ctx, c.FilmStore, c.DataDir)
	if err != nil {
		return err
	}
	defer func() { _ = film.Close() }()
	o := product.Options{Now: time.Now}
	if prepare != nil {
		owner, err := pg.OpenOwner(c.DatabaseURL, 2)
		if err != nil {
			return err
		}
		o, err = prepare(ctx, owner, film)
		if err := errors.Join(err, owner.Close()); err != nil {
			return err
		}
	}
	o.Film, o.Log, o.Limits = film, log, footage.Limits{One: c.FilmLargestGB * 1e9, Club: c.FilmClubGB * 1e9}
	host, err := os.Hostname()
	if err != nil {
		return err
	}
	o.ID = host + " " + c.ListenAddr
	if o.DB, err = pg.Open(c.DatabaseURL, c.DBConns); err != nil {
		return err
	}
	defer func() { _ = o.DB.Close() }()
	letters, err := mailer(c, log)
	if err != nil {
		return err
	}
	if o.Address = c.PublicURL; letters != nil {
		o.Mail = letters
	}
	if o.Demo == uuid.Nil {
		o.Found = func(ctx context.Context, f access.Founding) (uuid.UUID, error) { return found(ctx, c.DatabaseURL, f) }
	}
	p := product.New(o)
	if first, err := p.Club.First(ctx); err != nil {
		return err
	} else if first {
		fmt.Fprintf(os.Stderr, "There is no club yet. Open http://%s/begin and make the first with this word: %s\n", c.ListenAddr, p.Club.Word())
	}
	api, err := p.Server(product.Surface{Web: web.Files(), Log: log, Loopback: httpd.IsLoopback(c.ListenAddr), Proxies: c.TrustedProxies, Idle: c.SessionIdle, Life: c.SessionLife})
	if err != nil {
		return err
	}
	defer api.Close()

	listener, err := net.Listen("tcp", c.ListenAddr)
	if err != nil {
		return fmt.Errorf("LISTEN_ADDR: %w", err)
	}
	server := &http.Server{Handler: api, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute}
	server.RegisterOnShutdown(p.Changes.Close) // streams end, so that stopping need not wait for them
	listening, stopListening := context.WithCancel(context.WithoutCancel(ctx))
	defer stopListening()
	if letters != nil {
		go letters.Run(listening)
	}
	go p.Changes.Run(listening, o.DB, log)
	keeper := &mark.Keeper{DB: o.DB, Log: log, Keep: c.KeepSeasons}
	kept := make(chan struct{})
	go func() { defer close(kept); keeper.Run(listening, time.Now) }()
	defer func() { stopListening(); <-kept }()
	go (&privacy.Keeper{DB: o.DB, Log: log}).Run(listening, time.Now)
	worked := make(chan struct{})
	go func() {
		defer close(worked)
		if err := p.Jobs.Run(listening); err != nil && !errors.Is(err, context.Canceled) {
			log.Error("jobs", "error", err)
		}
	}()
	defer func() { stopListening(); <-worked }()
	failed := make(chan error, 2)
	go func() { failed <- server.Serve(listener) }()
	if c.MetricsAddr != "" {
		own := &http.Server{Addr: c.MetricsAddr, Handler: api.Metrics, ReadHeaderTimeout: 10 * time.Second, WriteTimeout: 10 * time.Second}
		defer func() { _ = own.Close() }()
		go func() {
			if err := own.ListenAndServe(); !errors.Is(err, http.ErrServerClosed) {
				failed <- fmt.Errorf("METRICS_ADDR: %w", err)
			}
		}()
	}
	log.Info("serving", "address", "http://"+listener.Addr().String())
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping")
	stopCtx, cancel := context.WithTimeout(context.WithoutCancel(ctx), c.StopTimeout)
	defer cancel()
	return server.Shutdown(stopCtx)
}

// mailer is what sends letters; nil where no mail server is set.
func mailer(c config, log *slog.Logger) (*post.SMTP, error) {
	switch {
	case c.SMTPHost == "":
		return nil, nil
	case c.PublicURL == "":
		return nil, errors.New("PUBLIC_URL is not set: links in letters must say where Nine Yard is reached")
	case c.SMTPFrom == "":
		return nil, errors.New("SMTP_FROM is not set: letters come from an address")
	}
	return post.NewSMTP(post.Server{Host: c.SMTPHost, Port: c.SMTPPort, User: c.SMTPUser, Password: c.SMTPPassword, From: c.SMTPFrom, Plain: c.SMTPPlain}, log)
}

// found makes a club as the database's owner.
func found(ctx context.Context, url string, f access.Founding) (uuid.UUID, error) {
	owner, err := pg.OpenOwner(url, 1)
	if err != nil {
		return uuid.Nil, err
	}
	defer func() { _ = owner.Close() }()
	return access.Found(ctx, owner, f)
}

func migrateCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database up to date and exit",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			c, _, err := readConfig()
			if err != nil {
				return err
			}
			version, err := pg.Migrate(cmd.Context(), c.DatabaseURL)
			if err == nil {
				fmt.Fprintf(cmd.OutOrStdout(), "schema version %d\n", version)
			}
			return err
		},
	}
}
