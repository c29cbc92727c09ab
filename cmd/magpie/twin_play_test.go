package main

import (
	"encoding/json"
	"fmt"
	"math/big"
	"slices"
)

// twinMove and twinSitting play what twin_test.go judges.
type twinMove struct {
	N      int    `json:"n"`
	T      int    `json:"t"`
	Do     string `json:"do"`
	Piece  string `json:"piece,omitempty"`
	Target string `json:"target,omitempty"`
	Index  *int   `json:"index,omitempty"`
	X      *int   `json:"x,omitempty"`
	Y      *int   `json:"y,omitempty"`
}

func (m twinMove) body() string {
	b, err := json.Marshal(m)
	if err != nil {
		panic(err)
	}
	return string(b)
}

type twinSitting struct {
	d       *twinDoc
	n, t    int
	phase   string
	attempt int
	now     table
	undo    []table
	hints   int
	dealt   int
	tries   *tries
	verdict *twinVerdict
	judged  int
	kept    *twinVerdict
	log     map[int]string         // the bodies that used up numbers
	lines   map[int]map[string]any // what was answered then

	// Of the move under way:
	given     []string
	reached   *twinVerdict
	placement *twinPlacement
	finished  bool
	facts     map[string]bool // where it is made: what every condition comes to, by moment, reply and pointer
}

// record notes what each condition within one comes to.
func (s *twinSitting) record(at string, when map[string]any, moment string) {
	for form, of := range when {
		if list, ok := of.([]map[string]any); ok {
			for i, c := range list {
				s.record(fmt.Sprintf("%s/%s/%d", at, form, i), c, moment)
			}
			return
		}
	}
	s.facts[at] = s.holds(when, moment)
}

type twinPlacement struct {
	piece, target, result string
	right                 bool
}

func (d *twinDoc) open() *twinSitting {
	s := &twinSitting{d: d, log: map[int]string{}, lines: map[int]map[string]any{}}
	s.begin()
	return s
}

func (s *twinSitting) begin() {
	s.phase, s.attempt, s.now, s.undo, s.hints = "placing", 1, newTable(), nil, 0
	s.verdict, s.judged, s.kept = nil, 0, nil
	s.dealt = len(s.d.pieces())
	if s.d.Play.Deal == "one" {
		s.dealt = min(1, s.dealt)
	}
	s.tries = nil
	if s.d.Play.Check == "each" {
		s.tries = &tries{item: map[string]int{}, target: map[string]int{}}
	}
}

func (s *twinSitting) has(piece string) bool {
	return slices.Index(s.d.pieces(), piece) < s.dealt
}

func (s *twinSitting) left() int {
	if s.d.Play.Attempts == 0 {
		return -1
	}
	return max(0, s.d.Play.Attempts-s.attempt)
}

func (s *twinSitting) could() bool {
	if s.dealt < len(s.d.pieces()) {
		return true
	}
	for _, p := range s.d.pieces() {
		if target, _ := s.now.where(p); target != "" {
			continue
		}
		for _, t := range s.d.Targets {
			if t.Lets.picks(itemOf(p)) && (t.Holds == 0 || len(s.now.in[t.ID]) < t.Holds) {
				return true
			}
		}
	}
	return false
}

// line does a move and tells what the command line should.
func (s *twinSitting) line(m twinMove) map[string]any {
	s.given, s.reached, s.placement, s.finished = []string{}, nil, nil, false
	result, reason := "rejected", ""
	body, used := s.log[m.N]
	switch {
	case used && body == m.body():
		out := map[string]any{}
		for k, v := range s.lines[m.N] {
			out[k] = v
		}
		out["result"] = "repeated"
		for k, v := range s.tell() { // what stands, stands
			out[k] = v
		}
		return out
	case m.N == s.n+1:
		s.n = m.N
		s.log[m.N] = m.body()
		result, reason = s.move(m)
	}
	out := s.tell()
	out["n"], out["result"], out["replies"] = m.N, result, s.given
	if reason != "" {
		out["reason"] = reason
	}
	if s.reached != nil {
		out["verdict"] = s.reached.line()
	}
	if m.N == s.n && s.log[m.N] == m.body() {
		s.lines[m.N] = out
	}
	return out
}

func (s *twinSitting) tell() map[string]any {
	targets := map[string][]string{}
	held := []string{}
	for _, t := range s.d.Targets {
		targets[t.ID] = []string{}
		for _, x := range s.now.in[t.ID] {
			targets[t.ID] = append(targets[t.ID], x.piece)
		}
	}
	for p, yes := range s.now.held {
		if yes {
			held = append(held, p)
		}
	}
	slices.Sort(held)
	out := map[string]any{"phase": s.phase, "attempt": s.attempt, "targets": targets, "held": held}
	if s.left() >= 0 {
		out["left"] = s.left()
	}
	if s.kept != nil {
		out["score"] = s.kept.score
	}
	return out
}

