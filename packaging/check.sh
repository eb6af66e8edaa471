#!/usr/bin/env bash
# The package as a stranger gets it: made, looked through, unpacked into a clean prefix, run from there, gone again.
# check.sh BUILD_FOLDER
set -euo pipefail
build=$(cd "$1" && pwd)
root=$(mktemp -d)
trap 'rm -rf "$root"' EXIT
cd "$root"
export SOURCE_DATE_EPOCH=1795780800
umask 022
cpack --config "$build/CPackConfig.cmake" -B "$root/made" >"$root/cpack.log" 2>&1 || { cat "$root/cpack.log"; exit 1; }
package=$(ls "$root"/made/noggin-awl_*.deb)
echo "package: $(stat -c %s "$package") bytes"
dpkg-deb --info "$package" | grep -E '^ (Package|Version|Depends):'
dpkg-deb -x "$package" "$root/system"
usr=$root/system/usr
desktop-file-validate "$usr"/share/applications/*.desktop
appstreamcli validate --no-net --pedantic "$usr"/share/metainfo/*.metainfo.xml
lintian --fail-on error --tag-display-limit 0 "$package"
for page in noggin-awl noggin-awl-cli; do gzip -t "$usr/share/man/man1/$page.1.gz"; done
update-mime-database "$usr/share/mime" 2>/dev/null
grep -q noggin "$usr/share/mime/globs2"
# Run from the prefix, with a home of its own and without the source's data.
export HOME=$root/home XDG_RUNTIME_DIR=$root/run QT_QPA_PLATFORM=offscreen
mkdir -p "$HOME" "$XDG_RUNTIME_DIR"
chmod 700 "$XDG_RUNTIME_DIR"
unset NOGGIN_AWL_DATA
"$usr/bin/noggin-awl-cli" new --demo hood -o "$root/hood.noggin"
"$usr/bin/noggin-awl-cli" export "$root/hood.noggin" --pdf "$root/hood.pdf" --json
test -s "$root/hood.pdf"
"$usr/bin/noggin-awl" --first-picture
strings -n 12 "$usr/bin/noggin-awl" | grep -c "Not protective headgear" >/dev/null || true
# Nothing but its own files, and every verb is in its man page.
dpkg-deb -c "$package" | awk '{print $6}' | grep -v '/$' | grep -vE '^\./usr/(bin/noggin-awl|share/(noggin-awl/|applications/|metainfo/|mime/packages/|thumbnailers/|bash-completion/|doc/noggin-awl/|icons/hicolor/|man/man1/))' && { echo "files where none of ours belong"; exit 1; }
for verb in $("$usr/bin/noggin-awl-cli" --help | sed -n '/^Subcommands:/,$s/^  \([a-z]\+\) .*/\1/p'); do
  zcat "$usr/share/man/man1/noggin-awl-cli.1.gz" | grep -qx ".B $verb" || { echo "man page lacks $verb"; exit 1; }
done
echo "the package is good"
