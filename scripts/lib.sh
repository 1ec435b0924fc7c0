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

# Its form without a window, which the tests of the browser prefer; where there is none they use the other.
want_headless_chromium() { (need_packages 'test -x /usr/bin/chromium-headless-shell' chromium-headless-shell) || say "They go on with the Chromium that is there."; }

need_postgres() { need_packages 'ls /usr/lib/postgresql/*/bin/initdb' postgresql; }

# fingerprint PATH...: one name for the state of these sources, so that nothing is built twice and a running copy is never overwritten.
fingerprint() {
  (cd "$root" && find "$@" -type f -not -path '*/node_modules/*' -not -path '*/bin/*' -not -path '*/obj/*' -not -path '*/dist/*' \
    -not -name openapi.json -not -name schema.gen.ts -not -name '*.tsbuildinfo' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16)
}

# quietly WHAT COMMAND...: shows the command's output only when it fails; says how long it took last time, and keeps how long now.
quietly() {
  local what=$1 log took=0 began=$SECONDS; shift
  log=$(mktemp)
  [ ! -f "$root/out/times" ] || took=$(sed -n "s/^$(name_of "$what") //p" "$root/out/times" | tail -n 1)
  if [ "${took:-0}" -ge 3 ]; then say "$what ... ($took s last time)"; else say "$what ..."; fi
  # Not the lock: what a build leaves running would hold it.
  if ! "$@" >"$log" 2>&1 9>&-; then cat "$log" >&2; rm -f "$log"; die "failed: $what"; fi
  rm -f "$log"
  mkdir -p "$root/out"
  # Written whole, as others may be keeping theirs at the same time; of a few lost lines nothing follows.
  { grep -v "^$(name_of "$what") " "$root/out/times" 2>/dev/null; echo "$(name_of "$what") $((SECONDS - began))"; } >"$root/out/times.$BASHPID" || true
  mv "$root/out/times.$BASHPID" "$root/out/times"
}
name_of() { printf '%s' "$1" | tr -c 'A-Za-z0-9-' _; }

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

# One warm compiler for all projects of this run, under a name of our own: environments that switch the shared one off start it cold for
# each project, and somebody else's is not ours to end.
compiler="osierwand-$$"
build_flags=(--nologo -nodeReuse:false -p:UseSharedCompilation=true -p:SharedCompilationId="$compiler")
end_compiler() {
  local server
  server=$(dirname "$(dotnet --list-sdks | tail -n 1 | sed 's/^\([^ ]*\) \[\(.*\)\]$/\2\/\1\/x/')")/Roslyn/bincore
  for server in "$server/VBCSCompiler" "dotnet $server/VBCSCompiler.dll"; do
    $server -shutdown -pipename:"$compiler" >/dev/null 2>&1 && return
  done
  return 0
}

# What the application is made of, and its tests.
app_sources=(src scripts/notices.mjs scripts/pack.mjs Directory.Build.props Directory.Build.targets Directory.Packages.props global.json)
engine_sources=(src/Core src/Engine Directory.Build.props Directory.Build.targets Directory.Packages.props global.json)
test_sources=("${app_sources[@]}" Osierwand.slnx .editorconfig tests/Core.Tests tests/Instruments.Tests tests/Server.Tests)

app_folder() { printf '%s/out/app-%s\n' "$root" "$(fingerprint "${app_sources[@]}")"; }

# build_app: server with demo, simulator and front end in out/app-FINGERPRINT; prints that folder. Without analyzers and tests, and from
# two ends at once: the front end beside the server, the engine beside what needs only Core.
build_app() {
  local target
  # In the subshell that prints: a build that fails leaves no compiler behind.
  trap end_compiler EXIT
  mkdir -p "$root/out"
  exec 9>"$root/out/.lock"
  flock 9
  target=$(app_folder)
  if [ ! -d "$target" ]; then
    build_web & local web=$!
    quietly "Fetching packages for the server" restore src/Demo src/Engine
    compile_app Release src/Demo
    assemble_app Release "$target" "$web"
  fi
  flock -u 9
  exec 9>&-
  printf '%s\n' "$target"
}

# build_checked: everything that ./test needs, compiled once with every analyzer: solution, application, command line.
build_checked() {
  local stamp target web=''
  trap end_compiler EXIT
  mkdir -p "$root/out"
  exec 9>"$root/out/.lock"
  flock 9
  target=$(app_folder)
  stamp="$root/out/checked-$(fingerprint "${test_sources[@]}")"
  if [ ! -f "$stamp" ] || [ ! -d "$target" ]; then
    [ -d "$target" ] || { build_web & web=$!; }
    quietly "Fetching packages for the server and its tests" restore Osierwand.slnx src/Engine
    compile_app Checked Osierwand.slnx
    [ -d "$target" ] || assemble_app Checked "$target" "$web"
    rm -rf "$root/out/cli-checked"
    quietly "Putting the command line together" dotnet publish src/Cli -c Checked -o "$root/out/cli-checked" --no-build "${build_flags[@]}"
    wait "$engine" || die "the engine was not built"
    rm -f "$root"/out/checked-*
    touch "$stamp"
  fi
  flock -u 9
  exec 9>&-
  printf '%s\n' "$target"
}

