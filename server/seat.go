package server

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
	stage stage // what judges it: its release's, or that of a re-mark
	state *play.State
}

// Seating is what a learner's request says of where its sitting is.
type Seating struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
	Step  int    `query:"step" minimum:"0" maximum:"200" doc:"Of a series"`
	Turn  int    `query:"turn" minimum:"0" doc:"Of a series: the how manieth sitting of this step"`
}

func (x Seating) key() string { return fmt.Sprintf("%s.%d.%d", x.Token, x.Step, x.Turn) }

// sitting reads a sitting and folds its log.
// Cost: O(moves), some microseconds each.
func (s *Server) sitting(ctx context.Context, h *hosted, in Seating) (*seat, error) {
	st, err := h.stage(in.Step)
	if err != nil {
		return nil, err
	}
	var x store.Sitting
	if h.series == nil {
		x, err = s.store.SittingByToken(ctx, h.release.ID, in.Token)
	} else {
		var run store.Run
		if run, err = s.store.RunByToken(ctx, h.release.ID, in.Token); err == nil {
			x, err = s.store.SittingOfRun(ctx, run.ID, in.Step, in.Turn)
		}
	}
	if err != nil {
		return nil, err
	}
	return s.seat(ctx, st, x)
}

// seat folds the log of a sitting.
func (s *Server) seat(ctx context.Context, st stage, x store.Sitting) (*seat, error) {
	if x.RemarkID != nil {
		var err error
		if st, err = s.corrected(ctx, st, x.ReleaseID, *x.RemarkID); err != nil {
			return nil, err
		}
	}
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	state := st.open(x)
	for i, line := range log {
		if i%256 == 0 && ctx.Err() != nil {
			return nil, ctx.Err() // whoever asked has left
		}
		var m play.Move
		if err := json.Unmarshal([]byte(line.Body), &m); err != nil {
			return nil, fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err)
		}
		state, _ = st.game.Move(state, m)
	}
	if x.RemarkID != nil && x.Phase == play.Done {
		// Whoever had finished has finished, also where the corrected key would have let
		// them go on.
		state = st.game.Closed(state)
	}
	return &seat{x, st, state}, nil
}

// open is a sitting before its first move.
func (st stage) open(x store.Sitting) *play.State {
	if x.LimitMS != nil {
		return st.game.OpenWithin(x.Seed, *x.LimitMS)
	}
	return st.game.Open(x.Seed)
}

func (x *seat) seated(now time.Time) Seated {
	st := x.stage
	scene := st.game.Scene(x.Seed, st.names)
	scene.TimeLimit = int(x.state.Limit)
	return Seated{Learner: x.Learner, Elapsed: now.Sub(x.StartedAt).Milliseconds(), Turn: x.Turn,
		Scene: scene, Standing: st.game.Standing(x.state, play.Answer{}, st.names)}
}

// start is a sitting that begins on a stage, before it is kept.
func (st stage) start(x store.Sitting) (store.Sitting, *play.State) {
	// 53 bits, so that a seed survives any JSON reader.
	x.Semantics, x.Seed = marks.Semantics, rand.Uint64N(1<<53)
	state := st.open(x)
	x.Standing = st.standing(state)
	return x, state
}

// standing is where a sitting stands, for lists.
func (st stage) standing(state *play.State) store.Standing {
	f := st.game.Final(state)
	return store.Standing{Phase: f.Phase, Attempts: f.Attempts, Score: f.Score, Percent: f.Percent, Outcome: f.Outcome}
}

// change is what a move changes beside the log. A sitting that is done by it is played
// once more, for the figures.
func (s *Server) change(ctx context.Context, x *seat, after *play.State, last play.Move) (*store.Change, error) {
	c := &store.Change{Standing: x.stage.standing(after), TookMS: last.Time(), Late: x.Late}
	if after.Phase != play.Done {
		return c, nil
	}
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	moves, err := movesOf(store.Logged{Sitting: x.Sitting, Moves: log})
	if err != nil {
		return nil, err
	}
	stage := ""
	if x.RemarkID != nil {
		stage = *x.RemarkID
	}
	t := tally(stats.New(x.stage.game), stage, x.Sitting, append(moves, last))
	c.Tally = &t
	return c, nil
}

// seen is the sitting as this server remembers it, else as the log has it.
func (s *Server) seen(ctx context.Context, h *hosted, in Seating, remembered bool) (x *seat, known bool, err error) {
	if x, known = s.seats.Get(in.key()); known && remembered && x.ReleaseID == h.release.ID {
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

// corrected is a stage whose key was corrected since: what learners see keeps its names.
func (s *Server) corrected(ctx context.Context, st stage, release, remark string) (stage, error) {
	game, err := s.correctedGame(ctx, release, remark)
	return stage{game, st.names}, err
}

// correctedGame is the game of a re-mark. Only it is kept: whose names its parts go by is
// told by whoever asks.
func (s *Server) correctedGame(ctx context.Context, release, remark string) (*play.Game, error) {
	if known, ok := s.remarked.Get(remark); ok {
		return known, nil
	}
	ctx = context.WithoutCancel(ctx)
	game, err, _ := s.making.Do("remark "+remark, func() (any, error) {
		k, err := s.store.Remark(ctx, release, remark)
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
