# Installs what is missing; each function does nothing when all is there.

# Runs a command as root, or prints the one line to run.
as_root() {
  if [ "$(id -u)" = 0 ]; then
    "$@"
  elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
    sudo "$@"
  else
    echo "Something from Debian is missing. Run this once, then again what you ran: sudo $*" >&2
    exit 1
  fi
}

debian_packages() {
  echo "Installing Debian's $*" >&2
  as_root env DEBIAN_FRONTEND=noninteractive sh -c "apt-get update -qq && apt-get install -y -qq --no-install-recommends $*" >"$state/apt.log" 2>&1 ||
    {
      tail -n 5 "$state/apt.log" >&2
      exit 1
    }
}

need_packages() {
  local wanted
  wanted=$(sha256sum package-lock.json | cut -d' ' -f1)
  [ -d node_modules ] && [ "$(cat node_modules/.installed 2>/dev/null)" = "$wanted" ] && return
  echo "Installing npm packages" >&2
  npm ci --no-audit --no-fund --loglevel=error >&2
  echo "$wanted" >node_modules/.installed
}

# The folder of PostgreSQL's programs, of the newest version there is.
postgres_programs() {
  find /usr/lib/postgresql -path '*/bin/initdb' 2>/dev/null | sort -V | tail -n 1 | xargs -r dirname
}

is_installed() {
  case $1 in
    postgresql) [ -n "$(postgres_programs)" ] ;;
    chromium) [ -x /usr/bin/chromium ] ;;
    # Reads reports in tests, as a reader that is not ours.
    python3-torch) /usr/bin/python3 -c 'import torch' 2>/dev/null ;;
    python3-onnx) /usr/bin/python3 -c 'import onnx' 2>/dev/null ;;
    openssl) [ -x /usr/bin/openssl ] ;;
    poppler-utils) [ -x /usr/bin/pdftotext ] ;;
  esac
}

# What of these is missing, in one go.
need_debian() {
  local name missing=()
  for name in "$@"; do is_installed "$name" || missing+=("$name"); done
  [ ${#missing[@]} = 0 ] || debian_packages "${missing[@]}"
}
