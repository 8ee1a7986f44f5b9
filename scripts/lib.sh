# Shared by the scripts here: where we are, how to speak, what changed since last time.
set -euo pipefail
ROOT=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$ROOT"
STAMPS="$ROOT/.run"
mkdir -p "$STAMPS" 2>/dev/null || { echo "Cannot write in $ROOT: check its owner and the free space." >&2; exit 1; }

say() { printf '%s\n' "· $*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

# changed NAME FILE...: true when any of the files (or folders) differs from when `done_with NAME` was last called.
digest() { find "$@" -type f -not -name '*.pyc' -print0 2>/dev/null | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1; }
changed() { local name=$1; shift; [ "$(cat "$STAMPS/$name" 2>/dev/null)" != "$(digest "$@")" ]; }
done_with() { local name=$1; shift; digest "$@" > "$STAMPS/$name"; }

# quietly LOG COMMAND...: run a command, and show what it printed only when it fails.
quietly() {
  local log="$STAMPS/$1.log"; shift
  if ! "$@" > "$log" 2>&1; then
    tail -n 40 "$log" >&2
    grep -qi 'no space left' "$log" && die "The disk is full: free some space, then run this again."
    die "That failed: $* (all of it in $log)"
  fi
}

# Values of .env, unless the environment has them already.
load_env() {
  local key value
  [ -f "$ROOT/.env" ] || return 0
  while IFS='=' read -r key value; do
    case $key in ''|\#*) continue ;; esac
    [ -n "${!key+set}" ] || export "$key=$value"
  done < "$ROOT/.env"
}

# The first port of our range that nothing listens on.
free_port() {
  local port
  for port in $(seq 54710 54809); do
    (exec 3<> "/dev/tcp/127.0.0.1/$port") 2> /dev/null || { echo "$port"; return; }
  done
  die "No free port between 54710 and 54809 for PostgreSQL."
}

# Where root keeps the data of a checkout in this place, with a copy of its .env beside it.
root_data() { printf '/var/lib/postgresql/dusky-heron-%s' "$(printf %s "$ROOT" | sha256sum | cut -c1-10)"; }
