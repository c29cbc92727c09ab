package exact_test

import (
	"fmt"
	"math/big"
	"math/rand/v2"
	"testing"

	"keenmagpie/core/exact"
)

func Example() {
	value := big.NewRat(7, 9)
	fmt.Println(exact.Round2(new(big.Rat).Mul(value, big.NewRat(10, 1))))
	h, _ := exact.Parse("0.25")
	fmt.Println(h, exact.Fraction(h.Rat()))
	// Output:
	// 7.78
	// 0.25 1/4
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
		if got := exact.Round2(big.NewRat(c.p, c.q)); got != c.want {
			t.Errorf("Round2(%d/%d) = %s, want %s", c.p, c.q, got, c.want)
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
		r := big.NewRat(rnd.Int64N(20001)-10000, rnd.Int64N(999)+1)
		got := exact.RoundHundredths(r)
		diff := func(x exact.Hundredths) *big.Rat { return new(big.Rat).Abs(new(big.Rat).Sub(r, x.Rat())) }
		for _, other := range []exact.Hundredths{got - 1, got + 1} {
			c := diff(got).Cmp(diff(other))
			away := (r.Sign() >= 0) == (other > got)
			if c > 0 || (c == 0 && away) {
				t.Fatalf("%s rounded to %s, but %s is nearer or further from zero", r, got, other)
			}
		}
	}
}
