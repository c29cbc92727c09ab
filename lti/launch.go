package lti

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
	"golang.org/x/time/rate"
)

// Launch is what a platform says of somebody who comes: who, from where, to what.
type Launch struct {
	Deployment string `json:"deployment"`
	Subject    string `json:"subject"`
	Name       string `json:"name"` // "" where the platform does not give it
	Teacher    bool   `json:"teacher"`
	Context    string `json:"context"` // the course
	Course     string `json:"course"`  // what it is called
	Resource   string `json:"resource"`
	Title      string `json:"title"`  // of the link
	Target     string `json:"target"` // the address that was meant
	// Custom are what was put into the link when it was made.
	Custom map[string]string `json:"custom,omitempty"`
	Return string            `json:"return,omitempty"` // where to go afterwards

	// Of grades: the column of this link, where there is one, where columns are, and what
	// may be asked of them.
	LineItem  string   `json:"lineItem,omitempty"`
	LineItems string   `json:"lineItems,omitempty"`
	Scopes    []string `json:"scopes,omitempty"`
	Members   string   `json:"members,omitempty"`

	// Deep is there where things are to be chosen.
	Deep *Deep `json:"deep,omitempty"`
}

// Deep is a request to choose what a course links to.
type Deep struct {
	Return   string   `json:"return"`
	Data     string   `json:"data,omitempty"`
	Types    []string `json:"types,omitempty"`
	Multiple bool     `json:"multiple"`
	LineItem bool     `json:"lineItem"` // columns of the gradebook are taken
}

// idToken has what is read of a launch's token.
type idToken struct {
	jwt.Claims
	Azp        string `json:"azp"`
	Nonce      string `json:"nonce"`
	Name       string `json:"name"`
	Given      string `json:"given_name"`
	Family     string `json:"family_name"`
	Message    string `json:"https://purl.imsglobal.org/spec/lti/claim/message_type"`
	Version    string `json:"https://purl.imsglobal.org/spec/lti/claim/version"`
	Deployment string `json:"https://purl.imsglobal.org/spec/lti/claim/deployment_id"`
	Target     string `json:"https://purl.imsglobal.org/spec/lti/claim/target_link_uri"`
	Resource   struct {
		ID    string `json:"id"`
		Title string `json:"title"`
	} `json:"https://purl.imsglobal.org/spec/lti/claim/resource_link"`
	Context struct {
		ID    string `json:"id"`
		Title string `json:"title"`
		Label string `json:"label"`
	} `json:"https://purl.imsglobal.org/spec/lti/claim/context"`
	Roles        []string        `json:"https://purl.imsglobal.org/spec/lti/claim/roles"`
	Custom       json.RawMessage `json:"https://purl.imsglobal.org/spec/lti/claim/custom"`
	Presentation struct {
		Return string `json:"return_url"`
	} `json:"https://purl.imsglobal.org/spec/lti/claim/launch_presentation"`
	Grades struct {
		LineItem  string   `json:"lineitem"`
		LineItems string   `json:"lineitems"`
		Scope     []string `json:"scope"`
	} `json:"https://purl.imsglobal.org/spec/lti-ags/claim/endpoint"`
	Names struct {
		Members string `json:"context_memberships_url"`
	} `json:"https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice"`
	Deep struct {
		Return   string   `json:"deep_link_return_url"`
		Types    []string `json:"accept_types"`
		Multiple *bool    `json:"accept_multiple"`
		LineItem *bool    `json:"accept_lineitem"`
		Data     string   `json:"data"`
	} `json:"https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings"`
}

// leeway is by how much clocks may differ.
const leeway = time.Minute

// oldest is how old a token may be, however long it says that it holds.
const oldest = 10 * time.Minute

// Verifier checks tokens, and remembers platforms' keys. It is safe for use by many at once.
type Verifier struct {
	mu    sync.Mutex
	known map[string]*keySet
}

type keySet struct {
	jose.JSONWebKeySet
	read time.Time
	ask  *rate.Limiter
}

