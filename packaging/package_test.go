// Package packaging has what a Debian package of the program is made of; see build.sh. Its
// tests build one; bench/package.sh installs it in an empty Debian.
package packaging

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

func run(t *testing.T, name string, args ...string) string {
	t.Helper()
	out, err := exec.CommandContext(t.Context(), name, args...).CombinedOutput()
	if err != nil {
		t.Fatalf("%s %s: %v\n%s", name, strings.Join(args, " "), err, out)
	}
	return string(out)
}

// A package has the program, its units and its page; its settings are kept when it is
// upgraded, and are for root and the server alone.
func TestThePackage(t *testing.T) {
	dir := t.TempDir()
	program := filepath.Join(dir, "program")
	if err := os.WriteFile(program, []byte("#!/bin/sh\n"), 0o755); err != nil {
		t.Fatal(err)
	}
	deb := strings.TrimSpace(run(t, "./build.sh", program, "1.2.3", dir))
	if says := run(t, "dpkg-deb", "-f", deb, "Package", "Version", "Depends"); !strings.Contains(says, "Version: 1.2.3") || !strings.Contains(says, "mariadb-client") {
		t.Errorf("it says of itself: %s", says)
	}
	list := run(t, "dpkg-deb", "-c", deb)
	for _, line := range []string{
		`-rwxr-xr-x root/root .* \./usr/bin/magpie\n`, `-rw-r----- root/root .* \./etc/magpie/magpie.toml\n`,
		`\./usr/lib/systemd/system/magpie\.service\n`, `\./usr/lib/systemd/system/magpie-backup\.timer\n`, `\./usr/share/doc/magpie/operations\.md\n`,
	} {
		if !regexp.MustCompile(line).MatchString(list) {
			t.Errorf("there is no %s in\n%s", line, list)
		}
	}
	run(t, "dpkg-deb", "-e", deb, filepath.Join(dir, "control"))
	if kept, err := os.ReadFile(filepath.Join(dir, "control", "conffiles")); err != nil || string(kept) != "/etc/magpie/magpie.toml\n" {
		t.Errorf("kept on an upgrade: %s, %v", kept, err)
	}
	for _, script := range []string{"postinst", "prerm", "postrm"} {
		run(t, "sh", "-n", filepath.Join(dir, "control", script))
	}
}

// The units are as systemd wants them, and leave the server little of the machine.
func TestTheUnits(t *testing.T) {
	if _, err := exec.LookPath("systemd-analyze"); err != nil {
		t.Skip("systemd is not on this machine")
	}
	dir := t.TempDir()
	var files []string
	for _, name := range []string{"magpie.service", "magpie-backup.service", "magpie-backup.timer"} {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(dir, name)
		// The program is not installed here.
		if err := os.WriteFile(file, []byte(strings.ReplaceAll(string(text), "/usr/bin/magpie serve", "/bin/true")), 0o600); err != nil {
			t.Fatal(err)
		}
		files = append(files, file)
	}
	if says := run(t, "systemd-analyze", append([]string{"verify", "--man=no"}, files...)...); strings.Contains(says, dir) || strings.Contains(says, "magpie") {
		t.Errorf("systemd says: %s", says)
	}
	run(t, "systemd-analyze", "security", "--offline=true", "--threshold=25", files[0]) // of 100; 100 is everything
}
