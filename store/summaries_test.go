package store_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"

	"keenmagpie/store"
)

// A list is gone through page by page, each thing once, and nothing of another workspace.
func TestCardsComeByPages(t *testing.T) {
	h := newHouse(t)
	ctx, in := t.Context(), h.In(h.workspace)
	want := []string{h.activity}
	for i := range 7 {
		want = append(want, must(in.AddActivity(ctx, h.ana.ID, fmt.Sprintf("Gears %d%%", i), "{}", nil))(h).ID)
	}
	// All within the same moment, so that the moment alone does not order them.
	_, err := h.DB().Exec(`UPDATE activities SET saved_at = '2026-11-29 10:00:00'`)
	h.ok(err)
	for _, most := range []int{1, 3, 8, 20} {
		var got []string
		for after := ""; ; {
			list, next, err := in.Cards(ctx, store.AnActivity, store.Page{After: after, Most: most})
			h.ok(err)
			for _, a := range list {
				got = append(got, a.ID)
			}
			if after = next; after == "" {
				break
			}
		}
		slices.Sort(got)
		slices.Sort(want)
		if !slices.Equal(got, want) {
			t.Errorf("by %d: %v, want %v", most, got, want)
		}
	}
	for find, n := range map[string]int{"gears": 7, "5%": 1, "_": 0, "drawers": 1} {
		if list, _, err := in.Cards(ctx, store.AnActivity, store.Page{Find: find, Most: 60}); err != nil || len(list) != n {
			t.Errorf("%q: %d, want %d (%v)", find, len(list), n, err)
		}
	}
	if list, _, err := h.In(h.other).Cards(ctx, store.AnActivity, store.Page{IDs: want}); err != nil || len(list) != 0 {
		t.Errorf("another workspace sees %d (%v)", len(list), err)
	}
	if _, _, err := in.Cards(ctx, store.AnActivity, store.Page{After: "x"}); !errors.Is(err, store.ErrBadPlace) {
		t.Errorf("a place that is none: %v", err)
	}
}

// A summary is of one revision: where another is saved without one, lists have the document.
func TestASummaryIsOfOneRevision(t *testing.T) {
	h := newHouse(t)
	ctx, in := t.Context(), h.In(h.workspace)
	card := func() store.Card {
		list, _, err := in.Cards(ctx, store.AnActivity, store.Page{IDs: []string{h.activity}})
		h.ok(err)
		return list[0]
	}
	if c := card(); c.IsSummed() || c.Document != "{}" {
		t.Errorf("before: %+v", c)
	}
	x := store.Summary{Kind: "sort", Face: `{"a":1}`, Uses: []string{"m1"}}
	h.ok(h.KeepSummary(ctx, h.activity, 1, x))
	if c := card(); !c.IsSummed() || c.Document != "" || *c.Face != x.Face || c.Kind != "sort" || !slices.Equal(must(c.Media())(h), x.Uses) {
		t.Errorf("summed: %+v", c)
	}
	must(in.SaveActivity(ctx, h.ana.ID, h.activity, "", 1, "Drawers", `{"b":2}`))(h)
	if c := card(); c.IsSummed() || c.Document != `{"b":2}` {
		t.Errorf("saved without one: %+v", c)
	}
	h.ok(h.KeepSummary(ctx, h.activity, 1, x)) // late: of a revision that has been replaced
	if c := card(); c.IsSummed() {
		t.Errorf("a late one is taken: %+v", c)
	}
	if list := must(h.Unsummed(ctx, 10))(h); len(list) != 2 || list[0].Document == "" {
		t.Errorf("to be summed: %+v", list)
	}
}
