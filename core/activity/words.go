package activity

// The words of the document that are one of a few. Each type has the words of the tag `one` of
// the fields of that type, which is what is read and what the schema says.

// Kind is the kind of work that an activity starts from.
type Kind string

const (
	KindSort     Kind = "sort"
	KindMatch    Kind = "match"
	KindSequence Kind = "sequence"
	KindLabel    Kind = "label"
	KindGaps     Kind = "gaps"
	KindBuild    Kind = "build"
)

// SceneryType is what a piece of scenery is.
type SceneryType string

const (
	SceneryTypePicture SceneryType = "picture"
	SceneryTypeText    SceneryType = "text"
	SceneryTypeBox     SceneryType = "box"
	SceneryTypeEllipse SceneryType = "ellipse"
	SceneryTypeLine    SceneryType = "line"
	SceneryTypeArrow   SceneryType = "arrow"
)

// PlaySound is when the sound of an item is heard.
type PlaySound string

const (
	PlaySoundRequest PlaySound = "request"
	PlaySoundPick    PlaySound = "pick"
)

// OffTarget is what becomes of a piece that is put down outside.
type OffTarget string

const (
	OffTargetHome OffTarget = "home"
	OffTargetStay OffTarget = "stay"
)

// Shape is the outline of a target or of a drawn piece.
type Shape string

const (
	ShapeRect    Shape = "rect"
	ShapeEllipse Shape = "ellipse"
	ShapePolygon Shape = "polygon"
)

// WhenFull is what a full target does with one piece more.
type WhenFull string

const (
	WhenFullRefuse WhenFull = "refuse"
	WhenFullOust   WhenFull = "oust"
	WhenFullTrade  WhenFull = "trade"
)

// Shows is when a target is drawn.
type Shows string

const (
	ShowsAlways Shows = "always"
	ShowsInHand Shows = "inHand"
	ShowsNever  Shows = "never"
)

// Side is where a label stands.
type Side string

const (
	SideAbove  Side = "above"
	SideBelow  Side = "below"
	SideLeft   Side = "left"
	SideRight  Side = "right"
	SideInside Side = "inside"
)

// As is how placed pieces are arranged.
type As string

const (
	AsCentre    As = "centre"
	AsRow       As = "row"
	AsColumn    As = "column"
	AsGrid      As = "grid"
	AsPile      As = "pile"
	AsRing      As = "ring"
	AsAsDropped As = "asDropped"
)

// Anchor is where in a target its pieces stand.
type Anchor string

const (
	AnchorTopLeft     Anchor = "topLeft"
	AnchorTop         Anchor = "top"
	AnchorTopRight    Anchor = "topRight"
	AnchorLeft        Anchor = "left"
	AnchorCentre      Anchor = "centre"
	AnchorRight       Anchor = "right"
	AnchorBottomLeft  Anchor = "bottomLeft"
	AnchorBottom      Anchor = "bottom"
	AnchorBottomRight Anchor = "bottomRight"
)

// Checking is when it is checked.
type Checking string

const (
	CheckingEach Checking = "each"
	CheckingFull Checking = "full"
	CheckingAsk  Checking = "ask"
	CheckingNone Checking = "none"
)

// WrongPieces is what becomes of wrong pieces after a check.
type WrongPieces string

const (
	WrongPiecesStay WrongPieces = "stay"
	WrongPiecesHome WrongPieces = "home"
)

// RightPieces is what becomes of correct pieces after a check.
type RightPieces string

const (
	RightPiecesStay RightPieces = "stay"
	RightPiecesHold RightPieces = "hold"
	RightPiecesHome RightPieces = "home"
)

// Show is when learners see what is correct.
type Show string

const (
	ShowNever     Show = "never"
	ShowCheck     Show = "check"
	ShowPlacement Show = "placement"
)

// CheckWhen is what must be placed before a check.
type CheckWhen string

const (
	CheckWhenAny       CheckWhen = "any"
	CheckWhenAllPlaced CheckWhen = "allPlaced"
)

// Refusals is whether a refusal counts as a wrong placement.
type Refusals string

const (
	RefusalsFree  Refusals = "free"
	RefusalsCount Refusals = "count"
)

// Deal is how many pieces are dealt at once.
type Deal string

const (
	DealAll Deal = "all"
	DealOne Deal = "one"
)

// Review is what can be looked at afterwards.
type Review string

const (
	ReviewNone Review = "none"
	ReviewOwn  Review = "own"
	ReviewKey  Review = "key"
	ReviewBoth Review = "both"
)

// Reenter is what coming back does.
type Reenter string

const (
	ReenterResume  Reenter = "resume"
	ReenterRestart Reenter = "restart"
)

// Beckon is which targets are highlighted while a piece is in hand.
type Beckon string

