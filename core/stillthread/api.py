"""The face of the core: all that a program that uses it needs, from one place.

Read the water (`Conditions`, `read_water`), plan out of a box (`Box`, `choose`), or simulate what is fished (`Rig`, `Cast`,
`simulate`). Everything is in SI units, and checked: errors are those of `StillthreadError`, each with its field.

What there is stands in `api.pyi`. A name is fetched when it is first asked for: a program that only keeps a log loads no
simulator.
"""

import lazy_loader

__getattr__, __dir__, __all__ = lazy_loader.attach_stub("stillthread", __file__)
