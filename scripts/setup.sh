# Sourced by ./start, ./test and ./even-mark: installs what is missing, says in one sentence what stands in the way.
# Every step looks first and does nothing when it is done already, so that a second run costs seconds.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
venv="$root/.venv"
python="$venv/bin/python"
umask 022
export PYTHONUNBUFFERED=1 PIP_DISABLE_PIP_VERSION_CHECK=1

say() { printf '%s\n' "$*" >&2; }
die() { say "even-mark: $*"; exit 2; }

# apt_refresh: the package lists, once a run.
apt_refresh() {
  [ -z "${apt_updated:-}" ] || return 0
  local as=""
  [ "$(id -u)" = 0 ] || as="sudo -n"
  $as apt-get update -qq >/dev/null 2>&1 || say "The package lists could not be refreshed; going on with those that are here."
  apt_updated=1
}

# apt_install WHY PACKAGE...: install Debian packages, or say which to install by hand.
apt_install() {
  local why=$1; shift
  command -v apt-get >/dev/null || die "$why is missing and this is not a Debian machine: install it by hand ($*), then run this again."
  local as=""
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null && sudo -n true 2>/dev/null && as="sudo -n" \
      || die "$why is missing: run 'apt-get install $*' as root, then run this again."
  fi
  say "Installing $why ($*) ..."
  apt_refresh
  $as env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >"$root/.data/apt.log" 2>&1 \
    || die "$why could not be installed; the reason is in .data/apt.log."
}

# must_drop: whether we are root in a folder that others can reach, so that the server is to run as somebody else.
must_drop() { [ "$(id -u)" = 0 ] && open_to_all "$root"; }

hash_of() { cat "$@" | sha256sum | cut -c1-32; }

# open_to_all PATH: whether other users can reach it; what reads hostile files runs as one of them when we are root.
open_to_all() {
  local at
  at=$(readlink -f "$1") || return 1
  while [ "$at" != / ]; do
    [ $(( 0$(stat -c %a "$at") & 1 )) = 1 ] || return 1
    at=$(dirname "$at")
  done
}

find_python() {
  local candidate
  for candidate in python3 python3.13 python3.12 python3.11 /usr/bin/python3; do
    if command -v "$candidate" >/dev/null \
      && "$candidate" -c 'import sys, ensurepip, venv; sys.exit(sys.version_info < (3, 11))' >/dev/null 2>&1 \
      && { ! must_drop || open_to_all "$("$candidate" -c 'import sys; print(sys.executable)')"; }; then
      command -v "$candidate"; return
    fi
  done
  return 1
}

# ensure_python run|dev: the virtual environment with just what the lock file names.
ensure_python() {
  local want=$1 base stamp
  mkdir -p "$root/.data" 2>/dev/null || die "this folder cannot be written to: give yourself the right to write in it, then run this again."
  stamp="$(hash_of "$root/requirements/uv.txt" "$root/requirements/run.txt" "$root/requirements/dev.txt")"
  if [ -x "$python" ] && "$python" -c '' 2>/dev/null && [ -f "$venv/.stamp" ] && { ! must_drop || open_to_all "$python"; }; then
    case "$(cat "$venv/.stamp")" in
      "$stamp $want"|"$stamp dev") return ;;
    esac
  fi
  if ! [ -x "$python" ] || ! "$python" -c '' 2>/dev/null || { must_drop && ! open_to_all "$python"; }; then
    rm -rf "$venv"
    base=$(find_python) || { apt_install "Python 3.11 or newer" python3 python3-venv; base=$(find_python) || die "Python 3.11 or newer is needed: install it, then run this again."; }
    "$base" -m venv "$venv" || die "the Python environment could not be made in .venv: check the free space and the rights of this folder."
  fi
  rm -f "$venv/.stamp"
  say "Installing the Python packages ..."
  if ! "$python" -m pip install -q --require-hashes -r "$root/requirements/uv.txt" >"$root/.data/pip.log" 2>&1 \
    || ! VIRTUAL_ENV="$venv" "$venv/bin/uv" pip sync -q --compile-bytecode --require-hashes "$root/requirements/$want.txt" >>"$root/.data/pip.log" 2>&1; then
    die "the Python packages could not be installed; the reason is in .data/pip.log."
  fi
  # uv itself is not in the lists that it syncs to, and the package is used from its folder
  "$python" -m pip install -q --require-hashes -r "$root/requirements/uv.txt" >>"$root/.data/pip.log" 2>&1 || true
  "$python" - "$root/src" <<'PY'
