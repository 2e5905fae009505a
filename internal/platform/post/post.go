// Package post sends letters: by SMTP, into the demo's outbox, or not at all. A letter is sent behind the request that
// asks for it, so that nobody learns from the time of an answer whether one went out.
package post

import (
	"context"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"github.com/wneessen/go-mail"

	"nineyard/internal/platform/pg"
)

// Letter is a letter of plain text.
type Letter struct{ To, Subject, Body string }

// Mailer takes letters.
type Mailer interface {
	// Mails reports whether letters go anywhere; where they do not, links are handed over by people.
	Mails() bool
	// Send takes a letter. That it arrives is not known.
	Send(ctx context.Context, l Letter) error
}

// None takes letters nowhere.
type None struct{}

// Mails reports that no letter goes anywhere.
func (None) Mails() bool { return false }

// Send does nothing.
func (None) Send(context.Context, Letter) error { return nil }

// Outbox is the demo's mailer: a table that the demo shows.
type Outbox struct {
	DB  *pg.DB
	Now func() time.Time
}

// Mails reports that letters go to the outbox.
func (Outbox) Mails() bool { return true }

// Send keeps a letter in the outbox.
func (o Outbox) Send(ctx context.Context, l Letter) error {
	_, err := pg.ExecBeside(ctx, o.DB, `INSERT INTO outbox (id, recipient, subject, body, at) VALUES (@id, @to, @subject, @body, @at)`,
		pg.Args{"id": uuid.Must(uuid.NewV7()), "to": l.To, "subject": l.Subject, "body": l.Body, "at": o.Now()})
	return err
}

// Kept is a letter of the outbox.
type Kept struct {
	ID      uuid.UUID
	To      string
	Subject string
	Body    string
	At      time.Time
}

// Letters lists the outbox, newest first.
func (o Outbox) Letters(ctx context.Context) ([]Kept, error) {
	return pg.SelectBeside[Kept](ctx, o.DB, `SELECT id, recipient AS to, subject, body, at FROM outbox ORDER BY at DESC, id DESC LIMIT 200`, nil)
}

// Limits of sending.
const (
	waiting = 100 // letters that may wait
	tries   = 3
	patient = 20 * time.Second // for one try
)

// SMTP sends letters by a mail server.
type SMTP struct {
	client *mail.Client
	from   string
	queue  chan Letter
	log    *slog.Logger
	pause  time.Duration // before another try
}

// Server is a mail server. TLS is demanded unless Plain says that the line to it is the machine's own.
type Server struct {
	Host, User, Password string
	Port                 int
	From                 string
	Plain                bool
}

// NewSMTP sends by a server, once Run runs.
func NewSMTP(s Server, log *slog.Logger) (*SMTP, error) {
	options := []mail.Option{mail.WithPort(s.Port), mail.WithTimeout(patient), mail.WithTLSPolicy(mail.TLSMandatory)}
	if s.Plain {
		options = append(options, mail.WithTLSPolicy(mail.NoTLS))
	}
	if s.User != "" {
		options = append(options, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(s.User), mail.WithPassword(s.Password))
	}
	client, err := mail.NewClient(s.Host, options...)
	if err != nil {
		return nil, fmt.Errorf("SMTP_HOST: %w", err)
	}
	return &SMTP{client: client, from: s.From, queue: make(chan Letter, waiting), log: log, pause: 5 * time.Second}, nil
}

// Mails reports that letters go out.
func (*SMTP) Mails() bool { return true }

// Send has a letter sent. Where too many wait it is an error.
func (s *SMTP) Send(_ context.Context, l Letter) error {
	select {
	case s.queue <- l:
		return nil
	default:
		return fmt.Errorf("%d letters wait to be sent", waiting)
	}
}

// Run sends letters until the context ends. One that cannot be sent is tried again, and then given up with a word in the
// log, without what it says.
func (s *SMTP) Run(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case l := <-s.queue:
			var err error
			for try := range tries {
				if try > 0 {
					select {
					case <-ctx.Done():
						return
					case <-time.After(s.pause):
					}
				}
				if err = s.send(ctx, l); err == nil {
					break
				}
			}
			if err != nil {
				s.log.ErrorContext(ctx, "a letter could not be sent", "subject", l.Subject, "error", err)
			}
		}
	}
}

func (s *SMTP) send(ctx context.Context, l Letter) error {
	m := mail.NewMsg()
	if err := m.From(s.from); err != nil {
		return err
	}
	if err := m.To(l.To); err != nil {
		return err
	}
	m.Subject(l.Subject)
	m.SetBodyString(mail.TypeTextPlain, l.Body)
	ctx, cancel := context.WithTimeout(ctx, patient)
	defer cancel()
	return s.client.DialAndSendWithContext(ctx, m)
}
