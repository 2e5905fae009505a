package product_test

import (
	"context"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
)

const (
	aLink = "ab2cdefghijklmnopqrstuvwxyzab2cdefghijklmnopqrstuvwx"
	bLink = "zz2cdefghijklmnopqrstuvwxyzab2cdefghijklmnopqrstuvwx"
	words = "gravel heron umbrella"
)

// takes sends a request, expects a status and returns the body.
func (s *site) takes(status int, method, path string, body any, headers ...string) string {
	s.t.Helper()
	got, text := s.do(method, path, body, append([]string{"Origin", s.server.URL}, headers...)...)
	require.Equal(s.t, status, got, "%s %s: %s", method, path, text)
	return text
}

// enters keeps the session that an answer describes.
func (s *site) enters(text string) contract.Session {
	s.t.Helper()
	session := read[contract.Session](s.t, text)
	s.csrf = session.Csrf
	return session
}

func (s *site) staff() contract.Staff {
	s.t.Helper()
	var v contract.Staff
	s.get("/staff", &v)
	return v
}

func (s *site) member(email string) contract.Member {
	s.t.Helper()
	for _, m := range s.staff().Members {
		if m.Email == email {
			return m
		}
	}
	s.t.Fatal("nobody is", email)
	return contract.Member{}
}

// letter is the latest letter to somebody, and the secret in it.
func (s *site) letter(to string) (contract.Letter, string) {
	s.t.Helper()
	var list []contract.Letter
	s.get("/demo/outbox", &list)
	for _, l := range list {
		if l.To == to {
			m := regexp.MustCompile(`#([a-z2-7]{52})`).FindStringSubmatch(l.Body)
			if m == nil {
				return l, ""
			}
			return l, m[1]
		}
	}
	s.t.Fatal("no letter to", to)
	return contract.Letter{}, ""
}

func invited(email, role, secret string, groups ...string) map[string]any {
	return map[string]any{"email": email, "name": "N. Aide", "title": "Line", "role": role, "groups": append([]string{}, groups...), "secret": secret}
}

