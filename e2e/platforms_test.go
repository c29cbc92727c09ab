package e2e

import (
	"bytes"
	"encoding/base64"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/hosting"
	"keenmagpie/platforms"
	"keenmagpie/server"
	"keenmagpie/standin"
)

// sealing is what the keys of these installations are encrypted with.
var sealing = []byte("thirty-two letters and some more of them")

// besideACollege starts a college at another site than the application's, and says where it is.
func besideACollege(t *testing.T) (*standin.College, string) {
	t.Helper()
	college := standin.NewCollege()
	web := httptest.NewServer(college.Handler())
	t.Cleanup(web.Close)
	return college, strings.Replace(web.URL, "127.0.0.1", "localhost", 1)
}

// From connecting a platform to a grade in its gradebook, as its people do it: an owner takes an
// address there, confirms what has registered itself, a teacher chooses, a learner plays in a
// frame of another site, where no cookie is kept, and the teacher sees how it went.
func TestAPlatformIsConnected(t *testing.T) {
	college, there := besideACollege(t)
	w := newWorldBelow(t, "", server.WithSecret(sealing))
	ana := w.person(t)
	ana.openDocument(playedEverywhere())
	link := ana.release()

	ana.open(w.url + "/platforms")
	ana.sees("No platform is connected yet")
	ana.shot("no-platform")
	acts := ana.acts
	ana.click("Connect…")
	ana.until("an address", `document.querySelector('[aria-label="Address for registering"]')?.value.includes('/lti/register/')`)
	ana.shot("connect")
	ana.accessible("connect a platform")
	address := eval[string](ana, `document.querySelector('[aria-label="Address for registering"]').value`)
	admin := w.person(t)
	admin.open(there)
	admin.fill("Address for registering", address)
	admin.click("Register")
	admin.sees("Keen Magpie is registered with Tarnbridge College")
	admin.shot("registered")
	ana.sees("Tarnbridge College has registered itself.")
	ana.click("Look and confirm")
	ana.sees("Nobody can come from it until you confirm")
	ana.shot("to-confirm")
	ana.click("Confirm")
	ana.until("it is confirmed", `!document.body.innerText.includes('Nobody can come from it')`)
	ana.shot("platform")
	ana.accessible("platforms")
	if n := ana.acts - acts; n > 4 {
		t.Errorf("connecting took the owner %d acts", n)
	}

	ruth := w.person(t)
	ruth.open(there)
	ruth.click("Choose for Bicycle Mechanics I")
	ruth.launched(w.url + "/lti/choose")
	ruth.sees("Choose for Bicycle Mechanics I")
	ruth.shot("choose-empty")
	// One more is released meanwhile, and listed.
	late := playedEverywhere()
	late.Title = "Hubs for later"
	ana.openDocument(late)
	ana.release()
	ruth.sees("Hubs for later")
	ruth.click(playedEverywhere().Title)
	ruth.shot("choose")
	ruth.click("Add to the course")
	ruth.other = nil
	admin.open(there)
	admin.untilAnswered("the link", `fetch('/').then((r) => r.text()).then((t) => t.includes('(LTI)'))`)
	admin.open(there)
	admin.sees("(LTI)")
	admin.shot("college")

	ada := w.person(t)
	ada.open(there + "/links/1?as=ada")
	ada.launched(w.url + "/play/")
	ada.until("a board", `document.querySelector('[data-piece]')`)
	ada.playsFirst()
	ada.other = nil
	ada.open(there + "/links/1?as=ada") // opened again from the course: she goes on
	ada.launched(w.url + "/play/")
	ada.playsOn()
	ada.sees("Begin again")
	ada.shot("played")
	if err := platforms.New(w.store, sealing).SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if list := college.Grades(); len(list) != 1 || list[0].Score != "5 of 10" || list[0].Success != "FullyGraded" || list[0].Who != "Ada Finch" {
		t.Errorf("the gradebook has %+v", list)
	}

	ruth.open(there + "/links/1?as=ruth")
	ruth.launched(w.url + "/lti/results")
	ruth.sees("1 begun, 1 finished, of 12")
	ruth.sees("5 (50%)")
	ruth.shot("results")

	// As a teacher tries it, nothing is recorded.
	try := eval[string](ruth, `[...document.querySelectorAll('a')].find((a) => a.textContent.includes('nothing is recorded')).href`)
	tries := w.person(t)
	tries.open(try)
	tries.click("Start")
	tries.place("Bell", "A")
	tries.shot("tried")
	ruth.click("Refresh")
	ruth.sees("1 begun, 1 finished, of 12")
	ruth.other = nil

	// Whoever opens it a second time has to come from the course again, and is told so.
	latecomer := w.person(t)
	latecomer.open(w.url + "/lti/choose?ticket=xxxxxxxxxxxxxxxxxxxxxxxxxx")
	latecomer.sees("Open it again from the course")
	latecomer.shot("late")

	// A record store is told of each answer from then on, whichever way a learner came.
	ana.open("/platforms")
	ana.click("Set up…")
	ana.click("Cancel")
	ana.until("what opened it in focus", `document.activeElement.textContent === 'Set up…'`)
	ana.click("Set up…")
	ana.fill("Address (endpoint)", there+"/xapi/")
	ana.fill("Key", standin.RecordsUser)
	ana.fill("Secret", "not this")
	ana.click("Start sending")
	ana.sees("The record store answered 401")
	ana.shot("records-refuse")
	ana.accessible("a record store")
	ana.fill("Secret", standin.RecordsPassword)
	ana.click("Start sending")
	ana.sees("Stop sending")
	ana.shot("records")
	mo := w.person(t)
	mo.begin(link, "Mo")
	mo.playsFirst()
	mo.playsOn()
	if err := platforms.New(w.store, sealing).SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	statements := college.Statements()
	valid(t, statements)
	if n := len(statements); n != 1+2+2+1+1 { // attempted, two checks of two targets, completed, passed
		t.Errorf("%d statements were sent", n)
	}

	// After a re-mark, the scores go out again once it is asked.
	ana.open("/")
	ana.click("More actions for " + playedEverywhere().Title)
	ana.click("Releases and sittings")
	ana.click("Re-mark…")
	ana.sees("the same")
	ana.click("Re-mark 2 sittings")
	ana.sees("2 sittings re-marked")
	ana.click("Send scores to platforms…")
	ana.sees("Send the scores again?")
	ana.accessible("send scores")
	ana.shot("send-scores")
	ana.click("Send scores")
	ana.sees("1 score is on the way to the platforms.")
	if err := platforms.New(w.store, sealing).SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if list := college.Grades(); len(list) == 0 || list[len(list)-1].Score != "5 of 10" {
		t.Errorf("after sending again the gradebook has %+v", list)
	}

	ana.open("/platforms")
	ana.click("End…")
	ana.sees("End the connection with Tarnbridge College?")
	ana.shot("end")
	ana.click("End connection")
	ana.sees("No platform is connected yet")
	admin.open(there + "/links/1?as=ben")
	admin.launched(w.url + "/lti/login")
	admin.sees("This platform is not connected")
	admin.shot("ended")
}

