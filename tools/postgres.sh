# A PostgreSQL of our own: loopback only, own port, own data folder, own password.

# PostgreSQL refuses to run as root, and its user may not reach this folder.
if [ "$(id -u)" = 0 ]; then
  pg_home=/var/lib/fennip/$(printf '%s' "$state" | cksum | cut -d' ' -f1)
  as_pg() { runuser -u postgres -- "$@"; }
else
  pg_home=$state/postgres
  as_pg() { "$@"; }
fi
pg_data=$pg_home/data

pg_port() { cat "$pg_home/port"; }
database_url() { echo "postgres://fennip:$(cat "$state/password")@127.0.0.1:$(pg_port)/${1:-fennip}"; }

free_port() {
  node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{process.stdout.write(String(s.address().port));s.close()})'
}

is_postgres_up() {
  [ -f "$pg_data/PG_VERSION" ] && as_pg "$(postgres_programs)/pg_ctl" -D "$pg_data" status >/dev/null 2>&1
}

create_cluster() {
  local programs=$1
  # A folder that was copied or moved without its database: a new one would know none of these pictures.
  if [ -n "$(ls -A "$state/store/originals" 2>/dev/null)" ]; then
    echo "The folder $state holds pictures, but its database is not at $pg_home." >&2
    echo "Perhaps it was copied or moved. Name the folder it was made in by FENNIP_STATE, or restore a backup." >&2
    return 1
  fi
  echo "Creating a database folder at $pg_home" >&2
  rm -rf "$pg_home"
  mkdir -p "$pg_home"
  (umask 077 && node -e 'console.log(require("crypto").randomBytes(18).toString("hex"))' >"$state/password")
  cp "$state/password" "$pg_home/password"
  if [ "$(id -u)" = 0 ]; then chown -R postgres:postgres "$pg_home"; fi
  chmod 700 "$pg_home"
  as_pg "$programs/initdb" -D "$pg_data" -U fennip --pwfile="$pg_home/password" --auth=scram-sha-256 \
    --encoding=UTF8 --locale=C.UTF-8 >"$state/initdb.log"
  as_pg rm "$pg_home/password"
  touch "$pg_home/whole"
}

run_postgres() {
  as_pg "$1/pg_ctl" -D "$pg_data" -w -s -l "$pg_home/log" \
    -o "-p $(pg_port) -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start
}

start_postgres() {
  local programs
  programs=$(postgres_programs)
  # A folder whose creation was interrupted holds nothing yet.
  { [ -f "$pg_home/whole" ] && [ -f "$state/password" ]; } || create_cluster "$programs" || return 1
  if ! is_postgres_up; then
    # The port of last time, so that a server that is still up finds its database again; another where it is taken.
    [ -f "$pg_home/port" ] && run_postgres "$programs" 2>/dev/null || {
      free_port >"$pg_home/port"
      run_postgres "$programs"
    }
  fi
  PGPASSWORD=$(cat "$state/password") psql -qtA -h 127.0.0.1 -p "$(pg_port)" -U fennip postgres \
    -c "select 1 from pg_database where datname = 'fennip'" | grep -q 1 ||
    PGPASSWORD=$(cat "$state/password") psql -q -h 127.0.0.1 -p "$(pg_port)" -U fennip postgres -c 'create database fennip'
}

stop_postgres() {
  if is_postgres_up; then
    as_pg "$(postgres_programs)/pg_ctl" -D "$pg_data" -s -m fast stop
    echo "The database is stopped." >&2
  fi
}
