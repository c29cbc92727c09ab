package play

import (
	"encoding/binary"
	"math"
)

// packer writes small numbers small: whole numbers as varints, texts with their length,
// yes and no as bits.
type packer struct{ b []byte }

func (p *packer) whole(n int)     { p.b = binary.AppendUvarint(p.b, uint64(n)) }
func (p *packer) signed(n int64)  { p.b = binary.AppendVarint(p.b, n) }
func (p *packer) text(s string)   { p.whole(len(s)); p.b = append(p.b, s...) }
func (p *packer) word(n uint64)   { p.b = binary.BigEndian.AppendUint64(p.b, n) }
func (p *packer) yes(is bool) int { return map[bool]int{true: 1}[is] }

// bits writes n values of so many bits each, the first lowest.
func (p *packer) bits(n, width int, value func(int) int) {
	at := len(p.b)
	p.b = append(p.b, make([]byte, (n*width+7)/8)...)
	for i := range n {
		for k := range width {
			if value(i)>>k&1 == 1 {
				bit := i*width + k
				p.b[at+bit/8] |= 1 << (bit % 8)
			}
		}
	}
}

// unpacker reads what a packer wrote. What is not there or not possible makes it bad, and
// from then on it reads nothing but zeros.
type unpacker struct {
	b   []byte
	bad bool
}

func (u *unpacker) fail() { u.bad, u.b = true, nil }

// whole reads a number up to most.
func (u *unpacker) whole(most int) int {
	n, size := binary.Uvarint(u.b)
	if size <= 0 || n > uint64(most) {
		u.fail()
		return 0
	}
	u.b = u.b[size:]
	return int(n)
}

func (u *unpacker) signed() int64 {
	n, size := binary.Varint(u.b)
	if size <= 0 {
		u.fail()
		return 0
	}
	u.b = u.b[size:]
	return n
}

func (u *unpacker) text() string {
	n := u.whole(math.MaxInt32)
	if n > len(u.b) {
		u.fail()
		return ""
	}
	s := string(u.b[:n])
	u.b = u.b[n:]
	return s
}

func (u *unpacker) word() uint64 {
	if len(u.b) < 8 {
		u.fail()
		return 0
	}
	n := binary.BigEndian.Uint64(u.b)
	u.b = u.b[8:]
	return n
}

func (u *unpacker) bits(n, width int) []int {
	out := make([]int, n)
	size := (n*width + 7) / 8
	if len(u.b) < size {
		u.fail()
		return out
	}
	for bit := range n * width {
		out[bit/width] |= int(u.b[bit/8]>>(bit%8)&1) << (bit % width)
	}
	u.b = u.b[size:]
	return out
}
