package store_test

import (
	"errors"
	"testing"

	"keenmagpie/store"
)

// A request that was held up puts no older result in the place of a later one, though the
// run stands at the same step.
func TestALaterResultStays(t *testing.T) {
	h := newHouse(t)
	run := must(h.BeginRun(h.Context(), h.release, store.Run{Learner: "Lea", End: 2}, ""))(h)
	held := must(h.RunByToken(h.Context(), h.release.ID, run.Token))(h)
	later := held
	later.At, later.Reached, later.Score = 2, 2, "9.00"
	h.ok(h.MoveRun(h.Context(), later, nil))
	again := must(h.RunByToken(h.Context(), h.release.ID, run.Token))(h)
	again.Score = "10.00"
	h.ok(h.MoveRun(h.Context(), again, nil)) // at the same step
	held.At, held.Reached, held.Score = 2, 2, "4.00"
	if err := h.MoveRun(h.Context(), held, nil); !errors.Is(err, store.ErrRaced) {
		t.Errorf("the one that was held up: %v", err)
	}
	if got := must(h.RunByToken(h.Context(), h.release.ID, run.Token))(h); got.Score != "10.00" {
		t.Errorf("the result is %s", got.Score)
	}
}
