package server

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"keenmagpie/hosting"
	"keenmagpie/lti"
	"keenmagpie/platforms"
	"keenmagpie/store"
)

// WithSecret gives the secret with which an installation's keys are encrypted.
func WithSecret(secret []byte) Option { return func(s *Server) { s.secret = secret } }

// Platforms is what connects the server with learning platforms.
func (s *Server) Platforms() *platforms.Service { return s.platforms }

// How a platform reaches the tool.
const (
	loginPath    = "/lti/login"
	launchPath   = "/lti/launch"
	keysPath     = "/lti/keys"
	registerPath = "/lti/register/"
	choosePath   = "/lti/choose"
	seePath      = "/lti/results"
	newestPath   = "/newest/"
)

//go:embed lti.js
var ltiScript []byte

func (s *Server) launchRoutes() {
	s.router.Get(loginPath, s.ltiLogin)
	s.router.Post(loginPath, s.ltiLogin)
	s.router.Post(launchPath, s.ltiLaunch)
	s.router.Get(registerPath+"{ticket}", s.ltiRegister)
	s.router.Get(keysPath, func(w http.ResponseWriter, r *http.Request) {
		list, err := s.platforms.Keys(r.Context())
		if err != nil {
			writeProblem(w, s.problem(r.Context(), "ltiKeys", noSecret(err)))
			return
		}
		w.Header().Set("Content-Type", "application/json")
		w.Header().Set("Cache-Control", "public, max-age=300")
		_ = json.NewEncoder(w).Encode(lti.Public(list...))
	})
	s.router.Get("/lti/page.js", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/javascript; charset=utf-8")
		_, _ = w.Write(ltiScript)
	})
}

// noSecret says what is missing where there can be no keys.
func noSecret(err error) error {
	if errors.Is(err, platforms.ErrNoSecret) {
		return &Problem{Status: 503, Code: "no-secret", Detail: "Learning platforms cannot be connected here yet: whoever runs Keen Magpie has to give it a secret file first (--secret-file)."}
	}
	return err
}

