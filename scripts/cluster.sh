#!/usr/bin/env bash
# A private PostgreSQL cluster on loopback, in a folder of its own: not the system's cluster, on a
# port that is free, with a password of its own.
#
#   scripts/cluster.sh start DIR          starts it (making it first) and prints its URL
#   scripts/cluster.sh start DIR --throw-away    the same for tests: faster, survives no crash of the machine
#   scripts/cluster.sh pooler DIR     starts PgBouncer in transaction mode before it and prints the port
#   scripts/cluster.sh stop DIR [--now]
#   scripts/cluster.sh until-eof DIR      waits for the end of its input, then stops and removes it
#
# PostgreSQL refuses to run as root; started by root it runs as user postgres.
set -euo pipefail
# where Debian has PgBouncer, whoever runs this
PATH=$PATH:/usr/sbin

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
[ -n "$command" ] && [ -n "$dir" ] || die "usage: cluster.sh start|pooler|stop|until-eof DIR"
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

# A few connections for everybody, each given for one transaction only and handed on as new.
pooler() {
  command -v pgbouncer >/dev/null || die "PgBouncer is missing; install Debian's package 'pgbouncer'"
  running || die "there is no database to stand before"
  local port
  port=$(free_port)
  run sh -c "umask 077; printf '\"owl\" \"%s\"\n' '$(cat "$dir/password")' > '$dir/pooler.users'"
  cat <<INI | run tee "$dir/pooler.ini" >/dev/null
[databases]
* = host=127.0.0.1 port=$(cat "$dir/port")
[pgbouncer]
listen_addr = 127.0.0.1
listen_port = $port
unix_socket_dir =
auth_type = scram-sha-256
auth_file = $dir/pooler.users
pool_mode = transaction
server_reset_query = DISCARD ALL
server_reset_query_always = 1
ignore_startup_parameters = extra_float_digits
default_pool_size = 4
server_idle_timeout = 5
max_client_conn = 1000
logfile = $dir/pooler.log
pidfile = $dir/pooler.pid
INI
  run pgbouncer --daemon --quiet "$dir/pooler.ini" >/dev/null 2>&1 || die "PgBouncer does not start: $(tail -n 1 "$dir/pooler.log")"
  for try in $(seq 50); do
    (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null && { echo "$port"; return; }
    sleep 0.1
  done
  die "PgBouncer does not answer, see $dir/pooler.log"
}

stop() {
  [ -s "$dir/pooler.pid" ] && run kill "$(cat "$dir/pooler.pid")" 2>/dev/null
  running || return 0
  local mode=fast
  [ "$option" = --now ] && mode=immediate
  run "$bin/pg_ctl" -D "$dir/data" -w -m "$mode" stop >/dev/null
}

case $command in
  start) start ;;
  pooler) pooler ;;
  stop) stop ;;
  until-eof)
    cat >/dev/null || true
    option=--now
    stop || true
    rm -rf "$dir"
    ;;
  *) die "usage: cluster.sh start|pooler|stop|until-eof DIR" ;;
esac