func (s *twinSitting) final() map[string]any {
	out := map[string]any{"phase": s.phase, "attempts": s.judged, "score": "0.00", "percent": "0.00"}
	if s.kept != nil {
		out["outcome"], out["score"], out["percent"] = s.verdict.outcome, s.kept.score, s.kept.percent
	}
	return out
}

func (s *twinSitting) move(m twinMove) (result, reason string) {
	play := s.d.Play
	if m.T < s.t {
		return "rejected", "not-allowed"
	}
	s.t = m.T
	if m.Do == "place" || m.Do == "drop" || m.Do == "lift" {
		if !slices.Contains(s.d.pieces(), m.Piece) {
			return "rejected", "unknown-piece"
		}
		if m.Do == "place" && !slices.ContainsFunc(s.d.Targets, func(t twinTarget) bool { return t.ID == m.Target }) {
			return "rejected", "unknown-target"
		}
	}
	if m.Do != "timeUp" && play.TimeLimit > 0 && m.T > play.TimeLimit {
		return "rejected", "not-allowed"
	}
	no := func() (string, string) { return "rejected", "not-allowed" }
	switch m.Do {
	case "restart":
		if !play.Restart {
			return no()
		}
		s.begin()
		s.say("opened")
		s.maybeFinish()
		return "restarted", ""
	case "timeUp":
		if play.TimeLimit == 0 || m.T < play.TimeLimit || s.phase == "done" {
			return no()
		}
		if s.phase == "placing" && play.Check != "none" {
			s.check()
		}
		s.phase = "done"
		s.say("timeUp")
		s.say("done")
		return "timeUp", ""
	case "again":
		if s.phase != "paused" {
			return no()
		}
		for _, p := range s.d.pieces() {
			right := slices.Contains(s.verdict.right, p)
			wrong := slices.Contains(s.verdict.wrong, p)
			switch {
			case s.now.held[p]:
			case right && play.RightPieces == "hold":
				s.now.held[p] = true
			case right && play.RightPieces == "home", wrong && play.WrongPieces == "home":
				s.now.take(p)
			}
		}
		s.phase, s.undo = "placing", nil
		s.attempt++
		return "again", ""
	}
	if s.phase != "placing" {
		return no()
	}
	if m.Do == "check" {
		if play.Check == "ask" && play.CheckWhen == "allPlaced" && s.could() {
			return no()
		}
		s.checked("checked")
		return "checked", ""
	}
	before, could := s.now.copy(), s.could()
	put := false
	switch m.Do {
	case "undo":
		if !play.Undo || play.Check == "each" || len(s.undo) == 0 {
			return no()
		}
		s.now = s.undo[len(s.undo)-1]
		s.undo = s.undo[:len(s.undo)-1]
		result = "undone"
	case "reset":
		if !play.Reset {
			return no()
		}
		changed := false
		for _, p := range s.d.pieces() {
			if !s.now.held[p] && !s.now.atHome(p) {
				s.now.take(p)
				changed = true
			}
		}
		if changed {
			s.undo = append(s.undo, before)
		}
		result = "reset"
	case "hint":
		if s.hints >= len(s.d.Hints) {
			return no()
		}
		s.hints++ // hints that place are left to the hand-worked tests
		result = "hinted"
		s.say("hinted")
	default:
		if s.now.held[m.Piece] || !s.has(m.Piece) {
			return no()
		}
		var changed bool
		result, reason, changed = s.pieceMove(m)
		if result == "rejected" {
			return result, reason
		}
		if changed {
			s.undo = append(s.undo, before)
		}
		put = result == "placed"
		if s.placement != nil {
			s.afterPlacement(before, changed)
		}
	}
	s.deal()
	if play.Check == "each" {
		s.endOfEach()
	} else if play.Check == "full" && put && could && !s.could() {
		s.checked("checked")
		return result, reason
	}
	s.maybeFinish()
	return result, reason
}

func (s *twinSitting) deal() {
	if s.dealt > 0 && s.dealt < len(s.d.pieces()) {
		if target, _ := s.now.where(s.d.pieces()[s.dealt-1]); target != "" {
			s.dealt++
		}
	}
}