// TestAStaffIsAskedInByALink: once, until it runs out or is taken back, by nobody but the head coach.
func TestAStaffIsAskedInByALink(t *testing.T) {
	head := open(t).signIn(demo.HeadCoachEmail)
	line := head.visitor().signIn(demo.LineCoachEmail)
	line.takes(http.StatusForbidden, "GET", "/staff", nil)
	line.takes(http.StatusForbidden, "PUT", "/staff/invites/"+made(), invited("n@aide.example", "head", aLink))
	for field, body := range map[string]map[string]any{
		"email":  invited("nobody", "coach", aLink, "ol"),
		"role":   invited("n@aide.example", "owner", aLink, "ol"),
		"groups": invited("n@aide.example", "assistant", aLink),
	} {
		status, text := head.do("PUT", "/staff/invites/"+made(), body)
		assert.Contains(t, []int{400, 422}, status, text)
		assert.Equal(t, field, *problem(t, text).Field)
	}
	id := made()
	asked := read[contract.Invited](t, head.takes(200, "PUT", "/staff/invites/"+id, invited("N@Aide.example", "assistant", aLink, "ol")))
	assert.True(t, asked.Mailed)
	letter, secret := head.letter("n@aide.example")
	assert.Equal(t, aLink, secret)
	assert.Contains(t, letter.Body, head.server.URL+"/join#")
	assert.Zero(t, head.count(`SELECT count(*)::int AS n FROM invites WHERE digest = convert_to(@s, 'UTF8')`, pg.Args{"s": aLink}), "of the secret the digest is kept")
	assert.Zero(t, head.count(`SELECT count(*)::int AS n FROM changes WHERE answer::text LIKE '%' || @s || '%' OR record LIKE '%' || @s || '%'`, pg.Args{"s": aLink}))
	require.Len(t, head.staff().Invites, 1)

	guest := head.visitor()
	offer := read[contract.Offer](t, guest.takes(200, "POST", "/join/look", map[string]any{"secret": aLink}))
	assert.Equal(t, []any{"Marrow Point Lamplighters", "n@aide.example", contract.Role("assistant"), false}, []any{offer.Club, offer.Email, offer.Role, offer.Known})
	guest.takes(http.StatusUnprocessableEntity, "POST", "/join/look", map[string]any{"secret": bLink})
	for _, weak := range []string{"short", "passwordpassword", "naide lamplighters 1", "aaaaaaaaaaaaaaaaaaaa"} {
		text := guest.takes(http.StatusUnprocessableEntity, "POST", "/join", map[string]any{"secret": aLink, "name": "N. Aide", "password": weak})
		assert.Equal(t, "password", *problem(t, text).Field, weak)
	}
	session := guest.enters(guest.takes(200, "POST", "/join", map[string]any{"secret": aLink, "name": "N. Aide", "password": words}))
	assert.Equal(t, []any{contract.UserRole("assistant"), []string{"ol"}}, []any{session.User.Role, session.User.Groups})
	guest.takes(200, "GET", "/frame", nil)
	head.visitor().takes(http.StatusUnprocessableEntity, "POST", "/join", map[string]any{"secret": aLink, "name": "X", "password": words + " too"})
	assert.Empty(t, head.staff().Invites)

	// One that is taken back, and one that has run out.
	id = made()
	head.takes(200, "PUT", "/staff/invites/"+id, invited("m@aide.example", "reader", bLink))
	head.takes(204, "DELETE", "/staff/invites/"+id, nil)
	head.visitor().takes(http.StatusUnprocessableEntity, "POST", "/join", map[string]any{"secret": bLink, "name": "M", "password": words})
	third := strings.Replace(bLink, "zz", "yy", 1)
	head.takes(200, "PUT", "/staff/invites/"+made(), invited("m@aide.example", "reader", third))
	require.NoError(t, head.exec(`UPDATE invites SET expires_at = now() - interval '1 second' WHERE email = 'm@aide.example'`, nil))
	head.visitor().takes(http.StatusUnprocessableEntity, "POST", "/join/look", map[string]any{"secret": third})

	// The assistant plans and marks in his group, and no more.
	_, own := guest.tonight()
	guest.takes(200, "PUT", "/periods/"+own.ID.String()+"/placements", map[string]any{"version": own.Version, "placements": []any{}})
	guest.takes(http.StatusForbidden, "PUT", "/roster/players/"+made(), map[string]any{"version": 0, "jersey": "1", "first_name": "A", "last_name": "B", "groups": []string{"ol"}, "position": "LG", "returning": false, "archived": false})
	guest.takes(http.StatusForbidden, "POST", "/players/"+head.world.Players[0].ID.String()+"/overrides", map[string]any{})
}

