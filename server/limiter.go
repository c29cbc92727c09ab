package server

import (
	"context"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"
)

// limiter is how much one address may do in a minute; nil has no limit. Who has done nothing
// for a while may do all of it at once.
type limiter struct {
	of *lru.Cache[string, *rate.Limiter] // by address
	n  int
}

// addressesKept is of how many addresses it is known what they did: of more, those that came
// last; the others start with a clean slate.
const addressesKept = 100_000

// signInsPerMinute is how many sign-ins one address, of a school it may be, begins in a
// minute: each keeps something until it has ended.
const signInsPerMinute = 300

func perMinute(n int) *limiter {
	if n == 0 {
		return nil
	}
	of, _ := lru.New[string, *rate.Limiter](addressesKept) // fails for sizes below 1 alone
	return &limiter{of, n}
}

// within counts something that the address of a request does, and refuses what is beyond
// its limit.
func within(ctx context.Context, limit *limiter, what string) error {
	if limit == nil {
		return nil
	}
	from := address(ctx)
	one, known := limit.of.Get(from)
	if !known {
		one = rate.NewLimiter(rate.Limit(float64(limit.n)/60), limit.n)
		if first, raced, _ := limit.of.PeekOrAdd(from, one); raced {
			one = first
		}
	}
	if one.Allow() {
		return nil
	}
	return &Problem{Status: 429, Code: "too-many", RetryAfter: 10,
		Detail: "There are very many " + what + " from your address. It is tried again in a few seconds; what you have done so far is kept."}
}
