package visit

import (
	"strconv"
	"strings"

	"keenmagpie/core/play"
	"keenmagpie/core/series"
)

// Remember writes down where the visit stands, in at most so many characters (letters,
// digits, and - _ . : !), so that [Visit.Recall] can go on from it elsewhere: the place, and
// of each sitting its checkpoint with the moves since. Where that is too long the moves
// since the last checks are left out; where it still is, ok is false.
func (v *Visit) Remember(most int) (memory string, ok bool) {
	for _, moves := range []bool{true, false} {
		if memory = v.remember(moves); len(memory) <= most {
			return memory, true
		}
	}
	return "", false
}

func number(n int64) string { return strconv.FormatInt(n, 36) }

func (v *Visit) remember(withMoves bool) string {
	head := strings.Join([]string{"1", strconv.FormatUint(v.seed, 36), number(v.began), number(int64(v.place.At)), number(int64(v.place.Reached))}, ":")
	parts := []string{head}
	for i, s := range v.seats {
		if s == nil {
			parts = append(parts, number(int64(v.turns[i])))
			continue
		}
		g := v.stages[i].game
		checkpoint, since := g.Checkpoint(s.state)
		moves := ""
		if withMoves {
			moves = g.PackMoves(since)
		}
		parts = append(parts, strings.Join([]string{number(int64(v.turns[i])), number(int64(s.turn)), number(s.started), checkpoint, moves}, ":"))
	}
	return strings.Join(parts, "!")
}

// Recall goes on from what was remembered. What is damaged, or of another release, is
// refused with [play.ErrDamaged] or [play.ErrOtherRelease], and the visit stays as it was.
func (v *Visit) Recall(memory string) error {
	parts := strings.Split(memory, "!")
	head := strings.Split(parts[0], ":")
	if head[0] != "1" && len(head[0]) == 1 {
		return play.ErrOtherRelease
	}
	if len(head) != 5 || len(parts) != len(v.stages)+1 {
		return play.ErrDamaged
	}
	bad := false
	read := func(s string) int64 {
		n, err := strconv.ParseInt(s, 36, 64)
		bad = bad || err != nil || n < 0
		return n
	}
	seed, err := strconv.ParseUint(head[1], 36, 64)
	began, at, reached := read(head[2]), int(read(head[3])), int(read(head[4]))
	if err != nil || bad || v.run == nil && (at != 0 || reached != 0) || v.run != nil && (at > v.run.End() || reached > v.run.End() || at > reached) {
		return play.ErrDamaged
	}
	seats, turns := make([]*seat, len(v.stages)), make([]int, len(v.stages))
	for i, part := range parts[1:] {
		fields := strings.Split(part, ":")
		turns[i] = int(read(fields[0]))
		if len(fields) == 1 {
			continue
		}
		g := v.stages[i].game
		if len(fields) != 5 || g == nil {
			return play.ErrDamaged
		}
		s := &seat{turn: int(read(fields[1])), started: read(fields[2])}
		if s.state, err = g.Resume(fields[3], nil); err != nil {
			return err
		}
		moves, err := g.UnpackMoves(fields[4], s.state.N)
		if err != nil {
			return err
		}
		for _, m := range moves {
			s.state, _ = g.Move(s.state, m)
		}
		seats[i] = s
	}
	if bad {
		return play.ErrDamaged
	}
	v.seed, v.began, v.place, v.seats, v.turns, v.begun = seed, began, series.Place{At: at, Reached: reached}, seats, turns, true
	return nil
}
