"""Slips that types and shapes have to catch, each by the check that is named for it."""

import unittest

from tests.scripts.patches import CHECKS, ROOT, SLIPS, Slip, check, copy_of_the_tree, put_in


class Slips(unittest.TestCase):
    """All slips of one check are put into one copy: it has to name each of them."""

    def test_each_is_caught_by_its_check(self) -> None:
        for name in CHECKS:
            mine = [slip for slip in SLIPS if slip.check == name]
            # One form cannot both have a field too many and one too few: such slips come one by one.
            while mine:
                together: list[Slip] = []
                files: set[str] = set()
                for slip in mine:
                    if not files & {file for file, _, _ in slip.changes}:
                        together.append(slip)
                        files |= {file for file, _, _ in slip.changes}
                mine = [slip for slip in mine if slip not in together]
                with copy_of_the_tree() as tree:
                    for slip in together:
                        put_in(slip, tree)
                    code, says = check(name, tree)
                self.assertNotEqual(code, 0, name)
                for slip in together:
                    with self.subTest(slip.name):
                        for words in slip.says:
                            self.assertIn(words, says)

    def test_the_checks_are_those_of_the_script(self) -> None:
        script = (ROOT / "scripts" / "test").read_text(encoding="utf-8")
        for name in CHECKS:
            self.assertIn(f'check "{name}"', script)
