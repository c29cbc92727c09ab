package standin

import (
	"bytes"
	"html/template"
	"io"
	"mime"
	"mime/quotedprintable"
	"net/http"
	"net/mail"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/emersion/go-smtp"
)

// Letter is one that was taken.
type Letter struct {
	From, To, Subject, Text string
	At                      time.Time
}

// Mailbox takes mail for everybody and keeps it; it gives nothing on.
type Mailbox struct {
	mu      sync.Mutex
	letters []Letter
	// Refuse, where it is set, is asked before mail for an address is taken.
	Refuse func(to string) error
}

// Server is one of SMTP that fills the mailbox.
func (m *Mailbox) Server() *smtp.Server {
	s := smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &delivery{box: m}, nil }))
	s.Domain, s.AllowInsecureAuth, s.ReadTimeout, s.WriteTimeout, s.MaxMessageBytes = "localhost", true, time.Minute, time.Minute, 1<<20
	return s
}

// Letters are all that came, the newest first.
func (m *Mailbox) Letters() []Letter {
	m.mu.Lock()
	defer m.mu.Unlock()
	list := slices.Clone(m.letters)
	slices.Reverse(list)
	return list
}

type delivery struct {
	box      *Mailbox
	from, to string
}

func (d *delivery) Mail(from string, _ *smtp.MailOptions) error { d.from = from; return nil }
func (d *delivery) Reset()                                      {}
func (d *delivery) Logout() error                               { return nil }

func (d *delivery) Rcpt(to string, _ *smtp.RcptOptions) error {
	if d.to = to; d.box.Refuse != nil {
		return d.box.Refuse(to)
	}
	return nil
}

func (d *delivery) Data(r io.Reader) error {
	raw, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	msg, err := mail.ReadMessage(bytes.NewReader(raw))
	if err != nil {
		return err
	}
	body := io.Reader(msg.Body)
	if strings.EqualFold(msg.Header.Get("Content-Transfer-Encoding"), "quoted-printable") {
		body = quotedprintable.NewReader(body)
	}
	text, err := io.ReadAll(body)
	if err != nil {
		return err
	}
	subject, err := new(mime.WordDecoder).DecodeHeader(msg.Header.Get("Subject"))
	if err != nil {
		return err
	}
	d.box.mu.Lock()
	defer d.box.mu.Unlock()
	const most = 200
	d.box.letters = append(d.box.letters[max(0, len(d.box.letters)-most+1):], Letter{msg.Header.Get("From"), d.to, subject, strings.ReplaceAll(string(text), "\r\n", "\n"), time.Now()})
	return nil
}

var page = template.Must(template.New("").Funcs(template.FuncMap{"lines": func(text string) []string { return strings.Split(text, "\n") }, "link": func(line string) bool { return strings.HasPrefix(line, "http") }}).
	Parse(`<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Mail</title>
<style>body{font:16px/1.5 sans-serif;max-width:40rem;margin:3rem auto;padding:0 1rem;background:#fbf7ef;color:#2c2416}article{background:#fff;border:1px solid #a8926a;border-radius:4px;padding:1rem;margin:1rem 0;overflow-wrap:anywhere}h2{font-size:1rem;margin:0}small{color:#6b5a3a}p{margin:.25rem 0;min-height:1em}</style>
<h1>Mail</h1><p>What the application has sent, to whomever: nothing leaves this machine.</p>
{{range .}}<article><h2>{{.Subject}}</h2><small>to {{.To}}, {{.At.Format "15:04:05"}}</small>{{range lines .Text}}<p>{{if link .}}<a href="{{.}}">{{.}}</a>{{else}}{{.}}{{end}}</p>{{end}}</article>{{else}}<p>Nothing yet.</p>{{end}}`))

// ServeHTTP shows what came.
func (m *Mailbox) ServeHTTP(w http.ResponseWriter, _ *http.Request) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_ = page.Execute(w, m.Letters())
}
