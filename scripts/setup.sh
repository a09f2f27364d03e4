#!/usr/bin/env bash
# Installs what a fresh Debian machine is missing: packages of the lock file, Chromium, ffmpeg, a reference beat tracker.
set -euo pipefail
cd "$(dirname "$0")/.."
export NEXT_TELEMETRY_DISABLED=1
missing=()
packages=''
command -v chromium >/dev/null || missing+=(chromium)
command -v ffmpeg >/dev/null || missing+=(ffmpeg)
command -v aubiotrack >/dev/null || missing+=(aubio-tools)
command -v unzip >/dev/null || missing+=(unzip)
if [ ${#missing[@]} -gt 0 ]; then
  if command -v apt-get >/dev/null; then
    # Beside npm, which waits for the network as well.
    (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >/dev/null) &
    packages=$!
  else
    echo "Please install: ${missing[*]}" >&2
    exit 1
  fi
fi
if [ ! -d node_modules ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then npm ci --no-audit --no-fund; fi
# The person segmentation is served from here: its loader, its model and its program.
mkdir -p public/vision
for file in selfie_segmentation.js selfie_segmentation.binarypb selfie_segmentation.tflite selfie_segmentation_solution_simd_wasm_bin.js selfie_segmentation_solution_simd_wasm_bin.wasm selfie_segmentation_solution_wasm_bin.js selfie_segmentation_solution_wasm_bin.wasm; do
  install -m 644 "node_modules/@mediapipe/selfie_segmentation/$file" "public/vision/$file"
done
# Fonts for titles, drawn in workers.
mkdir -p public/fonts
for font in fraunces recursive; do
  for part in latin latin-ext; do
    install -m 644 "node_modules/@fontsource-variable/$font/files/$font-$part-wght-normal.woff2" "public/fonts/$font-$part.woff2"
  done
done
# OpenCV in a worker of its own, and the licences of what ships.
npx tsx scripts/vision.ts
npx tsx scripts/licences.ts
if [ -n "$packages" ]; then wait "$packages"; fi
