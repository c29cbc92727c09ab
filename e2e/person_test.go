package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"

	"keenmagpie/core/activity"
	"keenmagpie/demo"
)

func (p *person) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, time.Minute)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.shot("failed")
		p.t.Fatal(err)
	}
}

// eval runs a script in the page and gives its value, or what it promised.
func eval[T any](p *person, script string) T {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.sight(), time.Minute)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](p.framed(script), chromedp.EvalAwaitPromise))
	if err != nil {
		p.shot("failed")
		p.t.Fatalf("%v\nin %.600s", err, script)
	}
	return v
}

// sight is the page that is looked at; what is pressed goes to the window.
func (p *person) sight() context.Context {
	if p.other != nil {
		return p.other
	}
	return p.ctx
}

// framed is a script that looks at the page in the frame, where that is what is looked at.
func (p *person) framed(script string) string {
	if !p.inFrame {
		return script
	}
	return `((document) => (` + script + `))(document.querySelector('iframe').contentDocument)`
}

func js(v any) string {
	b, _ := json.Marshal(v)
	return string(b)
}

// waits until a script is true.
func (p *person) until(what, script string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.sight(), 70*time.Second)
	defer cancel()
	poll := func() error {
		_, err := chromedp.Run(ctx, chromedp.Poll[any](p.framed("!!("+script+")"), chromedp.WithPollingInterval(40*time.Millisecond), chromedp.WithPollingTimeout(45*time.Second)))
		return err
	}
	err := poll()
	for wentElsewhere(err) && ctx.Err() == nil {
		err = poll() // the page went elsewhere meanwhile: it may come there
	}
	if err != nil {
		p.shot("failed")
		p.t.Fatalf("%s did not come: %v\nthe page says:\n%s", what, err, eval[string](p, `document.body.innerText.slice(0, 2000)`))
	}
}

// wentElsewhere says whether a script ended because its page did.
func wentElsewhere(err error) bool {
	return err != nil && (strings.Contains(err.Error(), "navigated") || strings.Contains(err.Error(), "Cannot find context") || strings.Contains(err.Error(), "context was destroyed"))
}

// untilAnswered asks the server again and again, by a script that promises whether it is so.
func (p *person) untilAnswered(what, script string) {
	p.t.Helper()
	if !eval[bool](p, `(async () => { for (let i = 0; i < 400; i++) { if (await (`+script+`)) return true; await new Promise((r) => setTimeout(r, 100)) } return false })()`) {
		p.shot("failed")
		p.t.Fatalf("%s did not come", what)
	}
}

// find is a script that finds what a person would call by this name: by its label,
// its text, or the label of its field.
func find(name string) string {
	return `(() => {
		const name = ` + js(name) + `;
		const seen = (e) => e.getClientRects().length > 0;
		// What ends in a comma is a piece or a target of a live board.
		const live = name.endsWith(', ') ? '[data-piece], [data-target]' : '';
		const all = [...document.querySelectorAll(live || 'button, a, input, textarea, select, [role]:not([role=status], [role=tabpanel]), [aria-label]')].filter(seen)
			// What a dialog covers comes last.
			.toSorted((a, b) => !!a.closest('[aria-hidden=true]') - !!b.closest('[aria-hidden=true]'));
		// As a screen reader names it: what is hidden from it is not part of the name.
		const text = (e) => e.nodeType === 3 ? e.data : e.getAttribute?.('aria-hidden') ? '' : [...e.childNodes].map(text).join('');
		const labels = [...document.querySelectorAll('label')].find((l) => text(l).trim().startsWith(name));
		const says = (e) => (e.getAttribute('aria-label') ?? text(e)).trim();
		return all.find((e) => says(e) === name.trim()) ?? labels?.control ?? labels?.querySelector('input, button')
			?? all.find((e) => says(e).startsWith(name));
	})()`
}

