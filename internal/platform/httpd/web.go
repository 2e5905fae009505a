package httpd

import (
	"io/fs"
	"net/http"
	"path"
	"strings"
)

// web serves the built front end. Files with a hash in their name are kept by the
// browser for ever; every address that is not a file gets the page, whose router
// knows it or shows its own 404.
func web(files fs.FS) http.Handler {
	server := http.FileServerFS(files)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "method not allowed", http.StatusMethodNotAllowed)
			return
		}
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if info, err := fs.Stat(files, name); name != "" && err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") {
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			if zipped, err := fs.Stat(files, name+".gz"); err == nil && strings.Contains(r.Header.Get("Accept-Encoding"), "gzip") {
				serveZipped(w, r, files, name, zipped)
				return
			}
			server.ServeHTTP(w, r)
			return
		}
		if strings.HasPrefix(name, "assets/") {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Cache-Control", "no-cache")
		page := "index.html"
		if _, err := fs.Stat(files, page); err != nil {
			page = "placeholder.html"
		}
		http.ServeFileFS(w, r, files, page)
	})
}

// serveZipped answers with the compressed twin made when the front end was built.
func serveZipped(w http.ResponseWriter, r *http.Request, files fs.FS, name string, info fs.FileInfo) {
	data, err := fs.ReadFile(files, name+".gz")
	if err != nil {
		http.NotFound(w, r)
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
