package main

import (
	"errors"
	"fmt"
	"io/fs"
	"net"
	"net/netip"
	"net/url"
	"os"
	"strings"

	"github.com/BurntSushi/toml"
	"github.com/alecthomas/kong"

	"keenmagpie/server"
)

// settingsFile is where the settings of an installation are, unless MAGPIE_CONFIG names
// another file.
const settingsFile = "/etc/magpie/magpie.toml"

// settings are those of a file: each a flag's name and its value. What the command line or
// the environment says counts before them. The demo has none.
type settings struct {
	file   string
	values map[string]any
}

// readSettings reads the file that the environment names (empty: none), or else the
// installation's if it is there.
func readSettings() (settings, error) {
	s := settings{file: settingsFile}
	named, is := os.LookupEnv("MAGPIE_CONFIG")
	if is {
		s.file = named
	}
	if s.file == "" {
		return s, nil
	}
	_, err := toml.DecodeFile(s.file, &s.values)
	if !is && (errors.Is(err, fs.ErrNotExist) || errors.Is(err, fs.ErrPermission)) {
		return s, nil
	}
	var at toml.ParseError
	if errors.As(err, &at) {
		return s, fmt.Errorf("%s, line %d: %s. Each setting is a line such as public-url = \"https://magpie.example\"", s.file, at.Position.Line, at.Message)
	}
	if err != nil {
		return s, fmt.Errorf("the settings could not be read: %w", err)
	}
	return s, nil
}

// Validate refuses what no command knows.
func (s settings) Validate(app *kong.Application) error {
	known := map[string]bool{}
	for _, command := range app.Leaves(false) {
		for _, group := range command.AllFlags(true) {
			for _, flag := range group {
				known[flag.Name] = known[flag.Name] || flag.Name != "help"
			}
		}
	}
	for name := range s.values {
		if !known[name] {
			return fmt.Errorf("%s: there is no setting %q; 'magpie serve --help' lists them all", s.file, name)
		}
	}
	return nil
}

// Resolve gives a flag the file's value.
func (s settings) Resolve(c *kong.Context, _ *kong.Path, flag *kong.Flag) (any, error) {
	if strings.HasPrefix(c.Command(), "demo") {
		return nil, nil
	}
	for _, name := range flag.Envs {
		if _, is := os.LookupEnv(name); is {
			return nil, nil
		}
	}
	switch v := s.values[flag.Name].(type) {
	case nil:
		return nil, nil
	case []any:
		list := make([]string, len(v))
		for i, x := range v {
			list[i] = fmt.Sprint(x)
		}
		return strings.Join(list, ","), nil
	default:
		return fmt.Sprint(v), nil
	}
}

// database says which one.
type database struct {
	DSN     string `help:"Data source name of the MariaDB database, as user:password@tcp(host:3306)/name; tcp(a:3306,b:3306) are nodes of a cluster." name:"dsn"`
	DSNFile string `help:"File that holds the data source name, so that it stands nowhere else." name:"dsn-file"`
}

// source is the data source name.
func (d database) source() (string, error) {
	switch {
	case d.DSN == "" && d.DSNFile == "":
		return "", errors.New("which database? Give --dsn 'user:password@tcp(host:3306)/name', or --dsn-file with a file that holds this, or dsn in " + settingsFile)
	case d.DSN != "" && d.DSNFile != "":
		return "", errors.New("--dsn and --dsn-file are both given: leave one out")
	case d.DSN != "":
		return d.DSN, nil
	}
	text, err := os.ReadFile(d.DSNFile)
	if err != nil {
		return "", fmt.Errorf("the data source name could not be read: %w", err)
	}
	return strings.TrimSpace(string(text)), nil
}

// webFlags are how a server behaves towards those who ask.
type webFlags struct {
	PublicURL       string         `help:"Address at which people reach this server, as https://magpie.example or https://school.example/magpie; with https, cookies go over https alone." name:"public-url"`
	Proxies         []netip.Prefix `help:"Networks of the proxies in front of this server, as 127.0.0.1/32,10.0.0.0/8: where a request comes from, and whether over https, is what they say in X-Forwarded-For and X-Forwarded-Proto."`
	BeginsPerMinute int            `help:"Sittings that one address may begin in a minute; 0 is no limit." default:"3000"`
	MovesPerMinute  int            `help:"Moves that one address may make in a minute; 0 is no limit." default:"60000"`
}

