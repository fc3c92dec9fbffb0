#!/usr/bin/env bash
# Checks that this machine has what Pavese needs from its system, and installs Debian's packages when root.
set -euo pipefail

say() { printf 'pavese: %s\n' "$*" >&2; }

python3 - <<'PY' || { say 'Python 3.11 or newer is needed (python3).'; exit 1; }
import sys
sys.exit(sys.version_info < (3, 11))
PY
python3 -c 'import ensurepip, venv' 2>/dev/null || missing_venv=python3-venv
command -v node >/dev/null || { say 'Node 20 or newer is needed (node, npm).'; exit 1; }
node -e 'process.exit(Number(process.versions.node.split(".")[0]) < 20 ? 1 : 0)' ||
  { say "Node 20 or newer is needed; this is $(node --version)."; exit 1; }

wanted=()
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null || wanted+=(postgresql)
command -v chromium >/dev/null || wanted+=(chromium)
[ -n "${missing_venv:-}" ] && wanted+=("$missing_venv")
# Faces that are as wide as those which most mails and decks name; without them these are drawn too wide.
extras=()
for face in fonts-liberation2 fonts-crosextra-carlito fonts-crosextra-caladea fonts-noto-color-emoji; do
  dpkg -s "$face" >/dev/null 2>&1 || extras+=("$face")
done
# Chromium without windows, which shows mails and pages sooner; without it the whole one does.
[ -x /usr/bin/chromium-headless-shell ] || leaner=chromium-headless-shell
# What draws slides; without it decks are still read and recolored, but not seen.
command -v soffice >/dev/null || extras+=(libreoffice-impress)
[ ${#wanted[@]} -eq 0 ] && [ ${#extras[@]} -eq 0 ] && [ -z "${leaner:-}" ] && exit 0

if [ "$(id -u)" -ne 0 ] || ! command -v apt-get >/dev/null; then
  [ ${#extras[@]} -eq 0 ] || say "mails and decks are drawn in other faces than their own, or not at all: this machine lacks ${extras[*]}."
  [ ${#wanted[@]} -eq 0 ] && exit 0
  say "this machine lacks: ${wanted[*]}. As root: apt-get install ${wanted[*]}"
  exit 1
fi
export DEBIAN_FRONTEND=noninteractive
install() {
  say "installing $* with apt…"
  apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}
apt-get update -qq || say 'the lists of packages could not be brought up to date.'
if [ ${#wanted[@]} -gt 0 ]; then
  # Debian's own cluster is not wanted: Pavese keeps its own.
  mkdir -p /etc/postgresql-common
  [ -e /etc/postgresql-common/createcluster.conf ] || echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf
  install "${wanted[@]}"
fi
[ -z "${leaner:-}" ] || install "$leaner" || say 'Chromium without windows is not to be had: the whole one shows mails and pages.'
[ ${#extras[@]} -eq 0 ] || install "${extras[@]}" || say "mails and decks will be drawn in other faces than their own, or not at all."
