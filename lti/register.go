package lti

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strings"
)

// Tool is how the tool describes itself to a platform.
type Tool struct {
	Name   string
	About  string
	URL    string // where it is reached
	Login  string
	Launch string
	Keys   string
	Logo   string
}

// Register registers the tool with a platform by LTI Dynamic Registration 1.0: config is where
// the platform describes itself, token what it gave to be shown. here says that the tool is on
// this machine, where platforms may be too. The platform's name comes with it.
func Register(ctx context.Context, config, token string, tool Tool, here bool) (p Platform, name string, err error) {
	const wrong = "Nothing was registered. "
	if !Address(config, here) {
		return p, "", refuse("bad-address", wrong+"The platform’s description has to be at an https address.", nil)
	}
	var is struct {
		Issuer   string `json:"issuer"`
		Auth     string `json:"authorization_endpoint"`
		Token    string `json:"token_endpoint"`
		Keys     string `json:"jwks_uri"`
		Register string `json:"registration_endpoint"`
		Platform struct {
			Family string `json:"product_family_code"`
			Name   string `json:"name"`
		} `json:"https://purl.imsglobal.org/spec/lti-platform-configuration"`
	}
	if err := get(ctx, config, &is); err != nil {
		return p, "", refuse("platform-away", wrong+"The platform’s description could not be read.", err)
	}
	for _, address := range []string{is.Issuer, is.Auth, is.Token, is.Keys, is.Register} {
		if !Address(address, here) || len(address) > 500 {
			return p, "", refuse("bad-description", wrong+"The platform’s description lacks an address, or has one that is not https.", fmt.Errorf("%.200q", address))
		}
	}
	if Origin(config) != Origin(is.Issuer) && !strings.HasPrefix(config, is.Issuer) {
		return p, "", refuse("other-issuer", wrong+"The platform’s description is of another platform than the one that it is at.", fmt.Errorf("issuer %q", is.Issuer))
	}
	host := ""
	if u, err := url.Parse(tool.URL); err == nil {
		host = u.Host
	}
	body, err := json.Marshal(map[string]any{
		"application_type": "web", "client_name": tool.Name, "client_uri": tool.URL, "logo_uri": tool.Logo,
		"grant_types": []string{"client_credentials", "implicit"}, "response_types": []string{"id_token"},
		"initiate_login_uri": tool.Login, "redirect_uris": []string{tool.Launch}, "jwks_uri": tool.Keys,
		"token_endpoint_auth_method": "private_key_jwt", "scope": strings.Join([]string{ScopeLineItem, ScopeScore, ScopeMembers}, " "),
		claimTool: map[string]any{
			"domain": host, "description": tool.About, "target_link_uri": tool.URL, "claims": []string{"iss", "sub", "name", "given_name", "family_name"},
			"messages": []any{
				map[string]any{"type": messageDeep, "target_link_uri": tool.URL, "label": "Choose activities of " + tool.Name},
				map[string]any{"type": messageLink, "target_link_uri": tool.URL},
			},
		},
	})
	if err != nil {
		return p, "", err
	}
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, is.Register, bytes.NewReader(body))
	if err != nil {
		return p, "", err
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Accept", "application/json")
	if token != "" {
		r.Header.Set("Authorization", "Bearer "+token)
	}
	var made struct {
		ClientID string `json:"client_id"`
		Tool     struct {
			Deployment string `json:"deployment_id"`
		} `json:"https://purl.imsglobal.org/spec/lti-tool-configuration"`
	}
	if _, err := do(r, &made); err != nil {
		return p, "", refuse("platform-refused", wrong+"The platform did not take the registration: "+err.Error(), err)
	}
	if made.ClientID == "" || len(made.ClientID) > 255 {
		return p, "", refuse("bad-description", wrong+"The platform did not say by which name it knows the tool.", nil)
	}
	p = Platform{Issuer: is.Issuer, ClientID: made.ClientID, Auth: is.Auth, Token: is.Token, Keys: is.Keys}
	if made.Tool.Deployment != "" {
		p.Deployments = []string{made.Tool.Deployment}
	}
	if name = is.Platform.Name; name == "" {
		name = is.Issuer
		if u, err := url.Parse(is.Issuer); err == nil {
			name = u.Host
		}
	}
	return p, name, nil
}
