package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/say"
	"keenmagpie/core/series"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// RemarkLook is what a re-mark changes, or would change: a release's finished sittings, or
// those of a step of a series, scored again under a draft.
type RemarkLook struct {
	Remark
	Changes []message.Sentence `json:"changes" nullable:"false" doc:"How the draft differs from what was released, in words"`
	Least   int                `json:"least,omitempty" doc:"The smallest group, where these are fewer: none is listed"`
	Rows    []RemarkRow        `json:"rows" nullable:"false" doc:"Those whose score changes, the most changed first; at most 500"`
}

// RemarkRow is one sitting that scores something else.
type RemarkRow struct {
	Sitting int64  `json:"sitting"`
	Learner string `json:"learner"`
	Was     Scored `json:"was"`
	Is      Scored `json:"is"`
	Gone    int    `json:"gone" doc:"Moves that come out differently"`
}

// Scored is what a sitting scores.
type Scored struct {
	Score   string `json:"score"`
	Percent string `json:"percent"`
	Band    string `json:"band,omitempty"`
}

// Remark is a re-mark that was worked out and, from AppliedAt on, made.
type Remark struct {
	ID         string     `json:"id"`
	MadeBy     string     `json:"madeBy"`
	Sittings   int        `json:"sittings" doc:"Those that are finished"`
	Better     int        `json:"better"`
	Worse      int        `json:"worse"`
	AppliedAt  *time.Time `json:"appliedAt,omitempty"`
	RevertedAt *time.Time `json:"revertedAt,omitempty"`
	NeverLower bool       `json:"neverLower" doc:"Those that would score less kept what they had"`
}

// RemarkStep is a line of what [Server.workOutRemark] tells while it goes on.
type RemarkStep struct {
	Done    int      `json:"done"`
	Of      int      `json:"of"`
	Remark  string   `json:"remark,omitempty"` // at the end
	Problem *Problem `json:"problem,omitempty"`
}

type remarkLookOutput struct{ Body RemarkLook }

type remarksOutput struct {
	Body struct {
		Remarks []Remark `json:"remarks" nullable:"false"`
	}
}

type remarkInput struct {
	ID     string `path:"id" maxLength:"40"`
	Remark string `path:"remark" maxLength:"40"`
}

type applyInput struct {
	ID     string    `path:"id" maxLength:"40"`
	Remark string    `path:"remark" maxLength:"40"`
	Body   *Applying `required:"false"`
}

// Applying is how a re-mark is applied.
type Applying struct {
	NeverLower bool `json:"neverLower,omitempty" doc:"Sittings that would score less keep what they have"`
}

// rowsOfRemark is how many sittings are listed of a re-mark.
const rowsOfRemark = 500

func (s *Server) remarkRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/remarks", "remarks", "The re-marks of a release"),
		func(ctx context.Context, m store.Member, in *PlayedInput) (*remarksOutput, error) {
			x, err := s.markable(ctx, m, in.ID, &in.Step)
			if err != nil {
				return nil, err
			}
			return s.remarks(ctx, x.Played)
		})
	designer(s, operation(http.MethodPost, "/api/releases/{id}/remarks", "workOutRemark", "Work out what changes if finished sittings are scored again under the draft"), s.workOutRemark)
	member(s, operation(http.MethodGet, "/api/releases/{id}/remarks/{remark}", "lookAtRemark", "What a re-mark changes for whom"), s.lookAtRemark)
	designer(s, operation(http.MethodPost, "/api/releases/{id}/remarks/{remark}/apply", "remark", "Score finished sittings again"), s.remark)
	designer(s, operation(http.MethodPost, "/api/releases/{id}/remarks/{remark}/revert", "revertRemark", "Give sittings back what they scored before"),
		func(ctx context.Context, m store.Member, in *remarkInput) (*remarksOutput, error) {
			k, x, err := s.known(ctx, m, in.ID, in.Remark)
			if err != nil {
				return nil, err
			}
			err = s.store.RevertRemark(ctx, k, s.hosting.Totals(ctx, x.hosted))
			if errors.Is(err, store.ErrNotLatest) {
				return nil, &Problem{Status: 409, Code: "not-latest", Detail: "Another re-mark has been made since. Take that back first; nothing was changed."}
			}
			if err == nil {
				err = s.record(ctx, m, "re-mark reverted", about(x.hosted.Release), "")
			}
			if err != nil {
				return nil, err
			}
			s.forget()
			return s.remarks(ctx, x.Played)
		})
}

