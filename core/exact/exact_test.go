package exact_test

import (
	"fmt"
	"math/big"
	"math/rand/v2"
	"testing"

	"keenmagpie/core/exact"
)

func Example() {
	value := exact.Of(7, 9)
	fmt.Println(value.Mul(exact.Int(10)).Round().Fixed())
	h, _ := exact.Parse("0.25")
	fmt.Println(h, h.Ratio(), h.Fixed())
	// Output:
	// 7.78
	// 0.25 1/4 0.25
}

func TestRoundsHalfAwayFromZero(t *testing.T) {
	for _, c := range []struct {
		p, q int64
		want string
	}{
		{1, 8, "0.13"}, {-1, 8, "-0.13"}, // 0.125
		{1, 3, "0.33"}, {2, 3, "0.67"}, {-2, 3, "-0.67"},
		{1, 1000, "0.00"}, {-1, 1000, "0.00"}, // nothing is not minus nothing
		{5, 1000, "0.01"}, {499, 100000, "0.00"}, {10, 1, "10.00"},
	} {
		if got := exact.Of(c.p, c.q).Round().Fixed(); got != c.want {
			t.Errorf("%d/%d rounds to %s, want %s", c.p, c.q, got, c.want)
		}
	}
}

func TestParse(t *testing.T) {
	for in, want := range map[string]exact.Hundredths{
		"0": 0, "12": 1200, "1.5": 150, "0.25": 25, "-3.1": -310, "2.500": 250, "-0": 0,
	} {
		if got, err := exact.Parse(in); err != nil || got != want {
			t.Errorf("Parse(%q) = %d, %v; want %d", in, got, err, want)
		}
	}
	for _, in := range []string{"", ".", "1.", ".5", "1.234", "1e3", "--1", "1.-2", "a", "99999999999", "+1"} {
		if got, err := exact.Parse(in); err == nil {
			t.Errorf("Parse(%q) = %d, want an error", in, got)
		}
	}
}

// Writing and reading again gives the same number, and rounding agrees with a
// twin that compares the two neighbouring hundredths.
func TestWritingAndRoundingAgreeWithTwins(t *testing.T) {
	rnd := rand.New(rand.NewPCG(1, 0))
	for range 2000 {
		h := exact.Hundredths(rnd.Int64N(2_000_000) - 1_000_000)
		if back, err := exact.Parse(h.String()); err != nil || back != h {
			t.Fatalf("%d written as %s read as %d, %v", int64(h), h, back, err)
		}
		r := exact.Of(rnd.Int64N(20001)-10000, rnd.Int64N(999)+1)
		got := r.Round()
		diff := func(x exact.Hundredths) *big.Rat { return new(big.Rat).Abs(r.Sub(x.Ratio()).Rat()) }
		for _, other := range []exact.Hundredths{got - 1, got + 1} {
			c := diff(got).Cmp(diff(other))
			away := (r.Sign() >= 0) == (other > got)
			if c > 0 || (c == 0 && away) {
				t.Fatalf("%s rounded to %s, but %s is nearer or further from zero", r, got, other)
			}
		}
	}
}

// A ratio does what a big.Rat does, also where its terms pass 64 bits and where
// they come back below.
func TestRatiosAgreeWithBigRationals(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 0))
	number := func() int64 {
		n := rnd.Int64N(1 << uint(1+rnd.IntN(61)))
		if rnd.IntN(2) == 0 {
			return -n
		}
		return n
	}
	for range 5000 {
		r, twin := exact.Int(1), big.NewRat(1, 1)
		for range 6 {
			n, d := number(), max(1, rnd.Int64N(1<<uint(1+rnd.IntN(40))))
			o, other := exact.Of(n, d), big.NewRat(n, d)
			if r.Cmp(o) != twin.Cmp(other) {
				t.Fatalf("%s against %s: %d", r, o, r.Cmp(o))
			}
			switch rnd.IntN(4) {
			case 0:
				r, twin = r.Add(o), twin.Add(twin, other)
			case 1:
				r, twin = r.Sub(o), twin.Sub(twin, other)
			case 2:
				r, twin = r.Mul(o), twin.Mul(twin, other)
			case 3:
				if n > 0 {
					r, twin = r.Div(o), twin.Quo(twin, other)
				}
			}
			if r.String() != twin.RatString() || r.Sign() != twin.Sign() {
				t.Fatalf("%s, want %s", r, twin.RatString())
			}
		}
		if got, want := r.Clamp(exact.Int(-1), exact.Int(1)), twin; got.Rat().Cmp(want) != 0 && want.Cmp(big.NewRat(1, 1)) < 0 && want.Cmp(big.NewRat(-1, 1)) > 0 {
			t.Fatalf("%s clamped to %s", want, got)
		}
	}
}

func TestSmallRatiosAllocateNothing(t *testing.T) {
	if n := testing.AllocsPerRun(100, func() {
		v := exact.Of(7, 9).Mul(exact.OfPercent(60)).Sub(exact.Of(1, 10))
		if v.Cmp(exact.Int(0)) < 0 || v.Round() != 37 {
			t.Error(v)
		}
	}); n > 0 {
		t.Errorf("%v allocations", n)
	}
}
