package store_test

import (
	"errors"
	"testing"

	"keenmagpie/store"
)

// scores says what a sitting comes to now, and by which re-mark.
func (h *house) scores(id int64) (score, by string) {
	h.Helper()
	x := must(h.Sitting(h.Context(), h.of(), id))(h)
	if x.RemarkID != nil {
		by = *x.RemarkID
	}
	return x.Score, by
}

// remarked scores the sittings that a re-mark has not scored yet.
func (h *house) remarked(k store.Remark, score string) (n int) {
	h.Helper()
	ids := must(h.ToRemark(h.Context(), k))(h)
	h.ok(h.EachLog(h.Context(), ids, func(list []store.Logged) error {
		var out []store.Remarked
		for _, x := range list {
			out = append(out, store.Remarked{Sitting: x.Sitting, Is: done(score, score), Gone: 2,
				TallyNow: store.Tally{ReleaseID: h.release.ID, Remark: k.ID, SittingID: x.ID, Body: []byte("x")}})
		}
		return h.AddRemarked(h.Context(), k.ID, out)
	}))
	return len(ids)
}

func (h *house) newRemark(account string) store.Remark {
	h.Helper()
	return must(h.NewRemark(h.Context(), h.of(), account, "{}", 3))(h)
}

// A re-mark changes nothing until it is applied, and then all of it; taken back, what was
// before is there again, and those on top of one another come off in order.
func TestRemarksAreApplied(t *testing.T) {
	h := newHouse(t)
	ctx := t.Context()
	a, b := h.sat(h.release.ID, "Ada", 1, done("1.00", "10.00")), h.sat(h.release.ID, "Bako", 1, done("5.00", "50.00"))
	h.sat(h.release.ID, "Celia", 1, store.Result{Phase: "placing"})
	first := h.newRemark(h.ana.ID)
	if n := h.remarked(first, "5.00"); n != 2 {
		t.Fatalf("%d are scored", n)
	}
	if score, by := h.scores(a.ID); score != "1.00" || by != "" {
		t.Errorf("before it is applied: %s by %q", score, by)
	}
	if _, err := h.RemarkInForce(ctx, h.of()); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("it counts before it is applied: %v", err)
	}
	if list := must(h.Remarks(ctx, h.of()))(h); len(list) != 0 {
		t.Errorf("it is listed: %+v", list)
	}
	if e := must(h.RemarkEffect(ctx, first.ID))(h); e != (store.Effect{Sittings: 2, Better: 1}) {
		t.Errorf("its effect: %+v", e)
	}
	if rows := must(h.Rescored(ctx, first.ID, 0))(h); len(rows) != 1 || rows[0].Learner != "Ada" || rows[0].WasScore != "1.00" || rows[0].Score != "5.00" || rows[0].Gone != 2 {
		t.Errorf("for whom: %+v", rows)
	}
	h.ok(h.ApplyRemark(ctx, first, false, nil))
	if score, by := h.scores(a.ID); score != "5.00" || by != first.ID {
		t.Errorf("applied: %s by %q", score, by)
	}
	if err := h.ApplyRemark(ctx, first, false, nil); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("applied twice: %v", err)
	}
	if err := h.DropRemark(ctx, h.release.ID, first.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("one that was applied is dropped: %v", err)
	}
	second := h.newRemark(h.ana.ID)
	if h.remarked(second, "7.00") != 2 || h.remarked(second, "7.00") != 0 {
		t.Error("not each is scored once")
	}
	h.ok(h.ApplyRemark(ctx, second, false, nil))
	if k := must(h.RemarkInForce(ctx, h.of()))(h); k.ID != second.ID || k.MadeByName != "Ana" || k.Revision != 3 {
		t.Errorf("which counts: %+v", k)
	}
	if err := h.RevertRemark(ctx, first, nil); !errors.Is(err, store.ErrNotLatest) {
		t.Errorf("the first before the second: %v", err)
	}
	h.ok(h.RevertRemark(ctx, second, nil))
	if score, by := h.scores(b.ID); score != "5.00" || by != first.ID {
		t.Errorf("the second taken back: %s by %q", score, by)
	}
	h.ok(h.RevertRemark(ctx, first, nil))
	if score, by := h.scores(a.ID); score != "1.00" || by != "" {
		t.Errorf("both taken back: %s by %q", score, by)
	}
	if err := h.RevertRemark(ctx, first, nil); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("taken back twice: %v", err)
	}
}

