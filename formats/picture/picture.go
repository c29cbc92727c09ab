// Package picture decides by content, never by name, whether bytes are a picture
// that may be kept and shown: PNG, JPEG, WebP, GIF, or an SVG that only draws.
package picture

import (
	"errors"
	"fmt"
	"net/http"
)

// MaxBytes is the largest picture that is kept.
const MaxBytes = 8 << 20

// Type finds the media type of a picture. The error says why it is refused.
func Type(body []byte) (string, error) {
	if len(body) == 0 {
		return "", errors.New("the file is empty")
	}
	if len(body) > MaxBytes {
		return "", fmt.Errorf("the picture has %d bytes; at most %d are kept", len(body), MaxBytes)
	}
	switch t := http.DetectContentType(body); t {
	case "image/png", "image/jpeg", "image/webp", "image/gif":
		return t, nil
	}
	if err := drawsOnly(body); err != nil {
		return "", err
	}
	return "image/svg+xml", nil
}

// Extension is the usual file ending of a media type.
func Extension(mediaType string) string {
	switch mediaType {
	case "image/png":
		return ".png"
	case "image/jpeg":
		return ".jpg"
	case "image/webp":
		return ".webp"
	case "image/gif":
		return ".gif"
	}
	return ".svg"
}
