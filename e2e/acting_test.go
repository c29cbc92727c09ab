package e2e

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// What people do with the mouse, the keys and files; what they do by keys alone is in hands_test.go.

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
// What never rests is taken where it is in the end. What a dialog covers is waited for: a
// press would only close the dialog.
func (p *person) findsRest(what, script string, looks int) spot {
	p.t.Helper()
	looking := fmt.Sprintf(`(async () => {
		const end = performance.now() + 45000;
		for (let same = 0, tries = 0, was; performance.now() < end; await new Promise((r) => setTimeout(r, 20))) {
			const e = %[1]s;
			if (!e || (e.disabled || e.ariaDisabled === 'true') && %[2]d > 1) continue;
			if (e.closest('[aria-hidden=true]') && !e.closest('[role=dialog]') && document.querySelector('[role=dialog][data-state=open]')) continue;
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
		p.t.Fatalf("%s did not come, or stayed behind a dialog\nthe page says:\n%s", what, eval[string](p, `document.body.innerText.slice(0, 2000)`))
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

func (p *person) shift(name string) {
	p.t.Helper()
	if p.keys {
		p.extends(name)
		return
	}
	p.acts++
	at := p.middle(name)
	p.do(chromedp.MouseClickXY(at.X, at.Y, chromedp.ButtonModifiers(chromedp.ModifierShift)))
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

// tapsWhileBusy presses a key and lets it go before the page has done with the press, as on a
// slow machine.
func (p *person) tapsWhileBusy(keys string) {
	p.t.Helper()
	p.acts++
	eval[any](p, `void addEventListener('keydown', () => { const end = Date.now() + 300; while (Date.now() < end); }, {capture: true, once: true})`)
	events := kb.Encode([]rune(keys)[0])
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		down := make(chan error, 1)
		go func() {
			_, err := cdp.Call(ctx, t, input.DispatchKeyEvent, *events[0])
			down <- err
		}()
		time.Sleep(100 * time.Millisecond)
		_, err := cdp.Call(ctx, t, input.DispatchKeyEvent, *events[len(events)-1])
		return errors.Join(err, <-down)
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
