# The ground both commands stand on: packages, gems, styles and a database of our own.
# Sourced by bin/start and bin/test; it only ever installs what is missing.
set -euo pipefail
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
cd "$ROOT"
# An ordinary user's path lacks where Debian keeps ldconfig and runuser.
export PATH="$PATH:/usr/sbin:/sbin"
export LANG="${LANG:-C.UTF-8}" LC_ALL="${LC_ALL:-C.UTF-8}"
export BUNDLE_PATH="$ROOT/vendor/bundle" BUNDLE_SILENCE_ROOT_WARNING=1 BUNDLE_BUILD__NOKOGIRI=--use-system-libraries
VAR="${VESTRY_VAR:-$ROOT/var}"
mkdir -p "$VAR"

# What is shown while a step's own words go to its log.
exec 3>&1
say() { printf '  %s\n' "$*"; }
fail() { printf '\nStopped: %s\n' "$1" >&2; [ -n "${2:-}" ] && printf 'What to do: %s\n' "$2" >&2; exit 1; }

# Runs a step quietly; when it fails, shows the end of what it said.
step() {
  local what="$1" remedy="$2"; shift 2
  local log="${SETUP_LOG:-$VAR/setup.log}"
  if ! "$@" >"$log" 2>&1; then
    tail -n 25 "$log" >&2
    fail "$what did not work (all of it is in $log)" "$remedy"
  fi
}

as_root() { if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else return 1; fi; }

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

# Debian packages this needs and lacks.
missing_packages() {
  command -v ruby >/dev/null || echo ruby
  command -v bundle >/dev/null || echo ruby-bundler
  command -v node >/dev/null || echo nodejs
  command -v npm >/dev/null || echo npm
  command -v gcc >/dev/null && command -v make >/dev/null || echo build-essential
  command -v pkg-config >/dev/null || echo pkg-config
  command -v runuser >/dev/null || echo util-linux
  local dev
  # With Debian's own libraries nokogiri need not build them: that alone takes a minute and a half.
  for dev in ruby-dev libpq-dev libyaml-dev libffi-dev zlib1g-dev libxml2-dev libxslt1-dev; do
    dpkg-query -W -f='${Status}' "$dev" 2>/dev/null | grep -q 'ok installed' || echo "$dev"
  done
  [ -z "${OWN_SERVER:-}" ] || [ -x "$(pg_bin)/initdb" ] || echo postgresql
  [ -z "${PG_TOOLS:-}" ] || [ -x "$(pg_bin)/pg_dump" ] || echo postgresql-client
  [ -n "$(ldconfig -p 2>/dev/null | grep libvips.so)" ] || echo libvips42
  # Names in Chinese, Japanese and Korean letters, on paper.
  [ -f /usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf ] || echo fonts-droid-fallback
  local extra
  for extra in "$@"; do command -v "$extra" >/dev/null || echo "$extra"; done
}

install_packages() {
  local missing
  missing="$(missing_packages "$@" | tr '\n' ' ')"
  [ -z "${missing// /}" ] && return 0
  if [ "$(id -u)" = 0 ]; then say "installing $missing"; else say "installing as root, with sudo: $missing"; fi
  step "Updating the package list" "run 'apt-get update' as root" as_root apt-get update
  # A packaged server must not start a cluster of its own; ours lives under var/.
  step "Installing $missing" "run 'apt-get install $missing' as root, then this again" \
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends $missing
}

# A browser for the specs: Debian's Chromium without a window, which costs half as much; where that
# cannot be had, the whole one.
install_browser() {
  command -v chromium-headless-shell >/dev/null && return 0
  if [ ! -f "$VAR/browser-sought" ]; then
    say "installing a browser without a window"
    touch "$VAR/browser-sought"
    local brief="-o Acquire::Retries=0 -o Acquire::http::Timeout=15" get="env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends chromium-headless-shell"
    { as_root $get $brief || { as_root apt-get update $brief && as_root $get $brief; }; } >"$VAR/setup.log" 2>&1 && return 0
    say "none to be had; the whole browser serves"
  fi
  install_packages chromium
}