var launchPage = template.Must(template.New("").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>{{.Title}}</title>
<style>body{font:16px/1.5 system-ui,sans-serif;margin:0;padding:3rem 1.5rem;background:#f6f5f1;color:#22262d}main{max-width:34rem;margin:auto}h1{font-size:1.3rem;margin:0 0 .5rem}p{margin:.5rem 0}code{color:#5c6470}a{color:#1f5f8b}</style></head>
<body data-do="{{.Do}}" data-origin="{{.Origin}}" data-target="{{.Target}}" data-key="{{.Key}}" data-value="{{.Value}}" data-to="{{.To}}"><main>
{{if .Form}}<form method="post" action="{{.Form}}"><input type="hidden" name="state" value="{{.Key}}"><input type="hidden" name="id_token" value="{{.Token}}"><input type="hidden" name="proof"></form>{{end}}
<h1>{{.Title}}</h1>{{if .Detail}}<p>{{.Detail}}</p>{{end}}{{if .Link}}<p><a href="{{.Link}}" target="_blank" rel="noopener">Open Keen Magpie</a></p>{{end}}{{if .Code}}<p><code>{{.Code}}</code></p>{{end}}
<p id="trouble" hidden>Your browser keeps nothing for this page, and the platform does not either. Open the activity in a window of its own.</p>
</main>{{if .Do}}<script src="{{.Script}}"></script>{{end}}</body></html>`))

type launchView struct {
	Title, Detail, Code, Link string
	// Of what the page's script does.
	Do, Origin, Target, Key, Value, To, Form, Token, Script string
}

// showLaunch shows a page of a launch, which pages of one site may have in a frame.
func (s *Server) showLaunch(w http.ResponseWriter, status int, ancestor string, v launchView) {
	v.Script = s.base + "/lti/page.js"
	allowFrames(w, ancestor)
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = launchPage.Execute(w, v)
}

// allowFrames lets pages of some origins have the answer in a frame.
func allowFrames(w http.ResponseWriter, origins ...string) {
	list := strings.TrimSpace(strings.Join(origins, " "))
	if list == "" {
		return
	}
	policy := w.Header().Get("Content-Security-Policy")
	w.Header().Set("Content-Security-Policy", strings.Replace(policy, "frame-ancestors 'none'", "frame-ancestors "+list, 1))
}

// refuseLaunch tells a person why nothing was opened, and the log what it was.
func (s *Server) refuseLaunch(w http.ResponseWriter, r *http.Request, p store.Platform, err error) {
	v, status := launchView{Title: "This could not be opened"}, http.StatusForbidden
	var refused *lti.Refused
	var problem *Problem
	var refusal *hosting.Refusal
	why := ""
	switch {
	case errors.As(err, &refused):
		v.Detail, v.Code, why = refused.Detail, refused.Code, refused.Error()
	case errors.As(err, &problem):
		v.Detail, v.Code, status = problem.Detail, problem.Code, problem.Status
	case errors.As(err, &refusal):
		v.Detail, v.Code = refusal.Detail, refusal.Code
	default:
		q := s.problem(r.Context(), "launch", err)
		v.Detail, v.Code, status = q.Detail, q.Code, q.Status
	}
	s.log.Warn("a launch was refused", "code", v.Code, "platform", p.ID, "request", middleware.GetReqID(r.Context()), "error", why)
	s.showLaunch(w, status, strings.Join(originsOf(p), " "), v)
}

// originsOf are the sites of a platform that may have the tool in a frame.
func originsOf(p store.Platform) []string {
	list := []string{}
	for _, address := range []string{p.Issuer, p.Auth} {
		if o := lti.Origin(address); o != "" {
			list = append(list, o)
		}
	}
	return list
}

func launchCookie(state string) string { return "magpie_launch_" + state[:min(len(state), 10)] }

// ltiLogin answers a platform that wants to send somebody: it is sent back there to say who.
func (s *Server) ltiLogin(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	r.Body = http.MaxBytesReader(w, r.Body, 64<<10)
	if err := r.ParseForm(); err != nil {
		s.refuseLaunch(w, r, store.Platform{}, &lti.Refused{Code: "bad-login", Detail: "What the platform sent cannot be read."})
		return
	}
	if err := within(ctx, s.begins, "who begin"); err != nil {
		s.refuseLaunch(w, r, store.Platform{}, err)
		return
	}
	list, err := s.store.PlatformsOf(ctx, r.Form.Get("iss"), r.Form.Get("client_id"))
	switch {
	case err != nil:
		s.refuseLaunch(w, r, store.Platform{}, err)
		return
	case len(list) == 0: // the page says nothing of anybody, so whoever asks may show it
		s.refuseLaunch(w, r, store.Platform{Issuer: r.Form.Get("iss")}, &lti.Refused{Code: "unknown-platform", Detail: "This platform is not connected with any workspace here, or its connection has not been confirmed yet. Whoever owns the workspace can do that, under Platforms."})
		return
	case len(list) > 1:
		s.refuseLaunch(w, r, list[0], &lti.Refused{Code: "no-client", Detail: "The platform does not say which of its connections is meant (client_id), and there are several."})
		return
	}
	p, storage := list[0], r.Form.Get("lti_storage_target")
	if len(storage) > 200 {
		storage = ""
	}
	l, err := s.store.AddLogin(ctx, store.Login{PlatformID: p.ID, Storage: storage})
	if err != nil {
		s.refuseLaunch(w, r, p, err)
		return
	}
	http.SetCookie(w, &http.Cookie{Name: launchCookie(l.State), Value: l.Proof, Path: s.base + launchPath, HttpOnly: true, Secure: s.secure, Partitioned: s.secure,
		SameSite: map[bool]http.SameSite{true: http.SameSiteNoneMode, false: http.SameSiteLaxMode}[s.secure], MaxAge: int(store.LoginHolds.Seconds())})
	to, err := url.Parse(p.Auth)
	if err != nil {
		s.refuseLaunch(w, r, p, err)
		return
	}
	q := to.Query()
	for k, v := range map[string]string{"scope": "openid", "response_type": "id_token", "response_mode": "form_post", "prompt": "none", "client_id": p.ClientID,
		"redirect_uri": s.public + launchPath, "login_hint": r.Form.Get("login_hint"), "lti_message_hint": r.Form.Get("lti_message_hint"), "state": l.State, "nonce": l.Nonce} {
		if v != "" {
			q.Set(k, v)
		}
	}
	to.RawQuery = q.Encode()
	if storage == "" {
		w.Header().Set("Cache-Control", "no-store")
		http.Redirect(w, r, to.String(), http.StatusSeeOther)
		return
	}
	s.showLaunch(w, http.StatusOK, strings.Join(originsOf(p), " "), launchView{Title: "Opening…", Do: "keep", Origin: lti.Origin(p.Auth), Target: storage, Key: l.State, Value: l.Proof, To: to.String()})
}

// ltiLaunch takes what a platform says of somebody, and lets them in.
func (s *Server) ltiLaunch(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	r.Body = http.MaxBytesReader(w, r.Body, 256<<10)
	used := &lti.Refused{Code: "used-login", Detail: "This was opened before, or too long ago. Open the activity again from the course."}
	if err := r.ParseForm(); err != nil {
		s.refuseLaunch(w, r, store.Platform{}, &lti.Refused{Code: "bad-token", Detail: "What the platform sent cannot be read.", Cause: err})
		return
	}
	state := r.PostForm.Get("state")
	login, err := s.store.Login(ctx, state)
	if errors.Is(err, store.ErrNotFound) {
		err = used
	}
	var p store.Platform
	if err == nil {
		p, err = s.store.PlatformByID(ctx, login.PlatformID)
	}
	if err == nil && r.PostForm.Get("error") != "" {
		err = &lti.Refused{Code: "platform-says-no", Detail: "The platform did not say who you are. Sign in there, then open the activity again."}
	}
	if err != nil {
		s.refuseLaunch(w, r, p, err)
		return
	}
	proof := r.PostForm.Get("proof")
	if c, err := r.Cookie(launchCookie(state)); err == nil {
		proof = c.Value
	}
	if proof == "" && login.Storage != "" && !r.PostForm.Has("proof") {
		s.showLaunch(w, http.StatusOK, strings.Join(originsOf(p), " "), launchView{Title: "Opening…", Do: "show", Origin: lti.Origin(p.Auth), Target: login.Storage, Key: state, Form: s.base + launchPath, Token: r.PostForm.Get("id_token")})
		return
	}
	if proof != login.Proof {
		s.refuseLaunch(w, r, p, &lti.Refused{Code: "other-browser", Detail: "This browser did not ask for what the platform answers, or keeps no cookies for it. Open the activity in a window of its own, or allow cookies for this site."})
		return
	}
	l, err := s.platforms.Verify(ctx, platforms.Of(p), r.PostForm.Get("id_token"), login.Nonce, s.clock())
	if err != nil {
		s.refuseLaunch(w, r, p, err)
		return
	}
	if err := s.store.UseLogin(ctx, state); err != nil {
		if errors.Is(err, store.ErrNotFound) {
			err = used
		}
		s.refuseLaunch(w, r, p, err)
		return
	}
	if len(p.Deployments()) == 0 {
		if err := s.store.Deploy(ctx, p.ID, l.Deployment); err != nil && !errors.Is(err, store.ErrTaken) {
			s.refuseLaunch(w, r, p, err)
			return
		}
	}
	to, err := s.admit(ctx, p, l)
	if err != nil {
		s.refuseLaunch(w, r, p, err)
		return
	}
	w.Header().Set("Cache-Control", "no-store")
	http.Redirect(w, r, s.base+to, http.StatusSeeOther)
}

// admit lets somebody in to what they come for, and says where that is.
func (s *Server) admit(ctx context.Context, p store.Platform, l lti.Launch) (to string, err error) {
	a := store.Admission{PlatformID: p.ID}
	name := l.Name
	l.Name = "" // it stands in the roster, and is forgotten with it
	// What this server asks, or people are sent to, is where platforms can be.
	for _, address := range []*string{&l.LineItem, &l.LineItems, &l.Members, &l.Return} {
		if !lti.Address(*address, s.here()) {
			*address = ""
		}
	}
	if l.Deep != nil && !lti.Address(l.Deep.Return, s.here()) {
		return "", &lti.Refused{Code: "bad-launch", Detail: "The platform does not say where a choice is to go, so nothing was opened."}
	}
	body, err := json.Marshal(l)
	if err != nil {
		return "", err
	}
	a.Launch = string(body)
	if l.Deep != nil {
		if !l.Teacher {
			return "", &Problem{Status: 403, Code: "not-a-teacher", Detail: "Only those who teach a course can choose what it links to."}
		}
		a.Kind = store.ToChoose
		ticket, err := s.store.Admit(ctx, a)
		return choosePath + "?ticket=" + ticket, err
	}
	r, err := s.meant(ctx, p, l)
	if err != nil {
		return "", err
	}
	a.Link = r.Link
	if l.Teacher {
		a.Kind = store.ToSee
		ticket, err := s.store.Admit(ctx, a)
		return seePath + "?ticket=" + ticket, err
	}
	arrival, _, err := s.store.In(p.WorkspaceID).Arrive(ctx, store.Comer{PlatformID: p.ID, Deployment: l.Deployment, Resource: l.Resource, Context: l.Context, Course: l.Course,
		Subject: l.Subject, Name: name, Launch: a.Launch, LineItem: l.LineItem})
	if err != nil {
		return "", err
	}
	a.Kind, a.ArrivalID = store.ToPlay, &arrival.ID
	ticket, err := s.store.Admit(ctx, a)
	return "/play/" + r.Link + "?ticket=" + ticket, err
}

// meant finds the release that a link of a platform means: one, or always the newest of an
// activity. It has to be of the workspace that the platform is connected with.
func (s *Server) meant(ctx context.Context, p store.Platform, l lti.Launch) (store.Release, error) {
	nothing := &Problem{Status: 404, Code: "no-release", Detail: "This link leads to no activity of the workspace that the platform is connected with. Whoever teaches the course can choose one again."}
	link, activity := l.Custom["release"], l.Custom["newest"]
	if u, err := url.Parse(l.Target); err == nil && link == "" && activity == "" {
		path := strings.TrimPrefix(u.Path, s.base)
		if rest, ok := strings.CutPrefix(path, "/play/"); ok {
			link = rest
		} else if rest, ok := strings.CutPrefix(path, newestPath); ok {
			activity = rest
		}
	}
	if activity != "" {
		list, err := s.store.In(p.WorkspaceID).Releases(ctx, activity)
		if err != nil || len(list) == 0 {
			return store.Release{}, errors.Join(err, nothing)
		}
		return list[0], nil
	}
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) || err == nil && r.WorkspaceID != p.WorkspaceID {
		err = nothing
	}
	return r, err
}

// ltiRegister registers the tool with a platform that was given this address.
func (s *Server) ltiRegister(w http.ResponseWriter, r *http.Request) {
	ctx, q := r.Context(), r.URL.Query()
	fail := func(err error) { s.refuseLaunch(w, r, store.Platform{Issuer: q.Get("openid_configuration")}, err) }
	t, err := s.store.Ticket(ctx, chi.URLParam(r, "ticket"))
	switch {
	case errors.Is(err, store.ErrNotFound) || err == nil && (t.Kind != store.ForConnecting || t.WorkspaceID == nil):
		fail(&Problem{Status: 404, Code: "no-ticket", Detail: "This address was used before, or is too old. Whoever owns the workspace can make another, under Platforms."})
		return
	case err != nil:
		fail(err)
		return
	case q.Get("openid_configuration") == "":
		fail(&Problem{Status: 422, Code: "by-platform-alone", Detail: "This address is for a learning platform: paste it there, where tools are registered."})
		return
	}
	if _, err := s.platforms.Keys(ctx); err != nil {
		fail(noSecret(err))
		return
	}
	known, name, err := lti.Register(ctx, q.Get("openid_configuration"), q.Get("registration_token"), s.tool(), s.here())
	if err != nil {
		fail(err)
		return
	}
	_, err = s.store.In(*t.WorkspaceID).AddPlatform(ctx, store.Platform{Name: name, Issuer: known.Issuer, ClientID: known.ClientID, Deployed: strings.Join(known.Deployments, "\n"),
		Auth: known.Auth, Token: known.Token, Keys: known.Keys})
	if errors.Is(err, store.ErrTaken) {
		err = &Problem{Status: 409, Code: "taken", Detail: "This platform is connected under the same name already."}
	}
	if err == nil {
		err = s.store.EndTicket(ctx, chi.URLParam(r, "ticket"))
	}
	if err != nil {
		fail(err)
		return
	}
	s.showLaunch(w, http.StatusOK, strings.Join(originsOf(store.Platform{Issuer: q.Get("openid_configuration")}), " "),
		launchView{Title: "Keen Magpie is registered with " + name, Detail: "Nobody can come from it until an owner of the workspace confirms it, under Platforms.", Link: s.public + "/platforms", Do: "close"})
}

// tool is how the tool describes itself.
func (s *Server) tool() lti.Tool {
	return lti.Tool{Name: "Keen Magpie", About: "Sorting, matching, sequencing, labelling and gap text activities, judged and scored", URL: s.public,
		Login: s.public + loginPath, Launch: s.public + launchPath, Keys: s.public + keysPath, Logo: s.public + "/magpie.svg"}
}

// here says whether the server is reached on its own machine alone, where platforms may be too.
func (s *Server) here() bool {
	u, err := url.Parse(s.public)
	return err == nil && u.Scheme == "http"
}

// ticketHolds is how long an address for registering holds.
const ticketHolds = 24 * time.Hour
