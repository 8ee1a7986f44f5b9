"""What the mutants are that `scripts/mutants` draws, and that one is noticed where a test goes through it."""

import tempfile
import unittest
from pathlib import Path

from tests.mutants.sites import mutants_of

SOURCE = '''"""A remark with 5 < 6."""
LIMIT: float = 2.5  # V, not 7

def low(volts: "Literal[3]", µ: bool) -> bool:
    if µ and not volts:
        return volts < LIMIT
    return volts - 0 == 4 if low else False
'''
PUTS = [
    ("2.5", "2.75"), ("4", "5"), ("<", "<="), ("==", "!="), ("-", "+"), ("and", "or"), ("not", "not not"), ("low", "(not (low))"),
]  # fmt: skip
TABLE = '# 5 V of IEC 60065\nname = "class 3"  # 7\nvolts = 34\nafter_s = 2.0\nnone = 0\nsteps = [10, 25]\n'
ROWS = [("34", "37.4"), ("2.0", "2.2"), ("10", "11"), ("25", "27.5")]


class Sites(unittest.TestCase):
    """Found in the tree and in tables; never in a text, a remark or a type."""

    def test_what_is_put_where(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for name, text, expected in (("a.py", SOURCE, PUTS), ("a.toml", TABLE, ROWS)):
                file = Path(folder, name)
                file.write_text(text, encoding="utf-8")
                found = mutants_of(Path(folder), file)
                self.assertEqual(sorted((one.was, one.put) for one in found), sorted(expected))
                for one in found:
                    self.assertTrue(one.parses(text))
                    changed = one.applied(text)
                    self.assertEqual([k for k, (a, b) in enumerate(zip(text.splitlines(), changed.splitlines(), strict=True), 1)
                                      if a != b], [one.line])  # fmt: skip
