// Package httpapi is the HTTP side: sessions, validation against the contract, errors
// as problem documents, and handlers of a few lines that call the use cases.
package httpapi