func (p *person) open(path string) {
	p.t.Helper()
	if strings.HasPrefix(path, "/") {
		path = p.w.url + path
	}
	p.goes("opening "+path, chromedp.Navigate(path))
}

func (p *person) reload() {
	p.t.Helper()
	p.goes("loading the page again", chromedp.Reload())
}

// goes has another page come, and says which one did not.
func (p *person) goes(what string, step chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, time.Minute)
	defer cancel()
	if err := chromedp.Do(ctx, step); err != nil {
		p.shot("failed")
		p.t.Fatalf("%s: %v", what, err)
	}
}

// document is the draft that is open, as the server has it once it is saved.
func (p *person) document() *activity.Doc {
	p.t.Helper()
	p.until("saving", `[...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'Saved')`)
	id := eval[string](p, `location.pathname.split('/').pop()`)
	a, err := p.w.store.In(p.workspace()).Activity(context.Background(), id)
	if err != nil {
		p.t.Fatal(err)
	}
	doc, faults := activity.Read([]byte(a.Document))
	if faults != nil {
		p.t.Fatal(faults)
	}
	return doc
}

func (p *person) workspace() string {
	p.t.Helper()
	return p.w.designer(p.t).WorkspaceID
}

// piece is the accessible name's beginning of a piece on a live board.
func piece(name string) string { return name + ", " }

// place drags a piece onto a target of a live board and waits until it is there.
func (p *person) place(name, target string) {
	p.t.Helper()
	p.carry(name, target)
	p.sees(piece(name) + "in " + target)
}

// carry drags a piece to a target; by keys it is picked up, and put down there.
func (p *person) carry(name, target string) {
	p.t.Helper()
	p.still(piece(name), target+", ")
	if p.keys {
		p.click(piece(name))
		p.click(target + ", ")
		p.acts-- // one act, as dragging is
		return
	}
	p.drag(p.middle(piece(name)), p.middle(target+", "))
}

// sees waits until a text stands on the page, or in the name of something on it.
func (p *person) sees(text string) {
	p.t.Helper()
	p.until(text, `document.body.innerText.includes(`+js(text)+`) || [...document.querySelectorAll('[aria-label]')].some((e) => e.getAttribute('aria-label').includes(`+js(text)+`))`)
}

func (p *person) seesNot(text string) {
	p.t.Helper()
	p.until("the going of "+text, `!document.body.innerText.includes(`+js(text)+`)`)
}

// signIn has the browser signed in, and on the shelf.
func (p *person) signIn(a demo.Account) {
	p.t.Helper()
	p.signedIn(a)
	p.open("/")
	p.sees("Shelf")
}

// signedIn has the browser signed in, with no page open yet.
func (p *person) signedIn(a demo.Account) {
	p.t.Helper()
	answer, err := http.Post(p.w.url+"/api/session", "application/json", strings.NewReader(fmt.Sprintf(`{"email":%s,"password":%s}`, js(a.Email), js(a.Password))))
	if err != nil {
		p.t.Fatal(err)
	}
	defer answer.Body.Close()
	cookies := answer.Cookies()
	if answer.StatusCode >= 300 || len(cookies) == 0 {
		p.t.Fatalf("%s cannot sign in: %s", a.Email, answer.Status)
	}
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, c := range cookies {
			if _, err := cdp.Call(ctx, t, network.SetCookie, network.SetCookieParams{Name: c.Name, Value: c.Value, URL: p.w.url, HTTPOnly: &c.HttpOnly}); err != nil {
				return err
			}
		}
		return nil
	}))
}

// openShelved has the browser signed in, and an activity of the shelf open in the workbench.
func (p *person) openShelved(a demo.Account, title string) {
	p.t.Helper()
	p.signedIn(a)
	p.open("/activity/" + p.w.titled(p.t, title))
}

// signInByHand does it as people do.
func (p *person) signInByHand(a demo.Account) {
	p.t.Helper()
	p.open("/")
	p.fill("Email", a.Email)
	p.fill("Password", a.Password)
	p.click("Sign in")
	p.sees("Shelf")
}