// launched looks at what a platform shows in its frame, which fills the window.
func (p *person) launched(url string) {
	p.t.Helper()
	p.until("a frame", `document.querySelector('iframe')`)
	eval[any](p, `Object.assign(document.querySelector('iframe').style, {position: 'fixed', inset: 0, width: '100vw', height: '100vh', zIndex: 9})`)
	height := eval[float64](p, `innerHeight`)
	p.intoFrame(url)
	p.until("all of the window", `innerHeight === `+js(height))
}

// A course that opens a release here by cmi5 has no key in it; each answer and the result go to
// the platform's record store, each once, with the end of every visit.
func TestHostedCmi5(t *testing.T) {
	college, there := besideACollege(t)
	w := newWorldBelow(t, "", server.WithSecret(sealing))
	ana := w.person(t)
	ana.openDocument(playedEverywhere())
	ana.release()
	ana.press(kb.Escape)
	ana.click("Releases and sittings")
	ana.click("Get it out…")
	ana.sees("Download without the key: opens here")
	size := eval[float64](ana, `fetch([...document.querySelectorAll('a')].find((a) => a.textContent.includes('Download without the key')).href).then((r) => r.arrayBuffer()).then((b) => { window.packed = b; return b.byteLength })`)
	if size > 3000 {
		t.Errorf("the package has %v bytes: more than a course structure", size)
	}
	body := eval[string](ana, `btoa(String.fromCharCode(...new Uint8Array(window.packed)))`)
	zip, err := base64.StdEncoding.DecodeString(body)
	if err != nil {
		t.Fatal(err)
	}
	put, err := http.Post(there+"/packages", "application/zip", bytes.NewReader(zip))
	if err != nil || put.StatusCode != http.StatusCreated {
		t.Fatalf("the college does not take it: %v %d", err, put.StatusCode)
	}
	put.Body.Close()

	// A platform that nobody has named is asked nothing.
	kim := w.person(t)
	kim.open(there + "/objects/1?as=finn")
	kim.launched(w.url + "/cmi5/")
	kim.sees("is not one that the workspace has named")
	kim.other = nil
	if n := len(college.Statements()); n != 0 {
		t.Errorf("%d statements were sent to it", n)
	}
	ana.fill("Sites that may show", there)
	ana.click("Allow")
	ana.sees("Remove " + there)

	send := func() {
		t.Helper()
		if err := platforms.New(w.store, sealing).SendDue(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	kim.open(there + "/objects/1?as=finn")
	kim.launched(w.url + "/play/")
	kim.playsFirst()
	kim.other = nil
	send()
	kim.open(there + "/objects/1?as=finn") // opened again: he goes on
	kim.launched(w.url + "/play/")
	kim.playsOn()
	kim.other = nil
	send()
	kim.open(there + "/objects/1?as=finn&mode=review") // and looks again, which is told, and changes nothing
	kim.launched(w.url + "/play/")
	kim.sees("Score 5 of 10 (50%)")
	kim.click("Begin again")
	kim.sees("This was opened to look at what was done.")
	kim.click("Back to the course")
	kim.other = nil
	kim.until("the college, in the frame", `document.querySelector('iframe').contentDocument?.body?.innerText.includes('Tarnbridge College')`)
	kim.open("about:blank")
	deadline := time.Now().Add(30 * time.Second)
	ended := hosting.New(w.store, func() time.Time { return time.Now().Add(time.Minute) }, nil)
	for len(college.Statements()) < 12 && time.Now().Before(deadline) {
		if err := ended.EndLeft(t.Context()); err != nil {
			t.Fatal(err)
		}
		send()
		time.Sleep(100 * time.Millisecond)
	}
	valid(t, college.Statements())
	eachOnce(t, college.Statements())
	if list := college.Grades(); len(list) != 1 || list[0].Status != "completed" || list[0].Success != "passed" || list[0].Score != "5" {
		t.Errorf("the gradebook has %+v", list)
	}
}

// One press opens a release in the college: it is connected by that, and a learner there plays.
func TestTryingItInTheCollege(t *testing.T) {
	_, there := besideACollege(t)
	w := newWorldBelow(t, "", server.WithSecret(sealing), server.WithCollege(there))
	ana := w.person(t)
	ana.openDocument(playedEverywhere())
	ana.release()
	ana.press(kb.Escape)
	ana.click("Releases and sittings")
	ana.click("Get it out…")
	ana.sees("Connect a platform")
	ana.until("all ways", `[...document.querySelectorAll('h3')].some((h) => h.textContent === 'QTI 3.0')`)
	ana.shot("get-it-out-all")
	ana.do(chromedp.EmulateViewport(390, 844))
	ana.until("no wider than the window", `document.scrollingElement.scrollWidth <= 390`)
	ana.shot("get-it-out-narrow")
	ana.do(chromedp.EmulateViewport(1280, 800))
	ana.click("Try it in Tarnbridge College") // the first is that of LTI
	ada := w.person(t)
	ada.open(there)
	ada.untilAnswered("the link", `fetch('/').then((r) => r.text()).then((t) => t.includes('(LTI)'))`)
	ada.open(there + "/links/1?as=ben")
	ada.launched(w.url + "/play/")
	ada.until("a board", `document.querySelector('[data-piece]')`)
	ada.playsFirst()
	ada.other = nil
	ana.open(w.url + "/platforms")
	ana.sees("Tarnbridge College")
	if text := eval[string](ana, `document.body.innerText`); strings.Contains(text, "Nobody can come from it") {
		t.Errorf("it is not connected: %s", text)
	}
	ana.do(chromedp.EmulateViewport(390, 844))
	ana.until("no wider than the window", `document.scrollingElement.scrollWidth <= 390`)
	ana.shot("platforms-narrow")
}
