// Package bundle writes an activity, or a series with its activities, with the media as one
// zip file, and reads it again, equal.
//
// In it are activity.json, or series.json with activities/<id>.json; media/<sha-256>.<ending>
// for each picture and sound; and manifest.json with the length and SHA-256 of every other
// file. What is not in the manifest, or not as the manifest says, makes the whole bundle
// refused. A package for a platform has the same in its folder keen-magpie, and is read, too.
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
	"maps"
	"path"
	"regexp"
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

// Bundle is an activity with its media; or a series, with its activities by the ids that it
// names them by.
type Bundle struct {
	Doc        *activity.Doc
	Series     *activity.Series
	Activities map[string]*activity.Doc
	Media      []Medium
}

// Folder is where packages have a bundle.
const Folder = "keen-magpie/"

// Documents are all activities, by the ids that a series names them by, else by their own.
func (b Bundle) Documents() map[string]*activity.Doc {
	if b.Series != nil {
		return b.Activities
	}
	return map[string]*activity.Doc{b.Doc.ID: b.Doc}
}

// Uses lists the media that are used, each once, sorted.
func (b Bundle) Uses() []string {
	var ids []string
	if b.Series != nil {
		ids = b.Series.Media()
	}
	for _, d := range b.Documents() {
		ids = append(ids, d.Media()...)
	}
	slices.Sort(ids)
	return slices.Compact(ids)
}

// Take reads all media that are used, by the names that the documents have for them, and
// puts in their place the names that they have in bundles.
func (b *Bundle) Take(read func(name string) ([]byte, error)) error {
	named := map[string]string{}
	for _, name := range b.Uses() {
		body, err := read(name)
		if err != nil {
			return err
		}
		m, err := NewMedium(body)
		if err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		if !slices.ContainsFunc(b.Media, func(x Medium) bool { return x.ID == m.ID }) {
			b.Media = append(b.Media, m)
		}
		named[name] = m.ID
	}
	if b.Series != nil {
		b.Series.RenameMedia(named)
	}
	for _, d := range b.Documents() {
		d.RenameMedia(named)
	}
	return nil
}

// Title is what it is called.
func (b Bundle) Title() string {
	if b.Series != nil {
		return b.Series.Title
	}
	return b.Doc.Title
}

// ID is its document's.
func (b Bundle) ID() string {
	if b.Series != nil {
		return b.Series.ID
	}
	return b.Doc.ID
}

// Name is the medium's file.
func (m Medium) Name() string {
	if ending := sound.Extension(m.Type); ending != "" {
		return m.ID + ending
	}
	return m.ID + picture.Extension(m.Type)
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

// Files are all files of the bundle by their names, with the manifest.
func (b Bundle) Files() (map[string][]byte, error) {
	files := map[string][]byte{}
	if b.Series != nil {
		files["series.json"] = b.Series.Write()
		for id, d := range b.Activities {
			if !plainID.MatchString(id) {
				return nil, fmt.Errorf("the id %q of an activity cannot be a file's name", id)
			}
			files["activities/"+id+".json"] = d.Write()
		}
	} else {
		files["activity.json"] = b.Doc.Write()
	}
	for _, m := range b.Media {
		files["media/"+m.Name()] = m.Body
	}
	list := manifest{Format: format, Version: 1}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		list.Files = append(list.Files, entry{name, len(files[name]), sum(files[name])})
	}
	head, err := json.MarshalIndent(list, "", " ")
	files["manifest.json"] = head
	return files, err
}

var plainID = regexp.MustCompile(`^[A-Za-z0-9_-]{1,64}$`)

// Write writes the bundle. The same bundle gives the same bytes.
func (b Bundle) Write(w io.Writer) error {
	files, err := b.Files()
	if err != nil {
		return err
	}
	return Zip(w, files)
}

// Zip writes files as a zip file, manifests first. The same files give the same bytes.
func Zip(w io.Writer, files map[string][]byte) error {
	names := slices.Sorted(maps.Keys(files))
	first := func(name string) int {
		if strings.HasSuffix(name, "manifest.json") || strings.HasSuffix(name, "manifest.xml") {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(names, func(a, b string) int { return first(a) - first(b) })
	z := zip.NewWriter(w)
	for _, name := range names {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		if _, err := f.Write(files[name]); err != nil {
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
	return FromFiles(files)
}

// FromFiles is [Read] for the files of a bundle by their names, as [Bundle.Files] gives them.
func FromFiles(files map[string][]byte) (Bundle, error) {
	if err := checkManifest(files); err != nil {
		return Bundle{}, err
	}
	b := Bundle{}
	if err := b.readDocuments(files); err != nil {
		return Bundle{}, err
	}
	have := map[string]bool{}
	for name, content := range files {
		if !strings.HasPrefix(name, "media/") {
			continue
		}
		m, err := NewMedium(content)
		if err != nil {
			return Bundle{}, fmt.Errorf("%s: %w", name, err)
		}
		if called, _, _ := strings.Cut(path.Base(name), "."); called != m.ID {
			return Bundle{}, fmt.Errorf("%s is not named by its content", name)
		}
		have[m.ID] = true
		b.Media = append(b.Media, m)
	}
	for _, id := range b.Uses() {
		if !have[id] {
			return Bundle{}, fmt.Errorf("the picture or sound %s is used and not in the bundle", id)
		}
	}
	slices.SortFunc(b.Media, func(x, y Medium) int { return strings.Compare(x.ID, y.ID) })
	return b, nil
}

// readDocuments reads the activity; or the series, with exactly its activities.
func (b *Bundle) readDocuments(files map[string][]byte) error {
	var faults activity.Faults
	if body, ok := files["activity.json"]; ok {
		if b.Doc, faults = activity.Read(body); faults != nil {
			return faults
		}
		return nil
	}
	if b.Series, faults = activity.ReadSeries(files["series.json"]); faults != nil {
		return faults
	}
	b.Activities = map[string]*activity.Doc{}
	for _, id := range b.Series.Activities() {
		body, ok := files["activities/"+id+".json"]
		if !ok {
			return fmt.Errorf("the activity %s of the series is not in the bundle", id)
		}
		if b.Activities[id], faults = activity.Read(body); faults != nil {
			return faults
		}
	}
	return nil
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
	if _, packed := files[Folder+"manifest.json"]; packed {
		inside := map[string][]byte{}
		for name, content := range files {
			if strings.HasPrefix(name, Folder) {
				inside[strings.TrimPrefix(name, Folder)] = content
			}
		}
		return inside, nil
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
		if name != "manifest.json" && name != "activity.json" && name != "series.json" && !strings.HasPrefix(name, "activities/") && !strings.HasPrefix(name, "media/") {
			return fmt.Errorf("%s has no place in a bundle", name)
		}
	}
	if listed["activity.json"] == listed["series.json"] {
		return errors.New("there is not one activity.json or one series.json in it")
	}
	return nil
}

func sum(body []byte) string {
	h := sha256.Sum256(body)
	return hex.EncodeToString(h[:])
}
