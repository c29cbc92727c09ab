package server

import (
	"context"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/stats"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// rescore plays the finished sittings that a re-mark has not scored as they are now.
// Cost: some microseconds a move, on all processors, and keeping a line a sitting.
func (s *Server) rescore(ctx context.Context, k store.Remark, game *play.Game, tell func(done, of int)) error {
	ids, err := s.store.ToRemark(ctx, k)
	if err != nil {
		return err
	}
	table := stats.New(game)
	done := 0
	tell(0, len(ids))
	return s.store.EachLog(ctx, ids, func(logs []store.Logged) error {
		list := make([]store.Remarked, len(logs))
		err := together(len(logs), func(i int) error {
			x := logs[i]
			moves, err := hosting.MovesOf(x)
			if err != nil {
				return err
			}
			results := make([]placing.Effect, len(moves))
			for n, line := range x.Moves {
				results[n] = placing.Effect(line.Result)
			}
			t := hosting.Tally(table, k.ID, x.Sitting, moves)
			again := play.Remark(game, x.Seed, hosting.LimitOf(x.Sitting), moves, results)
			again.Is.Phase = play.Done // who had finished stays finished
			list[i] = store.Remarked{Sitting: x.Sitting, Gone: len(again.Gone), TallyNow: t, Is: hosting.ResultOf(again.Is)}
			return nil
		})
		if err == nil {
			err = s.store.AddRemarked(ctx, k.ID, list)
		}
		done += len(logs)
		tell(done, len(ids))
		return err
	})
}

// otherParts says what keeps the moves of one document from being played on another:
// learners had the one's parts, all of them and no others.
func otherParts(was, is *activity.Doc) string {
	for _, x := range []struct {
		has, lacks *activity.Doc
		says       string
	}{{was, is, "The draft no longer has %s, which learners used."}, {is, was, "The draft has %s, which these learners did not have."}} {
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
