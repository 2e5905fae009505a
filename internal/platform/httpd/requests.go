package httpd

import (
	"bytes"
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"net/http"
	"net/url"
	"runtime/debug"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"

	"nineyard/core/legible"
	"nineyard/internal/contract/gen"
)

type contextKey int

// Keys of the request's context.
const (
	keyPassed contextKey = iota // Passed, of whoever is signed in
	keyWho                      // what was read of him along with his session
)

// secretAddress has what lets somebody in in its path: it is written into no log.
const secretAddress = "/calendar/:secret"

func loggable(c *gin.Context) string {
	if c.FullPath() == "/api/v1"+secretAddress {
		return c.FullPath()
	}
	return c.Request.URL.Path
}

// logRequests writes one line a request. Addresses and cookies are not logged.
func logRequests(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		log.InfoContext(c, "request", "method", c.Request.Method, "path", loggable(c),
			"status", c.Writer.Status(), "ms", float64(time.Since(start).Microseconds())/1000)
	}
}

// recoverPanics answers a panic with 500. Gin's own recovery may log the Cookie header.
func recoverPanics(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		defer func() {
			if v := recover(); v != nil {
				if err, ok := v.(error); ok && errors.Is(err, http.ErrAbortHandler) {
					panic(v)
				}
				log.ErrorContext(c, "panic", "path", loggable(c), "value", fmt.Sprint(v), "stack", string(debug.Stack()))
				abort(c, broke)
			}
		}()
		c.Next()
	}
}

// bound gives every request its deadline. What was sent is read by then: a slow line is not the server's time.
func bound(c *gin.Context) {
	limit := deadline
	if _, long := operationOf(c).Extensions["x-long"]; long {
		limit = longer
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), limit)
	defer cancel()
	c.Request = c.Request.WithContext(ctx)
	c.Next()
}

// limitBody refuses bodies larger than any operation takes; what an operation takes is
// looked at once it is known who asks.
func limitBody(c *gin.Context) {
	if c.Request.ContentLength > maxUpload {
		abort(c, tooLarge(maxUpload))
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, maxUpload)
	c.Next()
}

// gate knows who may pass.
type gate struct {
	sessions *Sessions
	identify identify
	may      func(role, word string) bool
}

// isOpen reports that an operation needs nobody who is signed in: the contract says so of it.
func isOpen(c *gin.Context) bool {
	list := operationOf(c).Security
	return list != nil && len(*list) == 0
}

// mayOf is the word of the contract for who may do an operation; see the roles of a staff.
func mayOf(op *openapi3.Operation, method string) string {
	if word, ok := op.Extensions["x-may"].(string); ok {
		return word
	}
	if method == http.MethodGet {
		return "anyone"
	}
	return "plans"
}

var (
	unauthorized = Said{Status: http.StatusUnauthorized, Title: "Sign in first"}
	factorDue    = Said{Status: http.StatusForbidden, Title: "This club asks for a second factor", Detail: "Set one up under your name first; then everything else opens.", Field: "factor"}
	notYours     = Said{Status: http.StatusForbidden, Title: "Your role does not do this", Detail: "The head coach gives roles, under Staff."}
	outOfDate    = Said{Status: http.StatusForbidden, Title: "The page is out of date", Detail: "Reload it and try again: its request token is missing or old.", Field: "X-CSRF-Token"}
	noDatabase   = Said{Status: http.StatusServiceUnavailable, Title: "The database does not answer", Detail: "Try again in a moment. What you sent is kept once, however often it is sent.", RetryAfter: retryAfter}
)

// retryAfter is when something may be tried again that failed for a reason that passes.
const retryAfter = 3 * time.Second

// requireToken demands the session's token on every request that changes something. A visitor has no session and
// no token; that he comes from no other site's page has been looked at (see New).
func (g *gate) requireToken(c *gin.Context) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead || isOpen(c) {
		c.Next()
		return
	}
	want, fits := g.token(c.Request)
	if want == "" {
		abort(c, unauthorized)
		return
	}
	if !fits {
		abort(c, outOfDate)
		return
	}
	c.Next()
}

// token is the token of a request's session, empty without one, and whether the request brings it.
func (g *gate) token(r *http.Request) (want string, fits bool) {
	want = g.sessions.Token(r.Context())
	return want, want != "" && subtle.ConstantTimeCompare([]byte(want), []byte(r.Header.Get("X-CSRF-Token"))) == 1
}

// requirePerson reads who is signed in; everything but signing in needs that.
func (g *gate) requirePerson(c *gin.Context) {
	if isOpen(c) {
		c.Next()
		return
	}
	op := operationOf(c)
	in, refused, err := g.admit(c.Request.Context(), op.Extensions["x-own"] != nil, mayOf(op, c.Request.Method))
	if err != nil {
		_ = c.Error(err)
	}
	if refused != nil {
		abort(c, *refused)
		return
	}
	c.Request = c.Request.WithContext(in)
	c.Next()
}

// admit reads who is signed in, into the context, or says why he may not pass: own is what is done to one's own account,
// which a second factor that is owed does not keep from anybody; word is the contract's for who may.
func (g *gate) admit(ctx context.Context, own bool, word string) (in context.Context, refused *Said, err error) {
	id, says, ok := g.sessions.Person(ctx)
	if !ok {
		return ctx, &unauthorized, nil
	}
	in, passed, found, err := g.identify(ctx, id, says)
	switch {
	case err != nil:
		return ctx, &noDatabase, err
	case !found:
		return ctx, &unauthorized, nil
	case passed.FactorDue && !own:
		return ctx, &factorDue, nil
	case !g.may(passed.Role, word):
		return ctx, &notYours, nil
	}
	return context.WithValue(in, keyPassed, passed), nil, nil
}

