// Package httpd is the HTTP surface beneath every feature: sessions, the checks a request
// passes before it reaches a feature, problem documents, and the built front end.
//
// A request passes, in this order: cross-origin check, security headers, deadline, body
// limit, request token (for changes), session, what the operation takes (content type, no
// NUL, valid UTF-8), the contract, and then the feature, inside one transaction for the
// club of whoever is signed in. It knows no feature: the program hands it the operations
// and a way to find out who is signed in.
package httpd
