#!/bin/sh
# What learners and designers have on their screens, in headless Chromium: the keys that
# it takes to put each board of the demo right by keyboard alone (aim: under 120); the
# smallest text and the smallest thing to hit of each at 1280, 768 and 390 wide (aim: 12
# and 24 pixels) and how much of its width is in view; the share of each reply that can be
# seen, and what it hides; and what axe finds on each view, best practice included, light
# and dark (aim: nothing).
set -eu
cd "$(dirname "$0")/.."
go test ./e2e -count=1 -v -run 'TestKeysToSolve|TestNothingIsTooSmall|TestRepliesAreSeenWhole|AreAccessible' |
	sed -nE 's/^.*_test\.go:[0-9]+: ((keys|axe|[0-9]+): ?.*|.* at [0-9]+: text .*)$/\1/p'
