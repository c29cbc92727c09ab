package hosting

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/core/series"
	"keenmagpie/core/visit"
	"keenmagpie/formats/xapi"
	"keenmagpie/store"
)

// View and PageView are those of a visit, which a package shows as well.
type (
	View     = visit.View
	PageView = visit.PageView
)

// way is a run as it is worked with: with the sittings of its steps.
type way struct {
	*Hosted
	at       time.Time // when it is asked for
	run      store.Run
	sittings map[int]store.Sitting // by step; those to be begun anew are left out
	results  []series.Result
	turns    map[int]int // the next sitting's, by step
}

func (w *way) place() series.Place { return series.Place{At: w.run.At, Reached: w.run.Reached} }

func (w *way) now() series.Now { return w.Series.Now(w.place(), w.results) }

// over says whether the time for all of it is up.
func (w *way) over() bool { return overAt(w.at, w.run.StartedAt, w.run.LimitMS) }

// due says that it is up, and moves that were made in time have had their time to arrive.
func (w *way) due() bool { return w.run.DueAt != nil && w.at.After(*w.run.DueAt) }

func (s *Service) way(ctx context.Context, link, token string) (*way, error) {
	h, err := s.Find(ctx, link)
	if err != nil {
		return nil, err
	}
	if h.Series == nil || token == "" {
		return nil, noSitting()
	}
	w := &way{Hosted: h, at: s.clock()}
	if w.run, err = s.store.RunByToken(ctx, h.Release.ID, token); errors.Is(err, store.ErrNotFound) {
		return nil, noSitting()
	} else if err != nil {
		return nil, err
	}
	list, err := s.store.SittingsOfRun(ctx, w.run.ID)
	if err != nil {
		return nil, err
	}
	return w, s.take(ctx, w, list)
}

// take gives a way the sittings of its steps.
func (s *Service) take(ctx context.Context, w *way, list []store.Sitting) (err error) {
	w.sittings, w.results, w.turns = map[int]store.Sitting{}, make([]series.Result, len(w.Stages)), map[int]int{}
	redo := numbers(w.run.Redo)
	for _, x := range list {
		w.turns[x.Step] = x.Turn + 1
		if x.Step >= len(w.Stages) || slices.Contains(redo, x.Step) {
			continue
		}
		game := w.Stages[x.Step].Game
		if x.RemarkID != nil {
			if game, err = s.CorrectedGame(ctx, x.ReleaseID, *x.RemarkID); err != nil {
				return err
			}
		}
		w.sittings[x.Step] = x
		w.results[x.Step] = stepResult(game, x.Result)
	}
	return nil
}

// stepResult is what a sitting has come to, from what is kept for lists.
func stepResult(g *play.Game, x store.Result) series.Result {
	r := series.Result{Begun: true, Phase: play.Phase(x.Phase), Outcome: activity.Outcome(x.Outcome), Attempts: x.Attempts}
	r.Score, _ = exact.Parse(x.Score)
	r.Percent, _ = exact.Parse(x.Percent)
	if x.Outcome != "" {
		r.Passed, r.Band = r.Percent >= g.Doc.Marks.PassMark, g.Judge.Band(r.Percent)
	}
	return r
}

func numbers(list string) (out []int) {
	for _, x := range strings.Split(list, ",") {
		if n, err := strconv.Atoi(x); err == nil {
			out = append(out, n)
		}
	}
	return out
}

func listed(numbers []int) string {
	out := make([]string, len(numbers))
	for i, n := range numbers {
		out[i] = strconv.Itoa(n)
	}
	return strings.Join(out, ",")
}

// Now says where a learner stands in a series. A run whose time is over is ended by it.
func (s *Service) Now(ctx context.Context, link, token string) (*series.Now, error) {
	w, err := s.way(ctx, link, token)
	if err != nil {
		return nil, err
	}
	if w.due() && w.run.At < w.Series.End() {
		view, err := s.along(ctx, link, token, func(w *way) (*View, error) { return s.endWay(ctx, w) })
		if err != nil {
			return nil, err
		}
		return &view.Now, nil
	}
	now := w.now()
	return &now, nil
}

