// Package product puts the features together: who offers which port to whom, and the
// operations of all of them behind one server.
package product

import (
	"cmp"
	"context"
	"io/fs"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gocloud.dev/blob"
	"gocloud.dev/blob/memblob"

	"nineyard/internal/access"
	"nineyard/internal/account"
	"nineyard/internal/audit"
	"nineyard/internal/bundle"
	"nineyard/internal/calls"
	"nineyard/internal/club"
	"nineyard/internal/contract/gen"
	"nineyard/internal/film"
	"nineyard/internal/find"
	"nineyard/internal/footage"
	"nineyard/internal/mark"
	"nineyard/internal/plan"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/jobs"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/post"
	"nineyard/internal/players"
	"nineyard/internal/privacy"
	"nineyard/internal/roster"
	"nineyard/internal/staff"
	"nineyard/internal/teach"
	"nineyard/internal/tell"
	"nineyard/internal/today"
	"nineyard/library"
)

// Options of the product.
type Options struct {
	DB      *pg.DB
	Edition func() (*library.Edition, error) // what ships; library.Shipped when nil
	Now     func() time.Time                 // the wall clock, or the pinned one of the demo
	Demo    uuid.UUID                        // the demo's club; uuid.Nil elsewhere
	Film    *blob.Bucket                     // where videos are kept; in memory when nil
	Limits  footage.Limits                   // of videos; footage.DefaultLimits when zero
	ID      string                           // of this server among those on one database
	Log     *slog.Logger                     // of the work behind the requests; none when nil
	Mail    post.Mailer                      // takes letters; the outbox in the demo, none elsewhere, when nil
	Address string                           // where the product is reached, as links in letters begin; as the browser reaches it when empty
	// Found makes a club as the database's owner, so that the first one can be made by the screens; nil where it cannot.
	Found func(ctx context.Context, f access.Founding) (uuid.UUID, error)
}

// Product is the features, put together.
type Product struct {
	DB      *pg.DB
	Access  *access.Service
	Account *account.Service
	Audit   *audit.Service
	Privacy *privacy.Service
	Club    *club.Service
	Staff   *staff.Service
	Bundle  *bundle.Service
	Calls   *calls.Service
	Film    *film.Service
	Find    *find.Service
	Footage *footage.Service
	Mark    *mark.Service
	Plan    *plan.Service
	Players *players.Service
	Roster  *roster.Service
	Teach   *teach.Service
	Tell    *tell.Service
	Today   *today.Service
	Changes changes.Hub // what is changed; Run makes it hear
	Jobs    *jobs.Queue // what goes on behind the requests, once it runs

	receiver *footage.Receiver
	outbox   *post.Outbox // of the demo

	now func() time.Time // the wall clock, or the pinned one of the demo
}

// New puts the features together over a database. It panics where the jobs are not named well, which a test sees.
func New(o Options) *Product {
	if o.Edition == nil {
		o.Edition = library.Shipped
	}
	if o.Film == nil {
		o.Film = memblob.OpenBucket(nil)
	}
	if o.Limits == (footage.Limits{}) {
		o.Limits = footage.DefaultLimits
	}
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	var outbox *post.Outbox
	if o.Demo != uuid.Nil {
		outbox = &post.Outbox{DB: o.DB, Now: o.Now}
	}
	switch {
	case o.Mail != nil:
	case outbox != nil:
		o.Mail = outbox
	default:
		o.Mail = post.None{}
	}
	who := access.SQL{DB: o.DB}
	anywhere := plan.Anywhere{Store: who, DB: o.DB}
	p := &Product{
		DB:      o.DB,
		now:     o.Now,
		outbox:  outbox,
		Account: &account.Service{Store: account.SQL{SQL: who}, Mail: o.Mail, Address: account.AddressOf(o.Address), Now: time.Now},
		Audit:   &audit.Service{Store: audit.SQL{}},
		Privacy: &privacy.Service{Store: privacy.SQL{}, Now: time.Now},
		Club:    &club.Service{Store: club.SQL{DB: o.DB}, Found: o.Found},
		Staff:   &staff.Service{Store: staff.SQL{DB: o.DB}, Doors: staff.SQL{DB: o.DB}, Mail: o.Mail, Address: account.AddressOf(o.Address), Now: time.Now},
		Access:  &access.Service{Store: who, Passkeys: who, Now: time.Now, Demo: o.Demo, Log: o.Log},
		Calls:   &calls.Service{Store: calls.SQL{}, Now: o.Now},
		Film:    &film.Service{Store: film.SQL{}, Labels: film.SQL{}, Words: film.SQL{}, Now: o.Now},
		Find:    &find.Service{Store: find.SQL{}},
		Footage: &footage.Service{Store: footage.SQL{}, Films: footage.SQL{}, Uploads: footage.SQL{}, Files: o.Film, Limits: o.Limits, Now: time.Now, Log: o.Log},
		Mark:    &mark.Service{Store: mark.Folded{Store: mark.SQL{}, Now: library.Folded}, Now: o.Now, Clock: time.Now},
		Plan:    &plan.Service{Store: plan.SQL{}, Scripts: plan.SQL{}, Calendar: plan.SQL{}, Sets: plan.SQL{}, Conditions: plan.SQL{}, Templates: plan.SQL{}, Links: anywhere, Coaches: anywhere, Now: o.Now},
		Players: &players.Service{Store: players.SQL{}, Now: o.Now},
		Roster:  &roster.Service{Store: roster.SQL{}, Spells: roster.SQL{}, Lists: roster.SQL{}, Proposals: roster.SQL{}, Now: o.Now},
		Teach:   &teach.Service{Store: teach.SQL{}, Edition: o.Edition, Now: o.Now},
		Tell:    &tell.Service{Store: tell.SQL{}, Now: o.Now},
		Today:   &today.Service{Now: o.Now},
	}
	p.Account.Access, p.Staff.Access = p.Access, p.Access
	p.Bundle = &bundle.Service{Squad: p.Roster, Reels: p.Film, Plays: p.Film, Marks: p.Mark, Marked: p.Mark, Film: p.Footage}
	p.Calls.Houses, p.Calls.Squad, p.Calls.Plans, p.Calls.Climbs = p.Teach, p.Roster, p.Plan, p.Players
	p.Find.Houses, p.Footage.Houses, p.Footage.Reels = p.Teach, p.Teach, p.Film
	p.Mark.Houses, p.Mark.Squad, p.Mark.Plans, p.Mark.Ranges = p.Teach, p.Roster, p.Plan, p.Players
	p.Mark.Reels, p.Mark.Calls, p.Mark.Staff = p.Film, p.Calls, p.Access
	p.Plan.Houses, p.Plan.Squad, p.Plan.Standings = p.Teach, p.Roster, p.Players
	p.Players.Houses, p.Players.Squad, p.Players.Marks, p.Players.Plans = p.Teach, p.Roster, p.Mark, p.Plan
	p.Teach.Index, p.Teach.Squad, p.Teach.Schools = p.Find, p.Roster, p.Mark
	p.Tell.Houses, p.Tell.Squad, p.Tell.Reels, p.Tell.Marks, p.Tell.Climbs, p.Tell.OnFilm = p.Teach, p.Roster, p.Film, p.Mark, p.Players, p.Footage
	p.Today.Scripts, p.Today.Climbs, p.Today.Calls = p.Plan, p.Players, p.Calls
	p.Today.Houses, p.Today.Squad, p.Today.Plans, p.Today.Marks = p.Teach, p.Roster, p.Plan, p.Mark
	workers := river.NewWorkers()
	p.receiver = &footage.Receiver{Service: p.Footage, DB: o.DB}
	var err error
	if p.Jobs, err = jobs.Open(o.DB, o.Log, cmp.Or(o.ID, "nine-yard"), workers, p.receiver.Work(workers)...); err != nil {
		panic(err)
	}
	p.Footage.Jobs = p.Jobs
	return p
}

