#!/usr/bin/env bash
# Prints how pictures of phones and scanners are decoded, beside other decoders. Makes them with Debian's encoders.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian heif-enc avifenc cjxl convert
node scripts/build.mjs --node
exec node bench/dist/phones.js "$@"
