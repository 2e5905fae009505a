package access

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory.
type memory struct {
	mu       sync.Mutex
	coaches  map[uuid.UUID]Coach
	accounts map[string]Account // by e-mail
	steps    map[uuid.UUID]int64
	codes    map[string]bool // by account and digest
	staff    []Member
	tries    []try
	places   []try
}

type try struct {
	email, ip string
	at        time.Time
}

func (m *memory) Coach(_ context.Context, id uuid.UUID) (Coach, bool, error) {
	c, ok := m.coaches[id]
	return c, ok, nil
}

func (m *memory) Account(_ context.Context, email string) (Account, bool, error) {
	a, ok := m.accounts[strings.ToLower(email)]
	return a, ok, nil
}

func (m *memory) AccountOf(_ context.Context, id uuid.UUID) (Account, bool, error) {
	for _, a := range m.accounts {
		if a.ID == id {
			return a, true, nil
		}
	}
	return Account{}, false, nil
}

func (m *memory) Memberships(_ context.Context, account uuid.UUID) (list []Membership, err error) {
	for id, c := range m.coaches {
		if c.Account == account {
			list = append(list, Membership{ID: id, ClubID: c.Club.ID, ClubName: c.Club.Name, Role: c.Role})
		}
	}
	return list, nil
}

func (m *memory) Entered(context.Context, uuid.UUID, time.Time) error { return nil }

func (m *memory) UseStep(_ context.Context, account uuid.UUID, step int64) (bool, error) {
	if m.steps[account] >= step {
		return false, nil
	}
	m.steps[account] = step
	return true, nil
}

func (m *memory) UseCode(_ context.Context, account uuid.UUID, digest []byte, _ time.Time) (bool, error) {
	at := account.String() + string(digest)
	there := m.codes[at]
	delete(m.codes, at)
	return there, nil
}

func (m *memory) Try(_ context.Context, email, ip string, at, since time.Time) (t Tries, err error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.tries = append(m.tries, try{email, ip, at})
	known := func(ip string) bool {
		return slices.ContainsFunc(m.places, func(p try) bool { return p.email == email && p.ip == ip && p.at.After(at.Add(-knownFor)) })
	}
	t.Known = known(ip)
	for _, x := range m.tries {
		switch {
		case !x.at.After(since):
			continue
		case x.email == email && x.ip == ip:
			t.Here++
		}
		if x.ip == ip {
			t.ByIP++
		}
		if x.email == email && !known(x.ip) {
			t.Abroad++
		}
	}
	return t, nil
}

func (m *memory) CameIn(_ context.Context, email, ip string, at time.Time) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.tries = slices.DeleteFunc(m.tries, func(t try) bool { return t.email == email && t.ip == ip })
	m.places = append(m.places, try{email, ip, at})
	return nil
}

func (m *memory) Staff(context.Context, uuid.UUID) ([]Member, error) { return m.staff, nil }

// shelf is a Store with two clubs of one head coach each.
type shelf struct {
	Store
	club, other uuid.UUID // of h0@ and h1@club.example
	head        uuid.UUID
	account     uuid.UUID // of the head coach
}

const password = "gravel heron umbrella"

func founding(i int) Founding {
	return Founding{Club: fmt.Sprintf("Club %d", i), Timezone: "Europe/Dublin", SeasonStart: "2026-08-31", Weeks: 9, Name: "H. Coach", Email: fmt.Sprintf("h%d@club.example", i), Password: password}
}

