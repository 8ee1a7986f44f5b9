"""The computation: plain Python, no interface, no input or output, no clock, no hidden state.

This is its public door: the names of `__init__.pyi` are importable from here, and each is loaded with its first use.
`docs/core.md` shows every one of them at work.
"""

import lazy_loader

__getattr__, __dir__, __all__ = lazy_loader.attach_stub(__name__, __file__)
