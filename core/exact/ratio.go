package exact

import (
	"math/big"
	"math/bits"
	"strconv"
)

// Ratio is a rational number that never loses anything and, while numerator and
// denominator fit 63 bits, allocates nothing; past that it becomes a
// [math/big.Rat]. Ratios are values: operations return new ones. The zero value
// is 0.
type Ratio struct {
	num, den int64 // lowest terms; den 0 stands for 1
	large    *big.Rat
}

// Of makes n/d; d must be above 0.
func Of(n, d int64) Ratio {
	if g := gcd(n, d); g > 1 {
		n, d = n/g, d/g
	}
	return Ratio{num: n, den: d}
}

// Int makes a whole number.
func Int(n int) Ratio { return Ratio{num: int64(n)} }

// OfPercent makes p percent: 60 is 3/5.
func OfPercent(p int) Ratio { return Of(int64(p), 100) }

func gcd(a, b int64) int64 {
	if a < 0 {
		a = -a
	}
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

func (r Ratio) terms() (n, d int64) {
	if r.den == 0 {
		return r.num, 1
	}
	return r.num, r.den
}

// Rat is the number as a big.Rat of its own.
func (r Ratio) Rat() *big.Rat {
	if r.large != nil {
		return new(big.Rat).Set(r.large)
	}
	return big.NewRat(r.terms())
}

func of(r *big.Rat) Ratio {
	if n, d := r.Num(), r.Denom(); n.IsInt64() && d.IsInt64() && n.BitLen() < 63 && d.BitLen() < 63 {
		return Ratio{num: n.Int64(), den: d.Int64()}
	}
	return Ratio{large: r}
}

// times multiplies and tells whether the product fits 62 bits.
func times(a, b int64) (int64, bool) {
	hi, lo := bits.Mul64(uint64(max(a, -a)), uint64(max(b, -b)))
	if hi != 0 || lo >= 1<<62 {
		return 0, false
	}
	if (a < 0) != (b < 0) {
		return -int64(lo), true
	}
	return int64(lo), true
}

// Add is r + o.
func (r Ratio) Add(o Ratio) Ratio {
	if r.large == nil && o.large == nil {
		a, b := r.terms()
		c, d := o.terms()
		ad, ok1 := times(a, d)
		cb, ok2 := times(c, b)
		bd, ok3 := times(b, d)
		if ok1 && ok2 && ok3 {
			return Of(ad+cb, bd)
		}
	}
	return of(new(big.Rat).Add(r.Rat(), o.Rat()))
}

// Sub is r − o.
func (r Ratio) Sub(o Ratio) Ratio { return r.Add(o.Mul(Int(-1))) }

// Mul is r × o.
func (r Ratio) Mul(o Ratio) Ratio {
	if r.large == nil && o.large == nil {
		a, b := r.terms()
		c, d := o.terms()
		// Cancelled crosswise first, so that the products stay small.
		if g := gcd(a, d); g > 1 {
			a, d = a/g, d/g
		}
		if g := gcd(c, b); g > 1 {
			c, b = c/g, b/g
		}
		ac, ok1 := times(a, c)
		bd, ok2 := times(b, d)
		if ok1 && ok2 {
			return Ratio{num: ac, den: bd}
		}
	}
	return of(new(big.Rat).Mul(r.Rat(), o.Rat()))
}

// Div is r / o; o must be above 0.
func (r Ratio) Div(o Ratio) Ratio {
	if o.large == nil {
		n, d := o.terms()
		return r.Mul(Ratio{num: d, den: n})
	}
	return of(new(big.Rat).Quo(r.Rat(), o.Rat()))
}

// Cmp is −1, 0 or 1 as r is less than, equal to or more than o.
func (r Ratio) Cmp(o Ratio) int {
	if r.large == nil && o.large == nil {
		a, b := r.terms()
		c, d := o.terms()
		ad, ok1 := times(a, d)
		cb, ok2 := times(c, b)
		if ok1 && ok2 {
			switch {
			case ad < cb:
				return -1
			case ad > cb:
				return 1
			}
			return 0
		}
	}
	return r.Rat().Cmp(o.Rat())
}

// Sign is −1, 0 or 1.
func (r Ratio) Sign() int { return r.Cmp(Ratio{}) }

// Clamp keeps r within low and high.
func (r Ratio) Clamp(low, high Ratio) Ratio {
	if r.Cmp(low) < 0 {
		return low
	}
	if r.Cmp(high) > 0 {
		return high
	}
	return r
}

// String writes it in lowest terms: "7/9", or "2" when whole.
func (r Ratio) String() string {
	if r.large != nil {
		return r.large.RatString()
	}
	n, d := r.terms()
	if d == 1 {
		return strconv.FormatInt(n, 10)
	}
	return strconv.FormatInt(n, 10) + "/" + strconv.FormatInt(d, 10)
}

// ParseRatio reads what [Ratio.String] writes.
func ParseRatio(s string) (Ratio, bool) {
	r, ok := new(big.Rat).SetString(s)
	if !ok {
		return Ratio{}, false
	}
	return of(r), true
}

// Round rounds to hundredths, half away from zero.
func (r Ratio) Round() Hundredths {
	if r.large == nil {
		n, d := r.terms()
		if scaled, ok := times(n, 200); ok && d < 1<<61 {
			q := (max(scaled, -scaled) + d) / (2 * d)
			if scaled < 0 {
				q = -q
			}
			return Hundredths(q)
		}
	}
	return RoundRat(r.Rat())
}