func inMemory(t *testing.T) shelf {
	m := &memory{coaches: map[uuid.UUID]Coach{}, accounts: map[string]Account{}, steps: map[uuid.UUID]int64{}, codes: map[string]bool{}}
	s := shelf{Store: m}
	for i, club := range []*uuid.UUID{&s.club, &s.other} {
		*club = uuid.New()
		id := uuid.New()
		n, err := founding(i).Check()
		require.NoError(t, err)
		account := Account{ID: uuid.New(), Email: n.Email, Name: n.Name}
		account.PasswordHash, err = Hash(password)
		require.NoError(t, err)
		m.accounts[n.Email] = account
		m.coaches[id] = Coach{ID: id, Account: account.ID, Name: n.Name, Role: Head, Own: []string{}, Club: Club{ID: *club, Name: n.Club, Timezone: n.Timezone, Groups: n.Groups}, Season: Season{Start: n.SeasonStart, Weeks: n.Weeks}}
		if i == 0 {
			s.head, s.account = id, account.ID
			m.staff = []Member{{ID: id, Name: n.Name, Title: "Head coach", Email: n.Email, Role: Head}}
		}
	}
	return s
}

func inPostgres(t *testing.T) shelf {
	ctx := context.Background()
	url := pgtest.Copy(t, "empty", func(url string) error { _, err := pg.Migrate(context.Background(), url); return err })
	owner, err := pg.OpenOwner(url, 2)
	require.NoError(t, err)
	app, err := pg.Open(url, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _, _ = app.Close(), owner.Close() })
	s := shelf{Store: SQL{DB: app}}
	for i, club := range []*uuid.UUID{&s.club, &s.other} {
		*club, err = Found(ctx, owner, founding(i))
		require.NoError(t, err)
	}
	account, found, err := s.Account(ctx, "h0@club.example")
	require.NoError(t, err)
	require.True(t, found)
	places, err := s.Memberships(ctx, account.ID)
	require.NoError(t, err)
	require.Len(t, places, 1)
	s.head, s.account = places[0].ID, account.ID
	return s
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			ctx := context.Background()
			c, found, err := s.Coach(ctx, s.head)
			require.NoError(t, err)
			require.True(t, found)
			assert.Equal(t, "H. Coach", c.Name)
			assert.True(t, c.IsHead())
			assert.Empty(t, c.Own)
			assert.Equal(t, s.club, c.Club.ID)
			assert.Equal(t, "Club 0", c.Club.Name)
			assert.Equal(t, group.Usual(), c.Club.Groups, "the club's groups are its own rows, whole")
			assert.Zero(t, c.Club.Library, "no version yet")
			assert.Equal(t, season.Must("2026-08-31"), c.Season.Start)
			assert.Equal(t, 9, c.Season.Weeks)
			_, found, err = s.Coach(ctx, uuid.New())
			require.NoError(t, err)
			assert.False(t, found)

			account, found, err := s.Account(ctx, "H0@Club.example")
			require.NoError(t, err)
			assert.True(t, found)
			assert.Equal(t, s.account, account.ID)
			assert.NotEmpty(t, account.PasswordHash)
			assert.False(t, account.HasFactor())
			same, _, err := s.AccountOf(ctx, account.ID)
			require.NoError(t, err)
			assert.Equal(t, account, same)
			_, found, err = s.Account(ctx, "nobody@club.example")
			require.NoError(t, err)
			assert.False(t, found)
			places, err := s.Memberships(ctx, account.ID)
			require.NoError(t, err)
			assert.Equal(t, []Membership{{ID: s.head, ClubID: s.club, ClubName: "Club 0", Role: Head}}, places)
			for _, step := range []struct {
				n    int64
				took bool
			}{{7, true}, {7, false}, {6, false}, {8, true}} {
				took, err := s.UseStep(ctx, account.ID, step.n)
				require.NoError(t, err)
				assert.Equal(t, step.took, took, step.n)
			}
			took, err := s.UseCode(ctx, account.ID, CodeDigest("none"), time.Now())
			require.NoError(t, err)
			assert.False(t, took)

			staff, err := s.Staff(ctx, s.club)
			require.NoError(t, err)
			require.Len(t, staff, 1, "nobody of another club")
			assert.Equal(t, Member{ID: s.head, Name: "H. Coach", Title: "Head coach", Email: "h0@club.example", Role: Head}, staff[0])

			now := time.Now().Truncate(time.Second)
			since := now.Add(-tryWindow)
			for i := range 3 {
				_, err := s.Try(ctx, "a@club.example", "10.0.0.1", now.Add(-time.Duration(i)*10*time.Minute), since)
				require.NoError(t, err)
			}
			tries := func(email, ip string) Tries {
				got, err := s.Try(ctx, email, ip, now, since)
				require.NoError(t, err)
				return got
			}
			assert.Equal(t, Tries{Here: 1, ByIP: 3, Abroad: 1}, tries("b@club.example", "10.0.0.1"), "this try counts, what is older than the window does not")
			assert.Equal(t, Tries{Here: 1, ByIP: 1, Abroad: 3}, tries("a@club.example", "10.0.0.2"))
			require.NoError(t, s.CameIn(ctx, "a@club.example", "10.0.0.1", now))
			assert.Equal(t, Tries{Here: 1, ByIP: 2, Abroad: 1, Known: true}, tries("a@club.example", "10.0.0.1"), "those from there are forgotten, and it is strange no more")
			assert.Equal(t, Tries{Here: 2, ByIP: 2, Abroad: 2}, tries("a@club.example", "10.0.0.2"))
		})
	}
}

