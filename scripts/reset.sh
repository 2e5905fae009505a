#!/usr/bin/env bash
# Stops the demo's private PostgreSQL, if it was left running, and throws it away.
set -euo pipefail
cd "$(dirname "$0")/.."
dir=$(realpath -m "${DATA_DIR:-.data}/pg")
for d in "$dir" "/var/tmp/nineyard${dir//\//-}"; do
  [ -d "$d" ] || continue
  if [ -f "$d/data/postmaster.pid" ]; then
    kill -INT "$(head -n 1 "$d/data/postmaster.pid")" 2>/dev/null || true
    for _ in $(seq 50); do [ -f "$d/data/postmaster.pid" ] || break; sleep 0.1; done
  fi
  rm -rf "$d"
done
rm -rf "$(realpath -m "${DATA_DIR:-.data}/film")"
