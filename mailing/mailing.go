// Package mailing sends the letters that wait in the database, by SMTP. A letter that cannot
// go is tried again, later and later, as long as it is of use; one that was sent is forgotten.
// Where a server is killed between the two it goes twice.
package mailing

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/mail"
	"os"
	"strconv"
	"strings"
	"time"

	gomail "github.com/wneessen/go-mail"

	"keenmagpie/store"
)

// Settings are how mail goes out.
type Settings struct {
	Server       string // host:port
	From         string // as "Keen Magpie <magpie@school.example>"
	User         string // "" signs in nowhere
	PasswordFile string
	TLS          string // starttls, tls or none
}

// Mailer sends. It is safe for use by many at once.
type Mailer struct {
	settings Settings
	host     string
	options  []gomail.Option
}

// Timeout is how long the other side may take for one letter.
const Timeout = 20 * time.Second

// New reads settings, and refuses those that cannot be meant; nothing is sent yet.
func New(s Settings) (*Mailer, error) {
	host, port, err := net.SplitHostPort(s.Server)
	number, bad := strconv.Atoi(port)
	if err != nil || bad != nil || host == "" {
		return nil, fmt.Errorf("--smtp %q is not a server of mail: write it as mail.school.example:587", s.Server)
	}
	if _, err := mail.ParseAddress(s.From); err != nil {
		return nil, errors.New("--mail-from must say whom mail comes from, as 'Keen Magpie <magpie@school.example>'")
	}
	options := []gomail.Option{gomail.WithPort(number), gomail.WithTimeout(Timeout)}
	switch at := net.ParseIP(host); {
	case s.TLS == "tls":
		options = append(options, gomail.WithSSL())
	case s.TLS == "starttls":
		options = append(options, gomail.WithTLSPolicy(gomail.TLSMandatory))
	case at.IsLoopback() || host == "localhost":
		options = append(options, gomail.WithTLSPolicy(gomail.NoTLS))
	default:
		return nil, errors.New("--smtp-tls none is for a server of mail on this machine alone: links for passwords would cross the network for everybody to read")
	}
	if (s.User == "") != (s.PasswordFile == "") {
		return nil, errors.New("--smtp-user and --smtp-password-file belong together: give both, or none")
	}
	if s.User != "" {
		password, err := os.ReadFile(s.PasswordFile)
		if err != nil {
			return nil, fmt.Errorf("the password for mail could not be read: %w", err)
		}
		options = append(options, gomail.WithSMTPAuth(gomail.SMTPAuthAutoDiscover), gomail.WithUsername(s.User), gomail.WithPassword(strings.TrimSpace(string(password))))
	}
	return &Mailer{s, host, options}, nil
}

const atOnce = 25

// SendDue sends what is due, some at a time. What fails is no error of its own: it is noted
// with the letter, and the first reason is given.
func (m *Mailer) SendDue(ctx context.Context, st *store.Store) error {
	list, err := st.DueLetters(ctx, atOnce)
	if err != nil || len(list) == 0 {
		return err
	}
	client, err := gomail.NewClient(m.host, m.options...)
	if err != nil {
		return err
	}
	if err := client.DialWithContext(ctx); err != nil {
		for _, l := range list {
			err = errors.Join(err, st.LetterStays(ctx, l.ID, later(l.Tries), err))
		}
		return fmt.Errorf("the server of mail does not take any: %w", err)
	}
	defer client.Close()
	var first error
	for _, l := range list {
		err := m.send(client, l)
		if err == nil {
			if err := st.LetterWent(ctx, l.ID); err != nil {
				return err
			}
			continue
		}
		next := later(l.Tries)
		var refused *gomail.SendError
		if errors.As(err, &refused) && !refused.IsTemp() {
			next = l.UntilAt // it would say so again
		}
		// What the other side says may name whom it is for.
		err = errors.New(strings.ReplaceAll(err.Error(), l.To, "(the recipient)"))
		if kept := st.LetterStays(ctx, l.ID, next, err); kept != nil {
			return kept
		}
		if first == nil {
			first = fmt.Errorf("a letter did not go: %w", err)
		}
	}
	return first
}

// later doubles from a minute up to two hours.
func later(tries int) time.Time {
	return time.Now().Add(min(2*time.Hour, time.Minute<<min(tries, 10)))
}

func (m *Mailer) send(client *gomail.Client, l store.Letter) error {
	msg := gomail.NewMsg()
	if err := errors.Join(msg.From(m.settings.From), msg.To(l.To)); err != nil {
		return err
	}
	msg.Subject(l.Subject)
	msg.SetGenHeader("Auto-Submitted", "auto-generated") // nobody's absence answers it
	msg.SetBodyString(gomail.TypeTextPlain, l.Body)
	return client.Send(msg)
}
