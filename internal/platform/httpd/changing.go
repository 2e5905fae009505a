package httpd

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"nineyard/core/change"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// changing runs each operation in one transaction for the club of whoever is signed in. What
// is read is answered with a version of the club, and not read at all while that is what the
// client has. What is changed is appended to the log of changes, and answered as it was the
// first time when it comes again.
type changing struct {
	db  *pg.DB
	now func() time.Time
	run string // of this process: what was read from another build may differ
}

// middleware runs around every operation, after the contract has taken its request.
func (m changing) middleware(next gen.StrictHandlerFunc, operation string) gen.StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) {
		p, signedIn := c.Request.Context().Value(keyPassed).(Passed)
		var answer any
		var err error
		switch {
		case !signedIn:
			answer, err = next(c, request)
		case c.Request.Method == http.MethodGet:
			answer, err = m.read(c, p, request, next)
		case asks(operationOf(c)):
			err = m.in(c, p, func() (err error) { answer, err = next(c, request); return err })
		default:
			answer, err = m.change(c, p, request, next)
		}
		return answer, pg.Meaning(err)
	}
}

// in runs f in a transaction for the club.
func (m changing) in(c *gin.Context, p Passed, f func() error) error {
	outside := c.Request
	defer func() { c.Request = outside }()
	return m.db.InClub(outside.Context(), p.Club, func(ctx context.Context) error {
		c.Request = outside.WithContext(ctx)
		return f()
	})
}

// tag names all that an answer to p depends on: the club's latest change, the day, who asks
// and the build. It is weak, because an answer may be compressed.
func (m changing) tag(p Passed) string {
	return fmt.Sprintf(`W/"%s-%s-%s-%d"`, m.run, p.Person.String()[24:], p.Day, p.Clock)
}

func (m changing) read(c *gin.Context, p Passed, request any, next gen.StrictHandlerFunc) (answer any, err error) {
	tag := m.tag(p)
	if _, fresh := operationOf(c).Extensions["x-fresh"]; fresh {
		p.Day = "" // it changes with sessions, which are no change of the club
	}
	if p.Day != "" && strings.Contains(c.GetHeader("If-None-Match"), tag) {
		c.Header("ETag", tag)
		c.Status(http.StatusNotModified)
		c.Writer.WriteHeaderNow()
		return nil, nil
	}
	_, personal := operationOf(c).Extensions["x-personal"]
	err = m.in(c, p, func() (err error) {
		if answer, err = next(c, request); err != nil || !personal {
			return err
		}
		return m.took(c, p)
	})
	if err == nil && p.Day != "" {
		c.Header("ETag", tag)
	}
	return answer, err
}

// took writes into the log that somebody took personal data out. It changes nothing, and is known all the same.
func (m changing) took(c *gin.Context, p Passed) error {
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	now := m.now()
	_, err = changes.Append(c.Request.Context(), changes.Change{ID: id, Person: p.Person, Operation: named(operationOf(c).OperationID), Record: strings.TrimPrefix(c.Request.URL.Path, "/api/v1"),
		Digest: []byte{}, MadeAt: now, At: now, Status: http.StatusOK})
	return err
}

func (m changing) change(c *gin.Context, p Passed, request any, next gen.StrictHandlerFunc) (answer any, err error) {
	made, err := m.said(c, p)
	if err != nil {
		return nil, err
	}
	again := false
	known := func() error {
		was, found, err := changes.Find(c.Request.Context(), made.ID)
		if err != nil || !found {
			return err
		}
		again = true
		return repeat(c, was, made)
	}
	once := func() error {
		err := known()
		if err != nil || again {
			return err
		}
		if answer, err = next(c, request); err != nil {
			return err
		}
		if made.Status, made.Answer, err = written(answer); err != nil {
			return err
		}
		number, err := changes.Append(c.Request.Context(), made)
		if err == nil {
			c.Header("Change-Number", strconv.FormatInt(number, 10))
		}
		return err
	}
	err = m.in(c, p, once)
	if err != nil && !again && errors.Is(pg.Meaning(err), problem.ErrTaken) {
		// It may have been this very change that was quicker.
		if e := m.in(c, p, known); again {
			err = e
		}
	}
	if err != nil || again {
		return nil, err
	}
	return answer, nil
}