// TestAStaffIsChanged: roles, groups, kept out for a while, taken off; the last head coach stays one.
func TestAStaffIsChanged(t *testing.T) {
	head := open(t).signIn(demo.HeadCoachEmail)
	line := head.visitor().signIn(demo.LineCoachEmail)
	m := head.member(demo.LineCoachEmail)
	assert.Equal(t, 1, m.Sessions)
	in := func(version int, role string, suspended bool, groups ...string) map[string]any {
		return map[string]any{"version": version, "title": "Line", "role": role, "groups": append([]string{}, groups...), "suspended": suspended}
	}
	at := "/staff/" + m.ID.String()
	now := read[contract.Member](t, head.takes(200, "PUT", at, in(m.Version, "coach", false, "te", "ol")))
	assert.Equal(t, []any{[]string{"ol", "te"}, m.Version + 1}, []any{now.Groups, now.Version})
	head.takes(200, "PUT", at, in(m.Version, "coach", false, "ol", "te")) // the same again
	status, text := head.do("PUT", at, in(m.Version, "reader", false))
	assert.Equal(t, http.StatusConflict, status, text)
	now = read[contract.Member](t, head.takes(200, "PUT", at, in(now.Version, "reader", false)))
	line.takes(200, "GET", "/groups/ol/players?week=7", nil)
	line.takes(http.StatusForbidden, "POST", "/marks", map[string]any{"marks": []any{}})
	now = read[contract.Member](t, head.takes(200, "PUT", at, in(now.Version, "health", false)))
	line.takes(http.StatusForbidden, "GET", "/groups/ol/players?week=7", nil)
	line.takes(200, "GET", "/roster/players", nil)

	now = read[contract.Member](t, head.takes(200, "PUT", at, in(now.Version, "coach", true, "ol")))
	assert.True(t, now.Suspended)
	line.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	out := head.visitor()
	status, text = out.do("POST", "/session", map[string]string{"email": demo.LineCoachEmail, "password": demo.Password})
	assert.Equal(t, http.StatusForbidden, status, text)
	now = read[contract.Member](t, head.takes(200, "PUT", at, in(now.Version, "coach", false, "ol")))
	line = head.visitor().signIn(demo.LineCoachEmail)
	head.takes(204, "DELETE", at+"/sessions", nil)
	line.takes(http.StatusUnauthorized, "GET", "/frame", nil)

	me := head.member(demo.HeadCoachEmail)
	for _, body := range []map[string]any{in(me.Version, "coach", false, "ol"), in(me.Version, "head", true)} {
		head.takes(http.StatusUnprocessableEntity, "PUT", "/staff/"+me.ID.String(), body)
	}
	head.takes(http.StatusUnprocessableEntity, "DELETE", "/staff/"+me.ID.String(), nil)
	head.takes(200, "PUT", at, in(now.Version, "head", false))
	second := head.visitor().signIn(demo.LineCoachEmail)
	second.takes(204, "DELETE", "/staff/"+me.ID.String(), nil)
	head.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	assert.Positive(t, head.count(`SELECT count(*)::int AS n FROM users WHERE name = 'M. Orrin' AND removed_at IS NOT NULL`, nil), "what he made stays under his name")
	second.takes(http.StatusNotFound, "DELETE", "/staff/"+me.ID.String(), nil)
	kept := second.takes(200, "GET", "/account/export", nil)
	assert.Contains(t, kept, demo.LineCoachEmail)
	assert.NotContains(t, kept, "argon2id")
	second.takes(http.StatusNotFound, "POST", "/staff/"+m.ID.String()+"/erase", nil) // who is here keeps his name
	require.Len(t, second.staff().Former, 1)
	second.takes(204, "POST", "/staff/"+me.ID.String()+"/erase", nil)
	second.takes(404, "POST", "/staff/"+made()+"/erase", nil)
	assert.Empty(t, second.staff().Former)
	assert.Zero(t, second.count(`SELECT count(*)::int AS n FROM users WHERE name = 'M. Orrin'`, nil)+second.count(`SELECT count(*)::int AS n FROM accounts WHERE email = 'm.orrin@lamplighters.example'`, nil))
	gone := head.visitor()
	status, _ = gone.do("POST", "/session", map[string]string{"email": demo.HeadCoachEmail, "password": demo.Password})
	assert.Equal(t, http.StatusUnauthorized, status)
	second.takes(http.StatusUnprocessableEntity, "DELETE", at, nil)
}

// TestSeveralClubsWithOneEmail: whoever has an account joins as it, and goes from club to club.
func TestSeveralClubsWithOneEmail(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Dunmere Otters", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Tarn", Email: "o@otters.example", Password: words})
	theirs := s.visitor()
	theirs.enters(theirs.takes(200, "POST", "/session", map[string]string{"email": "o@otters.example", "password": words}))
	theirs.takes(200, "PUT", "/staff/invites/"+made(), invited(demo.LineCoachEmail, "coach", aLink, "ol"))
	guest := s.visitor()
	offer := read[contract.Offer](t, guest.takes(200, "POST", "/join/look", map[string]any{"secret": aLink}))
	assert.True(t, offer.Known)
	assert.False(t, offer.SignedIn)
	guest.takes(http.StatusUnprocessableEntity, "POST", "/join", map[string]any{"secret": aLink, "name": "R. Kell", "password": words})
	other := s.visitor().signIn(demo.HeadCoachEmail)
	other.takes(http.StatusUnprocessableEntity, "POST", "/join", map[string]any{"secret": aLink}, "X-CSRF-Token", other.csrf)
	line := s.visitor().signIn(demo.LineCoachEmail)
	here := line.enters(line.takes(200, "POST", "/join", map[string]any{"secret": aLink}))
	var frame contract.Frame
	line.get("/frame", &frame)
	assert.Equal(t, "Dunmere Otters", frame.Club)
	require.Len(t, *here.Clubs, 2)
	for _, c := range *here.Clubs {
		if !c.Here {
			line.takes(200, "POST", "/session/club", map[string]any{"member": c.Member})
			line.get("/frame", &frame)
			assert.Equal(t, c.Club, frame.Club)
		}
	}
	line.takes(http.StatusNotFound, "POST", "/session/club", map[string]any{"member": s.world.Users[0].ID})
	line.takes(204, "PUT", "/account", map[string]any{"name": "Ro Kell"})
	assert.Equal(t, 2, s.count(`SELECT count(*)::int AS n FROM users WHERE name = 'Ro Kell'`, nil), "his name is his in both")
}

