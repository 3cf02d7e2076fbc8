# Sourced by start, check and bench: a virtual environment with pinned packages, and the system libraries that Qt needs.
# Sets $py. Quick when nothing has changed; needs the network only then.

# Library → Debian package; found by starting Qt's offscreen and xcb platforms in a bare Debian 12.
QT_LIBRARIES="
libGL.so.1:libgl1 libEGL.so.1:libegl1 libxkbcommon.so.0:libxkbcommon0 libdbus-1.so.3:libdbus-1-3
libfontconfig.so.1:libfontconfig1 libfreetype.so.6:libfreetype6 libglib-2.0.so.0:libglib2.0-0 libgthread-2.0.so.0:libglib2.0-0
libX11.so.6:libx11-6 libX11-xcb.so.1:libx11-xcb1 libxcb.so.1:libxcb1 libxcb-cursor.so.0:libxcb-cursor0
libxcb-icccm.so.4:libxcb-icccm4 libxcb-image.so.0:libxcb-image0 libxcb-keysyms.so.1:libxcb-keysyms1
libxcb-randr.so.0:libxcb-randr0 libxcb-render.so.0:libxcb-render0 libxcb-render-util.so.0:libxcb-render-util0
libxcb-shape.so.0:libxcb-shape0 libxcb-shm.so.0:libxcb-shm0 libxcb-sync.so.1:libxcb-sync1 libxcb-xfixes.so.0:libxcb-xfixes0
libxcb-xkb.so.1:libxcb-xkb1 libxkbcommon-x11.so.0:libxkbcommon-x11-0 libgssapi_krb5.so.2:libgssapi-krb5-2
libbrotlidec.so.1:libbrotli1 libzstd.so.1:libzstd1
"

say() { printf 'fuente: %s\n' "$1" >&2; }

apt_install() { # package…: install when we may, else say the line to run
  local how=""
  if command -v apt-get >/dev/null; then
    if [ "$(id -u)" = 0 ]; then how="apt-get"; elif sudo -n true 2>/dev/null; then how="sudo apt-get"; fi
  fi
  if [ -n "$how" ]; then
    say "installing system packages: $*"
    export DEBIAN_FRONTEND=noninteractive
    { $how update -q && $how install -y -q --no-install-recommends "$@"; } >"${TMPDIR:-/tmp}/fuente-apt.log" 2>&1 && return 0
    say "that failed; the last lines were:"
    tail -n 3 "${TMPDIR:-/tmp}/fuente-apt.log" >&2
  fi
  say "system packages are missing. Run this line once, then start again:"
  printf '  sudo apt-get update && sudo apt-get install -y %s\n' "$*" >&2
  return 1
}

missing_libraries() {
  local known pair wanted=""
  known=$( { ldconfig -p || /sbin/ldconfig -p; } 2>/dev/null)
  for pair in $QT_LIBRARIES; do
    case "$known" in
      *"${pair%%:*}"*) ;;
      *) case " $wanted " in *" ${pair##*:} "*) ;; *) wanted="$wanted ${pair##*:}" ;; esac ;;
    esac
  done
  echo "$wanted"
}

find_python() {
  local candidate
  for candidate in python3.11 python3 python3.12 python3.13; do
    if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      echo "$candidate"
      return 0
    fi
  done
  return 1
}

setup() { # requirements file
  local wanted base stamp list
  list=$1
  wanted=$(missing_libraries)
  if [ -n "$wanted" ]; then
    # shellcheck disable=SC2086
    apt_install $wanted || say "going on without them; a window may not open"
  fi
  stamp=".venv/.fuente-$(basename "$list" .txt)"
  py="$PWD/.venv/bin/python"
  if [ -x "$py" ] && [ -f "$stamp" ] && cmp -s <(cat requirements*.txt) "$stamp"; then return 0; fi
  if ! base=$(find_python); then
    apt_install python3 python3-venv || return 1
    base=$(find_python) || { say "Python 3.11 or newer is needed"; return 1; }
  fi
  if ! "$base" -c 'import venv, ensurepip' 2>/dev/null; then apt_install python3-venv || return 1; fi
  if [ ! -x "$py" ]; then
    say "making .venv"
    "$base" -m venv .venv || return 1
  fi
  say "installing pinned packages from $list (once)"
  "$py" -m pip install --quiet --disable-pip-version-check --no-deps -r "$list" || {
    say "the packages could not be installed; is the network there?"
    return 1
  }
  "$py" - <<'PY'
import pathlib, sysconfig
root = pathlib.Path.cwd()
(pathlib.Path(sysconfig.get_path("purelib")) / "fuente-src.pth").write_text(str(root / "src") + "\n")
tool = root / ".venv" / "bin" / "fuente"
tool.write_text(f"#!{root}/.venv/bin/python\nimport sys\nfrom fuente.cli import main\nsys.exit(main())\n")
tool.chmod(0o755)
PY
  cat requirements*.txt >"$stamp"
}
