package server_test

import (
	"encoding/json"
	"strings"
	"testing"
)

// A picture from a file is kept once, without what the file told besides; what is
// no picture is refused with the reason.
func TestUploadingPictures(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	svg := []byte(`<svg viewBox="0 0 40 20"><script>alert(1)</script><path d="M0 0h8"/></svg>`)
	var kept struct {
		ID            string
		Width, Height int
	}
	code, body := ana.ask("POST", "/api/media", svg)
	if code != 201 || json.Unmarshal([]byte(body), &kept) != nil || kept.Width != 40 {
		t.Fatalf("%d %s", code, body)
	}
	if again, same := ana.ask("POST", "/api/media", svg); again != 201 || same != body {
		t.Errorf("the same picture again: %d %s", again, same)
	}
	if code, picture := ana.ask("GET", "/api/media/"+kept.ID, nil); code != 200 || strings.Contains(picture, "script") || !strings.Contains(picture, "M0 0h8") {
		t.Errorf("%d %s", code, picture)
	}
	if code, body := ana.ask("POST", "/api/media", []byte("Dear Ana,")); code != 422 || !strings.Contains(body, "known kind") {
		t.Errorf("a letter: %d %s", code, body)
	}
}
