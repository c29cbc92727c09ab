package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/mail"
	"os"
	"strings"
	"text/tabwriter"

	"keenmagpie/server"
	"keenmagpie/store"
)

// welcome prints, where nobody can sign in yet, the address at which the first owner makes
// an account and a workspace.
func welcome(ctx context.Context, st *store.Store, address string) error {
	some, err := st.HasAccounts(ctx)
	if err != nil || some {
		return err
	}
	token, err := st.AddTicket(ctx, store.Ticket{Kind: store.ForFirstOwner}, server.OwnerTicketHolds)
	if err != nil {
		return err
	}
	fmt.Printf("\nThere is no account yet. Whoever opens this address within an hour makes the first one,\nand a workspace that it owns:\n\n  %s%s\n\nAnother start prints a new address, and ends this one.\n", address, server.TicketPath(token))
	return nil
}

type accountCmd struct {
	Add   accountAddCmd   `cmd:"" help:"Invite somebody: prints a link, good for seven days and once, at which they choose a name and a password."`
	Reset accountResetCmd `cmd:"" help:"Print a link, good for an hour and once, at which somebody sets a new password."`
	List  accountListCmd  `cmd:"" help:"List all accounts, with their workspaces and last visits."`
}

// linking is what commands need that print links to an installation.
type linking struct {
	database
	PublicURL string `help:"Address at which people reach the server." name:"public-url" default:"http://127.0.0.1:8090"`
}

func (d *linking) print(token string) {
	fmt.Println(strings.TrimSuffix(d.PublicURL, "/") + server.TicketPath(token))
}

type accountAddCmd struct {
	Email     string `arg:"" help:"Address of the person."`
	Workspace string `help:"Name of the workspace. It is made where there is none of this name." required:""`
	Role      string `help:"designer, reviewer or viewer." enum:"designer,reviewer,viewer" default:"designer"`
	Owner     bool   `help:"Let them own the workspace: see to people and learners' data."`
	linking
}

// Run invites.
func (c *accountAddCmd) Run() error {
	ctx := context.Background()
	email := strings.ToLower(strings.TrimSpace(c.Email))
	if a, err := mail.ParseAddress(email); err != nil || a.Address != email {
		return fmt.Errorf("%q is not an email address; nothing was made", c.Email)
	}
	if c.Owner && c.Role != string(store.Designer) {
		return errors.New("an owner is a designer as well: leave --role out; nothing was made")
	}
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer st.Close()
	workspace, err := st.WorkspaceNamed(ctx, c.Workspace)
	if errors.Is(err, store.ErrNotFound) {
		if workspace, err = st.AddWorkspace(ctx, c.Workspace); err == nil {
			c.Owner = true // or nobody would answer for it
		}
	}
	if err != nil {
		return err
	}
	token, err := st.AddTicket(ctx, store.Ticket{Kind: store.ForJoining, WorkspaceID: &workspace, Email: email, Role: store.Role(c.Role), Owner: c.Owner, MadeBy: "the command line"}, server.InvitationHolds)
	if err == nil {
		c.print(token)
	}
	return err
}

type accountResetCmd struct {
	Email string `arg:"" help:"Address of the account."`
	linking
}

// Run makes a link for a new password.
func (c *accountResetCmd) Run() error {
	ctx := context.Background()
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer st.Close()
	a, err := st.AccountByEmail(ctx, strings.ToLower(strings.TrimSpace(c.Email)))
	if errors.Is(err, store.ErrNotFound) {
		return fmt.Errorf("there is no account with the address %q", c.Email)
	}
	if err != nil {
		return err
	}
	token, err := st.AddTicket(ctx, store.Ticket{Kind: store.ForPassword, AccountID: &a.ID, Email: a.Email, MadeBy: "the command line"}, server.PasswordTicketHolds)
	if err == nil {
		c.print(token)
	}
	return err
}

type accountListCmd struct{ linking }

// Run lists.
func (c *accountListCmd) Run() error {
	ctx := context.Background()
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer st.Close()
	list, err := st.Accounts(ctx)
	if err != nil {
		return err
	}
	out := tabwriter.NewWriter(os.Stdout, 0, 0, 2, ' ', 0)
	fmt.Fprintln(out, "address\tname\tworkspaces\tlast here")
	for _, a := range list {
		seen := "never"
		if a.SeenAt != nil {
			seen = a.SeenAt.Format("2006-01-02 15:04")
		}
		fmt.Fprintf(out, "%s\t%s\t%s\t%s\n", a.Email, a.Name, cmp.Or(string(a.Role), "none"), seen)
	}
	return out.Flush()
}
