// Package picture decides by content, never by name, whether bytes are a picture
// that may be kept and shown: PNG, JPEG, WebP, GIF, or an SVG that only draws.
package picture

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
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

// allowed reports whether a name is in a list of those that only draw.
func allowed(name, list string) bool {
	return strings.Contains(list, " "+name+" ")
}

const elements = ` svg g defs title desc path rect circle ellipse line polyline polygon text tspan ` +
	`linearGradient radialGradient stop clipPath mask pattern symbol use marker `

const attributes = ` xmlns viewBox width height x y x1 y1 x2 y2 cx cy r rx ry fx fy d points id class ` +
	`transform fill fill-rule fill-opacity stroke stroke-width stroke-linecap stroke-linejoin stroke-dasharray ` +
	`stroke-dashoffset stroke-opacity stroke-miterlimit opacity offset stop-color stop-opacity clip-path clip-rule ` +
	`clipPathUnits mask maskUnits gradientUnits gradientTransform patternUnits patternTransform spreadMethod ` +
	`preserveAspectRatio font-family font-size font-weight text-anchor dominant-baseline color href version ` +
	`marker-start marker-mid marker-end markerWidth markerHeight refX refY orient role aria-label aria-hidden `

// drawsOnly walks an SVG and refuses whatever is not a plain drawing: scripts,
// styles, foreign content, event handlers, references out of the file, entities.
func drawsOnly(body []byte) error {
	dec := xml.NewDecoder(bytes.NewReader(body))
	first := true
	for depth := 0; ; {
		tok, err := dec.Token()
		if err == io.EOF {
			if first {
				return errors.New("this is not a picture of a known kind (PNG, JPEG, WebP, GIF or SVG)")
			}
			return nil
		}
		if err != nil {
			return errors.New("this is not a picture of a known kind (PNG, JPEG, WebP, GIF or SVG)")
		}
		switch x := tok.(type) {
		case xml.Directive:
			return errors.New("the SVG has a document type or entities, which are not taken")
		case xml.EndElement:
			depth--
		case xml.StartElement:
			if depth++; depth > 100 {
				return errors.New("the SVG is nested too deeply")
			}
			if first && x.Name.Local != "svg" {
				return errors.New("this is not a picture of a known kind (PNG, JPEG, WebP, GIF or SVG)")
			}
			first = false
			if !allowed(x.Name.Local, elements) {
				return fmt.Errorf("the SVG has an element %q, which is not taken: only drawings are", x.Name.Local)
			}
			for _, a := range x.Attr {
				if err := plain(a); err != nil {
					return err
				}
			}
		}
	}
}

func plain(a xml.Attr) error {
	if a.Name.Space == "xmlns" {
		return nil
	}
	if !allowed(a.Name.Local, attributes) {
		return fmt.Errorf("the SVG has an attribute %q, which is not taken", a.Name.Local)
	}
	value := strings.ToLower(strings.Join(strings.Fields(a.Value), ""))
	if a.Name.Local == "href" && !strings.HasPrefix(value, "#") {
		return errors.New("the SVG refers to something outside itself")
	}
	if i := strings.Index(value, "url("); i >= 0 && !strings.HasPrefix(strings.TrimLeft(value[i+4:], `"'`), "#") {
		return errors.New("the SVG refers to something outside itself")
	}
	return nil
}
