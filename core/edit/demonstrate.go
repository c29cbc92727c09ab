package edit

import (
	"fmt"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
)

// Shown is an arrangement put on the board to say what is right: the pieces in each
// target, in order.
type Shown map[string][]string

// Demonstrable is the document made to demonstrate on: everything is let in, targets
// hold any number and are seen, a piece stays where it is put down, and nothing is
// judged or said.
func Demonstrable(d *activity.Doc) *activity.Doc {
	out := d.Clone()
	for i := range out.Targets {
		t := &out.Targets[i]
		t.Holds, t.Lets, t.Shows = 0, activity.Selector{All: true}, activity.ShowsAlways
	}
	for i := range out.Items {
		out.Items[i].OffTarget = ""
	}
	out.Key = activity.Key{Solutions: []activity.Solution{{Credit: 100}}}
	out.Replies, out.Hints, out.Marks.Cells = nil, nil, nil
	hit, reach := out.Play.Hit, out.Play.Reach
	out.Play = activity.NewPlay()
	out.Play.Hit, out.Play.Reach = hit, reach
	out.Play.Check, out.Play.OffTarget = activity.CheckingNone, activity.OffTargetStay
	return out
}

// Against reports whether a demonstration has an item where it is not right under a
// solution, though it is right elsewhere: then it can be meant in several ways.
func Against(d *activity.Doc, solution int, shown Shown) bool {
	s := &d.Key.Solutions[solution]
	for target, pieces := range shown {
		for _, p := range pieces {
			here, elsewhere := false, false
			for i := range d.Targets {
				if it := d.Item(itemOfPiece(p)); it != nil && s.RightCell(&d.Targets[i], it) {
					here = here || d.Targets[i].ID == target
					elsewhere = true
				}
			}
			if elsewhere && !here {
				return true
			}
		}
	}
	return false
}

// Exchange is what a demonstration and a solution differ by, where that is only
// which of some items are in which of some targets: either of these will do.
type Exchange struct {
	Items   []string       `json:"items"`
	Targets []string       `json:"targets"`
	Each    map[string]int `json:"each"` // by target: how many of them are there
}

func itemOfPiece(piece string) string {
	id, _, _ := strings.Cut(piece, "~")
	return id
}

// FindExchange compares a demonstration with what is right under a solution: nil where
// they agree, or differ by more than an exchange. Items count that are right in one
// target and have one piece.
func FindExchange(d *activity.Doc, solution int, shown Shown) *Exchange {
	s := &d.Key.Solutions[solution]
	where := map[string]string{} // item: target, in the demonstration
	for t, pieces := range shown {
		for _, p := range pieces {
			where[itemOfPiece(p)] = t
		}
	}
	x := Exchange{Each: map[string]int{}}
	was := map[string]int{}
	for i := range d.Items {
		it := &d.Items[i]
		var right []string
		for j := range d.Targets {
			if s.RightCell(&d.Targets[j], it) {
				right = append(right, d.Targets[j].ID)
			}
		}
		at, is := where[it.ID]
		if it.Copies > 1 || len(right) > 1 {
			if is && !slices.Contains(right, at) {
				return nil
			}
			continue
		}
		if len(right) == 1 && is && right[0] == at || len(right) == 0 && !is {
			continue
		}
		x.Items = append(x.Items, it.ID)
		for _, t := range append(right, at) {
			if t != "" && !slices.Contains(x.Targets, t) {
				x.Targets = append(x.Targets, t)
			}
		}
		if len(right) > 0 {
			was[right[0]]++
		}
		if is {
			x.Each[at]++
		}
	}
	for _, t := range x.Targets {
		if target := d.Target(t); x.Each[t] == 0 || x.Each[t] != was[t] || target == nil || target.Ordered {
			return nil
		}
	}
	if len(x.Items) < 2 {
		return nil
	}
	return &x
}

// Counted is a document in which a demonstration counts as right, under which of its
// solutions; what went with that, and, in sentences, what else had to change.
type Counted struct {
	Doc        *activity.Doc
	Solution   int
	Lost, Told []message.Sentence
}

