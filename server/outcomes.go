package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"runtime"
	"time"

	"golang.org/x/sync/errgroup"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/stats"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Outcomes are what learners of a release did, with the document that they played.
type Outcomes struct {
	Figures  stats.Figures `json:"figures"`
	Document Document      `json:"document"`
	// Remark is the re-mark whose key counts, where there is one.
	Remark string `json:"remark,omitempty"`
	Behind int    `json:"behind" doc:"Sittings that are not in the figures yet; asking again counts on"`
	// Least is the workspace's smallest group, where these are fewer: then there are
	// totals only.
	Least int `json:"least,omitempty"`
}

// PlayedInput is a release and, of a series, a step.
type PlayedInput struct {
	ID   string `path:"id" maxLength:"40"`
	Step int    `query:"step" minimum:"0" maximum:"200" doc:"Of a series, from 0"`
}

type outcomesOutput struct{ Body Outcomes }

// played is a release's sittings with what judges them now.
type played struct {
	store.Played
	release store.Release
	remark  string // the re-mark whose document counts, or ""
	doc     *activity.Doc
	game    *play.Game
	first   hosting.Stage // that of the release itself, as it was played
}

// gathered is what was worked out of a release's sittings, when, and in what time.
type gathered struct {
	at      time.Time
	took    time.Duration
	figures stats.Figures
	// While some are to be played still, they and what was gathered so far.
	stale    []int64
	table    *stats.Table
	counting time.Duration // what the figures took
}

// An answer waits this long for sittings to be played that were not kept yet.
const playedFor = 400 * time.Millisecond

// Figures that take long are shown for a while: a server spends at most a fifth of its
// time on the same ones.
const (
	longFigures = 100 * time.Millisecond
	restFor     = 4
	goesOnFor   = 10 * time.Second // so long what was gathered in part is gone on with
	figuresKept = 500
)

func (s *Server) outcomeRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/outcomes", "outcomes", "What the learners of a release did"), s.outcomes)
}

