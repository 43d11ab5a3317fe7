#!/usr/bin/env bash
# Prints how PDFs that other programs made are drawn, beside another renderer. Makes them with Debian's packages.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian pdftoppm gs rsvg-convert qpdf groff python3-reportlab chromium
node scripts/build.mjs --node
exec node bench/dist/pdfs.js "$@"