import pathlib, sys, sysconfig
pathlib.Path(sysconfig.get_path("purelib"), "evenmark-source.pth").write_text(sys.argv[1] + "\n")
PY
  printf '%s %s' "$stamp" "$want" >"$venv/.stamp"
}

# ensure_node: a Node that can build the pages; the machine's own when it is new enough, else one from the Python registry.
ensure_node() {
  local check='const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 22 || (a === 22 && b >= 12) || (a === 20 && b >= 19) ? 0 : 1)'
  if command -v node >/dev/null && command -v npm >/dev/null && node -e "$check" >/dev/null 2>&1; then return; fi
  if ! [ -x "$root/.tools/node/bin/node" ]; then
    say "Installing Node ..."
    "$python" -m venv "$root/.tools/node" && "$root/.tools/node/bin/python" -m pip install -q --require-hashes -r "$root/requirements/node.txt" >"$root/.data/node.log" 2>&1 \
      || { rm -rf "$root/.tools/node"; die "Node could not be installed; the reason is in .data/node.log. Any Node from 20.19 on will do."; }
  fi
  export PATH="$root/.tools/node/bin:$PATH"
}

# ensure_packages: the front end's packages, exactly as locked.
ensure_packages() {
  local stamp
  stamp=$(hash_of "$root/frontend/package-lock.json")
  [ -f "$root/frontend/node_modules/.stamp" ] && [ "$(cat "$root/frontend/node_modules/.stamp")" = "$stamp" ] && return
  ensure_node
  say "Installing the front end's packages ..."
  (cd "$root/frontend" && npm ci --no-audit --no-fund --loglevel=error >"$root/.data/npm.log" 2>&1) \
    || die "the front end's packages could not be installed; the reason is in .data/npm.log."
  printf '%s' "$stamp" >"$root/frontend/node_modules/.stamp"
}

# ensure_pages: the built front end, built anew only when its sources have changed.
ensure_pages() {
  local stamp
  stamp=$( (cd "$root/frontend" && find src index.html public/favicon.svg package-lock.json vite.config.ts -type f; find "$root/src/evenmark/core" "$root/scripts/worker_package.py" -name '*.py') | LC_ALL=C sort | (cd "$root/frontend" && xargs sha256sum) | sha256sum | cut -c1-32)
  [ -f "$root/frontend/dist/.stamp" ] && [ "$(cat "$root/frontend/dist/.stamp")" = "$stamp" ] && return
  ensure_packages
  ensure_node
  say "Building the pages ..."
  (cd "$root" && "$python" -m scripts.worker_package) || die "the part of the core that runs in the page could not be packed."
  (cd "$root/frontend" && npm run -s build >"$root/.data/build.log" 2>&1) || die "the pages could not be built; the reason is in .data/build.log."
  printf '%s' "$stamp" >"$root/frontend/dist/.stamp"
}

# ensure_postgres: the server's programs; Debian's package would start a cluster of its own, which is not wanted.
ensure_postgres() {
  ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 && return
  if [ "$(id -u)" = 0 ] && ! [ -f /etc/postgresql-common/createcluster.conf ]; then
    apt_install "PostgreSQL" postgresql-common
    sed -i 's/^#\? *create_main_cluster.*/create_main_cluster = false/' /etc/postgresql-common/createcluster.conf 2>/dev/null || true
  fi
  apt_install "PostgreSQL" postgresql
  ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || die "PostgreSQL was installed but its programs were not found under /usr/lib/postgresql."
}

# ensure_chromium: the browser, and the library without which the program that drives it does not run.
ensure_chromium() {
  # the one without windows where there is one: it starts faster and takes less
  if ! command -v chromium-headless-shell >/dev/null && ! command -v chromium >/dev/null; then
    apt_refresh
    if apt-cache show chromium-headless-shell >/dev/null 2>&1; then apt_install "Chromium" chromium-headless-shell
    else apt_install "Chromium" chromium; fi
  fi
  local driver
  driver=$(echo "$venv"/lib/python3*/site-packages/playwright/driver/node)
  "$driver" --version >/dev/null 2>&1 || apt_install "a library of the browser's driver" libatomic1
}
