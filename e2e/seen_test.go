package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// uncovered measures each reply: the share of it that can be seen, and how much of the
// pieces that are shown wrong, of its own piece and of labels lies under it.
const uncovered = `(() => {
	const box = (e) => e.getBoundingClientRect();
	const over = (a, b) => Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top));
	const bar = box(document.querySelector('footer'));
	const view = {left: 0, top: 0, right: innerWidth, bottom: Math.min(innerHeight, bar.top)};
	return [...document.querySelectorAll('[data-reply]')].map((e) => {
		const r = box(e);
		const hidden = [...document.querySelectorAll('[data-piece][aria-label*="not right"], [data-label]')].reduce((sum, x) => sum + over(r, box(x)), 0);
		return {seen: Math.round(100 * over(r, view) / (r.width * r.height)), hides: Math.round(hidden), text: e.innerText.slice(0, 40)};
	});
})()`

type measured struct {
	Seen, Hides int
	Text        string
}

// At every width what is said can be seen whole, and hides no label and no wrong piece.
func TestRepliesAreSeenWhole(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("Front desk")
	ana.sees("to be right")
	link := ana.release()
	for _, size := range [][2]int{{1280, 800}, {768, 1024}, {390, 844}} {
		t.Run(fmt.Sprint(size[0]), func(t *testing.T) {
			lea := w.person(t)
			lea.t = t
			lea.do(chromedp.EmulateViewport(int64(size[0]), int64(size[1])))
			lea.open(link)
			lea.fill("Your name", "Lea")
			lea.click("Start")
			lea.sees("One visitor after the other")
			if eval[bool](lea, `!!document.querySelector('[data-list]')`) {
				lea.click("As a board")
			}
			// The first ticket goes where it is wrong.
			lea.until("the ticket", `document.querySelector('[data-piece]')`)
			wrong := "Send to the shop, "
			if strings.Contains(eval[string](lea, `document.querySelector('[data-piece]').ariaLabel`), "Looks") {
				wrong = "Fix while they wait, "
			}
			eval[any](lea, `document.querySelector('[data-piece]').focus()`)
			lea.press(kb.Enter)
			lea.click(wrong)
			lea.until("something is said", `document.querySelector('[data-reply]')`)
			lea.still(wrong)
			lea.shot(fmt.Sprintf("seen-%d", size[0]))
			for _, m := range eval[[]measured](lea, uncovered) {
				t.Logf("%d: %q: %d %% seen, %d pixels hidden", size[0], strings.ReplaceAll(m.Text, "\n", " "), m.Seen, m.Hides)
				if m.Seen < 100 || m.Hides > 0 {
					t.Errorf("%q: %d %% is seen, and it hides %d pixels", m.Text, m.Seen, m.Hides)
				}
			}
		})
	}
}
