"""A second feed, a reversal, a start above the plan: seen wherever they stand in a fall; a healthy fall is not stopped."""

import math
import random
import unittest

from dusky_heron.core.discharge.decay import fit
from dusky_heron.core.discharge.events import find_event
from tests import drawn_by


def fall(
    luck: random.Random, first_v: float, tau_s: float, every_s: float, count: int, digit_v: float, noise_v: float
) -> list[tuple[float, float]]:
    """An exponential as a meter shows it: its noise, then its last digit."""
    true = (first_v * math.exp(-k * every_s / tau_s) + luck.gauss(0, noise_v) for k in range(count))
    return [(round(k * every_s, 6), round(v / digit_v) * digit_v) for k, v in enumerate(true)]


def drawn(luck: random.Random) -> tuple[list[tuple[float, float]], float, float]:
    """A healthy fall logged every 0.2 to 5 s, noise of up to three digits; its digit and its noise."""
    first, tau, every = luck.choice((30, 100, 325, 400, 900)), 10 ** luck.uniform(0, 2), luck.choice((0.2, 0.5, 1, 2, 5))
    digit = luck.choice((0.01, 0.1, 1))
    noise = digit * luck.uniform(0.3, 3)
    count = min(400, max(10, int(luck.uniform(1, 6) * tau / every)))
    return fall(luck, first, tau, every, count, digit, noise), digit, noise


class Events(unittest.TestCase):
    """Of a log as it is typed."""

    def test_a_jump_back_to_the_mains_peak_stops_wherever_it_stands(self) -> None:
        """From 18 V to 325 V: at the first reading after it, in the middle, and as the last line."""
        luck = drawn_by(1)
        for k in range(1, 20):
            rows = fall(luck, 325, 4, 1, 20, 0.1, 0.1)
            rows[k:] = [(t, 325 * math.exp(-(t - rows[k][0]) / 4)) for t, _ in rows[k:]]
            if k == 1:
                continue  # hardly fallen yet: no step
            found = fit(rows, resolution_v=0.1)
            self.assertTrue(found.stop, k)
            assert found.event is not None
            self.assertEqual(found.event.seconds, rows[k][0])
            self.assertIn("Stop", found.sentence)
            self.assertIsNone(found.time_to_target_s)

    def test_a_rise_of_the_whole_is_seen_with_two_readings(self) -> None:
        self.assertTrue(fit([(0, 18.0), (1, 325.0)], resolution_v=0.1).stop)
        self.assertFalse(fit([(0, 18.0), (1, 18.2)], resolution_v=0.1).stop)

    def test_a_reversal_and_a_start_above_the_plan_stop(self) -> None:
        down = [(k, 100 * math.exp(-k / 3)) for k in range(8)]
        for sign in (1, -1):
            turned = [*((t, sign * v) for t, v in down), (8, sign * -40.0)]
            self.assertIn("turned round", fit(turned, resolution_v=0.1).sentence)
        high = [(k, 800 * math.exp(-k / 3)) for k in range(8)]
        self.assertIn("above the worst that was planned", fit(high, resolution_v=1, planned_v=400).sentence)
        for planned in (800, 1000, None):
            self.assertFalse(fit(high, resolution_v=1, planned_v=planned).stop)
        self.assertFalse(fit(high, resolution_v=1, planned_v=763).stop)  # 5 % and two digits are the meter's
        self.assertTrue(fit(high, resolution_v=1, planned_v=759).stop)

    def test_a_healthy_fall_is_hardly_ever_stopped_and_a_plain_step_always(self) -> None:
        """At most one of a hundred whole falls; a rise of forty times the noise and ten digits over the reading before it."""
        luck, stopped, missed = drawn_by(2), 0, 0
        for _ in range(300):
            rows, digit, noise = drawn(luck)
            stopped += find_event(rows, resolution_v=digit) is not None
            k = luck.randrange(3, len(rows))
            up = rows[k - 1][1] - rows[k][1] + 40 * noise + 10 * digit
            fed = [*rows[:k], *((t, v + up) for t, v in rows[k:])]
            found = find_event(fed, resolution_v=digit)
            missed += found is None or found.seconds != rows[k][0]
        self.assertLessEqual(stopped, 3)
        self.assertLessEqual(missed, 3)
