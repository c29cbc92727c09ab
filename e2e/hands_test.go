package e2e

import (
	"context"
	"fmt"
	"math"
	"strings"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// Whoever has no mouse does what a script says with the keys: comes to a thing by F6, Tab and
// the arrows, and presses it. Nothing is known of the application but what its roles promise.
// Coming to a thing is to keys what pointing at it is to a mouse: it is not counted as an act.

// nearer says which key brings the focus nearer to what a script finds; "there" once it has it.
func nearer(script string) string {
	return `(async () => {
		// Where arrows lead, the focus comes a moment after the key.
		await new Promise((done) => setTimeout(() => requestAnimationFrame(done)));
		const e = ` + script + `, a = document.activeElement;
		if (!e || e.disabled || e.ariaDisabled === 'true') return '';
		const focusable = 'button, input, textarea, select, a[href], [tabindex], [contenteditable=true]';
		const around = e.closest(focusable);
		const at = e === around || (around && !around.matches('[role=grid]')) ? around : e.querySelector(focusable) ?? e;
		const active = a?.getAttribute('aria-activedescendant');
		const marked = active ? document.getElementById(active) : null;
		if (a === at || a === e || marked?.contains(e)) return 'there';
		const modal = document.querySelector('[role=dialog], [role=alertdialog], [role=menu]');
		const zone = (x) => x?.closest('[data-zone]')?.dataset.zone;
		if (!modal && zone(e) && zone(e) !== zone(a)) return 'F6';
		// Within a thing of many parts the arrows go from one to the next.
		const whole = e.closest('[role=grid], [role=treegrid], [role=tablist], [role=radiogroup], [role=menu], [role=menubar], [role=toolbar], [role=listbox], [role=tree]');
		if (whole && (whole.contains(a) || whole === a) && a !== document.body) {
			const now = marked ?? a;
			const r = now.getBoundingClientRect(), to = e.getBoundingClientRect();
			if (now !== whole || active) {
				if (to.top >= r.bottom - 1) return 'ArrowDown';
				if (to.bottom <= r.top + 1) return 'ArrowUp';
				if (to.left >= r.right - 1) return 'ArrowRight';
				if (to.right <= r.left + 1) return 'ArrowLeft';
			}
			if (whole === a) return 'ArrowDown';
		}
		// Of what stands on a live board one has the focus; the arrows go round.
		const live = '[data-piece], [data-target]', first = a?.closest(live), then = e.closest(live);
		if (first && then && at.tabIndex < 0) return first.compareDocumentPosition(then) & Node.DOCUMENT_POSITION_FOLLOWING ? 'ArrowRight' : 'ArrowLeft';
		return a && a !== document.body && (at.compareDocumentPosition(a) & Node.DOCUMENT_POSITION_FOLLOWING) ? 'Shift+Tab' : 'Tab';
	})()`
}

// reach brings the focus to what a script finds, by keys alone.
func (p *person) reach(what, script string, with ...chromedp.Modifier) {
	p.t.Helper()
	p.until(what, script)
	keys := map[string]string{"F6": kb.F6, "Tab": kb.Tab, "Shift+Tab": kb.Tab, "ArrowDown": kb.ArrowDown, "ArrowUp": kb.ArrowUp, "ArrowLeft": kb.ArrowLeft, "ArrowRight": kb.ArrowRight}
	var trod []string
	acts := p.acts
	for range 120 {
		key := eval[string](p, nearer(script))
		switch key {
		case "there":
			p.acts = acts
			return
		case "":
			time.Sleep(50 * time.Millisecond)
			continue
		}
		trod = append(trod, key+" from "+eval[string](p, `(document.activeElement.getAttribute('aria-label') ?? document.activeElement.textContent).slice(0, 20)`))
		// Of a zone that gave its focus back to where it was, the way goes on by Tab.
		if key == "F6" && len(trod) > 24 {
			key = "Tab"
		}
		if key == "Shift+Tab" {
			p.press(kb.Tab, chromedp.ModifierShift)
		} else {
			p.press(keys[key], with...) // as what is chosen is extended
		}
	}
	p.shot("failed")
	p.t.Fatalf("the keys do not come to %s: %s", what, strings.Join(trod[max(0, len(trod)-30):], ", "))
}

// presses does with the keys what a click does.
func (p *person) presses(what, script string) {
	p.t.Helper()
	p.reach(what, script)
	how := eval[string](p, `(() => { const a = document.activeElement; return a.matches('[role=checkbox], [type=radio], [role=switch], [data-part]') ? ' ' : a.matches('input:not([type=file]), textarea, [contenteditable=true], [role=grid]') ? '' : 'Enter' })()`)
	switch how {
	case " ":
		p.press(" ")
	case "Enter":
		p.press(kb.Enter)
	}
}

// actsOn does with the keys what a double click does.
func (p *person) actsOn(name string) {
	p.t.Helper()
	p.reach(name, find(name))
	if eval[bool](p, `document.activeElement.matches('[data-part]')`) {
		p.press(kb.F2)
	} else {
		p.press(" ")
	}
}

// extends adds a thing to those chosen, or all from the last to it.
func (p *person) extends(name string) {
	p.t.Helper()
	if eval[bool](p, `!!(`+find(name)+`)?.matches('[data-part]')`) {
		p.reach(name, find(name))
		p.press(" ", chromedp.ModifierShift)
		return
	}
	if eval[bool](p, `!(`+find(name)+`)?.closest('[role=grid]')`) {
		p.reach(name, find(name))
		p.press(kb.Enter, chromedp.ModifierShift)
		return
	}
	p.reach(name, find(name), chromedp.ModifierShift)
	p.acts++
}

// picks chooses in an open list.
func (p *person) picks(option string) {
	p.t.Helper()
	defer func(acts int) { p.acts = acts }(p.acts)
	// A list takes the keys once it has found its place; before that they would be for what opened it.
	p.until("the keys in the list", `(() => { const o = `+option+`, list = o?.closest('[role=listbox]'); return o && (!list || list.contains(document.activeElement) || o.matches('[data-highlighted]')) })()`)
	for range 60 {
		if eval[bool](p, `(() => { const o = `+option+`; return document.activeElement === o || o?.matches('[data-highlighted]') })()`) {
			p.press(kb.Enter)
			return
		}
		down := eval[bool](p, `(() => { const o = `+option+`, a = document.activeElement; return !a.matches('[role=option]') || !!(a.compareDocumentPosition(o) & Node.DOCUMENT_POSITION_FOLLOWING) })()`)
		if down {
			p.press(kb.ArrowDown)
		} else {
			p.press(kb.ArrowUp)
		}
	}
	p.t.Fatalf("the keys do not come to %s", option)
}

// hands files to a field by the dialog that its key opens.
func (p *person) hands(field string, paths []string) {
	p.t.Helper()
	defer func(acts int) { p.acts = acts }(p.acts)
	opened := make(chan cdp.BackendNodeID, 1)
	ctx, cancel := context.WithCancel(p.ctx)
	defer cancel()
	if err := chromedp.Listen(ctx, func(ev any) {
		if e, ok := ev.(*page.EventFileChooserOpened); ok {
			select {
			case opened <- e.BackendNodeID:
			default:
			}
		}
	}); err != nil {
		p.t.Fatal(err)
	}
	catch := func(on bool) {
		p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := cdp.Call(ctx, t, page.SetInterceptFileChooserDialog, page.SetInterceptFileChooserDialogParams{Enabled: on})
			return err
		}))
	}
	catch(true)
	defer catch(false)
	p.presses(field, `document.querySelector('input[aria-label=`+js(field)+`]')?.previousElementSibling`)
	select {
	case node := <-opened:
		p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := cdp.Call(ctx, t, dom.SetFileInputFiles, dom.SetFileInputFilesParams{Files: paths, BackendNodeID: node})
			return err
		}))
	case <-time.After(10 * time.Second):
		p.shot("failed")
		p.t.Fatalf("no key opens files for %s", field)
	}
}

