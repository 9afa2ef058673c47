"""Flies that pass for a food they were not tied for. All common practice, no published source; the shares are ours."""

from __future__ import annotations

from types import MappingProxyType

# (what the fly is tied for, what they eat): share of what a fly tied for it would be worth.
SUBSTITUTES = MappingProxyType(
    {
        ("midge-pupa", "midge-film"): 0.25,  # hung just under the film it is taken for one that is about to hatch
        ("midge-film", "midge-pupa"): 0.30,
        ("midge-larva", "midge-pupa"): 0.25,
        ("midge-pupa", "midge-larva"): 0.25,
        ("mayfly-nymph", "mayfly-dun"): 0.30,
        ("mayfly-dun", "mayfly-nymph"): 0.15,
        ("mayfly-dun", "midge-film"): 0.25,  # something small that sits where they look
        ("midge-film", "mayfly-dun"): 0.25,
        ("terrestrial", "midge-film"): 0.15,
        ("midge-film", "terrestrial"): 0.20,
        ("terrestrial", "caddis-adult"): 0.20,
        ("caddis-adult", "terrestrial"): 0.25,
        ("caddis-pupa", "caddis-adult"): 0.25,
        ("caddis-adult", "caddis-pupa"): 0.10,
        ("damsel-nymph", "dragon-nymph"): 0.50,
        ("dragon-nymph", "damsel-nymph"): 0.50,
        ("damsel-nymph", "leech"): 0.25,
        ("leech", "damsel-nymph"): 0.25,
        ("mayfly-nymph", "damsel-nymph"): 0.20,
        ("leech", "fry"): 0.15,
        ("boatman", "shrimp"): 0.25,
        ("shrimp", "boatman"): 0.25,
    }
)  # fmt: skip
