// Package activity holds the document that describes one activity: its types,
// strict reading with every fault at once, canonical writing, and its JSON
// Schema. It only reads and holds; placing, answer, marks and play run it.
//
// A document is one JSON object. Each field's rules stand in the tags of its Go
// type, and one reader, one writer and one schema maker follow them:
//
//	Weight int `json:"weight" default:"1" range:"0..1000"`
//
// reads as 1 when the field is left out, is refused outside 0 to 1000, and is
// left out again when it is written as 1. So the Go value always holds the
// number that counts, and writing what was read gives the same bytes each time.
//
// What a reader refuses it names by JSON pointer, all of it in one go:
//
//	doc, faults := activity.Read(body)
//	// /items/3/weight: 2000 is too large: 0 to 1000 is possible
//
// The rules that hold between fields (references, needs that do not overlap,
// orders without a circle) stand in check.go. What the document leaves open,
// this package decides: a polygon without a frame has its bounding box as frame;
// conditions have exactly one form each.
package activity

import (
	"keenmagpie/core/geometry"
	"keenmagpie/core/richtext"
	"slices"
)

// U is a length in hundredths of a board unit.
type U = geometry.U

// Format and Version open every document.
const (
	Format  = "keen-magpie/activity"
	Version = 1
)

// Doc is one activity.
type Doc struct {
	Format       string `json:"format" required:"true" one:"keen-magpie/activity"`
	Version      int    `json:"version" required:"true" range:"1..1"`
	ID           string `json:"id" required:"true" id:"true"`
	Kind         Kind   `json:"kind" default:"\"sort\"" one:"sort|match|sequence|label|gaps|build"`
	Title        string `json:"title" max:"200"`
	Instructions string `json:"instructions" max:"4000"`
	Lang         string `json:"lang" default:"\"en\"" max:"35" lang:"true"`
	// Words take the place of what learners read by themselves in the language:
	// "check", and where a number decides "checksLeft.one" and "checksLeft.other".
	Words   map[string]string `json:"words"`
	Board   Board             `json:"board"`
	Scenery []Scenery         `json:"scenery" max:"500"`
	Items   []Item            `json:"items" max:"500"`
	Targets []Target          `json:"targets" max:"200"`
	// Order is the reading order: ids of parts. What it leaves out follows in
	// document order: scenery, targets, items.
	Order   []string `json:"order" max:"1200"`
	Key     Key      `json:"key" required:"true"`
	Replies []Reply  `json:"replies" max:"500"`
	Hints   []Hint   `json:"hints" max:"99"`
	Play    Play     `json:"play"`
	Marks   Marks    `json:"marks"`
}

// Board is the surface that the learner sees.
type Board struct {
	Width      U          `json:"width" default:"1200" range:"100..10000"`
	Height     U          `json:"height" default:"720" range:"100..10000"`
	Background Background `json:"background"`
	// Check is where the button for checking stands on the board; left out, it stands
	// in the bar.
	Check *geometry.Rect `json:"check"`
	// Theme, left out, is the application's own.
	Theme *Theme `json:"theme"`
}

// Background lies under everything.
type Background struct {
	Color   string `json:"color" colour:"true"`
	Picture string `json:"picture" max:"64" media:"true"`
}

// Part is what every part on the board may say for the editor and the drawing.
type Part struct {
	Group  string `json:"group" max:"64"`
	Pinned bool   `json:"pinned"`
	Hidden bool   `json:"hidden"`
	Z      int    `json:"z" range:"-1000..1000"`
}

// Scenery stands on the board and cannot be dragged. A line or an arrow has two
// ends, everything else a frame.
type Scenery struct {
	ID      string         `json:"id" required:"true" id:"true"`
	Type    SceneryType    `json:"type" required:"true" one:"picture|text|box|ellipse|line|arrow"`
	Frame   *geometry.Rect `json:"frame"`
	From    *Point         `json:"from"`
	To      *Point         `json:"to"`
	Text    string         `json:"text" max:"4000"`
	Picture string         `json:"picture" max:"64" media:"true"`
	Alt     string         `json:"alt" max:"1000"`
	Style   *Style         `json:"style"`
	// Tie is the target that the first end of a line stands at, wherever that goes.
	Tie string `json:"tie" max:"64"`
	Part
}

// Item can be dragged; it has [Item.Copies] pieces.
type Item struct {
	ID         string        `json:"id" required:"true" id:"true"`
	Name       string        `json:"name" max:"200"`
	Text       string        `json:"text" max:"1000"`
	Picture    string        `json:"picture" max:"64" media:"true"`
	Sound      string        `json:"sound" max:"64" media:"true"`
	Transcript string        `json:"transcript" max:"4000"`
	PlaySound  PlaySound     `json:"playSound" default:"\"request\"" one:"request|pick"`
	Alt        string        `json:"alt" max:"1000"`
	Tags       []string      `json:"tags" max:"40"`
	Copies     int           `json:"copies" default:"1" range:"1..99"`
	Size       geometry.Size `json:"size" default:"{\"w\":120,\"h\":64}"`
	Home       *Point        `json:"home"`
	Weight     int           `json:"weight" default:"1" range:"0..1000"`
	Penalty    int           `json:"penalty" range:"0..1000"`
	Looks      *ItemLooks    `json:"looks"`
	// Ghost leaves a faint copy at home.
	Ghost bool `json:"ghost"`
	// OffTarget overrides the one in [Play]; left out, that holds.
	OffTarget OffTarget `json:"offTarget" one:"home|stay" optional:"true"`
	Part
}

