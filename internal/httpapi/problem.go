package httpapi

import (
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
	"nineyard/internal/app"
	"nineyard/internal/contract"
)

// badRequest marks an error of reading the request as the client's.
type badRequest struct{ error }

func problem(status int, title, detail, field string) contract.Problem {
	p := contract.Problem{Status: status, Title: title}
	if detail != "" {
		p.Detail = &detail
	}
	if field != "" {
		p.Field = &field
	}
	return p
}

func unauthorized() contract.Problem {
	return problem(http.StatusUnauthorized, "Sign in first", "", "")
}

func tooLarge(limit int64) contract.Problem {
	return problem(http.StatusRequestEntityTooLarge, "The request is too large", fmt.Sprintf("At most %d MiB are read.", limit>>20), "body")
}

// abort ends the request with a problem document.
func abort(c *gin.Context, p contract.Problem) {
	c.Abort()
	writeProblem(c.Writer, p)
}

func writeProblem(w http.ResponseWriter, p any) {
	status := http.StatusConflict
	if q, ok := p.(contract.Problem); ok {
		status = q.Status
	}
	w.Header().Set("Content-Type", "application/problem+json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(p) // the client has gone; nothing to be done
}

// problemOf words an error of a use case. What is not expected is logged and becomes 500.
func problemOf(c *gin.Context, log *slog.Logger, err error) contract.Problem {
	var tooBig *http.MaxBytesError
	var bad badRequest
	if e, ok := invalid.As(err); ok {
		return problem(http.StatusUnprocessableEntity, "Something in it cannot be right", e.Message, e.Field)
	}
	switch {
	case errors.Is(err, app.ErrNotFound):
		return problem(http.StatusNotFound, "There is nothing of that kind in this club", "", "")
	case errors.Is(err, app.ErrForbidden):
		return problem(http.StatusForbidden, "This belongs to another group's coach", "You can look at it but not change it.", "")
	case errors.Is(err, app.ErrCredentials):
		return problem(http.StatusUnauthorized, "E-mail or password is wrong", "", "password")
	case errors.Is(err, app.ErrTooManyTries):
		c.Header("Retry-After", "900")
		return problem(http.StatusTooManyRequests, "Too many tries", "Wait a quarter of an hour and try again.", "email")
	case errors.Is(err, app.ErrNoPractice):
		return problem(http.StatusUnprocessableEntity, "No practice to come has an individual period of this group", "", "group")
	case errors.Is(err, app.ErrIDTaken):
		return problem(http.StatusConflict, "The id is used by something else", "", "id")
	case errors.As(err, &tooBig):
		return tooLarge(tooBig.Limit)
	case errors.As(err, &bad):
		return problem(http.StatusBadRequest, "The request cannot be read", bad.Error(), "body")
	case c.Request.Context().Err() != nil:
		return problem(499, "The request was given up", "", "")
	}
	log.ErrorContext(c, "use case failed", "path", c.Request.URL.Path, "error", err)
	return problem(http.StatusInternalServerError, "Something broke on the server", "It was written to the log.", "")
}

// contractProblem names the field at which a request departs from the contract.
func contractProblem(err error) contract.Problem {
	var tooBig *http.MaxBytesError
	if errors.As(err, &tooBig) {
		return tooLarge(tooBig.Limit)
	}
	field, detail := "body", err.Error()
	var re *openapi3filter.RequestError
	if errors.As(err, &re) {
		detail = re.Reason
		if re.Parameter != nil {
			field = re.Parameter.Name
			if detail == "" {
				detail = field + " is not what it should be"
			}
			// An id or group that cannot exist is one that does not exist.
			if re.Parameter.In == openapi3.ParameterInPath {
				return problem(http.StatusNotFound, "There is nothing of that kind in this club", "", field)
			}
		}
	}
	var se *openapi3.SchemaError
	if errors.As(err, &se) {
		detail = se.Reason
		if path := jsonPath(se.JSONPointer()); path != "" {
			field = path
		}
		if extra, ok := unknownProperty(se.Reason); ok {
			field, detail = extra, extra+" is not a field here"
			if path := jsonPath(se.JSONPointer()); path != "" && !strings.HasSuffix(path, extra) {
				field = path + "." + extra
			}
		}
	}
	if detail == "" {
		detail = "the request is not what the contract says"
	}
	return problem(http.StatusBadRequest, "The request is not understood", detail, field)
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