// played finds a release's sittings with the game that counts.
func (s *Server) played(ctx context.Context, m store.Member, in PlayedInput) (*played, error) {
	r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	h, err := s.hosting.FindAnyway(ctx, r.Link)
	if err != nil {
		return nil, err
	}
	p := &played{Played: r.Played(nil), release: r}
	st, err := h.Stage(in.Step)
	if err != nil {
		return nil, notFound("This step")
	}
	p.first = st
	if h.Series != nil {
		p.Step = &in.Step
	}
	// Scored again, the key that counts is the corrected one.
	k, err := s.store.RemarkInForce(ctx, p.Played)
	if err == nil {
		p.remark = k.ID
		st, err = s.hosting.Corrected(ctx, st, r.ID, k.ID)
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	p.game, p.doc = st.Game, st.Game.Doc
	return p, nil
}

func (p *played) key() string {
	if p.Step == nil {
		return p.release.ID + "." + p.remark
	}
	return fmt.Sprintf("%s.%d.%s", p.release.ID, *p.Step, p.remark)
}

func (s *Server) outcomes(ctx context.Context, m store.Member, in *PlayedInput) (*outcomesOutput, error) {
	p, err := s.played(ctx, m, *in)
	if err != nil {
		return nil, err
	}
	g, err := s.figuresOf(ctx, p)
	if err != nil {
		return nil, err
	}
	out := &outcomesOutput{Outcomes{Figures: g.figures, Document: Document(p.doc.Full()), Remark: p.remark, Behind: len(g.stale)}}
	if g.figures.Sittings+len(g.stale) < m.LeastGroup {
		out.Body.Least = m.LeastGroup
		out.Body.Figures = stats.Figures{Sittings: g.figures.Sittings, Finished: g.figures.Finished, Times: []stats.ItemTime{},
			First: stats.Attempts{N: g.figures.First.N}, Final: stats.Attempts{N: g.figures.Final.N}}
	}
	return out, nil
}

// figuresOf are the figures as they are, or, where working them out takes long, as they
// were some moments ago. Of sittings that must be played first it plays as many as can be
// waited for, and goes on with the others when it is asked again.
func (s *Server) figuresOf(ctx context.Context, p *played) (gathered, error) {
	// Whoever asks beside it has the same answer, also when who asked first has left.
	g, err, _ := s.making.Do(p.key(), func() (any, error) { return s.gather(context.WithoutCancel(ctx), p) })
	if err != nil {
		return gathered{}, err
	}
	return g.(gathered), nil
}

func (s *Server) gather(ctx context.Context, p *played) (gathered, error) {
	began := time.Now()
	g, ok := s.figures.Get(p.key())
	switch {
	case ok && len(g.stale) > 0 && time.Since(g.at) < goesOnFor:
	case ok && len(g.stale) == 0 && g.took > longFigures && time.Since(g.at) < restFor*g.took:
		return g, nil
	default:
		g = gathered{table: stats.New(p.game)}
		if err := s.count(ctx, p, &g); err != nil {
			return g, err
		}
	}
	g.took = time.Since(began)
	// As long as is spent on the figures, or they would take most of it.
	for until := time.Now().Add(max(playedFor, g.counting)); len(g.stale) > 0 && (time.Now().Before(until) || g.table.Empty()); {
		some := g.stale[:min(256, len(g.stale))]
		list, err := s.tallied(ctx, p, g.table, some)
		if err != nil {
			s.figures.Remove(p.key()) // some may have been counted, and some not
			return g, err
		}
		for _, x := range list {
			if err := g.table.Count(x.SittingID, x.Body); err != nil {
				return g, err
			}
		}
		g.stale = g.stale[len(some):]
	}
	counted := time.Now()
	g.figures = g.table.Figures()
	g.at, g.counting = time.Now(), time.Since(counted)
	g.took += g.counting
	if len(g.stale) == 0 {
		g.table = nil
	}
	s.figures.Add(p.key(), g)
	return g, nil
}

// count counts what is kept of the sittings, while more of it is read.
func (s *Server) count(ctx context.Context, p *played, g *gathered) error {
	type some struct {
		ids    []int64
		bodies []byte
		ends   []int // of each in bodies; one that is not kept, or not whole, is empty
	}
	const atOnce = 2000
	read := make(chan some, 4)
	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error {
		defer close(read)
		var now some
		give := func() error {
			select {
			case read <- now:
				now = some{}
				return nil
			case <-ctx.Done():
				return ctx.Err()
			}
		}
		err := s.store.EachTally(ctx, p.Played, p.remark, func(id int64, kept []byte, fresh bool) error {
			if fresh {
				now.bodies = append(now.bodies, kept...)
			}
			now.ids, now.ends = append(now.ids, id), append(now.ends, len(now.bodies))
			if len(now.ids) == atOnce {
				return give()
			}
			return nil
		})
		return errors.Join(err, give())
	})
	group.Go(func() error {
		for x := range read {
			from := 0
			for i, id := range x.ids {
				if g.table.Count(id, x.bodies[from:x.ends[i]]) != nil {
					g.stale = append(g.stale, id)
				}
				from = x.ends[i]
			}
		}
		return nil
	})
	return group.Wait()
}

// tallied plays sittings, and keeps what they give.
func (s *Server) tallied(ctx context.Context, p *played, table *stats.Table, ids []int64) ([]store.Tally, error) {
	out := make([]store.Tally, 0, len(ids))
	err := s.store.EachLog(ctx, ids, func(logs []store.Logged) error {
		some := make([]store.Tally, len(logs))
		err := together(len(logs), func(i int) error {
			x := logs[i]
			moves, err := hosting.MovesOf(x)
			if err != nil {
				return err
			}
			some[i] = hosting.Tally(table, p.remark, x.Sitting, moves)
			return nil
		})
		out = append(out, some...)
		return err
	})
	if err != nil {
		return nil, err
	}
	return out, s.store.KeepTallies(ctx, out)
}

// together calls f for 0 to n − 1, on all processors.
func together(n int, f func(i int) error) error {
	var group errgroup.Group
	each := (n + runtime.GOMAXPROCS(0) - 1) / runtime.GOMAXPROCS(0)
	for from := 0; from < n; from += each {
		group.Go(func() error {
			for i := from; i < min(n, from+each); i++ {
				if err := f(i); err != nil {
					return err
				}
			}
			return nil
		})
	}
	return group.Wait()
}