// forget drops what this server remembers of sittings, when they have been changed
// other than by their moves.
func (s *Server) forget() {
	s.hosting.Forget()
	s.figures.Purge()
}

func (s *Server) remarks(ctx context.Context, p store.Played) (*remarksOutput, error) {
	list, err := s.store.Remarks(ctx, p)
	if err != nil {
		return nil, err
	}
	out := &remarksOutput{}
	out.Body.Remarks = []Remark{}
	for _, k := range list {
		made, err := s.made(ctx, k)
		if err != nil {
			return nil, err
		}
		out.Body.Remarks = append(out.Body.Remarks, made)
	}
	return out, nil
}

func (s *Server) made(ctx context.Context, k store.Remark) (Remark, error) {
	e, err := s.store.RemarkEffect(ctx, k.ID)
	r := Remark{k.ID, k.MadeByName, e.Sittings, e.Better, e.Worse, k.AppliedAt, k.RevertedAt, k.NeverLower}
	if k.AppliedAt == nil {
		r.RevertedAt = nil
	}
	return r, err
}

// markable is what can be re-marked: an activity's release, or a step of a series'.
type markable struct {
	hosted *hosting.Hosted
	store.Played
	stage hosting.Stage
}

// markable finds it; step is nil for an activity's, and left out of account there.
func (s *Server) markable(ctx context.Context, m store.Member, release string, step *int) (markable, error) {
	r, err := s.store.In(m.WorkspaceID).Release(ctx, release)
	if err != nil {
		return markable{}, err
	}
	x := markable{Played: r.Played(nil)}
	if x.hosted, err = s.hosting.FindAnyway(ctx, r.Link); err != nil {
		return x, err
	}
	if x.hosted.Series == nil {
		step = new(int)
	} else {
		x.Step = step
	}
	if step == nil {
		return x, notFound("This step")
	}
	if x.stage, err = x.hosted.Stage(*step); err != nil {
		err = notFound("This step")
	}
	return x, err
}

// known finds a re-mark that was worked out, and what it is of.
func (s *Server) known(ctx context.Context, m store.Member, release, id string) (store.Remark, markable, error) {
	k, err := s.store.In(m.WorkspaceID).Remark(ctx, release, id)
	if err != nil {
		return k, markable{}, err
	}
	x, err := s.markable(ctx, m, release, k.Step)
	return k, x, err
}

// draftFor finds the activity as it is now, by which it can be re-marked.
func (s *Server) draftFor(ctx context.Context, m store.Member, x markable) (store.Activity, error) {
	id := x.hosted.Release.ActivityID
	if x.Step != nil {
		id = x.hosted.Series.Doc.Steps[*x.Step].Activity
	}
	return s.store.In(m.WorkspaceID).Activity(ctx, id)
}

// workOutRemark plays every finished sitting again under the draft, and keeps what it
// would score. It tells how far it is; whoever stops listening stops it, and nothing is
// kept.
func (s *Server) workOutRemark(ctx context.Context, m store.Member, in *PlayedInput) (*huma.StreamResponse, error) {
	x, err := s.markable(ctx, m, in.ID, &in.Step)
	if err != nil {
		return nil, err
	}
	a, err := s.draftFor(ctx, m, x)
	if err != nil {
		return nil, err
	}
	is, err := document(a)
	if err != nil {
		return nil, err
	}
	if x.Step != nil {
		// What a step is worth is the series' affair, and was settled with the release.
		is = series.Activity(is, activity.Leg{Points: &x.stage.Game.Doc.Marks.Points})
		a.Document = string(is.Write())
	}
	if cannot := otherParts(x.stage.Game.Doc, is); cannot != "" {
		return nil, &Problem{Status: 422, Code: "other-parts", Detail: cannot + " Nothing was re-marked."}
	}
	game, err := play.New(is)
	if err != nil {
		return nil, &Problem{Status: 422, Code: "key-impossible", Detail: "The draft cannot be solved as it is now. Nothing was re-marked."}
	}
	k, err := s.store.NewRemark(ctx, x.Played, m.ID, a.Document, a.Revision)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		c.SetHeader("Content-Type", "application/jsonl")
		w := c.BodyWriter()
		tell := func(x RemarkStep) {
			_ = json.NewEncoder(w).Encode(x) // a listener who has left is seen by the context
			if f, ok := w.(http.Flusher); ok {
				f.Flush()
			}
		}
		of := 0
		err := s.rescore(ctx, k, game, func(done, all int) {
			of = all
			tell(RemarkStep{Done: done, Of: all})
		})
		if err != nil {
			err = errors.Join(err, s.store.DropRemark(context.WithoutCancel(ctx), x.hosted.Release.ID, k.ID))
			if ctx.Err() == nil {
				tell(RemarkStep{Of: of, Problem: s.problem(ctx, "workOutRemark", err)})
			}
			return
		}
		tell(RemarkStep{Done: of, Of: of, Remark: k.ID})
	}}, nil
}

