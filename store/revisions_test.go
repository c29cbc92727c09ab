package store_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"keenmagpie/store"
)

// Old revisions are thinned: the last of an hour stays, after a month that of a day; and
// for good the first, the newest, those with a name, and what was released.
func TestOldRevisionsAreThinned(t *testing.T) {
	st, do := bare(t, "")
	if err := st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	w, err := st.AddWorkspace(t.Context(), "North School")
	if err != nil {
		t.Fatal(err)
	}
	do(`INSERT INTO activities (id, workspace_id, title, revision, document, created_at, saved_at, saved_by) VALUES ('a', '` + w + `', 'A', 12, '{}', NOW(), NOW(), 'x')`)
	day := time.Now().UTC().Truncate(24 * time.Hour)
	at := func(days, hours, minutes int) time.Time {
		return day.AddDate(0, 0, -days).Add(time.Duration(hours)*time.Hour + time.Duration(minutes)*time.Minute)
	}
	saved := []time.Time{
		at(60, 9, 0), at(60, 9, 1), at(60, 17, 0), at(60, 18, 0), // 1 to 4, of one day
		at(10, 9, 0), at(10, 9, 5), at(10, 9, 9), at(10, 10, 0), // 5 to 8, of two hours
		at(9, 9, 0), at(9, 9, 5), // 9 was released, 10 is the last of its hour
		time.Now().UTC().Add(-2 * time.Hour), time.Now().UTC().Add(-time.Hour), // 11, 12: of today
	}
	for i, when := range saved {
		do(fmt.Sprintf(`INSERT INTO revisions (activity_id, revision, document, saved_at, saved_by) VALUES ('a', %d, '{}', '%s', 'x')`, i+1, when.Format("2006-01-02 15:04:05")))
	}
	do(fmt.Sprintf(`INSERT INTO releases (id, activity_id, number, link, document, names, semantics, released_at, released_by) VALUES ('r', 'a', 1, 'l', '{}', '[]', 1, '%s', 'x')`, at(9, 9, 2).Format("2006-01-02 15:04:05")))
	if err := st.In(w).NameRevision(t.Context(), "a", 5, "Before the rewrite"); err != nil {
		t.Fatal(err)
	}
	if err := st.In("another").NameRevision(t.Context(), "a", 6, "Mine"); err != store.ErrNotFound {
		t.Errorf("named from another workspace: %v", err)
	}
	gone := 0
	for {
		n, err := st.ThinRevisions(t.Context(), 2)
		if err != nil || n > 2 {
			t.Fatal(n, err)
		}
		if gone += n; n == 0 {
			break
		}
	}
	list, err := st.In(w).Revisions(t.Context(), "a", 0)
	if err != nil {
		t.Fatal(err)
	}
	var left []int
	for _, v := range list {
		left = append(left, v.Revision)
	}
	if want := []int{12, 11, 10, 9, 8, 7, 5, 4, 1}; gone != 3 || !slices.Equal(left, want) {
		t.Errorf("%d went, and left are %v, not %v", gone, left, want)
	}
	if list, err := st.In(w).Revisions(t.Context(), "a", 5); err != nil || len(list) != 2 || list[0].Revision != 4 {
		t.Errorf("before the fifth: %v, %v", list, err)
	}
}
