#!/usr/bin/env bash
# Makes a Debian package of the program: binary, unit, man page, settings.
#
#   scripts/deb.sh              builds the release first
#   scripts/deb.sh PROGRAM      of a program that is built already
# Prints the package's path.
set -euo pipefail
cd "$(dirname "$0")/.."

command -v dpkg-deb >/dev/null || { echo "deb: dpkg-deb is missing: packages are made on Debian" >&2; exit 1; }
program=${1:-}
if [ -z "$program" ]; then
  scripts/setup.sh demo >&2
  scripts/web.sh >&2
  cargo build --release --locked -p restless-owl >&2
  program=${CARGO_TARGET_DIR:-target}/release/restless-owl
fi
version=$("$program" --version | awk '{ print $2 }')
out=${CARGO_TARGET_DIR:-target}/deb
root=$(mktemp -d)
trap 'rm -rf "$root"' EXIT
chmod 755 "$root"

install -D -m 755 "$program" "$root/usr/bin/restless-owl"
if [ -z "${1:-}" ]; then strip "$root/usr/bin/restless-owl"; fi
install -D -m 644 packaging/restless-owl.service "$root/lib/systemd/system/restless-owl.service"
install -D -m 640 packaging/restless-owl.conf "$root/etc/restless-owl/restless-owl.conf"
for f in README.md docs/security.md docs/ticket-format.md docs/api.md; do
  install -D -m 644 "$f" "$root/usr/share/doc/restless-owl/$(basename "$f")"
done
{ cat LICENSE-MIT; echo; cat LICENSE-APACHE; } >"$root/usr/share/doc/restless-owl/copyright"
mkdir -p "$root/usr/share/man/man1"
"$program" manual | gzip -9n >"$root/usr/share/man/man1/restless-owl.1.gz"

mkdir -p "$root/DEBIAN"
install -m 755 packaging/postinst packaging/prerm "$root/DEBIAN/"
echo /etc/restless-owl/restless-owl.conf >"$root/DEBIAN/conffiles"
cat >"$root/DEBIAN/control" <<CONTROL
Package: restless-owl
Version: $version
Architecture: $(dpkg --print-architecture)
Maintainer: The makers of Restless Owl <owl@localhost>
Section: hamradio
Priority: optional
Depends: adduser, libc6
Recommends: postgresql, postgresql-client, age
Installed-Size: $(du -sk --exclude=DEBIAN "$root" | cut -f1)
Description: bench companion for radio repair
 Reads the part, doubts the reading, judges it in its place, finds what to
 put in, and remembers. A server with its page inside; the rest is a
 PostgreSQL database.
CONTROL
mkdir -p "$out"
file="$out/restless-owl_${version}_$(dpkg --print-architecture).deb"
# A build for tests is large and thrown away: it is not packed.
dpkg-deb ${1:+-Znone} --root-owner-group --build "$root" "$file" >/dev/null
echo "$file"
