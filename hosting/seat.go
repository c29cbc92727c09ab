package hosting

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/core/stats"
	"keenmagpie/store"
)

// seat is a sitting with its state: the fold of its log as far as this server has
// seen it. Another server may have gone on with it; see [Server.move].
type seat struct {
	store.Sitting
	stage Stage // what judges it: its release's, or that of a re-mark
	state *play.State
}

// sitting reads a sitting and folds its log.
// Cost: O(moves), some microseconds each.
func (s *Service) sitting(ctx context.Context, h *Hosted, in Seating) (*seat, error) {
	st, err := h.Stage(in.Step)
	if err != nil {
		return nil, err
	}
	var x store.Sitting
	if h.Series == nil {
		x, err = s.store.SittingByToken(ctx, h.Release.ID, in.Token)
	} else {
		var run store.Run
		if run, err = s.store.RunByToken(ctx, h.Release.ID, in.Token); err == nil {
			x, err = s.store.SittingOfRun(ctx, run.ID, in.Step, in.Turn)
		}
	}
	if err != nil {
		return nil, err
	}
	return s.seat(ctx, st, x)
}

// seat folds the log of a sitting.
func (s *Service) seat(ctx context.Context, st Stage, x store.Sitting) (*seat, error) {
	if x.RemarkID != nil {
		var err error
		if st, err = s.Corrected(ctx, st, x.ReleaseID, *x.RemarkID); err != nil {
			return nil, err
		}
	}
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	state := st.Open(x)
	for i, line := range log {
		if i%256 == 0 && ctx.Err() != nil {
			return nil, ctx.Err() // whoever asked has left
		}
		var m play.Move
		if err := json.Unmarshal([]byte(line.Body), &m); err != nil {
			return nil, fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err)
		}
		state, _ = st.Game.Move(state, m)
	}
	if x.RemarkID != nil && play.Phase(x.Phase) == play.Done {
		// Whoever had finished has finished, also where the corrected key would have let
		// them go on.
		state = st.Game.Closed(state)
	}
	return &seat{x, st, state}, nil
}

// Open is a sitting before its first move.
func (st Stage) Open(x store.Sitting) *play.State {
	if x.LimitMS != nil {
		return st.Game.OpenWithin(x.Seed, *x.LimitMS)
	}
	return st.Game.Open(x.Seed)
}

func (x *seat) seated(now time.Time) Seated {
	st := x.stage
	scene := st.Game.Scene(x.Seed, st.Names)
	scene.TimeLimit = int(x.state.Limit)
	return Seated{Learner: x.Learner, Elapsed: now.Sub(x.StartedAt).Milliseconds(), Turn: x.Turn,
		Scene: scene, Standing: st.Game.Standing(x.state, play.Answer{}, st.Names)}
}

// start is a sitting that begins on a stage, before it is kept.
func (st Stage) start(x store.Sitting) (store.Sitting, *play.State) {
	// 53 bits, so that a seed survives any JSON reader.
	x.Semantics, x.Seed = marks.Semantics, rand.Uint64N(1<<53)
	state := st.Open(x)
	x.Result = st.result(state)
	return x, state
}

// result is what a sitting has come to, for lists.
func (st Stage) result(state *play.State) store.Result {
	return ResultOf(st.Game.Final(state))
}

// ResultOf is what is kept of what a sitting has come to.
func ResultOf(f play.Final) store.Result {
	return store.Result{Phase: string(f.Phase), Attempts: f.Attempts, Score: f.Score, Percent: f.Percent, Outcome: string(f.Outcome)}
}

