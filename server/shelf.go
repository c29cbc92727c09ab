package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/say"
	"keenmagpie/formats/start"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Card is an activity on the shelf, with its board for a miniature.
type Card struct {
	ID        string     `json:"id"`
	Title     string     `json:"title"`
	Kind      string     `json:"kind"`
	SavedAt   time.Time  `json:"savedAt"`
	SavedBy   string     `json:"savedBy"`
	DeletedAt *time.Time `json:"deletedAt,omitempty"`
	Releases  int        `json:"releases"`
	Sittings  int        `json:"sittings"`
	// Scene is left out for a series among what was deleted.
	Scene drawnScene `json:"scene,omitempty"`
}

// drawnScene is a [play.Scene] as its summary has it.
type drawnScene json.RawMessage

// MarshalJSON and UnmarshalJSON take it as it is.
func (d drawnScene) MarshalJSON() ([]byte, error)  { return d, nil }
func (d *drawnScene) UnmarshalJSON(b []byte) error { *d = slices.Clone(b); return nil }

type shelfInput struct {
	Find  string   `query:"find" maxLength:"200" doc:"In titles and kinds"`
	After string   `query:"after" maxLength:"60" doc:"Where the page before ended"`
	Most  int      `query:"most" minimum:"1" maximum:"500" default:"60"`
	IDs   []string `query:"ids,explode" maxItems:"200" doc:"These alone, all of them"`
}

func (in *shelfInput) page() store.Page {
	if len(in.IDs) > 0 {
		return store.Page{IDs: in.IDs}
	}
	return store.Page{Find: strings.TrimSpace(in.Find), After: in.After, Most: in.Most}
}

type shelfOutput struct {
	Body struct {
		Activities []Card `json:"activities" nullable:"false"`
		Next       string `json:"next,omitempty" doc:"Where the next page begins; left out, there is none"`
	}
}

// StartFile is a picture or sound that a new activity starts with.
type StartFile struct {
	ID     string `json:"id" pattern:"^[0-9a-f]{64}$"`
	Name   string `json:"name" minLength:"1" maxLength:"200"`
	Sound  bool   `json:"sound,omitempty"`
	Width  int    `json:"width,omitempty" minimum:"0" maximum:"100000"`
	Height int    `json:"height,omitempty" minimum:"0" maximum:"100000"`
}

type newInput struct {
	Body struct {
		Kind  string      `json:"kind" enum:"sort,match,sequence,label,gaps,build,question,blank"`
		Title string      `json:"title" minLength:"1" maxLength:"200"`
		Text  string      `json:"text,omitempty" maxLength:"1000000" doc:"Rows of a table, lines, or a text with [[gaps]]"`
		Files []StartFile `json:"files,omitempty" maxItems:"500" doc:"Pictures and sounds that were uploaded"`
	}
}

type toWorkspaceInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body struct {
		Workspace string `json:"workspace" maxLength:"40"`
	}
}

// RevisionEntry is what one person did in one go.
type RevisionEntry struct {
	Revision int                `json:"revision" doc:"The last of it"`
	SavedAt  time.Time          `json:"savedAt"`
	SavedBy  string             `json:"savedBy"`
	Name     string             `json:"name,omitempty" doc:"With one, it is kept for good"`
	Changes  []message.Sentence `json:"changes" nullable:"false" doc:"What it changed, in words"`
}

type revisionsOutput struct {
	Body struct {
		Revisions []RevisionEntry `json:"revisions" nullable:"false"`
		More      bool            `json:"more" doc:"There are older ones"`
	}
}

type revisionInput struct {
	ID       string `path:"id" maxLength:"40"`
	Revision int    `path:"revision" minimum:"1"`
}

type revisionsInput struct {
	ID     string `path:"id" maxLength:"40"`
	Before int    `query:"before" minimum:"0" doc:"Only those before this one"`
}

type revisionNameInput struct {
	ID       string `path:"id" maxLength:"40"`
	Revision int    `path:"revision" minimum:"1"`
	Body     struct {
		Name string `json:"name" maxLength:"100"`
	}
}

type revisionOutput struct {
	Body struct {
		Document Document   `json:"document"`
		Scene    play.Scene `json:"scene"`
	}
}

