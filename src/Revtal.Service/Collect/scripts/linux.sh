#!/bin/sh
# Revtal collector for Linux. It reads what this machine reports of its memory and drives, and sends it to the bench that asked.
# It installs nothing and changes nothing. It sends serials of the machine, its modules and drives; no names of people, no names of files.
# Run it as the administrator: the firmware's tables and the drives' health are shown to nobody else.
# With --for 10m it first watches for so long what the machine has to do (at most 2h, a sample every 5 s), then ends by itself.
SEND_TO='@SEND_TO@'
set -u
LC_ALL=C; export LC_ALL
PATH="$PATH:/usr/sbin:/sbin"
work=$(mktemp -d) || exit 1
trap 'rm -rf "$work"' EXIT
trap 'exit 1' HUP INT TERM

say() { printf '%s\n' "$*" >&2; }
note() { printf '%s: %s\n' "$1" "$2" >>"$work/notes.txt"; }
has() { command -v "$1" >/dev/null 2>&1; }
# At most 4 MB of a file, so that nothing unexpected fills the wire.
take() { [ -r "$1" ] && head -c 4194304 "$1" >"$work/$2" 2>/dev/null && [ -s "$work/$2" ] || { rm -f "$work/$2"; return 1; }; }

watch='' every=5
while [ $# -gt 0 ]; do
  case $1 in --for) watch=${2:-}; shift ;; --every) every=${2:-}; shift ;; *) say "Not known: $1. Possible: --for 10m"; exit 2 ;; esac
  [ $# -gt 0 ] && shift
done
if [ -n "$watch" ]; then
  case $watch in *[!0-9smh]*|[smh]*) say "--for wants a time like 10m, not $watch."; exit 2 ;; *s) watch=${watch%s} ;; *h) watch=$((${watch%h} * 3600)) ;; *) watch=$((${watch%m} * 60)) ;; esac
  case $every in ''|*[!0-9]*|0) every=5 ;; esac
  [ "$watch" -le 7200 ] || watch=7200
  disks=$(for disk in /sys/block/*; do case ${disk##*/} in loop*|ram*|zram*|sr*|fd*|dm-*|md*) ;; *) printf '%s ' "${disk##*/}" ;; esac; done)
  # Counters since the start: processor in all and idle, KiB in use and moved out, sectors of the drives, bytes of the network.
  count() {
    awk -v disks=" $disks" '
      FILENAME ~ /stat$/ && $1 == "cpu" { for (i = 2; i <= 9; i++) all += $i; idle = $5 + $6 }
      $1 == "MemTotal:" { total = $2 } $1 == "MemAvailable:" { used = total - $2; told = 1 }
      $1 == "SwapTotal:" { paged = $2 } $1 == "SwapFree:" { paged -= $2 }
      FILENAME ~ /diskstats$/ && index(disks, " " $3 " ") { sectors += $6 + $10 }
      FILENAME ~ /dev$/ && sub(/:/, " ") && $1 != "lo" { net += $2 + $10 }
      END { printf "%.0f %.0f %s %.0f %.0f %.0f\n", all, idle, told ? used : "-", paged, sectors, net }
    ' /proc/stat /proc/meminfo /proc/diskstats /proc/net/dev 2>/dev/null
  }
  clock() { read -r up rest </proc/uptime; printf '%s' "${up%%.*}"; }
  say "Watching for $watch s. Work as usual; Ctrl+C ends it without sending."
  printf 'revtal-load/1\n' >"$work/load.txt"
  begun=$(clock) last=$begun
  read -r all idle used paged sectors net <<END
$(count)
END
  printf '0 %s %s - - -\n' "$used" "$paged" >>"$work/load.txt"
  while [ $((last - begun)) -lt "$watch" ]; do
    sleep "$every"
    now=$(clock)
    [ "$now" -gt "$last" ] || continue
    read -r all2 idle2 used paged sectors2 net2 <<END
$(count)
END
    busy=$((all2 > all ? 100 * (all2 - all - idle2 + idle) / (all2 - all) : 0))
    printf '%s %s %s %s %s %s\n' $((now - begun)) "$used" "$paged" $((busy < 0 ? 0 : busy > 100 ? 100 : busy)) $(((sectors2 - sectors) / 2 / (now - last))) $(((net2 - net) / 1024 / (now - last))) >>"$work/load.txt"
    all=$all2 idle=$idle2 sectors=$sectors2 net=$net2 last=$now
  done
fi

printf 'revtal-notes/1\n' >"$work/notes.txt"
note script 'linux 1'
note system "$(uname -s) $(uname -r) $(uname -m)"
case $(getconf LONG_BIT 2>/dev/null || uname -m) in 64|*64*) note bits 64 ;; *) note bits 32 ;; esac
note taken "$(date -u +%Y-%m-%dT%H:%M:%SZ)"
[ -r /proc/uptime ] && { read -r up rest </proc/uptime; note up "${up%%.*}"; }
[ -r /proc/loadavg ] && { read -r one five load rest </proc/loadavg; note load "$load"; }
# Of the start settings only a limit on memory is looked at.
for word in $(cat /proc/cmdline 2>/dev/null); do case $word in mem=*) note limit "$word" ;; esac; done

