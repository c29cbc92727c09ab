package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"keenmagpie/core/message"
	"keenmagpie/lti"
	"keenmagpie/platforms"
	"keenmagpie/store"
)

// Platform is a learning platform that the workspace is connected with.
type Platform struct {
	ID          string    `json:"id"`
	Name        string    `json:"name"`
	Issuer      string    `json:"issuer"`
	ClientID    string    `json:"clientId"`
	Deployments []string  `json:"deployments" nullable:"false"`
	Confirmed   bool      `json:"confirmed" doc:"By an owner: nobody comes by it before"`
	AddedAt     time.Time `json:"addedAt"`
}

// Addresses are what a platform is told of the tool where it is registered by hand.
type Addresses struct {
	Tool   string `json:"tool"`
	Login  string `json:"login"`
	Launch string `json:"launch"`
	Keys   string `json:"keys"`
}

// Stuck is something that could not be sent.
type Stuck struct {
	At      time.Time `json:"at"`
	Kind    string    `json:"kind" enum:"grade,statement,cmi5"`
	Refused bool      `json:"refused" doc:"For good; what is not is tried again by itself"`
	Tries   int       `json:"tries"`
	Answer  string    `json:"answer"`
}

// Connections are a workspace's platforms, and how it stands with what is sent.
type Connections struct {
	Ready     bool       `json:"ready" doc:"The installation has a secret, so platforms can be connected"`
	Platforms []Platform `json:"platforms" nullable:"false"`
	Addresses Addresses  `json:"addresses"`
	Waiting   int        `json:"waiting" doc:"What is still to be sent"`
	Refused   int        `json:"refused"`
	Stuck     []Stuck    `json:"stuck" nullable:"false"`
	// Records is where statements go; nil: nowhere.
	Records *Records `json:"records,omitempty"`
}

// Records is a record store, without its password.
type Records struct {
	Endpoint string `json:"endpoint"`
	User     string `json:"user"`
}

type recordsInput struct {
	Body struct {
		Endpoint string `json:"endpoint" maxLength:"500"`
		User     string `json:"user" minLength:"1" maxLength:"200"`
		Password string `json:"password" minLength:"1" maxLength:"500"`
	}
}

type connectionsOutput struct{ Body Connections }

type platformBody struct {
	Name        string   `json:"name" minLength:"1" maxLength:"200"`
	Deployments []string `json:"deployments" nullable:"false" maxItems:"50"`
	Confirmed   bool     `json:"confirmed"`
}

type keepPlatformInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body platformBody
}

type addPlatformInput struct {
	Body struct {
		Name        string   `json:"name" minLength:"1" maxLength:"200"`
		Issuer      string   `json:"issuer" maxLength:"255"`
		ClientID    string   `json:"clientId" minLength:"1" maxLength:"255"`
		Deployments []string `json:"deployments" nullable:"false" maxItems:"50"`
		Auth        string   `json:"auth" maxLength:"500" doc:"Where logins are answered"`
		Token       string   `json:"token" maxLength:"500"`
		Keys        string   `json:"keys" maxLength:"500"`
	}
}

type registrationOutput struct {
	Body struct {
		URL string `json:"url" doc:"For the platform, once"`
	}
}

type againOutput struct {
	Body struct {
		Grades int `json:"grades" doc:"How many are sent"`
	}
}

// stuckShown is how much of what could not be sent is listed.
const stuckShown = 20

func (s *Server) platformRoutes() {
	owner(s, operation(http.MethodGet, "/api/platforms", "platforms", "The learning platforms that the workspace is connected with"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*connectionsOutput, error) {
			return s.connections(ctx, m)
		})
	owner(s, created(operation(http.MethodPost, "/api/platforms", "addPlatform", "Connect a platform by hand")), s.addPlatform)
	owner(s, created(operation(http.MethodPost, "/api/platforms/registration", "registerPlatform", "Make an address by which a platform registers the tool, once")),
		func(ctx context.Context, m store.Member, _ *struct{}) (*registrationOutput, error) {
			if _, err := s.platforms.Keys(ctx); err != nil {
				return nil, noSecret(err)
			}
			t, err := s.store.AddTicket(ctx, store.Ticket{Kind: store.ForConnecting, WorkspaceID: &m.WorkspaceID, AccountID: &m.ID, MadeBy: m.Name}, ticketHolds)
			out := &registrationOutput{}
			out.Body.URL = s.public + registerPath + t
			return out, err
		})
	owner(s, operation(http.MethodPut, "/api/platforms/{id}", "keepPlatform", "Confirm a platform, call it otherwise, or say which of its deployments may come"),
		func(ctx context.Context, m store.Member, in *keepPlatformInput) (*connectionsOutput, error) {
			list, p := deployments(in.Body.Deployments)
			if p != nil {
				return nil, p
			}
			err := s.store.In(m.WorkspaceID).KeepPlatform(ctx, store.Platform{ID: in.ID, Name: in.Body.Name, Deployed: list, Confirmed: in.Body.Confirmed})
			if err != nil {
				return nil, err
			}
			return s.connections(ctx, m)
		})
	owner(s, operation(http.MethodDelete, "/api/platforms/{id}", "dropPlatform", "End the connection with a platform"),
		func(ctx context.Context, m store.Member, in *idInput) (*connectionsOutput, error) {
			if err := s.store.In(m.WorkspaceID).DropPlatform(ctx, in.ID); err != nil {
				return nil, err
			}
			return s.connections(ctx, m)
		})
	owner(s, operation(http.MethodPost, "/api/outbox", "sendAgain", "Send what was refused, or waits to be tried again, now"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*connectionsOutput, error) {
			if err := s.store.In(m.WorkspaceID).PostAgain(ctx); err != nil {
				return nil, err
			}
			return s.connections(ctx, m)
		})
	owner(s, operation(http.MethodPut, "/api/records", "keepRecords", "Give the workspace a record store, to which statements go"), s.keepRecords)
	owner(s, operation(http.MethodDelete, "/api/records", "dropRecords", "Send statements nowhere any more"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*connectionsOutput, error) {
			if err := s.store.In(m.WorkspaceID).DropRecordStore(ctx); err != nil {
				return nil, err
			}
			s.hosting.RecordsChanged(m.WorkspaceID)
			return s.connections(ctx, m)
		})
	designer(s, operation(http.MethodPost, "/api/releases/{id}/grades", "sendGrades", "Send platforms the grades of a release as they stand now, as after a re-mark"),
		func(ctx context.Context, m store.Member, in *idInput) (*againOutput, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			posts, err := s.hosting.GradesAgain(ctx, r)
			if err != nil {
				return nil, err
			}
			out := &againOutput{}
			out.Body.Grades = len(posts)
			return out, s.store.AddPosts(ctx, posts)
		})
}