// TestOnesOwnAccount: password, e-mail, sessions; whoever has the session alone changes nothing of it.
func TestOnesOwnAccount(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	phone := s.visitor().signIn(demo.LineCoachEmail)
	var me contract.Account
	s.get("/account", &me)
	assert.Equal(t, []any{"R. Kell", demo.LineCoachEmail, true, false, 2}, []any{me.Name, me.Email, me.HasPassword, me.Authenticator, len(me.Sessions)})
	text := s.takes(422, "PUT", "/account/password", map[string]any{"password": "not this one", "next": words})
	assert.Equal(t, "password", *problem(t, text).Field)
	text = s.takes(422, "PUT", "/account/password", map[string]any{"password": demo.Password, "next": "Marrow Point Lamplighters"})
	assert.Equal(t, "next", *problem(t, text).Field)
	s.takes(204, "PUT", "/account/password", map[string]any{"password": demo.Password, "next": words})
	phone.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	s.takes(200, "GET", "/frame", nil)
	var session contract.Session
	s.get("/session", &session)
	require.Len(t, *session.Notices, 1)
	assert.Equal(t, "Your password was changed", (*session.Notices)[0].Says)
	letter, _ := s.letter(demo.LineCoachEmail)
	assert.Contains(t, letter.Body, "If it was not")
	s.takes(204, "DELETE", "/account/notices/"+(*session.Notices)[0].ID.String(), nil)
	var after contract.Session
	s.get("/session", &after)
	assert.Nil(t, after.Notices)
	phone.takes(http.StatusUnauthorized, "POST", "/session", map[string]string{"email": demo.LineCoachEmail, "password": demo.Password})
	phone.enters(phone.takes(200, "POST", "/session", map[string]string{"email": demo.LineCoachEmail, "password": words}))

	// One session is ended, then all others.
	s.get("/account", &me)
	for _, x := range me.Sessions {
		if !x.Here {
			s.takes(204, "DELETE", "/account/sessions/"+x.ID.String(), nil)
		}
	}
	phone.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	other := s.visitor().signIn(demo.HeadCoachEmail)
	var theirs contract.Account
	other.get("/account", &theirs)
	s.takes(204, "DELETE", "/account/sessions/"+theirs.Sessions[0].ID.String(), nil)
	other.takes(200, "GET", "/frame", nil)

	// The e-mail counts once its link is opened.
	s.takes(204, "PUT", "/account/email", map[string]any{"email": "Kell@New.example", "password": words})
	_, secret := s.letter("kell@new.example")
	s.get("/account", &me)
	assert.Equal(t, demo.LineCoachEmail, me.Email)
	s.visitor().takes(204, "POST", "/account/email/confirm", map[string]any{"secret": secret})
	s.visitor().takes(422, "POST", "/account/email/confirm", map[string]any{"secret": secret})
	s.get("/account", &me)
	assert.Equal(t, "kell@new.example", me.Email)
	letter, _ = s.letter(demo.LineCoachEmail)
	assert.Contains(t, letter.Subject, "Your e-mail was changed", "the old address hears of it")
	s.takes(204, "PUT", "/account/email", map[string]any{"email": demo.HeadCoachEmail, "password": words})
	_, secret = s.letter(demo.HeadCoachEmail)
	text = s.visitor().takes(422, "POST", "/account/email/confirm", map[string]any{"secret": secret})
	assert.Equal(t, "email", *problem(t, text).Field, "somebody else's")
}