func (s *Server) shelfRoutes() {
	member(s, operation(http.MethodGet, "/api/activities", "shelf", "Everything on the shelf"),
		func(ctx context.Context, m store.Member, in *shelfInput) (*shelfOutput, error) {
			list, next, err := s.store.In(m.WorkspaceID).Cards(ctx, store.AnActivity, in.page())
			if errors.Is(err, store.ErrBadPlace) {
				return nil, badPlace()
			}
			if err != nil {
				return nil, err
			}
			out := &shelfOutput{}
			out.Body.Activities, out.Body.Next, err = cards(list), next, nil
			return out, err
		})
	designer(s, operation(http.MethodGet, "/api/deleted", "deleted", "Activities that can be brought back"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*shelfOutput, error) {
			list, err := s.store.In(m.WorkspaceID).Deleted(ctx)
			out := &shelfOutput{}
			out.Body.Activities = cards(list)
			return out, err
		})
	designer(s, created(operation(http.MethodPost, "/api/activities/new", "newActivity", "A new activity of a kind, with its starting layout")),
		func(ctx context.Context, m store.Member, in *newInput) (*draftOutput, error) {
			files, err := s.files(ctx, m)
			if err != nil {
				return nil, err
			}
			have := start.Have{Text: in.Body.Text}
			for _, f := range in.Body.Files {
				have.Files = append(have.Files, edit.File{ID: f.ID, Name: f.Name, Sound: f.Sound, Width: activity.U(f.Width) * 100, Height: activity.U(f.Height) * 100})
			}
			doc := start.From(in.Body.Kind, in.Body.Title, have, files)
			if _, faults := activity.Read(doc.Write()); faults != nil {
				return nil, badDocument(faults)
			}
			return s.add(ctx, m, doc, nil)
		})
	designer(s, created(operation(http.MethodPost, "/api/activities/{id}/copy", "copyActivity", "A copy of an activity")), s.copyActivity)
	nothing := func(method, path, id, summary string, f func(context.Context, store.Member, *idInput) error) {
		op := operation(method, path, id, summary)
		op.DefaultStatus = http.StatusNoContent
		designer(s, op, func(ctx context.Context, m store.Member, in *idInput) (*struct{}, error) {
			return nil, f(ctx, m, in)
		})
	}
	nothing(http.MethodDelete, "/api/activities/{id}", "deleteActivity", "Take an activity off the shelf; it can be brought back for 30 days",
		func(ctx context.Context, m store.Member, in *idInput) error {
			return s.store.In(m.WorkspaceID).DeleteActivity(ctx, in.ID)
		})
	nothing(http.MethodPost, "/api/activities/{id}/restore", "restoreActivity", "Bring a deleted activity back",
		func(ctx context.Context, m store.Member, in *idInput) error {
			return s.store.In(m.WorkspaceID).RestoreActivity(ctx, in.ID)
		})
	move := operation(http.MethodPost, "/api/activities/{id}/move", "moveActivity", "Give an activity to another workspace of the same person")
	move.DefaultStatus = http.StatusNoContent
	designer(s, move, s.moveActivity)
	member(s, operation(http.MethodGet, "/api/activities/{id}/revisions", "revisions", "What was changed when, and by whom"), s.revisions)
	member(s, operation(http.MethodGet, "/api/activities/{id}/revisions/{revision}", "revision", "An activity as it once was"),
		func(ctx context.Context, m store.Member, in *revisionInput) (*revisionOutput, error) {
			v, err := s.store.In(m.WorkspaceID).Revision(ctx, in.ID, in.Revision)
			if err != nil {
				return nil, err
			}
			doc, err := document(store.Activity{ID: in.ID, Document: v.Document})
			if err != nil {
				return nil, err
			}
			out := &revisionOutput{}
			out.Body.Document, out.Body.Scene = Document(doc.Full()), play.Drawn(doc)
			return out, nil
		})
	name := operation(http.MethodPut, "/api/activities/{id}/revisions/{revision}", "nameRevision", "Name a version, which is then kept for good")
	name.DefaultStatus = http.StatusNoContent
	designer(s, name, func(ctx context.Context, m store.Member, in *revisionNameInput) (*struct{}, error) {
		return nil, s.store.In(m.WorkspaceID).NameRevision(ctx, in.ID, in.Revision, strings.Join(strings.Fields(in.Body.Name), " "))
	})
}

func cards(list []store.Card) []Card {
	out := make([]Card, len(list))
	for i := range list {
		a := &list[i]
		out[i] = Card{ID: a.ID, Title: a.Title, Kind: a.Kind, SavedAt: a.SavedAt, SavedBy: a.SavedByName, DeletedAt: a.DeletedAt, Releases: a.Releases, Sittings: a.Sittings}
		if a.Form == store.ASeries {
			out[i].Kind = "series"
		} else {
			out[i].Kind, out[i].Scene = face(a)
		}
	}
	return out
}

// face is an activity's board as it is drawn small, from its summary, or, where that is out
// of date, from the draft; nil for one that cannot be read.
func face(a *store.Card) (kind string, scene drawnScene) {
	if !a.IsSummed() {
		x, err := hosting.SummaryOf(a.Activity)
		if err != nil {
			return a.Kind, nil
		}
		return x.Kind, drawnScene(x.Face)
	}
	return a.Kind, drawnScene(*a.Face)
}

