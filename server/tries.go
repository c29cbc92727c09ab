package server

import (
	"context"
	"fmt"
	"hash/fnv"
	"math"
	"net/http"
	"sync"
	"time"

	"github.com/go-chi/chi/v5/middleware"

	"keenmagpie/core/message"
	"keenmagpie/store"
)

// Wrong codes and passwords are counted in the database, for all servers together: by the
// address that they come from, which then waits longer and longer, and by the account or
// link that they are for. The latter makes answers slower and refuses nobody: whoever has
// the right one gets in from another address, however many try.

// tries counts them.
type tries struct {
	store *store.Store
	lines [256]sync.Mutex // by a hash of the address; few share one
}

// kindOfTry is what is tried, and how much of it is free.
type kindOfTry struct {
	name    string
	free    int           // tries of one address before it has to wait
	longest time.Duration // that it then waits
}

var (
	codeTry     = kindOfTry{"code", 20, time.Minute} // a class at one address mistypes
	passwordTry = kindOfTry{"password", 8, 15 * time.Minute}
	mailTry     = kindOfTry{"mail", 5, 15 * time.Minute}
)

// triesKept is for how long tries are remembered after the last one.
const triesKept = time.Hour

// delay doubles from a second on with each try in vain beyond those that are free.
func (k kindOfTry) delay(n int) time.Duration {
	if n <= k.free {
		return 0
	}
	return time.Duration(min(float64(k.longest), float64(time.Second)*math.Pow(2, float64(n-k.free-1))))
}

// slowest is how much the answers for one account or link are slowed down at most.
const slowest = 2 * time.Second

// may says whether an address may try now. What was tried in vain very often, from
// wherever, it lets wait a moment.
func (t *tries) may(ctx context.Context, k kindOfTry, account string) error {
	of, err := t.store.Tries(ctx, k.name, "from "+address(ctx))
	if err != nil {
		return err
	}
	if wait := time.Until(of.UntilAt); wait > 0 {
		seconds := int(wait/time.Second) + 1
		often := said(429, "too-many-tries", "There were many wrong tries from here. Wait {wait} and try again.", message.P{"wait": waitWords(seconds)})
		often.RetryAfter = seconds
		return often
	}
	all, err := t.store.Tries(ctx, k.name, "for "+account)
	if err != nil {
		return err
	}
	if over := all.N - 5*k.free; over > 0 {
		clock := time.NewTimer(min(slowest, time.Duration(over)*20*time.Millisecond))
		defer clock.Stop()
		select {
		case <-clock.C:
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return nil
}

// inVain counts a wrong try.
func (t *tries) inVain(ctx context.Context, k kindOfTry, account string) error {
	if err := t.store.TriedInVain(ctx, k.name, "from "+address(ctx), triesKept, k.delay); err != nil {
		return err
	}
	return t.store.TriedInVain(ctx, k.name, "for "+account, triesKept, func(int) time.Duration { return 0 })
}

// codeGuard has the tries of codes counted; see [hosting.Guard].
type codeGuard struct{ *tries }

// May and InVain are those of [hosting.Guard].
func (g codeGuard) May(ctx context.Context, link string) error { return g.may(ctx, codeTry, link) }
func (g codeGuard) InVain(ctx context.Context, link string) error {
	return g.inVain(ctx, codeTry, link)
}

// oneByOne lets those from one address try one after the other: comparing a password takes
// long, and many at once would all be let try before the first was counted.
func (t *tries) oneByOne(ctx context.Context) (leave func()) {
	h := fnv.New32a()
	_, _ = h.Write([]byte(address(ctx)))
	lock := &t.lines[h.Sum32()%uint32(len(t.lines))]
	lock.Lock()
	return lock.Unlock
}

func waitWords(seconds int) string {
	if seconds == 1 {
		return "a second"
	}
	if seconds < 120 {
		return fmt.Sprintf("%d seconds", seconds)
	}
	return fmt.Sprintf("%d minutes", (seconds+59)/60)
}

type (
	addressKey struct{}
	agentKey   struct{}
)

// addressed notes from where a request comes: of IPv6 the network of its line, since whoever
// has one has all of its addresses.
func addressed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		from := r.RemoteAddr
		if ip := middleware.GetClientIPAddr(r.Context()).WithZone(""); ip.IsValid() {
			from = ip.String()
			if line, err := ip.Prefix(64); err == nil && ip.Is6() {
				from = line.String()
			}
		}
		ctx := context.WithValue(r.Context(), addressKey{}, from)
		next.ServeHTTP(w, r.WithContext(context.WithValue(ctx, agentKey{}, r.UserAgent())))
	})
}

// agent is what the browser of a request says that it is.
func agent(ctx context.Context) string {
	name, _ := ctx.Value(agentKey{}).(string)
	return name
}

func address(ctx context.Context) string {
	host, _ := ctx.Value(addressKey{}).(string)
	return host
}
