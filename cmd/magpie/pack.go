package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
)

type packCmd struct {
	File     string `arg:"" help:"An activity's document with its media in a folder media beside it, or a bundle of an activity or a series."`
	As       string `required:"" enum:"scorm12,scorm2004,cmi5,web,bundle" help:"What it is for: scorm12, scorm2004, cmi5, web or bundle."`
	Out      string `help:"Where the package goes; without it only what is asked for is printed."`
	EachStep bool   `help:"One object a step of a series, through which the platform leads."`
	Losses   bool   `help:"Print what the package cannot carry, a JSON object a line."`
}

// Run makes a package.
func (c *packCmd) Run() error {
	b, err := readContent(c.File)
	if err != nil {
		return err
	}
	if c.Losses {
		lines := json.NewEncoder(os.Stdout)
		for _, l := range pack.Losses(pack.As(c.As), b) {
			if err := lines.Encode(l); err != nil {
				return err
			}
		}
	}
	if c.Out == "" {
		if !c.Losses {
			return errors.New("say where the package goes with --out, or ask for --losses")
		}
		return nil
	}
	var body bytes.Buffer
	if err := pack.Write(&body, pack.As(c.As), b, pack.Options{EachStep: c.EachStep}); err != nil {
		return err
	}
	return os.WriteFile(c.Out, body.Bytes(), 0o644)
}

// readContent reads a bundle, or a document with its media beside it. A medium that a
// document names by a file's name gets the name that it has in bundles.
func readContent(file string) (bundle.Bundle, error) {
	body, err := os.ReadFile(file)
	if err != nil {
		return bundle.Bundle{}, err
	}
	if bytes.HasPrefix(body, []byte("PK")) {
		return bundle.Read(body)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		for _, f := range faults {
			fmt.Fprintf(os.Stderr, "%s: %s\n", f.Pointer, f.Message)
		}
		return bundle.Bundle{}, errBadDocument
	}
	b := bundle.Bundle{Doc: doc}
	folder := filepath.Join(filepath.Dir(file), "media")
	return b, b.Take(func(name string) ([]byte, error) { return mediumFile(folder, name) })
}

// mediumFile reads the file of a medium: named by it, with or without an ending.
func mediumFile(folder, id string) ([]byte, error) {
	if strings.ContainsAny(id, `/\`) {
		return nil, fmt.Errorf("%q is not a file's name", id)
	}
	body, err := os.ReadFile(filepath.Join(folder, id))
	if err == nil {
		return body, nil
	}
	list, globErr := filepath.Glob(filepath.Join(folder, id+".*"))
	if globErr != nil || len(list) == 0 {
		return nil, fmt.Errorf("the medium %q is not in %s", id, folder)
	}
	return os.ReadFile(list[0])
}
