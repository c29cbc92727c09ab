package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/stats"
	"keenmagpie/store"
)

// Outcomes are what learners of a release did, with the document that they played.
type Outcomes struct {
	Figures  stats.Figures `json:"figures"`
	Document Document      `json:"document"`
	// Remark is the re-mark whose key counts, where there is one.
	Remark string `json:"remark,omitempty"`
}

type outcomesOutput struct{ Body Outcomes }

// gathered is what was worked out of a release's logs, and the mark that they had then.
type gathered struct {
	mark    string
	figures stats.Figures
}

func (s *Server) outcomeRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/outcomes", "outcomes", "What the learners of a release did"), s.outcomes)
}

// outcomes plays all sittings of a release, unless none has changed since they were
// last played here. Cost: some microseconds a move.
func (s *Server) outcomes(ctx context.Context, m store.Member, in *idInput) (*outcomesOutput, error) {
	r, err := s.store.Release(ctx, m.WorkspaceID, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if r.Form != store.AnActivity {
		return nil, notFound("This activity's release")
	}
	// Scored again, the key that counts is the corrected one.
	counts, remark := r.Document, ""
	list, err := s.store.Remarks(ctx, r.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	for _, k := range list {
		if k.RevertedAt == nil {
			counts, remark = k.Document, k.ID
			break
		}
	}
	doc, faults := activity.Read([]byte(counts))
	if faults != nil {
		return nil, s.fail(faults)
	}
	mark, err := s.store.LogMark(ctx, r.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	k, ok := s.figures.Get(r.ID)
	if !ok || k.mark != mark {
		if k.figures, err = s.gather(ctx, r.ID, doc); err != nil {
			return nil, s.fail(err)
		}
		k.mark = mark
		s.figures.Add(r.ID, k)
	}
	return &outcomesOutput{Outcomes{k.figures, Document(doc.Full()), remark}}, nil
}

// gather plays them.
func (s *Server) gather(ctx context.Context, release string, doc *activity.Doc) (stats.Figures, error) {
	game, err := play.New(doc)
	if err != nil {
		return stats.Figures{}, err
	}
	table := stats.New(game)
	err = s.store.EachLog(ctx, release, func(x store.Sitting, bodies []string) error {
		moves := make([]play.Move, len(bodies))
		for i, body := range bodies {
			if err := json.Unmarshal([]byte(body), &moves[i]); err != nil {
				return fmt.Errorf("sitting %d, move %d: %w", x.ID, i+1, err)
			}
		}
		limit := int64(-1)
		if x.LimitMS != nil {
			limit = *x.LimitMS
		}
		table.Add(x.Seed, limit, moves)
		return nil
	})
	return table.Figures(), err
}
