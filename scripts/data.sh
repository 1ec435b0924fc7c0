# What ./osierwand does with a house's data folder: verify its books, copy it out, bring it back. Sourced by ./osierwand.
. "$here/scripts/lib.sh"

database=osierwand_2
house='' started_here=false
workplace=''

# data_verb VERB ARGUMENT...
data_verb() {
  local verb=$1 data='' rest=(); shift
  while [ $# -gt 0 ]; do
    case $1 in
      --data) data=${2:?a folder}; shift 2 ;;
      *) rest+=("$1"); shift ;;
    esac
  done
  data=${data:-$(usual_data)}
  house=$data
  trap data_leave EXIT
  case $verb in
    verify-chain) data_open "$data"; verify "$database" "$data/keys" "${rest[@]}" ;;
    backup) [ ${#rest[@]} = 1 ] || die "usage: ./osierwand backup FILE [--data DIR]"; backup "$data" "${rest[0]}" ;;
    restore) [ ${#rest[@]} = 1 ] || die "usage: ./osierwand restore FILE [--data DIR]"; restore "$data" "${rest[0]}" ;;
  esac
}

data_leave() {
  local exit=${1:-$?}
  [ -z "$workplace" ] || rm -rf "$workplace"
  ! $started_here || pg_stop "$house"
  exit $exit
}

# data_open DIR: finds the cluster, or starts it for as long as this command runs.
data_open() {
  [ -d "$1/pg/data" ] || die "there is no house's data in $1"
  need_postgres
  pg_find "$1" && return
  unset PG_PORT
  pg_start "$1"
  started_here=true
}

# verify DATABASE KEYS ARGUMENT...: the exit is the command's own, 0 whole, 1 broken, 2 not read.
verify() {
  local name=$1 keys=$2; shift 2
  OSIERWAND_CONNECTION=$(pg_connection "$name") OSIERWAND_KEYS=$keys run_cli verify-chain "$@"
}

# pg_tool NAME ARGUMENT...: a PostgreSQL program on the cluster, as its superuser.
pg_tool() { PGPASSWORD=$PG_PASSWORD "$(pg_bin)/$1" -h 127.0.0.1 -p "$PG_PORT" -U osierwand "${@:2}"; }

sql() { pg_tool psql -X -q -At -v ON_ERROR_STOP=1 -d "$1" -c "$2"; }

# counts DATABASE: how much of everything there is, and where every book stands; the same text for the same data.
counts() {
  local table
  for table in $(sql "$1" "SELECT quote_ident(tablename) FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename"); do
    printf '%s %s\n' "$table" "$(sql "$1" "SELECT count(*) FROM $table")"
  done
  sql "$1" "SELECT 'book ' || client_id || ' ' || number || ' ' || encode(hash, 'hex') FROM books ORDER BY client_id"
}

# proven DATABASE KEYS: verifies quietly; tells what was found when it does not hold.
proven() { verify "$1" "$2" >"$workplace/verified" 2>&1 || { cat "$workplace/verified" >&2; return 1; }; }

backup() {
  local data=$1 file=$2 trial
  [ ! -e "$file" ] || die "$file is there already; nothing was written"
  data_open "$data"
  workplace=$(mktemp -d "$(dirname "$file")/.osierwand-backup.XXXXXX")
  chmod 700 "$workplace"
  mkdir "$workplace/house"
  say "Copying the database ..."
  # The keys first: the heads beside them must not be further than the books of a house that goes on saving.
  cp -rp "$data/keys" "$workplace/house/keys"
  pg_tool pg_dump -Fc -d "$database" -f "$workplace/house/database.dump"
  # What was copied is proven, not what is there: it is read back into a database of its own.
  say "Reading it back and verifying it ..."
  trial="osierwand_backup_$$"
  sql postgres "CREATE DATABASE $trial"
  if pg_tool pg_restore --no-owner --no-privileges --exit-on-error -d "$trial" "$workplace/house/database.dump" && proven "$trial" "$workplace/house/keys"; then
    counts "$trial" >"$workplace/house/counts"
    sql postgres "DROP DATABASE $trial"
  else
    sql postgres "DROP DATABASE $trial"
    die "the copy does not verify; nothing was written"
  fi
  { echo "osierwand-backup/1"; date -u '+%FT%TZ'; tail -n 1 "$workplace/verified"; } >"$workplace/house/about"
  (umask 077; tar -C "$workplace/house" -cf "$workplace/backup.tar" about counts database.dump keys)
  # A file that appears whole or not at all, and takes nobody's place.
  ln "$workplace/backup.tar" "$file" 2>/dev/null || die "$file is there already; nothing was written"
  tail -n 1 "$workplace/verified"
  echo "Written: $file. It holds the house's signing key: keep it as you keep the house's keys."
}

restore() {
  local data=$1 file=$2 app
  [ -f "$file" ] || die "there is no file $file"
  [ ! -e "$data/pg" ] || die "$data holds a house already; nothing was changed. Choose another --data, or move that one away"
  need_toolchains
  need_postgres
  mkdir -p "$data"
  data=$(cd "$data" && pwd)
  workplace=$(mktemp -d "$data/.osierwand-restore.XXXXXX")
  chmod 700 "$workplace"
  tar -C "$workplace" -xf "$file" 2>/dev/null && [ "$(head -n 1 "$workplace/about" 2>/dev/null)" = osierwand-backup/1 ] || die "$file is not a backup of a house; nothing was changed"
  unset PG_PORT
  house=$data
  trap 'pg_stop "$house"; started_here=false; rm -rf "$house/pg" "$house/secret"; data_leave 1' EXIT
  pg_start "$data"
  started_here=true
  sql postgres "CREATE DATABASE $database"
  say "Reading the database ..."
  pg_tool pg_restore --no-owner --no-privileges --exit-on-error -d "$database" "$workplace/database.dump"
  counts "$database" >"$workplace/found"
  diff "$workplace/counts" "$workplace/found" >&2 || die "what was read is not what was written; nothing is kept"
  proven "$database" "$workplace/keys" || die "the books do not verify; nothing is kept"
  cp -rp "$workplace/keys" "$data/keys"
  app=$(build_app)
  prepare_database "$app" "$data" "$database" >"$data/prepare.log" 2>&1 || die "the database could not be prepared; see $data/prepare.log"
  trap data_leave EXIT
  tail -n 1 "$workplace/verified"
  echo "Restored to $data; ./start --data $data opens it."
}
