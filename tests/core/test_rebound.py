"""What creeps back, by branches of R and C that the tests step themselves: while a proof holds, it is never over the target."""

import math
import unittest

from dusky_heron.core.discharge.rebound import LEAST_PROOF_S, crept_back, proof_holds
from tests import drawn_by

ABSORBS = {"polypropylene": 0.001, "polyester": 0.005, "mica": 0.007, "ceramic": 0.025, "paper": 0.05, "electrolytic": 0.15}


class Part:
    """A capacitor of 1 F whose absorption is so many branches, each of a share and a time constant: kept short, then open."""

    def __init__(self, volts: float, branches: list[tuple[float, float]]) -> None:
        self.terminal = 0.0
        self.branches = [[volts, share, tau] for share, tau in branches]  # volts of each, its capacitance, its R·C

    def short(self, seconds: float) -> None:
        """Every branch empties through its own resistor alone."""
        for branch in self.branches:
            branch[0] *= math.exp(-seconds / branch[2])
        self.terminal = 0.0

    def stand(self, seconds: float, steps: int = 400) -> float:
        """Charge moves from the branches to the terminals: implicit steps of the whole network; the highest volts on the way."""
        step, highest = seconds / steps, abs(self.terminal)
        for _ in range(steps):
            gains = [step * share / tau / (1 + step / tau) for _, share, tau in self.branches]
            pull = sum(g * v for g, (v, _, _) in zip(gains, self.branches, strict=True))
            self.terminal = (self.terminal + pull) / (1 + sum(gains))
            for branch in self.branches:
                branch[0] = (branch[0] + step / branch[2] * self.terminal) / (1 + step / branch[2])
            highest = max(highest, abs(self.terminal))
        return highest


class Rebound(unittest.TestCase):
    """Of one to three branches, 1 to 1 000 s, with the totals of the table."""

    def test_while_a_proof_holds_the_truth_is_under_the_target(self) -> None:
        """Drawn parts, shorts and waits; the meter reads anywhere in its error."""
        luck, held, useful = drawn_by(20), 0, 0
        for _ in range(1200):
            volts, total = 10 ** luck.uniform(1.3, 3.5), ABSORBS[luck.choice(list(ABSORBS))] * luck.uniform(0.3, 1)
            cuts = sorted(luck.random() for _ in range(luck.choice((0, 1, 2))))
            shares = [b - a for a, b in zip([0.0, *cuts], [*cuts, 1.0], strict=True)]
            part = Part(volts, [(total * share, 10 ** luck.uniform(0, 3)) for share in shares])
            upper = volts * next(a for a in sorted(ABSORBS.values()) if a >= total)
            short, wait = 10 ** luck.uniform(-1, 4), 10 ** luck.uniform(-1, 3.2)
            part.short(short)
            part.stand(wait)
            error = luck.choice((0.05, 0.3, 1.0))
            high = abs(part.terminal) + luck.uniform(0, 2) * error
            for told in ({}, {"shorted_s": short}, {"open_s": wait}, {"shorted_s": short, "open_s": wait}):
                holds = proof_holds(upper, high, **told)
                if holds < LEAST_PROOF_S:
                    continue
                held, useful = held + 1, useful + bool(told)
                copy = Part(0, [])
                copy.terminal, copy.branches = part.terminal, [list(branch) for branch in part.branches]
                self.assertLess(copy.stand(holds), 5.0, (volts, total, short, wait, told))
        self.assertGreater(held, 1000)
        self.assertGreater(useful, 700)

    def test_worked_examples(self) -> None:
        """54 V of a can: 13.5 V at most a minute shorted, a minute open (e^(−60/τ) is a half); 1.8 V of film: never 5 V."""
        self.assertAlmostEqual(crept_back(54, 60, 60), 13.5)
        self.assertAlmostEqual(crept_back(54, 0, 1), 54 * (1 - math.exp(-1)))
        self.assertAlmostEqual(crept_back(54, 100_000, 60), 54 * math.exp(-100) * (1 - math.exp(-0.06)))  # τ of 1000 s at most
        self.assertEqual((proof_holds(1.8, 0.5), LEAST_PROOF_S), (1800, 60))
        self.assertLess(proof_holds(54, 0.5), 1)
        self.assertAlmostEqual(proof_holds(54, 0.5, open_s=60), 60 * 4.5 / 0.5)
        self.assertEqual(proof_holds(54, 0.5, open_s=900), 1800)
        self.assertEqual([proof_holds(54, v, open_s=900) for v in (5.0, 5.1)], [0, 0])

    def test_knowing_less_never_holds_longer(self) -> None:
        luck = drawn_by(3)
        for _ in range(300):
            rebound, high, short, wait = 10 ** luck.uniform(0, 2), luck.uniform(0, 5), luck.uniform(0, 2000), luck.uniform(0, 2000)
            full = proof_holds(rebound, high, shorted_s=short, open_s=wait)
            for less in (
                proof_holds(rebound, high), proof_holds(rebound, high, shorted_s=short), proof_holds(rebound, high, open_s=wait),
                proof_holds(rebound * 1.5, high, shorted_s=short, open_s=wait),
                proof_holds(rebound, high + 0.2, shorted_s=short, open_s=wait),
            ):  # fmt: skip
                self.assertLessEqual(less, full * (1 + 1e-6))
