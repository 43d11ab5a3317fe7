# Shared by the commands: brings the machine to where the product runs. Sourced, not run.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
root=$PWD
say() { printf '%s\n' "$*" >&2; }

need_node() {
  command -v node >/dev/null || { say "Node.js 20 or newer is needed."; exit 1; }
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || { say "Node.js 20 or newer is needed; this is $(node -v)."; exit 1; }
}

# Packages of the project, when the lock file changed since they were installed.
need_packages() {
  need_node
  local stamp=node_modules/.installed
  if [ ! -f "$stamp" ] || ! cmp -s package-lock.json "$stamp"; then
    say "installing packages ..."
    npm ci --silent --no-progress
    cp package-lock.json "$stamp"
  fi
  local core=packages/core/src
  is_newer $core/screen/blueNoiseTile.ts $core/screen/voidAndCluster.ts $core/maths/steady.ts scripts/tile.mjs || node scripts/tile.mjs
  is_newer $core/letters/outlines.ts scripts/letters.mjs || node scripts/letters.mjs
}

# Whether a file is newer than each of the others, as make would ask: starting Node.js to find out takes longer.
is_newer() {
  local made=$1 from
  shift
  for from in "$@"; do [ "$made" -nt "$from" ] || return 1; done
}

find_postgres() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

# Debian packages: installs them as root, otherwise says the one line to run.
need_debian() {
  local missing=()
  for want in "$@"; do
    case "$want" in
      postgresql) [ -n "$(find_postgres)" ] || missing+=("$want") ;;
      pdftoppm) command -v pdftoppm >/dev/null || missing+=(poppler-utils) ;;
      gs) command -v gs >/dev/null || missing+=(ghostscript) ;;
      rsvg-convert) command -v rsvg-convert >/dev/null || missing+=(librsvg2-bin) ;;
      heif-enc) command -v heif-enc >/dev/null || missing+=(libheif-examples) ;;
      avifenc) command -v avifenc >/dev/null || missing+=(libavif-bin) ;;
      cjxl) command -v cjxl >/dev/null || missing+=(libjxl-tools) ;;
      convert) command -v convert >/dev/null || missing+=(imagemagick) ;;
      groff) [ -e /usr/share/groff/current/font/devpdf/DESC ] || missing+=(groff) ;;
      python3-reportlab) /usr/bin/python3 -c "import reportlab" 2>/dev/null || missing+=("$want") ;;
      *) command -v "$want" >/dev/null || missing+=("$want") ;;
    esac
  done
  [ ${#missing[@]} -eq 0 ] && return
  if [ "$(id -u)" -ne 0 ]; then
    say "Missing: ${missing[*]}. Run: sudo apt-get update && sudo apt-get install -y --no-install-recommends ${missing[*]}"
    exit 1
  fi
  say "installing ${missing[*]} ..."
  # A new Debian cluster is not wanted: the product keeps its own.
  mkdir -p /etc/postgresql-common
  [ -f /etc/postgresql-common/createcluster.conf ] || echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf
  apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}
