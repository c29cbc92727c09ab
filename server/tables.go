package server

import (
	"bytes"
	"context"
	"io"
	"net/http"
	"path"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
	"keenmagpie/formats/table"
	"keenmagpie/store"
)

type lookInput struct {
	Body struct {
		Text  string       `json:"text" maxLength:"500000"`
		Edits []table.Edit `json:"edits,omitempty" nullable:"false"`
	}
}

type lookOutput struct{ Body table.Table }

type makeInput struct {
	Body struct {
		Title string       `json:"title" minLength:"1" maxLength:"200"`
		Text  string       `json:"text" maxLength:"500000"`
		Edits []table.Edit `json:"edits,omitempty" nullable:"false"`
	}
}

type textInput struct {
	RawBody []byte `contentType:"application/octet-stream"`
}

type textOutput struct {
	Body struct {
		Text string `json:"text"`
	}
}

type mergeInput struct {
	Body struct {
		Text     string   `json:"text" maxLength:"2000000"`
		Assign   []string `json:"assign,omitempty" nullable:"false" doc:"What columns mean; ? is to be recognised, nothing is left out"`
		Document Document `json:"document"`
	}
}

type mergeOutput struct {
	Body struct {
		table.Merged
		Document Document `json:"document" doc:"As it would be; nothing is saved"`
	}
}

type tableInput struct {
	ID string `path:"id" maxLength:"40"`
	As string `query:"as" enum:"csv,tsv,xlsx" default:"xlsx"`
}

func (s *Server) tableRoutes() {
	designer(s, operation(http.MethodPost, "/api/tables/look", "lookAtTable", "What a table would make, without making it"),
		func(_ context.Context, _ store.Member, in *lookInput) (*lookOutput, error) {
			return &lookOutput{table.Read(in.Body.Text, in.Body.Edits)}, nil
		})
	designer(s, created(operation(http.MethodPost, "/api/tables/sort", "makeSort", "Make a sort of a table")), s.makeSort)
	text := heavy(operation(http.MethodPost, "/api/tables/text", "tableText", "The rows of a file as text"), table.MaxFile)
	designer(s, text, func(_ context.Context, _ store.Member, in *textInput) (*textOutput, error) {
		text, err := table.Text(in.RawBody)
		if err != nil {
			return nil, said(422, "bad-table", "This file was refused: {why}.", message.P{"why": err.Error()})
		}
		out := &textOutput{}
		out.Body.Text = text
		return out, nil
	})
	merge := operation(http.MethodPost, "/api/tables/merge", "mergeTable", "What a table does to a draft, without saving it")
	merge.MaxBodyBytes = activity.MaxBytes + 4<<20
	merge.SkipValidateBody = true // the document has its own reader
	designer(s, merge, s.mergeTable)
	member(s, operation(http.MethodGet, "/api/activities/{id}/table", "exportTable", "The content of an activity as a table"), s.exportTable)
}

func (s *Server) makeSort(ctx context.Context, m store.Member, in *makeInput) (*draftOutput, error) {
	t := table.Read(in.Body.Text, in.Body.Edits)
	if t.Faults > 0 {
		return nil, said(422, "rows-unread", "{n, plural, one {# row} other {# rows}} cannot be read. Correct or skip them; nothing was made.", message.P{"n": t.Faults})
	}
	if len(t.Items) == 0 {
		return nil, &Problem{Status: 422, Code: "no-rows", Detail: "There is no row with an item. Nothing was made."}
	}
	return s.add(ctx, m, t.Sort(in.Body.Title), nil)
}

func (s *Server) mergeTable(ctx context.Context, m store.Member, in *mergeInput) (*mergeOutput, error) {
	doc, faults := activity.Read(in.Body.Document)
	if faults != nil {
		return nil, badDocument(faults)
	}
	files, err := s.files(ctx, m)
	if err != nil {
		return nil, err
	}
	merged, story := table.Merge(doc, in.Body.Text, in.Body.Assign, files)
	out := &mergeOutput{}
	out.Body.Merged, out.Body.Document = story, Document(merged.Full())
	return out, nil
}

func (s *Server) exportTable(ctx context.Context, m store.Member, in *tableInput) (*huma.StreamResponse, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	doc, err := document(a)
	if err != nil {
		return nil, err
	}
	files, err := s.files(ctx, m)
	if err != nil {
		return nil, err
	}
	var body bytes.Buffer
	if err := table.Write(&body, in.As, table.Export(doc, files)); err != nil {
		return nil, err
	}
	kind := map[string]string{"csv": "text/csv; charset=utf-8", "tsv": "text/tab-separated-values; charset=utf-8",
		"xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}[in.As]
	return download(kind, doc.ID+"."+in.As, func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
}

// files finds a workspace's media by the names of their files; of several with one
// name, the newest.
type files struct {
	pictures, sounds, names map[string]string
}

func (s *Server) files(ctx context.Context, m store.Member) (files, error) {
	f := files{map[string]string{}, map[string]string{}, map[string]string{}}
	list, err := s.store.In(m.WorkspaceID).Media(ctx)
	if err != nil {
		return f, err
	}
	for i := len(list) - 1; i >= 0; i-- { // the newest last
		x := list[i]
		f.names[x.ID] = x.Name
		if x.Name == "" {
			f.names[x.ID] = x.ID
		}
		to := f.pictures
		if strings.HasPrefix(x.Type, "audio/") {
			to = f.sounds
		}
		name := strings.ToLower(f.names[x.ID])
		to[x.ID], to[name] = x.ID, x.ID
		if bare := strings.TrimSuffix(name, path.Ext(name)); to[bare] == "" {
			to[bare] = x.ID
		}
	}
	return f, nil
}

// Picture, Sound and NameOf are those of [table.Files].
func (f files) Picture(name string) (string, bool) { return lookUp(f.pictures, name) }
func (f files) Sound(name string) (string, bool)   { return lookUp(f.sounds, name) }
func (f files) NameOf(id string) string            { return f.names[id] }

func lookUp(m map[string]string, name string) (string, bool) {
	id, ok := m[strings.ToLower(name)]
	return id, ok
}