// shot takes a picture into the folder that MAGPIE_SHOTS names, if it does.
func (p *person) shot(name string) {
	dir := os.Getenv("MAGPIE_SHOTS")
	if dir == "" {
		return
	}
	ctx, cancel := context.WithTimeout(p.ctx, time.Minute)
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	if err == nil {
		err = os.WriteFile(filepath.Join(dir, name+".png"), png, 0o600)
	}
	if err != nil {
		p.t.Logf("no picture: %v", err)
	}
}

// downloads lets files be kept in a folder of their own.
func (p *person) downloads() string {
	p.t.Helper()
	dir := p.t.TempDir()
	p.do(chromedp.Func(func(ctx context.Context, _ *chromedp.Target) error {
		c := chromedp.FromContext(ctx)
		_, err := cdp.Call(ctx, c.Browser, browser.SetDownloadBehavior, browser.SetDownloadBehaviorParams{
			Behavior: browser.SetDownloadBehaviorBehaviorAllow, BrowserContextID: c.BrowserContextID, DownloadPath: dir,
		})
		return err
	}))
	return dir
}

// everyPage runs a script in each page before its own scripts.
func (p *person) everyPage(script string) {
	p.t.Helper()
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: script})
		return err
	}))
}

// answersLate is a script that keeps back what the engine answers while window.holds is set.
const answersLate = `window.held = []; const Own = Worker;
	window.Worker = class extends Own { set onmessage(f) { super.onmessage = (e) => window.holds ? window.held.push(() => f(e)) : f(e) } }`

// holdable makes that what pages ask for, opened from now on, can be held back.
func (p *person) holdable() {
	p.t.Helper()
	p.everyPage(`{
		const go = window.fetch;
		window.fetch = async (asked, ...rest) => {
			if (window.holds && new RegExp(window.holds).test((asked.method ?? rest[0]?.method ?? 'GET') + ' ' + new URL(asked.url ?? asked, location.href).pathname))
				await new Promise((r) => (window.goOn ??= []).push(r));
			return go(asked, ...rest);
		} }`)
}

// held does what asks for something ("POST /api/.*releases$"), and lets it go after what is done meanwhile.
func (p *person) held(what string, act, meanwhile func()) {
	p.t.Helper()
	eval[any](p, `window.holds = `+js(what))
	act()
	p.until(what+" is asked for", `!!window.goOn`)
	meanwhile()
	eval[any](p, `(window.holds = '', window.goOn.forEach((go) => go()), delete window.goOn)`)
}

// offline takes the network away, and gives it back.
func (p *person) offline(on bool) {
	p.t.Helper()
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{
			MatchedNetworkConditions: []*network.Conditions{{Offline: on, DownloadThroughput: -1, UploadThroughput: -1}},
		})
		return err
	}))
}

// still waits until things stand where they stood for some frames: what has just come
// may be laid out again.
func (p *person) still(names ...string) {
	p.t.Helper()
	where := ""
	for _, name := range names {
		where += find(name) + `, `
	}
	p.until(strings.Join(names, " and ")+", at rest", `(() => { const of = `+js(strings.Join(names, "|"))+`;
		if (window.stood?.of !== of) {
			const s = window.stood = {of, frames: 0, since: performance.now(), at: ''};
			const look = () => {
				if (window.stood !== s) return;
				const rects = [`+where+`].map((e) => e?.getBoundingClientRect());
				const at = rects.includes(undefined) ? '' : rects.map((r) => [r.x, r.y, r.width]).join();
				if (at && at === s.at) s.frames++; else Object.assign(s, {at, frames: 0, since: performance.now()});
				requestAnimationFrame(look);
			};
			look();
			return false;
		}
		if (window.stood.frames < 5 || performance.now() - window.stood.since < 120) return false;
		window.stood = undefined;
		return true })()`)
}