restore() { local what; for what in "$@"; do dotnet restore "$what" --nologo || return; done; }

# compile_app CONFIGURATION PROJECT: Core first, then the engine beside all the rest.
compile_app() {
  quietly "Building the rules" dotnet build src/Core -c "$1" --no-restore "${build_flags[@]}"
  build_engine "$1" & engine=$!
  quietly "Building the server" dotnet build "$2" -c "$1" --no-restore "${build_flags[@]}"
}

engine_folder() { printf '%s/out/engine-%s\n' "$root" "$(fingerprint "${engine_sources[@]}")"; }

# build_engine CONFIGURATION: Core for the browser, compiled to WebAssembly and compressed, in out/engine-FINGERPRINT.
build_engine() {
  local target
  target=$(engine_folder)
  [ -d "$target" ] && return
  rm -rf "$target.part"
  quietly "Building the engine for the browser" dotnet publish "$root/src/Engine" -c "$1" -o "$target.part" --no-restore --no-dependencies "${build_flags[@]}"
  node "$root/scripts/pack.mjs" "$target.part/wwwroot/_framework" || die "the engine could not be compressed"
  mv "$target.part" "$target"
  ls -dt "$root"/out/engine-* | tail -n +3 | xargs -r rm -rf
}

# build_web: the front end in src/web/dist. It finds the engine under the name of its sources, so that it waits for no compiler.
build_web() {
  node_packages "$root/src/web"
  VITE_ENGINE="/engine/$(basename "$(engine_folder)")/" quietly "Building the front end" npm --prefix "$root/src/web" run build
}

# assemble_app CONFIGURATION TARGET WEB: puts what was built together; WEB is the job that builds the front end, engine the engine's.
assemble_app() {
  local part="$2.part" engine_files
  rm -rf "$part"
  quietly "Putting the server together" dotnet publish src/Demo -c "$1" -o "$part/server" --no-build "${build_flags[@]}"
  quietly "Putting the simulated instrument together" dotnet publish src/Simulator -c "$1" -o "$part/simulator" --no-build "${build_flags[@]}"
  # Libraries for machines that this is not: four fifths of what was published.
  find "$part/server/runtimes" -mindepth 1 -maxdepth 1 ! -name 'linux-x64' ! -name 'linux-arm64' ! -name 'linux' ! -name 'unix' -exec rm -rf {} + 2>/dev/null || true
  wait "$3" || die "the front end was not built"
  wait "$engine" || die "the engine was not built"
  cp -r "$root/src/web/dist" "$part/server/wwwroot"
  engine_files=$(engine_folder)
  mkdir -p "$part/server/wwwroot/engine"
  cp -r "$engine_files/wwwroot/_framework" "$part/server/wwwroot/engine/$(basename "$engine_files")"
  # Who made what is shipped, and under which licence; a package that names none stops the build.
  node "$root/scripts/notices.mjs" "$part/server" "$root/src/web" >"$part/server/wwwroot/notices.txt" || die "the notices could not be written"
  mv "$part" "$2"
  # Keep the newest few: an older copy may still be running elsewhere.
  ls -dt "$root"/out/app-* | tail -n +4 | xargs -r rm -rf
}

# load_program NAME: builds one of bench/ where it is not built, beside what ./test or ./start compiled already; prints its assembly.
load_program() {
  local configuration=Release program
  compgen -G "$root/out/checked-*" >/dev/null && configuration=Checked
  program="$root/bench/$1/bin/$configuration/net10.0/Osierwand.$1.dll"
  if [ ! -f "$program" ] || [ -n "$(find "$root/bench/$1" "$root/bench/Shared" "$root/src/Core" "$root/src/Store" -name '*.cs' -newer "$program" -not -path '*/obj/*' -print -quit)" ]; then
    quietly "Building $1" dotnet build "$root/bench/$1" -c "$configuration" --nologo -nodeReuse:false
  fi
  printf '%s\n' "$program"
}

# simulator_ports LOG: what the simulator says it listens on, as simulator_port, performance_port and control_port; fails while it has not.
simulator_ports() {
  control_port=$(sed -n 's/^Control channel.*: \([0-9]*\)$/\1/p' "$1")
  simulator_port=$(sed -n 's/.* on port \([0-9]*\)$/\1/p' "$1" | sed -n 1p)
  performance_port=$(sed -n 's/.* on port \([0-9]*\)$/\1/p' "$1" | sed -n 2p)
  [ -n "$control_port" ]
}

# server_port LOG: what a server says it listens on; fails while it has not.
server_port() { sed -n 's/^Listening on .*:\([0-9]*\)$/\1/p' "$1" | tail -n 1 | grep .; }

# PostgreSQL refuses to run as root; then its own user runs it.
pg_as() { if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi; }
pg_bin() { ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1; }

