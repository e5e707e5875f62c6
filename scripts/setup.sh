#!/usr/bin/env bash
# Installs what is missing: Debian packages and node modules. Says what it does, changes nothing that is there.
set -euo pipefail
cd "$(dirname "$0")/.."
# Two that start at the same time install one after the other.
exec 9<package-lock.json
flock 9

declare -A provides=(
  [ffmpeg]=ffmpeg [espeak-ng]=espeak-ng [flite]=flite [fluidsynth]=fluidsynth [pdftoppm]=poppler-utils [qpdf]=qpdf
  [chromium]=chromium [setpriv]=util-linux [prlimit]=util-linux [flock]=util-linux
  [soffice]=libreoffice-impress-nogui [bwrap]=bubblewrap [fc-match]=fontconfig [heif-convert]=libheif-examples
  [rsvg-convert]=librsvg2-bin
)
missing=()
for command in "${!provides[@]}"; do
  command -v "$command" >/dev/null || missing+=("${provides[$command]}")
done
compgen -G '/usr/lib/postgresql/*/bin/postgres' >/dev/null || missing+=(postgresql)
# Letters as wide as those that most decks are written in.
for font in fonts-liberation:LiberationSans fonts-crosextra-carlito:Carlito fonts-crosextra-caladea:Caladea; do
  compgen -G "/usr/share/fonts/truetype/*/${font#*:}-Regular.ttf" >/dev/null || missing+=("${font%:*}")
done
[ -e /usr/share/sounds/sf2/TimGM6mb.sf2 ] || missing+=(timgm6mb-soundfont)

install_packages() {
  echo "Installing Debian packages: ${missing[*]}"
  command -v apt-get >/dev/null || { echo "This is no Debian machine: install ${missing[*]} by hand, then start again." >&2; exit 1; }
  as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || { echo "Installing packages needs root or sudo. Ask an administrator to install: ${missing[*]}" >&2; exit 1; }
    as_root=(sudo)
  fi
  log=$(mktemp)
  if ! { "${as_root[@]}" apt-get update -qq && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive \
    apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
    tail -n 15 "$log" >&2
    echo "Debian's packages could not be installed (see above). Check the network connection and start again." >&2
    exit 1
  fi
}

# Both wait for the network most of the time: beside each other.
packages=
if [ "${#missing[@]}" -gt 0 ]; then
  install_packages &
  packages=$!
fi

version=$(node --version 2>/dev/null || echo none)
case "$version" in
  v20.*) ;;
  *) echo "Node 20 is needed, and this is $version." >&2; exit 1 ;;
esac

if ! cmp -s package-lock.json node_modules/.installed-lock; then
  echo 'Installing node modules'
  npm ci --no-audit --no-fund --loglevel=error
  cp package-lock.json node_modules/.installed-lock
fi

if [ -n "$packages" ]; then wait "$packages"; fi
