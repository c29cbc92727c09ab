package proof

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/edit"
	"keenmagpie/core/message"
	"keenmagpie/core/say"
)

func (f *finder) impossible() {
	c := f.Solve().Conflict
	if c == nil {
		return
	}
	items, targets := f.itemNames(c.Items), f.targetNames(c.Targets)
	if len(c.Items) == 0 {
		items = message.Say(english, "part/no-item", nil)
	}
	if len(c.Targets) == 0 {
		targets = message.Say(english, "part/any-target", nil)
	}
	f.add("key-impossible", stop, about{items: c.Items, targets: c.Targets},
		message.P{"solution": f.solutionName(c.Solution), "items": items, "targets": targets})
}

// cells finds what is said to be right where it is not let in, by target.
func (f *finder) cells() {
	for i := range f.doc.Key.Solutions {
		for t := range f.doc.Targets {
			target := &f.doc.Targets[t]
			sel, ok := f.doc.Key.Solutions[i].Right[target.ID]
			if !ok {
				continue
			}
			var items []string
			for item, picked := range f.parts.Picks(sel) {
				if picked && !f.parts.LetsIn(t, item) {
					items = append(items, f.doc.Items[item].ID)
				}
			}
			if len(items) == 0 {
				continue
			}
			f.add("right-not-let-in", warn, about{items: items, targets: []string{target.ID}},
				message.P{"items": f.itemNames(items), "target": f.targetName(target.ID), "solution": f.solutionName(i)},
				mend{"accept", nil, func(d *activity.Doc) {
					out, _ := edit.SetCells(d, -1, items, []string{target.ID}, true)
					*d = *out
				}})
		}
	}
}

// room finds targets that hold fewer pieces than can only go there, and needs for
// more than there is.
func (f *finder) room() {
	told := map[string]bool{}
	for i, s := range f.solutions {
		only := make([]int, len(f.doc.Targets)) // pieces that can only go here
		for item := range f.doc.Items {
			at, places := 0, 0
			for t := range f.doc.Targets {
				if s.RightCell(t, item) {
					at, places = t, places+1
				}
			}
			if places == 1 && s.Needed(item) {
				only[at] += f.doc.Items[item].Copies
			}
		}
		for t, n := range only {
			target := &f.doc.Targets[t]
			if target.Holds == 0 || n <= target.Holds || told[target.ID] {
				continue
			}
			told[target.ID] = true
			f.add("too-few-places", stop, about{targets: []string{target.ID}},
				message.P{"target": f.targetName(target.ID), "holds": target.Holds, "n": n, "solution": f.solutionName(i)},
				mend{"capacity", message.P{"n": n}, func(d *activity.Doc) { d.Target(target.ID).Holds = n }})
		}
		for k, n := range s.Needs() {
			pieces := 0
			for _, item := range s.ItemsAt(n.Target) {
				if s.CountedBy(n.Target, item) == k {
					pieces += f.doc.Items[item].Copies
				}
			}
			id := f.doc.Targets[n.Target].ID
			holds := f.doc.Targets[n.Target].Holds
			switch {
			case n.Least > pieces:
				f.add("need-beyond", stop, about{targets: []string{id}},
					message.P{"target": f.targetName(id), "n": n.Least, "solution": f.solutionName(i), "pieces": pieces},
					mend{"require", message.P{"n": pieces}, func(d *activity.Doc) { d.Key.Solutions[i].Needs[k].Min = pieces }})
			case holds > 0 && n.Least > holds:
				f.add("need-beyond/holds", stop, about{targets: []string{id}},
					message.P{"target": f.targetName(id), "n": n.Least, "solution": f.solutionName(i), "holds": holds},
					mend{"capacity", message.P{"n": n.Least}, func(d *activity.Doc) { d.Target(id).Holds = n.Least }})
			}
		}
	}
}

// nowhere finds distractors, once, and targets where nothing is right.
func (f *finder) nowhere() {
	if items := answer.Nowhere(f.parts); len(items) > 0 {
		f.add("distractor", info, about{items: items}, message.P{"items": f.itemNames(items), "n": len(items)})
	}
	for t := range f.doc.Targets {
		if !slices.ContainsFunc(f.solutions, func(s *answer.Solution) bool { return len(s.ItemsAt(t)) > 0 }) {
			id := f.doc.Targets[t].ID
			f.add("nothing-right-here", warn, about{targets: []string{id}}, message.P{"target": f.targetName(id)})
		}
	}
}

// unneeded finds copies that no valid arrangement has room for, and items that no
// need asks for.
func (f *finder) unneeded() {
	for item := range f.doc.Items {
		it := &f.doc.Items[item]
		most, right, asked := 0, false, false
		for _, s := range f.solutions {
			n, ok := s.Available(func(i, _ int) int {
				if i == item {
					return 1
				}
				return 0
			})
			if ok {
				most = max(most, n)
			}
			for t := range f.doc.Targets {
				if !s.RightCell(t, item) {
					continue
				}
				right = true
				k := s.CountedBy(t, item)
				asked = asked || s.Needed(item) || k >= 0 && s.Needs()[k].Least > 0
			}
		}
		switch {
		case !right || !f.Solve().Solvable:
		case !asked:
			f.add("not-required", info, about{items: []string{it.ID}}, message.P{"item": f.itemName(it.ID)})
		case most < it.Copies:
			f.add("copies-not-required", warn, about{items: []string{it.ID}},
				message.P{"item": f.itemName(it.ID), "n": it.Copies, "most": most},
				mend{"copies", message.P{"n": max(1, most)}, func(d *activity.Doc) { d.Item(it.ID).Copies = max(1, most) }})
		}
	}
}

