#!/usr/bin/env bash
# A private PostgreSQL cluster on loopback, in a folder of its own: not the system's cluster, on a
# port that is free, with a password of its own.
#
#   scripts/cluster.sh start DIR          starts it (making it first) and prints its URL
#   scripts/cluster.sh start DIR --throw-away    the same for tests: faster, survives no crash of the machine
#   scripts/cluster.sh stop DIR [--now]
#   scripts/cluster.sh until-eof DIR      waits for the end of its input, then stops and removes it
#
# PostgreSQL refuses to run as root; started by root it runs as user postgres.
set -euo pipefail

die() { echo "cluster: $*" >&2; exit 1; }

bin=""
if command -v pg_config >/dev/null && [ -x "$(pg_config --bindir)/initdb" ]; then
  bin=$(pg_config --bindir)
else
  for d in $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -rV); do
    [ -x "$d/initdb" ] && { bin=$d; break; }
  done
fi
[ -n "$bin" ] || die "PostgreSQL's programs are missing; install Debian's package 'postgresql'"

as=()
if [ "$(id -u)" = 0 ]; then
  id postgres >/dev/null 2>&1 || die "there is no user 'postgres' to run PostgreSQL as"
  as=(setpriv --reuid=postgres --regid=postgres --init-groups)
fi

command=${1:-}
dir=${2:-}
option=${3:-}
[ -n "$command" ] && [ -n "$dir" ] || die "usage: cluster.sh start|stop|until-eof DIR"
mkdir -p "$dir"
dir=$(cd "$dir" && pwd)
# PostgreSQL must be able to reach its folder, whoever it runs as.
cd /

run() { "${as[@]}" "$@"; }
running() { run "$bin/pg_ctl" -D "$dir/data" status >/dev/null 2>&1; }
url() { echo "postgres://owl:$(cat "$dir/password")@127.0.0.1:$(cat "$dir/port")/owl"; }
free_port() {
  # Ask the kernel by trying: a port that nobody answers on. The start is repeated if it was taken since.
  local p
  for _ in $(seq 50); do
    p=$((20000 + RANDOM % 12000))
    (exec 3<>"/dev/tcp/127.0.0.1/$p") 2>/dev/null || { echo "$p"; return; }
  done
  die "no free port was found"
}

start() {
  if [ ! -f "$dir/data/PG_VERSION" ]; then
    [ "$(id -u)" = 0 ] && chown postgres:postgres "$dir"
    # Read and written as whoever PostgreSQL runs as, by nobody else.
    run sh -c "umask 077; head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > '$dir/password'"
    run "$bin/initdb" -D "$dir/data" -U postgres --auth=scram-sha-256 --pwfile="$dir/password" -E UTF8 \
      --locale=C.UTF-8 --no-instructions >"$dir/initdb.log" 2>&1 \
      || die "initdb failed, see $dir/initdb.log: $(tail -n 1 "$dir/initdb.log")"
  fi
  if ! running; then
    local fast=""
    [ "$option" = --throw-away ] && fast="-c fsync=off -c full_page_writes=off"
    # The port it had before, so that a server that is still running finds it again; else a free one.
    for try in 1 2 3 4 5; do
      if [ "$try" -gt 1 ] || [ ! -s "$dir/port" ] || (exec 3<>"/dev/tcp/127.0.0.1/$(cat "$dir/port")") 2>/dev/null; then
        free_port >"$dir/port"
      fi
      if run "$bin/pg_ctl" -D "$dir/data" -w -t 60 -l "$dir/server.log" -o "-p $(cat "$dir/port") \
          -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $fast" start >/dev/null 2>&1; then
        break
      fi
      [ "$try" = 5 ] && die "PostgreSQL does not start, see $dir/server.log: $(tail -n 1 "$dir/server.log")"
    done
  fi
  export PGPASSWORD
  PGPASSWORD=$(cat "$dir/password")
  # The application's role owns its database and is no superuser; it may make databases, which the tests do.
  local ask=("$bin/psql" -h 127.0.0.1 -p "$(cat "$dir/port")" -d postgres -qtAX)
  if [ -z "$("${ask[@]}" -U owl -c "select 1 from pg_database where datname = 'owl'" 2>/dev/null)" ]; then
    "${ask[@]}" -U postgres -c "create role owl login createdb password '$PGPASSWORD'" \
      && "${ask[@]}" -U postgres -c "create database owl owner owl" || die "the database could not be made"
  fi
  url
}

stop() {
  running || return 0
  local mode=fast
  [ "$option" = --now ] && mode=immediate
  run "$bin/pg_ctl" -D "$dir/data" -w -m "$mode" stop >/dev/null
}

case $command in
  start) start ;;
  stop) stop ;;
  until-eof)
    cat >/dev/null || true
    option=--now
    stop || true
    rm -rf "$dir"
    ;;
  *) die "usage: cluster.sh start|stop|until-eof DIR" ;;
esac