// leads brings the crosshair of a tool to a place of the board, and presses there.
func (p *person) leads(x, y float64) {
	p.t.Helper()
	p.acts++
	defer func(acts int) { p.acts = acts }(p.acts)
	p.until("the crosshair", `document.activeElement?.matches('[data-surface]') && document.querySelector('[data-crosshair]')`)
	for range 200 {
		at := eval[[2]float64](p, `document.querySelector('[data-crosshair]').textContent.match(/\d+/g).slice(0, 2).map(Number)`)
		dx, dy := x-at[0], y-at[1]
		if dx == 0 && dy == 0 {
			p.press(" ")
			return
		}
		far, key := dx, map[bool]string{true: kb.ArrowRight, false: kb.ArrowLeft}[dx > 0]
		if dx == 0 {
			far, key = dy, map[bool]string{true: kb.ArrowDown, false: kb.ArrowUp}[dy > 0]
		}
		switch far = math.Abs(far); {
		case far >= 50:
			p.press(key, chromedp.ModifierShift)
		case far >= 10:
			p.press(key)
		default:
			p.press(key, chromedp.ModifierAlt)
		}
		p.until("the next place", fmt.Sprintf(`(() => { const [x, y] = document.querySelector('[data-crosshair]').textContent.match(/\d+/g).map(Number); return x !== %v || y !== %v })()`, at[0], at[1]))
	}
	p.t.Fatalf("the crosshair does not come to %v, %v", x, y)
}
