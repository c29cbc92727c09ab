package server_test

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"keenmagpie/demo"
	"keenmagpie/formats/xapi"
	"keenmagpie/hosting"
	"keenmagpie/platforms"
	"keenmagpie/standin"
	"keenmagpie/store"
)

// Whatever happens to a record store, and to the servers that send to it, every statement
// arrives once in the end, those of a sitting in their order.
func TestEveryStatementArrivesOnce(t *testing.T) {
	c := newCourse(t)
	id, _ := c.owner.activity()
	link := strings.TrimPrefix(c.owner.release(id).Link, "/play/")
	if code, body := c.owner.ask("PUT", "/api/records", map[string]string{"endpoint": c.at + "/xapi", "user": standin.RecordsUser, "password": "wrong"}); code != 422 || !strings.Contains(body, "records-refuse") {
		t.Errorf("a wrong password: %d %s", code, body)
	}
	if code, body := c.owner.ask("PUT", "/api/records", map[string]string{"endpoint": c.at + "/xapi", "user": standin.RecordsUser, "password": standin.RecordsPassword}); code != 200 || strings.Contains(body, standin.RecordsPassword) {
		t.Fatalf("giving a record store: %d %s", code, body)
	}
	faults := []string{"down", "", "down", "", ""}
	random := rand.New(rand.NewPCG(1, 2))
	for i := range 6 {
		lea := c.person()
		var sitting begun
		if code := lea.as("Magpie-Sitting", "", "POST", "/api/play/"+link+"/sittings", map[string]string{"learner": "Lea"}, &sitting); code != 201 {
			t.Fatalf("beginning: %d", code)
		}
		for n := 1; n < 12; n += 2 {
			lea.as("Magpie-Sitting", sitting.token, "POST", "/api/play/"+link+"/moves", map[string]any{"n": n, "t": n * 10, "do": "place", "piece": sitting.Sitting.Scene.Pieces[n%len(sitting.Sitting.Scene.Pieces)].ID, "target": sitting.Sitting.Scene.Targets[0].ID}, nil)
			lea.as("Magpie-Sitting", sitting.token, "POST", "/api/play/"+link+"/moves", map[string]any{"n": n + 1, "t": n*10 + 5, "do": "check"}, nil)
			fault := faults[random.IntN(len(faults))]
			c.college.Fault("down", fault == "down")
			// Two servers send at once, and are killed somewhere on the way.
			for range 2 {
				ctx, kill := context.WithTimeout(t.Context(), time.Duration(random.IntN(12))*time.Millisecond)
				go func() { _ = c.send.SendDue(ctx) }()
				_ = platforms.New(c.store, []byte("thirty-two letters and some more of them")).SendDue(ctx)
				kill()
			}
			if i == 0 && n == 1 {
				c.owner.ask("POST", "/api/outbox", nil)
			}
		}
	}
	c.college.Fault("down", false)
	deadline := time.Now().Add(30 * time.Second)
	for {
		c.owner.ask("POST", "/api/outbox", nil) // who waits does so no longer
		if err := c.send.SendDue(t.Context()); err != nil {
			t.Fatal(err)
		}
		var left int
		if err := c.store.DB().QueryRow(`SELECT COUNT(*) FROM outbox WHERE state <> 'sent'`).Scan(&left); err != nil {
			t.Fatal(err)
		}
		if left == 0 {
			break
		}
		if time.Now().After(deadline) {
			t.Fatalf("%d are still waiting", left)
		}
	}
	rows, err := c.store.DB().Query(`SELECT lane, name FROM outbox ORDER BY id`)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	want := map[string][]string{}
	lane := map[string]string{}
	for rows.Next() {
		var l, name string
		if err := rows.Scan(&l, &name); err != nil {
			t.Fatal(err)
		}
		want[l] = append(want[l], name)
		lane[name] = l
	}
	got := map[string][]string{}
	for _, s := range c.college.Statements() {
		var x struct{ ID string }
		if err := json.Unmarshal(s, &x); err != nil {
			t.Fatal(err)
		}
		got[lane[x.ID]] = append(got[lane[x.ID]], x.ID)
	}
	if len(want) != 6 || len(want[lane[want["sitting 1"][0]]]) < 5 {
		t.Fatalf("too little was to be sent: %v", want)
	}
	for l := range want {
		if !slices.Equal(got[l], want[l]) {
			t.Errorf("%s: %d arrived of %d, or not in their order", l, len(got[l]), len(want[l]))
		}
	}
}

// BenchmarkStatements prints how many statements are sent in a second, of a hundred sittings.
func BenchmarkStatements(b *testing.B) {
	c := newCourse(b)
	workspace, err := c.store.MemberByEmail(b.Context(), demo.Accounts()[0].Email)
	if err != nil {
		b.Fatal(err)
	}
	if code, body := c.owner.ask("PUT", "/api/records", map[string]string{"endpoint": c.at + "/xapi", "user": standin.RecordsUser, "password": standin.RecordsPassword}); code != 200 {
		b.Fatalf("giving a record store: %d %s", code, body)
	}
	n := 0
	for b.Loop() {
		b.StopTimer()
		posts := []store.Post{}
		for range 2000 {
			n++
			name := xapi.Named("benchmark", n)
			s := xapi.About{Home: c.tool, Name: "learner-1", Activity: c.tool + "/play/x", Title: "x", Lang: "en", Registration: name}.Attempted(name, time.Now())
			posts = append(posts, store.Post{WorkspaceID: workspace.WorkspaceID, Kind: store.AStatement, Lane: hosting.StatementLane(int64(n % 100)), Name: name.String(), Body: s.JSON()})
		}
		if err := c.store.AddPosts(b.Context(), posts); err != nil {
			b.Fatal(err)
		}
		b.StartTimer()
		if err := c.send.SendDue(b.Context()); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(n)/b.Elapsed().Seconds(), "statements/s")
}
