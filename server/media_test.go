package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
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

// A sound is sent from where it is asked for, and not sent again to whoever has it.
func TestMediaInParts(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	body := wav(3 << 20)
	code, text := ana.ask("POST", "/api/media?name=long.wav", body)
	if code != 201 {
		t.Fatalf("%d %s", code, text)
	}
	id := read[struct{ ID string }](t, text).ID
	get := func(header, value string) (*http.Response, []byte) {
		req, _ := http.NewRequest("GET", s.urls[0]+"/api/media/"+id, nil)
		req.Header.Set(header, value)
		resp, err := ana.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		defer resp.Body.Close()
		all, _ := io.ReadAll(resp.Body)
		return resp, all
	}
	resp, whole := get("Accept", "*/*")
	if resp.StatusCode != 200 || resp.Header.Get("ETag") == "" || resp.Header.Get("Accept-Ranges") != "bytes" || !strings.HasPrefix(resp.Header.Get("Content-Type"), "audio/") {
		t.Errorf("the whole: %d %v", resp.StatusCode, resp.Header)
	}
	from := 1<<20 - 10 // over the end of the first piece in the store
	if resp, part := get("Range", fmt.Sprintf("bytes=%d-%d", from, from+99)); resp.StatusCode != 206 || !bytes.Equal(part, whole[from:from+100]) {
		t.Errorf("a part: %d, %d bytes", resp.StatusCode, len(part))
	}
	if resp, part := get("Range", "bytes=-5"); resp.StatusCode != 206 || !bytes.Equal(part, whole[len(whole)-5:]) {
		t.Errorf("the end: %d", resp.StatusCode)
	}
	if resp, part := get("If-None-Match", resp.Header.Get("ETag")); resp.StatusCode != 304 || len(part) > 0 {
		t.Errorf("had already: %d", resp.StatusCode)
	}
}
