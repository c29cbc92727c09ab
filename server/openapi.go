package server

import (
	"encoding/json"
	"log/slog"
	"maps"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
)

// Parts of a document that stand elsewhere, too, have the schemas of the document.
type (
	docLook  struct{}
	docStyle struct{}
	docTheme struct{}
)

func (docLook) Schema(huma.Registry) *huma.Schema  { return docSchema("Look") }
func (docStyle) Schema(huma.Registry) *huma.Schema { return docSchema("Style") }
func (docTheme) Schema(huma.Registry) *huma.Schema { return docSchema("Theme") }

func docSchema(name string) *huma.Schema {
	return &huma.Schema{Ref: "#/components/schemas/Doc" + name}
}

// OpenAPI writes the description of the API: what huma makes of the Go types of
// the operations, with the document's schema from core/activity put in.
func OpenAPI() ([]byte, error) {
	body, err := json.Marshal(New(nil, slog.Default()).api.OpenAPI())
	if err != nil {
		return nil, err
	}
	var api map[string]any
	if err := json.Unmarshal(body, &api); err != nil {
		return nil, err
	}
	schemas := api["components"].(map[string]any)["schemas"].(map[string]any)
	all := activity.Schema(true)["$defs"].(map[string]any)
	maps.Copy(all, activity.SeriesSchema(true)["$defs"].(map[string]any))
	schema, err := json.Marshal(all)
	if err != nil {
		return nil, err
	}
	// The document's types keep apart from those of the API by a prefix.
	text := strings.ReplaceAll(string(schema), `"#/$defs/Doc"`, `"#/components/schemas/Doc"`)
	text = strings.ReplaceAll(text, `"#/$defs/`, `"#/components/schemas/Doc`)
	var defs map[string]any
	if err := json.Unmarshal([]byte(text), &defs); err != nil {
		return nil, err
	}
	for name, def := range defs {
		if name != "Doc" {
			name = "Doc" + name
		}
		schemas[name] = def
	}
	out, err := json.MarshalIndent(api, "", " ")
	return append(out, '\n'), err
}