// pieceMove does place, drop and lift on the table.
func (s *twinSitting) pieceMove(m twinMove) (result, reason string, changed bool) {
	target, index := m.Target, m.Index
	if m.Do == "lift" {
		if s.now.atHome(m.Piece) {
			return "rejected", "not-allowed", false
		}
		s.now.take(m.Piece)
		return "lifted", "", true
	}
	if m.Do == "drop" {
		target, index = "", nil
		for _, t := range s.d.Targets { // they stand apart, and the centre decides
			if f := t.Frame; *m.X >= f.X && *m.X <= f.X+f.W && *m.Y >= f.Y && *m.Y <= f.Y+f.H {
				target = t.ID
				if t.Ordered { // only drops at the ends of a lane are tried: see the generator
					at := 0
					if *m.X > f.X+f.W/2 {
						at = len(s.now.in[t.ID])
						if in, _ := s.now.where(m.Piece); in == t.ID {
							at--
						}
					}
					index = &at
				}
			}
		}
		if target == "" {
			rule := s.d.Play.OffTarget
			if own := s.d.item(itemOf(m.Piece)).OffTarget; own != "" {
				rule = own
			}
			home := s.now.atHome(m.Piece)
			was, loose := s.now.loose[m.Piece]
			s.now.take(m.Piece)
			if rule == "stay" {
				s.now.loose[m.Piece] = [2]int{*m.X, *m.Y}
				return "loose", "", !loose || was != s.now.loose[m.Piece]
			}
			return "lifted", "", !home
		}
	}
	result, reason, changed = s.place(m.Piece, target, index, m.N)
	s.placement = &twinPlacement{piece: m.Piece, target: target, result: result}
	return result, reason, changed
}

func (s *twinSitting) place(piece, target string, index *int, n int) (result, reason string, changed bool) {
	t := s.d.target(target)
	if !t.Lets.picks(itemOf(piece)) {
		return "refused", "closed", false
	}
	from, old := s.now.where(piece)
	insert := func(target string, at int, x spot) {
		s.now.in[target] = slices.Insert(slices.Clone(s.now.in[target]), at, x)
	}
	clamp := func(i, n int) int { return max(0, min(i, n)) }
	if from == target {
		if !t.Ordered || index == nil {
			return "kept", "", false
		}
		x := s.now.in[target][old]
		s.now.take(piece)
		at := clamp(*index, len(s.now.in[target]))
		insert(target, at, x)
		return "kept", "", at != old
	}
	out := ""
	if list := s.now.in[target]; t.Holds > 0 && len(list) >= t.Holds {
		if t.WhenFull == "trade" && t.Ordered && index != nil && *index >= 0 && *index < len(list) && !s.now.held[list[*index].piece] {
			out = list[*index].piece
		} else if t.WhenFull != "refuse" {
			since := 0
			for _, x := range list {
				if !s.now.held[x.piece] && (out == "" || x.since < since) {
					out, since = x.piece, x.since
				}
			}
		}
		if out == "" {
			return "refused", "full", false
		}
	}
	s.now.take(piece)
	if out != "" {
		s.now.take(out)
		if t.WhenFull == "trade" && from != "" && s.d.target(from).Lets.picks(itemOf(out)) {
			insert(from, old, spot{out, n})
		}
	}
	at := len(s.now.in[target])
	if t.Ordered && index != nil {
		at = clamp(*index, at)
	}
	insert(target, at, spot{piece, n})
	return "placed", "", true
}

// afterPlacement is for the moment placed, and judges where each placement is.
func (s *twinSitting) afterPlacement(before table, changed bool) {
	p, play := s.placement, s.d.Play
	each := play.Check == "each"
	v := s.d.judge(s.now, s.attempt, s.hints, s.tries)
	p.right = p.result != "refused" && slices.Contains(v.right, p.piece)
	judged := each && (p.result == "placed" || p.result == "kept" && changed || p.result == "refused" && play.Refusals == "count")
	if judged && !p.right {
		s.wrong(p, v)
	}
	if judged {
		s.reach()
	}
	homeAgain := judged && !p.right && p.result != "refused" && play.WrongPieces == "home"
	if !homeAgain {
		s.deal()
	}
	s.say("placed")
	if homeAgain {
		s.now = before
		s.now.take(p.piece)
	}
	if judged && p.right && play.RightPieces == "hold" {
		s.now.held[p.piece] = true
	}
}

// wrong counts and charges a wrong placement.
func (s *twinSitting) wrong(p *twinPlacement, v twinVerdict) {
	h := &tries{item: map[string]int{}, target: map[string]int{}, all: s.tries.all + 1, charged: s.tries.charged}
	for k, n := range s.tries.item {
		h.item[k] = n
	}
	for k, n := range s.tries.target {
		h.target[k] = n
	}
	it := itemOf(p.piece)
	h.item[it]++
	h.target[p.target]++
	solution := s.d.Key.Solutions[v.solution]
	_, lane := s.d.orderOf(solution, p.target)
	if s.d.Marks.By != "whole" && !(lane && s.d.cell(solution, it, p.target) && p.result != "refused") {
		h.charged += s.d.penalty(it, p.target)
	}
	s.tries = h
}