func (f webFlags) options() []server.Option {
	return []server.Option{server.WithPublicURL(f.PublicURL), server.WithProxies(f.Proxies...), server.WithLimits(f.BeginsPerMinute, f.MovesPerMinute)}
}

// public is the address at which people reach the server.
func (f webFlags) public() (*url.URL, error) {
	u, err := url.Parse(f.PublicURL)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Hostname() == "" || u.User != nil || u.RawQuery != "" || u.Fragment != "" {
		return nil, fmt.Errorf("--public-url %q is not an address that people can open: write it as https://magpie.example, or with a path as https://school.example/magpie", f.PublicURL)
	}
	return u, nil
}

// Validate says what cannot be meant, and what to do instead. See [kong.Validatable].
func (f webFlags) Validate() error {
	if f.PublicURL != "" {
		if _, err := f.public(); err != nil {
			return err
		}
	}
	for _, p := range f.Proxies {
		if p.Bits() == 0 {
			return fmt.Errorf("--proxies %s is everybody, so that anyone could say to be anywhere: name the proxies' own networks, as 127.0.0.1/32", p)
		}
	}
	if f.BeginsPerMinute < 0 || f.MovesPerMinute < 0 {
		return errors.New("--begins-per-minute and --moves-per-minute are 0 or more; 0 is no limit")
	}
	return nil
}

// Validate refuses settings that contradict each other before anything is opened.
func (c *serveCmd) Validate() error {
	if err := c.webFlags.Validate(); err != nil {
		return err
	}
	host, _, err := net.SplitHostPort(c.Addr)
	if err != nil {
		return fmt.Errorf("--addr %q is not an address to listen on: write it as 127.0.0.1:8090, or as :443 for all addresses of this machine", c.Addr)
	}
	at := net.ParseIP(host)
	here := host == "localhost" || at != nil && at.IsLoopback()
	tls := c.TLSCert != ""
	https := strings.HasPrefix(strings.ToLower(c.PublicURL), "https:")
	if _, err := c.mailer(); err != nil {
		return err
	}
	switch {
	case (c.TLSCert == "") != (c.TLSKey == ""):
		return errors.New("--tls-cert and --tls-key belong together: give both, or none and let a proxy speak https")
	case tls && c.PublicURL != "" && !https:
		return errors.New("the server speaks https (--tls-cert), but --public-url begins with http: write https there, or leave the certificate out")
	case tls && c.PublicURL == "", !here && c.PublicURL == "":
		return errors.New("--public-url is missing: links that are sent to people begin with it, as https://magpie.example")
	case https && !tls && len(c.Proxies) == 0:
		return errors.New("--public-url begins with https, but nothing here speaks it: give --tls-cert and --tls-key, or --proxies with the network of the proxy that does, as 127.0.0.1/32")
	case !https && !c.PlainHTTP && !local(c.PublicURL):
		return errors.New("with http, passwords and names would cross the network for everybody to read: give --public-url with https, with a certificate (--tls-cert, --tls-key) or a proxy (--proxies) that speaks it; or say --plain-http, if nobody else is on that network")
	case c.OpsAddr != "" && c.OpsAddr == c.Addr:
		return errors.New("--ops-addr is the address of the application itself: give it another port, which only those who run the server can reach")
	case c.NoPasswords && c.OIDC == "":
		return errors.New("--no-passwords without --oidc would let nobody in: name the providers to sign in with")
	case c.SMTP == "" && c.MailFrom != "":
		return errors.New("--mail-from without --smtp: name the server that takes mail, or leave both out")
	case c.SMTP != "" && c.PublicURL == "":
		return errors.New("--smtp without --public-url: links in mail begin with it")
	case c.DBConnections < 2:
		return errors.New("--db-connections must be 2 or more: some acts need a second one")
	case c.DBLifetime < 0:
		return errors.New("--db-lifetime must be 0 or more; 0 is for good")
	}
	return nil
}

// local says whether an address leads to the machine itself. No address does.
func local(address string) bool {
	u, err := url.Parse(address)
	if address == "" || err != nil {
		return address == ""
	}
	at := net.ParseIP(u.Hostname())
	return u.Hostname() == "localhost" || at != nil && at.IsLoopback()
}
