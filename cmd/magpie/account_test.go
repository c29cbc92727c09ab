package main

import (
	"context"
	"io"
	"os"
	"regexp"
	"strings"
	"testing"

	"keenmagpie/store"
)

// printed is what f writes to the standard output.
func printed(t *testing.T, f func() error) string {
	t.Helper()
	r, w, err := os.Pipe()
	if err != nil {
		t.Fatal(err)
	}
	was := os.Stdout
	os.Stdout = w
	failed := f()
	os.Stdout = was
	_ = w.Close()
	out, err := io.ReadAll(r)
	if err != nil || failed != nil {
		t.Fatal(err, failed)
	}
	return string(out)
}

// An empty installation says where its first owner comes in, once; the command line lets
// others in, and lists them.
func TestAccountsFromTheCommandLine(t *testing.T) {
	db := private(t)
	if err := db.Create(t.Context(), "accounts"); err != nil {
		t.Fatal(err)
	}
	d := linking{database{DSN: db.DSN("accounts")}, "https://magpie.example/"}
	st, err := d.open(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	link := regexp.MustCompile(`https://magpie\.example/join/(\w+)`)
	token := func(text string) string {
		found := link.FindStringSubmatch(text)
		if found == nil {
			t.Fatalf("no link in %q", text)
		}
		return found[1]
	}
	hello := func() string {
		return printed(t, func() error { return welcome(t.Context(), st, "https://magpie.example") })
	}
	first := token(hello())
	second := token(hello())
	if _, err := st.Ticket(t.Context(), first); err == nil {
		t.Error("another start leaves the first address as it was")
	}
	if _, err := st.FoundFirst(t.Context(), second, "North School", store.Account{Email: "noa@school.example", Name: "Noa", PasswordHash: "x"}); err != nil {
		t.Fatal(err)
	}
	if got := hello(); got != "" {
		t.Errorf("with an account there is an address for a first one: %s", got)
	}

	add := accountAddCmd{Email: " Lio@School.example", Workspace: "North School", Role: "viewer", linking: d}
	if k, err := st.Ticket(t.Context(), token(printed(t, add.Run))); err != nil || k.Email != "lio@school.example" || k.Role != store.Viewer || k.Owner || k.Workspace != "North School" {
		t.Errorf("invited: %+v, %v", k, err)
	}
	add = accountAddCmd{Email: "kim@school.example", Workspace: "South School", Role: "designer", linking: d}
	if k, err := st.Ticket(t.Context(), token(printed(t, add.Run))); err != nil || !k.Owner || k.Workspace != "South School" {
		t.Errorf("the first of a workspace: %+v, %v", k, err)
	}
	for _, bad := range []accountAddCmd{{Email: "lio", Workspace: "x", Role: "viewer", linking: d}, {Email: "l@x.example", Workspace: "x", Role: "viewer", Owner: true, linking: d}} {
		if bad.Run() == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
	reset := accountResetCmd{Email: "noa@school.example", linking: d}
	if k, err := st.Ticket(t.Context(), token(printed(t, reset.Run))); err != nil || k.Kind != store.ForPassword {
		t.Errorf("reset: %+v, %v", k, err)
	}
	if err := (&accountResetCmd{Email: "nobody@school.example", linking: d}).Run(); err == nil {
		t.Error("nobody's password is reset")
	}
	if got := printed(t, (&accountListCmd{d}).Run); !strings.Contains(got, "North School (owner)") || strings.Contains(got, "lio@") {
		t.Errorf("listed: %s", got)
	}
}
