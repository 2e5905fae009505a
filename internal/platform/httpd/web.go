package httpd

import (
	"bytes"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"path"
	"strings"
	"time"
)

// nonceMark stands in the page where the nonce of each answer goes: see policy.
const nonceMark = "__NONCE__"

// pages serves the built front end.
type pages struct {
	files fs.FS
	page  []byte
}

func newPages(files fs.FS) (*pages, error) {
	for _, name := range []string{"index.html", "placeholder.html"} {
		page, err := fs.ReadFile(files, name)
		if err == nil {
			return &pages{files, page}, nil
		}
		if !errors.Is(err, fs.ErrNotExist) {
			return nil, fmt.Errorf("the front end: %w", err)
		}
	}
	return &pages{files: files}, nil // as in tests of the API
}

// ServeHTTP serves files; those with a hash in their name are kept by the browser for ever. Every address that is not a
// file gets the page, whose router knows it or shows its own 404.
func (p *pages) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		w.Header().Set("Allow", "GET, HEAD")
		write(w, Said{Status: http.StatusMethodNotAllowed, Title: "This method is not allowed here"}, nil)
		return
	}
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if info, err := fs.Stat(p.files, name); name != "" && name != "index.html" && err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		if zipped, err := fs.Stat(p.files, name+".gz"); err == nil && strings.Contains(r.Header.Get("Accept-Encoding"), "gzip") {
			serveZipped(w, r, p.files, name, zipped)
			return
		}
		http.ServeFileFS(w, r, p.files, name)
		return
	}
	if strings.HasPrefix(name, "assets/") || p.page == nil {
		write(w, nothingHere, nil)
		return
	}
	nonce := rand.Text()
	w.Header().Set("Content-Security-Policy", fmt.Sprintf(policy, " 'nonce-"+nonce+"'"))
	w.Header().Set("Cache-Control", "no-cache")
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	http.ServeContent(w, r, "", time.Time{}, bytes.NewReader(bytes.ReplaceAll(p.page, []byte(nonceMark), []byte(nonce))))
}

// serveZipped answers with the compressed twin made when the front end was built.
func serveZipped(w http.ResponseWriter, r *http.Request, files fs.FS, name string, info fs.FileInfo) {
	data, err := fs.ReadFile(files, name+".gz")
	if err != nil {
		write(w, nothingHere, nil)
		return
	}
	types := map[string]string{".js": "text/javascript; charset=utf-8", ".css": "text/css; charset=utf-8", ".svg": "image/svg+xml", ".wasm": "application/wasm"}
	if t, ok := types[path.Ext(name)]; ok {
		w.Header().Set("Content-Type", t)
	}
	w.Header().Set("Content-Encoding", "gzip")
	w.Header().Add("Vary", "Accept-Encoding")
	http.ServeContent(w, r, "", info.ModTime(), strings.NewReader(string(data)))
}
