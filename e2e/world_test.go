package e2e

import (
	"context"
	"fmt"
	"log"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"

	"keenmagpie/demo"
	"keenmagpie/localdb"
	"keenmagpie/server"
	"keenmagpie/store"
)

// db and chromium are shared by the tests; each has a database of its own, and each
// person a browser context of their own.
var (
	db       *localdb.Server
	chromium context.Context
)

func TestMain(m *testing.M) {
	os.Exit(localdb.During(func(started *localdb.Server) int {
		db = started
		profile, err := localdb.Scratch()
		if err != nil {
			log.Print(err)
			return 1
		}
		defer os.RemoveAll(profile)
		opts := append([]chromedp.ExecAllocatorOption{}, chromedp.DefaultExecAllocatorOptions[:]...)
		// The shell has no windows to keep up, so that a page comes in half the time. Told so, it
		// gives another site a process of its own and keeps no cookies in its frames, as the
		// browsers of learners do.
		opts = append(opts, chromedp.ExecPath("/usr/bin/chromium-headless-shell"),
			chromedp.Flag("site-per-process", true), chromedp.Flag("test-third-party-cookie-phaseout", true),
			chromedp.NoSandbox, chromedp.DisableGPU,
			chromedp.WindowSize(1280, 800), chromedp.WSURLReadTimeout(time.Minute),
			chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true),
			chromedp.Flag("use-fake-device-for-media-stream", true), chromedp.Flag("use-fake-ui-for-media-stream", true),
			chromedp.Flag("hide-scrollbars", true), chromedp.UserDataDir(profile))
		if os.Getenv("MAGPIE_BENCH") != "" {
			// Frames come as fast as they are drawn, so that the time between two is what one takes.
			opts = append(opts, chromedp.Flag("disable-frame-rate-limit", true), chromedp.Flag("disable-gpu-vsync", true))
		} else {
			// Each page compiles the engine again and runs it for seconds only: a quick compile pays.
			opts = append(opts, chromedp.Flag("js-flags", "--liftoff-only"))
		}
		alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
		defer stop()
		ctx, leave := chromedp.NewContext(alloc)
		defer leave()
		if err := chromedp.Do(ctx); err != nil {
			log.Print(err)
			return 1
		}
		chromium = ctx
		code := m.Run()
		if faults := kept.faults(); len(faults) > 0 {
			log.Printf("the servers' logs hold what is nobody's business there:\n%s", strings.Join(faults[:min(20, len(faults))], "\n"))
			return 1
		}
		return code
	}))
}

// world is the application as the demo starts it.
type world struct {
	url   string
	store *store.Store
}

func newWorld(t testing.TB) *world {
	t.Helper()
	return newWorldBelow(t, "")
}

// newWorldBelow is the application below a path, as behind a proxy that serves other things
// as well: what is asked for elsewhere is not there.
func newWorldBelow(t testing.TB, path string, options ...server.Option) *world {
	t.Helper()
	return newWorldAt(t, "127.0.0.1", path, options...)
}

// newWorldAt has this machine go by another name.
func newWorldAt(t testing.TB, host, path string, options ...server.Option) *world {
	t.Helper()
	if one, ok := t.(*testing.T); ok {
		one.Parallel() // each has a database, and each person a browser context, of their own
	}
	ctx := context.Background()
	st, err := demo.Open(ctx, db, t.Name())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	web := httptest.NewUnstartedServer(nil)
	url := fmt.Sprintf("http://%s:%d%s", host, web.Listener.Addr().(*net.TCPAddr).Port, path)
	handler := server.New(st, kept.log(), append(options, server.WithPublicURL(url))...)
	proxy := http.NewServeMux()
	proxy.Handle(path+"/", handler)
	web.Config.Handler = proxy
	web.Start()
	t.Cleanup(web.Close)
	return &world{url, st}
}

// person is somebody at a browser of their own: no cookie is shared.
type person struct {
	t   testing.TB
	w   *world
	ctx context.Context
	// acts counts what a person would do: clicks, keys, drags, pastes, a text typed.
	acts int
	// inFrame says that what is looked at is the page in the one frame of the page, which
	// fills the window.
	inFrame bool
	// other is the page in a frame of another site, where that is what is looked at.
	other context.Context
	// keys has everything done by keys alone.
	keys bool
}

// designer is the first of the demo's accounts.
func (w *world) designer(t testing.TB) store.Member {
	t.Helper()
	m, err := w.store.MemberByEmail(context.Background(), demo.Accounts()[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// titled is the id of an activity of the shelf.
func (w *world) titled(t testing.TB, title string) string {
	t.Helper()
	shelf, err := w.store.In(w.designer(t).WorkspaceID).Activities(context.Background(), store.AnActivity)
	if err != nil {
		t.Fatal(err)
	}
	at := slices.IndexFunc(shelf, func(a store.Activity) bool { return a.Title == title })
	if at < 0 {
		t.Fatalf("%s is not on the shelf", title)
	}
	return shelf[at].ID
}

func (w *world) person(t testing.TB) *person {
	t.Helper()
	ctx, leave := chromedp.NewContext(chromium, chromedp.WithNewBrowserContext())
	t.Cleanup(leave)
	p := w.at(t, ctx)
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		// Several are at their pages at once, each as if it were the only one in front.
		_, err := cdp.Call(ctx, t, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true})
		return err
	}))
	if os.Getenv("MAGPIE_LATE") != "" {
		p.everyPage(late)
	}
	return p
}

// late has every answer of the server come up to 0.8 s late, in any order, and every question
// reach the engine up to 0.15 s late: what goes on before an answer, or is undone by one, shows.
const late = `{
	const after = (most) => new Promise((r) => setTimeout(r, Math.random() * most));
	const real = window.fetch;
	window.fetch = async (...asked) => { const answer = await real(...asked); await after(800); return answer };
	const post = Worker.prototype.postMessage;
	Worker.prototype.postMessage = function (...what) { this.line = (this.line ?? Promise.resolve()).then(() => after(150)).then(() => post.apply(this, what)) };
}`

// window is another window of the same browser.
func (p *person) window() *person {
	p.t.Helper()
	ctx, leave := chromedp.NewContext(p.ctx)
	p.t.Cleanup(leave)
	return p.w.at(p.t, ctx)
}

// at is somebody at a new tab. A page that asks whether it may be left, as one does that is
// not yet saved, is left.
func (w *world) at(t testing.TB, ctx context.Context) *person {
	t.Helper()
	// The first run makes the tab, and belongs to no deadline of a later one.
	if err := chromedp.Do(ctx); err != nil {
		t.Fatal(err)
	}
	leave := chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, page.HandleJavaScriptDialog, page.HandleJavaScriptDialogParams{Accept: true})
		return err
	})
	err := chromedp.Listen(ctx, func(event any) {
		if _, asks := event.(*page.EventJavascriptDialogOpening); asks {
			go func() { _ = chromedp.Do(ctx, leave) }() // what waits for it fails if it does not go
		}
	})
	if err != nil {
		t.Fatal(err)
	}
	p := &person{t: t, w: w, ctx: ctx}
	p.do(chromedp.EmulateViewport(1280, 800))
	return p
}
