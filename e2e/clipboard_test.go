package e2e

import (
	"context"
	"sync"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
)

// clipboard is the one of the machine: all browser contexts have the same.
var clipboard sync.Mutex

// edits presses the key of an editing command, as a browser's user does: the event that
// follows is the browser's own and goes where the caret or the focus is.
func (p *person) edits(key, command string) {
	p.t.Helper()
	p.acts++
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeRawKeyDown, input.DispatchKeyEventTypeKeyUp} {
			event := input.DispatchKeyEventParams{Type: kind, Modifiers: 2, Key: key, Code: "Key" + string(key[0]-32), WindowsVirtualKeyCode: int64(key[0] - 32)}
			if kind == input.DispatchKeyEventTypeRawKeyDown {
				event.Commands = []string{command}
			}
			if _, err := cdp.Call(ctx, t, input.DispatchKeyEvent, event); err != nil {
				return err
			}
		}
		return nil
	}))
}

// mayUseClipboard lets the page's scripts read and write it, as the tests do; the keys
// need no such thing.
func (p *person) mayUseClipboard() {
	p.t.Helper()
	for _, name := range []string{"clipboard-read", "clipboard-write"} {
		p.do(chromedp.Func(func(ctx context.Context, _ *chromedp.Target) error {
			c := chromedp.FromContext(ctx)
			_, err := cdp.Call(ctx, c.Browser, browser.SetPermission, browser.SetPermissionParams{
				Permission: &browser.PermissionDescriptor{Name: name}, Setting: browser.PermissionSettingGranted, Origin: p.w.url, BrowserContextID: c.BrowserContextID})
			return err
		}))
	}
}

// paste presses Ctrl+V after another program has put a text on the clipboard.
func (p *person) paste(text string) {
	p.t.Helper()
	kept.heard(text)
	clipboard.Lock()
	defer clipboard.Unlock()
	p.mayUseClipboard()
	eval[any](p, `navigator.clipboard.writeText(`+js(text)+`)`)
	eval[any](p, `window.pasted = false; addEventListener('paste', () => { window.pasted = true }, {once: true, capture: true})`)
	p.edits("v", "paste")
	p.until("the paste reached the page", `window.pasted`)
}

// copies presses Ctrl+C, or Ctrl+X, and gives what is then on the clipboard.
func (p *person) copies(key string) string {
	p.t.Helper()
	clipboard.Lock()
	defer clipboard.Unlock()
	p.mayUseClipboard()
	eval[any](p, `navigator.clipboard.writeText('nothing was copied')`)
	p.edits(key, map[string]string{"c": "copy", "x": "cut"}[key])
	return eval[string](p, `navigator.clipboard.readText()`)
}