// TestTriesAreCountedBeforeThePasswordIsLookedAt: of sixty at once no more than the limit
// reach the hash, and no more than two are hashed at a time.
func TestTriesAreCountedBeforeThePasswordIsLookedAt(t *testing.T) {
	for name, email := range map[string]func(int) string{
		"one e-mail":   func(int) string { return "h0@club.example" },
		"many e-mails": func(i int) string { return fmt.Sprintf("x%d@club.example", i) },
	} {
		t.Run(name, func(t *testing.T) {
			var tried, at, most atomic.Int64
			s := &Service{Store: inMemory(t), Now: time.Now}
			s.match = func(string, string) (bool, error) {
				tried.Add(1)
				if n := at.Add(1); n > most.Load() {
					most.Store(n)
				}
				time.Sleep(2 * time.Millisecond)
				at.Add(-1)
				return false, nil
			}
			var wait sync.WaitGroup
			errs := make([]error, 60)
			for i := range errs {
				wait.Go(func() { _, errs[i] = s.SignIn(context.Background(), email(i), "guess", fmt.Sprintf("10.0.0.%d", i)) })
			}
			wait.Wait()
			refused := 0
			for _, err := range errs {
				require.Error(t, err)
				if errors.Is(err, ErrTooManyTries) || errors.Is(err, ErrBusy) {
					refused++
				}
			}
			assert.LessOrEqual(t, most.Load(), int64(hashesAtOnce))
			assert.Equal(t, int64(60-refused), tried.Load())
			if name == "one e-mail" {
				assert.LessOrEqual(t, tried.Load(), int64(maxTriesAbroad), "from sixty addresses")
			}
		})
	}
}

func TestSignIn(t *testing.T) {
	s := inMemory(t)
	now := time.Date(2026, 10, 13, 17, 0, 0, 0, time.UTC)
	x := &Service{Store: s, Now: func() time.Time { return now }}
	ctx := context.Background()
	in, err := x.SignIn(ctx, " H0@club.example ", password, "10.0.0.1")
	require.NoError(t, err)
	assert.Equal(t, s.account, in.ID)
	for _, email := range []string{"h0@club.example", "nobody@club.example"} { // alike for who exists and who does not
		for range maxTriesHere {
			_, err = x.SignIn(ctx, email, "guess", "10.0.0.2")
			require.ErrorIs(t, err, ErrCredentials)
		}
		_, err = x.SignIn(ctx, email, password, "10.0.0.2")
		require.ErrorIs(t, err, ErrTooManyTries, "the right password too")
	}
	now = now.Add(tryWindow + time.Second)
	_, err = x.SignIn(ctx, "h0@club.example", password, "10.0.0.2")
	require.NoError(t, err, "the limit runs out")
	for i := range maxTriesAbroad + 1 {
		_, _ = x.SignIn(ctx, "h0@club.example", "guess", fmt.Sprintf("10.1.0.%d", i))
	}
	_, err = x.SignIn(ctx, "h0@club.example", password, "10.2.0.1")
	require.ErrorIs(t, err, ErrTooManyTries, "guessed from everywhere")
	_, err = x.SignIn(ctx, "h0@club.example", password, "10.0.0.1")
	require.NoError(t, err, "and yet he comes in from where he always does")
	for i := range maxTriesByIP {
		_, _ = x.SignIn(ctx, fmt.Sprintf("y%d@club.example", i), "guess", "10.0.0.3")
	}
	_, err = x.SignIn(ctx, "h1@club.example", password, "10.0.0.3")
	require.ErrorIs(t, err, ErrTooManyTries, "one address, many e-mails")

	done, cancel := context.WithCancel(ctx)
	cancel()
	x.hash <- struct{}{}
	x.hash <- struct{}{} // both places taken
	_, err = x.SignIn(done, "h1@club.example", password, "10.0.0.4")
	assert.ErrorIs(t, err, context.Canceled, "who gives up does not wait on")
}

