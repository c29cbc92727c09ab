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
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

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
		const labels = [...document.querySelectorAll('label')].find((l) => l.textContent.trim().startsWith(name));
		// As a screen reader names it: what is hidden from it is not part of the name.
		const text = (e) => e.nodeType === 3 ? e.data : e.getAttribute?.('aria-hidden') ? '' : [...e.childNodes].map(text).join('');
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
	p.do(chromedp.Navigate(path))
}

type spot struct{ X, Y float64 }

func (p *person) middle(name string) spot {
	p.t.Helper()
	return p.findsRest(name, find(name), 1)
}

func (p *person) click(name string) {
	p.t.Helper()
	p.clickOn(name, find(name))
}

// clickOn clicks on what a script finds, for what has no name of its own.
func (p *person) clickOn(what, script string) {
	p.t.Helper()
	if p.keys {
		p.presses(what, script)
		return
	}
	p.acts++
	for range 3 {
		m := p.findsRest(what, script, 2)
		p.do(chromedp.MouseClickXY(m.X, m.Y))
		if !p.slipped() {
			return
		}
	}
}

// slipped says whether what was to be clicked went from under the pointer just before, or
// another took its place: a list had come above it, as it does to people, who then click
// again.
func (p *person) slipped() bool {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, time.Minute)
	defer cancel()
	slipped, err := chromedp.Run(ctx, chromedp.Evaluate[bool]("!!window.slipped"))
	return err == nil && slipped // a click may have led to another page
}

// wheel turns the mouse's wheel over what a script finds.
func (p *person) wheel(what, script string, down float64) {
	p.t.Helper()
	p.acts++
	at := p.findsRest(what, script, 1)
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, input.SynthesizeScrollGesture, input.SynthesizeScrollGestureParams{X: at.X, Y: at.Y, YDistance: -down, GestureSourceType: input.GestureSourceTypeMouse})
		return err
	}))
}

// findsRest gives the middle of what a script finds, once it is there, can be used and
// has stood at one place for so many looks: what has just come may be laid out again.
// What never rests is taken where it is in the end.
func (p *person) findsRest(what, script string, looks int) spot {
	p.t.Helper()
	looking := fmt.Sprintf(`(async () => {
		const end = performance.now() + 45000;
		for (let same = 0, tries = 0, was; performance.now() < end; await new Promise((r) => setTimeout(r, 20))) {
			const e = %[1]s;
			if (!e || e.disabled && %[2]d > 1) continue;
			e.scrollIntoView({block: 'nearest', inline: 'nearest'});
			const r = e.getBoundingClientRect(), at = {X: r.x + r.width / 2, Y: r.y + r.height / 2};
			same = was && at.X === was.X && at.Y === was.Y ? same + 1 : 1;
			if (same >= %[2]d || ++tries > 24) {
				window.slipped = false;
				window.addEventListener('pointerdown', (ev) => {
					const now = e.getBoundingClientRect(), there = %[1]s;
					window.slipped = !there?.contains(ev.target) && (!e.isConnected || Math.hypot(now.x - r.x, now.y - r.y) > 2);
				}, {capture: true, once: true});
				return at;
			}
			was = at;
		}
		return null })()`, script, looks)
	at := p.answered(looking)
	if at == nil {
		p.shot("failed")
		p.t.Fatalf("%s did not come\nthe page says:\n%s", what, eval[string](p, `document.body.innerText.slice(0, 2000)`))
	}
	return *at
}

// answered runs a script that waits, again where the page has gone elsewhere meanwhile.
func (p *person) answered(script string) *spot {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.sight(), 70*time.Second)
	defer cancel()
	for {
		at, err := chromedp.Run(ctx, chromedp.Evaluate[*spot](p.framed(script), chromedp.EvalAwaitPromise))
		if err == nil {
			return at
		}
		if !wentElsewhere(err) || ctx.Err() != nil {
			p.shot("failed")
			p.t.Fatalf("%v\nin %.600s", err, script)
		}
	}
}

func (p *person) doubleClick(name string) {
	p.t.Helper()
	if p.keys {
		p.actsOn(name)
		return
	}
	p.acts++
	m := p.middle(name)
	p.do(chromedp.MouseClickXY(m.X, m.Y), chromedp.MouseClickXY(m.X, m.Y, chromedp.ClickCount(2)))
}

