package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"keenmagpie/core/play"
	"keenmagpie/formats/pack"
	"keenmagpie/formats/xapi"
	"keenmagpie/hosting"
	"keenmagpie/lti"
	"keenmagpie/platforms"
	"keenmagpie/store"
)

// By cmi5 a platform opens a release at an address of this server, and says where statements go.
// Anybody can open such an address with anything in it: so nothing is asked of a site that the
// workspace has not named (those that may show its releases in a frame).

const cmi5Path = "/cmi5/"

type leftInput struct {
	Link string `path:"link" maxLength:"40"`
	Body struct {
		Pass string `json:"pass" maxLength:"40"`
	}
}

func (s *Server) cmi5Routes() {
	s.router.Get(cmi5Path+"{link}", s.cmi5Launch)
	left := operation(http.MethodPost, "/api/play/{link}/left", "left", "A page that a platform opened is gone")
	left.DefaultStatus = http.StatusNoContent
	open(s, left, func(ctx context.Context, in *leftInput) (*struct{}, error) {
		a, err := s.store.Admitted(ctx, in.Body.Pass, store.ToPlay)
		if errors.Is(err, store.ErrNotFound) || err == nil && a.ArrivalID == nil {
			return nil, nil // whoever it was, nothing is under way
		}
		if err != nil {
			return nil, err
		}
		return nil, s.store.LeftCmi5(ctx, *a.ArrivalID, true)
	})
	designer(s, operation(http.MethodGet, "/api/releases/{id}/cmi5", "hostedCmi5", "A package for cmi5 that opens the release here, without its key"),
		func(ctx context.Context, m store.Member, in *idInput) (*huma.StreamResponse, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			b, _, err := s.hosting.Content(ctx, r)
			if err != nil {
				return nil, err
			}
			var body bytes.Buffer
			if err := pack.Hosted(&body, b, s.public+cmi5Path+r.Link); err != nil {
				return nil, err
			}
			return download("application/zip", b.ID()+"-cmi5-hosted.zip", func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
		})
}

// cmi5Asked is what a launch has in its address.
type cmi5Asked struct {
	endpoint, fetch, activity, registration string
	actor                                   json.RawMessage
	account                                 struct{ HomePage, Name string }
	name                                    string
}

func cmi5In(q url.Values) (a cmi5Asked, ok bool) {
	a = cmi5Asked{endpoint: strings.TrimRight(q.Get("endpoint"), "/") + "/", fetch: q.Get("fetch"), activity: q.Get("activityId"), registration: q.Get("registration"), actor: json.RawMessage(q.Get("actor"))}
	var actor struct {
		Name    string
		Account struct{ HomePage, Name string }
	}
	if json.Unmarshal(a.actor, &actor) != nil || actor.Account.Name == "" || len(a.actor) > 4000 || len(a.endpoint) > 500 || len(a.activity) > 500 {
		return a, false
	}
	a.account, a.name = actor.Account, strings.Join(strings.Fields(actor.Name), " ")
	_, err := uuid.Parse(a.registration)
	return a, err == nil && a.activity != "" && a.fetch != ""
}

// cmi5Launch lets somebody in whom a platform sends by cmi5.
func (s *Server) cmi5Launch(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	refuse := func(err error) { s.refuseLaunch(w, r, store.Platform{Issuer: r.URL.Query().Get("endpoint")}, err) }
	a, ok := cmi5In(r.URL.Query())
	if !ok {
		refuse(&Problem{Status: 422, Code: "bad-launch", Detail: "This address is for a learning platform, which opens it by cmi5 and says who comes. Opened by hand it shows nothing."})
		return
	}
	release, err := s.store.ReleaseByLink(ctx, chi.URLParam(r, "link"))
	if errors.Is(err, store.ErrNotFound) {
		err = &Problem{Status: 404, Code: "no-release", Detail: "This link leads to no activity. Check it with whoever gave it to you."}
	}
	if err != nil {
		refuse(err)
		return
	}
	allowed, err := s.store.In(release.WorkspaceID).Frames(ctx)
	if err != nil {
		refuse(err)
		return
	}
	for _, address := range []string{a.endpoint, a.fetch} {
		if !lti.Address(address, s.here()) || !slices.Contains(allowed, lti.Origin(address)) {
			refuse(&Problem{Status: 403, Code: "other-site", Detail: "The platform that opens this is not one that the workspace has named. A designer can name it where the release is got out: Sites that may show this workspace’s releases."})
			return
		}
	}
	to, err := s.admitCmi5(ctx, release, a)
	if err != nil {
		refuse(err)
		return
	}
	w.Header().Set("Cache-Control", "no-store")
	http.Redirect(w, r, s.base+to, http.StatusSeeOther)
}

// admitCmi5 begins a session, and says where its page is.
func (s *Server) admitCmi5(ctx context.Context, release store.Release, a cmi5Asked) (string, error) {
	if !s.platforms.Ready() {
		return "", noSecret(platforms.ErrNoSecret)
	}
	token, data, err := s.platforms.Cmi5(ctx, a.fetch, a.endpoint, a.actor, a.activity, a.registration)
	var answered *lti.Answered
	if errors.As(err, &answered) || err != nil && lti.Unreached(err) {
		return "", &Problem{Status: 502, Code: "platform-away", Detail: "The platform did not answer when it was asked what it wants. Open the activity again from the course."}
	}
	if err != nil {
		return "", err
	}
	in := s.store.In(release.WorkspaceID)
	origin := lti.Origin(a.endpoint)
	p, err := in.OwnPlatform(ctx, origin, strings.TrimPrefix(strings.TrimPrefix(origin, "https://"), "http://")+" (cmi5)")
	if err != nil {
		return "", err
	}
	said, err := json.Marshal(lti.Launch{Deployment: "cmi5", Subject: a.account.Name, Resource: a.activity, Return: data.Return})
	if err != nil {
		return "", err
	}
	arrival, _, err := in.Arrive(ctx, store.Comer{PlatformID: p.ID, Deployment: "cmi5", Resource: a.activity + " " + a.registration, Context: "cmi5", Course: "By cmi5",
		Subject: a.account.HomePage + " " + a.account.Name, Name: a.name, Launch: string(said)})
	if err != nil {
		return "", err
	}
	if err := s.hosting.EndLaunch(ctx, arrival.ID); err != nil {
		return "", err
	}
	if data.Mode != "Normal" {
		if x, err := s.store.SittingOfArrival(ctx, release.ID, arrival.ID); err != nil || play.Phase(x.Phase) != play.Done {
			return "", &Problem{Status: 404, Code: "nothing-to-see", Detail: "The platform opened this to look at what was done, and nothing has been finished yet. Open it normally to play."}
		}
	}
	l := xapi.Launch{Actor: a.actor, Activity: a.activity, Registration: a.registration, Template: data.Template, Mastery: data.Mastery, Mode: data.Mode, Return: data.Return}
	body, err := json.Marshal(l)
	if err != nil {
		return "", err
	}
	x := store.Cmi5Session{ID: store.NewID(), PlatformID: p.ID, ArrivalID: arrival.ID, Endpoint: a.endpoint, Launch: string(body), BegunAt: s.clock().UTC()}
	if x.Sealed, err = s.platforms.Seal("cmi5 session "+x.ID, token); err != nil {
		return "", err
	}
	if before, err := s.store.Cmi5Of(ctx, arrival.ID); err == nil { // of the same registration: what was said is said
		x.Completed, x.Judged = before.Completed, before.Judged
	} else if !errors.Is(err, store.ErrNotFound) {
		return "", err
	}
	if err := s.store.BeginCmi5(ctx, x, []store.Post{hosting.PostOf(x, release.WorkspaceID, l.Initialized(uuid.New(), s.clock()))}); err != nil {
		return "", err
	}
	ticket, err := s.store.Admit(ctx, store.Admission{PlatformID: p.ID, ArrivalID: &arrival.ID, Kind: store.ToPlay, Link: release.Link, Launch: string(said)})
	return "/play/" + release.Link + "?ticket=" + ticket, err
}
