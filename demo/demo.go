// Package demo is the sample workspace, the made-up Cobble Lane Cycle Workshop,
// as data files and pictures drawn for it.
package demo

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
	"keenmagpie/store"
)

//go:embed activities/*.json series/*.json pictures/*.svg sounds/*.wav
var files embed.FS

// Account is a demo sign-in.
type Account struct {
	Email, Password, Name, Note string
	Role                        store.Role
	// hash is of the password, so that the first start need not wait for it. It is a cheap
	// one: these passwords are printed, and the tests sign in some hundred times.
	hash string
}

// Accounts lists the demo's sign-ins.
func Accounts() []Account {
	return []Account{
		{"ana@cobblelane.example", "tailwind-and-chain", "Ana Duarte", "designer, and owner of the workspace", store.Designer,
			"$2a$04$AWLfuVHVRY0WZB41u4XSKOqaZ8emlSRhzy14VmXKfnRiXV7YxqJfe"},
		{"tobi@cobblelane.example", "second-spoke-left", "Tobi Lindqvist", "second designer", store.Designer,
			"$2a$04$GbPrdg9syBoYwgOVByL9/eIzcOHL.oseSwOYucZLFgXRj2Q.tG4eG"},
		{"mara@cobblelane.example", "watching-the-wheels", "Mara Oyelaran", "sees outcomes only", store.Viewer,
			"$2a$04$Bxktedo6cCiPDK7xRi.MJewR8jPfqqINr73/Y7J5WwCTgOb6jZx1K"},
	}
}

// WorkspaceName is the name of the demo's workspace.
const WorkspaceName = "Cobble Lane Cycle Workshop"

// Server is a private server of databases, or a node of a cluster of them.
type Server interface {
	Create(ctx context.Context, database string) error // where it is not there
	DSN(database string) string
}

// Open makes a database of its own on a private server where it is not there,
// brings it up to date, and loads the demo into it.
func Open(ctx context.Context, db Server, database string) (*store.Store, error) {
	if err := db.Create(ctx, database); err != nil {
		return nil, fmt.Errorf("the demo's database could not be made: %w", err)
	}
	st, err := store.Open(ctx, db.DSN(database))
	if err != nil {
		return nil, err
	}
	if err := st.Migrate(ctx, nil); err != nil {
		return nil, errors.Join(err, st.Close())
	}
	if err := Load(ctx, st); err != nil {
		return nil, errors.Join(fmt.Errorf("the demo could not be loaded: %w", err), st.Close())
	}
	return st, nil
}

const loaded = "demo"

// Load makes the demo workspace, once: what its users delete does not come back. What is
// half there from an interrupted start is completed.
func Load(ctx context.Context, st *store.Store) error {
	if done, err := st.Setting(ctx, loaded); err != nil || done != "" {
		return err
	}
	accounts := Accounts()
	first, err := st.MemberByEmail(ctx, accounts[0].Email)
	workspace := first.WorkspaceID
	if err == store.ErrNotFound {
		workspace, err = st.AddWorkspace(ctx, WorkspaceName)
	}
	if err != nil {
		return err
	}
	for i, a := range accounts {
		m, err := st.MemberByEmail(ctx, a.Email)
		if err == store.ErrNotFound {
			m, err = st.In(workspace).AddMember(ctx, store.Account{Email: a.Email, Name: a.Name, PasswordHash: a.hash}, a.Role)
		}
		if err != nil {
			return err
		}
		if i == 0 {
			first = m
		}
	}
	known, err := present(ctx, st, workspace)
	if err != nil {
		return err
	}
	// The first stands first on the shelf: it is loaded last.
	for _, id := range slices.Backward(Activities) {
		if known[id] != "" {
			continue
		}
		doc, media, err := Activity(id)
		if err != nil {
			return err
		}
		a, err := st.In(workspace).AddActivity(ctx, first.ID, doc.Title, string(doc.Write()), media)
		if err != nil {
			return err
		}
		known[id] = a.ID
	}
	for _, id := range slices.Backward(AllSeries) {
		if known[id] != "" {
			continue
		}
		doc, media, err := Series(id)
		if err != nil {
			return err
		}
		for i, leg := range doc.Steps {
			if leg.Activity != "" {
				doc.Steps[i].Activity = known[leg.Activity]
			}
		}
		doc.Steps = slices.DeleteFunc(doc.Steps, func(l activity.Leg) bool { return l.Page == nil && l.Activity == "" })
		if _, err := st.In(workspace).AddSeries(ctx, first.ID, doc.Title, string(doc.Write()), media); err != nil {
			return err
		}
	}
	return st.Set(ctx, loaded, "all")
}