// A feature's operations under its own name, so that they can stand side by side.
type (
	accessAPI  = access.API
	accountAPI = account.API
	auditAPI   = audit.API
	privacyAPI = privacy.API
	clubAPI    = club.API
	staffAPI   = staff.API
	bundleAPI  = bundle.API
	callsAPI   = calls.API
	filmAPI    = film.API
	findAPI    = find.API
	footageAPI = footage.API
	markAPI    = mark.API
	planAPI    = plan.API
	playersAPI = players.API
	rosterAPI  = roster.API
	teachAPI   = teach.API
	tellAPI    = tell.API
	todayAPI   = today.API
)

// api is the operations of all features: the whole contract.
type api struct {
	accessAPI
	accountAPI
	auditAPI
	privacyAPI
	clubAPI
	staffAPI
	bundleAPI
	callsAPI
	filmAPI
	findAPI
	footageAPI
	markAPI
	planAPI
	playersAPI
	rosterAPI
	teachAPI
	tellAPI
	todayAPI
}

var _ gen.StrictServerInterface = api{}

// Surface is how the product is served.
type Surface struct {
	Web      fs.FS // the built front end
	Log      *slog.Logger
	Loopback bool          // plain http on loopback: the session cookie need not be Secure
	Proxies  []string      // addresses of trusted proxies; none by default
	Idle     time.Duration // after which an unused session ends; the server's own when zero
	Life     time.Duration // after which any session ends; the server's own when zero
	Beat     time.Duration // between signs of life of a stream; the server's own when zero
}

// Server serves the product.
func (p *Product) Server(s Surface) (*httpd.Server, error) {
	sessions := httpd.NewSessions(p.DB, httpd.SessionOptions{Who: access.Who, Plain: s.Loopback, Idle: s.Idle, Life: s.Life})
	p.Account.Sessions, p.Staff.Sessions = sessions, sessions
	a := accessAPI{Access: p.Access, Sessions: sessions, Today: p.now, Notices: p.Account.Notices, First: p.Club.First}
	uploads, err := p.receiver.Handler()
	if err != nil {
		return nil, err
	}
	return httpd.New(httpd.Options{
		API: api{a, accountAPI{Account: p.Account}, auditAPI{Audit: p.Audit}, privacyAPI{Privacy: p.Privacy}, clubAPI{Club: p.Club, Door: a}, staffAPI{Staff: p.Staff, Door: a, Outbox: p.outbox}, bundleAPI{Bundle: p.Bundle}, callsAPI{Calls: p.Calls}, filmAPI{Film: p.Film}, findAPI{Find: p.Find}, footageAPI{Footage: p.Footage}, markAPI{Mark: p.Mark}, planAPI{Plan: p.Plan}, playersAPI{Players: p.Players},
			rosterAPI{Roster: p.Roster}, teachAPI{Teach: p.Teach}, tellAPI{Tell: p.Tell}, todayAPI{Today: p.Today}},
		DB: p.DB, Identify: a.Identify, May: access.May, Word: word, Sessions: sessions, Changes: &p.Changes, Beat: s.Beat, Web: s.Web, Log: s.Log, Proxies: s.Proxies,
		Mounts: []httpd.Mount{{Path: footage.UploadPath, May: "plans", Handler: uploads}},
	})
}

// word asks each feature what an error of its own means.
func word(err error) (httpd.Said, bool) {
	for _, f := range []func(error) (httpd.Said, bool){access.Word, plan.Word} {
		if s, ok := f(err); ok {
			return s, true
		}
	}
	return httpd.Said{}, false
}
