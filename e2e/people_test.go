package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"keenmagpie/demo"
	"keenmagpie/store"
)

// An owner invites somebody, who joins by the link, is made a viewer, gets a link for a new
// password, and is removed.
func TestPeopleOfAWorkspace(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signInByHand(demo.Accounts()[0])
	ana.click("Cobble Lane Cycle Workshop")
	ana.click("People")
	ana.sees("Tobi")
	ana.accessible("people")
	ana.shot("people")
	ana.do(chromedp.EmulateViewport(390, 844))
	ana.until("everything fits a phone", `document.querySelector('[aria-label="Members"]').scrollWidth <= document.querySelector('[aria-label="Members"]').clientWidth && document.documentElement.scrollWidth <= innerWidth`)
	ana.shot("people-narrow")
	ana.do(chromedp.EmulateViewport(1280, 800))
	ana.click("Invite…")
	ana.fill("Email (optional)", "lio@cobblelane.example")
	ana.shot("people-invite")
	ana.click("Create link")
	ana.sees("Invitation created")
	link := eval[string](ana, `document.querySelector('input[aria-label="Invitation link"]').value`)
	ana.shot("people-invited")
	ana.click("Done")
	ana.sees("from Ana Duarte, until")

	lio := w.person(t)
	path := func(link string) string { return strings.TrimPrefix(link, w.url) }
	lio.open(path(link))
	lio.sees("Join Cobble Lane Cycle Workshop")
	lio.accessible("join")
	lio.shot("join")
	lio.fill("Your name", "Lio Marsh")
	lio.fill("Password", "password123")
	lio.click("Join")
	lio.sees("easy to guess")
	lio.shot("join-easy")
	lio.fill("Password", "rattling-mudguard-song")
	lio.click("Join")
	lio.sees("Parts drawers")
	lio.click("Lio Marsh")
	lio.sees("Your account")
	lio.accessible("account")
	lio.shot("account")
	lio.fill("Your name", "Lio M. Marsh")
	lio.click("Save name")
	lio.sees("Name saved.")
	lio.fill("Current password", "rattling-mudguard-song")
	lio.fill("New password", "cracked-lamp-over-noon")
	lio.click("Save password")
	lio.sees("You are signed out everywhere else.")

	ana.open("/people")
	ana.click("More actions for Lio M. Marsh")
	ana.click("Make viewer")
	ana.until("the role", `[...document.querySelectorAll('tr')].some((r) => r.textContent.includes('Lio M. Marsh') && r.textContent.includes('Viewer'))`)
	ana.click("More actions for Lio M. Marsh")
	ana.click("Link for a new password…")
	ana.until("the link", `!!document.querySelector('input[aria-label="Link for a new password"]')`)
	link = eval[string](ana, `document.querySelector('input[aria-label="Link for a new password"]').value`)
	ana.click("Close")
	lio.open(path(link))
	lio.sees("Choose a new password")
	lio.fill("Password", "three-spanners-and-tea")
	lio.click("Save password")
	lio.sees("Parts drawers")
	lio.seesNot("New activity")

	ana.click("More actions for Ana Duarte")
	ana.click("Leave the workspace…")
	ana.click("Leave")
	ana.sees("there is no other")
	ana.click("Cancel")
	ana.click("More actions for Lio M. Marsh")
	ana.click("Remove…")
	ana.click("Remove")
	ana.seesNot("Lio M. Marsh")
	lio.open("/")
	lio.sees("Sign in")
}

// An empty installation is set up at the address that its first start prints.
func TestTheFirstOwner(t *testing.T) {
	w := newWorld(t)
	token, err := w.store.AddTicket(t.Context(), store.Ticket{Kind: store.ForFirstOwner}, time.Hour)
	if err != nil {
		t.Fatal(err)
	}
	noa := w.person(t)
	noa.open("/join/" + token)
	noa.sees("Set up Keen Magpie")
	noa.accessible("first owner")
	noa.shot("first-owner")
	noa.fill("Name of the workspace", "North School")
	noa.fill("Email", "noa@school.example")
	noa.fill("Your name", "Noa Quist")
	noa.fill("Password", "rattling-mudguard-song")
	noa.click("Create workspace")
	noa.sees("No activities yet")
	noa.sees("North School")
	noa.open("/join/" + token)
	noa.sees("This link can’t be used")
	noa.shot("link-used")
}