// keysHold is how long keys are taken as they were read. Unknown ones are asked for at once,
// but no more often than askEvery over time.
const (
	keysHold = time.Hour
	askEvery = 10 * time.Second
	askBurst = 5
)

// Verify checks a token of a platform, and reads the launch from it. nonce is the one that the
// login went out with, now the time. What is wrong is a [*Refused], each with its own code:
// bad-token, bad-algorithm, keys-away, unknown-key, bad-signature, other-issuer,
// other-audience, expired, not-yet-valid, other-nonce, no-deployment, other-deployment,
// other-version, other-message, bad-launch.
func (v *Verifier) Verify(ctx context.Context, p Platform, token, nonce string, now time.Time) (Launch, error) {
	const wrong = "What the platform sent could not be trusted, so nothing was opened. "
	t, err := jwt.ParseSigned(token, []jose.SignatureAlgorithm{jose.RS256})
	if err != nil {
		if strings.Contains(err.Error(), "unexpected signature algorithm") {
			return Launch{}, refuse("bad-algorithm", wrong+"It was not signed in the way that LTI asks for (RS256).", err)
		}
		return Launch{}, refuse("bad-token", wrong+"It cannot be read.", err)
	}
	key, r := v.key(ctx, p, t.Headers[0].KeyID)
	if r != nil {
		return Launch{}, r
	}
	var x idToken
	if err := t.Claims(key, &x); err != nil {
		return Launch{}, refuse("bad-signature", wrong+"It was signed with another key than the platform’s.", err)
	}
	if r := x.meant(p, nonce, now); r != nil {
		r.Detail = wrong + r.Detail
		return Launch{}, r
	}
	return x.launch()
}

// meant says what keeps a token from being meant for this tool, now.
func (x *idToken) meant(p Platform, nonce string, now time.Time) *Refused {
	switch {
	case x.Issuer != p.Issuer:
		return refuse("other-issuer", "It is of another platform.", fmt.Errorf("issuer %q", x.Issuer))
	case !x.Audience.Contains(p.ClientID), x.Azp != "" && x.Azp != p.ClientID, len(x.Audience) > 1 && x.Azp == "":
		return refuse("other-audience", "It was meant for another tool.", fmt.Errorf("audience %q, azp %q", x.Audience, x.Azp))
	case x.Expiry == nil || x.IssuedAt == nil:
		return refuse("bad-token", "It does not say when it was made and how long it holds.", nil)
	case now.After(x.Expiry.Time().Add(leeway)), now.Sub(x.IssuedAt.Time()) > oldest+leeway:
		return refuse("expired", "It is too old: open the activity again from the course. If this happens again, the clocks of the platform and of this server differ.", nil)
	case x.IssuedAt.Time().After(now.Add(leeway)), x.NotBefore != nil && x.NotBefore.Time().After(now.Add(leeway)):
		return refuse("not-yet-valid", "It comes from the future: the clocks of the platform and of this server differ.", nil)
	case nonce == "" || x.Nonce != nonce:
		return refuse("other-nonce", "It answers another login than yours. Open the activity again from the course.", nil)
	case x.Deployment == "":
		return refuse("no-deployment", "It does not say which deployment of the tool is meant.", nil)
	case len(p.Deployments) > 0 && !slices.Contains(p.Deployments, x.Deployment):
		return refuse("other-deployment", fmt.Sprintf("The deployment %.60q is not one that was registered here. Whoever owns the workspace can add it.", x.Deployment), nil)
	case x.Version != version:
		return refuse("other-version", "It is of another version of LTI than 1.3.", fmt.Errorf("version %q", x.Version))
	case x.Message != messageLink && x.Message != messageDeep:
		return refuse("other-message", "It is neither a launch nor a choice of activities.", fmt.Errorf("message %q", x.Message))
	}
	return nil
}