// CountRight makes a demonstration right under a solution: "instead" of what was
// right for the items that are shown, as "either" of the items that Exchange names,
// or, with "another", in a solution of its own. Lanes take the order shown. Targets
// let in what is right there, and hold what was put there.
func CountRight(d *activity.Doc, solution int, shown Shown, how string) (*Counted, error) {
	c := &Counted{Doc: d, Solution: solution}
	ask := func(items []string, target string, n int) error {
		out, lost, err := Ask(c.Doc, c.Solution, items, []string{target}, Asking{HowExactly, n})
		c.Doc, c.Lost = out, append(c.Lost, lost...)
		return err
	}
	if how == "either" {
		x := FindExchange(d, solution, shown)
		if x == nil {
			return nil, Say("more-than-an-exchange", nil)
		}
		for _, t := range x.Targets {
			if err := ask(x.Items, t, x.Each[t]); err != nil {
				return nil, err
			}
		}
		return c, nil
	}
	out := d.Clone()
	if how == "another" {
		c.Solution = len(out.Key.Solutions)
		out.Key.Solutions = append(out.Key.Solutions, activity.Solution{Name: fmt.Sprintf("Way %d", c.Solution+1), Credit: 100, Right: map[string]activity.Selector{}})
	}
	var rows []Row
	count := map[string]map[string]int{} // item, target
	for i := range out.Targets {
		t := &out.Targets[i]
		if n := len(shown[t.ID]); t.Holds > 0 && n > t.Holds {
			c.Told = append(c.Told, Say("holds-more", message.P{"target": targetName(t), "before": t.Holds, "n": n}))
			t.Holds = n
		}
		for _, p := range shown[t.ID] {
			id := itemOfPiece(p)
			if count[id] == nil {
				count[id] = map[string]int{}
			}
			count[id][t.ID]++
		}
	}
	for i := range out.Items {
		id := out.Items[i].ID
		if count[id] == nil {
			continue
		}
		r := Row{Item: id}
		for j := range out.Targets {
			if t := out.Targets[j].ID; count[id][t] > 0 {
				r.Targets = append(r.Targets, t)
			}
		}
		rows = append(rows, r)
	}
	c.Doc, c.Lost = out, PutRight(out, c.Solution, rows)
	// Pieces of one item that are not all in one target: so many in each.
	for _, r := range rows {
		if len(r.Targets) == 1 && count[r.Item][r.Targets[0]] == out.Item(r.Item).Copies {
			continue
		}
		for _, t := range r.Targets {
			if err := ask([]string{r.Item}, t, count[r.Item][t]); err != nil {
				return nil, err
			}
		}
	}
	for i := range d.Targets {
		t := &d.Targets[i]
		if !t.Ordered || len(shown[t.ID]) < 2 {
			continue
		}
		o := activity.Order{}
		for _, p := range shown[t.ID] {
			o.Tiers = append(o.Tiers, []string{itemOfPiece(p)})
		}
		if ordered, err := SetOrder(c.Doc, c.Solution, t.ID, &o); err == nil {
			c.Doc = ordered
		} else {
			c.Told = append(c.Told, Say("no-order-set", message.P{"why": err.Error()}))
		}
	}
	return c, nil
}

// Spot is where a piece was set down on the bare board.
type Spot struct {
	Item  string        `json:"item"`
	Frame geometry.Rect `json:"frame"`
}

// TargetsHere makes a target of each spot, as large as the piece that lies there,
// which is right there under the solution. Their names give nothing away.
func TargetsHere(d *activity.Doc, solution int, spots []Spot, shows activity.Shows) (out *activity.Doc, made activity.Selection) {
	names := make([]string, len(spots))
	for i := range names {
		names[i] = fmt.Sprintf("Spot %d", len(d.Targets)+i+1)
	}
	out, made = AddTargets(d, names)
	var rows []Row
	for i, id := range made.Targets {
		t := out.Target(id)
		t.Frame, t.Holds, t.Label.Text = spots[i].Frame, 1, ""
		t.Frame.X = max(0, min(t.Frame.X, out.Board.Width-t.Frame.W))
		t.Frame.Y = max(0, min(t.Frame.Y, out.Board.Height-t.Frame.H))
		if shows != "" {
			t.Shows = shows
		}
		k := slices.IndexFunc(rows, func(r Row) bool { return r.Item == spots[i].Item })
		if k < 0 {
			rows = append(rows, Row{Item: spots[i].Item})
			k = len(rows) - 1
		}
		rows[k].Targets = append(rows[k].Targets, id)
	}
	// What was right elsewhere stays so.
	for k := range rows {
		it := out.Item(rows[k].Item)
		for j := range out.Targets {
			if t := &out.Targets[j]; it != nil && out.Key.Solutions[solution].RightCell(t, it) && !slices.Contains(rows[k].Targets, t.ID) {
				rows[k].Targets = append(rows[k].Targets, t.ID)
			}
		}
	}
	out, _ = RightIn(out, solution, rows)
	return out, made
}