// What was played on between looking and applying is scored again; what was begun anew
// after it was applied keeps what it has when it is taken back.
func TestSittingsGoOnBesideARemark(t *testing.T) {
	h := newHouse(t)
	ctx := t.Context()
	a, b := h.sat(h.release.ID, "Ada", 1, done("1.00", "10.00")), h.sat(h.release.ID, "Bako", 1, done("2.00", "20.00"))
	k := h.newRemark(h.ana.ID)
	h.remarked(k, "5.00")
	again := func(x store.Sitting, score string) {
		h.Helper()
		s := done(score, score)
		s.Attempts = 2
		n := 1 + h.count(`SELECT COUNT(*) FROM moves WHERE sitting_id = ?`, x.ID)
		by := must(h.Sitting(ctx, h.release.Played(nil), x.ID))(h).RemarkID
		h.ok(h.AppendMove(ctx, x.ID, store.Move{N: n, Body: "{}", Result: "checked"}, by, &store.Change{Result: s}))
	}
	again(a, "3.00")
	h.sat(h.release.ID, "Celia", 1, done("4.00", "40.00"))
	if n := h.remarked(k, "6.00"); n != 2 {
		t.Errorf("%d are scored once more", n)
	}
	again(b, "2.50") // and this one after that
	h.ok(h.ApplyRemark(ctx, k, false, nil))
	if score, _ := h.scores(a.ID); score != "6.00" {
		t.Errorf("one that went on before: %s", score)
	}
	if score, by := h.scores(b.ID); score != "2.50" || by != "" {
		t.Errorf("one that went on meanwhile: %s by %q", score, by)
	}
	again(a, "9.00")
	h.ok(h.RevertRemark(ctx, k, nil))
	if score, by := h.scores(a.ID); score != "9.00" || by != k.ID {
		t.Errorf("begun anew under the corrected key: %s by %q", score, by)
	}
}

// One that was looked at and not applied goes when its maker looks again; others' stay.
func TestRemarksThatWereNotApplied(t *testing.T) {
	h := newHouse(t)
	tobi := must(h.In(h.workspace).AddMember(t.Context(), store.Account{Email: "tobi@example.org", Name: "Tobi"}, store.Designer))(h)
	h.sat(h.release.ID, "Ada", 1, done("1.00", "10.00"))
	old, his := h.newRemark(h.ana.ID), h.newRemark(tobi.ID)
	h.remarked(old, "2.00")
	h.remarked(his, "3.00")
	h.newRemark(h.ana.ID)
	if _, err := h.RemarkOf(t.Context(), h.release.ID, old.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("the one before: %v", err)
	}
	if n := h.count(`SELECT (SELECT COUNT(*) FROM remarked WHERE remark_id = ?) + (SELECT COUNT(*) FROM tallies WHERE stage = ?)`, old.ID, old.ID); n != 0 {
		t.Errorf("%d lines of it are left", n)
	}
	if e := must(h.RemarkEffect(t.Context(), his.ID))(h); e.Sittings != 1 {
		t.Errorf("the other's: %+v", e)
	}
	// From yesterday it is forgotten whoever made it.
	_, err := h.DB().Exec(`UPDATE remarks SET made_at = made_at - INTERVAL 2 DAY WHERE id = ?`, his.ID)
	h.ok(err)
	h.newRemark(h.ana.ID)
	if _, err := h.RemarkOf(t.Context(), h.release.ID, his.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("one of the day before yesterday: %v", err)
	}
	if tobi.Owner || !must(h.MemberByID(t.Context(), h.ana.ID, h.workspace))(h).Owner {
		t.Error("not the first designer is the owner")
	}
}

// A re-mark that was interrupted half way is carried on with, by whoever finds it.
func TestARemarkIsCarriedOn(t *testing.T) {
	h := newHouse(t)
	ctx := t.Context()
	a := h.sat(h.release.ID, "Ada", 1, done("1.00", "10.00"))
	k := h.newRemark(h.ana.ID)
	h.remarked(k, "5.00")
	h.ok(h.ApplyRemark(ctx, k, false, nil))
	// As it is when a server dies after it has begun to take it back.
	_, err := h.DB().Exec(`UPDATE remarks SET reverted_at = UTC_TIMESTAMP(3), doing = 'revert', done_to = 0 WHERE id = ?`, k.ID)
	h.ok(err)
	list := must(h.UnfinishedRemarks(ctx))(h)
	if len(list) != 1 || list[0].ID != k.ID || list[0].Link != h.release.Link {
		t.Fatalf("unfinished are %+v", list)
	}
	h.ok(h.CarryOnRemark(ctx, list[0].Remark, nil))
	if score, by := h.scores(a.ID); score != "1.00" || by != "" {
		t.Errorf("carried on with: %s by %q", score, by)
	}
	if list := must(h.UnfinishedRemarks(ctx))(h); len(list) != 0 {
		t.Errorf("still unfinished: %+v", list)
	}
}
