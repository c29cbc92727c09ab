package edit_test

import (
	"fmt"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/say"
)

// More targets than can be told apart are refused, and nothing is made twice.
func TestRepliesForTargetsHaveBounds(t *testing.T) {
	doc := drawers()
	if _, _, err := edit.RepliesForTargets(doc, []string{"a", "b", "c", "d", "e", "f", "g"}); err == nil {
		t.Error("a hundred and twenty-eight replies were made")
	}
	if _, _, err := edit.RepliesForTargets(doc, nil); err == nil {
		t.Error("replies for no target were made")
	}
	once, made, err := edit.RepliesForTargets(doc, []string{"upper"})
	if err != nil || len(made) != 2 || len(doc.Replies) != 0 {
		t.Errorf("%v, %v, and %d in the document that it came from", made, err, len(doc.Replies))
	}
	if twice, made, err := edit.RepliesForTargets(once, []string{"upper"}); err != nil || len(made) != 0 || len(twice.Replies) != 2 {
		t.Errorf("made again: %v (%v)", made, err)
	}
}

// drawers are two targets, without replies.
func drawers() *activity.Doc {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"x",
		"targets":[{"id":"upper","name":"Upper","frame":{"x":0,"y":0,"w":100,"h":100}},{"id":"lower","name":"Lower","frame":{"x":0,"y":200,"w":100,"h":100}}],
		"key":{"solutions":[{}]}}`))
	if faults != nil {
		panic(faults)
	}
	return doc
}

func ExampleRepliesForTargets() {
	doc := drawers()
	edit.AddReply(doc, activity.Reply{ID: "part", Moment: "checked", When: &activity.Condition{Outcome: "part"}})
	doc, made, _ := edit.RepliesForTargets(doc, []string{"upper", "lower"})
	for i := range doc.Replies {
		fmt.Println(say.When(doc, &doc.Replies[i]))
	}
	fmt.Println(len(made))
	// Output:
	// When it is checked and Upper is correct and Lower is correct
	// When it is checked and Upper is correct and Lower is not correct
	// When it is checked and Upper is not correct and Lower is correct
	// When it is checked and Upper is not correct and Lower is not correct
	// When it is checked and some of it is correct
	// 4
}
