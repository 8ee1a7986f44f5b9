"""Watching it fall: coverage of the interval, and each finding from a physical cause."""

import math
import statistics
import unittest
from typing import Any

from dusky_heron.core.discharge.decay import DecayFit, fit
from dusky_heron.core.errors import InputError
from tests import drawn_by, some

Samples = list[tuple[float, float]]


def metered(volts: Any, *, times: Any, resolution: Any = 0.1, noise: Any = 0.05, seed: Any = 1) -> Samples:
    """What a meter of some resolution and noise shows of a voltage."""
    chance = drawn_by(seed)
    return [(t, round((volts(t) + chance.gauss(0, noise)) / resolution) * resolution) for t in times]


def theoretical_width(tau: float, start: float, sigma: float, times: list[float]) -> float:
    """Width of the 95 % interval of τ from the Cramér–Rao bound of V₀ e^(−t/τ) with known noise."""
    falls = [math.exp(-t / tau) for t in times]
    slopes = [start * f * t / tau**2 for f, t in zip(falls, times, strict=True)]
    a, c = sum(f * f for f in falls), sum(s * s for s in slopes)
    b = sum(f * s for f, s in zip(falls, slopes, strict=True))
    return 2 * 1.96 * sigma * math.sqrt(a / (a * c - b * b))


class Interval(unittest.TestCase):
    """Over 200 simulated decays the 95 % interval holds the truth, and is not wider than it need be."""

    def test_coverage_and_width(self) -> None:
        for tau, resolution, noise, count in ((4.0, 0.1, 0.1, 20), (40.0, 1.0, 1.0, 12), (0.7, 0.01, 0.03, 30)):
            times = [2.5 * tau * k / (count - 1) for k in range(count)]
            held, widths = 0, []
            for seed in range(200):
                falling = metered(lambda t: 300 * math.exp(-t / tau), times=times, resolution=resolution, noise=noise, seed=seed)  # noqa: B023
                found = fit(falling, resolution_v=resolution)
                held += some(found.tau_low_s) <= tau <= some(found.tau_high_s)
                widths.append(some(found.tau_high_s) - some(found.tau_low_s))
            sigma = math.sqrt(noise**2 + resolution**2 / 12)
            self.assertTrue(180 <= held <= 198, held)
            self.assertLessEqual(statistics.median(widths), 1.5 * theoretical_width(tau, 300, sigma, times))

    def test_the_time_to_go_holds_the_truth(self) -> None:
        held = 0
        for seed in range(200):
            found = fit(metered(lambda t: 300 * math.exp(-t / 4), times=range(10), noise=0.2, seed=seed), resolution_v=0.1)
            held += some(found.time_low_s) <= 4 * math.log(300 / 5) - 9 <= some(found.time_high_s)
        self.assertTrue(180 <= held <= 200, held)

    def test_an_exact_fall_is_found_again(self) -> None:
        for start, tau in ((300, 4), (-300, 4), (2970, 0.05), (12, 5000)):
            found = fit([(k * tau / 5, start * math.exp(-k / 5)) for k in range(12)], resolution_v=1e-4)
            self.assertAlmostEqual(some(found.tau_s) / tau, 1, places=6)
            self.assertEqual(found.finding, "falling")

    def test_neither_the_clock_nor_the_order_matters(self) -> None:
        falling = [(float(t), 300 * math.exp(-t / 4)) for t in range(12)]
        for other in (falling[::-1], [(t + 86_400, v) for t, v in falling]):
            self.assertAlmostEqual(some(fit(other, resolution_v=0.1).tau_s), some(fit(falling, resolution_v=0.1).tau_s))