func badPlace() *Problem {
	return &Problem{Status: 422, Code: "bad-place", Detail: "This list has changed. Load it again."}
}

// sum keeps what lists tell of a draft that was saved. Where that fails, a job does it.
func (s *Server) sum(ctx context.Context, a store.Activity, x store.Summary, err error) {
	if err == nil {
		err = s.store.KeepSummary(ctx, a.ID, a.Revision, x)
	}
	if err != nil && ctx.Err() == nil {
		s.log.Warn("a draft was saved without its summary", "draft", a.ID, "error", err)
	}
}

func (s *Server) copyActivity(ctx context.Context, m store.Member, in *idInput) (*draftOutput, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	doc, err := document(a)
	if err != nil {
		return nil, err
	}
	doc.Title = truncated("Copy of "+doc.Title, 200)
	return s.add(ctx, m, doc, nil)
}

func truncated(text string, most int) string {
	if letters := []rune(text); len(letters) > most {
		return string(letters[:most])
	}
	return text
}

func (s *Server) moveActivity(ctx context.Context, m store.Member, in *toWorkspaceInput) (*struct{}, error) {
	to, err := s.store.MemberByID(ctx, m.ID, in.Body.Workspace)
	if err != nil || to.WorkspaceID != in.Body.Workspace {
		return nil, notFound("This workspace")
	}
	if to.Role != store.Designer {
		return nil, said(403, "not-a-designer", "In {workspace} you can look, and only a designer can add something. Nothing was moved.", message.P{"workspace": to.WorkspaceName})
	}
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	doc, err := document(a)
	if err != nil {
		return nil, err
	}
	// With an activity go its sittings, with learners' names: both workspaces must be theirs.
	if a.Sittings > 0 && !(m.Owner && to.Owner) {
		return nil, &Problem{Status: 403, Code: "not-the-owner", Detail: "Learners have played this activity. Only an owner of both workspaces can move it with what they did. Nothing was moved; a copy can be made."}
	}
	media := doc.Media()
	releases, err := s.store.In(m.WorkspaceID).Releases(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	for _, r := range releases {
		if released, faults := activity.Read([]byte(r.Document)); faults == nil {
			media = append(media, released.Media()...)
		}
	}
	if err := s.store.MoveActivity(ctx, m.WorkspaceID, to.WorkspaceID, in.ID, media); err != nil {
		return nil, err
	}
	if len(releases) == 0 {
		return nil, nil
	}
	with := counted(a.Sittings, "sitting")
	return nil, errors.Join(s.record(ctx, m, "activity moved away", a.Title, fmt.Sprintf("to %s, with %s", to.WorkspaceName, with)),
		s.record(ctx, to, "activity moved here", a.Title, fmt.Sprintf("from %s, with %s", m.WorkspaceName, with)))
}

// A person's saves within this time of each other are one entry of the list.
const inOneGo = 10 * time.Minute

const mostEntries = 40

// revisions gathers saves into what was done in one go, and says what each changed
// against the one before. It reads one document an entry.
func (s *Server) revisions(ctx context.Context, m store.Member, in *revisionsInput) (*revisionsOutput, error) {
	list, err := s.store.In(m.WorkspaceID).Revisions(ctx, in.ID, in.Before)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 && in.Before == 0 {
		return nil, notFound("This activity")
	}
	var ends []store.Revision
	for i, v := range list {
		// The first revision of all stands alone: it is what the activity began as.
		if i == 0 || list[i-1].SavedBy != v.SavedBy || list[i-1].SavedAt.Sub(v.SavedAt) > inOneGo || v.Revision == 1 || v.Name != "" {
			ends = append(ends, v)
		}
	}
	out := &revisionsOutput{}
	out.Body.Revisions = []RevisionEntry{}
	if len(ends) > mostEntries {
		ends, out.Body.More = ends[:mostEntries+1], true
	}
	docs := make([]*activity.Doc, len(ends))
	for i, v := range ends {
		full, err := s.store.In(m.WorkspaceID).Revision(ctx, in.ID, v.Revision)
		if err != nil {
			return nil, err
		}
		if docs[i], err = document(store.Activity{ID: in.ID, Document: full.Document}); err != nil {
			return nil, err
		}
	}
	for i, v := range ends {
		e := RevisionEntry{v.Revision, v.SavedAt, v.SavedByName, v.Name, []message.Sentence{}}
		if i+1 < len(ends) {
			if e.Changes = say.Differences(docs[i+1], docs[i]); e.Changes == nil {
				e.Changes = []message.Sentence{}
			}
		} else if out.Body.More {
			break
		}
		out.Body.Revisions = append(out.Body.Revisions, e)
	}
	return out, nil
}
