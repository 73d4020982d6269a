# Installs what is missing on a fresh Debian machine. Sourced by ./start and ./test.
# Says what it does, asks for nothing, and does nothing when all is there.

say() { printf '%s\n' "$*"; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then sudo -n "$@"
  else
    say "This needs the Debian package(s) below once, and only root can install them:" >&2
    say "  apt-get install -y --no-install-recommends $MISSING" >&2
    return 1
  fi
}

install_packages() {
  MISSING="$*"
  say "Installing $MISSING …"
  as_root apt-get update -qq || { say "Debian's packages cannot be reached. Check the network and run this again." >&2; return 1; }
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $MISSING >/dev/null \
    || { say "These packages could not be installed: $MISSING" >&2; return 1; }
}

need_postgres() {
  ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 && return 0
  # Keep Debian from making a system-wide cluster of its own: ours is private.
  if [ ! -e /etc/postgresql-common/createcluster.conf ]; then
    MISSING=postgresql
    as_root mkdir -p /etc/postgresql-common &&
      printf 'create_main_cluster = false\n' | as_root tee /etc/postgresql-common/createcluster.conf >/dev/null || return 1
  fi
  install_packages postgresql
}

need_chromium() { [ -x /usr/bin/chromium ] || install_packages chromium; }

need_node() {
  command -v node >/dev/null 2>&1 && node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' && return 0
  say "Node 20.19 or newer is needed. Install it, then run this again." >&2
  return 1
}

need_modules() {
  mark=node_modules/.installed-from
  if [ ! -d node_modules ] || ! cmp -s package-lock.json "$mark"; then
    say "Installing the npm packages …"
    npm ci --no-audit --no-fund --loglevel=error || { say "The npm packages could not be installed. Check the network and run this again." >&2; return 1; }
    cp package-lock.json "$mark"
  fi
}
