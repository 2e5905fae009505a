package httpd

import (
	"context"
	"crypto/rand"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// Keys of the session.
const (
	keyPerson = "user_id"
	keyToken  = "csrf"
)

// within is the context the session lives in.
func within(ctx context.Context) context.Context {
	if c, ok := ctx.(*gin.Context); ok {
		return c.Request.Context()
	}
	return ctx
}

// Token is the session's request token, made on first sight.
func (s *Sessions) Token(ctx context.Context) string {
	ctx = within(ctx)
	token := s.manager.GetString(ctx, keyToken)
	if token == "" {
		token = rand.Text()
		s.manager.Put(ctx, keyToken, token)
	}
	return token
}

// Person is who the session belongs to, if anybody.
func (s *Sessions) Person(ctx context.Context) (uuid.UUID, bool) {
	id, err := uuid.Parse(s.manager.GetString(within(ctx), keyPerson))
	return id, err == nil
}

// Enter gives the session to a person, under a new session token and request token.
func (s *Sessions) Enter(ctx context.Context, person uuid.UUID) error {
	ctx = within(ctx)
	if err := s.manager.RenewToken(ctx); err != nil {
		return err
	}
	s.manager.Put(ctx, keyPerson, person.String())
	s.manager.Put(ctx, keyToken, rand.Text())
	return nil
}

// Leave ends the session.
func (s *Sessions) Leave(ctx context.Context) error { return s.manager.Destroy(within(ctx)) }

// ClientIP is the address a request comes from, past trusted proxies.
func ClientIP(ctx context.Context) string {
	if c, ok := ctx.(*gin.Context); ok {
		return c.ClientIP()
	}
	return ""
}
