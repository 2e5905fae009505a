package main

import (
	"fmt"
	"log/slog"
	"os"
	"time"

	"github.com/caarlos0/env/v11"
)

// config comes from the environment; the README has the same table.
type config struct {
	DatabaseURL    string        `env:"DATABASE_URL"`
	ListenAddr     string        `env:"LISTEN_ADDR" envDefault:"127.0.0.1:8080"`
	LogLevel       slog.Level    `env:"LOG_LEVEL" envDefault:"INFO"`
	LogFormat      string        `env:"LOG_FORMAT" envDefault:"text"`
	DBConns        int           `env:"DB_CONNS" envDefault:"10"`
	TrustedProxies []string      `env:"TRUSTED_PROXIES"`
	StopTimeout    time.Duration `env:"STOP_TIMEOUT" envDefault:"15s"`
	DataDir        string        `env:"DATA_DIR" envDefault:".data"`
	FilmStore      string        `env:"FILM_STORE"`
	FilmLargestGB  int64         `env:"FILM_LARGEST_GB" envDefault:"16"`
	FilmClubGB     int64         `env:"FILM_CLUB_GB" envDefault:"200"`
	SessionIdle    time.Duration `env:"SESSION_IDLE" envDefault:"12h"`
	SessionLife    time.Duration `env:"SESSION_LIFE" envDefault:"336h"`
	MetricsAddr    string        `env:"METRICS_ADDR"`
	PublicURL      string        `env:"PUBLIC_URL"`
	SMTPHost       string        `env:"SMTP_HOST"`
	SMTPPort       int           `env:"SMTP_PORT" envDefault:"587"`
	SMTPUser       string        `env:"SMTP_USER"`
	SMTPPassword   string        `env:"SMTP_PASSWORD"`
	SMTPFrom       string        `env:"SMTP_FROM"`
	SMTPPlain      bool          `env:"SMTP_PLAIN"`
	KeepSeasons    int           `env:"KEEP_SEASONS" envDefault:"0"`
}

func readConfig() (config, *slog.Logger, error) {
	c, err := env.ParseAs[config]()
	if err != nil {
		return c, nil, err
	}
	options := &slog.HandlerOptions{Level: c.LogLevel}
	switch c.LogFormat {
	case "text":
		return c, slog.New(slog.NewTextHandler(os.Stderr, options)), nil
	case "json":
		return c, slog.New(slog.NewJSONHandler(os.Stderr, options)), nil
	}
	return c, nil, fmt.Errorf("LOG_FORMAT must be text or json, got %q", c.LogFormat)
}
