package picture_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"keenmagpie/formats/picture"
)

// halves is a picture whose left half is red and right half blue.
func halves(w, h int) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		for y := range h {
			c := color.RGBA{200, 0, 0, 255}
			if x >= w/2 {
				c = color.RGBA{0, 0, 200, 255}
			}
			img.Set(x, y, c)
		}
	}
	return img
}

// held writes a JPEG with a note of how the camera was held, and of where it was.
func held(t *testing.T, orientation int) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, halves(80, 40), nil); err != nil {
		t.Fatal(err)
	}
	tiff := binary.LittleEndian.AppendUint32([]byte("II*\x00"), 8)
	tiff = binary.LittleEndian.AppendUint16(tiff, 1)
	tiff = binary.LittleEndian.AppendUint16(tiff, 0x0112)
	tiff = binary.LittleEndian.AppendUint16(tiff, 3)
	tiff = binary.LittleEndian.AppendUint32(tiff, 1)
	tiff = binary.LittleEndian.AppendUint32(tiff, uint32(orientation))
	tiff = append(tiff, "Cobble Lane 7"...)
	app1 := append([]byte("Exif\x00\x00"), tiff...)
	out := append([]byte{0xFF, 0xD8, 0xFF, 0xE1}, binary.BigEndian.AppendUint16(nil, uint16(len(app1)+2))...)
	return append(append(out, app1...), b.Bytes()[2:]...)
}

func TestAPictureIsUprightAndKeepsNothingElse(t *testing.T) {
	isRed := func(img image.Image, x, y int) bool {
		r, _, b, _ := img.At(x, y).RGBA()
		return r > b
	}
	// Where the red half is after the camera's note: 1 left, 3 right, 6 (a quarter turn
	// to the right) top, 8 bottom.
	for orientation, c := range map[int]struct{ w, h, x, y int }{
		1: {80, 40, 5, 20}, 2: {80, 40, 75, 20}, 3: {80, 40, 75, 20}, 4: {80, 40, 5, 20},
		5: {40, 80, 20, 5}, 6: {40, 80, 20, 5}, 7: {40, 80, 20, 75}, 8: {40, 80, 20, 75},
	} {
		got, err := picture.Take(held(t, orientation))
		if err != nil || got.Type != "image/jpeg" || got.Width != c.w || got.Height != c.h {
			t.Errorf("held %d: %d × %d, %v", orientation, got.Width, got.Height, err)
			continue
		}
		img, err := jpeg.Decode(bytes.NewReader(got.Body))
		if err != nil || !isRed(img, c.x, c.y) || isRed(img, c.w-1-c.x, c.h-1-c.y) {
			t.Errorf("held %d: the red half is not where it should be (%v)", orientation, err)
		}
		if bytes.Contains(got.Body, []byte("Cobble")) || bytes.Contains(got.Body, []byte("Exif")) {
			t.Errorf("held %d: the note is still there", orientation)
		}
	}
}

func TestPicturesOfEachKind(t *testing.T) {
	var p, g bytes.Buffer
	if err := png.Encode(&p, halves(3000, 1000)); err != nil {
		t.Fatal(err)
	}
	if err := gif.Encode(&g, halves(20, 10), nil); err != nil {
		t.Fatal(err)
	}
	big, err := picture.Take(p.Bytes())
	if err != nil || big.Type != "image/png" || big.Width != 2048 || big.Height != 682 {
		t.Errorf("a large one: %d × %d, %v", big.Width, big.Height, err)
	}
	if still, err := picture.Take(g.Bytes()); err != nil || still.Type != "image/png" || still.Width != 20 {
		t.Errorf("a GIF: %+v, %v", still.Type, err)
	}
	for name, c := range map[string]struct {
		body []byte
		says string
	}{
		"nothing":   {nil, "empty"},
		"a text":    {[]byte("Dear Ana,"), "known kind"},
		"cut short": {p.Bytes()[:p.Len()/2], "damaged"},
		"too long":  {bytes.Repeat([]byte("x"), 33<<20), "at most"},
		// A PNG that says it has 30,000 × 30,000 pixels.
		"a bomb": {append(append([]byte{}, p.Bytes()[:16]...), append([]byte{0, 0, 0x75, 0x30, 0, 0, 0x75, 0x30}, p.Bytes()[24:]...)...), ""},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := picture.Take(c.body); err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%v", err)
			}
		})
	}
}

func TestAnSVGKeepsItsDrawingAlone(t *testing.T) {
	for name, c := range map[string]struct{ in, want string }{
		"as it is":                {`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><path d="M0 0h8"/></svg>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><path d="M0 0h8"></path></svg>`},
		"a script":                {`<svg><script>alert(1)</script><g onclick="x()"><rect width="3"/></g></svg>`, `<svg xmlns="http://www.w3.org/2000/svg"><g><rect width="3"></rect></g></svg>`},
		"a style":                 {`<svg><rect fill="red" style="fill:#00f; filter:url(http://x)"/></svg>`, `<svg xmlns="http://www.w3.org/2000/svg"><rect fill="#00f"></rect></svg>`},
		"a drawing program's own": {`<?xml version="1.0"?><!DOCTYPE svg><svg xmlns:ink="http://ink" ink:v="1"><ink:view><path/></ink:view><svg:g id="a" data-n="1"/></svg>`, `<svg xmlns="http://www.w3.org/2000/svg"><g id="a"></g></svg>`},
		"elsewhere":               {`<svg><use xlink:href="#a"/><use xlink:href="http://x/#a"/><image href="http://x"/></svg>`, `<svg xmlns="http://www.w3.org/2000/svg"><use href="#a"></use><use></use></svg>`},
		"a text":                  {`<svg><text>a &lt; b</text></svg>`, `<svg xmlns="http://www.w3.org/2000/svg"><text>a &lt; b</text></svg>`},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := picture.Take([]byte(c.in))
			if err != nil || string(got.Body) != c.want {
				t.Errorf("%s, %v", got.Body, err)
			}
		})
	}
	if got, _ := picture.Take([]byte(`<svg viewBox="0,0,40,20"/>`)); got.Width != 40 || got.Height != 20 {
		t.Errorf("its size: %d × %d", got.Width, got.Height)
	}
	for _, bad := range []string{`<html/>`, `<svg>`, `<svg><g></svg>`, `<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>`, strings.Repeat("<svg>", 200)} {
		if _, err := picture.Take([]byte(bad)); err == nil {
			t.Errorf("%.40s was taken", bad)
		}
	}
}