// Point is a place on the board.
type Point struct {
	X U `json:"x" required:"true"`
	Y U `json:"y" required:"true"`
}

// Target is where a piece can be put.
type Target struct {
	ID    string        `json:"id" required:"true" id:"true"`
	Name  string        `json:"name" max:"200"`
	Label Label         `json:"label"`
	Frame geometry.Rect `json:"frame"`
	Shape Shape         `json:"shape" default:"\"rect\"" one:"rect|ellipse|polygon"`
	// Points are the corners of a polygon, in board units.
	Points []geometry.Vertex `json:"points" max:"200"`
	// Holds is how many pieces go in; 0, or left out, is no limit.
	Holds    int      `json:"holds" range:"1..999"`
	Lets     Selector `json:"lets" default:"{\"all\":true}"`
	WhenFull WhenFull `json:"whenFull" default:"\"refuse\"" one:"refuse|oust|trade"`
	// Ordered makes it a lane.
	Ordered bool         `json:"ordered"`
	Weight  int          `json:"weight" default:"1" range:"0..1000"`
	Arrange Arrange      `json:"arrange"`
	Looks   *TargetLooks `json:"looks"`
	Shows   Shows        `json:"shows" default:"\"always\"" one:"always|inHand|never"`
	// Alt says what is there, to whoever cannot see the board.
	Alt string `json:"alt" max:"1000"`
	Part
}

// Label is what is written on a target's rim.
type Label struct {
	Text string `json:"text" max:"200"`
	Side Side   `json:"side" default:"\"above\"" one:"above|below|left|right|inside"`
}

// Arrange says where placed pieces stand.
type Arrange struct {
	// As, left out, is grid, and in a lane row or column along its longer side.
	As      As     `json:"as" one:"centre|row|column|grid|pile|ring|asDropped" optional:"true"`
	Anchor  Anchor `json:"anchor" default:"\"centre\"" one:"topLeft|top|topRight|left|centre|right|bottomLeft|bottom|bottomRight"`
	Gap     U      `json:"gap" default:"8" range:"0..1000"`
	Scale   int    `json:"scale" default:"100" range:"1..1000"`
	Opacity int    `json:"opacity" default:"100" range:"0..100"`
	// Step is how far each piece of a pile lies from the one under it.
	Step U `json:"step" default:"6" range:"-1000..1000"`
}

// Selector picks items: all of them, or those named or tagged, but not those
// excepted.
type Selector struct {
	All    bool     `json:"all"`
	Items  []string `json:"items" max:"500"`
	Tags   []string `json:"tags" max:"500"`
	Except []string `json:"except" max:"500"`
}

// Selects reports whether the selector picks the item. Cost: the lengths of its
// lists.
func (s Selector) Selects(it *Item) bool {
	if slices.Contains(s.Except, it.ID) {
		return false
	}
	if s.All || slices.Contains(s.Items, it.ID) {
		return true
	}
	for _, tag := range it.Tags {
		if slices.Contains(s.Tags, tag) {
			return true
		}
	}
	return false
}

// Key is what counts as right.
type Key struct {
	Solutions []Solution `json:"solutions" required:"true" min:"1" max:"50"`
}

// Solution is one whole way to be right.
type Solution struct {
	Name   string              `json:"name" max:"200"`
	Credit int                 `json:"credit" default:"100" range:"1..100"`
	Right  map[string]Selector `json:"right"`
	Needs  []Need              `json:"needs" max:"500"`
	Orders []Order             `json:"orders" max:"200"`
}

// Need is how many of the pieces that are right in a target, and that Of picks,
// must be there.
type Need struct {
	Target string   `json:"target" required:"true"`
	Of     Selector `json:"of" default:"{\"all\":true}"`
	Min    int      `json:"min" range:"0..49500"`
	// Max, left out, is no limit.
	Max *int `json:"max" range:"0..49500"`
}

// Order is the order in which a lane is right: tiers one after the other, each
// in any order within itself, and further pairs of which one comes before the
// other.
type Order struct {
	Target string     `json:"target" required:"true"`
	Tiers  [][]string `json:"tiers" max:"200"`
	Before [][]string `json:"before" max:"256"`
}

