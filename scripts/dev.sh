#!/usr/bin/env bash
# The server on :8080 and the front end with hot reload on :5173, which passes /api on.
set -euo pipefail
cd "$(dirname "$0")/.."
go build -o bin/nineyard ./cmd/nineyard
./bin/nineyard demo &
server=$!
trap 'kill $server 2>/dev/null; wait $server 2>/dev/null || true' EXIT
cd web && npx vite --host 127.0.0.1 --port 5173