func (s *twinSitting) reach() {
	v := s.d.judge(s.now, s.attempt, s.hints, s.tries)
	s.reached, s.verdict, s.judged = &v, &v, s.attempt
	keep := s.d.Marks.Keep
	if s.kept == nil || s.d.Play.Check == "each" || keep == "last" || keep == "best" && v.value.Cmp(s.kept.value) > 0 {
		s.kept = &v
	}
}

func (s *twinSitting) endOfEach() {
	used := s.reached != nil && s.placement != nil && !s.placement.right
	if s.d.judge(s.now, s.attempt, s.hints, s.tries).valid || used && s.left() == 0 || s.finished {
		s.finished = true
		s.reach()
		return
	}
	if used {
		s.attempt++
	}
}

func (s *twinSitting) check() {
	s.reach()
	s.undo = nil
}

func (s *twinSitting) checked(moment string) {
	s.phase = "paused"
	if s.d.Play.Check == "none" {
		s.phase = "done"
	} else {
		s.check()
		if s.verdict.valid || s.left() == 0 || s.d.Play.Check == "each" || s.finished {
			s.phase = "done"
		}
	}
	s.say(moment)
	if s.phase == "done" || s.finished {
		s.phase = "done"
		s.say("done")
	}
}

func (s *twinSitting) maybeFinish() {
	if s.finished {
		s.phase = "done"
		s.say("done")
	}
}

func (s *twinSitting) say(moment string) {
	for _, r := range s.d.Replies {
		if s.facts != nil && r.Moment == moment && r.When != nil {
			s.record(moment+" "+r.ID+" ", r.When, moment)
		}
		if r.Moment != moment || r.When != nil && !s.holds(r.When, moment) {
			continue
		}
		s.given = append(s.given, r.ID)
		s.finished = s.finished || r.Finish
		if !r.Also {
			return
		}
	}
}

// holds reads a condition as it stands in the JSON that the generator made.
func (s *twinSitting) holds(when map[string]any, moment string) bool {
	v := s.d.judge(s.now, s.attempt, s.hints, s.tries)
	p := s.placement
	if moment != "placed" {
		p = nil
	}
	span := func(of any, n *big.Rat) bool {
		r := of.(map[string]int)
		low, hasLow := r["min"]
		high, hasHigh := r["max"]
		return (!hasLow || n.Cmp(rat(int64(low))) >= 0) && (!hasHigh || n.Cmp(rat(int64(high))) <= 0)
	}
	count := func(of any, n int) bool { return span(of, rat(int64(n))) }
	pieceIs := func(piece string) string {
		target, _ := s.now.where(piece)
		switch {
		case target == "" && s.now.atHome(piece) && s.has(piece):
			return "home"
		case slices.Contains(v.right, piece):
			return "right"
		case slices.Contains(v.wrong, piece):
			return "wrong"
		}
		return ""
	}
	for form, of := range when {
		switch form {
		case "all", "any", "none":
			yes, list := 0, of.([]map[string]any)
			for _, c := range list {
				if s.holds(c, moment) {
					yes++
				}
			}
			return form == "all" && yes == len(list) || form == "any" && yes > 0 || form == "none" && yes == 0
		case "piece":
			return p != nil && of.(twinSelector).picks(itemOf(p.piece))
		case "onto":
			return p != nil && slices.Contains(of.([]string), p.target)
		case "result":
			if p == nil {
				return false
			}
			return of == p.result || p.result != "refused" && (of == "right" && p.right || of == "wrong" && !p.right)
		case "item":
			for _, piece := range s.d.pieces() {
				in, _ := s.now.where(piece)
				if itemOf(piece) == of && (when["in"] != nil && when["in"] == in || when["is"] != nil && when["is"] == pieceIs(piece)) {
					return true
				}
			}
			return false
		case "target":
			return v.states[of.(string)] == when["is"]
		case "outcome":
			return v.outcome == of
		case "rightCount":
			return count(of, len(v.right))
		case "wrongCount":
			return count(of, len(v.wrong))
		case "missingCount":
			return count(of, len(v.missing))
		case "homeCount":
			n := 0
			for _, piece := range s.d.pieces() {
				if pieceIs(piece) == "home" {
					n++
				}
			}
			return count(of, n)
		case "percent":
			n, _ := new(big.Rat).SetString(v.percent)
			return span(of, n)
		case "attempt":
			return count(of, s.attempt)
		case "left":
			if s.left() < 0 {
				_, high := of.(map[string]int)["max"]
				return !high
			}
			return count(of, s.left())
		case "solution":
			return v.solution == of.(int)
		}
	}
	panic("no condition")
}