// fill replaces what stands in a field, as by pasting.
func (p *person) fill(name, text string) {
	p.t.Helper()
	kept.heard(text)
	p.acts++
	p.until(name, find(name))
	if p.keys {
		p.reach(name, find(name))
	}
	eval[any](p, `(() => { const e = `+find(name)+`; e.focus(); if (e.isContentEditable) getSelection().selectAllChildren(e); else e.select() })()`)
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, input.InsertText, input.InsertTextParams{Text: text})
		return err
	}))
}

// press presses a key. Enter and Space go as one event with their text, as a
// keyboard sends them: the page may keep them from also being a click.
func (p *person) press(keys string, modifiers ...chromedp.Modifier) {
	p.t.Helper()
	p.acts++
	known := map[string]input.DispatchKeyEventParams{
		kb.Enter: {Key: "Enter", Code: "Enter", Text: "\r", WindowsVirtualKeyCode: 13},
		" ":      {Key: " ", Code: "Space", Text: " ", WindowsVirtualKeyCode: 32},
	}
	key, ok := known[keys]
	if len(keys) == 1 && keys >= "0" && keys <= "9" && len(modifiers) == 0 {
		key, ok = input.DispatchKeyEventParams{Key: keys, Code: "Digit" + keys, Text: keys, WindowsVirtualKeyCode: int64(keys[0])}, true
	}
	if !ok {
		p.do(chromedp.KeyEvent(keys, chromedp.KeyModifiers(modifiers...)))
		return
	}
	for _, m := range modifiers {
		key.Modifiers |= int64(m)
	}
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeKeyDown, input.DispatchKeyEventTypeKeyUp} {
			key.Type = kind
			if _, err := cdp.Call(ctx, t, input.DispatchKeyEvent, key); err != nil {
				return err
			}
			key.Text = ""
		}
		return nil
	}))
}

// drag moves the mouse with its button down, and lets go.
func (p *person) drag(from, to spot) {
	p.t.Helper()
	p.acts++
	p.hold(from, to)
	p.letGo(to)
}

func (p *person) hold(from, to spot) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMousePressed, from.X, from.Y, chromedp.ButtonLeft, chromedp.ClickCount(1)))
	for i := 1; i <= 5; i++ {
		f := float64(i) / 5
		p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, from.X+(to.X-from.X)*f, from.Y+(to.Y-from.Y)*f, chromedp.ButtonLeft))
	}
}

func (p *person) letGo(at spot) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseReleased, at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(1)))
}

// files gives files to a field for them, as by dropping them on it.
func (p *person) files(field string, paths ...string) {
	p.t.Helper()
	p.acts++
	if p.keys {
		p.hands(field, paths)
		return
	}
	p.do(chromedp.SetUploadFiles(chromedp.CSS(`input[aria-label=`+js(field)+`]`), paths))
}

// spotOn is a place on the board of the workbench, in board units.
func (p *person) spotOn(x, y float64) spot {
	p.t.Helper()
	return eval[spot](p, `(() => { const r = document.querySelector('[data-ground]').getBoundingClientRect();
		const s = Number(getComputedStyle(document.querySelector('[data-ground]')).getPropertyValue('--s'));
		return {X: r.x + `+js(x)+` * s, Y: r.y + `+js(y)+` * s} })()`)
}

// draw drags from one place on the board of the workbench to another.
func (p *person) draw(x1, y1, x2, y2 float64) {
	p.t.Helper()
	if p.keys {
		p.leads(x1, y1)
		p.leads(x2, y2)
		p.acts-- // one act, as dragging is
		return
	}
	p.drag(p.spotOn(x1, y1), p.spotOn(x2, y2))
}

// pressOn presses at a place on the board of the workbench.
func (p *person) pressOn(x, y float64) {
	p.t.Helper()
	if p.keys {
		p.leads(x, y)
		return
	}
	p.acts++
	at := p.spotOn(x, y)
	p.do(chromedp.MouseClickXY(at.X, at.Y))
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
	m, err := p.w.store.MemberByEmail(context.Background(), demo.Accounts()[0].Email)
	if err != nil {
		p.t.Fatal(err)
	}
	return m.WorkspaceID
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
	p.open("/")
	p.sees("Shelf")
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
