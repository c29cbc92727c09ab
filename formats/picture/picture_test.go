package picture_test

import (
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
