package access

import (
	"context"
	"encoding/json"
	"errors"
	"net"
	"net/url"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"
)

// What passkeys may answer with.
var (
	ErrPasskey      = errors.New("the passkey is not taken")
	ErrPasskeyPlace = errors.New("passkeys need a host with a name")
)

// PasskeyStore keeps the passkeys of accounts.
type PasskeyStore interface {
	// Passkeys reads those of an account, as the library of passkeys writes them.
	Passkeys(ctx context.Context, account uuid.UUID) ([]webauthn.Credential, error)
	// UsePasskey keeps what has become of one that was used.
	UsePasskey(ctx context.Context, account uuid.UUID, c webauthn.Credential) error
}

// Relying is this site, as passkeys are bound to it: by the name of its host. It is ErrPasskeyPlace where the host has none.
func Relying(origin string) (*webauthn.WebAuthn, error) {
	u, err := url.Parse(origin)
	if err != nil || u.Hostname() == "" || net.ParseIP(u.Hostname()) != nil {
		return nil, ErrPasskeyPlace
	}
	return webauthn.New(&webauthn.Config{RPID: u.Hostname(), RPDisplayName: "Nine Yard", RPOrigins: []string{origin},
		AuthenticatorSelection: protocol.AuthenticatorSelection{ResidentKey: protocol.ResidentKeyRequirementRequired, UserVerification: protocol.VerificationRequired}})
}

// Keyholder is an account as the library of passkeys asks for one.
type Keyholder struct {
	Account Account
	Keys    []webauthn.Credential
}

// WebAuthnID is the account's id.
func (k Keyholder) WebAuthnID() []byte { return k.Account.ID[:] }

// WebAuthnName is the account's e-mail.
func (k Keyholder) WebAuthnName() string { return k.Account.Email }

// WebAuthnDisplayName is the account's name.
func (k Keyholder) WebAuthnDisplayName() string { return k.Account.Name }

// WebAuthnCredentials are the account's passkeys.
func (k Keyholder) WebAuthnCredentials() []webauthn.Credential { return k.Keys }

// PasskeyTask is what any passkey of this site is to sign: what the browser is asked, and what must be kept of it.
func (s *Service) PasskeyTask(origin string) (options string, task []byte, err error) {
	site, err := Relying(origin)
	if err != nil {
		return "", nil, err
	}
	asked, session, err := site.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
	if err != nil {
		return "", nil, err
	}
	return Tasked(asked, session)
}

// Tasked writes what is asked of a browser and what is kept of it.
func Tasked(asked any, session *webauthn.SessionData) (options string, task []byte, err error) {
	text, err := json.Marshal(asked)
	if err != nil {
		return "", nil, err
	}
	task, err = json.Marshal(session)
	return string(text), task, err
}

// Untasked reads what was kept by Tasked; ErrPasskey where nothing was.
func Untasked(task []byte) (session webauthn.SessionData, err error) {
	if len(task) == 0 || json.Unmarshal(task, &session) != nil {
		err = ErrPasskey
	}
	return session, err
}

// ByPasskey finds whose passkey has signed a task. A counter that goes backwards says that the passkey was copied: it is
// then refused.
func (s *Service) ByPasskey(ctx context.Context, origin string, task []byte, credential, ip string) (uuid.UUID, error) {
	site, err := Relying(origin)
	if err != nil {
		return uuid.Nil, err
	}
	session, err := Untasked(task)
	if err != nil {
		return uuid.Nil, err
	}
	parsed, err := protocol.ParseCredentialRequestResponseBytes([]byte(credential))
	if err != nil {
		return uuid.Nil, ErrPasskey
	}
	var broke error
	var holder Keyholder
	_, used, err := site.ValidatePasskeyLogin(func(_, handle []byte) (webauthn.User, error) {
		id, err := uuid.FromBytes(handle)
		if err != nil {
			return nil, err
		}
		found := false
		if holder.Account, found, broke = s.Store.AccountOf(ctx, id); broke == nil && found {
			holder.Keys, broke = s.Passkeys.Passkeys(ctx, id)
		}
		return holder, errors.Join(broke, errIf(!found))
	}, session, parsed)
	switch {
	case broke != nil:
		return uuid.Nil, broke
	case err != nil || used.Authenticator.CloneWarning:
		s.log(ctx, "passkey refused", holder.Account.ID, ip)
		return uuid.Nil, ErrPasskey
	}
	s.log(ctx, "came in by a passkey", holder.Account.ID, ip)
	return holder.Account.ID, s.Passkeys.UsePasskey(ctx, holder.Account.ID, *used)
}

func errIf(missing bool) error {
	if missing {
		return ErrPasskey
	}
	return nil
}