func TestOneClickIsForTheDemoAlone(t *testing.T) {
	s := inMemory(t)
	ctx := context.Background()
	real := &Service{Store: s, Now: time.Now}
	list, err := real.DemoStaff(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
	_, ok, err := real.DemoSignIn(ctx, s.head)
	require.NoError(t, err)
	assert.False(t, ok)
	demo := &Service{Store: s, Now: time.Now, Demo: s.other}
	_, ok, err = demo.DemoSignIn(ctx, s.head)
	require.NoError(t, err)
	assert.False(t, ok, "somebody of another club on the same database")
	demo.Demo = s.club
	_, ok, err = demo.DemoSignIn(ctx, s.head)
	require.NoError(t, err)
	assert.True(t, ok)
	list, err = demo.DemoStaff(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func TestWhatACoachMayDo(t *testing.T) {
	c := Coach{Role: Position, Own: []string{"ol"}, Club: Club{Timezone: "Europe/Dublin", Groups: group.Usual()}, Season: Season{Start: season.Must("2026-08-31"), Weeks: 9}}
	assert.True(t, c.MayEdit("ol"))
	assert.False(t, c.MayEdit("db"))
	assert.True(t, c.MayEditAny([]string{"db", "ol"}))
	assert.False(t, c.MayEditAny(nil))
	for role, can := range map[string][3]bool{Position: {true, true, true}, Assistant: {false, true, true}, Health: {}, Reader: {}, "": {}} {
		x := c
		x.Role = role
		assert.Equal(t, can, [3]bool{x.MayEdit("ol"), x.MayWork("ol"), x.Works()}, role)
		assert.Equal(t, [2]bool{can[0], can[1]}, [2]bool{x.MayEditSide(group.Offense), x.MayWorkSide(group.Offense)}, role)
		assert.False(t, x.MayWork("db") || x.MayEditSide(group.Defense), role)
	}
	head := c
	head.Role = Head
	assert.True(t, head.MayEdit("db"))
	_, err := c.Group("db")
	require.NoError(t, err)
	_, err = c.Group("xx")
	require.ErrorIs(t, err, problem.ErrNotFound)

	late := time.Date(2026, 10, 13, 23, 30, 0, 0, time.UTC) // past midnight in Dublin
	assert.Equal(t, season.Must("2026-10-14"), c.Today(late))
	c.Club.Timezone = "Nowhere/Else"
	assert.Equal(t, season.Must("2026-10-13"), c.Today(late))
	assert.Equal(t, 7, c.WeekOf(season.Must("2026-10-13")))
	end, err := c.WeekEnd(6, late)
	require.NoError(t, err)
	assert.Equal(t, season.Must("2026-10-11"), end)
	end, err = c.WeekEnd(9, late)
	require.NoError(t, err)
	assert.Equal(t, season.Must("2026-10-13"), end, "nothing is known of the days to come")
	for _, week := range []int{0, 10, -3} {
		_, err = c.WeekEnd(week, late)
		e, ok := invalid.As(err)
		require.True(t, ok)
		assert.Equal(t, "week", e.Field)
	}
	assert.Equal(t, Coach{}, From(context.Background()), "nobody may do nothing")
	assert.Equal(t, head.Role, From(With(context.Background(), head)).Role)
}

func TestAFoundingNamesItsField(t *testing.T) {
	for field, spoil := range map[string]func(*Founding){
		"club":         func(f *Founding) { f.Club = " " },
		"name":         func(f *Founding) { f.Name = "" },
		"email":        func(f *Founding) { f.Email = "h.club" },
		"password":     func(f *Founding) { f.Password = "short" },
		"timezone":     func(f *Founding) { f.Timezone = "Dublin" },
		"season_start": func(f *Founding) { f.SeasonStart = "31 August" },
		"weeks":        func(f *Founding) { f.Weeks = 61 },
	} {
		f := founding(0)
		spoil(&f)
		_, err := f.Check()
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	hash, err := Hash(password)
	require.NoError(t, err)
	assert.Contains(t, hash, "m=19456", "bounded memory a password")
}

func TestWordsOfSigningIn(t *testing.T) {
	for err, status := range map[error]int{ErrCredentials: 401, ErrTooManyTries: 429, ErrBusy: 503, ErrNoClub: 403, ErrSecond: 401, ErrHalf: 401, ErrPasskey: 401, ErrPasskeyPlace: 422} {
		said, ok := Word(fmt.Errorf("x: %w", err))
		assert.True(t, ok)
		assert.Equal(t, status, said.Status)
	}
	_, ok := Word(errors.New("other"))
	assert.False(t, ok)
}

// TestJoin: a member of the staff is added to the club of somebody who is there.
func TestJoin(t *testing.T) {
	ctx := context.Background()
	url := pgtest.Copy(t, "empty", func(url string) error { _, err := pg.Migrate(context.Background(), url); return err })
	owner, err := pg.OpenOwner(url, 2)
	require.NoError(t, err)
	t.Cleanup(func() { _ = owner.Close() })
	_, err = Found(ctx, owner, founding(0))
	require.NoError(t, err)
	good := Joining{With: "h0@club.example", Name: "N. Aide", Title: "Line", Email: "N@Club.example", Role: "coach", Groups: []string{"ol", "te"}, Password: "copper walnut ladder"}
	for field, spoil := range map[string]func(*Joining){
		"name":     func(j *Joining) { j.Name = " " },
		"email":    func(j *Joining) { j.Email = "n" },
		"role":     func(j *Joining) { j.Role = "owner" },
		"password": func(j *Joining) { j.Password = "short" },
		"with":     func(j *Joining) { j.With = "nobody@club.example" },
		"groups":   func(j *Joining) { j.Groups = []string{"xx"} },
	} {
		j := good
		spoil(&j)
		e, bad := invalid.As(Join(ctx, owner, j))
		require.True(t, bad, field)
		assert.Equal(t, field, e.Field)
	}
	require.NoError(t, Join(ctx, owner, good))
	e, bad := invalid.As(Join(ctx, owner, good))
	require.True(t, bad)
	assert.Equal(t, "email", e.Field, "the e-mail is used")
	app, err := pg.Open(url, 2)
	require.NoError(t, err)
	t.Cleanup(func() { _ = app.Close() })
	store := SQL{DB: app}
	of := func(email string) Coach {
		a, found, err := store.Account(ctx, email)
		require.NoError(t, err)
		require.True(t, found)
		places, err := store.Memberships(ctx, a.ID)
		require.NoError(t, err)
		require.Len(t, places, 1)
		c, _, err := store.Coach(ctx, places[0].ID)
		require.NoError(t, err)
		return c
	}
	c := of("n@club.example")
	assert.Equal(t, []string{"ol", "te"}, c.Own)
	assert.False(t, c.IsHealth())
	good.Email, good.Role, good.Groups = "m@club.example", Health, nil
	require.NoError(t, Join(ctx, owner, good))
	c = of(good.Email)
	assert.True(t, c.IsHealth())
	assert.False(t, c.MayEdit("ol"), "he plans and marks nothing")
}