// Play says when it is checked, how often, and what a failed check does.
type Play struct {
	Check Checking `json:"check" default:"\"ask\"" one:"each|full|ask|none"`
	// Attempts is how many checks there are; 0 is no limit.
	Attempts    int         `json:"attempts" default:"1" range:"0..999"`
	WrongPieces WrongPieces `json:"wrongPieces" default:"\"stay\"" one:"stay|home"`
	RightPieces RightPieces `json:"rightPieces" default:"\"stay\"" one:"stay|hold|home"`
	Show        Show        `json:"show" default:"\"check\"" one:"never|check|placement"`
	CheckWhen   CheckWhen   `json:"checkWhen" default:"\"any\"" one:"any|allPlaced"`
	OffTarget   OffTarget   `json:"offTarget" default:"\"home\"" one:"home|stay"`
	// Refusals says whether a refusal counts as a wrong placement; with check each.
	Refusals Refusals `json:"refusals" default:"\"free\"" one:"free|count"`
	Deal     Deal     `json:"deal" default:"\"all\"" one:"all|one"`
	Shuffle  bool     `json:"shuffle"`
	// TimeLimit is in milliseconds; 0 is none.
	TimeLimit int `json:"timeLimit" range:"0..86400000"`
	// Extension is the percent of the limit that a learner may be given.
	Extension int              `json:"extension" default:"100" range:"100..1000"`
	Undo      bool             `json:"undo" default:"true"`
	Reset     bool             `json:"reset" default:"true"`
	Restart   bool             `json:"restart"`
	Hit       geometry.HitRule `json:"hit" default:"\"centre\""`
	Reach     U                `json:"reach" range:"0..1000"`
	Review    Review           `json:"review" default:"\"own\"" one:"none|own|key|both"`
	Reenter   Reenter          `json:"reenter" default:"\"resume\"" one:"resume|restart"`
	Beckon    Beckon           `json:"beckon" default:"\"none\"" one:"none|open|right"`
}

// Marks says what it scores.
type Marks struct {
	By       By              `json:"by" default:"\"item\"" one:"item|target|order|whole"`
	Points   U               `json:"points" default:"10" range:"0..1000000"`
	Shares   []int           `json:"shares" default:"[100]" min:"1" max:"99" range:"0..100"`
	HintCost int             `json:"hintCost" range:"0..100"`
	Negative bool            `json:"negative"`
	Keep     Keep            `json:"keep" default:"\"best\"" one:"best|last|first"`
	Measure  Measure         `json:"measure" default:"\"run\"" one:"run|position|pairs|neighbours"`
	Cells    map[string]Cell `json:"cells"`
	Counts   bool            `json:"counts" default:"true"`
	PassMark U               `json:"passMark" range:"-100..100"`
	Bands    []Band          `json:"bands" max:"50"`
	// Examples are sittings whose score the author wants to keep in sight.
	Examples []Example `json:"examples" max:"50"`
}

// Example is a sitting that is kept: what is not possible when it is played again is
// passed over.
type Example struct {
	Name  string `json:"name" max:"200"`
	Seed  int    `json:"seed" range:"0..1000000000"`
	Moves []Act  `json:"moves" max:"2000"`
}

// Act is a learner's move without its number and time.
type Act struct {
	Do     Do     `json:"do" required:"true" one:"place|drop|lift|undo|reset|check|again|restart|hint|timeUp"`
	Piece  string `json:"piece" max:"70"`
	Target string `json:"target" max:"64"`
	Index  *int   `json:"index" range:"0..49500"`
	X      *U     `json:"x" range:"-100000..100000"`
	Y      *U     `json:"y" range:"-100000..100000"`
}

// Cell overrides an item's weight and penalty at one target; nil keeps the
// item's own.
type Cell struct {
	Weight  *int `json:"weight" range:"0..1000"`
	Penalty *int `json:"penalty" range:"0..1000"`
}

// Band names the percents from From on.
type Band struct {
	From U      `json:"from" required:"true" range:"-100..100"`
	Name string `json:"name" max:"200"`
}

// Item finds an item by id, or nil. Cost: O(items).
func (d *Doc) Item(id string) *Item {
	for i := range d.Items {
		if d.Items[i].ID == id {
			return &d.Items[i]
		}
	}
	return nil
}

// Target finds a target by id, or nil. Cost: O(targets).
func (d *Doc) Target(id string) *Target {
	for i := range d.Targets {
		if d.Targets[i].ID == id {
			return &d.Targets[i]
		}
	}
	return nil
}

// LetsIn reports whether the target lets the item in, right or not.
func (t *Target) LetsIn(it *Item) bool { return t.Lets.Selects(it) }

// RightCell reports whether the item counts as right in the target under the
// solution: selected by right, and let in. Where many cells are asked for,
// [Parts] and package answer keep them ready.
func (s *Solution) RightCell(t *Target, it *Item) bool {
	sel, ok := s.Right[t.ID]
	return ok && sel.Selects(it) && t.LetsIn(it)
}

// HasGaps reports whether a text of the board has gaps.
func (d *Doc) HasGaps() bool {
	return slices.ContainsFunc(d.Scenery, func(x Scenery) bool { return len(richtext.Gaps(x.Text)) > 0 })
}