# gems.lock is Gemfile.lock with the place gems come from left open.
install_gems() {
  local source
  source="$(ruby -e 'puts Gem.sources.first.then { |s| s.respond_to?(:uri) ? s.uri : s }')"
  sed "s#@SOURCE@#${source%/}/#" gems.lock > "$VAR/Gemfile.lock.new"
  cmp -s "$VAR/Gemfile.lock.new" Gemfile.lock || cp "$VAR/Gemfile.lock.new" Gemfile.lock
  if ! bundle check >/dev/null 2>&1; then
    say "installing gems into vendor/ (about a minute)"
    # Styles and scripts come from elsewhere: both are fetched at once.
    fetch_packages & local packages=$!
    step "Installing gems" "see that this machine reaches its gem source, then run this again" \
      far gems.lock '^Installing' env MAKEFLAGS=-j"$(nproc)" bundle install --jobs 4 --retry 3
    wait "$packages" || fail "Installing node packages did not work (all of it is in $VAR/packages.log)" "see that this machine reaches its npm source, then run this again"
  fi
}

# far LIST PATTERN COMMAND...: on a terminal, how many of a list's gems a command has said that it is at.
far() {
  local all pattern="$2" log="$VAR/setup.log"; all="$(grep -c '^    [a-z]' "$1")"; shift 2
  if [ ! -t 3 ]; then "$@"; return; fi
  "$@" & local running=$!
  while kill -0 "$running" 2>/dev/null; do
    printf '\r  %s of about %s ' "$(grep -c "$pattern" "$log" 2>/dev/null)" "$all" >&3
    sleep 1
  done
  printf '\r%30s\r' "" >&3
  wait "$running"
}

# What styles, type and scripts are built from.
fetch_packages() {
  if [ ! -f node_modules/.stamp ] || [ package-lock.json -nt node_modules/.stamp ]; then
    npm install --no-save --no-audit --no-fund >"$VAR/packages.log" 2>&1 && touch node_modules/.stamp
  fi
}

# Styles, type and scripts, built again only when something they are made from is newer.
build_assets() {
  step "Installing node packages" "see that this machine reaches its npm source, then run this again" fetch_packages
  if [ ! -f web/public/vestry.css ] || [ -n "$(find web/assets web/offline web/views drawings web/*.rb package.json bin/assets -newer web/public/vestry.css -print -quit)" ]; then
    say "building styles"
    step "Building styles" "run bin/assets to see what is wrong" bin/assets
  fi
}

# Room in Ruby's heap for a hundred pages between one sweep and the next.
roomy_ruby() {
  export RUBY_GC_HEAP_INIT_SLOTS=1200000 RUBY_GC_HEAP_FREE_SLOTS_MIN_RATIO=0.4 RUBY_GC_MALLOC_LIMIT=64000000 RUBY_GC_OLDMALLOC_LIMIT=128000000
}

# How Ruby serves: the same, and compiled as it runs, where it can be.
quick_ruby() {
  export RUBYOPT; RUBYOPT="$(ruby --yjit -e 0 2>/dev/null && echo --yjit || true)"
  roomy_ruby
}

# Whether PostgreSQL's own user can live in a folder below this one.
owner_can_enter() { runuser -u postgres -- test -x "$1" 2>/dev/null; }

as_owner() { if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- env LANG=C.UTF-8 "$@"); else "$@"; fi; }

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# Whether what answers at a port is the server that was started here.
started_here() (
  exec 3<>"/dev/tcp/127.0.0.1/$1" || exit 1
  printf 'GET /health HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n' >&3
  while IFS= read -r -t 5 line <&3; do
    case "${line%$'\r'}" in *[Xx]-[Vv]estry-[Ss]tart:\ "$VESTRY_START_ID") exit 0 ;; esac
  done
  exit 1
) 2>/dev/null

free_port() {
  local port="$1"
  while ! port_free "$port"; do port=$((port + 1)); done
  echo "$port"
}

