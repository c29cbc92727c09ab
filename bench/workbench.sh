#!/bin/sh
# What the workbench takes in headless Chromium: milliseconds a frame while 200 pieces
# are moved and while a ledger of 300 items and 40 targets is scrolled (frames come as
# fast as they are drawn; aim: median under 16, 95th percentile under 33), seconds from
# dropping 30 pictures to all of them placed and saved, and the acts that it takes to
# build three activities from nothing.
set -eu
cd "$(dirname "$0")/.."
MAGPIE_BENCH=1 go test ./e2e -run '^$' -bench 'Moving|Scrolling|Thirty' -benchtime 1x | grep ^Benchmark
go test ./e2e -count=1 -run TestActsToBuild -v | grep -o 'acts: .*'
