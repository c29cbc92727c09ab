package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// RemarkLook is what would change if a release's finished sittings were scored again
// under the draft as it is now.
type RemarkLook struct {
	Revision int `json:"revision" doc:"Of the draft"`
	// Cannot says why the draft cannot score these sittings.
	Cannot   string      `json:"cannot,omitempty"`
	Changes  []string    `json:"changes" nullable:"false" doc:"How the draft differs from what was released, in words"`
	Sittings int         `json:"sittings" doc:"Those that are finished"`
	Better   int         `json:"better"`
	Worse    int         `json:"worse"`
	Rows     []RemarkRow `json:"rows" nullable:"false" doc:"Those whose score changes, the most changed first; at most 500"`
}

// RemarkRow is one sitting that would score something else.
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

// Remark is a re-mark that was made.
type Remark struct {
	ID         string     `json:"id"`
	MadeAt     time.Time  `json:"madeAt"`
	MadeBy     string     `json:"madeBy"`
	Sittings   int        `json:"sittings"`
	Changed    int        `json:"changed"`
	RevertedAt *time.Time `json:"revertedAt,omitempty"`
}

type remarkLookOutput struct{ Body RemarkLook }

type remarksOutput struct {
	Body struct {
		Remarks []Remark `json:"remarks" nullable:"false"`
	}
}

type revertInput struct {
	ID     string `path:"id" maxLength:"40"`
	Remark string `path:"remark" maxLength:"40"`
}

func (s *Server) remarkRoutes() {
	designer(s, operation(http.MethodGet, "/api/releases/{id}/remark", "lookAtRemark", "What would change if finished sittings were scored again under the draft"),
		func(ctx context.Context, m store.Member, in *idInput) (*remarkLookOutput, error) {
			x, err := s.remarking(ctx, m, in.ID)
			if err != nil {
				return nil, err
			}
			return &remarkLookOutput{x.look}, nil
		})
	designer(s, created(operation(http.MethodPost, "/api/releases/{id}/remark", "remark", "Score finished sittings again under the draft")), s.remark)
	member(s, operation(http.MethodGet, "/api/releases/{id}/remarks", "remarks", "The re-marks of a release"),
		func(ctx context.Context, m store.Member, in *idInput) (*remarksOutput, error) {
			if _, err := s.store.Release(ctx, m.WorkspaceID, in.ID); err != nil {
				return nil, s.fail(err)
			}
			return s.remarks(ctx, in.ID)
		})
	designer(s, operation(http.MethodPost, "/api/releases/{id}/remarks/{remark}/revert", "revertRemark", "Give sittings back what they scored before"),
		func(ctx context.Context, m store.Member, in *revertInput) (*remarksOutput, error) {
			if _, err := s.store.Release(ctx, m.WorkspaceID, in.ID); err != nil {
				return nil, s.fail(err)
			}
			err := s.store.RevertRemark(ctx, in.ID, in.Remark)
			if errors.Is(err, store.ErrNotLatest) {
				return nil, &Problem{Status: 409, Code: "not-latest", Detail: "Another re-mark has been made since. Take that back first; nothing was changed."}
			}
			if err != nil {
				return nil, s.fail(err)
			}
			s.seats.Purge()
			return s.remarks(ctx, in.ID)
		})
}

func (s *Server) remarks(ctx context.Context, release string) (*remarksOutput, error) {
	list, err := s.store.Remarks(ctx, release)
	out := &remarksOutput{}
	out.Body.Remarks = []Remark{}
	for _, k := range list {
		out.Body.Remarks = append(out.Body.Remarks, Remark{k.ID, k.MadeAt, k.MadeByName, k.Sittings, k.Changed, k.RevertedAt})
	}
	return out, s.fail(err)
}

// remarking is a re-mark that was worked out.
type remarking struct {
	look     RemarkLook
	release  store.Release
	document string
	scores   []store.Remarked
}