func (s *Server) lookAtRemark(ctx context.Context, m store.Member, in *remarkInput) (*remarkLookOutput, error) {
	k, x, err := s.known(ctx, m, in.ID, in.Remark)
	if err != nil {
		return nil, err
	}
	before := x.stage
	after, err := s.hosting.Corrected(ctx, before, k.ReleaseID, k.ID)
	if err != nil {
		return nil, err
	}
	out := &remarkLookOutput{RemarkLook{Changes: say.Differences(before.Game.Doc, after.Game.Doc), Rows: []RemarkRow{}}}
	if out.Body.Changes == nil {
		out.Body.Changes = []message.Sentence{}
	}
	if out.Body.Remark, err = s.made(ctx, k); err != nil {
		return nil, err
	}
	if out.Body.Sittings < m.LeastGroup {
		out.Body.Least = m.LeastGroup
		return out, nil
	}
	list, err := s.store.Rescored(ctx, k.ID, rowsOfRemark)
	for _, x := range list {
		out.Body.Rows = append(out.Body.Rows, RemarkRow{x.SittingID, shown(m, x.Learner), scored(before.Game.Judge, x.WasScore, x.WasPercent), scored(after.Game.Judge, x.Score, x.Percent), x.Gone})
	}
	return out, err
}

func scored(j *marks.Judge, score, percent string) Scored {
	p, _ := exact.Parse(percent)
	return Scored{score, percent, j.Band(p)}
}

// remark applies a re-mark that was worked out: at once, for all.
func (s *Server) remark(ctx context.Context, m store.Member, in *applyInput) (*remarksOutput, error) {
	k, x, err := s.known(ctx, m, in.ID, in.Remark)
	if err != nil {
		return nil, err
	}
	a, err := s.draftFor(ctx, m, x)
	if err != nil {
		return nil, err
	}
	if a.Revision != k.Revision {
		return nil, &Problem{Status: 409, Code: "newer-revision", Detail: "The activity has been saved in between. Look again at what would change; nothing was re-marked."}
	}
	game, err := s.hosting.CorrectedGame(ctx, k.ReleaseID, k.ID)
	if err != nil {
		return nil, err
	}
	lower := in.Body == nil || !in.Body.NeverLower
	// Those that have been finished since it was looked at.
	if err := s.rescore(ctx, k, game, func(int, int) {}); err != nil {
		return nil, err
	}
	if err := s.store.ApplyRemark(ctx, k, !lower, s.hosting.Totals(ctx, x.hosted)); err != nil {
		return nil, err
	}
	e, err := s.store.RemarkEffect(ctx, k.ID)
	if err == nil {
		err = s.record(ctx, m, "re-mark", about(x.hosted.Release), remarkWords(e, lower))
	}
	if err != nil {
		return nil, err
	}
	s.forget()
	return s.remarks(ctx, x.Played)
}

func remarkWords(e store.Effect, lower bool) string {
	if lower {
		return fmt.Sprintf("%d sittings: %d with more, %d with less", e.Sittings, e.Better, e.Worse)
	}
	return fmt.Sprintf("%d sittings: %d with more, %d kept what they had", e.Sittings, e.Better, e.Worse)
}
