package account

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base64"
	"fmt"
	"image/png"
	"strings"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"
	"github.com/pquerna/otp/totp"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// secretBytes is the length of an authenticator's secret: RFC 4226, section 4, R6 recommends 160 bits.
const secretBytes = 20

// pictureSize is the side of the picture that a camera reads, in pixels.
const pictureSize = 220

// BeginAuthenticator makes a secret for an authenticator; it counts once a code of it is shown.
func (s *Service) BeginAuthenticator(ctx context.Context, c access.Coach, password string) (contract.AuthenticatorSecret, error) {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return contract.AuthenticatorSecret{}, err
	}
	if a.TotpOn {
		return contract.AuthenticatorSecret{}, invalid.Field("password", "an authenticator is set up already; take it away first")
	}
	raw := make([]byte, secretBytes)
	_, _ = rand.Read(raw)
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Nine Yard", AccountName: a.Email, Secret: raw})
	if err != nil {
		return contract.AuthenticatorSecret{}, err
	}
	picture, err := key.Image(pictureSize, pictureSize)
	if err != nil {
		return contract.AuthenticatorSecret{}, err
	}
	var out bytes.Buffer
	if err := png.Encode(&out, picture); err != nil {
		return contract.AuthenticatorSecret{}, err
	}
	return contract.AuthenticatorSecret{Secret: access.Base32(raw), Address: key.URL(), Picture: "data:image/png;base64," + base64.StdEncoding.EncodeToString(out.Bytes())},
		s.Store.SetAuthenticator(ctx, a.ID, raw, nil)
}

// FinishAuthenticator has an authenticator count, by a code of it. Recovery codes come back where there were none.
func (s *Service) FinishAuthenticator(ctx context.Context, c access.Coach, code string) ([]string, error) {
	a, err := s.own(ctx, c)
	if err != nil {
		return nil, err
	}
	step, right := access.StepOf(code, a.TotpSecret, s.Now())
	if a.TotpOn || !right {
		return nil, invalid.Field("code", "this is not the code that the authenticator shows now; is the clock of the device right?")
	}
	if took, err := s.Access.Store.UseStep(ctx, a.ID, step); err != nil || !took {
		return nil, err
	}
	now := s.Now()
	if err := s.Store.SetAuthenticator(ctx, a.ID, a.TotpSecret, &now); err != nil {
		return nil, err
	}
	codes, err := s.firstCodes(ctx, a)
	if err != nil {
		return nil, err
	}
	return codes, s.tell(ctx, a, "An authenticator was set up", s.Sessions.Current(ctx))
}

// firstCodes makes recovery codes where none are left.
func (s *Service) firstCodes(ctx context.Context, a access.Account) ([]string, error) {
	if a.CodesLeft > 0 {
		return []string{}, nil
	}
	return s.newCodes(ctx, a.ID)
}

func (s *Service) newCodes(ctx context.Context, account uuid.UUID) ([]string, error) {
	codes, digests := make([]string, recoveryCodes), make([][]byte, recoveryCodes)
	for i := range codes {
		text := rand.Text()[:16] // 80 bits
		codes[i] = strings.Join([]string{text[:4], text[4:8], text[8:12], text[12:]}, "-")
		digests[i] = access.CodeDigest(codes[i])
	}
	return codes, s.Store.SetCodes(ctx, account, digests)
}

// DropAuthenticator takes the authenticator away.
func (s *Service) DropAuthenticator(ctx context.Context, c access.Coach, password string) error {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return err
	}
	if err := s.Store.SetAuthenticator(ctx, a.ID, nil, nil); err != nil {
		return err
	}
	return s.withoutFactor(ctx, a.ID, "The authenticator was taken away")
}

// withoutFactor tells of a factor that was taken away; recovery codes go with the last.
func (s *Service) withoutFactor(ctx context.Context, account uuid.UUID, says string) error {
	a, _, err := s.Access.Store.AccountOf(ctx, account)
	if err != nil {
		return err
	}
	if !a.HasFactor() {
		if err := s.Store.SetCodes(ctx, a.ID, nil); err != nil {
			return err
		}
	}
	return s.tell(ctx, a, says, s.Sessions.Current(ctx))
}

// RenewCodes makes new recovery codes; those of before count no more.
func (s *Service) RenewCodes(ctx context.Context, c access.Coach, password string) ([]string, error) {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return nil, err
	}
	if !a.HasFactor() {
		return nil, invalid.Field("password", "recovery codes stand in for a second factor, and there is none")
	}
	codes, err := s.newCodes(ctx, a.ID)
	if err != nil {
		return nil, err
	}
	return codes, s.notice(ctx, a, "New recovery codes were made", a.Email)
}

// BeginPasskey says what a device is asked to make a passkey.
func (s *Service) BeginPasskey(ctx context.Context, c access.Coach, password, origin string) (string, error) {
	site, err := access.Relying(origin)
	if err != nil {
		return "", err
	}
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return "", err
	}
	holder, err := s.holder(ctx, a)
	if err != nil {
		return "", err
	}
	if len(holder.Keys) >= maxPasskeys {
		return "", invalid.Field("name", "at most %d passkeys; take one away first", maxPasskeys)
	}
	asked, session, err := site.BeginRegistration(holder, webauthn.WithExclusions(webauthn.Credentials(holder.Keys).CredentialDescriptors()))
	if err != nil {
		return "", err
	}
	options, task, err := access.Tasked(asked, session)
	if err == nil {
		s.Sessions.Task(ctx, task)
	}
	return options, err
}

func (s *Service) holder(ctx context.Context, a access.Account) (access.Keyholder, error) {
	keys, err := s.Store.Passkeys(ctx, a.ID)
	return access.Keyholder{Account: a, Keys: keys}, err
}

// AddPasskey keeps a passkey that a device made. Recovery codes come back where there were none.
func (s *Service) AddPasskey(ctx context.Context, c access.Coach, name, credential, origin string) ([]string, error) {
	site, err := access.Relying(origin)
	if err != nil {
		return nil, err
	}
	session, err := access.Untasked(s.Sessions.TakeTask(ctx))
	if err != nil {
		return nil, err
	}
	parsed, err := protocol.ParseCredentialCreationResponseBytes([]byte(credential))
	if err != nil {
		return nil, access.ErrPasskey
	}
	a, err := s.own(ctx, c)
	if err != nil {
		return nil, err
	}
	holder, err := s.holder(ctx, a)
	if err != nil {
		return nil, err
	}
	made, err := site.CreateCredential(holder, session, parsed)
	if err != nil {
		return nil, access.ErrPasskey
	}
	name = strings.TrimSpace(name)
	if name == "" {
		return nil, invalid.Field("name", "say what the passkey is on")
	}
	if err := s.Store.AddKey(ctx, a.ID, name, *made, s.Now()); err != nil {
		return nil, err
	}
	codes, err := s.firstCodes(ctx, a)
	if err != nil {
		return nil, err
	}
	return codes, s.tell(ctx, a, fmt.Sprintf("A passkey was added: %s", name), s.Sessions.Current(ctx))
}

// DropPasskey takes a passkey away.
func (s *Service) DropPasskey(ctx context.Context, c access.Coach, id []byte, password string) error {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return err
	}
	if a.PasswordHash == "" && a.Passkeys == 1 {
		return invalid.Field("password", "this passkey is the only way in; choose a password first, by a link to your e-mail")
	}
	dropped, err := s.Store.DropKey(ctx, a.ID, id)
	if err != nil || !dropped {
		return err
	}
	return s.withoutFactor(ctx, a.ID, "A passkey was taken away")
}
