package play

import (
	"encoding/base64"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"hash/fnv"
	"maps"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/geometry"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// Why a checkpoint is refused.
var (
	// ErrDamaged: it is not what was written, or nothing that was written at all.
	ErrDamaged = errors.New("this checkpoint is damaged")
	// ErrOtherRelease: it was written of another document, or by other rules.
	ErrOtherRelease = errors.New("this checkpoint is of another release of the activity")
)

// checkpointVersion is the first byte of every checkpoint.
const checkpointVersion = 1

// MostCheckpoint is how long a checkpoint may be, in characters.
const MostCheckpoint = 1 << 20

// fingerprint tells documents apart: FNV-1a of the canonical form. It need not withstand
// anyone who makes documents that look alike; whoever can write checkpoints can write any.
func fingerprint(doc *activity.Doc) uint64 {
	h := fnv.New64a()
	h.Write(doc.Write())
	return h.Sum64()
}

// Checkpoint writes down the last place of a sitting from which it can be gone on with,
// and lists the moves since: [Game.Resume] takes both and answers all further moves as if
// the sitting had never been interrupted, but that a move from before is not known again.
// Such a place is one that undo does not go behind: a check, the start of an attempt, and
// every move where there is no undo. The form is base64url of a version byte, the version of
// the rules, eight bytes of the document's hash, varints, and a checksum; 60 pieces in 12
// targets take about 1,000 characters. Cost: linear in pieces and targets.
func (g *Game) Checkpoint(s *State) (checkpoint string, since []Move) {
	at := s
	if s.cut != nil {
		at = s.cut
	}
	for e := s.log; e != nil && e.move.N > at.N; e = e.before {
		since = append(since, e.move)
	}
	slices.Reverse(since)
	p := &packer{}
	p.b = append(p.b, checkpointVersion)
	p.whole(marks.Semantics)
	p.word(g.print())
	g.pack(p, at)
	p.b = binary.BigEndian.AppendUint32(p.b, crc32.ChecksumIEEE(p.b))
	return base64.RawURLEncoding.EncodeToString(p.b), since
}

// Resume goes on from a checkpoint, with the moves since. The errors are [ErrDamaged] and
// [ErrOtherRelease]; nothing is guessed.
func (g *Game) Resume(checkpoint string, since []Move) (*State, error) {
	if len(checkpoint) > MostCheckpoint {
		return nil, ErrDamaged
	}
	b, err := base64.RawURLEncoding.Strict().DecodeString(checkpoint)
	if err != nil || len(b) < 5 || crc32.ChecksumIEEE(b[:len(b)-4]) != binary.BigEndian.Uint32(b[len(b)-4:]) {
		return nil, ErrDamaged
	}
	if b[0] != checkpointVersion {
		return nil, ErrOtherRelease
	}
	u := &unpacker{b: b[1 : len(b)-4]}
	if rules, print := u.whole(1<<16), u.word(); !u.bad && (rules != marks.Semantics || print != g.print()) {
		return nil, ErrOtherRelease
	}
	s := g.unpack(u)
	if u.bad || len(u.b) > 0 {
		return nil, ErrDamaged
	}
	for _, m := range since {
		s, _ = g.Move(s, m)
	}
	return s, nil
}

var phases = []Phase{Placing, Paused, Done}

func (g *Game) pack(p *packer, s *State) {
	p.word(s.Seed)
	p.signed(s.Limit)
	p.whole(s.N)
	p.signed(s.T)
	p.whole(slices.Index(phases, s.Phase))
	p.whole(s.Attempt)
	p.whole(s.Judged)
	p.whole(s.Hints)
	p.whole(s.Dealt)
	g.packArrangement(p, s)
	if g.each() {
		p.whole(s.tries.Charged)
		p.whole(s.tries.All)
		for _, n := range slices.Concat(s.tries.Item, s.tries.Target) {
			p.whole(n)
		}
	}
	p.whole(p.yes(s.Kept != nil))
	if s.Kept != nil {
		p.text(s.Kept.Value.String())
		p.signed(int64(s.Kept.Score))
		p.signed(int64(s.Kept.Percent))
	}
	p.whole(p.yes(s.Verdict != nil))
	if s.Verdict != nil {
		g.packVerdict(p, s.Verdict)
	}
	p.whole(len(s.Standing))
	for _, x := range s.Standing {
		g.packGiven(p, x, s.N)
	}
}

// unpack makes a state of what was packed; where that was not possible the state is of no
// use, and u is bad.
func (g *Game) unpack(u *unpacker) *State {
	seed, limit := u.word(), u.signed()
	if u.bad || limit < 0 {
		u.fail()
		return nil
	}
	s := g.OpenWithin(seed, limit)
	s.N, s.T = u.whole(MostMoves), u.signed()
	s.Phase = phases[u.whole(len(phases)-1)]
	s.Attempt, s.Judged = u.whole(MostMoves+1), u.whole(MostMoves+1)
	s.Hints, s.Dealt = u.whole(len(g.Doc.Hints)), u.whole(len(s.Order))
	g.unpackArrangement(u, s)
	if g.each() {
		tries := marks.NewTries(g.Parts)
		tries.Charged, tries.All = u.whole(1<<40), u.whole(MostMoves)
		for _, list := range [][]int{tries.Item, tries.Target} {
			for i := range list {
				list[i] = u.whole(MostMoves)
			}
		}
		s.tries = tries
	}
	s.Kept, s.Verdict = nil, nil
	if u.whole(1) == 1 {
		value, ok := exact.ParseRatio(u.text())
		if !ok {
			u.fail()
		}
		s.Kept = &Kept{value, exact.Hundredths(u.signed()), exact.Hundredths(u.signed())}
	}
	if u.whole(1) == 1 {
		s.Verdict = g.unpackVerdict(u)
	}
	s.Standing = nil
	for range u.whole(len(g.Doc.Replies) * MostMoves) {
		if u.bad {
			break
		}
		s.Standing = append(s.Standing, g.unpackGiven(u, s.N))
	}
	if s.Attempt < 1 || s.T < 0 || s.Phase == Paused && s.Verdict == nil || s.Verdict != nil && s.Kept == nil {
		u.fail()
	}
	return s
}

// packArrangement writes who is in each target, since when, and where it was dropped; who
// is held, and who lies loose.
func (g *Game) packArrangement(p *packer, s *State) {
	for _, list := range s.Now.In {
		p.whole(len(list))
		for _, x := range list {
			p.whole(2*x.Piece + p.yes(x.At != nil))
			p.whole(s.N - x.Since)
			if x.At != nil {
				p.signed(int64(x.At[0]))
				p.signed(int64(x.At[1]))
			}
		}
	}
	p.bits(len(s.Now.Held), 1, func(i int) int { return p.yes(s.Now.Held[i]) })
	p.whole(len(s.Now.Loose))
	for _, piece := range slices.Sorted(maps.Keys(s.Now.Loose)) {
		p.whole(piece)
		p.signed(int64(s.Now.Loose[piece].X))
		p.signed(int64(s.Now.Loose[piece].Y))
	}
}

func (g *Game) unpackArrangement(u *unpacker, s *State) {
	a, pieces := placing.New(g.Parts), len(g.Parts.Pieces)
	free := func(piece int) bool {
		if piece >= pieces || a.Where[piece] != activity.Home {
			u.fail()
		}
		return !u.bad
	}
	for t := range a.In {
		for range u.whole(pieces) {
			n := u.whole(2*pieces + 1)
			x := placing.Placed{Piece: n / 2, Since: s.N - u.whole(s.N)}
			if n%2 == 1 {
				x.At = &geometry.Vertex{activity.U(u.signed()), activity.U(u.signed())}
			}
			if !free(x.Piece) {
				return
			}
			a.In[t] = append(a.In[t], x)
			a.Where[x.Piece] = t
		}
	}
	for i, held := range u.bits(pieces, 1) {
		a.Held[i] = held == 1
	}
	loose := u.whole(pieces)
	if loose > 0 {
		a.Loose = map[int]activity.Point{}
	}
	for range loose {
		piece := u.whole(pieces)
		at := activity.Point{X: activity.U(u.signed()), Y: activity.U(u.signed())}
		if !free(piece) {
			return
		}
		a.Loose[piece], a.Where[piece] = at, activity.Loose
	}
	s.Now = a
}

var outcomes = []activity.Outcome{activity.OutcomeRight, activity.OutcomePart, activity.OutcomeWrong}
var targetStates = []string{answer.Empty.String(), answer.Right.String(), answer.Part.String(), answer.Wrong.String()}

// packVerdict writes the last verdict, which need not be that of the arrangement as it
// stands now.
func (g *Game) packVerdict(p *packer, v *marks.Verdict) {
	p.whole(2*slices.Index(outcomes, v.Outcome) + p.yes(v.Valid))
	p.whole(v.Solution)
	p.whole(v.ScoredBy)
	is := map[string]int{}
	for _, id := range v.Right {
		is[id] = 1
	}
	for _, id := range v.Wrong {
		is[id] = 2
	}
	p.bits(len(g.Parts.Pieces), 2, func(i int) int { return is[g.Parts.Pieces[i].ID] })
	p.bits(len(g.Doc.Items), 1, func(i int) int { return p.yes(slices.Contains(v.Missing, g.Doc.Items[i].ID)) })
	p.bits(len(g.Doc.Targets), 2, func(i int) int { return slices.Index(targetStates, v.Targets[g.Doc.Targets[i].ID]) })
	for _, s := range []string{v.Earned, v.Available, v.Fraction, v.Score, v.Percent} {
		p.text(s)
	}
}

func (g *Game) unpackVerdict(u *unpacker) *marks.Verdict {
	n := u.whole(2*len(outcomes) - 1)
	v := &marks.Verdict{Outcome: outcomes[n/2], Valid: n%2 == 1, Right: []string{}, Wrong: []string{}, Missing: []string{}, Targets: map[string]string{}}
	v.Solution, v.ScoredBy = u.whole(len(g.Judge.Solutions)-1), u.whole(len(g.Judge.Solutions)-1)
	for i, is := range u.bits(len(g.Parts.Pieces), 2) {
		switch is {
		case 1:
			v.Right = append(v.Right, g.Parts.Pieces[i].ID)
		case 2:
			v.Wrong = append(v.Wrong, g.Parts.Pieces[i].ID)
		}
	}
	for i, is := range u.bits(len(g.Doc.Items), 1) {
		if is == 1 {
			v.Missing = append(v.Missing, g.Doc.Items[i].ID)
		}
	}
	for i, is := range u.bits(len(g.Doc.Targets), 2) {
		v.Targets[g.Doc.Targets[i].ID] = targetStates[is]
	}
	slices.Sort(v.Right)
	slices.Sort(v.Wrong)
	slices.Sort(v.Missing)
	for _, s := range []*string{&v.Earned, &v.Available, &v.Fraction, &v.Score, &v.Percent} {
		*s = u.text()
	}
	return v
}

// packGiven writes a reply that stands: which, of which move, and what its text was filled
// with.
func (g *Game) packGiven(p *packer, x Given, n int) {
	p.whole(2*x.Number + p.yes(x.Over))
	p.whole(n - x.N)
	p.whole(x.At)
	p.whole(len(x.values))
	for _, v := range x.values {
		p.text(v)
	}
	piece, target := 0, 0 // or one more than their numbers
	if x.Piece != "" {
		piece, _ = g.Parts.Piece(x.Piece)
		target, _ = g.Parts.Target(x.Target)
		piece, target = piece+1, target+1
	}
	p.whole(piece)
	p.whole(target)
	p.whole(len(x.Points))
	for _, id := range x.Points {
		p.whole(g.pointNumber(id))
	}
}

func (g *Game) unpackGiven(u *unpacker, n int) (x Given) {
	if len(g.Doc.Replies) == 0 {
		u.fail()
		return x
	}
	number := u.whole(2*len(g.Doc.Replies) - 1)
	r := &g.Doc.Replies[number/2]
	x = Given{ID: r.ID, Number: number / 2, Over: number%2 == 1, N: n - u.whole(n), At: u.whole(len(g.Doc.Replies))}
	for range u.whole(len(r.Say.Text)) {
		x.values = append(x.values, u.text())
		if u.bad {
			return x
		}
	}
	x.Text = reply.Filled(r.Say.Text, x.values)
	piece, target := u.whole(len(g.Parts.Pieces)), u.whole(len(g.Doc.Targets))
	switch {
	case piece > 0 && target > 0:
		x.Piece, x.Target = g.Parts.Pieces[piece-1].ID, g.Doc.Targets[target-1].ID
	case piece > 0 || target > 0:
		u.fail()
	}
	places := g.pointable()
	for range u.whole(len(places) * (1 + len(r.Point))) {
		if k := u.whole(len(places) - 1); !u.bad {
			x.Points = append(x.Points, places[k])
		}
	}
	return x
}

// pointable is all that replies can point out: pieces, targets, scenery.
func (g *Game) pointable() []string {
	var out []string
	for i := range g.Parts.Pieces {
		out = append(out, g.Parts.Pieces[i].ID)
	}
	for i := range g.Doc.Targets {
		out = append(out, g.Doc.Targets[i].ID)
	}
	for i := range g.Doc.Scenery {
		out = append(out, g.Doc.Scenery[i].ID)
	}
	return out
}

func (g *Game) pointNumber(id string) int {
	if p, ok := g.Parts.Piece(id); ok {
		return p
	}
	if t, ok := g.Parts.Target(id); ok {
		return len(g.Parts.Pieces) + t
	}
	for i := range g.Doc.Scenery {
		if g.Doc.Scenery[i].ID == id {
			return len(g.Parts.Pieces) + len(g.Doc.Targets) + i
		}
	}
	return 0
}
