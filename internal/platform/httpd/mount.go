package httpd

import (
	"bytes"
	"net/http"
	"regexp"
	"strings"
)

// Mount is an address under which a feature serves a protocol of its own, which is in no contract. Whoever gets
// there is signed in, and changes something only with the session's token; the rest is the feature's to check.
type Mount struct {
	Path string // with a slash at its end
	May  string // the contract's word for who may
	http.Handler
}

// behind lets those through to a mount who may pass.
func (g *gate) behind(m Mount) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if _, _, ok := g.sessions.Person(r.Context()); !ok {
			write(w, unauthorized, nil)
			return
		}
		switch r.Method {
		case http.MethodGet, http.MethodHead, http.MethodOptions:
		default:
			if _, fits := g.token(r); !fits {
				write(w, outOfDate, nil)
				return
			}
		}
		in, refused, _ := g.admit(r.Context(), false, m.May)
		if refused != nil {
			write(w, *refused, nil)
			return
		}
		answer := &documented{ResponseWriter: w}
		m.ServeHTTP(answer, r.WithContext(in))
		answer.end(r.Method)
	})
}

// documented turns an error that a protocol words as plain text into a problem document.
type documented struct {
	http.ResponseWriter
	status int
	text   bytes.Buffer // of an error
}

// maxDetail is how much of an error's text is told, in bytes.
const maxDetail = 300

// Unwrap lets the handler reach its connection.
func (d *documented) Unwrap() http.ResponseWriter { return d.ResponseWriter }

// WriteHeader holds an error back until its text is there.
func (d *documented) WriteHeader(status int) {
	if status < http.StatusBadRequest {
		d.ResponseWriter.WriteHeader(status)
		return
	}
	d.status = status
}

// Write takes the text of an error, and passes on everything else.
func (d *documented) Write(b []byte) (int, error) {
	if d.status == 0 {
		return d.ResponseWriter.Write(b)
	}
	if room := maxDetail - d.text.Len(); room > 0 {
		d.text.Write(b[:min(room, len(b))])
	}
	return len(b), nil
}

// code is how the protocol's errors begin.
var code = regexp.MustCompile(`^ERR_\w+: `)

func (d *documented) end(method string) {
	if d.status == 0 {
		return
	}
	d.Header().Del("Content-Length")
	if method == http.MethodHead {
		d.Header().Set("Content-Type", "application/problem+json")
		d.ResponseWriter.WriteHeader(d.status)
		return
	}
	said := Said{Status: d.status, Title: "This was not taken", Detail: strings.TrimSpace(code.ReplaceAllString(d.text.String(), ""))}
	if d.status == http.StatusServiceUnavailable {
		said.RetryAfter = retryAfter
	}
	write(d.ResponseWriter, said, nil)
}
