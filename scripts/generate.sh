#!/usr/bin/env bash
# Bundles api/*.yaml into one contract and generates Go and TypeScript from it, with what forms
# must know, and lists the licences of what ships. With --check it only says whether what is committed is fresh.
set -euo pipefail
cd "$(dirname "$0")/.."
out=.
if [ "${1:-}" = --check ]; then
  out=$(mktemp -d)
  trap 'rm -rf "$out"' EXIT
  mkdir -p "$out/api" "$out/internal/contract/gen" "$out/web/src/api"
fi
go run ./internal/contract/entries api/entries.yaml "$out"
contract=$(realpath -m "$out/api/openapi.gen.yaml")
go run ./internal/contract/bundle api >"$contract.new"
mv "$contract.new" "$contract"
go tool oapi-codegen -config api/models.cfg.yaml -o "$out/internal/contract/contract.gen.go" "$contract"
go tool oapi-codegen -config api/server.cfg.yaml -o "$out/internal/contract/gen/server.gen.go" "$contract"
types=$(realpath -m "$out/web/src/api/schema.gen.ts")
(cd web && npx --no-install openapi-typescript "$contract" -o "$types" >/dev/null)
forms=$(realpath -m "$out/web/src/api/forms.gen.ts")
go run ./internal/contract/forms "$contract" >"$forms.new"
mv "$forms.new" "$forms"
fields=$(realpath -m "$out/web/src/api/entries.gen.ts")
go run ./internal/contract/forms "$out/library/schema.json" >>"$fields"
(cd web && npx --no-install prettier --config .prettierrc.json --write "$types" "$forms" "$fields" >/dev/null)
lines=$(realpath -m "$out/library/shipped.gen.txt")
go run ./library/compile >"$lines.new"
mv "$lines.new" "$lines"
mkdir -p "$out/web/public"
go run ./internal/licences >"$out/web/public/licences.json.new"
mv "$out/web/public/licences.json.new" "$out/web/public/licences.json"
if [ "$out" != . ]; then
  for f in web/public/licences.json api/openapi.gen.yaml internal/contract/contract.gen.go internal/contract/gen/server.gen.go web/src/api/schema.gen.ts web/src/api/forms.gen.ts web/src/api/entries.gen.ts \
    core/teaching/entries.gen.go core/standard/measure.gen.go library/bundle.gen.go library/schema.json library/shipped.gen.txt; do
    cmp -s "$f" "$out/$f" || { echo "$f is not fresh: run 'make generate'" >&2; exit 1; }
  done
fi
