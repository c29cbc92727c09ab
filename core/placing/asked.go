package placing

import (
	"encoding/json"
	"errors"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// AskOpens answers, in JSON, how a lane makes room for a piece that is held over it; see
// [Opens].
func AskOpens(in []byte) (any, error) {
	var q struct {
		Target struct {
			Frame geometry.Rect    `json:"frame"`
			Shape activity.Shape   `json:"shape"`
			Label activity.Label   `json:"label"`
			Lane  activity.Arrange `json:"lane"`
		} `json:"target"`
		Stands []geometry.Rect `json:"stands"`
		Sizes  []geometry.Size `json:"sizes"`
		Own    int             `json:"own"`
		Size   geometry.Size   `json:"size"`
		X, Y   geometry.U
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	if len(q.Stands) != len(q.Sizes) || q.Own >= len(q.Sizes) {
		return nil, errors.New("each piece of the lane needs its place and its size")
	}
	t := &activity.Target{Frame: q.Target.Frame, Shape: q.Target.Shape, Label: q.Target.Label, Arrange: q.Target.Lane, Ordered: true}
	return Opens(t, q.Stands, q.Sizes, q.Own, q.Size, q.X, q.Y), nil
}

// AskHit answers, in JSON, with the number of the target under a piece, for showing it
// while the piece is in hand; −1 is none.
func AskHit(in []byte) (any, error) {
	var q struct {
		Targets []struct {
			Frame  geometry.Rect     `json:"frame"`
			Shape  activity.Shape    `json:"shape"`
			Points []geometry.Vertex `json:"points"`
		} `json:"targets"`
		X, Y    geometry.U
		Size    geometry.Size `json:"size"`
		Hit     string        `json:"hit"`
		Overlap int           `json:"overlap"`
		Reach   geometry.U    `json:"reach"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	shapes := make([]geometry.Shape, len(q.Targets))
	for i, t := range q.Targets {
		shapes[i] = Shape(&activity.Target{Frame: t.Frame, Shape: t.Shape, Points: t.Points})
	}
	return geometry.Hit(shapes, geometry.HitRule{Rule: q.Hit, Overlap: q.Overlap}, q.X, q.Y, q.Size.W, q.Size.H, q.Reach), nil
}
