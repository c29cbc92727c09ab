#!/bin/sh
# What the workbench takes in headless Chromium, for 200 pieces being moved and for a
# ledger of 300 items and 40 targets being scrolled: milliseconds from one frame to the
# next ("apart", which cannot be less than the rate of frames: see Nothing) and those
# that the page works for each ("work": handlers, style, layout, painting; aim: median
# under 16, 95th percentile under 33). Then seconds from dropping 30 pictures to all of
# them placed and saved, and the acts that it takes to build three activities.
set -eu
cd "$(dirname "$0")/.."
MAGPIE_BENCH=1 go test ./e2e -run '^$' -bench 'Nothing|Moving|Scrolling|Thirty' -benchtime 1x | grep ^Benchmark
go test ./e2e -count=1 -run TestActsToBuild -v | grep -o 'acts: .*'
