package activity_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// What is one of a few words is the same few in the constants of its type, in the schema
// (which is made of the tag `one`), and in the OpenAPI document and with it in TypeScript
// (which are made of the tag `enum`).
func TestWordsAreTheSameEverywhere(t *testing.T) {
	const root = "../.."
	var files []*ast.File
	for _, dir := range []string{"core", "server", "cmd/engine"} {
		err := filepath.WalkDir(filepath.Join(root, dir), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			files = append(files, f)
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	// By a type's name with its package: play.Phase.
	words := map[string][]string{}
	called := func(f *ast.File, x ast.Expr) string {
		switch x := x.(type) {
		case *ast.Ident:
			return f.Name.Name + "." + x.Name
		case *ast.SelectorExpr:
			if in, ok := x.X.(*ast.Ident); ok {
				return in.Name + "." + x.Sel.Name
			}
		}
		return ""
	}
	for _, f := range files {
		for _, d := range f.Decls {
			if d, ok := d.(*ast.GenDecl); ok && d.Tok == token.CONST {
				for _, spec := range d.Specs {
					v := spec.(*ast.ValueSpec)
					for _, x := range v.Values {
						if lit, ok := x.(*ast.BasicLit); ok && lit.Kind == token.STRING && v.Type != nil {
							word, _ := strconv.Unquote(lit.Value)
							words[called(f, v.Type)] = append(words[called(f, v.Type)], word)
						}
					}
				}
			}
		}
	}
	fields := 0
	for _, f := range files {
		ast.Inspect(f, func(n ast.Node) bool {
			field, ok := n.(*ast.Field)
			if !ok || field.Tag == nil {
				return true
			}
			raw, _ := strconv.Unquote(field.Tag.Value)
			tag := reflect.StructTag(raw)
			of, one := called(f, field.Type), tag.Get("one")
			list, typed := words[of]
			if one != "" && tag.Get("json") != "format" {
				fields++
				if !slices.Equal(list, strings.Split(one, "|")) {
					t.Errorf("%s is %q by its tag, and %s has %q", tag.Get("json"), one, of, list)
				}
			}
			if typed && tag.Get("enum") != "" {
				fields++
				for _, word := range strings.Split(tag.Get("enum"), ",") {
					if !slices.Contains(list, word) {
						t.Errorf("%s may be %q by its tag, and %s is one of %q", tag.Get("json"), word, of, list)
					}
				}
			}
			return true
		})
	}
	if fields < 50 {
		t.Errorf("%d fields were compared: the test tests too little", fields)
	}
}
