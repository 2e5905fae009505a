package attack

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"

	"nineyard/internal/platform/httpd"
)

// Operation is an operation of the contract.
type Operation struct {
	Method, Path string
	*openapi3.Operation
	params openapi3.Parameters
}

// Contract is what requests are made of and answers are held to.
type Contract struct {
	Operations []Operation // by path and method
	router     routers.Router
}

// Open reads the contract.
func Open() (*Contract, error) {
	doc, router, err := httpd.Contract()
	if err != nil {
		return nil, err
	}
	c := &Contract{router: router}
	for path, item := range doc.Paths.Map() {
		for method, op := range item.Operations() {
			op.OperationID = strings.ToLower(op.OperationID[:1]) + op.OperationID[1:] // as the contract has it, before anything is generated
			c.Operations = append(c.Operations, Operation{method, path, op, append(slices.Clone(item.Parameters), op.Parameters...)})
		}
	}
	slices.SortFunc(c.Operations, func(a, b Operation) int { return strings.Compare(a.Path+a.Method, b.Path+b.Method) })
	return c, nil
}

// files are what is sent as a file.
func (s *Source) file() []byte {
	all := [][]byte{nil, []byte("No,Name,Pos\n64,\"Sato, Jun\",LG\n"), []byte("drills:\n  - {key: own_bag, rep_seconds: .nan}\n"), []byte("{}"), []byte("a\x00b\n"), {0xff, 0xfe, 0, 0, 'a', 0, 0, 0}, {0xff, 0xfe, 0, 0xd8, 'a', 0},
		bytes.Repeat([]byte(","), 200_000), []byte(strings.Repeat("h", 6000) + ",Name\n1,x\n"), []byte("PK\x03\x04junk"), []byte("\"open\n\n\n\n\n\nquote,1\n"), []byte("No,Name\n1,=1+1\u202e\n"),
		[]byte("drills:\n" + strings.Repeat("- {}\n", 20_000)), []byte("a: &a [1]\nb: *a\n"), bytes.Repeat([]byte{0x80}, 4096)}
	return all[s.IntN(len(all))]
}

// Request makes a request of an operation to a server; what of it was spoiled on purpose is said.
func (s *Source) Request(base string, op Operation) (r *http.Request, spoilt bool, err error) {
	s.spoilt = false
	path, query, header := op.Path, url.Values{}, http.Header{}
	for _, p := range op.params {
		v := fmt.Sprint(s.Value(p.Value.Schema, 11))
		switch p.Value.In {
		case openapi3.ParameterInPath:
			path = strings.ReplaceAll(path, "{"+p.Value.Name+"}", url.PathEscape(v))
		case openapi3.ParameterInQuery:
			if p.Value.Required || s.IntN(2) == 0 {
				query.Add(p.Value.Name, v)
			}
			if s.Spoils > 0 && s.IntN(25) == 0 {
				query[p.Value.Name] = []string{v, v}
				s.spoilt = true
			}
		case openapi3.ParameterInHeader:
			if v = strings.Map(printable, v); p.Value.Required && v != "" {
				header.Add(p.Value.Name, v)
			}
		}
	}
	body, kind := s.body(op)
	if s.Spoils > 0 && s.IntN(25) == 0 {
		kind = []string{"application/x-www-form-urlencoded", "text/plain", "multipart/form-data; boundary=x", "", "application/json; charset=utf-16", "application/json"}[s.IntN(6)]
		s.spoilt = true
	}
	if r, err = http.NewRequest(op.Method, base+"/api/v1"+path, body); err != nil {
		return nil, s.spoilt, err
	}
	if len(query) > 0 {
		r.URL.RawQuery = query.Encode()
	}
	r.Header = header
	if kind != "" && body != nil {
		r.Header.Set("Content-Type", kind)
	}
	return r, s.spoilt, nil
}

func printable(r rune) rune {
	if r < ' ' || r > '~' {
		return -1
	}
	return r
}

// body makes a body and says what it is.
func (s *Source) body(op Operation) (io.Reader, string) {
	if op.RequestBody == nil {
		return nil, ""
	}
	if m, ok := op.RequestBody.Value.Content["application/json"]; ok {
		v := s.Value(m.Schema, 0)
		text, err := json.Marshal(v)
		if err != nil {
			text = []byte(`{"x": 1e999}`)
		}
		if s.Spoils > 0 && s.IntN(20) == 0 {
			s.spoilt = true
			text = [][]byte{text[:len(text)/2], []byte("{"), []byte(`"\u0000"`), []byte("[[[[[["), nil, append(text, text...), bytes.ReplaceAll(text, []byte("a"), []byte{0xff})}[s.IntN(7)]
		}
		return bytes.NewReader(text), "application/json"
	}
	var out bytes.Buffer
	w := multipart.NewWriter(&out)
	schema := op.RequestBody.Value.Content["multipart/form-data"].Schema
	for name, p := range schema.Value.Properties {
		if name == "file" {
			f, err := w.CreateFormFile("file", "list.csv")
			if err == nil {
				_, _ = f.Write(s.file())
			}
			continue
		}
		_ = w.WriteField(name, fmt.Sprint(s.Value(p, 11)))
	}
	_ = w.Close()
	return &out, w.FormDataContentType()
}

// Check says what is wrong with an answer, in the contract's terms: a status that is none of ours, a body that is not what
// the contract says, a problem that is no problem document. Nothing is wrong when it is empty.
func (c *Contract) Check(r *http.Request, status int, header http.Header, body []byte) string {
	switch {
	case status >= 500 && status != http.StatusServiceUnavailable:
		return fmt.Sprintf("status %d", status)
	case status >= 400:
		if kind := header.Get("Content-Type"); kind != "application/problem+json" {
			return fmt.Sprintf("status %d as %q", status, kind)
		}
		var p struct {
			Title  string
			Status int
		}
		if json.Unmarshal(body, &p) != nil || p.Title == "" || p.Status != status {
			return "no problem document: " + string(body[:min(len(body), 200)])
		}
		for _, word := range []string{"sql", "SQLSTATE", "goroutine", "json:", "yaml:", "strconv", "reflect", "openapi", "invalid character", "unmarshal"} {
			if strings.Contains(string(body), word) {
				return "the program's own words: " + string(body[:min(len(body), 300)])
			}
		}
		return ""
	}
	route, params, err := c.router.FindRoute(r)
	if err != nil {
		return "answered though the contract has no such address"
	}
	if kind := header.Get("Content-Type"); len(body) == 0 || !strings.HasPrefix(kind, "application/json") {
		return ""
	}
	err = openapi3filter.ValidateResponse(context.Background(), &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: r, PathParams: params, Route: route, Options: &openapi3filter.Options{AuthenticationFunc: openapi3filter.NoopAuthenticationFunc}},
		Status:                 status, Header: header, Body: io.NopCloser(bytes.NewReader(body)), Options: &openapi3filter.Options{IncludeResponseStatus: false}})
	if err != nil {
		return "not what the contract says: " + err.Error()[:min(len(err.Error()), 300)]
	}
	return ""
}
