package httpapi

import (
	"database/sql"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"nineyard/internal/app"
	"nineyard/internal/httpapi/gen"
)

// Limits of a request body, in bytes.
const (
	maxBody   = 1 << 20
	maxUpload = 10<<20 + 64<<10 // the file and the form around it
)

// Options of the server.
type Options struct {
	Service  *app.Service
	Pool     *sql.DB // for the sessions and /readyz
	Web      fs.FS   // the built front end
	Log      *slog.Logger
	Loopback bool     // plain http on loopback: the session cookie need not be Secure
	Proxies  []string // addresses of trusted proxies; none by default
}

// Server is the whole HTTP surface.
type Server struct {
	http.Handler
	sessions *scs.SessionManager
	cleanup  *postgresstore.PostgresStore
}

// Close stops the background work.
func (s *Server) Close() { s.cleanup.StopCleanup() }

// New builds the server.
func New(o Options) (*Server, error) {
	gin.SetMode(gin.ReleaseMode)
	store := postgresstore.NewWithCleanupInterval(o.Pool, 10*time.Minute)
	sessions := scs.New()
	sessions.Store = store
	sessions.Lifetime = 14 * 24 * time.Hour
	sessions.Cookie.Name = "nineyard_session"
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.Secure = !o.Loopback
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		o.Log.ErrorContext(r.Context(), "session", "error", err)
		writeProblem(w, problem(http.StatusServiceUnavailable, "The session store does not answer", "", ""))
	}

	engine := gin.New()
	engine.ContextWithFallback = true
	engine.HandleMethodNotAllowed = true
	if err := engine.SetTrustedProxies(o.Proxies); err != nil {
		return nil, fmt.Errorf("trusted proxies: %w", err)
	}
	metrics := newMetrics()
	engine.Use(metrics.observe, logRequests(o.Log), recoverPanics(o.Log))
	engine.NoRoute(func(c *gin.Context) {
		abort(c, problem(http.StatusNotFound, "There is nothing at this address", "", ""))
	})
	engine.NoMethod(func(c *gin.Context) {
		abort(c, problem(http.StatusMethodNotAllowed, "This method is not allowed here", "", ""))
	})
	h := &handlers{service: o.Service, sessions: sessions}
	validate, err := validator()
	if err != nil {
		return nil, err
	}
	api := engine.Group("/api/v1", limitBody, h.requireCSRF, h.requireActor, validate)
	gen.RegisterHandlersWithOptions(api, gen.NewStrictHandlerWithOptions(h, nil, gen.StrictGinServerOptions{
		RequestErrorHandlerFunc:  func(c *gin.Context, err error) { abort(c, problemOf(c, o.Log, badRequest{err})) },
		HandlerErrorFunc:         func(c *gin.Context, err error) { abort(c, problemOf(c, o.Log, err)) },
		ResponseErrorHandlerFunc: func(c *gin.Context, err error) { o.Log.WarnContext(c, "writing the answer", "error", err) },
	}), gen.GinServerOptions{ErrorHandler: func(c *gin.Context, err error, status int) {
		abort(c, problem(status, "The address is not understood", err.Error(), ""))
	}})

	mux := http.NewServeMux()
	mux.Handle("/api/", sessions.LoadAndSave(engine))
	mux.HandleFunc("GET /healthz", func(w http.ResponseWriter, _ *http.Request) { fmt.Fprintln(w, "ok") })
	mux.HandleFunc("GET /readyz", func(w http.ResponseWriter, r *http.Request) {
		if err := o.Pool.PingContext(r.Context()); err != nil {
			http.Error(w, "the database does not answer", http.StatusServiceUnavailable)
			return
		}
		fmt.Fprintln(w, "ready")
	})
	mux.Handle("GET /metrics", metrics.handler(o.Pool))
	mux.Handle("/", web(o.Web))
	// Requests that a page of another site makes are refused before anything else.
	return &Server{http.NewCrossOriginProtection().Handler(secure(mux)), sessions, store}, nil
}

// secure sets the headers that keep the page from being used against its user.
func secure(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		// Styles may be inline because the dialog parts set them; scripts never are.
		h.Set("Content-Security-Policy", "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; connect-src 'self'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'; object-src 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		next.ServeHTTP(w, r)
	})
}

type metrics struct {
	registry *prometheus.Registry
	seconds  *prometheus.HistogramVec
}

func newMetrics() *metrics {
	m := &metrics{registry: prometheus.NewRegistry(), seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{
		Name: "nineyard_request_seconds", Help: "Time to answer a request of the API.",
		Buckets: []float64{.001, .0025, .005, .01, .02, .03, .05, .1, .25, .5, 1, 2.5},
	}, []string{"method", "route", "status"})}
	m.registry.MustRegister(m.seconds, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	return m
}

func (m *metrics) handler(pool *sql.DB) http.Handler {
	m.registry.MustRegister(collectors.NewDBStatsCollector(pool, "nineyard"))
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{})
}

func (m *metrics) observe(c *gin.Context) {
	start := time.Now()
	c.Next()
	route := c.FullPath()
	if route == "" {
		route = "none"
	}
	m.seconds.WithLabelValues(c.Request.Method, route, fmt.Sprint(c.Writer.Status())).Observe(time.Since(start).Seconds())
}

// IsLoopback reports whether an address to listen on is reached from this machine alone.
func IsLoopback(addr string) bool {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return false
	}
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}
