package picture_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/png"
	"strings"
	"testing"

	"keenmagpie/formats/picture"
)

func TestOnlyDrawingsAreTaken(t *testing.T) {
	svg := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 8 8">` + inside + `</svg>`
	}
	for name, body := range map[string]string{
		"a drawing":          svg(`<g fill="none"><path d="M0 0h8"/></g>`),
		"a use inside":       svg(`<defs><path id="a" d="M0 0"/></defs><use href="#a"/><rect fill="url(#a)"/>`),
		"png by its content": "\x89PNG\r\n\x1a\n0000",
	} {
		if _, err := picture.Type([]byte(body)); err != nil {
			t.Errorf("%s is refused: %v", name, err)
		}
	}
	for name, body := range map[string]string{
		"empty":              "",
		"text":               "hello",
		"html":               "<html><body/></html>",
		"a script":           svg(`<script>alert(1)</script>`),
		"an event":           svg(`<path onload="alert(1)"/>`),
		"foreign content":    svg(`<foreignObject/>`),
		"an outside picture": svg(`<image href="http://example.org/a.png"/>`),
		"an outside use":     svg(`<use xlink:href="http://example.org/a.svg#b"/>`),
		"a js link":          svg(`<use href=" java` + "\n" + `script:alert(1)"/>`),
		"an outside fill":    svg(`<rect fill="url( 'http://example.org/')"/>`),
		"entities":           `<!DOCTYPE svg [<!ENTITY a "b">]>` + svg("&a;"),
		"not closed":         `<svg xmlns="http://www.w3.org/2000/svg"><g>`,
	} {
		if kind, err := picture.Type([]byte(body)); err == nil {
			t.Errorf("%s is taken as %s", name, kind)
		}
	}
}

// An SVG stays bounded when all it uses is drawn, says to no program how to read it, and
// hides nothing in escapes, second references or other namespaces.
func TestSVGsThatHideSomething(t *testing.T) {
	svg := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 8 8">` + inside + `</svg>`
	}
	doubling := `<g id="a0"><path d="M0 0"/></g>`
	for i := range 31 {
		doubling += fmt.Sprintf(`<g id="a%d"><use href="#a%d"/><use href="#a%d"/></g>`, i+1, i, i)
	}
	for name, body := range map[string]string{
		"uses that double":        svg(doubling),
		"patterns that double":    svg(strings.ReplaceAll(strings.ReplaceAll(doubling, `<use href="#`, `<rect fill="url(#`), `"/></g>`, `)"/></g>`)),
		"a use of itself":         svg(`<g id="a"><use href="#a"/></g>`),
		"an escaped url":          svg(`<rect fill="u\72l(http://example.org/a)"/>`),
		"a second url":            svg(`<rect fill="url(#a) url(http://example.org/a)"/>`),
		"a url in capitals":       svg(`<rect fill="URL( http://example.org/a)"/>`),
		"a url in parts":          svg(`<rect fill="ur/**/l(http://example.org/a)"/>`),
		"an image set":            svg(`<rect fill="image-set('http://example.org/a' 1x)"/>`),
		"a stylesheet":            `<?xml-stylesheet href="http://example.org/a.css"?>` + svg(""),
		"an element of html":      svg(`<h:use xmlns:h="http://www.w3.org/1999/xhtml"/>`),
		"another default":         svg(`<g xmlns="http://www.w3.org/1999/xhtml"><a/></g>`),
		"a base":                  svg(`<g xml:base="http://example.org/"/>`),
		"a link of another space": `<svg xmlns="http://www.w3.org/2000/svg" xmlns:x="urn:x"><use x:href="#a"/></svg>`,
	} {
		if kind, err := picture.Type([]byte(body)); err == nil {
			t.Errorf("%s is taken as %s", name, kind)
		}
	}
	for name, body := range map[string]string{
		"one that is used often":  svg(`<g id="a"><path d="M0 0"/></g>` + strings.Repeat(`<use href="#a"/>`, 500)),
		"words about a function":  svg(`<g role="img" aria-label="f(x) = \ /* @"/>`),
		"colours and transforms":  svg(`<g transform="translate(1 2) rotate(3)" fill="rgb(1, 2, 3)" stroke="hsla(1, 2%, 3%, .4)"/>`),
		"a fill with a fall-back": svg(`<linearGradient id="a"/><rect fill="url(#a) red" mask='url("#a")'/>`),
	} {
		if _, err := picture.Type([]byte(body)); err != nil {
			t.Errorf("%s is refused: %v", name, err)
		}
	}
}

// What a bundle brings is kept as an upload would be: nothing but the image, and byte for
// byte where there is nothing else.
func TestCleanPicturesStay(t *testing.T) {
	var plain, deep bytes.Buffer
	if err := png.Encode(&plain, halves(40, 20)); err != nil {
		t.Fatal(err)
	}
	jpg := held(t, 1)
	again, err := picture.Take(jpg)
	if err != nil {
		t.Fatal(err)
	}
	text := append([]byte{}, plain.Bytes()[:33]...) // behind IHDR
	text = append(text, "\x00\x00\x00\x04tEXtLea!\x00\x00\x00\x00"...)
	binary.BigEndian.PutUint32(text[len(text)-4:], crc32.ChecksumIEEE([]byte("tEXtLea!")))
	text = append(text, plain.Bytes()[33:]...)
	drawing := []byte(`<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"/></svg>`)
	for _, c := range []struct {
		name string
		body []byte
		same bool
	}{
		{"a png", plain.Bytes(), true}, {"a jpeg that was kept", again.Body, true}, {"a drawing", drawing, true},
		{"a png with a note", text, false}, {"a photograph with its place", jpg, false},
		{"a png with something behind it", append(bytes.Clone(plain.Bytes()), "secret"...), false},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := picture.Clean(c.body)
			if err != nil || bytes.Equal(got.Body, c.body) != c.same || bytes.Contains(got.Body, []byte("Lea!")) || bytes.Contains(got.Body, []byte("Cobble")) || bytes.Contains(got.Body, []byte("secret")) {
				t.Errorf("the same %v, %v", bytes.Equal(got.Body, c.body), err)
			}
		})
	}
	// Deep colours and many pixels are refused before anything is read.
	if err := png.Encode(&deep, image.NewGray16(image.Rect(0, 0, 9000, 9000))); err != nil {
		t.Fatal(err)
	}
	if _, err := picture.Take(deep.Bytes()); err == nil || !strings.Contains(err.Error(), "million are read") {
		t.Errorf("81 million deep pixels: %v", err)
	}
}
