package e2e

import (
	"context"
	"net"
	"net/http/httptest"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/webauthn"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
	"keenmagpie/identity"
	"keenmagpie/mailing"
	"keenmagpie/server"
	"keenmagpie/standin"
)

// college is a provider of identities beside the application.
func college(t *testing.T, people ...standin.Person) *identity.Provider {
	t.Helper()
	web := httptest.NewUnstartedServer(nil)
	issuer := "http://" + web.Listener.Addr().String()
	web.Config.Handler = standin.NewProvider(issuer, "Tarnbridge College", "magpie", "secret", people...)
	web.Start()
	t.Cleanup(web.Close)
	p, err := identity.New(identity.Settings{ID: "tarnbridge", Name: "Tarnbridge College", Issuer: issuer, ClientID: "magpie", ClientSecret: "secret", Domains: []string{"cobblelane.example"}})
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// People sign in with their school's account by one button, are told why not, come back to
// where they were, and join by an invitation.
func TestSigningInWithASchoolsAccount(t *testing.T) {
	p := college(t, standin.Person{Subject: "a", Name: "Ana Duarte", Email: demo.Accounts()[0].Email, Verified: true},
		standin.Person{Subject: "r", Name: "Ruth Calder", Email: "ruth@tarnbridge.example", Verified: true})
	w := newWorldBelow(t, "/magpie", server.WithProviders([]*identity.Provider{p}, false))
	ruth := w.person(t)
	ruth.open("/")
	ruth.sees("Sign in with Tarnbridge College")
	ruth.shot("sign-in-provider")
	ruth.seesNot("Password")
	ruth.click("Sign in with Tarnbridge College")
	ruth.sees("say who you are")
	ruth.click("Nobody: go back")
	ruth.sees("You were not signed in at Tarnbridge College")
	ruth.click("Sign in with Tarnbridge College")
	ruth.click("Ruth Calder")
	ruth.sees("there is no account here for your address")
	ruth.shot("sign-in-refused")

	ana := w.person(t)
	ana.open("/people")
	ana.sees("Sign in with Tarnbridge College")
	ana.press(kb.Tab)
	ana.press(kb.Enter) // the one button, by keyboard
	ana.click("Ana Duarte")
	ana.sees("Invite")
	ana.until("back where it was asked", `location.pathname === "/magpie/people"`)
	ana.click("Invite…")
	ana.click("Create link")
	ana.sees("Invitation created")
	link := eval[string](ana, `document.querySelector('input[aria-label="Invitation link"]').value`)

	ruth.open(link)
	ruth.sees("Join with Tarnbridge College")
	ruth.seesNot("Password")
	ruth.shot("join-provider")
	ruth.click("Join with Tarnbridge College")
	ruth.click("Ruth Calder")
	ruth.sees("Parts drawers")
	ruth.open("/account")
	ruth.sees("You have none here")
}

// Whoever forgot a password asks for a link, reads the mail, and comes in with a new one.
func TestAForgottenPassword(t *testing.T) {
	w := newWorldBelow(t, "", server.WithMail(true))
	box := new(standin.Mailbox)
	post, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	takes := box.Server()
	go func() { _ = takes.Serve(post) }()
	t.Cleanup(func() { _ = takes.Close() })
	mailer, err := mailing.New(mailing.Settings{Server: post.Addr().String(), From: "magpie@cobblelane.example", TLS: "none"})
	if err != nil {
		t.Fatal(err)
	}
	tobi := w.person(t)
	tobi.open("/")
	tobi.fill("Email", demo.Accounts()[1].Email)
	tobi.click("Forgot your password?")
	tobi.shot("forgotten")
	tobi.click("Send link")
	tobi.sees("a link is on its way")
	tobi.shot("forgotten-sent")
	if err := mailer.SendDue(t.Context(), w.store); err != nil {
		t.Fatal(err)
	}
	mails := httptest.NewServer(box)
	t.Cleanup(mails.Close)
	tobi.open(mails.URL)
	tobi.sees("A new password for Keen Magpie")
	tobi.shot("mails")
	tobi.click(w.url)
	tobi.sees("Choose a new password")
	tobi.fill("Password", "spokes-under-a-violet-moon")
	tobi.click("Save password")
	tobi.sees("Parts drawers")
}

// A passkey is added on one's own page, signs in without a password, and is taken away; then
// it signs in no more.
func TestAPasskey(t *testing.T) {
	w := newWorldAt(t, "localhost", "") // a passkey is for a name
	ana := w.person(t)
	ana.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		if _, err := cdp.Call(ctx, t, webauthn.Enable, webauthn.EnableParams{}); err != nil {
			return err
		}
		_, err := cdp.Call(ctx, t, webauthn.AddVirtualAuthenticator, webauthn.AddVirtualAuthenticatorParams{Options: &webauthn.VirtualAuthenticatorOptions{
			Protocol: "ctap2", Transport: "internal", HasResidentKey: true, HasUserVerification: true, AutomaticPresenceSimulation: true, IsUserVerified: true}})
		return err
	}))
	ana.signInByHand(demo.Accounts()[0])
	ana.open("/account")
	ana.click("Add a passkey")
	ana.sees("not used yet")
	ana.shot("passkeys")
	ana.open("/")
	ana.sees("Parts drawers")
	out := func() {
		t.Helper()
		eval[any](ana, `fetch('/api/session', {method: 'DELETE'})`)
		ana.open("/")
		ana.sees("Sign in with a passkey")
	}
	out()
	ana.shot("sign-in-passkey")
	ana.click("Sign in with a passkey")
	ana.sees("Parts drawers")
	ana.open("/account")
	ana.sees("last used")
	ana.click(eval[string](ana, `document.querySelector('[aria-label="Passkeys"] li button').ariaLabel`))
	ana.until("it is gone", `!document.querySelector('[aria-label="Passkeys"] li')`)
	out()
	ana.click("Sign in with a passkey")
	ana.sees("This passkey was not accepted here")
}
