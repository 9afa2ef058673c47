"""Hidden days to fish against. `game` is played by server and device alike: standard library alone."""

from stillthread.practice import game as game
