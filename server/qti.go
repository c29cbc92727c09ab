package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/reply"
	"keenmagpie/formats/qti"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// QTIItem is an activity that can be made of an item.
type QTIItem struct {
	N       int        `json:"n" doc:"Its number in the file, by which it is chosen"`
	Title   string     `json:"title"`
	Kind    string     `json:"kind"`
	Items   int        `json:"items"`
	Targets int        `json:"targets"`
	Points  string     `json:"points"`
	Face    play.Scene `json:"face" doc:"The board, without its pictures: they are kept with what is chosen"`
	Right   []QTIRight `json:"right" nullable:"false" doc:"By the first solution"`
	Ways    int        `json:"ways" doc:"How many solutions there are"`
	Notes   []qti.Note `json:"notes" nullable:"false" doc:"What was understood only in part"`
}

// QTIRight is what is right in a target.
type QTIRight struct {
	Target string   `json:"target"`
	Items  []string `json:"items" nullable:"false"`
}

// QTILook is what can be made of a file, and what was left out.
type QTILook struct {
	Items []QTIItem  `json:"items" nullable:"false"`
	Left  []qti.Note `json:"left" nullable:"false" doc:"What was left out"`
}

type qtiLookOutput struct{ Body QTILook }

type qtiInput struct {
	Name    string `query:"name" maxLength:"200"`
	RawBody []byte `contentType:"application/octet-stream"`
}

type qtiChosenInput struct {
	Chosen  string `query:"chosen" maxLength:"20000" doc:"Numbers of those that are made, from 0, as 0,3"`
	Name    string `query:"name" maxLength:"200"`
	RawBody []byte `contentType:"application/octet-stream"`
}

type qtiMadeOutput struct {
	Body struct {
		Activities []Imported `json:"activities" nullable:"false"`
	}
}

func (s *Server) qtiRoutes() {
	designer(s, heavy(operation(http.MethodPost, "/api/qti/look", "lookAtQTI", "What can be made of an item or a package of QTI, and what is left out; nothing is kept"), qti.MostPackage),
		func(ctx context.Context, _ store.Member, in *qtiInput) (*qtiLookOutput, error) {
			made, notes, err := readQTI(ctx, in.RawBody, in.Name)
			if err != nil {
				return nil, err
			}
			out := &qtiLookOutput{QTILook{Items: []QTIItem{}, Left: []qti.Note{}}}
			of := map[string]int{}
			for n, x := range made {
				if x.Doc == nil {
					continue
				}
				of[x.Source] = len(out.Body.Items)
				out.Body.Items = append(out.Body.Items, looked(n, x.Doc))
			}
			for _, note := range notes {
				if n, ok := of[note.Source]; ok {
					out.Body.Items[n].Notes = append(out.Body.Items[n].Notes, note)
				} else {
					out.Body.Left = append(out.Body.Left, note)
				}
			}
			return out, nil
		})
	designer(s, heavy(created(operation(http.MethodPost, "/api/qti", "importQTI", "Make activities of chosen items of QTI, all of them or none")), qti.MostPackage), s.importQTI)
	designer(s, heavy(operation(http.MethodGet, "/api/releases/{id}/qti", "exportQTI", "A release as a package of QTI 3.0, with its key"), 0),
		func(ctx context.Context, m store.Member, in *idInput) (*huma.StreamResponse, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			b, _, err := s.hosting.Content(ctx, r)
			if err != nil {
				return nil, err
			}
			var body bytes.Buffer
			if _, err := qti.Package(&body, b); err != nil {
				return nil, err
			}
			return download("application/zip", b.ID()+"-qti.zip", func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
		})
}

// readQTI reads a file that was sent.
func readQTI(ctx context.Context, body []byte, name string) ([]qti.Imported, []qti.Note, error) {
	made, notes, err := qti.Read(ctx, body, qti.Source{Name: name}, nil)
	var bad *qti.Bad
	if errors.As(err, &bad) {
		return nil, nil, &Problem{Status: 422, Code: "bad-qti", Detail: fmt.Sprintf("This file was refused: line %d, %s. Nothing was imported.", bad.Line, bad.Why)}
	}
	return made, notes, err
}

// looked is an activity as it is shown before it is made.
func looked(n int, doc *activity.Doc) QTIItem {
	out := QTIItem{N: n, Title: doc.Title, Kind: doc.Kind, Items: len(doc.Items), Targets: len(doc.Targets), Points: doc.Marks.Points.String(), Right: []QTIRight{}, Ways: len(doc.Key.Solutions), Notes: []qti.Note{}}
	parts := activity.NewParts(doc)
	for t := range doc.Targets {
		r := QTIRight{reply.Called(&doc.Targets[t]), []string{}}
		if sel, ok := doc.Key.Solutions[0].Right[doc.Targets[t].ID]; ok {
			for i, picked := range parts.Picks(sel) {
				if picked && parts.LetsIn(t, i) {
					r.Items = append(r.Items, reply.Spoken(&doc.Items[i]))
				}
			}
		}
		if len(r.Items) > 0 {
			out.Right = append(out.Right, r)
		}
	}
	bare := doc.Clone()
	bare.Scenery = slices.DeleteFunc(bare.Scenery, func(x activity.Scenery) bool { return x.Picture != "" })
	for i := range bare.Items {
		it := &bare.Items[i]
		if it.Picture != "" {
			it.Text, it.Picture = reply.Spoken(it), ""
		}
	}
	for i := range bare.Targets {
		if l := bare.Targets[i].Looks; l != nil && l.Rest != nil && l.Rest.Picture != nil {
			l.Rest.Picture = nil
		}
	}
	out.Face = play.Drawn(bare)
	return out
}

func (s *Server) importQTI(ctx context.Context, m store.Member, in *qtiChosenInput) (*qtiMadeOutput, error) {
	made, _, err := readQTI(ctx, in.RawBody, in.Name)
	if err != nil {
		return nil, err
	}
	var fresh []store.Fresh
	var media []store.Medium
	known := map[string]string{}
	for _, word := range strings.Split(in.Chosen, ",") {
		n, err := strconv.Atoi(word)
		if err != nil || n < 0 || n >= len(made) || made[n].Doc == nil {
			return nil, &Problem{Status: 422, Code: "bad-choice", Detail: fmt.Sprintf("There is no item %.10q in this file. Nothing was imported.", word)}
		}
		for _, x := range made[n].Media {
			if known[x.ID] != "" {
				continue
			}
			kept, err := s.bundled(ctx, x)
			if err != nil {
				return nil, &Problem{Status: 422, Code: "bad-qti", Detail: fmt.Sprintf("A picture of “%s” was refused: %s. Nothing was imported.", made[n].Doc.Title, err)}
			}
			known[x.ID] = kept.ID
			media = append(media, kept)
		}
		made[n].Doc.RenameMedia(known)
		fresh = append(fresh, store.Fresh{Form: store.AnActivity, ID: store.NewID(), Title: made[n].Doc.Title, Document: string(made[n].Doc.Write())})
	}
	list, err := s.store.In(m.WorkspaceID).AddAll(ctx, m.ID, fresh, media)
	if err != nil {
		return nil, err
	}
	out := &qtiMadeOutput{}
	out.Body.Activities = []Imported{}
	for _, a := range list {
		x, err := hosting.SummaryOf(a)
		s.sum(ctx, a, x, err)
		out.Body.Activities = append(out.Body.Activities, Imported{a.ID, a.Title, false})
	}
	return out, nil
}
