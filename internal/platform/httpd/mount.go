package httpd

import "net/http"

// Mount is an address under which a feature serves a protocol of its own, which is in no contract. Whoever gets
// there is signed in, and changes something only with the session's token; the rest is the feature's to check.
type Mount struct {
	Path string // with a slash at its end
	http.Handler
}

// behind lets those through to a mount who may pass.
func (g *gate) behind(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		person, says, ok := g.sessions.Person(r.Context())
		if !ok {
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
		in, _, found, err := g.identify(r.Context(), person, says)
		switch {
		case err != nil:
			write(w, noDatabase, nil)
		case !found:
			write(w, unauthorized, nil)
		default:
			next.ServeHTTP(w, r.WithContext(in))
		}
	})
}
