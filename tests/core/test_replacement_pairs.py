"""The truth table of what may take whose place, pair by pair."""

import unittest

from dusky_heron.core.model import Role
from dusky_heron.core.selection import need_of, rank
from tests.core.replacing import pairs


class Pairs(unittest.TestCase):
    """More than five hundred of them, over every role."""

    def test_every_pair(self) -> None:
        seen = list(pairs())
        self.assertGreaterEqual(len(seen), 500)
        self.assertEqual({pair.position.role for pair in seen}, set(Role))
        for pair in seen:
            with self.subTest(pair.says):
                selection = rank(need_of(pair.position), [pair.part])
                refused = {reason.rule_id for row in selection.rejected for reason in row.reasons}
                if pair.answer == "ok" or pair.answer.startswith("sign "):
                    self.assertEqual(refused, set())
                    signed = " ".join(selection.accepted[0].to_sign)
                    self.assertIn(pair.answer.removeprefix("ok").removeprefix("sign "), signed)
                    self.assertTrue(set(selection.accepted[0].to_sign) <= set(selection.accepted[0].conditions))
                else:
                    self.assertIn(pair.answer, refused)
