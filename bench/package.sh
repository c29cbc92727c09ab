#!/bin/sh
# Follows docs/operations.md in an empty Debian, line by line, up to the first released
# activity; then upgrades the package, backs up, removes and purges it. It says how long it
# takes, and fails where something is not as the page says. As root; it needs debootstrap.
# There is no systemd in a test root: what stands for systemctl and journalctl starts the unit's
# own command as its user, with its environment, and keeps its log.
set -eu
cd "$(dirname "$0")/.."
[ "$(id -u)" = 0 ] || { echo "run it as root: it makes a Debian of its own"; exit 1; }
command -v debootstrap >/dev/null || apt-get install -y -qq debootstrap >/dev/null

root=$(mktemp -d /tmp/magpie-root.XXXX)
chmod 0755 "$root" # it becomes /
mirror=$(sed -n 's/^URIs: *//p;s/^deb \([^ ]*\).*/\1/p' /etc/apt/sources.list /etc/apt/sources.list.d/* 2>/dev/null | head -n 1)
at() { chroot "$root" /usr/bin/env -i PATH=/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin DEBIAN_FRONTEND=noninteractive LC_ALL=C sh -ec "$1"; }
stop() {
	for f in "$root"/run/magpie.pid "$root"/run/mysqld/mysqld.pid; do
		[ -f "$f" ] && kill "$(cat "$f")" 2>/dev/null || true
	done
	sleep 3
	umount "$root/proc" 2>/dev/null || true
	rm -rf "$root"
}
trap stop EXIT
say() { printf '%6.1f s  %s\n' "$(echo "$(date +%s.%N) - $begun" | bc)" "$1"; }
fail() { echo "$1" >&2; exit 1; }

make -s package VERSION=0.9.1 >/dev/null && make -s package VERSION=0.9.2 >/dev/null
debootstrap --variant=minbase bookworm "$root" "$mirror" >/dev/null
mount -t proc proc "$root/proc"
cp /etc/resolv.conf "$root/etc/" 2>/dev/null || true
cp /etc/hosts "$root/etc/" 2>/dev/null || true
cat >"$root/usr/local/bin/systemctl" <<'S'
#!/bin/sh
unit=/usr/lib/systemd/system/magpie.service
case "$*" in
"restart magpie")
	[ -f /run/magpie.pid ] && kill "$(cat /run/magpie.pid)" && sleep 2
	install -d -o magpie -g magpie /var/lib/magpie
	export $(sed -n 's/^Environment=//p' $unit)
	setpriv --reuid="$(sed -n 's/^User=//p' $unit)" --regid=magpie --init-groups $(sed -n 's/^ExecStart=//p' $unit) >>/var/log/magpie.log 2>&1 &
	echo $! >/run/magpie.pid ;;
esac
S
printf '#!/bin/sh\ni=0; until grep -q /join/ /var/log/magpie.log 2>/dev/null || [ $i = 60 ]; do sleep 0.5; i=$((i+1)); done; cat /var/log/magpie.log\n' >"$root/usr/local/bin/journalctl"
printf '#!/bin/sh\nexit 101\n' >"$root/usr/sbin/policy-rc.d"
chmod +x "$root"/usr/local/bin/* "$root/usr/sbin/policy-rc.d"
cp dist/magpie_0.9.1_*.deb "$root/root/"

begun=$(date +%s.%N)
# The page's own lines: those of its first block.
sed -n '/^## From an empty machine/,/^The last command/p' docs/operations.md | sed -n 's/^    //p' >"$root/root/lines"
at "apt-get update -qq"
n=0
while IFS= read -r line; do
	n=$((n + 1))
	printf '%s\n' "$line" >"$root/root/line.sh"
	at "cd /root && . ./line.sh" >"$root/root/line.log" 2>&1 </dev/null || { tail -n 20 "$root/root/line.log"; fail "line $n of docs/operations.md failed: $line"; }
	say "$line"
	if [ $n = 1 ]; then # what the test root lacks beside systemd: Debian starts its own services
		at "install -d -o mysql -g mysql /run/mysqld && (setsid mariadbd --user=mysql >/var/log/mariadb.log 2>&1 &) && for i in \$(seq 40); do mariadb-admin ping >/dev/null 2>&1 && break; sleep 1; done; mariadb-admin ping" >/dev/null || { tail -n 5 "$root/var/log/mariadb.log"; fail "MariaDB did not start"; }
	fi
done <"$root/root/lines"
first=$(sed -n 's/.*\(\/join\/[a-z0-9]*\).*/\1/p' "$root/root/line.log" | tail -n 1)
[ -n "$first" ] || fail "no address for the first owner was printed"
jar=$root/root/jar
ask() { curl -sS --fail-with-body -b "$jar" -c "$jar" -H 'Content-Type: application/json' -X "$1" "http://127.0.0.1:8090$2" -d "$3"; }
value() { sed -n "s/.*\"$1\":\"\{0,1\}\([^\",}]*\).*/\1/p"; }
ask POST "/api/tickets/${first#/join/}" '{"name":"Noa Hill","email":"noa@school.example","password":"lanterns-over-quiet-water","workspace":"North School"}' >/dev/null
made=$(ask POST /api/tables/sort '{"title":"First steps","text":"Item\tRight in\nChain\tDrivetrain\nCrank\tDrivetrain\nBrake pad\tBrakes"}')
id=$(printf '%s' "$made" | grep -o '"id":"[a-z0-9]\{26\}"' | head -n 1 | value id)
link=$(ask POST "/api/activities/$id/releases" '{"revision":1}' | grep -o '"/play/[a-z0-9]*"' | tr -d '"' | head -n 1)
[ -n "$link" ] || fail "nothing was released"
curl -sSf "http://127.0.0.1:8090/api${link}" >/dev/null
say "the first activity is released, at $link"

curl -sSf http://127.0.0.1:8092/readyz >/dev/null || fail "/readyz is not content"
echo '# kept' >>"$root/etc/magpie/magpie.toml"
at "setpriv --reuid=magpie --regid=magpie --init-groups magpie backup /var/lib/magpie/before.sql.gz" || fail "no backup"
cp dist/magpie_0.9.2_*.deb "$root/root/"
at "apt-get install -y -qq /root/magpie_0.9.2_*.deb" >/dev/null 2>&1 || fail "the upgrade failed"
at "systemctl restart magpie; sleep 3"
at "magpie --version" | grep -q 0.9.2 || fail "the upgrade left the old program"
grep -q '# kept' "$root/etc/magpie/magpie.toml" || fail "the upgrade lost the settings"
curl -sSf "http://127.0.0.1:8090/api${link}" >/dev/null || fail "after the upgrade the activity is gone"
[ "$(stat -c %a "$root/etc/magpie/magpie.toml")" = 640 ] || fail "everybody can read the settings"
say "upgraded, with settings and activities as they were"
kill "$(cat "$root/run/magpie.pid")"; rm "$root/run/magpie.pid"
at "apt-get purge -y -qq magpie" >/dev/null 2>&1 || fail "it could not be removed"
[ ! -e "$root/usr/bin/magpie" ] && [ ! -e "$root/etc/magpie" ] || fail "removed, it left something behind"
at 'mariadb -e "SELECT COUNT(*) FROM magpie.releases"' | grep -q 1 || fail "removed, it took the database with it"
say "removed; the database is left"
