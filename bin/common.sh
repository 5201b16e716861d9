# Sourced by the commands in bin/: where things are, and the project's own MariaDB.
set -euo pipefail
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd -P)"
VAR="$ROOT/var"
# Columns of fish are arrays of megabytes: freed memory is kept for the next ones and not asked for anew each time, which
# took longer than the sums over them (bin/bench findings).
export MALLOC_ARENA_MAX=1 MALLOC_TRIM_THRESHOLD_=268435456 MALLOC_TOP_PAD_=16777216 MALLOC_MMAP_THRESHOLD_=67108864
# Every server, worker and test process is one of several on few cores: threads of its linear algebra would only wait for each
# other (the tests of cohorts took twice the processor time).
export OPENBLAS_NUM_THREADS="${OPENBLAS_NUM_THREADS:-1}" OMP_NUM_THREADS="${OMP_NUM_THREADS:-1}"
export PATH="$PATH:/usr/sbin:/sbin"  # where Debian keeps mariadbd, also for those who are not root
PYTHON="$ROOT/.venv/bin/python"
export PYTHONPATH="$ROOT/core:$ROOT/server:$ROOT"
export PYTHONUNBUFFERED=1
# What Python compiled is kept, also where a machine is set not to: else every server, worker and command that starts compiles all
# packages anew, which takes longer than its work.
export PYTHONDONTWRITEBYTECODE= PYTHONPYCACHEPREFIX="$VAR/pycache"
umask 022

say() { printf '%s\n' "$*"; }

