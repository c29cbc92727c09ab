package hosting

import (
	"context"
	"encoding/json"
	"errors"

	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

func noSitting() *Refusal {
	return &Refusal{Code: "no-sitting", Detail: "This sitting isn’t known in this browser. Reload the page to start again."}
}

// Beckoning says which targets show themselves for a piece that has just been taken
// up: only as much of what is let in, or right, as the author wants seen then.
func (s *Service) Beckoning(ctx context.Context, at Seating, piece string) (out play.Beckoning, err error) {
	h, err := s.Find(ctx, at.Link)
	if err != nil {
		return out, err
	}
	x, _, err := s.seen(ctx, h, at, true)
	if err != nil {
		return out, err
	}
	return x.stage.beckons(x.state, piece), nil
}

func (st Stage) beckons(state *play.State, piece string) play.Beckoning {
	id := st.Names.move(play.Move{Piece: piece}).Piece
	if p, ok := st.Game.Parts.Piece(id); !ok || !state.HasAppeared(p) || state.Phase != play.Placing {
		id = "" // nobody has it in hand
	}
	return st.beckoning(id)
}

// beckoning is what targets say of themselves for a piece, in the learner's names.
func (st Stage) beckoning(id string) play.Beckoning {
	out := st.Game.Beckons(id)
	for _, list := range [][]string{out.Targets, out.Opens} {
		for i, t := range list {
			list[i] = st.Names.Target(t)
		}
	}
	return out
}

// Move makes a learner's move, in the learner's names. The same move twice is one; a move
// whose number is taken is told so by what stands. Cost: O(1), and O(moves) where another
// server has gone on with the sitting.
func (s *Service) Move(ctx context.Context, at Seating, in play.Move) (*play.Standing, error) {
	h, err := s.Find(ctx, at.Link)
	if err != nil {
		return nil, err
	}
	st, err := h.Stage(at.Step)
	if err != nil {
		return nil, err
	}
	m := st.Names.move(in)
	arrived := s.clock()
	// What this server remembers of the sitting is tried first. Where another server
	// has gone on with it, the move's number is taken, or does not follow: then the
	// log is read, and the move judged again on what stands there.
	for try := range 3 {
		x, known, err := s.seen(ctx, h, at, try == 0)
		if err != nil {
			return nil, err
		}
		st := x.stage
		m = x.timed(m, arrived.Sub(x.StartedAt))
		if known && m.Time() > m.T {
			continue // too late, by when this server last saw the sitting: its allowance may have changed
		}
		after, answer := st.Game.Move(x.state, m)
		if after.N == x.state.N {
			if known {
				continue
			}
			if answer.Result == placing.EffectRejected && play.Phase(x.Phase) == play.Done && overAt(arrived, x.StartedAt, x.state.Limit) {
				answer.Reason = "too-late" // it was finished when its time was over
			}
			now := st.Game.Standing(after, answer, st.Names)
			return &now, nil
		}
		body, err := json.Marshal(m)
		if err != nil {
			return nil, err
		}
		next := &seat{x.Sitting, st, after}
		told, err := s.tells(ctx, x, answer)
		if err != nil {
			return nil, err
		}
		var changed *store.Change
		if m.Late {
			next.Late++
		}
		if now := st.result(after); now != x.Result || m.Late || told {
			next.Sitting.Result = now
			if changed, err = s.change(ctx, &seat{next.Sitting, st, x.state}, after, answer, m); err != nil {
				return nil, err
			}
		}
		err = s.store.AppendMove(ctx, x.ID, store.Move{N: m.N, Body: string(body), Result: string(answer.Result)}, x.RemarkID, changed)
		if errors.Is(err, store.ErrRaced) {
			continue
		}
		if err != nil {
			// Whether it was kept is not known, so nothing is remembered.
			s.seats.Remove(at.key())
			if errors.Is(err, store.ErrNotFound) {
				return nil, noSitting()
			}
			return nil, err
		}
		s.seats.Add(at.key(), next)
		now := st.Game.Standing(after, answer, st.Names)
		return &now, nil
	}
	return nil, &Refusal{Code: "raced", Detail: "This sitting is being played in another window. Reload the page."}
}
