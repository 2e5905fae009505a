#!/usr/bin/env bash
# Generates Go and TypeScript from api/openapi.yaml. With --check it only says whether
# what is committed is fresh.
set -euo pipefail
cd "$(dirname "$0")/.."
out=.
if [ "${1:-}" = --check ]; then
  out=$(mktemp -d)
  trap 'rm -rf "$out"' EXIT
  mkdir -p "$out/internal/contract" "$out/internal/httpapi/gen" "$out/web/src/api"
fi
go tool oapi-codegen -config api/models.yaml -o "$out/internal/contract/contract.gen.go" api/openapi.yaml
go tool oapi-codegen -config api/server.yaml -o "$out/internal/httpapi/gen/server.gen.go" api/openapi.yaml
types=$(realpath -m "$out/web/src/api/schema.gen.ts")
(cd web && npx --no-install openapi-typescript ../api/openapi.yaml -o "$types" >/dev/null)
(cd web && npx --no-install prettier --config .prettierrc.json --write "$types" >/dev/null)
if [ "$out" != . ]; then
  for f in internal/contract/contract.gen.go internal/httpapi/gen/server.gen.go web/src/api/schema.gen.ts; do
    cmp -s "$f" "$out/$f" || { echo "$f is not fresh: run 'make generate'" >&2; exit 1; }
  done
fi
