package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/qti"
)

type qtiCmd struct {
	Export qtiExportCmd `cmd:"" help:"Write an activity as an item of QTI 3.0, or it or a series as a package."`
	Import qtiImportCmd `cmd:"" help:"Make activities of an item or a package of QTI 2.1, 2.2 or 3.0."`
	Check  qtiCheckCmd  `cmd:"" help:"Say what of an item or a package cannot be read, or is not understood."`
}

type qtiExportCmd struct {
	Files   []string `arg:"" name:"file" help:"An activity's document with its media in a folder media beside it, or a bundle of an activity or a series; several go into one package."`
	Package string   `help:"Where a package goes; without it the item is written to the standard output."`
}

// Run exports. What QTI cannot say goes to the standard error, a JSON object a line.
func (c *qtiExportCmd) Run() error {
	var list []bundle.Bundle
	for _, file := range c.Files {
		b, err := readContent(file)
		if err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		list = append(list, b)
	}
	var err error
	b, body := list[0], bytes.Buffer{}
	var losses []qti.Loss
	switch {
	case c.Package != "":
		losses, err = qti.Package(&body, list...)
	case len(list) > 1:
		return errors.New("several activities go into a package: say where it goes with --package")
	case b.Series != nil:
		return errors.New("a series is a test of several items: say where the package goes with --package")
	default:
		media := map[string]bundle.Medium{}
		for _, m := range b.Media {
			media[m.ID] = m
		}
		var item []byte
		item, losses, err = qti.Export(b.Doc, qti.Options{Media: media, Names: filesBeside(c.Files[0])})
		body.Write(item)
	}
	if err != nil {
		return err
	}
	lines := json.NewEncoder(os.Stderr)
	for _, l := range losses {
		if err := lines.Encode(l); err != nil {
			return err
		}
	}
	if c.Package != "" {
		return os.WriteFile(c.Package, body.Bytes(), 0o644)
	}
	_, err = os.Stdout.Write(body.Bytes())
	return err
}

// filesBeside are the names of the media beside a document, by their ids.
func filesBeside(file string) map[string]string {
	names := map[string]string{}
	list, _ := filepath.Glob(filepath.Join(filepath.Dir(file), "media", "*"))
	for _, name := range list {
		if body, err := os.ReadFile(name); err == nil {
			if m, err := bundle.NewMedium(body); err == nil {
				names[m.ID] = "media/" + filepath.Base(name)
			}
		}
	}
	return names
}

type qtiImportCmd struct {
	File string `arg:"" help:"An item's XML, with its pictures beside it, or a package." type:"existingfile"`
	Out  string `help:"Folder into which a bundle goes for each item; without it the document of a single item is printed."`
}

// beside reads files beside an item, and none elsewhere.
func beside(file string) qti.Source {
	root, err := os.OpenRoot(filepath.Dir(file))
	return qti.Source{Name: filepath.Base(file), File: func(name string) ([]byte, error) {
		if err != nil {
			return nil, err
		}
		return fs.ReadFile(root.FS(), name)
	}}
}

// Run imports. What was left out, or understood in part, goes to the standard error, a JSON object a
// line.
func (c *qtiImportCmd) Run() error {
	body, err := os.ReadFile(c.File)
	if err != nil {
		return err
	}
	made, notes, err := qti.Read(context.Background(), body, beside(c.File), nil)
	tell(notes)
	if err != nil {
		return told(c.File, err)
	}
	if len(made) == 0 {
		return errNothing
	}
	if c.Out == "" {
		if len(made) > 1 {
			return fmt.Errorf("there are %d items in it: say into which folder they go with --out", len(made))
		}
		if made[0].Doc == nil {
			return errors.New("it is a series: say into which folder it goes with --out")
		}
		_, err := os.Stdout.Write(made[0].Doc.Write())
		return err
	}
	if err := os.MkdirAll(c.Out, 0o755); err != nil {
		return err
	}
	taken := map[string]bool{}
	for _, x := range made {
		var out bytes.Buffer
		if err := x.Write(&out); err != nil {
			return err
		}
		name := activity.FreshID(taken, x.ID()) + ".magpie.zip"
		if err := os.WriteFile(filepath.Join(c.Out, name), out.Bytes(), 0o644); err != nil {
			return err
		}
		fmt.Println(name)
	}
	return nil
}

// errNothing ends an import of which nothing came, or a check that found something: the notes
// have said why.
var errNothing = errors.New("nothing could be made of it")

func tell(notes []qti.Note) {
	lines := json.NewEncoder(os.Stderr)
	for _, n := range notes {
		_ = lines.Encode(n)
	}
}

// told notes what could not be read at all as everything else is noted.
func told(file string, err error) error {
	var bad *qti.Bad
	if errors.As(err, &bad) {
		tell([]qti.Note{{Source: filepath.Base(file), Line: bad.Line, Part: filepath.Base(file), Code: bad.Code, Message: strings.ToUpper(bad.Why[:1]) + bad.Why[1:] + "."}})
		return errNothing
	}
	return err
}

type qtiCheckCmd struct {
	File string `arg:"" help:"An item's XML or a package." type:"existingfile"`
}

// Run checks: status 0 when everything is understood.
func (c *qtiCheckCmd) Run() error {
	body, err := os.ReadFile(c.File)
	if err != nil {
		return err
	}
	notes, err := qti.Check(context.Background(), body, beside(c.File))
	tell(notes)
	if err != nil {
		return told(c.File, err)
	}
	if len(notes) > 0 {
		return errNothing
	}
	return nil
}
