package hosting

import (
	"strings"
	"testing"

	"keenmagpie/core/play"
	"keenmagpie/formats/table"
)

// A learner's ids say nothing, lead back to the author's, and no others do.
func TestNames(t *testing.T) {
	doc := table.Read("Chain\tDrivetrain\nBell", nil).Sort("Parts")
	doc.Items[0].Copies = 3
	n := newNames(doc, random)
	again, err := readNames(n.String())
	if err != nil {
		t.Fatal(err)
	}
	p, target := n.Piece("chain~3"), n.Target("drivetrain")
	if strings.Contains(p+target, "chain") || strings.Contains(p+target, "drive") || !strings.HasSuffix(p, "~3") {
		t.Errorf("the learner knows %s and %s", p, target)
	}
	if m := again.move(play.Move{Do: "place", Piece: p, Target: target}); m.Piece != "chain~3" || m.Target != "drivetrain" {
		t.Errorf("they lead back to %s and %s", m.Piece, m.Target)
	}
	for _, own := range []string{"chain", "drivetrain", "p0000000000", "~2", "?"} {
		m := again.move(play.Move{Do: "place", Piece: own, Target: own})
		if doc.Target(m.Target) != nil || doc.Item(m.Piece) != nil {
			t.Errorf("%q is taken as an id: %+v", own, m)
		}
	}
	if newNames(doc, random).Piece("bell") == n.Piece("bell") {
		t.Error("two releases know a piece by the same id")
	}
}