// remarking plays every finished sitting again under the draft.
func (s *Server) remarking(ctx context.Context, m store.Member, id string) (*remarking, error) {
	r, err := s.store.Release(ctx, m.WorkspaceID, id)
	if err != nil {
		return nil, s.fail(err)
	}
	a, err := s.store.Activity(ctx, m.WorkspaceID, r.ActivityID)
	if err != nil {
		return nil, s.fail(err)
	}
	was, faults := activity.Read([]byte(r.Document))
	if faults != nil {
		return nil, s.fail(faults)
	}
	is, err := document(a)
	if err != nil {
		return nil, s.fail(err)
	}
	x := &remarking{release: r, document: a.Document, look: RemarkLook{Revision: a.Revision, Changes: activity.Differences(was, is), Rows: []RemarkRow{}}}
	if x.look.Changes == nil {
		x.look.Changes = []string{}
	}
	if x.look.Cannot = otherParts(was, is); x.look.Cannot != "" {
		return x, nil
	}
	before, err := play.New(was)
	if err != nil {
		return nil, s.fail(err)
	}
	after, err := play.New(is)
	if err != nil {
		x.look.Cannot = "The draft cannot be solved as it is now."
		return x, nil
	}
	learners, err := s.store.Sittings(ctx, r.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	byID := map[int64]store.Sitting{}
	for _, l := range learners {
		byID[l.ID] = l
	}
	err = s.store.EachLog(ctx, r.ID, func(l store.Sitting, bodies []string) error {
		sitting := byID[l.ID]
		if l.Phase != play.Done || sitting.ID == 0 {
			return nil
		}
		moves := make([]play.Move, len(bodies))
		for i, body := range bodies {
			if err := json.Unmarshal([]byte(body), &moves[i]); err != nil {
				return fmt.Errorf("sitting %d, move %d: %w", l.ID, i+1, err)
			}
		}
		limit := int64(-1)
		if l.LimitMS != nil {
			limit = *l.LimitMS
		}
		done := play.Remark(before, after, l.Seed, limit, moves)
		x.look.Sittings++
		x.scores = append(x.scores, store.Remarked{SittingID: l.ID, Standing: store.Standing{Phase: play.Done, Attempts: done.Is.Attempts, Score: done.Is.Score, Percent: done.Is.Percent, Outcome: done.Is.Outcome}})
		old, _ := exact.Parse(sitting.Score)
		now, _ := exact.Parse(done.Is.Score)
		switch {
		case now > old:
			x.look.Better++
		case now < old:
			x.look.Worse++
		default:
			return nil
		}
		percent, _ := exact.Parse(sitting.Percent)
		x.look.Rows = append(x.look.Rows, RemarkRow{l.ID, sitting.Learner, Scored{sitting.Score, sitting.Percent, before.Judge.Band(percent)}, Scored{done.Is.Score, done.Is.Percent, done.Is.Band}, len(done.Gone)})
		return nil
	})
	if err != nil {
		return nil, s.fail(err)
	}
	change := func(r RemarkRow) exact.Hundredths {
		old, _ := exact.Parse(r.Was.Score)
		now, _ := exact.Parse(r.Is.Score)
		return max(now-old, old-now)
	}
	slices.SortStableFunc(x.look.Rows, func(a, b RemarkRow) int { return int(change(b) - change(a)) })
	x.look.Rows = x.look.Rows[:min(len(x.look.Rows), 500)]
	return x, nil
}

// otherParts says what keeps the moves of one document from being played on another:
// learners had the one's parts, all of them and no others.
func otherParts(was, is *activity.Doc) string {
	for _, x := range []struct {
		has, lacks *activity.Doc
		says       string
	}{{was, is, "The draft has no %s any more, which learners had."}, {is, was, "The draft has %s, which these learners never had."}} {
		for i := range x.has.Items {
			if it := x.lacks.Item(x.has.Items[i].ID); it == nil || it.Copies != x.has.Items[i].Copies {
				return fmt.Sprintf(x.says, x.has.Items[i].Name)
			}
		}
		for i := range x.has.Targets {
			if x.lacks.Target(x.has.Targets[i].ID) == nil {
				return fmt.Sprintf(x.says, "target "+x.has.Targets[i].Name)
			}
		}
	}
	return ""
}

func (s *Server) remark(ctx context.Context, m store.Member, in *releaseInput) (*remarksOutput, error) {
	x, err := s.remarking(ctx, m, in.ID)
	if err != nil {
		return nil, err
	}
	if x.look.Revision != in.Body.Revision {
		return nil, &Problem{Status: 409, Code: "newer-revision", Detail: "The activity has been saved in between. Look again at what would change; nothing was re-marked."}
	}
	if x.look.Cannot != "" {
		return nil, &Problem{Status: 422, Code: "other-parts", Detail: x.look.Cannot + " Nothing was re-marked."}
	}
	if _, err := s.store.AddRemark(ctx, x.release.ID, m.ID, x.document, x.scores); err != nil {
		return nil, s.fail(err)
	}
	s.seats.Purge()
	return s.remarks(ctx, x.release.ID)
}