func (s *Server) connections(ctx context.Context, m store.Member) (*connectionsOutput, error) {
	t := s.tool()
	out := &connectionsOutput{Connections{Ready: s.platforms.Ready(), Platforms: []Platform{}, Addresses: Addresses{t.URL, t.Login, t.Launch, t.Keys}, Stuck: []Stuck{}}}
	list, err := s.store.In(m.WorkspaceID).Platforms(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range list {
		out.Body.Platforms = append(out.Body.Platforms, Platform{p.ID, p.Name, p.Issuer, p.ClientID, append([]string{}, p.Deployments()...), p.Confirmed, p.AddedAt})
	}
	records, err := s.store.In(m.WorkspaceID).RecordStore(ctx)
	switch {
	case err == nil:
		out.Body.Records = &Records{records.Endpoint, records.User}
	case !errors.Is(err, store.ErrNotFound):
		return nil, err
	}
	box, err := s.store.In(m.WorkspaceID).Outbox(ctx)
	if err != nil {
		return nil, err
	}
	out.Body.Waiting, out.Body.Refused = box.Waiting, box.Refused
	stuck, err := s.store.In(m.WorkspaceID).StuckPosts(ctx, stuckShown)
	for _, p := range stuck {
		out.Body.Stuck = append(out.Body.Stuck, Stuck{p.MadeAt, p.Kind, p.State == "refused", p.Tries, p.Answer})
	}
	return out, err
}

// keepRecords gives the workspace a record store that answers now.
func (s *Server) keepRecords(ctx context.Context, m store.Member, in *recordsInput) (*connectionsOutput, error) {
	endpoint := strings.TrimRight(strings.TrimSpace(in.Body.Endpoint), "/") + "/"
	if !lti.Address(endpoint, s.here()) {
		return nil, said(422, "bad-address", "{given} is not the https address of a record store. Nothing was changed.", message.P{"given": fmt.Sprintf("%.80q", in.Body.Endpoint)})
	}
	err := s.platforms.KeepRecordStore(ctx, m.WorkspaceID, endpoint, in.Body.User, in.Body.Password)
	var answered *lti.Answered
	switch {
	case errors.Is(err, platforms.ErrNoSecret):
		return nil, noSecret(err)
	case errors.As(err, &answered):
		return nil, said(422, "records-refuse", "The record store answered {status} to the question what it is. Check the address, the key and its secret. Nothing was changed.", message.P{"status": answered.Status})
	case err != nil && lti.Unreached(err):
		return nil, &Problem{Status: 422, Code: "records-away", Detail: "Nothing answers at this address. Nothing was changed."}
	case err != nil:
		return nil, err
	}
	s.hosting.RecordsChanged(m.WorkspaceID)
	return s.connections(ctx, m)
}

// deployments are several as they are kept: one a line.
func deployments(list []string) (string, *Problem) {
	for _, d := range list {
		if d == "" || len(d) > 255 || strings.ContainsAny(d, " \t\r\n") {
			return "", said(422, "bad-deployment", "{given} is not the id of a deployment: it is one word of up to 255 letters. Nothing was changed.", message.P{"given": fmt.Sprintf("%.60q", d)})
		}
	}
	return strings.Join(list, "\n"), nil
}

func (s *Server) addPlatform(ctx context.Context, m store.Member, in *addPlatformInput) (*connectionsOutput, error) {
	if _, err := s.platforms.Keys(ctx); err != nil {
		return nil, noSecret(err)
	}
	x := in.Body
	for _, address := range []string{x.Issuer, x.Auth, x.Token, x.Keys} {
		if !lti.Address(address, s.here()) {
			return nil, said(422, "bad-address", "{given} is not an https address. The platform lists its addresses where the tool is registered. Nothing was changed.", message.P{"given": fmt.Sprintf("%.80q", address)})
		}
	}
	list, p := deployments(x.Deployments)
	if p != nil {
		return nil, p
	}
	_, err := s.store.In(m.WorkspaceID).AddPlatform(ctx, store.Platform{Name: x.Name, Issuer: x.Issuer, ClientID: x.ClientID, Deployed: list, Auth: x.Auth, Token: x.Token, Keys: x.Keys, Confirmed: true})
	if errors.Is(err, store.ErrTaken) {
		return nil, &Problem{Status: 409, Code: "taken", Detail: "A workspace is connected with this platform under this client ID already. Nothing was changed."}
	}
	if err != nil {
		return nil, err
	}
	return s.connections(ctx, m)
}
