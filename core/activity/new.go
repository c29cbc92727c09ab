package activity

import (
	"fmt"
	"reflect"
	"regexp"
	"strings"
)

// Selection names parts of the board, by kind.
type Selection struct {
	Items   []string `json:"items"`
	Targets []string `json:"targets"`
	Scenery []string `json:"scenery"`
}

var notID = regexp.MustCompile(`[^a-z0-9]+`)

// FreshID makes an id of a name that is not among those taken, and takes it.
func FreshID(taken map[string]bool, name string) string {
	base := strings.Trim(notID.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(base) > 56 {
		base = strings.Trim(base[:56], "-")
	}
	if base == "" {
		base = "part"
	}
	id := base
	for n := 2; taken[id]; n++ {
		id = fmt.Sprintf("%s-%d", base, n)
	}
	taken[id] = true
	return id
}

// NewItem is an item with all its defaults, as if it had been read.
func NewItem(id, name string) Item {
	it := fresh[Item]()
	it.ID, it.Name, it.Text = id, name, name
	return it
}

// NewTarget is [NewItem]'s counterpart, with its name as label.
func NewTarget(id, name string) Target {
	t := fresh[Target]()
	t.ID, t.Name, t.Label.Text = id, name, name
	return t
}

// NewScenery is [NewItem]'s counterpart.
func NewScenery(id string, kind SceneryType) Scenery {
	x := fresh[Scenery]()
	x.ID, x.Type = id, kind
	return x
}

// NewReply is [NewItem]'s counterpart, for a moment.
func NewReply(id string, moment Moment) Reply {
	r := fresh[Reply]()
	r.ID, r.Moment = id, moment
	return r
}

// NewPlay is how it plays where nothing is said.
func NewPlay() Play { return fresh[Play]() }

func fresh[T any]() T {
	var v T
	r := reader{shapes: shapes{}}
	r.object("", &object{}, reflect.ValueOf(&v).Elem()) // what is missing is of no matter here
	return v
}
