#!/bin/sh
# Installs what the machine lacks of the packages named: mariadb, chromium, xmllint.
# It is quick when nothing is missing.
set -eu

command -v go >/dev/null || { echo "Go is needed: install Go 1.26 or later, then start again."; exit 1; }

missing=""
for what in "$@"; do
	case $what in
	mariadb)
		if ! PATH=$PATH:/usr/sbin command -v mariadbd >/dev/null; then missing="$missing mariadb-server"; fi ;;
	chromium)
		if ! command -v chromium-headless-shell >/dev/null; then missing="$missing chromium-headless-shell"; fi ;;
	xmllint)
		if ! command -v xmllint >/dev/null; then missing="$missing libxml2-utils"; fi ;;
	esac
done
[ -n "$missing" ] || exit 0

if ! command -v apt-get >/dev/null; then
	echo "These packages are needed and could not be installed, as this is not a Debian machine:$missing"
	exit 1
fi
as_root=""
if [ "$(id -u)" -ne 0 ]; then
	command -v sudo >/dev/null || { echo "These packages are needed:$missing. Install them as root, then start again."; exit 1; }
	as_root="sudo"
fi
echo "installing$missing"
log=$(mktemp)
if ! { $as_root apt-get update && DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y --no-install-recommends $missing; } >"$log" 2>&1; then
	tail -n 5 "$log"
	echo "These packages could not be installed:$missing. The lines above say why; install them by hand, then start again."
	exit 1
fi
rm -f "$log"
