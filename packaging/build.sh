#!/bin/sh
# Builds the Debian package of a program: build.sh PROGRAM VERSION DIRECTORY. It prints the
# package's path.
set -eu
program=$1 version=$2 out=$3
here=$(cd "$(dirname "$0")" && pwd)
root=$(mktemp -d)
trap 'rm -rf "$root"' EXIT
chmod 0755 "$root"

put() { install -D -m "$1" "$2" "$root/$3"; }
put 0755 "$program" usr/bin/magpie
put 0640 "$here/magpie.toml" etc/magpie/magpie.toml
for unit in magpie.service magpie-backup.service magpie-backup.timer; do
	put 0644 "$here/$unit" "usr/lib/systemd/system/$unit"
done
put 0644 "$here/../docs/operations.md" usr/share/doc/magpie/operations.md
put 0644 "$here/../LICENSE" usr/share/doc/magpie/copyright
for script in postinst prerm postrm; do
	put 0755 "$here/$script" "DEBIAN/$script"
done
echo /etc/magpie/magpie.toml >"$root/DEBIAN/conffiles"
size=$(du -sk --exclude=DEBIAN "$root" | cut -f1)
cat >"$root/DEBIAN/control" <<EOF
Package: magpie
Version: $version
Architecture: $(dpkg --print-architecture)
Maintainer: Keen Magpie <magpie@cobblelane.example>
Installed-Size: $size
Depends: adduser, mariadb-client
Recommends: mariadb-server
Section: education
Priority: optional
Description: drag-and-drop activities: build, prove, release, see what learners did
 Keen Magpie is a web application in which designers build activities of sorting,
 matching, sequencing, labelling and gap text, and see what learners did. It keeps
 everything in MariaDB.
EOF
mkdir -p "$out"
file="$out/magpie_${version}_$(dpkg --print-architecture).deb"
dpkg-deb --root-owner-group --build "$root" "$file" >/dev/null
echo "$file"