// TestAForgottenPassword is chosen anew by a link; nobody learns who has an account.
func TestAForgottenPassword(t *testing.T) {
	s := open(t)
	inside := s.visitor().signIn(demo.LineCoachEmail)
	s.takes(204, "POST", "/account/recovery", map[string]any{"email": "nobody@no.example"})
	s.takes(204, "POST", "/account/recovery", map[string]any{"email": demo.LineCoachEmail})
	var list []contract.Letter
	s.get("/demo/outbox", &list)
	require.Len(t, list, 1)
	_, secret := s.letter(demo.LineCoachEmail)
	s.takes(422, "POST", "/account/recovery/finish", map[string]any{"secret": secret, "password": "short"})
	s.takes(204, "POST", "/account/recovery/finish", map[string]any{"secret": secret, "password": words})
	s.takes(422, "POST", "/account/recovery/finish", map[string]any{"secret": secret, "password": words + "x"})
	inside.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	s.enters(s.takes(200, "POST", "/session", map[string]string{"email": demo.LineCoachEmail, "password": words}))
	for range 9 {
		s.takes(204, "POST", "/account/recovery", map[string]any{"email": demo.LineCoachEmail})
	}
	s.get("/demo/outbox", &list)
	assert.LessOrEqual(t, len(list), 8, "nobody is buried in letters")
	_, secret = s.letter(demo.LineCoachEmail)
	require.NoError(t, s.exec(`UPDATE account_links SET expires_at = now() - interval '1 second'`, nil))
	s.takes(422, "POST", "/account/recovery/finish", map[string]any{"secret": secret, "password": words})
}

