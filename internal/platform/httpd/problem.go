package httpd

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"

	"nineyard/core/invalid"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// badRequest marks an error of reading the request as the client's.
type badRequest struct{ error }

// statusGone answers nobody: who asked has gone.
const statusGone = 499

var broke = Said{Status: http.StatusInternalServerError, Title: "Something broke on the server", Detail: "It was written to the log."}

func tooLarge(limit int64) Said {
	return Said{Status: http.StatusRequestEntityTooLarge, Title: "The request is too large", Detail: fmt.Sprintf("At most %d MiB are read.", limit>>20), Field: "body"}
}

// abort ends the request with a problem document.
func abort(c *gin.Context, s Said) {
	c.Abort()
	write(c.Writer, s, nil)
}

// document is a problem document (RFC 9457), with what now stands beside it at a conflict.
type document struct {
	Status  int    `json:"status"`
	Title   string `json:"title"`
	Detail  string `json:"detail,omitempty"`
	Field   string `json:"field,omitempty"`
	Current any    `json:"current,omitempty"`
}

func write(w http.ResponseWriter, s Said, current any) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.Header().Set("Cache-Control", "no-store")
	if s.RetryAfter > 0 {
		w.Header().Set("Retry-After", fmt.Sprint(int(s.RetryAfter.Seconds())))
	}
	w.WriteHeader(s.Status)
	_ = json.NewEncoder(w).Encode(document{s.Status, s.Title, s.Detail, s.Field, current}) // the client has gone; nothing to be done
}

// worder words the errors of use cases.
type worder struct {
	feature func(error) (Said, bool)
	log     *slog.Logger
}

// answer ends the request with what an error means. What is not expected is logged and
// becomes 500; what a constraint of the database refused is logged with its cause.
func (w worder) answer(c *gin.Context, err error) {
	c.Abort()
	var stale *problem.Stale
	if errors.As(err, &stale) {
		write(c.Writer, Said{Status: http.StatusConflict, Title: stale.Error(), Detail: "Both versions are shown; nothing of yours is lost."}, stale.Current)
		return
	}
	write(c.Writer, w.word(c, err), nil)
}

func (w worder) word(c *gin.Context, err error) Said {
	var tooBig *http.MaxBytesError
	var bad badRequest
	if e, ok := invalid.As(err); ok && e.Cause != nil {
		w.log.WarnContext(c, "a constraint of the database refused what the rules let pass", "path", loggable(c), "error", e.Cause)
	}
	if s, ok := w.feature(err); ok {
		return s
	}
	if s, ok := Meaning(err); ok {
		return s
	}
	switch {
	case errors.As(err, &tooBig):
		return tooLarge(tooBig.Limit)
	case errors.As(err, &bad):
		w.log.DebugContext(c, "a request that cannot be read", "error", bad.error)
		return Said{Status: http.StatusBadRequest, Title: "The request cannot be read", Field: "body"}
	case errors.Is(c.Request.Context().Err(), context.Canceled):
		return Said{Status: statusGone, Title: "The request was given up"}
	case pg.Away(err):
		w.log.WarnContext(c, "the database does not answer", "path", loggable(c), "error", err)
		return noDatabase
	case c.Request.Context().Err() != nil:
		w.log.WarnContext(c, "given up", "path", loggable(c), "error", err)
		return Said{Status: http.StatusServiceUnavailable, Title: "This took too long and was given up", Detail: "Nothing was changed; try again.", RetryAfter: retryAfter}
	}
	w.log.ErrorContext(c, "use case failed", "path", loggable(c), "error", err)
	return broke
}

// Meaning says what the errors that all use cases share mean to whoever asked; false for
// any other.
func Meaning(err error) (Said, bool) {
	if e, ok := invalid.As(err); ok {
		return Said{Status: http.StatusUnprocessableEntity, Title: "Something in it cannot be right", Detail: e.Message, Field: e.Field}, true
	}
	switch {
	case errors.Is(err, problem.ErrNotFound):
		return Said{Status: http.StatusNotFound, Title: "There is nothing of that kind in this club"}, true
	case errors.Is(err, problem.ErrForbidden):
		return Said{Status: http.StatusForbidden, Title: "This belongs to another group's coach", Detail: "You can look at it but not change it."}, true
	case errors.Is(err, problem.ErrTaken):
		return Said{Status: http.StatusConflict, Title: "The id is used by something else", Field: "id"}, true
	}
	return Said{}, false
}

// contractProblem names the field at which a request departs from the contract.
func contractProblem(err error) Said {
	var tooBig *http.MaxBytesError
	if errors.As(err, &tooBig) {
		return tooLarge(tooBig.Limit)
	}
	field, detail := "body", "It is not JSON in the form that this address takes."
	var re *openapi3filter.RequestError
	if errors.As(err, &re) {
		if re.Parameter != nil {
			field = re.Parameter.Name
			detail = field + " is not what it should be"
			if errors.Is(re.Err, openapi3filter.ErrInvalidRequired) {
				detail = field + " is missing"
			}
			// An id or group that cannot exist is one that does not exist.
			if re.Parameter.In == openapi3.ParameterInPath {
				return Said{Status: http.StatusNotFound, Title: "There is nothing of that kind in this club", Field: field}
			}
		}
	}
	var se *openapi3.SchemaError
	if errors.As(err, &se) {
		path := jsonPath(se.JSONPointer())
		field = cmp.Or(path, field)
		if extra, ok := unknownProperty(se.Reason); ok && !strings.HasSuffix(path, extra) {
			field = strings.TrimPrefix(path+"."+extra, ".")
		}
		detail = InWords(se)
	}
	return Said{Status: http.StatusBadRequest, Title: "The request is not understood", Detail: detail, Field: field}
}

// jsonPath writes a JSON pointer as drills[1].minutes.
func jsonPath(pointer []string) string {
	var b strings.Builder
	for _, p := range pointer {
		if p != "" && strings.Trim(p, "0123456789") == "" {
			fmt.Fprintf(&b, "[%s]", p)
			continue
		}
		if b.Len() > 0 {
			b.WriteByte('.')
		}
		b.WriteString(p)
	}
	return b.String()
}

func unknownProperty(reason string) (string, bool) {
	rest, ok := strings.CutPrefix(reason, `property "`)
	if !ok {
		return "", false
	}
	name, tail, ok := strings.Cut(rest, `"`)
	return name, ok && strings.Contains(tail, "unsupported")
}
