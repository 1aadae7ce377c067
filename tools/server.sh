# The page's build and the server, kept by process id.

build_page() {
  local built=packages/app/dist/index.html
  if [ -f "$built" ] && [ -z "$(find packages/app packages/core/src packages/contract/src packages/words/src package-lock.json \
    -newer "$built" -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print -quit)" ]; then
    return
  fi
  echo "Building the page" >&2
  npx vite build packages/app --logLevel warn >&2
}

server_port() { echo "${FENNIP_PORT:-8420}"; }
server_address() { echo "http://127.0.0.1:$(server_port)"; }

server_pid() {
  local pid
  pid=$(cat "$state/server.pid" 2>/dev/null) || return 1
  # A number from before a restart of the machine may belong to another process now.
  grep -qs 'packages/server/src/main.ts' "/proc/$pid/cmdline" || return 1
  echo "$pid"
}

start_server() {
  server_pid >/dev/null && return
  FENNIP_DATABASE_URL=$(database_url) FENNIP_STORE=$state/store FENNIP_PORT=$(server_port) \
    nohup node --expose-gc packages/server/bin/supervise.mjs packages/threads/bin/run.mjs packages/server/src/main.ts \
    >"$state/server.log" 2>&1 &
  echo $! >"$state/server.pid"
  for _ in $(seq 1 150); do
    if node -e "fetch(process.argv[1]).then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))" "$(server_address)/api/ready"; then return; fi
    server_pid >/dev/null || break
    sleep 0.2
  done
  echo "The server did not come up. Its last words:" >&2
  tail -n 15 "$state/server.log" >&2
  exit 1
}

stop_server() {
  local pid
  if pid=$(server_pid); then
    kill "$pid"
    for _ in $(seq 1 50); do
      [ -d "/proc/$pid" ] || break
      sleep 0.2
    done
    # With it goes what it keeps running.
    [ -d "/proc/$pid" ] && pkill -9 -P "$pid"; kill -9 "$pid" 2>/dev/null
    echo "The server is stopped." >&2
  fi
  rm -f "$state/server.pid"
}