// said is what a request says of its change.
func (m changing) said(c *gin.Context, p Passed) (changes.Change, error) {
	id, err := uuid.Parse(c.GetHeader("Change-Id"))
	if err != nil {
		return changes.Change{}, badRequest{err} // the contract has refused it before
	}
	now := m.now()
	out := changes.Change{ID: id, Person: p.Person, Operation: named(operationOf(c).OperationID),
		Record: strings.TrimPrefix(c.Request.URL.Path, "/api/v1"), At: now, Digest: digest(c)}
	if device, err := uuid.Parse(c.GetHeader("Device")); err == nil {
		out.Device = &device
	}
	if v, err := Version(c.GetHeader("If-Match")); err == nil {
		out.Version = &v
	}
	out.MadeAt = change.When(moment(c, "Change-Made"), Sent(c), now)
	return out, nil
}

// moment reads a time of a header; zero when there is none.
func moment(c *gin.Context, header string) time.Time {
	t, _ := time.Parse(time.RFC3339Nano, c.GetHeader(header)) // the contract has refused what is no time
	return t
}

// Sent is when the request was sent by the clock of its device; zero when it does not say.
func Sent(ctx context.Context) time.Time {
	if c, ok := ctx.(*gin.Context); ok {
		return moment(c, "Change-Sent")
	}
	return time.Time{}
}

// Device is the device the request comes from; nil when it does not say.
func Device(ctx context.Context) *uuid.UUID {
	if c, ok := ctx.(*gin.Context); ok {
		if id, err := uuid.Parse(c.GetHeader("Device")); err == nil {
			return &id
		}
	}
	return nil
}

// Version reads the version that If-Match names.
func Version(ifMatch string) (int, error) {
	n, err := strconv.Atoi(strings.Trim(ifMatch, `"`))
	if err != nil {
		return 0, fmt.Errorf("If-Match: %w", err)
	}
	return n, nil
}

// repeat answers a change that came before; the same id with anything else is refused.
func repeat(c *gin.Context, was, now changes.Change) error {
	if was.Person != now.Person || !bytes.Equal(was.Digest, now.Digest) {
		return problem.ErrTaken
	}
	if was.Answer == nil {
		if was.Status != http.StatusNoContent {
			return problem.ErrTaken // so long ago that its answer is gone
		}
		c.Status(was.Status)
		c.Writer.WriteHeaderNow()
		return nil
	}
	c.Data(was.Status, "application/json", was.Answer)
	return nil
}

// written is what the client will read of an answer. An answer of the contract is its body;
// one that has none is an empty struct.
func written(answer any) (int, json.RawMessage, error) {
	text, err := json.Marshal(answer)
	if err != nil {
		return 0, nil, err
	}
	if string(text) == "{}" {
		return http.StatusNoContent, nil, nil
	}
	return http.StatusOK, text, nil
}

// digest is of what a change says: where, and with which body. The boundary that a form puts
// between its parts says nothing.
func digest(c *gin.Context) []byte {
	h := sha256.New()
	fmt.Fprintf(h, "%s %s\n%s\n", c.Request.Method, c.Request.URL.RequestURI(), c.GetHeader("If-Match"))
	body, _ := c.Get(keyBody)
	text, _ := body.([]byte)
	if _, params, err := mime.ParseMediaType(c.GetHeader("Content-Type")); err == nil && params["boundary"] != "" {
		for part := range bytes.SplitSeq(text, []byte(params["boundary"])) { // no copy of a large file
			h.Write(part)
		}
		return h.Sum(nil)
	}
	h.Write(text)
	return h.Sum(nil)
}

// named is an operation as the contract names it; what is generated from it capitalizes.
func named(operation string) string {
	return strings.ToLower(operation[:1]) + operation[1:]
}

func operationOf(c *gin.Context) *openapi3.Operation {
	f, _ := c.Get(keyRoute)
	return f.(found).route.Operation
}

// asks reports that an operation changes nothing of the club, though it is no GET.
func asks(op *openapi3.Operation) bool {
	_, marked := op.Extensions["x-asks"]
	return marked
}