// Go goes to a step of a series, and says what is there. Where that may not be gone to,
// nothing changes.
func (s *Service) Go(ctx context.Context, link, token string, to series.Going) (*View, error) {
	return s.along(ctx, link, token, func(w *way) (*View, error) { return s.goWay(ctx, w, to) })
}

// endWay ends a run whose time is over.
func (s *Service) endWay(ctx context.Context, w *way) (*View, error) {
	return s.goWay(ctx, w, series.Going{})
}

// along does something with a run as it stands, again where another window, or another
// server, has moved it on in between.
func (s *Service) along(ctx context.Context, link, token string, do func(*way) (*View, error)) (*View, error) {
	for try := 0; ; try++ {
		w, err := s.way(ctx, link, token)
		if err != nil {
			return nil, err
		}
		view, err := do(w)
		if errors.Is(err, store.ErrRaced) && try < 20 {
			continue
		}
		return view, err
	}
}

func timeIsOver() *Refusal {
	return &Refusal{Code: "time-over", Detail: "The time for this series is over. Your result is kept."}
}

func cannotGo() *Refusal {
	return &Refusal{Code: "not-yet", Detail: "That step cannot be gone to yet. Nothing was changed."}
}

// goWay goes on a way, and sees what is there.
func (s *Service) goWay(ctx context.Context, w *way, to series.Going) (*View, error) {
	from, run := w.run.At, w.run
	end := w.Series.End()
	switch {
	case w.over() && run.At < end:
		if err := s.timeIsUp(ctx, w); err != nil {
			return nil, err
		}
		run.At, run.Reached = end, end
	case w.over() && (to.Again || to.Retry):
		return nil, timeIsOver()
	default:
		gone, ok := w.Series.Go(w.place(), w.results, to, func(what string) bool { return s.offers(ctx, w, what) })
		if !ok {
			return nil, cannotGo()
		}
		if gone.Aside >= 0 {
			return w.aside(gone.Aside), nil
		}
		run.At, run.Reached = gone.At, gone.Reached
		if len(gone.Redo) > 0 {
			redo := append(numbers(run.Redo), gone.Redo...)
			slices.Sort(redo)
			run.Redo = listed(slices.Compact(redo))
			w.results = series.Without(w.results, gone.Redo)
		}
	}
	w.run = run
	out := &View{Learner: run.Learner, Elapsed: w.at.Sub(run.StartedAt).Milliseconds(), TimeLimit: int(run.LimitMS)}
	if run.At < end && w.Stages[run.At].Game == nil {
		out.Page = w.page(run.At)
	}
	if run.At < end && out.Page == nil {
		x, err := s.enter(ctx, w)
		if err != nil {
			return nil, err
		}
		seated := x.seated(w.at)
		out.Sitting = &seated
	}
	out.Now = w.now()
	if t := out.Now.Total; t != nil {
		w.run.Score, w.run.Percent = t.Score, t.Percent
	}
	if w.run != run || run.At != from || to.Again || to.Retry {
		var posts []store.Post
		var session *store.Cmi5Session
		if t := out.Now.Total; t != nil && w.run.ArrivalID != nil {
			var err error
			if posts, err = s.grade(ctx, *w.run.ArrivalID, attemptOfRun(w.run), t.Points, "best", w.Series.Doc.Title); err != nil {
				return nil, err
			}
			var l xapi.Launch
			var workspace string
			if session, l, workspace, err = s.launched(ctx, *w.run.ArrivalID); err != nil {
				return nil, err
			}
			if session != nil && w.run.Reached >= w.run.End {
				posts = append(posts, ended(session, l, workspace, w.at, w.Series.Doc.PassMark > 0, t.Passed,
					scored(t.Score, t.Points, t.Percent), w.at.Sub(w.run.StartedAt).Milliseconds())...)
			}
		}
		if err := s.store.MoveRun(ctx, w.run, session, posts...); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// enter begins or goes on with the sitting of the step at which the way stands.
func (s *Service) enter(ctx context.Context, w *way) (*seat, error) {
	step := w.run.At
	st := w.Stages[step]
	if w.results[step].Begun {
		as, err := s.seat(ctx, st, w.sittings[step])
		if err != nil || !w.Series.Fresh(w.place(), w.results[step], as.state.N, st.Game.Doc.Play.Reenter) {
			return as, err
		}
	}
	limit, err := s.limit(ctx, w, st)
	if err != nil {
		return nil, err
	}
	x, state := st.start(store.Sitting{ReleaseID: w.Release.ID, Learner: w.run.Learner, LearnerID: w.run.LearnerID,
		LimitMS: &limit, RunID: &w.run.ID, Step: step, Turn: w.turns[step]})
	if x, err = s.store.AddSitting(ctx, x, w.allowance()); err != nil {
		return nil, err
	}
	as := &seat{x, st, state}
	w.run.Redo = listed(slices.DeleteFunc(numbers(w.run.Redo), func(n int) bool { return n == step }))
	w.sittings[step], w.results[step] = as.Sitting, stepResult(st.Game, as.Result)
	return as, nil
}

// limit is how long a sitting that begins now may take: what its activity says, and
// the learner is given, but no longer than the series has left.
func (s *Service) limit(ctx context.Context, w *way, st Stage) (int64, error) {
	percent := 100
	if w.run.LearnerID != nil {
		l, err := s.store.LearnerByID(ctx, *w.run.LearnerID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return 0, err
		}
		percent = max(percent, l.TimePercent)
	}
	limit := extended(st.Game.Doc, w.Release.Extension, percent)
	if w.run.LimitMS > 0 {
		left := max(1, w.run.LimitMS-w.at.Sub(w.run.StartedAt).Milliseconds())
		if limit == 0 || left < limit {
			limit = left
		}
	}
	return limit, nil
}

// timeIsUp ends the sitting that is under way when the time for all of it is up.
func (s *Service) timeIsUp(ctx context.Context, w *way) error {
	x, begun := w.sittings[w.run.At]
	if !begun || play.Phase(x.Phase) == play.Done {
		return nil
	}
	as, err := s.seat(ctx, w.Stages[w.run.At], x)
	if err != nil {
		return err
	}
	if err := s.finish(ctx, as); err != nil {
		return err
	}
	w.sittings[w.run.At], w.results[w.run.At] = as.Sitting, stepResult(as.stage.Game, as.Result)
	return nil
}

// allowance is how late moves may arrive: as long as it is for the run as a whole.
func (w *way) allowance() time.Duration {
	if w.run.DueAt == nil {
		return w.Release.Allowance()
	}
	return w.run.DueAt.Sub(w.run.StartedAt) - time.Duration(w.run.LimitMS)*time.Millisecond
}

// aside shows a page beside the step, which stays the same.
func (w *way) aside(step int) *View {
	page := w.page(step)
	page.Aside = true
	return &View{Learner: w.run.Learner, Elapsed: w.at.Sub(w.run.StartedAt).Milliseconds(), TimeLimit: int(w.run.LimitMS),
		Now: w.now(), Page: page}
}

// offers reports whether a reply that stands in the step's sitting offers something.
func (s *Service) offers(ctx context.Context, w *way, what string) bool {
	x, begun := w.sittings[w.run.At]
	if !begun {
		return false
	}
	st := w.Stages[w.run.At]
	as, err := s.seat(ctx, st, x)
	if err != nil {
		return false
	}
	return series.Offers(st.Game, as.state, what)
}

// page is a step's page as learners get it.
func (w *way) page(step int) *PageView {
	p := w.Series.Doc.Steps[step].Page
	named := func(id string) string { return w.Series.pages.Pics[id] }
	return &PageView{Title: p.Title, Rich: play.Rich(p.Text, w.Series.pages), Picture: named(p.Picture), Alt: p.Alt, Sound: named(p.Sound), Transcript: p.Transcript}
}

// Totals adds up runs of a series; nil for an activity.
func (s *Service) Totals(ctx context.Context, h *Hosted) store.Totals {
	if h.Series == nil {
		return nil
	}
	return func(r store.Run, list []store.Sitting) (score, percent string, err error) {
		w := &way{Hosted: h, at: s.clock(), run: r}
		if err := s.take(ctx, w, list); err != nil {
			return "", "", err
		}
		if t := w.now().Total; t != nil {
			return t.Score, t.Percent, nil
		}
		return r.Score, r.Percent, nil
	}
}
