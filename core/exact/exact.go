// Package exact holds the numbers that decide marks.
//
// No score is ever computed in floating point. What a person writes with at
// most two decimals (points, positions, sizes) is a [Hundredths]; what is
// computed from it is a [Ratio]; and a rational is rounded once, at the
// end, half away from zero, to two places:
//
//	value := exact.Of(7, 9)                         // seven of nine
//	value.Mul(exact.Int(10)).Round().Fixed()        // "7.78"
//
// The package knows nothing of activities.
package exact

import (
	"errors"
	"fmt"
	"math/big"
	"strings"
)

// Hundredths is a decimal with at most two places, kept as an integer number
// of hundredths: 1.5 is Hundredths(150). Board units and points are these.
type Hundredths int64

// Limit is the largest magnitude that [Parse] accepts: a thousand million units, far
// above any board, score or time in milliseconds.
const Limit Hundredths = 100_000_000_000

// Whole makes n whole units.
func Whole(n int) Hundredths { return Hundredths(n) * 100 }

// Why [Parse] does not take a number.
var (
	ErrNotDecimal = errors.New("is not a plain decimal number")
	ErrDecimals   = errors.New("has more than 2 decimals")
	ErrLarge      = errors.New("is too large")
)

// Parse reads a JSON number with at most two significant decimals. Exponents
// are refused, since nobody writes a position or a mark with one. Cost: O(n).
func Parse(s string) (Hundredths, error) {
	digits, neg := strings.CutPrefix(s, "-")
	whole, frac, dotted := strings.Cut(digits, ".")
	if whole == "" || (dotted && frac == "") || strings.ContainsAny(digits, "eE+") {
		return 0, fmt.Errorf("%q %w", s, ErrNotDecimal)
	}
	frac = strings.TrimRight(frac, "0")
	if len(frac) > 2 {
		return 0, fmt.Errorf("%s %w", s, ErrDecimals)
	}
	frac += strings.Repeat("0", 2-len(frac))
	var v Hundredths
	for _, c := range whole + frac {
		if c < '0' || c > '9' {
			return 0, fmt.Errorf("%q %w", s, ErrNotDecimal)
		}
		v = v*10 + Hundredths(c-'0')
		if v > Limit {
			return 0, fmt.Errorf("%s %w", s, ErrLarge)
		}
	}
	if neg {
		v = -v
	}
	return v, nil
}

// String writes the shortest form: 1.5, 0.25, -3.
func (h Hundredths) String() string {
	sign := ""
	if h < 0 {
		sign, h = "-", -h
	}
	switch {
	case h%100 == 0:
		return fmt.Sprintf("%s%d", sign, h/100)
	case h%10 == 0:
		return fmt.Sprintf("%s%d.%d", sign, h/100, h%100/10)
	default:
		return fmt.Sprintf("%s%d.%02d", sign, h/100, h%100)
	}
}

// MarshalJSON writes the number bare.
func (h Hundredths) MarshalJSON() ([]byte, error) { return []byte(h.String()), nil }

// UnmarshalJSON reads what [Parse] reads.
func (h *Hundredths) UnmarshalJSON(b []byte) error {
	v, err := Parse(string(b))
	if err == nil {
		*h = v
	}
	return err
}

// Ratio is the number as a rational.
func (h Hundredths) Ratio() Ratio { return Of(int64(h), 100) }

// Fixed writes both decimals: "0.13", "-3.00", and nothing is "0.00".
func (h Hundredths) Fixed() string {
	sign := ""
	if h < 0 {
		sign, h = "-", -h
	}
	return fmt.Sprintf("%s%d.%02d", sign, h/100, h%100)
}

// RoundRat rounds to hundredths, half away from zero.
func RoundRat(r *big.Rat) Hundredths {
	// round(|p|/q) = floor((2|p| + q) / 2q), taken on 100·r.
	num := new(big.Int).Mul(new(big.Int).Abs(r.Num()), big.NewInt(200))
	num.Add(num, r.Denom())
	num.Quo(num, new(big.Int).Mul(r.Denom(), big.NewInt(2)))
	h := Hundredths(num.Int64())
	if r.Sign() < 0 {
		return -h
	}
	return h
}
