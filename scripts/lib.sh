# Shared by ./start, ./test and ./osierwand: prerequisites, build, a PostgreSQL of our own. Sourced, never run.
# Everything is told on standard error, so that a command's own output stays clean.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1

say() { printf '\033[2m%s\033[0m\n' "$*" >&2; }
die() { printf 'osierwand: %s\n' "$*" >&2; exit 1; }

# need_packages PROBE PACKAGE...: installs the Debian packages unless the probe succeeds.
need_packages() {
  local probe=$1; shift
  eval "$probe" >/dev/null 2>&1 && return
  local as_root=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || die "these Debian packages are missing and only root can install them: $*"
    as_root=(sudo)
  fi
  say "Installing $* ..."
  { "${as_root[@]}" apt-get update -q && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "$@"; } >"${TMPDIR:-/tmp}/osierwand-apt.$$.log" 2>&1 ||
    die "could not install $*; see ${TMPDIR:-/tmp}/osierwand-apt.$$.log"
  rm -f "${TMPDIR:-/tmp}/osierwand-apt.$$.log"
}

need_toolchains() {
  command -v dotnet >/dev/null || die "the .NET SDK is missing; version $(sed -n 's/.*"version": "\([^"]*\)".*/\1/p' "$root/global.json") or later of its band"
  command -v npm >/dev/null || die "Node.js with npm is missing; version 20 or later"
}

# Papers are printed with it, and the tests look at every screen through it.
need_chromium() { need_packages 'test -x /usr/bin/chromium' chromium; }

need_postgres() { need_packages 'ls /usr/lib/postgresql/*/bin/initdb' postgresql; }

# fingerprint PATH...: one name for the state of these sources, so that nothing is built twice and a running copy is never overwritten.
fingerprint() {
  (cd "$root" && find "$@" -type f -not -path '*/node_modules/*' -not -path '*/bin/*' -not -path '*/obj/*' -not -path '*/dist/*' \
    -not -name openapi.json -not -name schema.gen.ts -not -name '*.tsbuildinfo' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16)
}

# quietly WHAT COMMAND...: shows the command's output only when it fails.
quietly() {
  local what=$1 log; shift
  log=$(mktemp)
  say "$what ..."
  if ! "$@" >"$log" 2>&1; then cat "$log" >&2; rm -f "$log"; die "failed: $what"; fi
  rm -f "$log"
}

# node_packages FOLDER: the packages of its lock file. Not "npm ci": that refuses a lock file whose optional packages for other
# platforms a registry does not carry; "npm install" keeps to the locked versions all the same.
node_packages() {
  local folder=$1 stamp="$1/node_modules/.osierwand" now
  now=$(sha256sum <"$folder/package-lock.json")
  [ "$(cat "$stamp" 2>/dev/null)" = "$now" ] && return
  # npm writes down what it left out for this platform; the lock file stays as it was committed.
  cp "$folder/package-lock.json" "$folder/.package-lock.kept"
  quietly "Fetching packages for ${folder#"$root/"}" npm --prefix "$folder" install --no-audit --no-fund
  mv "$folder/.package-lock.kept" "$folder/package-lock.json"
  printf '%s' "$now" >"$stamp"
}

# build_engine: Core for the browser, compiled to WebAssembly and pre-compressed, in out/engine-FINGERPRINT; prints its folder of files.
build_engine() {
  local target
  target="$root/out/engine-$(fingerprint src/Core src/Engine Directory.Build.props Directory.Packages.props global.json)"
  if [ ! -d "$target" ]; then
    rm -rf "$target.part"
    quietly "Building the engine for the browser" dotnet publish "$root/src/Engine" -c Release -o "$target.part" --nologo
    mv "$target.part" "$target"
    ls -dt "$root"/out/engine-* | tail -n +3 | xargs -r rm -rf
  fi
  printf '%s\n' "$target/wwwroot/_framework"
}

# build_app: builds server, simulator and front end into out/app-FINGERPRINT and prints that folder.
build_app() {
  local target
  mkdir -p "$root/out"
  exec 9>"$root/out/.lock"
  flock 9
  target="$root/out/app-$(fingerprint src scripts/notices.mjs Directory.Build.props Directory.Packages.props global.json)"
  if [ ! -d "$target" ]; then
    rm -rf "$target.part"
    quietly "Building the server" dotnet publish "$root/src/Server" -c Release -o "$target.part/server" --nologo
    # Libraries for machines that this is not: four fifths of what was published.
    find "$target.part/server/runtimes" -mindepth 1 -maxdepth 1 ! -name 'linux-x64' ! -name 'linux-arm64' ! -name 'linux' ! -name 'unix' -exec rm -rf {} + 2>/dev/null || true
    quietly "Building the simulated instrument" dotnet publish "$root/src/Instruments" -c Release -o "$target.part/simulator" --nologo
    node_packages "$root/src/web"
    quietly "Describing the interface" npm --prefix "$root/src/web" run api
    local engine name
    engine=$(build_engine)
    # Named by its content, so that browsers keep it for good and an update is another name.
    name=$(cd "$engine" && find . -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-12)
    VITE_ENGINE="/engine/$name/" quietly "Building the front end" npm --prefix "$root/src/web" run build
    cp -r "$root/src/web/dist" "$target.part/server/wwwroot"
    mkdir -p "$target.part/server/wwwroot/engine"
    cp -r "$engine" "$target.part/server/wwwroot/engine/$name"
    # Who made what is shipped, and under which licence; a package that names none stops the build.
    node "$root/scripts/notices.mjs" "$target.part/server" "$root/src/web" >"$target.part/server/wwwroot/notices.txt" || die "the notices could not be written"
    mv "$target.part" "$target"
    # Keep the newest few: an older copy may still be running elsewhere.
    ls -dt "$root"/out/app-* | tail -n +4 | xargs -r rm -rf
  fi
  flock -u 9
  exec 9>&-
  printf '%s\n' "$target"
}

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

# PostgreSQL refuses to run as root; then its own user runs it.
pg_as() { if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi; }
pg_bin() { ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1; }

# pg_start DIR [OPTION...]: starts the cluster in DIR/pg, making it if need be; sets PG_PORT and PG_PASSWORD.
pg_start() {
  local dir=$1 bin; shift
  bin=$(pg_bin)
  mkdir -p "$dir/pg"
  if [ "$(id -u)" = 0 ]; then
    chmod 711 "$dir"
    chown postgres "$dir/pg"
    pg_as test -w "$dir/pg" || die "PostgreSQL runs as the user postgres, who cannot enter $dir; choose another --data"
  fi
  chmod 700 "$dir/pg"
  secret_in "$dir/secret"
  PG_PASSWORD=$(cat "$dir/secret")
  if [ ! -f "$dir/pg/data/PG_VERSION" ]; then
    say "Making the database ..."
    # A pipe of ours cannot be opened by name as another user; a file that only that user reads can.
    printf '%s' "$PG_PASSWORD" | pg_as sh -c 'umask 077; cat >"$1"' sh "$dir/pg/pw"
    pg_as "$bin/initdb" -D "$dir/pg/data" -U osierwand --auth=scram-sha-256 --pwfile="$dir/pg/pw" -E UTF8 --locale=C.UTF-8 >/dev/null 2>"$dir/initdb.log" && rm -f "$dir/pg/pw" ||
      { cat "$dir/initdb.log" >&2; die "PostgreSQL could not make its data folder in $dir/pg"; }
  fi
  # Left over from a start that was killed outright.
  pg_as "$bin/pg_ctl" -D "$dir/pg/data" -m fast stop >/dev/null 2>&1 || true
  PG_PORT=${PG_PORT:-$(free_port)}
  pg_run "$dir" "$@" || die "PostgreSQL did not start; see $dir/pg/logs"
}

# pg_run DIR [OPTION...]: the cluster that is there, on PG_PORT. A week of logs is kept, a file a day.
pg_run() {
  local dir=$1; shift
  pg_as "$(pg_bin)/pg_ctl" -D "$dir/pg/data" -l "$dir/pg/log" -w -t 60 -s \
    -o "-p $PG_PORT -c listen_addresses=127.0.0.1 -c unix_socket_directories=$dir/pg -c logging_collector=on -c log_directory=$dir/pg/logs \
      -c log_filename=postgresql-%a.log -c log_truncate_on_rotation=on -c log_rotation_age=1d -c log_rotation_size=0 $*" start 8>&- 9>&-
}

# pg_is_up DIR: whether its postmaster lives.
pg_is_up() { pg_as "$(pg_bin)/pg_ctl" -D "$1/pg/data" status >/dev/null 2>&1; }

# pg_find DIR: sets PG_PORT and PG_PASSWORD of a cluster that runs; fails when it does not.
pg_find() {
  pg_is_up "$1" || return 1
  PG_PORT=$(sed -n 4p "$1/pg/data/postmaster.pid")
  PG_PASSWORD=$(cat "$1/secret")
}

pg_stop() { pg_as "$(pg_bin)/pg_ctl" -D "$1/pg/data" -m fast -s -w stop 2>/dev/null || true; }

# pg_connection DATABASE: of the cluster's superuser, who makes and prepares databases and does nothing else.
pg_connection() { printf 'Host=127.0.0.1;Port=%s;Username=osierwand;Password=%s;Database=%s' "$PG_PORT" "$PG_PASSWORD" "$1"; }

# server_connection DIR DATABASE: of the server's own role, which owns nothing.
server_connection() {
  secret_in "$1/secret-server"
  printf 'Host=127.0.0.1;Port=%s;Username=osierwand_server;Password=%s;Database=%s' "$PG_PORT" "$(cat "$1/secret-server")" "$2"
}

# secret_in FILE: makes one that only this user reads, unless it is there.
secret_in() { [ -f "$1" ] || (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=\n' >"$1"); }

# prepare_database APP DIR DATABASE: roles, tables and rights as this version wants them.
prepare_database() {
  (cd "$1/server" && ConnectionStrings__Admin=$(pg_connection postgres) ConnectionStrings__Osierwand=$(server_connection "$2" "$3") \
    dotnet Osierwand.Server.dll prepare)
}

# server_user: who the server and the instrument run as when root starts them; made when it is missing.
server_user() {
  [ "$(id -u)" = 0 ] || return 0
  getent passwd osierwand >/dev/null ||
    useradd --system --user-group --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin osierwand || die "could not make the user osierwand"
}

# as_server COMMAND...: takes this process's place, so that its number is the command's.
as_server() {
  if [ "$(id -u)" = 0 ]; then exec setpriv --reuid=osierwand --regid=osierwand --init-groups --inh-caps=-all --no-new-privs -- "$@"; else exec "$@"; fi
}

# wait_for WHAT SECONDS COMMAND...: tries four times a second.
wait_for() {
  local what=$1 until=$((SECONDS + $2)); shift 2
  until "$@" >/dev/null 2>&1; do
    [ $SECONDS -lt "$until" ] || return 1
    sleep 0.25
  done
}

answers_ok() { node -e 'fetch(process.argv[1]).then(r=>process.exit(r.status===200?0:1),()=>process.exit(1))' "$1"; }

# needs_first_person URL: whether nobody has an account there.
needs_first_person() {
  node -e 'fetch(process.argv[1]+"/api/v1/people/sign-in").then(r=>r.json()).then(p=>process.exit(p.needsFirstPerson?0:1),()=>process.exit(1))' "$1"
}

# usual_data: where a house's data lies unless told otherwise.
usual_data() { if [ "$(id -u)" = 0 ]; then echo /var/lib/osierwand; else echo "${XDG_STATE_HOME:-$HOME/.local/state}/osierwand"; fi; }
