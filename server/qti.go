package server

import (
	"bytes"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/reply"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
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
	Face    play.Scene `json:"face" doc:"The board; its pictures are data URLs, large ones left out"`
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
	Asked   string `query:"asked" maxLength:"64" doc:"A word of the asker's own, by which the progress is asked for"`
	RawBody []byte `contentType:"application/octet-stream"`
}

type qtiChosenInput struct {
	Asked   string `query:"asked" maxLength:"64" doc:"A word of the asker's own, by which the progress is asked for"`
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
		func(ctx context.Context, m store.Member, in *qtiInput) (*qtiLookOutput, error) {
			made, notes, err := s.readQTI(ctx, m, in.RawBody, in.Name, in.Asked)
			if err != nil {
				return nil, err
			}
			out := &qtiLookOutput{QTILook{Items: []QTIItem{}, Left: []qti.Note{}}}
			of, room := map[string]int{}, mostShown
			for n, x := range made {
				if x.Doc == nil {
					continue
				}
				of[x.Source] = len(out.Body.Items)
				out.Body.Items = append(out.Body.Items, looked(n, x.Bundle, &room))
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
	designer(s, operation(http.MethodGet, "/api/qti/progress", "qtiProgress", "How far the reading of a file is that is being looked at, or imported"),
		func(_ context.Context, m store.Member, in *qtiProgressInput) (*qtiProgressOutput, error) {
			out := &qtiProgressOutput{}
			if at, ok := s.reading.Load(askedFor{m.ID, in.Asked}); ok {
				out.Body = at.(QTIProgress)
			}
			return out, nil
		})
	designer(s, heavy(created(operation(http.MethodPost, "/api/qti", "importQTI", "Make activities of chosen items of QTI, all of them or none")), qti.MostPackage), s.importQTI)
	designer(s, heavy(operation(http.MethodGet, "/api/qti/losses", "qtiLosses", "What QTI cannot say of some activities"), 0),
		func(ctx context.Context, m store.Member, in *qtiSeveralInput) (*qtiLossesOutput, error) {
			out := &qtiLossesOutput{}
			list, err := s.draftsForQTI(ctx, m, in.Activities)
			if err == nil {
				out.Body.Losses, err = qti.Losses(list...)
			}
			return out, unsaid(err)
		})
	designer(s, heavy(operation(http.MethodGet, "/api/qti/package", "exportSeveralQTI", "Some activities as one package of QTI 3.0, with their keys"), 0),
		func(ctx context.Context, m store.Member, in *qtiSeveralInput) (*huma.StreamResponse, error) {
			list, err := s.draftsForQTI(ctx, m, in.Activities)
			var body bytes.Buffer
			if err == nil {
				_, err = qti.Package(&body, list...)
			}
			if err != nil {
				return nil, unsaid(err)
			}
			return download("application/zip", "activities-qti.zip", func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
		})
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

type qtiSeveralInput struct {
	Activities []string `query:"activities" minItems:"1" maxItems:"100" doc:"Ids of the activities, as a,b"`
}

type qtiLossesOutput struct {
	Body struct {
		Losses []pack.Loss `json:"losses" nullable:"false"`
	}
}

// mostMedia is how many bytes the pictures and sounds of what is exported together may have: a
// package has them twice, and is made in memory.
const mostMedia = qti.MostPackage / 2

// draftsForQTI are drafts that are to be exported together.
func (s *Server) draftsForQTI(ctx context.Context, m store.Member, ids []string) (list []bundle.Bundle, err error) {
	if len(ids) == 0 {
		return nil, &Problem{Status: 422, Code: "bad-choice", Detail: "No activity was chosen. Nothing was exported."}
	}
	media := 0
	for _, id := range ids {
		b, err := s.drafted(ctx, m, id)
		if err != nil {
			return nil, err
		}
		for _, x := range b.Media {
			media += len(x.Body)
		}
		if media > mostMedia {
			return nil, said(422, "too-large", "The pictures and sounds of these activities have more than {most} MB together. Choose fewer of them; nothing was exported.", message.P{"most": mostMedia >> 20})
		}
		list = append(list, b)
	}
	return list, nil
}

// unsaid is why QTI cannot say a draft: what no arrangement meets has no right answer.
func unsaid(err error) error {
	var x *marks.Impossible
	if errors.As(err, &x) {
		return said(422, "key-impossible", "It cannot be solved: {why}. Nothing was exported.", message.P{"why": err.Error()})
	}
	return err
}

type qtiProgressInput struct {
	Asked string `query:"asked" required:"true" maxLength:"64"`
}

// QTIProgress is how far the reading of a file is.
type QTIProgress struct {
	N  int `json:"n" doc:"Items read"`
	Of int `json:"of" doc:"Of how many; 0 where nothing is known"`
}

type qtiProgressOutput struct{ Body QTIProgress }

// askedFor is by what an account asks for the progress of one of its requests.
type askedFor struct{ account, word string }

// readQTI reads a file that was sent. How far it is can be asked for meanwhile, of this server.
func (s *Server) readQTI(ctx context.Context, m store.Member, body []byte, name, asked string) ([]qti.Imported, []qti.Note, error) {
	var done func(n, of int)
	if asked != "" {
		key := askedFor{m.ID, asked}
		done = func(n, of int) { s.reading.Store(key, QTIProgress{n, of}) }
		defer s.reading.Delete(key)
	}
	made, notes, err := qti.Read(ctx, body, qti.Source{Name: name}, done)
	var bad *qti.Bad
	if errors.As(err, &bad) {
		return nil, nil, said(422, "bad-qti", "This file was refused: line {line}, {why}. Nothing was imported.", message.P{"line": bad.Line, "why": bad.Why})
	}
	return made, notes, err
}

// How much of the pictures is shown of what could be made, in all and of each, in bytes.
const (
	mostShown  = 8 << 20
	mostOfEach = 300 << 10
)

// looked is an activity as it is shown before it is made; its pictures take up room.
func looked(n int, b bundle.Bundle, room *int) QTIItem {
	doc := b.Doc
	out := QTIItem{N: n, Title: doc.Title, Kind: string(doc.Kind), Items: len(doc.Items), Targets: len(doc.Targets), Points: doc.Marks.Points.String(), Right: []QTIRight{}, Ways: len(doc.Key.Solutions), Notes: []qti.Note{}}
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
	shown := map[string]string{}
	for _, m := range b.Media {
		if len(m.Body) <= min(mostOfEach, *room) && strings.HasPrefix(m.Type, "image/") {
			*room -= len(m.Body)
			shown[m.ID] = "data:" + m.Type + ";base64," + base64.StdEncoding.EncodeToString(m.Body)
		}
	}
	bare := doc.Clone()
	bare.RenameMedia(shown)
	large := func(picture string) bool { return picture != "" && !strings.HasPrefix(picture, "data:") }
	if large(bare.Board.Background.Picture) {
		bare.Board.Background.Picture = ""
	}
	bare.Scenery = slices.DeleteFunc(bare.Scenery, func(x activity.Scenery) bool { return large(x.Picture) })
	for i := range bare.Items {
		it := &bare.Items[i]
		if large(it.Picture) {
			it.Text, it.Picture = reply.Spoken(it), ""
		}
	}
	for i := range bare.Targets {
		if l := bare.Targets[i].Looks; l != nil && l.Rest != nil && l.Rest.Picture != nil && large(*l.Rest.Picture) {
			l.Rest.Picture = nil
		}
	}
	out.Face = play.Drawn(bare)
	return out
}

func (s *Server) importQTI(ctx context.Context, m store.Member, in *qtiChosenInput) (*qtiMadeOutput, error) {
	made, _, err := s.readQTI(ctx, m, in.RawBody, in.Name, in.Asked)
	if err != nil {
		return nil, err
	}
	var fresh []store.Fresh
	var media []store.Medium
	known := map[string]string{}
	for _, word := range strings.Split(in.Chosen, ",") {
		n, err := strconv.Atoi(word)
		if err != nil || n < 0 || n >= len(made) || made[n].Doc == nil {
			return nil, said(422, "bad-choice", "There is no item {given} in this file. Nothing was imported.", message.P{"given": fmt.Sprintf("%.10q", word)})
		}
		for _, x := range made[n].Media {
			if known[x.ID] != "" {
				continue
			}
			kept, err := s.bundled(ctx, x)
			if err != nil {
				return nil, said(422, "bad-qti", "A picture of “{title}” was refused: {why}. Nothing was imported.", message.P{"title": made[n].Doc.Title, "why": err.Error()})
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