// spec checks requests against the contract.
type spec struct{ router routers.Router }

func newSpec() (*spec, error) {
	_, router, err := Contract()
	if err != nil {
		return nil, err
	}
	return &spec{router}, nil
}

// Contract reads the contract, and finds the operation of a request in it.
func Contract() (*openapi3.T, routers.Router, error) {
	// kin-openapi's own form of a UUID stops at version 5; ours are version 7.
	openapi3.DefineStringFormatValidator("uuid", openapi3.NewRegexpFormatValidator(`^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$`))
	doc, err := gen.GetSpec()
	if err != nil {
		return nil, nil, fmt.Errorf("the contract: %w", err)
	}
	doc.Servers = openapi3.Servers{{URL: "/api/v1"}}
	router, err := gorillamux.NewRouter(doc)
	if err != nil {
		return nil, nil, fmt.Errorf("the contract: %w", err)
	}
	return doc, router, nil
}

// Keys of Gin's context.
const (
	keyRoute = "contract.route"
	keyBody  = "body" // as it was sent
)

type found struct {
	route  *routers.Route
	params map[string]string
}

const (
	jsonBody = "application/json"
	formBody = "multipart/form-data"
)

// find finds the operation of a request.
func (s *spec) find(c *gin.Context) {
	route, params, err := s.router.FindRoute(c.Request)
	if err != nil {
		status := http.StatusNotFound
		if errors.Is(err, routers.ErrMethodNotAllowed) {
			status = http.StatusMethodNotAllowed
		}
		abort(c, Said{Status: status, Title: "There is nothing at this address"})
		return
	}
	c.Set(keyRoute, found{route, params})
	c.Next()
}

// takes holds a request to what its operation takes: the content type that the contract
// names and no other, no more than its size, no NUL and no invalid UTF-8 anywhere but in a
// file. The body is read here, whole, so that a slow sender holds no transaction open.
func (s *spec) takes(c *gin.Context) {
	f, _ := c.Get(keyRoute)
	route := f.(found).route
	for _, text := range []string{c.Request.URL.Path, query(c.Request.URL.RawQuery)} {
		if r, ok := legible.Text(text); !ok {
			abort(c, Said{Status: http.StatusBadRequest, Title: "The address is not understood", Detail: unseen(r), Field: "address"})
			return
		}
	}
	if field := doubled(c.Request, route); field != "" {
		abort(c, Said{Status: http.StatusBadRequest, Title: "The address is not understood", Detail: field + " is said more than once.", Field: field})
		return
	}
	kind, _, _ := mime.ParseMediaType(c.GetHeader("Content-Type"))
	want := wanted(route.Operation)
	if want == "" {
		if c.Request.ContentLength > 0 {
			abort(c, Said{Status: http.StatusUnsupportedMediaType, Title: "This address takes no body", Field: "body"})
			return
		}
		c.Next()
		return
	}
	if kind != want {
		abort(c, Said{Status: http.StatusUnsupportedMediaType, Title: "This address takes " + want, Detail: fmt.Sprintf("The request says it is %q.", kind), Field: "Content-Type"})
		return
	}
	limit := int64(maxBody)
	if want == formBody {
		limit = maxUpload
	}
	body, err := io.ReadAll(http.MaxBytesReader(c.Writer, c.Request.Body, limit))
	var tooBig *http.MaxBytesError
	switch {
	case errors.As(err, &tooBig):
		abort(c, tooLarge(limit))
		return
	case err != nil:
		abort(c, Said{Status: http.StatusBadRequest, Title: "The request cannot be read", Field: "body"})
		return
	}
	if want == jsonBody {
		if s, ok := readable(body); !ok {
			abort(c, s)
			return
		}
	}
	c.Set(keyBody, body)
	c.Request.Body = io.NopCloser(bytes.NewReader(body))
	c.Request.ContentLength = int64(len(body))
	c.Next()
}

// doubled is a parameter that is said twice though it has one value, if any.
func doubled(r *http.Request, route *routers.Route) string {
	query := r.URL.Query()
	for _, list := range []openapi3.Parameters{route.PathItem.Parameters, route.Operation.Parameters} {
		for _, p := range list {
			said := 0
			switch p.Value.In {
			case openapi3.ParameterInQuery:
				if p.Value.Schema != nil && p.Value.Schema.Value.Type.Is("array") {
					continue
				}
				said = len(query[p.Value.Name])
			case openapi3.ParameterInHeader:
				said = len(r.Header.Values(p.Value.Name))
			}
			if said > 1 {
				return p.Value.Name
			}
		}
	}
	return ""
}

// wanted is the one content type an operation takes; empty when it takes no body.
func wanted(op *openapi3.Operation) string {
	if op.RequestBody == nil || op.RequestBody.Value == nil {
		return ""
	}
	for kind := range op.RequestBody.Value.Content {
		return kind // the contract has one each; a test holds it to that
	}
	return ""
}

// query is a query string without its escapes; one that cannot be read is as it is.
func query(raw string) string {
	text, err := url.QueryUnescape(raw)
	if err != nil {
		return raw
	}
	return text
}

// validate checks the request against the contract before it reaches a feature.
func (s *spec) validate(c *gin.Context) {
	f, _ := c.Get(keyRoute)
	route := f.(found)
	err := openapi3filter.ValidateRequest(c, &openapi3filter.RequestValidationInput{
		Request: c.Request, PathParams: route.params, Route: route.route,
		Options: &openapi3filter.Options{
			AuthenticationFunc: openapi3filter.NoopAuthenticationFunc,     // requirePerson did it
			ExcludeRequestBody: wanted(route.route.Operation) == formBody, // Upload checks its fields
		},
	})
	if err != nil {
		abort(c, contractProblem(err))
		return
	}
	c.Next()
}
