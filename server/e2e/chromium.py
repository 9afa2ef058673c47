"""Debian's headless Chromium: where it stands, how it is started, and the two sizes pages are looked at in."""

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = [
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip
DESK = (1280, 800)
PHONE = (390, 844)
