// Package bundle writes an activity with its media as one zip file, and reads it
// again, equal.
//
// In it are activity.json, media/<sha-256>.<ending> for each picture, and
// manifest.json with the length and SHA-256 of every other file. What is not in
// the manifest, or not as the manifest says, makes the whole bundle refused.
package bundle

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/formats/picture"
	"keenmagpie/formats/sound"
)

// Limits of what is read.
const (
	MaxBytes = 64 << 20 // the zip file, and all that is in it unpacked
	MaxFiles = 1000
)

const format = "keen-magpie/bundle"

// Medium is one picture; ID is the SHA-256 of its bytes in hexadecimal.
type Medium struct {
	ID   string
	Type string
	Body []byte
}

// NewMedium checks a picture or a sound and names it by its content.
func NewMedium(body []byte) (Medium, error) {
	kind, err := picture.Type(body)
	if heard, no := sound.Type(body); err != nil && no == nil {
		kind, err = heard, nil
	}
	if err != nil {
		return Medium{}, err
	}
	return Medium{sum(body), kind, body}, nil
}

// Bundle is an activity with its media.
type Bundle struct {
	Doc   *activity.Doc
	Media []Medium
}

type manifest struct {
	Format  string  `json:"format"`
	Version int     `json:"version"`
	Files   []entry `json:"files"`
}

type entry struct {
	Path   string `json:"path"`
	Bytes  int    `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// Write writes the bundle. The same bundle gives the same bytes.
func (b Bundle) Write(w io.Writer) error {
	files := map[string][]byte{"activity.json": b.Doc.Write()}
	for _, m := range b.Media {
		files["media/"+m.ID+picture.Extension(m.Type)+sound.Extension(m.Type)] = m.Body
	}
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	list := manifest{Format: format, Version: 1}
	for _, name := range names {
		list.Files = append(list.Files, entry{name, len(files[name]), sum(files[name])})
	}
	head, err := json.MarshalIndent(list, "", " ")
	if err != nil {
		return err
	}
	z := zip.NewWriter(w)
	put := func(name string, body []byte) error {
		f, err := z.Create(name)
		if err == nil {
			_, err = f.Write(body)
		}
		return err
	}
	if err := put("manifest.json", head); err != nil {
		return err
	}
	for _, name := range names {
		if err := put(name, files[name]); err != nil {
			return err
		}
	}
	return z.Close()
}

// Read reads a bundle and checks all of it before it returns any of it. The error
// says what is wrong and with which file; faults of the document come as
// [activity.Faults].
func Read(body []byte) (Bundle, error) {
	files, err := unpack(body)
	if err != nil {
		return Bundle{}, err
	}
	if err := checkManifest(files); err != nil {
		return Bundle{}, err
	}
	doc, faults := activity.Read(files["activity.json"])
	if faults != nil {
		return Bundle{}, faults
	}
	b := Bundle{Doc: doc}
	have := map[string]bool{}
	for name, content := range files {
		if !strings.HasPrefix(name, "media/") {
			continue
		}
		m, err := NewMedium(content)
		if err != nil {
			return Bundle{}, fmt.Errorf("%s: %w", name, err)
		}
		if strings.TrimSuffix(path.Base(name), path.Ext(name)) != m.ID {
			return Bundle{}, fmt.Errorf("%s is not named by its content", name)
		}
		have[m.ID] = true
		b.Media = append(b.Media, m)
	}
	for _, id := range doc.Media() {
		if !have[id] {
			return Bundle{}, fmt.Errorf("the picture %s is used in the activity and not in the bundle", id)
		}
	}
	slices.SortFunc(b.Media, func(x, y Medium) int { return strings.Compare(x.ID, y.ID) })
	return b, nil
}

func unpack(body []byte) (map[string][]byte, error) {
	if len(body) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes; a bundle has at most %d", len(body), MaxBytes)
	}
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		return nil, errors.New("this is not a zip file, or a part of it is missing")
	}
	if len(z.File) > MaxFiles {
		return nil, fmt.Errorf("there are %d files in it; a bundle has at most %d", len(z.File), MaxFiles)
	}
	files, left := map[string][]byte{}, int64(MaxBytes)
	for _, f := range z.File {
		_, twice := files[f.Name]
		if twice || path.Clean("/" + f.Name)[1:] != f.Name {
			return nil, fmt.Errorf("the file name %q is not possible in a bundle", f.Name)
		}
		r, err := f.Open()
		if err != nil {
			return nil, fmt.Errorf("%s cannot be unpacked", f.Name)
		}
		content, err := io.ReadAll(io.LimitReader(r, left+1))
		r.Close()
		if err != nil {
			return nil, fmt.Errorf("%s is damaged", f.Name)
		}
		if left -= int64(len(content)); left < 0 {
			return nil, fmt.Errorf("unpacked it is larger than %d bytes", MaxBytes)
		}
		files[f.Name] = content
	}
	return files, nil
}

func checkManifest(files map[string][]byte) error {
	head, ok := files["manifest.json"]
	if !ok {
		return errors.New("there is no manifest.json in it: this is not a Keen Magpie bundle")
	}
	var m manifest
	if err := json.Unmarshal(head, &m); err != nil || m.Format != format {
		return errors.New("its manifest.json is not that of a Keen Magpie bundle")
	}
	if m.Version != 1 {
		return fmt.Errorf("it is a bundle of version %d; this version reads 1", m.Version)
	}
	listed := map[string]bool{"manifest.json": true}
	for _, e := range m.Files {
		content, ok := files[e.Path]
		if !ok {
			return fmt.Errorf("%s is in the manifest and not in the bundle", e.Path)
		}
		if len(content) != e.Bytes || sum(content) != e.SHA256 {
			return fmt.Errorf("%s is not what the manifest says: it was changed or damaged", e.Path)
		}
		listed[e.Path] = true
	}
	for name := range files {
		if !listed[name] {
			return fmt.Errorf("%s is in the bundle and not in the manifest", name)
		}
		if name != "manifest.json" && name != "activity.json" && !strings.HasPrefix(name, "media/") {
			return fmt.Errorf("%s has no place in a bundle", name)
		}
	}
	if !listed["activity.json"] {
		return errors.New("there is no activity.json in it")
	}
	return nil
}

func sum(body []byte) string {
	h := sha256.Sum256(body)
	return hex.EncodeToString(h[:])
}
