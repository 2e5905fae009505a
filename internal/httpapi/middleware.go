package httpapi

import (
	"crypto/subtle"
	"errors"
	"fmt"
	"log/slog"
	"mime"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"nineyard/internal/app"
	"nineyard/internal/httpapi/gen"
)

// Keys of the session and of the request's context.
const (
	keyUser  = "user_id"
	keyCSRF  = "csrf"
	keyActor = "actor"
)

// logRequests writes one line a request. Addresses and cookies are not logged.
func logRequests(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		log.InfoContext(c, "request", "method", c.Request.Method, "path", c.Request.URL.Path,
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
				log.ErrorContext(c, "panic", "path", c.Request.URL.Path, "value", fmt.Sprint(v), "stack", string(debug.Stack()))
				abort(c, problem(http.StatusInternalServerError, "Something broke on the server", "It was written to the log.", ""))
			}
		}()
		c.Next()
	}
}

// limitBody refuses bodies larger than the request may carry.
func limitBody(c *gin.Context) {
	limit := int64(maxBody)
	if kind, _, _ := mime.ParseMediaType(c.ContentType()); kind == "multipart/form-data" {
		limit = maxUpload
	}
	if c.Request.ContentLength > limit {
		abort(c, tooLarge(limit))
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}

func isOpen(c *gin.Context) bool {
	switch strings.TrimPrefix(c.FullPath(), "/api/v1") {
	case "/demo/staff", "/demo/session":
		return true
	case "/session":
		return c.Request.Method != http.MethodDelete
	}
	return false
}

// requireCSRF demands the session's token on every request that changes something.
func (h *handlers) requireCSRF(c *gin.Context) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		c.Next()
		return
	}
	want := h.sessions.GetString(c.Request.Context(), keyCSRF)
	got := c.GetHeader("X-CSRF-Token")
	if want == "" && !isOpen(c) {
		abort(c, unauthorized())
		return
	}
	if want == "" || subtle.ConstantTimeCompare([]byte(want), []byte(got)) != 1 {
		abort(c, problem(http.StatusForbidden, "The page is out of date", "Reload it and try again: its request token is missing or old.", "X-CSRF-Token"))
		return
	}
	c.Next()
}

// requireActor reads who is signed in; everything but signing in needs that.
func (h *handlers) requireActor(c *gin.Context) {
	if isOpen(c) {
		c.Next()
		return
	}
	id, err := uuid.Parse(h.sessions.GetString(c.Request.Context(), keyUser))
	if err != nil {
		abort(c, unauthorized())
		return
	}
	actor, err := h.service.Actor(c, id)
	switch {
	case errors.Is(err, app.ErrNotFound):
		abort(c, unauthorized())
	case err != nil:
		_ = c.Error(err)
		abort(c, problem(http.StatusServiceUnavailable, "The database does not answer", "Nothing was changed; try again.", ""))
	default:
		c.Set(keyActor, actor)
		c.Next()
	}
}

// validator checks every request against the contract before it reaches a handler.
func validator() (gin.HandlerFunc, error) {
	// kin-openapi's own form of a UUID stops at version 5; ours are version 7.
	openapi3.DefineStringFormatValidator("uuid", openapi3.NewRegexpFormatValidator(`^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$`))
	spec, err := gen.GetSpec()
	if err != nil {
		return nil, fmt.Errorf("the contract: %w", err)
	}
	spec.Servers = openapi3.Servers{{URL: "/api/v1"}}
	router, err := gorillamux.NewRouter(spec)
	if err != nil {
		return nil, fmt.Errorf("the contract: %w", err)
	}
	return func(c *gin.Context) {
		route, params, err := router.FindRoute(c.Request)
		if err != nil {
			status := http.StatusNotFound
			if errors.Is(err, routers.ErrMethodNotAllowed) {
				status = http.StatusMethodNotAllowed
			}
			abort(c, problem(status, "There is nothing at this address", "", ""))
			return
		}
		kind, _, _ := mime.ParseMediaType(c.ContentType())
		err = openapi3filter.ValidateRequest(c, &openapi3filter.RequestValidationInput{
			Request: c.Request, PathParams: params, Route: route,
			Options: &openapi3filter.Options{
				AuthenticationFunc: openapi3filter.NoopAuthenticationFunc, // requireActor did it
				ExcludeRequestBody: kind == "multipart/form-data",         // streamed, and checked by its use case
			},
		})
		if err != nil {
			abort(c, contractProblem(err))
			return
		}
		c.Next()
	}, nil
}
