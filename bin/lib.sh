# Shared by the commands in this folder: where things are, and building what is missing.
# shellcheck shell=bash
set -euo pipefail
top=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)

fail() { echo "$*" >&2; exit 1; }

# Names of files are in UTF-8, also where a timer or a service has no language set.
case "${LC_ALL:-${LC_CTYPE:-${LANG:-}}}" in *[Uu][Tt][Ff]-8 | *[Uu][Tt][Ff]8) ;; *) export LC_ALL=C.UTF-8;; esac

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
  if [ -f "$stamp" ] && [ -z "$(find "$top" \( -name target -o -name .git -o -name docs -o -name dist \) -prune -o -type f \( -path '*/src/main/*' -o -name pom.xml \) -newer "$stamp" -print -quit)" ]; then
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
  built
  flock -u 9
}

# What was made for an earlier build is of no use to this one.
built() {
  mkdir -p "$top/target"
  rm -rf "$top"/cli/target/*.jsa "$top"/cli/target/*.none "$top"/desktop/target/*.jsa "$top"/cli/target/native
  touch "$top/target/built"
}

# Class path of a module: its own jar and what was gathered beside it.
class_path() {
  local jars
  jars=$(find "$top/$1/target/lib" -name '*.jar' ! -name 'javafx-*' | sort | tr '\n' ':')
  printf '%s' "$top/$1/target/exordium-$1-0.1.0.jar:$jars"
}

# The optimising compiler waits ten times longer than usual: most commands are over before it would have paid, and what is summed
# up or unpacked for long is several times quicker with it.
late=(-XX:Tier4InvocationThreshold=50000 -XX:Tier4MinInvocationThreshold=6000 -XX:Tier4CompileThreshold=150000
  -XX:Tier4BackEdgeThreshold=400000)
once=(-XX:+UseSerialGC "${late[@]}")
brief=(-XX:+UseSerialGC -XX:TieredStopAtLevel=1)
# A window stands still while memory is tidied up: all of it is done beside, early, and what is not needed is given back.
shown=(-XX:+UnlockExperimentalVMOptions -XX:+IgnoreUnrecognizedVMOptions -XX:+UseShenandoahGC -XX:ShenandoahGCHeuristics=compact -XX:ShenandoahGuaranteedGCInterval=60000
  -Xms32m -Xmx512m "${late[@]}")

# Starts the window with the arguments given. Without a display it gets one of its own, under Xvfb.
window() {
  local classes modules archive=$top/desktop/target/exordium.jsa options
  classes=$(class_path desktop)${MORE:+:$MORE}
  modules=$(find "$top/desktop/target/lib" -name 'javafx-*-linux*.jar' | tr '\n' ':')
  # Drawn without a graphics card, pictures are kept on the heap: a quarter of it at the most.
  options=("${shown[@]}" -Dprism.maxvram=128M -Xshare:auto --module-path "$modules" --add-modules javafx.controls,javafx.swing)
  [ -n "${TIMING:-}" ] && options+=(-Dexordium.timing=true)
  if [ -n "${MORE:-}" ]; then
    # Classes of tests as well: an archive is made of jars alone.
    :
  elif [ -f "$archive" ]; then
    options+=(-XX:SharedArchiveFile="$archive")
  else
    options+=(-XX:ArchiveClassesAtExit="$archive" -Xlog:cds=off -Xlog:cds+dynamic=off)
  fi
  local words=()
  for word in "$@"; do [ -n "$word" ] && words+=("$word"); done
  if [ -z "${DISPLAY:-}" ]; then
    need_xvfb
    local number=90
    until free_display "$number"; do number=$((number + 1)); done
    open_display "$number" 1280x800x24
    export DISPLAY=:$number
    if [ -z "${QUIET:-}" ]; then
      echo "There is no display here: the window is open on a display of its own, $DISPLAY." >&2
      echo "A picture of it:  DISPLAY=$DISPLAY import -window root picture.png   (Debian package imagemagick)" >&2
      echo "It runs until it is closed, or Ctrl C here." >&2
    fi
    java "${options[@]}" -cp "$classes" "${TAKES:-exordium.desktop.Main}" "${words[@]}"
  else
    exec java "${options[@]}" -cp "$classes" "${TAKES:-exordium.desktop.Main}" "${words[@]}"
  fi
}

free_display() { [ ! -e "/tmp/.X11-unix/X$1" ] && [ ! -e "/tmp/.X$1-lock" ]; }

# A display of this number and size, with more words for its server; it goes when this command ends.
displays=()
open_display() {
  local number=$1 size=$2
  shift 2
  Xvfb ":$number" -screen 0 "$size" -nolisten tcp "$@" > /dev/null 2>&1 &
  displays+=($!)
  trap 'kill "${displays[@]}" 2> /dev/null' EXIT
  for _ in $(seq 50); do [ -e "/tmp/.X11-unix/X$number" ] && break; sleep 0.1; done
}

# The words that are neither options nor the workspace, each with a space behind it.
command_words() {
  while [ $# -gt 0 ]; do
    case $1 in
      --workspace) shift; [ $# -eq 0 ] || shift;;
      -*) shift;;
      *) printf '%s ' "$1"; shift;;
    esac
  done
}

# Whether the words given ask for the window; prints the workspace they name, or nothing.
window_asked() {
  local folder='' command=''
  while [ $# -gt 0 ]; do
    case $1 in
      --workspace) [ $# -ge 2 ] || return 1; folder=$2; shift 2;;
      --workspace=*) folder=${1#*=}; shift;;
      window) [ -z "$command" ] || return 1; command=window; shift;;
      *) return 1;;
    esac
  done
  printf '%s' "$folder"
}

need_xvfb() {
  command -v Xvfb > /dev/null && ldconfig -p | grep -q libgtk-3.so && return
  if [ "$(id -u)" = 0 ] && command -v apt-get > /dev/null; then
    echo "Installing what a window without a display needs ..." >&2
    { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y xvfb libgtk-3-0 libgl1 libxtst6; } > /dev/null 2>&1 \
      || fail "Could not install: xvfb libgtk-3-0 libgl1 libxtst6"
  else
    fail "A window without a display needs some packages. Run: sudo apt-get install xvfb libgtk-3-0 libgl1 libxtst6"
  fi
}

# Unpacks packages of another architecture, and nothing of this machine's own is changed: foreign_root ARCHITECTURE FOLDER PACKAGE...
foreign_root() {
  local architecture=$1 root=$2 work
  shift 2
  command -v apt-get > /dev/null && command -v dpkg-deb > /dev/null || return 1
  work=$(mktemp -d)
  mkdir -p "$work/lists/partial" "$work/cache/archives/partial" "$work/packages" "$root"
  cat > "$work/apt.conf" << C
Dir::State::lists "$work/lists";
Dir::Cache "$work/cache";
APT::Architecture "$architecture";
APT::Architectures { "$architecture"; };
C
  if ! (cd "$work/packages" && export APT_CONFIG=$work/apt.conf && apt-get update && apt-get download "$@") > "$work/apt.log" 2>&1; then
    tail -n 5 "$work/apt.log" >&2
    rm -rf "$work"
    return 1
  fi
  for package in "$work"/packages/*.deb; do dpkg-deb -x "$package" "$root"; done
  rm -rf "$work"
}
