#!/bin/bash
# private-bus.sh FOLDER udisks|pkexec|neither LEAVE DEVICE-NUMBERS COMMAND...   (as root)
# Runs a command as a user without rights, in a mount namespace with a system bus of its own: own /run, own accounts, own policy.
# Nothing of the machine's is changed. LEAVE is yes or no: what the policy answers.
set -eu
if [ "${PRIVATE:-}" != yes ]; then
  PRIVATE=yes exec unshare -m --propagation private -- bash "$0" "$@"
fi
folder=$1; way=$2; leave=$3; numbers=$4; shift 4
cd "$folder"
mount -t tmpfs tmpfs /run
mkdir -p /run/dbus /run/udisks2 /run/lock /run/udev/data
printf 'I:1000000\n' > "/run/udev/data/b$numbers"
for f in passwd group shadow; do cp "/etc/$f" "own.$f"; done
echo 'visitor:x:7777:7777::/tmp:/bin/bash' >> own.passwd
echo 'visitor:x:7777:' >> own.group
echo 'visitor:!:19000::::::' >> own.shadow
for f in passwd group shadow; do mount --bind "own.$f" "/etc/$f"; done
rm -rf actions rules
mkdir -p actions rules
cp /usr/share/polkit-1/actions/* actions/
[ "$way" = pkexec ] && cp ./*.policy actions/
mount --bind actions /usr/share/polkit-1/actions
answer=NO; [ "$leave" = yes ] && answer=YES
cat > rules/10-visitor.rules << R
polkit.addRule(function(action, subject) {
  if (subject.user == "visitor" && (action.id == "org.exordium.open-drive" || action.id.indexOf("org.freedesktop.udisks2.open-device") == 0))
    return polkit.Result.$answer;
});
R
chmod 755 rules
mount -t tmpfs tmpfs /etc/polkit-1
mkdir -p /etc/polkit-1/rules.d
cp rules/* /etc/polkit-1/rules.d/
chmod -R a+rX /etc/polkit-1
services=/usr/share/dbus-1/system-services
if [ "$way" != udisks ]; then
  # As on a machine without that service.
  mkdir -p services; cp "$services"/* services/; rm -f services/*UDisks2*; mount --bind services "$services"
fi
until_there() { for _ in $(seq 600); do "$@" > /dev/null 2>&1 && return; sleep 0.1; done; echo "not there: $*" >&2; exit 90; }
owned() { dbus-send --system --print-reply --dest=org.freedesktop.DBus / org.freedesktop.DBus.GetNameOwner "string:$1"; }
pids=()
trap 'kill "${pids[@]}" 2> /dev/null || true; wait 2> /dev/null || true' EXIT
dbus-daemon --system --nofork --nopidfile > bus.log 2>&1 & pids+=($!)
until_there test -S /run/dbus/system_bus_socket
/usr/lib/polkit-1/polkitd --no-debug > polkit.log 2>&1 & pids+=($!)
until_there owned org.freedesktop.PolicyKit1
if [ "$way" = udisks ]; then
  /usr/libexec/udisks2/udisksd > udisks.log 2>&1 & pids+=($!)
  until_there owned org.freedesktop.UDisks2
  name=$(basename "$(readlink -f "/sys/dev/block/$numbers")")
  until_there dbus-send --system --print-reply --dest=org.freedesktop.UDisks2 "/org/freedesktop/UDisks2/block_devices/$name" org.freedesktop.DBus.Properties.GetAll string:org.freedesktop.UDisks2.Block
fi
code=0
setpriv --reuid=7777 --regid=7777 --clear-groups --inh-caps=-all env -i PATH="$PATH" HOME=/tmp LANG=C.UTF-8 "$@" || code=$?
exit "$code"
