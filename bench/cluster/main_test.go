package main

import (
	"os"
	"testing"
	"time"

	"keenmagpie/localdb"
)

// Nothing that was acknowledged is lost when databases die, no server is started again, and
// what may happen so often happens no oftener at two databases. It needs bin/magpie.
func TestDatabasesDie(t *testing.T) {
	t.Chdir("../..")
	dir, err := localdb.Scratch()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	r, err := Try(t.Context(), dir, 3*time.Second, 8, localdb.Unhurried)
	if err != nil {
		t.Fatal(err)
	}
	if !r.Right() || r.Moves == 0 {
		t.Errorf("%+v", r)
	}
}