// TestASecondFactor is asked for after the password, each code once; the club may demand one.
func TestASecondFactor(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	s.takes(422, "POST", "/account/authenticator", map[string]any{"password": "not this one"})
	fresh := read[contract.AuthenticatorSecret](t, s.takes(200, "POST", "/account/authenticator", map[string]any{"password": demo.Password}))
	assert.True(t, strings.HasPrefix(fresh.Picture, "data:image/png;base64,"))
	assert.Contains(t, fresh.Address, "otpauth://totp/Nine%20Yard:")
	code := func(at time.Time) string {
		c, err := totp.GenerateCode(fresh.Secret, at)
		require.NoError(t, err)
		return c
	}
	s.takes(422, "PUT", "/account/authenticator", map[string]any{"code": "000000"})
	now := time.Now()
	done := read[struct{ Codes []string }](t, s.takes(200, "PUT", "/account/authenticator", map[string]any{"code": code(now)}))
	require.Len(t, done.Codes, 10)

	half := s.visitor()
	enter := map[string]string{"email": demo.LineCoachEmail, "password": demo.Password}
	session := half.enters(half.takes(200, "POST", "/session", enter))
	require.NotNil(t, session.Second)
	assert.Nil(t, session.User)
	assert.True(t, session.Second.Code)
	half.takes(http.StatusUnauthorized, "GET", "/frame", nil)
	half.takes(http.StatusUnauthorized, "GET", "/account", nil)
	half.takes(http.StatusUnauthorized, "POST", "/session/factor", map[string]any{"code": "000000"})
	half.takes(http.StatusUnauthorized, "POST", "/session/factor", map[string]any{"code": code(now)}) // used once already
	session = half.enters(half.takes(200, "POST", "/session/factor", map[string]any{"code": code(now.Add(30 * time.Second))}))
	assert.Equal(t, "R. Kell", session.User.Name)
	half.takes(200, "GET", "/frame", nil)
	half = s.visitor()
	half.takes(http.StatusUnauthorized, "POST", "/session/factor", map[string]any{"code": done.Codes[0]}) // without the password
	half.enters(half.takes(200, "POST", "/session", enter))
	half.enters(half.takes(200, "POST", "/session/factor", map[string]any{"code": strings.ToLower(strings.ReplaceAll(done.Codes[0], "-", " "))}))
	half = s.visitor()
	half.enters(half.takes(200, "POST", "/session", enter))
	half.takes(http.StatusUnauthorized, "POST", "/session/factor", map[string]any{"code": done.Codes[0]})
	last := 0
	for range 12 {
		last, _ = half.do("POST", "/session/factor", map[string]any{"code": "123456"})
	}
	assert.Equal(t, http.StatusTooManyRequests, last, "guessing is bounded")

	// The club demands one: who has none does nothing else first.
	head := s.visitor().signIn(demo.HeadCoachEmail)
	wr := s.visitor().signIn("s.brandreth@lamplighters.example")
	head.takes(204, "PUT", "/staff", map[string]any{"require_factor": true})
	for _, who := range []*site{head, wr} {
		text := who.takes(http.StatusForbidden, "GET", "/frame", nil)
		assert.Equal(t, "factor", *problem(t, text).Field)
		who.takes(200, "GET", "/account", nil)
		who.takes(http.StatusForbidden, "GET", "/changes/stream", nil)
	}
	s.takes(200, "GET", "/frame", nil)
	fresh = read[contract.AuthenticatorSecret](t, wr.takes(200, "POST", "/account/authenticator", map[string]any{"password": demo.Password}))
	wr.takes(200, "PUT", "/account/authenticator", map[string]any{"code": code(time.Now())})
	wr.takes(200, "GET", "/frame", nil)
	wr.takes(204, "POST", "/account/authenticator/off", map[string]any{"password": demo.Password})
	wr.takes(http.StatusForbidden, "GET", "/frame", nil)
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM recovery_codes r JOIN accounts a ON a.id = r.account_id WHERE a.email LIKE 's.brandreth%'`, nil), "codes go with the last factor")
}

// TestTheFirstClubIsMadeByTheScreens: by the word that the server printed, once.
func TestTheFirstClubIsMadeByTheScreens(t *testing.T) {
	app, owner := empty(t)
	o := product.Options{DB: app, Now: time.Now, Found: func(ctx context.Context, f access.Founding) (uuid.UUID, error) { return access.Found(ctx, owner, f) }}
	s := openWith(t, o)
	var session contract.Session
	s.get("/session", &session)
	require.NotNil(t, session.First)
	begin := map[string]any{"word": "guess", "club": "Dunmere Otters", "timezone": "Europe/Dublin", "season_start": "2026-08-31", "weeks": 12, "name": "O. Tarn", "email": "o@otters.example", "password": words}
	text := s.takes(422, "POST", "/club", begin)
	assert.Equal(t, "word", *problem(t, text).Field)
	begin["word"] = strings.ToUpper(s.product.Club.Word())
	begin["timezone"] = "Dublin"
	text = s.takes(422, "POST", "/club", begin)
	assert.Equal(t, "timezone", *problem(t, text).Field)
	begin["timezone"] = "Europe/Dublin"
	in := s.enters(s.takes(200, "POST", "/club", begin))
	assert.Equal(t, contract.UserRole("head"), in.User.Role)
	s.visitor().takes(http.StatusNotFound, "POST", "/club", begin)
	var again contract.Session
	s.visitor().get("/session", &again)
	assert.Nil(t, again.First)
	s.takes(http.StatusNotFound, "GET", "/demo/outbox", nil)
	asked := read[contract.Invited](t, s.takes(200, "PUT", "/staff/invites/"+made(), invited("n@aide.example", "coach", aLink, "ol")))
	assert.False(t, asked.Mailed, "no mail server: the link is handed over")

	// A group that nobody thought of, and one that is not needed.
	var club contract.Club
	group := map[string]any{"name": "Long snappers", "short": "LS", "side": "units", "positions": []string{"LS"}, "place": 1}
	s.takes(204, "PUT", "/club/groups/snappers", group)
	s.get("/club", &club)
	require.Len(t, club.Groups, 10)
	assert.Equal(t, []any{"snappers", "Long snappers", false}, []any{club.Groups[0].Key, club.Groups[0].Name, club.Groups[0].Used})
	group["short"] = "OL"
	text = s.takes(422, "PUT", "/club/groups/snappers", group)
	assert.Equal(t, "short", *problem(t, text).Field)
	player := made()
	s.takes(200, "PUT", "/roster/players/"+player, map[string]any{"version": 0, "jersey": "1", "first_name": "Ida", "last_name": "Brook", "groups": []string{"snappers"}, "position": "LS", "returning": false, "archived": false})
	text = s.takes(422, "DELETE", "/club/groups/snappers", nil)
	assert.Equal(t, "group", *problem(t, text).Field)
	s.takes(204, "DELETE", "/club/groups/te", nil)
	s.takes(404, "DELETE", "/club/groups/te", nil)
	s.takes(204, "PUT", "/club", map[string]any{"name": "Dunmere Otters II", "timezone": "UTC"})
	text = s.takes(422, "PUT", "/club", map[string]any{"name": "X", "timezone": "Local"})
	assert.Equal(t, "timezone", *problem(t, text).Field)
	s.get("/club", &club)
	assert.Equal(t, []any{"Dunmere Otters II", 9}, []any{club.Name, len(club.Groups)})
}