class Findings(unittest.TestCase):
    """Each from what causes it on the bench."""

    def of(self, volts: Any, **known: Any) -> DecayFit:
        return fit(metered(volts, times=[k * 2.0 for k in range(20)]), resolution_v=0.1, **known)

    def test_falling_as_expected(self) -> None:
        found = self.of(lambda t: 360 * math.exp(-t / 10), expected_tau_s=10, resistance_ohm=1000)
        self.assertEqual(found.finding, "falling")
        self.assertAlmostEqual(some(found.implied_f), 0.010, places=4)

    def test_open_bleeder(self) -> None:
        """1000 µF with its 47 kΩ bleeder gone open: only leakage is left, R·C of hours."""
        for volts in (lambda t: 325.0, lambda t: 400 * math.exp(-t / 10_000)):
            self.assertEqual(self.of(volts, expected_tau_s=47).finding, "not_falling")

    def test_still_connected(self) -> None:
        self.assertEqual(self.of(lambda t: 20 + 0.4 * t).finding, "rising")
        back_on = self.of(lambda t: 300 * math.exp(-t / 3) if t < 20 else 5 * (t - 20))
        self.assertEqual(back_on.finding, "rising")
        self.assertIn("Stop", back_on.sentence)
        self.assertIsNone(back_on.tau_s)

    def test_second_source(self) -> None:
        found = self.of(lambda t: 280 * math.exp(-t / 3) + 24)
        self.assertEqual(found.finding, "floor")
        self.assertAlmostEqual(some(found.floor_v), 24, delta=0.3)
        self.assertIsNone(found.time_to_target_s)  # 5 V is below the floor

    def test_absorption(self) -> None:
        """An electrolytic whose slow charge, a tenth of it, follows with a time constant of its own."""
        self.assertEqual(self.of(lambda t: 324 * math.exp(-t / 3.6) + 36 * math.exp(-t / 150)).finding, "floor")

    def test_meter_of_ten_megohm_on_a_small_part(self) -> None:
        """10 nF with 10 MΩ across it falls twice as fast through the meter's own 10 MΩ: that is no fault of the part."""
        seen = metered(lambda t: 300 * math.exp(-t / 0.05), times=[k / 100 for k in range(20)])
        counted = fit(seen, resolution_v=0.1, expected_tau_s=0.1, meter_ohm=10e6, capacitance_f=10e-9)
        self.assertEqual(counted.finding, "falling")
        self.assertAlmostEqual(some(counted.implied_ohm) / 10e6, 1, places=1)
        self.assertEqual(fit(seen, resolution_v=0.1, expected_tau_s=0.1).finding, "faster_than_expected")

    def test_only_the_meter_discharges_it(self) -> None:
        found = fit(
            metered(lambda t: 300 * math.exp(-t / 10), times=range(20)), resolution_v=0.1, meter_ohm=10e6, capacitance_f=1e-6
        )
        self.assertTrue(found.implied_ohm is None or found.implied_ohm > 1e9)  # open, as far as can be told
        bled = {"expected_tau_s": 0.022, "meter_ohm": 10e6, "capacitance_f": 100e-9}  # 220 kΩ gone open, the meter stays
        seen = metered(lambda t: 300 * math.exp(-t), times=[k / 10 for k in range(20)])
        self.assertEqual(fit(seen, resolution_v=0.1, **bled).finding, "slower_than_expected")

    def test_slower_and_faster_than_the_tolerances_allow(self) -> None:
        self.assertEqual(self.of(lambda t: 300 * math.exp(-t / 20), expected_tau_s=10).finding, "slower_than_expected")
        self.assertEqual(self.of(lambda t: 300 * math.exp(-t / 5), expected_tau_s=10).finding, "faster_than_expected")
        self.assertEqual(self.of(lambda t: 300 * math.exp(-t / 11.5), expected_tau_s=10).finding, "falling")

    def test_too_few_and_nothing_left(self) -> None:
        few = fit([(0, 300), (1, 200)], resolution_v=0.1)
        self.assertEqual((few.finding, few.tau_s, few.time_to_target_s), ("too_few", None, None))
        self.assertIn("nothing is left", self.of(lambda t: 0.3).sentence)

    def test_bad_input_names_its_field(self) -> None:
        good = [(0.0, 300.0), (1.0, 200.0), (2.0, 150.0)]
        cases = (
            ({"samples": [(0, 1), (0, 2), (1, 1)]}, "samples"), ({"samples": [(0, math.nan), (1, 1), (2, 1)]}, "samples"),
            ({"samples": [(-1, 3), (1, 1), (2, 1)]}, "samples"), ({"resolution_v": 0}, "resolution_v"),
            ({"target_v": 0}, "target_v"), ({"meter_ohm": 0}, "meter_ohm"), ({"expected_tau_s": math.inf}, "expected_tau_s"),
        )  # fmt: skip
        for changed, field in cases:
            given: dict[str, Any] = {"samples": good, "resolution_v": 0.1} | changed
            with self.subTest(changed), self.assertRaises(InputError) as caught:
                fit(given.pop("samples"), **given)
            self.assertEqual(caught.exception.field, field)
