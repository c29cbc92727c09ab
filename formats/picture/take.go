package picture

import (
	"bytes"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"strconv"
	"strings"

	"golang.org/x/image/draw"
	"golang.org/x/image/webp"
)

// LongEdge is the most pixels that a kept picture has on its longer side.
const LongEdge = 2048

// MaxMemory is what the pixels of a picture may take while it is read, in bytes: 42
// megapixels of a photograph, 32 of a drawing, 16 with deep colours.
const MaxMemory = 128 << 20

// Taken is a picture made ready to be kept: only its image, nothing that the file
// told besides.
type Taken struct {
	Type          string
	Body          []byte
	Width, Height int // as it is shown; 0 where an SVG does not say
}

// Take makes a picture of a file from outside: PNG, JPEG, WebP and GIF (its first
// image) are drawn anew, turned as their camera said, made smaller where they are
// larger than [LongEdge], and keep no other data; an SVG keeps its drawing and
// loses whatever else it has. The error says why a file is refused.
func Take(body []byte) (Taken, error) {
	if len(body) == 0 {
		return Taken{}, errors.New("the file is empty")
	}
	if len(body) > 4*MaxBytes {
		return Taken{}, fmt.Errorf("the file has %d bytes; at most %d are taken", len(body), 4*MaxBytes)
	}
	kind := http.DetectContentType(body)
	var size func(io.Reader) (image.Config, error)
	var read func(io.Reader) (image.Image, error)
	switch kind {
	case "image/png":
		size, read = png.DecodeConfig, png.Decode
	case "image/jpeg":
		size, read = jpeg.DecodeConfig, jpeg.Decode
	case "image/webp":
		size, read = webp.DecodeConfig, webp.Decode
	case "image/gif":
		size, read = gif.DecodeConfig, gif.Decode
	default:
		return takeSVG(body)
	}
	c, err := size(bytes.NewReader(body))
	if err != nil {
		return Taken{}, errors.New("the picture is damaged")
	}
	if c.Width < 1 || c.Height < 1 {
		return Taken{}, errors.New("the picture is damaged")
	}
	if each := perPixel(kind, c.ColorModel, body); c.Width > MaxMemory/each/c.Height {
		return Taken{}, fmt.Errorf("the picture has %d × %d pixels; of its kind at most %d million are read. Save it smaller", c.Width, c.Height, MaxMemory/each/1_000_000)
	}
	img, err := read(bytes.NewReader(body))
	if err != nil {
		return Taken{}, errors.New("the picture is damaged")
	}
	img = fitted(img)
	if kind == "image/jpeg" {
		img = turned(img, orientation(body))
	}
	var out bytes.Buffer
	t := Taken{Type: "image/png", Width: img.Bounds().Dx(), Height: img.Bounds().Dy()}
	if kind == "image/jpeg" {
		t.Type = kind
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 88})
	} else {
		err = png.Encode(&out, img)
	}
	t.Body = out.Bytes()
	if err == nil && len(t.Body) > MaxBytes {
		err = fmt.Errorf("the picture takes %d bytes even at %d pixels; at most %d are kept", len(t.Body), LongEdge, MaxBytes)
	}
	return t, err
}

// perPixel is how many bytes a pixel takes while a picture is read.
func perPixel(kind string, model color.Model, body []byte) int {
	switch {
	case kind == "image/jpeg" && progressive(body):
		return 15 // all coefficients, and then the pixels
	case model == color.YCbCrModel:
		return 3
	case model == color.GrayModel:
		return 1
	case model == color.Gray16Model:
		return 2
	case model == color.RGBA64Model || model == color.NRGBA64Model:
		return 8
	}
	if _, palette := model.(color.Palette); palette {
		return 1
	}
	return 4
}

// progressive says whether a JPEG comes in passes: its frame begins with the marker SOF2
// (ITU T.81, table B.1).
func progressive(body []byte) bool {
	for i := 2; i+4 <= len(body) && body[i] == 0xFF; {
		if marker := body[i+1]; marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC {
			return marker == 0xC2
		}
		i += 2 + int(binary.BigEndian.Uint16(body[i+2:]))
	}
	return false
}

// fitted makes a picture smaller where its longer side passes [LongEdge].
func fitted(img image.Image) image.Image {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	long := max(w, h)
	if long <= LongEdge {
		return img
	}
	out := image.NewRGBA(image.Rect(0, 0, max(1, w*LongEdge/long), max(1, h*LongEdge/long)))
	switch img.(type) {
	case *image.RGBA, *image.NRGBA, *image.Gray, *image.YCbCr:
		draw.CatmullRom.Scale(out, out.Bounds(), img, img.Bounds(), draw.Src, nil)
	default: // of others each pixel is asked for by itself: only those that are needed
		draw.ApproxBiLinear.Scale(out, out.Bounds(), img, img.Bounds(), draw.Src, nil)
	}
	return out
}

// orientation reads how a camera was held: EXIF tag 0x0112, 1 to 8; 1 where it does
// not say (JEITA CP-3451, 4.6.4).
func orientation(body []byte) int {
	for i := 2; i+4 <= len(body) && body[i] == 0xFF; {
		length := int(binary.BigEndian.Uint16(body[i+2:]))
		end := i + 2 + length
		if body[i+1] == 0xDA || length < 2 || end > len(body) {
			return 1
		}
		if body[i+1] == 0xE1 && bytes.HasPrefix(body[i+4:end], []byte("Exif\x00\x00")) {
			return exifOrientation(body[i+10 : end])
		}
		i = end
	}
	return 1
}