func (x *idToken) launch() (Launch, error) {
	l := Launch{Deployment: x.Deployment, Subject: x.Subject, Name: strings.Join(strings.Fields(x.Name), " "), Context: x.Context.ID, Course: strings.TrimSpace(x.Context.Title),
		Resource: x.Resource.ID, Title: x.Resource.Title, Target: x.Target, Return: x.Presentation.Return,
		LineItem: x.Grades.LineItem, LineItems: x.Grades.LineItems, Scopes: x.Grades.Scope, Members: x.Names.Members, Custom: custom(x.Custom)}
	if l.Name == "" {
		l.Name = strings.TrimSpace(x.Given + " " + x.Family)
	}
	if l.Course == "" {
		l.Course = x.Context.Label
	}
	for _, role := range x.Roles {
		l.Teacher = l.Teacher || teaches(role)
	}
	switch {
	case x.Subject == "" || len(x.Subject) > 255 || len(x.Deployment) > 255:
		return l, refuse("bad-launch", "The platform does not say who you are, so nothing was opened.", nil)
	case x.Message == messageLink && (x.Resource.ID == "" || len(x.Resource.ID) > 255):
		return l, refuse("bad-launch", "The platform does not say from which link you come, so nothing was opened.", nil)
	case x.Message == messageDeep && x.Deep.Return == "":
		return l, refuse("bad-launch", "The platform does not say where a choice is to go, so nothing was opened.", nil)
	}
	if x.Message == messageDeep {
		multiple := x.Deep.Multiple == nil || *x.Deep.Multiple
		l.Deep = &Deep{x.Deep.Return, x.Deep.Data, x.Deep.Types, multiple, x.Deep.LineItem == nil || *x.Deep.LineItem}
	}
	return l, nil
}

// custom reads parameters, of which platforms send numbers and truths beside texts.
func custom(body json.RawMessage) map[string]string {
	var any map[string]any
	if json.Unmarshal(body, &any) != nil {
		return nil
	}
	out := map[string]string{}
	for k, x := range any {
		out[k] = fmt.Sprint(x)
	}
	return out
}

// teaches says whether a role is of those who see what others did. Full names end with it
// after "#"; those of LTI 1.1 stand alone.
func teaches(role string) bool {
	if !strings.Contains(role, "/membership") && strings.Contains(role, "/") {
		return false // of the institution or the system: no teacher of this course
	}
	end := role[strings.LastIndexAny(role, "#/")+1:]
	return slices.Contains([]string{"Instructor", "TeachingAssistant", "ContentDeveloper", "Administrator"}, end)
}

// key finds a platform's key by its name.
func (v *Verifier) key(ctx context.Context, p Platform, id string) (*jose.JSONWebKey, *Refused) {
	const away = "The platform’s keys could not be read, so nothing was opened. Try again in a minute; if it stays so, whoever runs the platform can check that "
	v.mu.Lock()
	if v.known == nil {
		v.known = map[string]*keySet{}
	}
	set := v.known[p.Keys]
	if set == nil {
		set = &keySet{ask: rate.NewLimiter(rate.Every(askEvery), askBurst)}
		v.known[p.Keys] = set
	}
	fresh := time.Since(set.read) < keysHold
	found := set.Key(id)
	may := (!fresh || len(found) == 0) && set.ask.Allow()
	v.mu.Unlock()
	if may {
		var read jose.JSONWebKeySet
		if err := get(ctx, p.Keys, &read); err != nil {
			if len(found) == 0 {
				return nil, refuse("keys-away", away+p.Keys+" answers.", err)
			}
		} else {
			v.mu.Lock()
			set.JSONWebKeySet, set.read = read, time.Now()
			found = set.Key(id)
			v.mu.Unlock()
		}
	}
	for _, k := range found {
		if k.Valid() && k.IsPublic() && (k.Algorithm == "" || k.Algorithm == string(jose.RS256)) {
			return &k, nil
		}
	}
	return nil, refuse("unknown-key", "What the platform sent could not be trusted, so nothing was opened. It was signed with a key that the platform does not publish.", fmt.Errorf("key %q", id))
}
