package httpd

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/klauspost/compress/gzhttp"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
)

// Limits of a request.
const (
	maxBody   = 1 << 20          // bytes of JSON
	maxUpload = 10<<20 + 64<<10  // bytes of a file and the form around it
	deadline  = 5 * time.Second  // from when it is read to its answer
	longer    = 20 * time.Second // of an operation that the contract marks x-long: whole lists and files
	readyIn   = time.Second      // within which the database must answer for the server to be ready
	zipFrom   = 1 << 10          // bytes of an answer from which on it is compressed
)

// Options of the server.
type Options struct {
	API gen.StrictServerInterface // the operations of all features
	DB  *pg.DB
	// Identify reads who a session belongs to: a context in which he is signed in, and what
	// lets him pass. It reports false when there is no such person any more.
	Identify func(ctx context.Context, person uuid.UUID, says json.RawMessage) (in context.Context, p Passed, found bool, err error)
	// May reports whether a role may do what the contract's word for an operation says (x-may).
	May func(role, word string) bool
	// Word says what an error of a feature means to whoever asked; false for one it does
	// not know.
	Word     func(err error) (Said, bool)
	Sessions *Sessions
	Changes  *changes.Hub  // what is changed, for those who follow it
	Beat     time.Duration // between signs of life of a stream; 15 s when zero
	Web      fs.FS         // the built front end
	Log      *slog.Logger
	Proxies  []string // addresses of trusted proxies; none by default
	Mounts   []Mount  // what speaks a protocol of its own
}

// Passed is who may pass: what the server needs to know of whoever is signed in.
type Passed struct {
	Person, Club uuid.UUID
	Role         string
	FactorDue    bool   // he owes the club a second factor, and does nothing but set one up
	Clock        int64  // number of the club's latest change
	Day          string // the club's day today
}

type identify = func(ctx context.Context, person uuid.UUID, says json.RawMessage) (context.Context, Passed, bool, error)

// Said is what an error means to whoever asked.
type Said struct {
	Status               int
	Title, Detail, Field string
	RetryAfter           time.Duration
}

// Server is the whole HTTP surface.
type Server struct {
	http.Handler
	Metrics http.Handler // of how the server does, for a listener of its own: who can read it is none of the coaches
	cleanup *postgresstore.PostgresStore
}

// Close stops the background work.
func (s *Server) Close() { s.cleanup.StopCleanup() }

// New builds the server.
func New(o Options) (*Server, error) {
	gin.SetMode(gin.ReleaseMode)
	o.Sessions.fail = func(w http.ResponseWriter, r *http.Request, err error) {
		o.Log.ErrorContext(r.Context(), "session", "error", err)
		write(w, noDatabase, nil)
	}
	var err error
	if o.Sessions.proxies, err = newProxies(o.Proxies); err != nil {
		return nil, err
	}
	engine := gin.New()
	engine.ContextWithFallback = true
	engine.HandleMethodNotAllowed = true
	if err := engine.SetTrustedProxies(nil); err != nil { // whence a request comes is worked out once, by proxies
		return nil, err
	}
	metrics := newMetrics()
	engine.Use(metrics.observe, logRequests(o.Log), recoverPanics(o.Log))
	engine.NoRoute(func(c *gin.Context) {
		abort(c, nothingHere)
	})
	engine.NoMethod(func(c *gin.Context) {
		abort(c, Said{Status: http.StatusMethodNotAllowed, Title: "This method is not allowed here"})
	})
	spec, err := newSpec()
	if err != nil {
		return nil, err
	}
	g := &gate{o.Sessions, o.Identify, o.May}
	api := engine.Group("/api/v1", limitBody, spec.find, g.requireToken, g.requirePerson, spec.takes, bound, spec.validate)
	words := worder{o.Word, o.Log}
	scope := changing{o.DB, time.Now, rand.Text()[:8]}.middleware
	gen.RegisterHandlersWithOptions(api, gen.NewStrictHandlerWithOptions(o.API, []gen.StrictMiddlewareFunc{scope}, gen.StrictGinServerOptions{
		RequestErrorHandlerFunc:  func(c *gin.Context, err error) { words.answer(c, badRequest{err}) },
		HandlerErrorFunc:         words.answer,
		ResponseErrorHandlerFunc: func(c *gin.Context, err error) { o.Log.WarnContext(c, "writing the answer", "error", err) },
	}), gen.GinServerOptions{ErrorHandler: func(c *gin.Context, err error, status int) {
		o.Log.DebugContext(c, "the contract let pass what the address does not", "error", err)
		abort(c, Said{Status: status, Title: "The address is not understood", Field: "address"})
	}})

	mux := http.NewServeMux()
	if o.Beat == 0 {
		o.Beat = beat
	}
	mux.Handle("GET /api/v1/changes/stream", o.Sessions.load(stream{o.DB, o.Changes, o.Sessions, o.Identify, o.Beat}))
	for _, m := range o.Mounts {
		mux.Handle(m.Path, private(o.Sessions.load(g.behind(m))))
	}
	zip, err := gzhttp.NewWrapper(gzhttp.MinSize(zipFrom), gzhttp.ContentTypes([]string{"application/json", "application/problem+json"}))
	if err != nil {
		return nil, fmt.Errorf("compression: %w", err)
	}
	mux.Handle("/api/", zip(private(o.Sessions.load(engine))))
	mux.HandleFunc("GET /healthz", func(w http.ResponseWriter, _ *http.Request) { fmt.Fprintln(w, "ok") })
	mux.HandleFunc("GET /readyz", func(w http.ResponseWriter, r *http.Request) {
		ctx, cancel := context.WithTimeout(r.Context(), readyIn)
		defer cancel()
		if err := o.DB.Pool().PingContext(ctx); err != nil {
			write(w, noDatabase, nil)
			return
		}
		fmt.Fprintln(w, "ready")
	})
	pages, err := newPages(o.Web)
	if err != nil {
		return nil, err
	}
	mux.Handle("/", pages)
	// Requests that a page of another site makes are refused before anything else.
	own := http.NewCrossOriginProtection()
	own.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { write(w, foreign, nil) }))
	return &Server{Handler: o.Sessions.guarded(own.Handler(mux)), Metrics: metrics.handler(o.DB.Pool()), cleanup: o.Sessions.store.PostgresStore}, nil
}

var nothingHere = Said{Status: http.StatusNotFound, Title: "There is nothing at this address"}

var foreign = Said{Status: http.StatusForbidden, Title: "This came from a page of another site", Detail: "Open Nine Yard by its own address."}

// private keeps what the API answers out of every cache: it is about people.
func private(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}

// policy is what a page may load and do. Styles and scripts are the product's own files; nonce is for the few styles that
// dialogs and scrollers make while they are open.
const policy = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'%s; font-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; connect-src 'self'; " +
	"manifest-src 'self'; worker-src 'self'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'; object-src 'none'"

// hsts is how long a browser that came by TLS comes by nothing else, in seconds: two years.
const hsts = "max-age=63072000"

// guarded sets the headers that keep the page from being used against its user.
func (s *Sessions) guarded(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", fmt.Sprintf(policy, ""))
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), payment=(), usb=(), serial=(), display-capture=(), browsing-topics=()")
		if s.proxies.secure(r) {
			h.Set("Strict-Transport-Security", hsts)
		}
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