# pg_make DIR: the cluster in DIR/pg and its password, unless they are there; sets PG_PASSWORD.
pg_make() {
  local dir=$1
  mkdir -p "$dir/pg"
  if [ "$(id -u)" = 0 ]; then
    chmod 711 "$dir"
    chown postgres "$dir/pg"
    pg_as test -w "$dir/pg" || die "PostgreSQL runs as the user postgres, who cannot enter $dir; choose another --data"
  fi
  chmod 700 "$dir/pg"
  secret_in "$dir/secret"
  PG_PASSWORD=$(cat "$dir/secret")
  [ -f "$dir/pg/data/PG_VERSION" ] && return
  say "Making the database ..."
  # A pipe of ours cannot be opened by name as another user; a file that only that user reads can.
  printf '%s' "$PG_PASSWORD" | pg_as sh -c 'umask 077; cat >"$1"' sh "$dir/pg/pw"
  # Made beside its place and moved there whole: a start that was stopped here begins again.
  pg_as rm -rf "$dir/pg/making"
  pg_as "$(pg_bin)/initdb" -D "$dir/pg/making" -U osierwand --auth=scram-sha-256 --pwfile="$dir/pg/pw" -E UTF8 --locale=C.UTF-8 --no-sync >/dev/null 2>"$dir/initdb.log" &&
    rm -f "$dir/pg/pw" && { sync -f "$dir/pg/making" || true; } && pg_as mv "$dir/pg/making" "$dir/pg/data" ||
    { cat "$dir/initdb.log" >&2; die "PostgreSQL could not make its data folder in $dir/pg"; }
}

# pg_start DIR [OPTION...]: starts the cluster in DIR/pg, making it if need be; sets PG_PORT and PG_PASSWORD. On PG_PORT where that is set,
# else on a port that it gets: one that somebody else took in the same moment is answered by the next.
pg_start() {
  local dir=$1 tries; shift
  pg_make "$dir"
  # Left over from a start that was killed outright.
  pg_as "$(pg_bin)/pg_ctl" -D "$dir/pg/data" -m fast stop >/dev/null 2>&1 || true
  if [ -n "${PG_PORT:-}" ]; then
    pg_run "$dir" "$@" && return
    die "PostgreSQL did not start; see $dir/pg/logs"
  fi
  for tries in 1 2 3 4 5 6 7 8 9 10; do
    # Below the ports that are given to whoever asks for any.
    PG_PORT=$((16384 + (RANDOM * 32768 + RANDOM) % 16000))
    pg_as rm -f "$dir/pg/log"
    pg_run "$dir" "$@" 2>"$dir/pg-start.log" && return
    grep -q "in use" "$dir/pg/log" || break
  done
  cat "$dir/pg-start.log" >&2
  die "PostgreSQL did not start; see $dir/pg/log and $dir/pg/logs"
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

# midday_in DATABASE: of the tests' copies, it is about midday at every site. What holds for the day, as an outlet that was measured this
# morning, would end in the middle of a test where the house has a site whose midnight is near: with three zones, some runs of a day.
midday_in() {
  local ahead=$((12 - 10#$(date -u +%H)))
  PGPASSWORD=$PG_PASSWORD "$(pg_bin)/psql" -X -q -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U osierwand -d "$1" \
    -c "SET session_replication_role = replica" \
    -c "UPDATE sites SET time_zone = 'Etc/GMT$([ $ahead -gt 0 ] && echo - || echo +)${ahead#-}'" \
    -c "UPDATE outlet_checks SET day = '$(date -u +%F)'"
}

# prepare_database APP DIR DATABASE [DEMO]: roles, tables and rights as this version wants them, and the demo's data where DEMO is true. A
# process that ends soon: its code is not watched for what could be made faster.
prepare_database() {
  (cd "$1/server" && Demo__Enabled="${4:-false}" Serilog__MinimumLevel__Default=Warning DOTNET_TieredPGO=0 ConnectionStrings__Admin=$(pg_connection postgres) ConnectionStrings__Osierwand=$(server_connection "$2" "$3") \
    dotnet Osierwand.Demo.dll prepare)
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

# answers_ok URL: whether it answers with 200; asked by the shell itself, as it is asked often.
answers_ok() {
  local host=${1#http://} line
  (
    exec 3<>"/dev/tcp/${host%%:*}/$(sed 's#^[^:]*:\([0-9]*\).*#\1#' <<<"$host")" || exit 1
    printf 'GET /%s HTTP/1.0\r\nHost: localhost\r\n\r\n' "${host#*/}" >&3
    read -r -t 10 line <&3 && [[ $line == HTTP/*\ 200* ]]
  ) 2>/dev/null
}

# needs_first_person URL: whether nobody has an account there.
needs_first_person() {
  node -e 'fetch(process.argv[1]+"/api/v1/people/sign-in").then(r=>r.json()).then(p=>process.exit(p.needsFirstPerson?0:1),()=>process.exit(1))' "$1"
}

# usual_data: where a house's data lies unless told otherwise.
usual_data() { if [ "$(id -u)" = 0 ]; then echo /var/lib/osierwand; else echo "${XDG_STATE_HOME:-$HOME/.local/state}/osierwand"; fi; }
