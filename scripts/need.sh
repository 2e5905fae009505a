#!/usr/bin/env bash
# need.sh PROGRAM PACKAGE: makes sure a program is there, installing Debian's package when it is not.
set -euo pipefail
program=$1
package=$2

found() {
  case "$program" in
    initdb) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || command -v initdb >/dev/null ;;
    *) command -v "$program" >/dev/null ;;
  esac
}

# A server of one's own makes PostgreSQL's programs unnecessary.
if [ "$program" = initdb ] && [ -n "${DATABASE_URL:-}" ]; then exit 0; fi
found && exit 0

sudo=
if [ "$(id -u)" -ne 0 ]; then
  if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
    sudo=sudo
  else
    echo "Nine Yard needs the Debian package '$package' and may not install it as this user." >&2
    echo "Run as root:  apt-get update && apt-get install -y $package" >&2
    exit 1
  fi
fi
if ! command -v apt-get >/dev/null; then
  echo "Nine Yard needs '$program' (Debian's package '$package'); please install it." >&2
  exit 1
fi
echo "Installing $package ..."
export DEBIAN_FRONTEND=noninteractive
# The package's own cluster is not wanted: Nine Yard makes a private one.
if [ "$package" = postgresql ] && [ ! -e /etc/postgresql-common/createcluster.conf ]; then
  $sudo mkdir -p /etc/postgresql-common
  echo 'create_main_cluster = false' | $sudo tee /etc/postgresql-common/createcluster.conf >/dev/null
fi
$sudo apt-get update -qq
$sudo apt-get install -y -qq --no-install-recommends "$package" >/dev/null
found || { echo "Installing $package did not bring $program." >&2; exit 1; }