# start_cluster NAME USUAL_PORT [options]: a PostgreSQL cluster of our own on loopback with
# password sign-in; sets DATABASE_SERVER, and CLUSTER_STARTED when this call started it.
start_cluster() {
  local name="$1" usual="$2" options="${3:-}"
  local data="$VAR/$name" bin; bin="$(pg_bin)"
  if [ "$(id -u)" = 0 ]; then
    id postgres >/dev/null 2>&1 || fail "there is no postgres user" "install Debian's postgresql package"
    mkdir -p "$data"
    if ! owner_can_enter "$VAR"; then
      data="/var/lib/vestry/$(printf '%s' "$VAR" | cksum | cut -d' ' -f1)/$name"
      mkdir -p "$data"
    fi
    chown postgres "$data"
  fi
  mkdir -p "$data"; chmod 700 "$data"
  local secret="$VAR/$name-password"
  if [ ! -s "$data/PG_VERSION" ]; then
    (umask 077; ruby -rsecurerandom -e 'print SecureRandom.hex(24)' > "$secret")
    local handed="$data.pw"
    install -m 600 "$secret" "$handed"; [ "$(id -u)" = 0 ] && chown postgres "$handed"
    step "Making the database cluster" "look at $data" as_owner "$bin/initdb" -D "$data" -E UTF8 --locale=C.UTF-8 -U vestry \
      --auth-host=scram-sha-256 --auth-local=scram-sha-256 --pwfile="$handed"
    rm -f "$handed"
  fi
  CLUSTER_DATA="$data"; CLUSTER_STARTED=""
  if ! as_owner "$bin/pg_ctl" -D "$data" status >/dev/null 2>&1; then
    local port; port="$(free_port "$usual")"
    step "Starting the database" "look at $data/log" as_owner "$bin/pg_ctl" -D "$data" -w -t 60 -l "$data/log" \
      -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c shared_buffers=256MB -c max_wal_size=2GB $options" start 9>&- 3>&-
    CLUSTER_STARTED=1
  fi
  local running; running="$(as_owner sed -n 4p "$data/postmaster.pid")"
  plain_role "$secret" "$VAR/$name-app-password" "$running"
  DATABASE_SERVER="postgres://vestry_app:$(cat "$VAR/$name-app-password")@127.0.0.1:$running"
}

# The one that the specs use: quick rather than safe. They empty it some thousand times; TEST_OWNER is the server as
# who made it, who may do so without asking every trigger.
start_test_cluster() {
  start_cluster pg-test 5450 "-c fsync=off -c synchronous_commit=off -c full_page_writes=off -c autovacuum=off -c jit=off"
  export TEST_OWNER; TEST_OWNER="postgres://vestry:$(cat "$VAR/pg-test-password")@127.0.0.1:${DATABASE_SERVER##*:}"
}

# owner_sql OWNERS_SECRET PORT DATABASE: runs what is read, as the one that made the cluster.
owner_sql() { PGPASSWORD="$(cat "$1")" "$(pg_bin)/psql" -qAt -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$2" -U vestry -d "$3"; }

# plain_role OWNERS_SECRET SECRET PORT: the role the application works as. It makes databases of its own and may
# nothing else; the one that made the cluster keeps to itself. Databases of before become its own, once.
plain_role() {
  [ ! -s "$2" ] || return 0
  local plain; plain="$(ruby -rsecurerandom -e 'print SecureRandom.hex(24)')"
  owner_sql "$1" "$3" postgres >"$VAR/setup.log" 2>&1 <<SQL || fail "the application's database role cannot be made" "look at $VAR/setup.log"
DROP ROLE IF EXISTS vestry_app;
CREATE ROLE vestry_app LOGIN CREATEDB NOSUPERUSER PASSWORD '$plain';
SQL
  local database
  for database in $(echo "SELECT datname FROM pg_database WHERE datname LIKE 'vestry%'" | owner_sql "$1" "$3" postgres); do
    echo "ALTER DATABASE \"$database\" OWNER TO vestry_app" | owner_sql "$1" "$3" postgres
    owner_sql "$1" "$3" "$database" >>"$VAR/setup.log" 2>&1 < bin/hand_over.sql || fail "$database cannot be handed over" "look at $VAR/setup.log"
  done
  (umask 077; printf '%s' "$plain" > "$2")
}

# without_password URL: sets PGPASSWORD from it, and prints it without: arguments can be read by everyone on a machine.
without_password() {
  export PGPASSWORD; PGPASSWORD="$(DATABASE="$1" ruby -ruri -e 'print URI.decode_www_form_component(URI(ENV["DATABASE"]).password.to_s)')"
  [ -n "$PGPASSWORD" ] || unset PGPASSWORD
  BARE_URL="$(DATABASE="$1" ruby -ruri -e 'print URI(ENV["DATABASE"]).tap { |url| url.password = nil }')"
}

stop_cluster() {
  [ -n "${CLUSTER_STARTED:-}" ] || return 0
  as_owner "$(pg_bin)/pg_ctl" -D "$CLUSTER_DATA" -m fast -w stop >/dev/null 2>&1 || true
  CLUSTER_STARTED=""
}