// change is what a move changes beside the log. A sitting that is done by it is played
// once more, for the figures.
func (s *Service) change(ctx context.Context, x *seat, after *play.State, answer play.Answer, last play.Move) (*store.Change, error) {
	c := &store.Change{Result: x.stage.result(after), TookMS: last.Time(), Late: x.Late}
	if x.ArrivalID != nil && x.RunID == nil {
		var err error
		if c.Posts, err = s.grade(ctx, *x.ArrivalID, attempt(x.Sitting, c.Result), x.stage.Game.Doc.Marks.Points.String(), string(x.stage.Game.Doc.Marks.Keep), x.stage.Game.Doc.Title); err != nil {
			return nil, err
		}
	}
	told, err := s.statements(ctx, x, after, answer, last)
	if err != nil {
		return nil, err
	}
	c.Posts = append(c.Posts, told...)
	launched, session, err := s.byCmi5(ctx, x, after, answer, last)
	if err != nil {
		return nil, err
	}
	c.Posts, c.Cmi5 = append(c.Posts, launched...), session
	if after.Phase != play.Done {
		return c, nil
	}
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	moves, err := MovesOf(store.Logged{Sitting: x.Sitting, Moves: log})
	if err != nil {
		return nil, err
	}
	remark := ""
	if x.RemarkID != nil {
		remark = *x.RemarkID
	}
	t := Tally(stats.New(x.stage.Game), remark, x.Sitting, append(moves, last))
	c.Tally = &t
	return c, nil
}

// seen is the sitting as this server remembers it, else as the log has it.
func (s *Service) seen(ctx context.Context, h *Hosted, in Seating, remembered bool) (x *seat, known bool, err error) {
	if x, known = s.seats.Get(in.key()); known && remembered && x.ReleaseID == h.Release.ID {
		return x, true, nil
	}
	x, err = s.sitting(ctx, h, in)
	if errors.Is(err, store.ErrNotFound) {
		return nil, false, noSitting()
	}
	if err != nil {
		return nil, false, err
	}
	s.seats.Add(in.key(), x)
	return x, false, nil
}

// Corrected is a stage whose key was corrected since: what learners see keeps its names.
func (s *Service) Corrected(ctx context.Context, st Stage, release, remark string) (Stage, error) {
	game, err := s.CorrectedGame(ctx, release, remark)
	return Stage{game, st.Names, st.at}, err
}

// CorrectedGame is the game of a re-mark. Only it is kept: whose names its parts go by is
// told by whoever asks.
func (s *Service) CorrectedGame(ctx context.Context, release, remark string) (*play.Game, error) {
	if known, ok := s.remarked.Get(remark); ok {
		return known, nil
	}
	ctx = context.WithoutCancel(ctx)
	game, err, _ := s.making.Do("remark "+remark, func() (any, error) {
		k, err := s.store.RemarkOf(ctx, release, remark)
		if err != nil {
			return nil, err
		}
		doc, faults := activity.Read([]byte(k.Document))
		if faults != nil {
			return nil, faults
		}
		game, err := play.New(doc)
		if err == nil {
			s.remarked.Add(remark, game)
		}
		return game, err
	})
	if err != nil {
		return nil, err
	}
	return game.(*play.Game), nil
}

// Seating is where a learner's sitting is.
type Seating struct {
	Link  string
	Token string // what the learner's browser was given at the beginning
	Step  int    // of a series
	Turn  int    // of a series: the how manieth sitting of this step
}

func (x Seating) key() string { return fmt.Sprintf("%s.%d.%d", x.Token, x.Step, x.Turn) }

// tally is what is kept of a sitting for the figures.
func Tally(table *stats.Table, remark string, x store.Sitting, moves []play.Move) store.Tally {
	return store.Tally{ReleaseID: x.ReleaseID, Remark: remark, SittingID: x.ID, Moves: len(moves), Body: table.Tally(x.Seed, LimitOf(x), moves).Append(nil)}
}

// limitOf is a sitting's time limit; below 0 it is the document's own.
func LimitOf(x store.Sitting) int64 {
	if x.LimitMS == nil {
		return -1
	}
	return *x.LimitMS
}

// movesOf reads a sitting's log.
func MovesOf(x store.Logged) ([]play.Move, error) {
	moves := make([]play.Move, len(x.Moves))
	for i, line := range x.Moves {
		if err := json.Unmarshal([]byte(line.Body), &moves[i]); err != nil {
			return nil, fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err)
		}
	}
	return moves, nil
}