const (
	BeckonNone  Beckon = "none"
	BeckonOpen  Beckon = "open"
	BeckonRight Beckon = "right"
)

// By is what the points are given for.
type By string

const (
	ByItem   By = "item"
	ByTarget By = "target"
	ByOrder  By = "order"
	ByWhole  By = "whole"
)

// Keep is which attempt counts.
type Keep string

const (
	KeepBest  Keep = "best"
	KeepLast  Keep = "last"
	KeepFirst Keep = "first"
)

// Measure is how near an order is to the right one.
type Measure string

const (
	MeasureRun        Measure = "run"
	MeasurePosition   Measure = "position"
	MeasurePairs      Measure = "pairs"
	MeasureNeighbours Measure = "neighbours"
)

// Do is what a move does.
type Do string

const (
	DoPlace   Do = "place"
	DoDrop    Do = "drop"
	DoLift    Do = "lift"
	DoUndo    Do = "undo"
	DoReset   Do = "reset"
	DoCheck   Do = "check"
	DoAgain   Do = "again"
	DoRestart Do = "restart"
	DoHint    Do = "hint"
	DoTimeUp  Do = "timeUp"
)

// Crop is how a picture is cut.
type Crop string

const (
	CropNone  Crop = "none"
	CropRound Crop = "round"
)

// Align is how text is aligned.
type Align string

const (
	AlignLeft   Align = "left"
	AlignCentre Align = "centre"
	AlignRight  Align = "right"
)

// Motion is how a piece moves when it is placed.
type Motion string

const (
	MotionNone   Motion = "none"
	MotionSettle Motion = "settle"
	MotionTurn   Motion = "turn"
	MotionFade   Motion = "fade"
)

// SignAt is where on a part its sign stands.
type SignAt string

const (
	SignAtCorner SignAt = "corner"
	SignAtMiddle SignAt = "middle"
	SignAtBelow  SignAt = "below"
	SignAtAll    SignAt = "all"
)

// Moment is when a reply may be given.
type Moment string

const (
	MomentOpened  Moment = "opened"
	MomentPlaced  Moment = "placed"
	MomentChecked Moment = "checked"
	MomentHinted  Moment = "hinted"
	MomentTimeUp  Moment = "timeUp"
	MomentDone    Moment = "done"
	MomentReview  Moment = "review"
)

// Tone is the tone of a reply.
type Tone string

const (
	ToneRight Tone = "right"
	ToneNear  Tone = "near"
	ToneWrong Tone = "wrong"
	TonePlain Tone = "plain"
)

// Spot is where a reply is shown.
type Spot string

const (
	SpotEdge   Spot = "edge"
	SpotPiece  Spot = "piece"
	SpotTarget Spot = "target"
	SpotCard   Spot = "card"
	SpotFrame  Spot = "frame"
	SpotBoard  Spot = "board"
)

// Until is how long a reply is shown.
type Until string

const (
	UntilMove   Until = "move"
	UntilCheck  Until = "check"
	UntilClosed Until = "closed"
	UntilStays  Until = "stays"
)

// SayLayout is where the picture of a reply stands, seen from its text.
type SayLayout string

const (
	SayLayoutAbove  SayLayout = "above"
	SayLayoutBeside SayLayout = "beside"
	SayLayoutBelow  SayLayout = "below"
)

// Result is what came of a placement.
type Result string

const (
	ResultRight   Result = "right"
	ResultWrong   Result = "wrong"
	ResultRefused Result = "refused"
	ResultKept    Result = "kept"
)

// Is is how an item or a target stands.
type Is string

const (
	IsHome  Is = "home"
	IsRight Is = "right"
	IsWrong Is = "wrong"
	IsPart  Is = "part"
	IsEmpty Is = "empty"
)

// Outcome is what came of a check.
type Outcome string

const (
	OutcomeRight Outcome = "right"
	OutcomePart  Outcome = "part"
	OutcomeWrong Outcome = "wrong"
)

// Again is what of a series can be done once more.
type Again string

const (
	AgainNone  Again = "none"
	AgainAll   Again = "all"
	AgainWrong Again = "wrong"
)

// MoveOn is when a step leads on.
type MoveOn string

const (
	MoveOnFree  MoveOn = "free"
	MoveOnDone  MoveOn = "done"
	MoveOnRight MoveOn = "right"
)

// Font is a family of type.
type Font string

const (
	FontText    Font = "text"
	FontHeading Font = "heading"
	FontSerif   Font = "serif"
	FontFixed   Font = "fixed"
)

// PieceForm is the corners of pieces.
type PieceForm string

const (
	PieceFormCut   PieceForm = "cut"
	PieceFormNotch PieceForm = "notch"
	PieceFormRound PieceForm = "round"
)