// lanes finds those that keep an order and have none.
func (f *finder) lanes() {
	for t := range f.doc.Targets {
		target := &f.doc.Targets[t]
		if !target.Ordered {
			continue
		}
		for i, s := range f.solutions {
			if s.Lane(t) == nil && len(s.ItemsAt(t)) > 1 {
				f.add("any-order", info, about{targets: []string{target.ID}}, message.P{"target": f.targetName(target.ID), "solution": f.solutionName(i)})
			}
		}
	}
}

// bouncing finds activities that tell everything to those who just try.
func (f *finder) bouncing() {
	play := &f.doc.Play
	all := activity.Selector{All: true}
	if play.Check == activity.CheckingEach && play.Attempts == 0 && play.WrongPieces == activity.WrongPiecesHome {
		f.add("all-by-trying", info, about{}, nil)
		return
	}
	if play.Attempts > 0 && play.Check == activity.CheckingEach && play.Refusals == activity.RefusalsCount || len(f.doc.Targets) < 2 {
		return
	}
	away := false
	for t := range f.doc.Targets {
		for item := range f.doc.Items {
			right := slices.ContainsFunc(f.solutions, func(s *answer.Solution) bool { return s.RightCell(t, item) })
			if f.parts.LetsIn(t, item) != right {
				return
			}
			away = away || !right
		}
	}
	if away {
		f.add("all-by-bouncing", warn, about{}, nil, mend{"accept-everything", nil, func(d *activity.Doc) {
			for t := range d.Targets {
				d.Targets[t].Lets = all
			}
		}})
	}
}

// everythingIn finds activities that are solved by putting every piece somewhere, though
// some need not be.
func (f *finder) everythingIn() {
	all := f.Solve().EverythingIn
	if all == nil || !all.Valid && !all.Full || !f.leavesSome() {
		return
	}
	if all.Valid {
		f.add("everything-in", info, about{}, nil)
		return
	}
	f.add("everything-in/points", info, about{}, nil,
		mend{"penalties", nil, func(d *activity.Doc) {
			for i := range d.Items {
				d.Items[i].Penalty = max(1, d.Items[i].Penalty)
			}
		}},
		mend{"whole", nil, func(d *activity.Doc) { d.Marks.By = activity.ByWhole }})
}

// tags finds selectors that wait for a tag that nobody has.
func (f *finder) tags() {
	has := map[string]bool{}
	for i := range f.doc.Items {
		for _, tag := range f.doc.Items[i].Tags {
			has[tag] = true
		}
	}
	missing := map[string][]string{} // tag: targets
	var order []string
	look := func(sel activity.Selector, target string) {
		for _, tag := range sel.Tags {
			if has[tag] {
				continue
			}
			if missing[tag] == nil {
				order = append(order, tag)
			}
			if !slices.Contains(missing[tag], target) {
				missing[tag] = append(missing[tag], target)
			}
		}
	}
	for i := range f.doc.Targets {
		t := &f.doc.Targets[i]
		look(t.Lets, t.ID)
		for k := range f.doc.Key.Solutions {
			s := &f.doc.Key.Solutions[k]
			look(s.Right[t.ID], t.ID)
			for _, n := range s.Needs {
				if n.Target == t.ID {
					look(n.Of, t.ID)
				}
			}
		}
	}
	for _, tag := range order {
		f.add("tag-unknown", warn, about{targets: missing[tag]},
			message.P{"targets": f.targetNames(missing[tag]), "tag": tag},
			mend{"drop-tag", nil, func(d *activity.Doc) { edit.DropTag(d, tag) }})
	}
}

// playing finds rules of play that do not go together.
func (f *finder) playing() {
	play := &f.doc.Play
	if play.Beckon == activity.BeckonRight {
		f.add("beckons-right", warn, about{}, nil,
			mend{"highlight-accepting", nil, func(d *activity.Doc) { d.Play.Beckon = activity.BeckonOpen }})
	}
	if play.TimeLimit > 0 && play.Extension <= 100 {
		f.add("no-extension", warn, about{}, nil, mend{"double-time", nil, func(d *activity.Doc) { d.Play.Extension = 200 }})
	}
	for i := range f.doc.Replies {
		r := &f.doc.Replies[i]
		without := func(what string) func(*activity.Doc) {
			return func(d *activity.Doc) {
				d.Replies[i].Offer = slices.DeleteFunc(d.Replies[i].Offer, func(o string) bool { return o == what })
			}
		}
		if slices.Contains(r.Offer, "restart") && !play.Restart {
			f.add("restart-forbidden", warn, about{replies: []string{r.ID}}, message.P{"reply": say.Reply(f.doc, r)},
				mend{"allow-restart", nil, func(d *activity.Doc) { d.Play.Restart = true }},
				mend{"drop-offer", nil, without("restart")})
		}
		if !slices.Contains(r.Offer, "again") {
			continue
		}
		if r.Moment != activity.MomentDone && r.Moment != activity.MomentTimeUp && !(play.Attempts == 1 && r.Moment == activity.MomentChecked) {
			continue
		}
		f.add("again-not-left", warn, about{replies: []string{r.ID}}, message.P{"reply": say.Reply(f.doc, r)},
			mend{"drop-offer", nil, without("again")})
	}
}