func exifOrientation(tiff []byte) int {
	if len(tiff) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.BigEndian
	if tiff[0] == 'I' {
		order = binary.LittleEndian
	}
	at := int(order.Uint32(tiff[4:]))
	if at < 8 || at+2 > len(tiff) {
		return 1
	}
	for k := range int(order.Uint16(tiff[at:])) {
		entry := at + 2 + 12*k
		if entry+12 > len(tiff) {
			return 1
		}
		if order.Uint16(tiff[entry:]) == 0x0112 {
			if v := int(order.Uint16(tiff[entry+8:])); v >= 1 && v <= 8 {
				return v
			}
		}
	}
	return 1
}

// turned shows a picture upright.
func turned(img image.Image, orientation int) image.Image {
	if orientation == 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if orientation >= 5 {
		w, h = h, w
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			sx, sy := x, y
			switch orientation {
			case 2:
				sx = w - 1 - x
			case 3:
				sx, sy = w-1-x, h-1-y
			case 4:
				sy = h - 1 - y
			case 5:
				sx, sy = y, x
			case 6:
				sx, sy = y, w-1-x
			case 7:
				sx, sy = h-1-y, w-1-x
			case 8:
				sx, sy = h-1-y, x
			}
			out.Set(x, y, img.At(b.Min.X+sx, b.Min.Y+sy))
		}
	}
	return out
}

// takeSVG writes an SVG again with its drawing alone: elements and attributes that
// only draw, styles as attributes, references within the file.
func takeSVG(body []byte) (Taken, error) {
	dec := xml.NewDecoder(bytes.NewReader(body))
	dec.Strict = true
	dec.Entity = map[string]string{}
	var out bytes.Buffer
	t := Taken{Type: "image/svg+xml"}
	skip, depth := 0, 0
	unknown := errUnknown
	for {
		tok, err := dec.RawToken()
		if err == io.EOF {
			break
		}
		if err != nil {
			return Taken{}, unknown
		}
		switch x := tok.(type) {
		case xml.StartElement:
			if depth++; depth > 100 {
				return Taken{}, errors.New("the SVG is nested too deeply")
			}
			if out.Len() == 0 && skip == 0 && x.Name.Local != "svg" {
				return Taken{}, unknown
			}
			if skip > 0 || x.Name.Space != "" && x.Name.Space != "svg" || !allowed(x.Name.Local, elements) {
				skip++
				continue
			}
			out.WriteString("<" + x.Name.Local)
			if out.Len() == len("<svg") {
				out.WriteString(` xmlns="http://www.w3.org/2000/svg"`)
				t.Width, t.Height = svgSize(x.Attr)
			}
			for _, a := range drawn(x.Attr) {
				out.WriteString(" " + a.Name.Local + `="`)
				xml.EscapeText(&out, []byte(a.Value)) // a bytes.Buffer does not fail
				out.WriteString(`"`)
			}
			out.WriteString(">")
		case xml.EndElement:
			if depth--; depth < 0 {
				return Taken{}, unknown
			}
			if skip > 0 {
				skip--
				continue
			}
			out.WriteString("</" + x.Name.Local + ">")
		case xml.CharData:
			if skip == 0 && depth > 0 {
				xml.EscapeText(&out, x)
			}
		}
	}
	if depth != 0 || out.Len() == 0 {
		return Taken{}, unknown
	}
	t.Body = out.Bytes()
	// What stays is held against the rule by which pictures are kept.
	if _, err := Type(t.Body); err != nil {
		return Taken{}, err
	}
	return t, nil
}

// drawn keeps the attributes that only draw; a style attribute becomes the
// attributes that it stands for.
func drawn(attrs []xml.Attr) []xml.Attr {
	var out []xml.Attr
	keep := func(a xml.Attr) {
		if a.Name.Local != "xmlns" && plain(a) == nil {
			out = append(out, a)
		}
	}
	for _, a := range attrs {
		switch {
		case a.Name.Space == "xmlns" || a.Name.Space != "" && a.Name.Space != "xlink":
		case a.Name.Space == "xlink" && a.Name.Local != "href":
		case a.Name.Local == "style":
			for part := range strings.SplitSeq(a.Value, ";") {
				name, value, ok := strings.Cut(part, ":")
				if ok {
					keep(xml.Attr{Name: xml.Name{Local: strings.TrimSpace(name)}, Value: strings.TrimSpace(value)})
				}
			}
		default:
			keep(xml.Attr{Name: xml.Name{Local: a.Name.Local}, Value: a.Value})
		}
	}
	// An attribute that comes twice would not be read again: the last one counts, as
	// a style does over an attribute.
	last := map[string]int{}
	for i, a := range out {
		last[a.Name.Local] = i
	}
	var once []xml.Attr
	for i, a := range out {
		if last[a.Name.Local] == i {
			once = append(once, a)
		}
	}
	return once
}

// svgSize is the size that an SVG says it has: width and height, else its viewBox.
func svgSize(attrs []xml.Attr) (w, h int) {
	length := func(s string) int {
		f, _ := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(s), "px"), 64)
		return int(f)
	}
	box := []string{}
	for _, a := range attrs {
		switch a.Name.Local {
		case "width":
			w = length(a.Value)
		case "height":
			h = length(a.Value)
		case "viewBox":
			box = strings.Fields(strings.ReplaceAll(a.Value, ",", " "))
		}
	}
	if (w <= 0 || h <= 0) && len(box) == 4 {
		w, h = length(box[2]), length(box[3])
	}
	if w <= 0 || h <= 0 || w > 100_000 || h > 100_000 {
		return 0, 0
	}
	return w, h
}
