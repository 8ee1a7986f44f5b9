"""Readings: between models, without a resistor in parallel, and which terminal is common."""

import cmath
import itertools
import math
import unittest
from collections.abc import Callable
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.metering import find_common, to_parallel, to_series, without_parallel_resistor

FARADS = st.floats(1e-12, 1e-2)
LOSSES = st.floats(0, 10)
HERTZ = st.sampled_from([50.0, 100.0, 120.0, 1000.0, 10_000.0, 100_000.0])


class Models(unittest.TestCase):
    """The same impedance in the series and in the parallel model."""

    @given(FARADS, LOSSES, HERTZ)
    def test_both_models_have_one_impedance(self, cp: float, d: float, hertz: float) -> None:
        cs, same = to_series(cp, d)
        omega = 2 * math.pi * hertz
        series = d / (omega * cs) - 1j / (omega * cs)
        parallel = 1 / (omega * cp * d + 1j * omega * cp)
        self.assertEqual(same, d)
        self.assertLess(abs(series - parallel) / abs(series), 1e-9)
        self.assertAlmostEqual(to_parallel(cs, d)[0] / cp, 1, places=9)

    def test_worked_example(self) -> None:
        """10 µF parallel with D 0.3 is 10.9 µF in series."""
        self.assertAlmostEqual(to_series(10e-6, 0.3)[0], 10.9e-6)

    @given(FARADS, st.floats(0, 0.2), HERTZ, st.floats(0.01, 5))
    def test_a_known_resistor_across_the_part_is_taken_out_exactly(self, cp: float, own: float, hertz: float, added: float) -> None:
        omega = 2 * math.pi * hertz
        ohms = 1 / (omega * cp * added)
        admittance = omega * cp * own + 1j * omega * cp + 1 / ohms
        read_c, read_d = admittance.imag / omega, 1 / math.tan(cmath.phase(admittance))
        farads, d = without_parallel_resistor(read_c, read_d, hertz, ohms)
        self.assertAlmostEqual(farads / cp, 1, places=6)
        self.assertAlmostEqual(d, own, places=6)

    def test_a_resistor_that_explains_more_than_was_read_is_refused(self) -> None:
        with self.assertRaises(InputError) as caught:
            without_parallel_resistor(1e-6, 0.001, 100, 100)
        self.assertEqual(caught.exception.field, "resistance_ohm")

    def test_out_of_range_names_its_field(self) -> None:
        cases: tuple[tuple[Callable[[], object], str], ...] = (
            (lambda: to_series(0, 0.1), "cp_f"), (lambda: to_series(1e-6, -1), "d"), (lambda: to_parallel(math.nan, 0), "cs_f"),
            (lambda: without_parallel_resistor(1e-6, 0.1, 0, 1e3), "frequency_hz"), (lambda: to_parallel(1e-6, math.inf), "d"),
        )  # fmt: skip
        for call, field in cases:
            with self.assertRaises(InputError) as caught:
                call()
            self.assertEqual(caught.exception.field, field)


class Common(unittest.TestCase):
    """Three terminals, two sections: the third pair reads the two in series."""

    def readings(self, common: str, a: str, b: str, ca: float, cb: float, noise: tuple[float, float, float] = (0, 0, 0)) -> Any:
        values = (ca, cb, ca * cb / (ca + cb))
        pairs = ((common, a), (b, common), (a, b))
        return {pair: value * (1 + off) for pair, value, off in zip(pairs, values, noise, strict=True)}

    @given(
        st.permutations(["red", "white", "black"]), st.floats(1e-6, 1e-4), st.floats(0.3, 3),
        st.tuples(*[st.floats(-0.03, 0.03)] * 3),
    )  # fmt: skip
    def test_it_is_found_for_every_permutation_with_noise(self, names: list[str], first: float, ratio: float, noise: Any) -> None:
        common, a, b = names
        found = find_common(self.readings(common, a, b, first, first * ratio, noise))
        self.assertTrue(found.agrees)
        self.assertEqual(found.common, common)
        self.assertAlmostEqual(found.sections[a] / first, 1, delta=0.031)
        self.assertAlmostEqual(found.sections[b] / (first * ratio), 1, delta=0.031)

    def test_the_usual_dual(self) -> None:
        for common, a, b in itertools.permutations("CFH"):
            found = find_common(self.readings(common, a, b, 30e-6, 5e-6))
            self.assertEqual((found.common, found.agrees), (common, True))

    def test_a_very_small_section_cannot_be_told_from_the_series_within_the_error(self) -> None:
        found = find_common(self.readings("C", "F", "H", 100e-6, 2e-6))
        self.assertEqual((found.common, found.agrees), (None, True))
        self.assertEqual(find_common(self.readings("C", "F", "H", 100e-6, 2e-6), relative_error=0.005).common, "C")

    def test_one_section_open_leaves_it_open_which_is_common(self) -> None:
        found = find_common({("a", "b"): 30e-6, ("a", "c"): None, ("b", "c"): None})
        self.assertEqual((found.common, found.sections, found.agrees), (None, {}, True))

    def test_readings_that_contradict_each_other_are_said(self) -> None:
        found = find_common({("a", "b"): 30e-6, ("a", "c"): 5e-6, ("b", "c"): 8e-6})
        self.assertEqual((found.common, found.agrees), (None, False))

    def test_of_two_readings_only_equal_ones_tell(self) -> None:
        """30 and 5 from a: a is common, or b is, with 6 µF from b to c in series with 30. Two equal ones leave only a."""
        self.assertIsNone(find_common({("a", "b"): 30e-6, ("a", "c"): 5e-6}).common)
        self.assertEqual(find_common({("a", "b"): 10e-6, ("a", "c"): 10e-6}).common, "a")

    def test_bad_input(self) -> None:
        for bad in ({}, {("a", "a"): 1e-6}, {("a", "b"): -1e-6}, {("a", "b"): 1e-6, ("b", "a"): 1e-6}, {("a", "b"): math.nan}):
            with self.subTest(bad), self.assertRaises(InputError) as caught:
                find_common(bad)
            self.assertEqual(caught.exception.field, "readings")
