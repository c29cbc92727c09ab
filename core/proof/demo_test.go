package proof_test

import (
	"os"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
)

func BenchmarkDemo(b *testing.B) {
	body, err := os.ReadFile("../../demo/activities/parts-drawers.json")
	if err != nil {
		b.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		b.Fatal(faults)
	}
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			activity.Read(body)
		}
	})
	b.Run("replies", func(b *testing.B) {
		told := doc.Clone()
		edit.AddStartingReplies(told)
		for b.Loop() {
			proof.New(b.Context(), told).Cover()
		}
	})
	b.Run("class of 10000", func(b *testing.B) {
		game, err := play.New(doc)
		if err != nil {
			b.Fatal(err)
		}
		for b.Loop() {
			proof.Simulate(game, proof.Learners{Number: 10_000, Ability: 60, Seed: 1}, nil)
		}
	})
	for name, f := range map[string]func(p *proof.Proof){
		"solve": func(p *proof.Proof) { p.Solve(); p.Findings() },
		"count": func(p *proof.Proof) { p.Count() }, "chance": func(p *proof.Proof) { p.Chance() },
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				f(proof.New(b.Context(), doc))
			}
		})
	}
}
