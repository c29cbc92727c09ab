package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Misplaced is the part that the first release of Parts drawers keys to a wrong drawer.
const Misplaced = "jockey-wheel"

const sittingsLoaded = "demo sittings"

// LoadSittings gives Parts drawers two releases, once: the first, with one part keyed to
// the wrong drawer, has 180 finished sittings of made-up learners, the second, as the
// draft is now, has 40. They are the same each time. What is half there from an
// interrupted start is completed.
func LoadSittings(ctx context.Context, st *store.Store) error {
	if done, err := st.Setting(ctx, sittingsLoaded); err != nil || done != "" {
		return err
	}
	m, err := st.MemberByEmail(ctx, Accounts()[0].Email)
	if err != nil {
		return err
	}
	list, err := st.In(m.WorkspaceID).Activities(ctx, store.AnActivity)
	if err != nil {
		return err
	}
	for _, a := range list {
		doc, faults := activity.Read([]byte(a.Document))
		if faults != nil || doc.ID != Activities[0] {
			continue
		}
		if a.Releases >= 2 { // those of a version that did not write down that it was done
			break
		}
		wrong := doc.Clone()
		right := wrong.Key.Solutions[0].Right
		drivetrain, wheels := right["drivetrain"], right["wheels"]
		drivetrain.Except = append(drivetrain.Except, Misplaced)
		wheels.Items = append(wheels.Items, Misplaced)
		right["drivetrain"], right["wheels"] = drivetrain, wheels
		if err := release(ctx, st, m, a.ID, wrong, doc, 180, 1, 21*24*time.Hour); err != nil {
			return err
		}
		if err := release(ctx, st, m, a.ID, doc, doc, 40, 2, 5*24*time.Hour); err != nil {
			return err
		}
	}
	return st.Set(ctx, sittingsLoaded, "all")
}

// release releases a document and lets made-up learners play it, who know by what truth
// says is right. The sittings began within a time before now.
func release(ctx context.Context, st *store.Store, m store.Member, id string, doc, truth *activity.Doc, learners int, seed uint64, within time.Duration) error {
	begun := time.Now().UTC().Add(-within).Truncate(time.Millisecond)
	game, err := play.New(doc)
	if err != nil {
		return err
	}
	knows, err := play.New(truth)
	if err != nil {
		return err
	}
	logged := make([]store.Logged, learners)
	for n := range learners {
		own := seed<<32 + uint64(n)
		x := store.Logged{Sitting: store.Sitting{Learner: learner(n, seed), Semantics: marks.Semantics, Seed: own,
			StartedAt: begun.Add(within * time.Duration(n) / time.Duration(learners))}}
		state := game.Open(own)
		for _, move := range proof.Sitting(game, knows, 35+int(own*37%60), own) {
			var a play.Answer
			state, a = game.Move(state, move)
			body, err := json.Marshal(move)
			if err != nil {
				return err
			}
			x.Moves = append(x.Moves, store.Move{N: move.N, Body: string(body), Result: string(a.Result)})
			x.At = append(x.At, x.StartedAt.Add(time.Duration(move.T)*time.Millisecond))
			x.TookMS = move.T // the last one is a check
		}
		x.Result = hosting.ResultOf(game.Final(state))
		logged[n] = x
	}
	return st.ImportRelease(ctx, store.Release{Entry: store.Anyone(), ActivityID: id, ReleasedBy: m.ID, ReleasedAt: begun.Add(-time.Hour), Form: store.AnActivity, Document: string(doc.Write()),
		Names: hosting.LearnersNames(doc), Semantics: marks.Semantics}, fmt.Sprintf("demo-release-%d", seed), logged)
}

var firstNames = []string{"Ada", "Bako", "Celia", "Dario", "Edda", "Farid", "Gilda", "Hanno", "Ines", "Jarek", "Kim", "Lotte", "Milo", "Nura", "Odo", "Pia", "Quim", "Rosa", "Sami", "Tilda"}
var lastNames = []string{"Achterberg", "Bellamy", "Corvo", "Dahl", "Ekwueme", "Farkas", "Gruber", "Hollis", "Imani", "Jansen", "Kovac"}

// learner is a made-up name; no two of a release are the same.
func learner(n int, seed uint64) string {
	k := n*7 + int(seed)*3
	return fmt.Sprintf("%s %s", firstNames[k%len(firstNames)], lastNames[(k/len(firstNames)+n)%len(lastNames)])
}
