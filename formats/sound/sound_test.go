package sound_test

import (
	"bytes"
	"strings"
	"testing"

	"keenmagpie/formats/sound"
)

func TestSoundsAreToldByTheirBytes(t *testing.T) {
	frame := "\xff\xfb\x90\x64" + strings.Repeat("\x00", 60)
	for name, c := range map[string]struct{ body, want string }{
		"WAV":              {"RIFF\x24\x00\x00\x00WAVEfmt ", "audio/wav"},
		"Ogg":              {"OggS\x00\x02", "audio/ogg"},
		"WebM":             {"\x1a\x45\xdf\xa3\x9f\x42\x86\x81\x01\x42\x82\x84webm", "audio/webm"},
		"Matroska":         {"\x1a\x45\xdf\xa3\x9f\x42\x86\x81\x01\x42\x82\x88matroska", ""},
		"M4A":              {"\x00\x00\x00\x20ftypM4A ", "audio/mp4"},
		"FLAC":             {"fLaC\x00", "audio/flac"},
		"MP3":              {frame, "audio/mpeg"},
		"MP3 with tags":    {"ID3\x04\x00\x00\x00\x00\x00\x05Ana D" + frame, "audio/mpeg"},
		"a letter":         {"Dear Ana,", ""},
		"nothing":          {"", ""},
		"a picture":        {"\x89PNG\r\n\x1a\n", ""},
		"half of a header": {"RIFF\x24", ""},
	} {
		t.Run(name, func(t *testing.T) {
			got, _ := sound.Type([]byte(c.body))
			if got != c.want {
				t.Errorf("is %q, want %q", got, c.want)
			}
			if got != "" && sound.Extension(got) == "" {
				t.Errorf("%s has no extension", got)
			}
		})
	}
	kind, kept, err := sound.Take([]byte("ID3\x04\x00\x00\x00\x00\x00\x05Ana D" + frame + "TAG" + strings.Repeat("x", 125)))
	if err != nil || kind != "audio/mpeg" || string(kept) != frame {
		t.Errorf("%s, %q, %v", kind, kept, err)
	}
	if _, _, err := sound.Take([]byte("ID3\x04\x00\x00\x00\x00\x7f\x7fAna D")); err == nil {
		t.Error("tags without a sound were taken")
	}
	if _, err := sound.Type(bytes.Repeat([]byte("RIFF"), sound.MaxBytes/4+1)); err == nil || !strings.Contains(err.Error(), "at most 10") {
		t.Errorf("too large: %v", err)
	}
}
