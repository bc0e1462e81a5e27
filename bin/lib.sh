# Shared by the commands in this folder: where things are, and building what is missing.
# shellcheck shell=bash
set -euo pipefail
top=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)

fail() { echo "$*" >&2; exit 1; }

need_java() {
  command -v java > /dev/null && command -v mvn > /dev/null && return
  if [ "$(id -u)" = 0 ] && command -v apt-get > /dev/null; then
    echo "Installing Java 17 and Maven ..." >&2
    { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y openjdk-17-jdk-headless maven; } > /dev/null 2>&1 \
      || fail "Java 17 and Maven could not be installed."
  else
    fail "Java 17 and Maven are needed. On Debian: sudo apt-get install openjdk-17-jdk maven"
  fi
}

# Builds when a source is newer than the last build. The lock keeps two commands from building at once.
build() {
  local stamp=$top/target/built
  if [ -f "$stamp" ] && [ -z "$(find "$top" \( -name target -o -name .git -o -name docs \) -prune -o -type f \( -path '*/src/main/*' -o -name pom.xml \) -newer "$stamp" -print -quit)" ]; then
    return
  fi
  need_java
  mkdir -p "$top/target"
  exec 9> "$top/target/lock"
  flock 9
  echo "Building, once (a minute or two the first time) ..." >&2
  if ! mvn -B -q -f "$top/pom.xml" package -DskipTests > "$top/target/build.log" 2>&1; then
    tail -n 30 "$top/target/build.log" >&2
    fail "The build failed; the whole log is in target/build.log."
  fi
  rm -f "$top"/cli/target/*.jsa "$top"/desktop/target/*.jsa
  touch "$stamp"
  flock -u 9
}

# Class path of a module: its own jar and what was gathered beside it.
class_path() {
  local jars
  jars=$(find "$top/$1/target/lib" -name '*.jar' ! -name 'javafx-*' | sort | tr '\n' ':')
  printf '%s' "$top/$1/target/exordium-$1-0.1.0.jar:$jars"
}
