package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// given is what a command line comes to, or why it is refused.
func given(t *testing.T, line ...string) (*cli, error) {
	t.Helper()
	c := new(cli)
	parser, err := commands(c)
	if err != nil {
		return c, err
	}
	_, err = parser.Parse(line)
	return c, err
}

// What cannot be meant is refused before anything is opened, with what to do instead.
func TestContradictionsAreRefusedAtTheStart(t *testing.T) {
	for _, c := range []struct{ name, line, says string }{
		{"on this machine alone", "", ""},
		{"behind a proxy", "--addr :8090 --public-url https://m.example --proxies 10.0.0.0/8", ""},
		{"below a path", "--addr :8090 --public-url https://m.example/magpie/ --proxies 10.0.0.0/8", ""},
		{"with a certificate", "--addr :443 --public-url https://m.example --tls-cert c.pem --tls-key k.pem", ""},
		{"http that was asked for", "--addr :80 --public-url http://m.example --plain-http", ""},
		{"a certificate without its key", "--tls-cert c.pem", "belong together"},
		{"https at an address of http", "--public-url http://m.example --tls-cert c.pem --tls-key k.pem", "write https there"},
		{"https that nobody speaks", "--public-url https://m.example", "nothing here speaks it"},
		{"no address for others", "--addr :8090", "--public-url is missing"},
		{"a certificate and no address", "--tls-cert c.pem --tls-key k.pem", "--public-url is missing"},
		{"passwords in the clear", "--addr :80 --public-url http://m.example", "--plain-http"},
		{"not an address", "--public-url m.example", "is not an address that people can open"},
		{"an address with a question", "--public-url https://m.example?x=1", "is not an address that people can open"},
		{"nowhere to listen", "--addr 8090", "is not an address to listen on"},
		{"everybody as a proxy", "--proxies 0.0.0.0/0", "is everybody"},
		{"metrics in the open", "--addr 127.0.0.1:8090 --ops-addr 127.0.0.1:8090", "the application itself"},
		{"no way in", "--no-passwords", "would let nobody in"},
		{"mail", "--public-url http://127.0.0.1:8090 --smtp mail.school.example:587 --mail-from m@school.example", ""},
		{"mail without a sender", "--public-url http://127.0.0.1:8090 --smtp mail.school.example:587", "whom mail comes from"},
		{"mail without its links", "--smtp mail.school.example:587 --mail-from m@school.example", "begin with it"},
		{"mail in the clear", "--public-url http://127.0.0.1:8090 --smtp mail.school.example:25 --smtp-tls none --mail-from m@school.example", "for everybody to read"},
		{"mail that nobody takes", "--mail-from m@school.example", "name the server"},
		{"half a sign-in for mail", "--public-url http://127.0.0.1:8090 --smtp mail.school.example:587 --mail-from m@school.example --smtp-user m", "belong together"},
		{"one connection", "--db-connections 1", "2 or more"},
		{"less than nothing", "--moves-per-minute=-1", "0 or more"},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := given(t, append([]string{"serve", "--dsn", "x"}, strings.Fields(c.line)...)...)
			if c.says == "" && err != nil || c.says != "" && (err == nil || !strings.Contains(err.Error(), c.says)) {
				t.Errorf("%s: %v", c.line, err)
			}
		})
	}
	if _, err := (database{}).source(); err == nil || !strings.Contains(err.Error(), "which database") {
		t.Errorf("without a database: %v", err)
	}
}

// A file has the settings of an installation; the environment counts before it, and the
// command line before both. The demo has nothing to do with it.
func TestSettingsComeFromThreePlaces(t *testing.T) {
	file := filepath.Join(t.TempDir(), "magpie.toml")
	write := func(text string) {
		t.Helper()
		if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	t.Setenv("MAGPIE_CONFIG", file)
	write("dsn = \"from the file\"\naddr = \"127.0.0.1:7001\"\nproxies = [\"10.0.0.0/8\", \"127.0.0.1/32\"]\ndb-connections = 12\n")
	t.Setenv("MAGPIE_DB_LIFETIME", "9m")
	t.Setenv("MAGPIE_ADDR", "127.0.0.1:7002")
	c, err := given(t, "serve", "--moves-per-minute", "7")
	if s := c.Serve; err != nil || s.DSN != "from the file" || s.Addr != "127.0.0.1:7002" || len(s.Proxies) != 2 || s.DBConnections != 12 || s.DBLifetime.Minutes() != 9 || s.MovesPerMinute != 7 {
		t.Errorf("%v: %+v", err, s)
	}
	if c, err = given(t, "serve", "--addr", "127.0.0.1:7003"); err != nil || c.Serve.Addr != "127.0.0.1:7003" {
		t.Errorf("the command line: %v, %s", err, c.Serve.Addr)
	}
	if err := os.Unsetenv("MAGPIE_ADDR"); err != nil {
		t.Fatal(err)
	}
	if c, err = given(t, "demo"); err != nil || c.Demo.Addr != "127.0.0.1:8090" {
		t.Errorf("the demo: %v, %s", err, c.Demo.Addr)
	}
	for text, says := range map[string]string{"dns = \"x\"": `no setting "dns"`, "dsn = x": "line 1", "db-connections = \"many\"": "db-connections"} {
		write(text)
		if _, err := given(t, "serve", "--dsn", "x"); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// Every setting stands in the page for those who run an installation.
func TestEverySettingIsWrittenDown(t *testing.T) {
	page, err := os.ReadFile("../../docs/operations.md")
	if err != nil {
		t.Fatal(err)
	}
	parser, err := commands(new(cli))
	if err != nil {
		t.Fatal(err)
	}
	for _, command := range parser.Model.Leaves(false) {
		if command.Name != "serve" {
			continue
		}
		for _, group := range command.AllFlags(true) {
			for _, flag := range group {
				if flag.Name != "help" && flag.Name != "version" && !strings.Contains(string(page), "| `--"+flag.Name) && !strings.Contains(string(page), ", `--"+flag.Name) {
					t.Errorf("--%s does not stand in the table of docs/operations.md", flag.Name)
				}
			}
		}
	}
}
