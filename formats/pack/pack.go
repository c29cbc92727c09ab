// Package pack makes packages of activities and series: a zip file with a player, the core
// as WebAssembly, the content and its media, for learning platforms (SCORM 1.2 and 2004, cmi5) or
// for any web server or folder. The key is in the package, since it judges by itself. Every
// package also has a bundle in its folder keen-magpie, from which all of it can be taken in
// again.
//
//	err := pack.Write(w, pack.Scorm2004, content, pack.Options{})
//	losses := pack.Losses(pack.Scorm12, content)
package pack

import (
	"bytes"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"io"
	"io/fs"
	"maps"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/series"
	"keenmagpie/formats/bundle"
)

// The built player. Where Node has never run there is a placeholder only.
//
//go:embed all:player
var player embed.FS

// As is what a package is made for.
type As string

// What packages are made for.
const (
	Scorm12   As = "scorm12"
	Scorm2004 As = "scorm2004"
	Cmi5      As = "cmi5"
	Web       As = "web"
	Bundle    As = "bundle" // no player: the content alone
)

// All are they.
func All() []As { return []As{Scorm12, Scorm2004, Cmi5, Web, Bundle} }

// Options are what can be chosen.
type Options struct {
	// EachStep makes one object a step of a series, which the platform leads through, in
	// place of one that leads through all.
	EachStep bool
	// Words are the workspace's own for learners, by id.
	Words map[string]string
}

// ErrNotBuilt is of a program that was built without the player.
var ErrNotBuilt = errors.New("this program was built without the player of packages: build it with make")

// launch is one page that a platform opens.
type launch struct {
	page     string
	id       string
	title    string
	passMark activity.U
	holds    map[string]any
}

// Write writes a package. The same content gives the same bytes.
func Write(w io.Writer, as As, b bundle.Bundle, o Options) error {
	if as == Bundle {
		return b.Write(w)
	}
	if !slices.Contains(All(), as) {
		return fmt.Errorf("there is no package %q", as)
	}
	built, err := fs.Sub(player, "player/built")
	if err != nil {
		return err
	}
	files := map[string][]byte{}
	err = fs.WalkDir(built, ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		files["player/"+path], err = fs.ReadFile(built, path)
		return err
	})
	if err != nil || files["player/core.js"] == nil {
		return ErrNotBuilt
	}
	inside, err := b.Files()
	if err != nil {
		return err
	}
	for name, body := range inside {
		files[bundle.Folder+name] = body
	}
	launches, err := launches(b, as, o)
	if err != nil {
		return err
	}
	for _, l := range launches {
		holds, err := json.Marshal(l.holds)
		if err != nil {
			return err
		}
		files[l.page+".js"] = append(append([]byte("window.magpieHolds = "), holds...), ";\n"...)
		files[l.page+".html"] = page(l.page, l.title, langOf(b), as)
	}
	if as != Cmi5 {
		delete(files, "player/cmi5.js")
	}
	switch as {
	case Scorm12:
		files["imsmanifest.xml"] = manifest12(b, launches, slices.Sorted(maps.Keys(files)))
	case Cmi5:
		files["cmi5.xml"] = courseStructure(b, launches, "")
	case Scorm2004:
		files["imsmanifest.xml"] = manifest2004(b, launches, slices.Sorted(maps.Keys(files)))
	}
	return bundle.Zip(w, files)
}

// Hosted writes a package for cmi5 that has neither content nor key: the platform opens what is
// at the address.
func Hosted(w io.Writer, b bundle.Bundle, address string) error {
	one := launch{id: b.ID(), title: b.Title()}
	if b.Series != nil {
		one.passMark = b.Series.PassMark
	} else {
		one.passMark = b.Doc.Marks.PassMark
	}
	return bundle.Zip(w, map[string][]byte{"cmi5.xml": courseStructure(b, []launch{one}, address)})
}

func langOf(b bundle.Bundle) string {
	if b.Series != nil {
		return b.Series.Lang
	}
	return b.Doc.Lang
}

// launches are the pages that a platform opens: one, or one for each step.
func launches(b bundle.Bundle, as As, o Options) ([]launch, error) {
	media := map[string]string{}
	for _, m := range b.Media {
		media[m.ID] = bundle.Folder + "media/" + m.Name()
	}
	holds := func(id, title string, s *activity.Series, docs map[string]*activity.Doc) map[string]any {
		out := map[string]any{"as": as, "media": media, "words": o.Words,
			"about": map[string]any{"id": id, "title": title, "lang": langOf(b), "series": s != nil}}
		full := map[string]json.RawMessage{}
		for id, d := range docs {
			full[id] = d.Full()
		}
		out["activities"] = full
		if s != nil {
			out["series"] = s.Full()
		}
		return out
	}
	if b.Series == nil {
		d := b.Doc
		return []launch{{"index", d.ID, d.Title, d.Marks.PassMark, holds(d.ID, d.Title, nil, b.Documents())}}, nil
	}
	if !o.EachStep {
		return []launch{{"index", b.Series.ID, b.Series.Title, b.Series.PassMark, holds(b.Series.ID, b.Series.Title, b.Series, b.Activities)}}, nil
	}
	var out []launch
	for i, step := range b.Series.Steps {
		l := launch{page: fmt.Sprintf("step-%d", i+1), id: fmt.Sprintf("%s-%d", b.Series.ID, i+1)}
		if step.Page != nil {
			alone := *b.Series
			alone.Title, alone.Steps, alone.TimeLimit, alone.PassMark = step.Page.Title, []activity.Leg{step}, 0, 0
			l.title = step.Page.Title
			l.holds = holds(l.id, l.title, &alone, nil)
		} else {
			d := b.Activities[step.Activity]
			if d == nil {
				return nil, fmt.Errorf("the activity %q of the series is not there", step.Activity)
			}
			d = series.Activity(d, step)
			l.title, l.passMark = d.Title, d.Marks.PassMark
			l.holds = holds(l.id, l.title, nil, map[string]*activity.Doc{step.Activity: d})
		}
		out = append(out, l)
	}
	return out, nil
}

// page is what a platform opens. It loads scripts alone, so that it also works from a
// folder, and asks nobody for anything.
func page(name, title, lang string, as As) []byte {
	var b bytes.Buffer
	connect, script := "'none'", ""
	if as == Cmi5 {
		// The platform says at the launch where its record store is.
		connect, script = "https: http:", "    <script src=\"player/cmi5.js\"></script>\n"
	}
	fmt.Fprintf(&b, `<!doctype html>
<html lang="%s" data-base="">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <meta name="color-scheme" content="light dark" />
    <meta http-equiv="Content-Security-Policy" content="connect-src %s; object-src 'none'; form-action 'none'" />
    <link rel="stylesheet" href="player/player.css" />
    <title>%s</title>
  </head>
  <body>
    <div id="root"></div>
    <script src="player/wasm_exec.js"></script>
    <script src="player/core.js"></script>
    <script src="%s.js"></script>
%s    <script src="player/player.js"></script>
  </body>
</html>
`, html.EscapeString(lang), connect, html.EscapeString(title), name, script)
	return b.Bytes()
}