// present finds what a workspace has of the demo, deleted or not, by the ids that it goes
// by in its files.
func present(ctx context.Context, st *store.Store, workspace string) (map[string]string, error) {
	known := map[string]string{}
	list, err := st.In(workspace).Everything(ctx)
	if err != nil {
		return nil, err
	}
	for _, a := range list {
		if a.Form == store.ASeries {
			if doc, faults := activity.ReadSeries([]byte(a.Document)); faults == nil {
				known[doc.ID] = a.ID
			}
		} else if doc, faults := activity.Read([]byte(a.Document)); faults == nil {
			known[doc.ID] = a.ID
		}
	}
	return known, nil
}

// Activities are those of the demo by id, in the order in which they stand on the
// shelf.
var Activities = []string{"parts-drawers", "signs-of-wear", "fix-the-puncture", "front-desk", "safety-note", "know-your-bicycle", "ready-for-night", "on-the-stand"}

// PartsDrawers is the demo's sort with its pictures.
func PartsDrawers() (*activity.Doc, []store.Medium, error) { return Activity("parts-drawers") }

// Activity is one of the demo's with its pictures and sounds. In the data file they
// go by the names of their files; here by those of their content.
func Activity(id string) (*activity.Doc, []store.Medium, error) {
	body, err := files.ReadFile(path.Join("activities", id+".json"))
	if err != nil {
		return nil, nil, err
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		return nil, nil, faults
	}
	media, named, err := mediaOf(doc.Media())
	if err != nil {
		return nil, nil, fmt.Errorf("%s: %w", id, err)
	}
	doc.RenameMedia(named)
	return doc, media, nil
}

// AllSeries are those of the demo by id, in the order in which they stand on the shelf.
var AllSeries = []string{"volunteer-induction", "a-quiet-evening"}

// Series is one of the demo's, with the pictures of its pages. Its activities go by the
// names of their files.
func Series(id string) (*activity.Series, []store.Medium, error) {
	body, err := files.ReadFile(path.Join("series", id+".json"))
	if err != nil {
		return nil, nil, err
	}
	doc, faults := activity.ReadSeries(body)
	if faults != nil {
		return nil, nil, faults
	}
	media, named, err := mediaOf(doc.Media())
	if err != nil {
		return nil, nil, fmt.Errorf("%s: %w", id, err)
	}
	doc.RenameMedia(named)
	return doc, media, nil
}

// mediaOf reads pictures and sounds by the names of their files; named gives the ids of
// their content.
func mediaOf(names []string) (media []store.Medium, named map[string]string, err error) {
	named = map[string]string{}
	for _, name := range names {
		m, about, err := medium(name)
		if err != nil {
			return nil, nil, fmt.Errorf("%s: %w", name, err)
		}
		named[name] = m.ID
		media = append(media, store.Medium{ID: m.ID, Type: m.Type, Body: m.Body, About: about})
	}
	slices.SortFunc(media, func(a, b store.Medium) int { return strings.Compare(a.ID, b.ID) })
	return media, named, nil
}

func medium(name string) (bundle.Medium, store.About, error) {
	about := store.About{Name: name, Licence: "drawn for this workshop"}
	folder := "pictures"
	if path.Ext(name) == ".wav" {
		folder, about.Licence = "sounds", "made for this workshop"
	}
	body, err := files.ReadFile(path.Join(folder, name))
	if err != nil {
		return bundle.Medium{}, about, err
	}
	m, err := bundle.NewMedium(body)
	return m, about, err
}