# A content stamp: true where FILE holds the checksum of what follows, so that nothing is done twice.
fresh() { # STAMP PATH...
  local stamp="$1"; shift
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$(checksum "$@")" ]
}
checksum() {
  (cd "$ROOT" && find "$@" -type f -not -path '*/node_modules/*' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
}
stamp() { # STAMP PATH...
  local stamp="$1"; shift
  mkdir -p "$(dirname "$stamp")" && checksum "$@" > "$stamp"
}

free_port() { # PREFERRED: it, or any free one where it is taken
  "$PYTHON" - "$1" <<'PY'
import socket, sys
for port in (int(sys.argv[1]), 0):
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            continue
        print(probe.getsockname()[1])
        break
PY
}

free_ports() { # HOW_MANY PREFERRED: the first of so many free ports in a row, from the preferred one on
  "$PYTHON" - "$1" "$2" <<'PY'
import socket, sys
many, first = int(sys.argv[1]), int(sys.argv[2])
while first + many < 65536:
    try:
        for port in range(first, first + many):
            with socket.socket() as probe:
                probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
                probe.bind(("127.0.0.1", port))
    except OSError:
        first += many
        continue
    print(first)
    break
PY
}

# Ends what an earlier command of ours left running when it was killed: the process of PID_FILE, if it is our own account's and
# has ARGUMENT word for word on its command line. Never another one's.
end_left_behind() { # PID_FILE ARGUMENT
  local pid
  [ -f "$1" ] && pid="$(cat "$1")" && [ -n "$pid" ] || return 0
  [ -O "/proc/$pid" ] && tr '\0' '\n' < "/proc/$pid/cmdline" 2> /dev/null | grep -qxF -e "$2" || return 0
  say "An earlier Nailwright was killed and left process $pid running ($(cat "/proc/$pid/comm")); ending it."
  kill -TERM "$pid" 2> /dev/null || true
  local tries=0
  while [ -d "/proc/$pid" ] && ! grep -q '^State:.Z' "/proc/$pid/status" 2> /dev/null; do
    tries=$((tries + 1))
    [ "$tries" -lt 300 ] || { say "It does not end by itself. End it with: kill -9 $pid" >&2; return 1; }
    sleep 0.2
  done
}

# Starts a MariaDB of the project's own on loopback. Sets DB_PID and exports NAILWRIGHT_DB_*.
# The socket lies in a short temporary folder: a socket's path may have about 100 characters, a checkout's may be longer.
start_mariadb() { # DATA_FOLDER PREFERRED_PORT [OPTION...]
  local home="$1" port; shift
  port="$(free_port "$1")"; shift
  mkdir -p "$home"
  local account; account="$(id -un)"
  exec 9> "$home/lock"
  flock -n 9 || { say "Another Nailwright already uses $home. Stop it first (Ctrl-C where it was started)." >&2; return 1; }
  end_left_behind "$home/pid" "--pid-file=$home/pid" || return 1
  DB_SOCKET_FOLDER="$(mktemp -d)"
  DB_SOCKET="$DB_SOCKET_FOLDER/s"
  if [ ! -d "$home/data/mysql" ]; then
    rm -rf "$home/data"
    # by way of the temporary folder, whose name has no space: the script that makes it cannot bear one
    ln -s "$home" "$DB_SOCKET_FOLDER/home"
    mariadb-install-db --no-defaults --user="$account" --datadir="$DB_SOCKET_FOLDER/home/data" --skip-test-db \
      > "$home/install.log" 2>&1 || { say "MariaDB could not make its data folder; see $home/install.log" >&2; return 1; }
  fi
  : > "$home/mariadb.log"
  DB_HOME="$home"
  DB_COMMAND=(setsid mariadbd --no-defaults --user="$account" --datadir="$home/data" --socket="$DB_SOCKET" --pid-file="$home/pid"
    --bind-address=127.0.0.1 --port="$port" --character-set-server=utf8mb4 --max-allowed-packet=64M
    --innodb-buffer-pool-size=512M --innodb-flush-log-at-trx-commit=1 "$@")
  run_mariadb || return 1
  [ -f "$home/password" ] || (umask 077; "$PYTHON" -c 'import secrets; print(secrets.token_urlsafe(24))' > "$home/password")
  NAILWRIGHT_DB_PASSWORD="$(cat "$home/password")"
  mariadb --no-defaults -S "$DB_SOCKET" <<SQL
CREATE DATABASE IF NOT EXISTS nailwright CHARACTER SET utf8mb4;
CREATE USER IF NOT EXISTS nailwright@'127.0.0.1' IDENTIFIED BY '$NAILWRIGHT_DB_PASSWORD';
GRANT ALL ON \`nailwright%\`.* TO nailwright@'127.0.0.1';
GRANT ALL ON \`test\\_nailwright%\`.* TO nailwright@'127.0.0.1';
SQL
  printf '%s' "$port" > "$home/port"
  export NAILWRIGHT_DB_HOST=127.0.0.1 NAILWRIGHT_DB_PORT="$port" NAILWRIGHT_DB_USER=nailwright NAILWRIGHT_DB_PASSWORD
}

run_mariadb() { # once start_mariadb has said how: also again, where it ended by itself
  # In a session of its own, so that Ctrl-C reaches it only through stop_mariadb, after the server has let go of it.
  "${DB_COMMAND[@]}" >> "$DB_HOME/mariadb.log" 2>&1 9>&- &
  DB_PID=$!
  local tries=0
  until mariadb --no-defaults -S "$DB_SOCKET" -e 'SELECT 1' > /dev/null 2>&1; do
    kill -0 "$DB_PID" 2> /dev/null || { say "MariaDB did not start; see $DB_HOME/mariadb.log" >&2; return 1; }
    tries=$((tries + 1)); [ "$tries" -lt 300 ] || { say "MariaDB gave no answer in 60 s; see $DB_HOME/mariadb.log" >&2; return 1; }
    sleep 0.2
  done
}

stop_mariadb() {
  [ -n "${DB_PID:-}" ] || return 0
  kill -TERM "$DB_PID" 2> /dev/null || true
  wait "$DB_PID" 2> /dev/null || true
  rm -rf "${DB_SOCKET_FOLDER:-}"
  DB_PID=""
}

# The database that the environment names, or else the demo's own: the running one, or started for this command.
reach_mariadb() {
  if [ -z "${NAILWRIGHT_DB_HOST:-}" ]; then
    if flock -n "$VAR/mariadb/lock" true 2> /dev/null; then
      start_mariadb "$VAR/mariadb" 33420
    else
      NAILWRIGHT_DB_PASSWORD="$(cat "$VAR/mariadb/password")"
      NAILWRIGHT_DB_PORT="$(cat "$VAR/mariadb/port")"
      export NAILWRIGHT_DB_HOST=127.0.0.1 NAILWRIGHT_DB_USER=nailwright NAILWRIGHT_DB_PASSWORD NAILWRIGHT_DB_PORT
    fi
  fi
  DB_NAME="${NAILWRIGHT_DB_NAME:-nailwright}"
  DB_OPTIONS=(--no-defaults -h "$NAILWRIGHT_DB_HOST" -P "${NAILWRIGHT_DB_PORT:-3306}" -u "${NAILWRIGHT_DB_USER:-nailwright}")
  export MYSQL_PWD="${NAILWRIGHT_DB_PASSWORD:-}"
}

# What this installation signs its backups with: its secret key, as bin/start makes one, or as the environment names it.
signing_key() {
  mkdir -p "$VAR"
  [ -n "${NAILWRIGHT_SECRET_KEY:-}" ] || [ -f "$VAR/secret" ] || (umask 077; "$PYTHON" -c 'import secrets; print(secrets.token_urlsafe(48))' > "$VAR/secret")
  export NAILWRIGHT_SIGN_KEY="${NAILWRIGHT_SECRET_KEY:-$(cat "$VAR/secret" 2> /dev/null || true)}"
}

# Everything in DB_NAME as it stands at one moment, the same text for the same rows.
dump() {
  mariadb-dump "${DB_OPTIONS[@]}" --single-transaction --quick --no-tablespaces --hex-blob --order-by-primary --skip-comments \
    "$DB_NAME" | sed -E '/^[/][*]!50003 CREATE[*]/s|/[*]!50017 DEFINER=[^*]*[*]/ ||'  # whoever restores it owns its triggers
}

build_web() {
  local inputs=(web/src web/public web/index.html web/vite.config.ts web/package-lock.json docs/guide)
  if ! { [ -f "$ROOT/web/dist/index.html" ] && fresh "$VAR/stamps/web" "${inputs[@]}"; }; then
    say "Building the screens..."
    (cd "$ROOT/web" && npm run --silent build)
    "$PYTHON" -m whitenoise.compress --quiet "$ROOT/web/dist"
    stamp "$VAR/stamps/web" "${inputs[@]}"
  fi
}