tables=/sys/firmware/dmi/tables
if [ ! -e $tables/DMI ]; then note missing 'firmware tables: this system has none'
elif take $tables/DMI DMI && take $tables/smbios_entry_point smbios_entry_point; then :
else rm -f "$work/DMI"; note missing 'firmware tables: only the administrator may read them'; fi
for fact in sys_vendor:maker product_name:product product_serial:serial bios_version:firmware; do
  [ -r "/sys/class/dmi/id/${fact%%:*}" ] && value=$(cat "/sys/class/dmi/id/${fact%%:*}" 2>/dev/null) && [ -n "$value" ] && note "${fact##*:}" "$value"
done

take /proc/meminfo meminfo || note missing 'memory lines: the system shows none'
# Where it is not there, no array is or was running: that is an answer too.
if [ -e /proc/mdstat ]; then take /proc/mdstat mdstat || note missing 'arrays of drives: their status cannot be read'
else printf 'Personalities : \nunused devices: <none>\n' >"$work/mdstat"; fi
# How each drive is connected: the kernel's names change from start to start, the connectors do not.
for link in /dev/disk/by-path/*; do
  case $link in *-part*) continue ;; esac
  name=$(readlink -f "$link" 2>/dev/null) && [ -b "$name" ] && printf '%s %s\n' "${link##*/}" "${name##*/}" >>"$work/by-path.txt"
done

count=0
for rom in /sys/bus/i2c/drivers/ee1004/*/eeprom /sys/bus/i2c/drivers/spd5118/*/eeprom /sys/bus/i2c/drivers/at24/*/eeprom; do
  [ -e "$rom" ] && [ $count -lt 32 ] && take "$rom" "spd-$count.bin" && count=$((count + 1))
done
[ $count -gt 0 ] || note missing 'module EEPROMs: the system shows none'

if has lsblk && lsblk --json --bytes -o NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,LOG-SEC,PTTYPE,FSTYPE,LABEL,FSUSED,FSSIZE,MOUNTPOINT >"$work/all.json" 2>/dev/null; then
  # Where a file system is mounted may hold a name, and so may its label: only the start is told, and that there is a label.
  sed -E 's#"label": *"([^"\\]|\\.)+"#"label":"-"#g' "$work/all.json" >"$work/named.json"
  sed 's#"/boot/efi"#"@efi"#g; s#"/boot"#"@boot"#g; s#"/"#"@root"#g; s#"mountpoint": *"/[^"]*"#"mountpoint":"/elsewhere"#g; s#"@efi"#"/boot/efi"#g; s#"@boot"#"/boot"#g; s#"@root"#"/"#g' "$work/named.json" >"$work/lsblk.json"
else note missing 'drives: lsblk is not on this system'; fi
rm -f "$work/all.json" "$work/named.json"

for disk in /sys/block/*; do
  name=${disk##*/}
  case $name in loop*|ram*|zram*|sr*|fd*|dm-*|md*|'*') continue ;; esac
  link=$disk/device/device
  if [ -r "$link/current_link_speed" ] && [ -r "$link/max_link_width" ]; then
    note link "$name $(sed 's/ .*//' "$link/current_link_speed") $(cat "$link/current_link_width") $(sed 's/ .*//' "$link/max_link_speed") $(cat "$link/max_link_width")"
  fi
  if has smartctl; then
    smartctl --json --all "/dev/$name" >"$work/health-$name.json" 2>/dev/null
    grep -q '"user_capacity"' "$work/health-$name.json" || rm -f "$work/health-$name.json"
  fi
done
has smartctl || note missing 'health of the drives: smartctl is not on this system'

if has base64; then encode() { base64 <"$1" | tr -d '\n'; }
elif has openssl; then encode() { openssl base64 -A -in "$1"; }
else say 'This system has neither base64 nor openssl: nothing can be packed.'; exit 1; fi
{
  printf '{"format":"revtal-capture/1","files":['
  comma=
  for file in "$work"/*; do
    printf '%s{"name":"%s","content":"' "$comma" "${file##*/}"; encode "$file"; printf '"}'
    comma=,
  done
  printf ']}'
} >"$work.revtal"
trap 'rm -rf "$work" "$work.revtal"' EXIT

say "Collected: $(ls "$work" | tr '\n' ' ')"
sed -n 's/^missing: /  left out: /p' "$work/notes.txt" >&2
if [ -z "$SEND_TO" ]; then
  out="revtal-$(date -u +%Y%m%d-%H%M%S).revtal"
  cp "$work.revtal" "$out" && say "Written to $out: bring it to the bench."
elif has curl; then curl -sS --max-time 60 -H 'Content-Type: application/json' --data-binary "@$work.revtal" "$SEND_TO"
elif has wget; then wget -q -O - --header 'Content-Type: application/json' --post-file "$work.revtal" "$SEND_TO"
else
  out="revtal-$(date -u +%Y%m%d-%H%M%S).revtal"
  cp "$work.revtal" "$out" && say "Neither curl nor wget is here. Written to $out: bring it to the bench."
fi
