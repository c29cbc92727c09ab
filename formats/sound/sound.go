// Package sound takes sound files as they come from outside: recordings of a
// browser and the usual formats. It tells them by their first bytes, not by their
// names, and drops the tags of an MP3, which can hold who made it where.
//
//	kind, err := sound.Type(body) // "audio/mpeg"
package sound

import (
	"bytes"
	"errors"
	"fmt"
)

// MaxBytes is the largest sound that is kept: about ten minutes of speech.
const MaxBytes = 10 << 20

var errUnknown = errors.New("this is not a sound of a known kind: MP3, WAV, Ogg, WebM, M4A and FLAC are")

// Type tells a sound's media type by its first bytes.
func Type(body []byte) (string, error) {
	has := func(at int, sign string) bool {
		return len(body) >= at+len(sign) && string(body[at:at+len(sign)]) == sign
	}
	switch {
	case len(body) > MaxBytes:
		return "", fmt.Errorf("it has %d MB; a sound has at most %d", len(body)>>20, MaxBytes>>20)
	case has(0, "RIFF") && has(8, "WAVE"):
		return "audio/wav", nil
	case has(0, "OggS"):
		return "audio/ogg", nil
	case has(0, "\x1a\x45\xdf\xa3") && bytes.Contains(body[:min(len(body), 64)], []byte("webm")):
		return "audio/webm", nil
	case has(0, "fLaC"):
		return "audio/flac", nil
	case has(4, "ftypM4A"), has(4, "ftypmp42"), has(4, "ftypisom"), has(4, "ftypdash"):
		return "audio/mp4", nil
	case has(0, "ID3"), len(body) > 3 && body[0] == 0xff && body[1]&0xe0 == 0xe0 && body[1]&0x06 != 0 && body[2]&0xf0 != 0xf0:
		return "audio/mpeg", nil
	}
	return "", errUnknown
}

// Take makes a sound of a file ready to be kept. The error says why it is refused.
func Take(body []byte) (kind string, kept []byte, err error) {
	if kind, err = Type(body); err != nil {
		return "", nil, err
	}
	if kind != "audio/mpeg" {
		return kind, body, nil
	}
	// ID3v2 in front: its length in four bytes of seven bits each.
	for len(body) > 10 && string(body[:3]) == "ID3" {
		n := 10
		for i, shift := range []int{21, 14, 7, 0} {
			n += int(body[6+i]&0x7f) << shift
		}
		if n >= len(body) {
			return "", nil, errors.New("it has tags and no sound")
		}
		body = body[n:]
	}
	if len(body) > 128 && string(body[len(body)-128:len(body)-125]) == "TAG" {
		body = body[:len(body)-128]
	}
	return kind, body, nil
}

// Extension is the file name's end for a media type, or nothing.
func Extension(kind string) string {
	return map[string]string{"audio/wav": ".wav", "audio/ogg": ".ogg", "audio/webm": ".webm", "audio/flac": ".flac",
		"audio/mp4": ".m4a", "audio/mpeg": ".mp3"}[kind]
}
