package edit

import (
	"cmp"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// english says what acts took away with them, what else they changed, and why they cannot
// be done, by code; the form is that of [message.Line]. What was lost is a part of a
// sentence, as several such things are told in one.
var english = map[string]string{
	"lost-cells":   "{n, plural, one {# correct cell} other {# correct cells}}",
	"lost-marks":   "the marks of {item} in {target}",
	"lost-needs":   "{n, plural, one {# need or order} other {# needs and orders}}",
	"lost-order":   "the order in {target}",
	"lost-pairs":   "pairs of before",
	"lost-replies": "{n, plural, one {# reply} other {# replies}}",

	"cells-count-no-more":  "{n, plural, one {One correct cell no longer counts, since its item is not accepted there} other {# correct cells no longer count, since their items are not accepted there}}.",
	"default-replies-gone": "The default feedback for a check is gone: it would never be shown behind these.",
	"holds-more":           "{target} held {before}, and now holds {n}.",
	"no-order-set":         "No order was set: {why}.",
	"preset":               "Set for {preset}: {says}.",
	"spot-found":           "“{item}” belongs in {target}.",
	"spot-found-next":      "“{item}” belongs in {target}. Next: “{next}”.",

	"circle":                "circular order: {items}",
	"combinations":          "{n} targets were chosen; a reply for each combination is possible with 1 to 6",
	"lane-copies":           "{item} has {n} pieces; in an order every item has one",
	"lane-elsewhere":        "{item} is correct in {target} as well, and with an order it can be correct in its lane alone",
	"lane-needed":           "{item} is counted by a need, and cannot have a place in an order as well",
	"lane-needs-all":        "{target} keeps an order, in which all its items are needed; remove the order first",
	"many-pairs":            "with pairs of before, an order has at most {most} items, and this has {n}",
	"more-than-an-exchange": "what is shown differs from the answer key by more than an exchange",
	"nothing-correct":       "nothing is correct in {target} yet",
	"nothing-on-board":      "none of this stands on the board: move pieces onto it first",
	"order-impossible":      "this order isn’t possible here",
}

// Say says something about an act by its code.
func Say(code string, params message.P) message.Sentence { return message.Say(english, code, params) }

// refused is why something cannot be.
func refused(code string, params message.P) *message.Sentence {
	said := Say(code, params)
	return &said
}

func itemName(it *activity.Item) string { return cmp.Or(it.Name, it.ID) }

func targetName(t *activity.Target) string { return cmp.Or(t.Name, t.ID) }
