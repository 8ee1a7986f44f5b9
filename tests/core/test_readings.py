"""Accuracy as makers state it, readings taken in circuit, and capacitance from a current in service."""

import math
import unittest
from collections.abc import Callable

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.metering.accuracy import Accuracy, Method, Specification, Value, interval, read_accuracies, read_value
from dusky_heron.core.metering.corrections import Beside, alone, loss_of_resistor
from dusky_heron.core.metering.in_service import from_clamp, from_idle, idle_share
from dusky_heron.core.model import Quantity

DATA_SHEET = """
ESR ±(1 % + 2) to 20 Ω
ESR ±(2 % + 5) to 200 Ω
ac volts ±0.8 % + 0.2 % of range to 600 V
insulation +/-5% up to 2 GΩ
leakage ±1 % of range to 2 mA
D ±2 %
"""


class Makers(unittest.TestCase):
    """Lines as on a data sheet."""

    def setUp(self) -> None:
        self.meter = Specification(read_accuracies(DATA_SHEET, 6000))

    def test_ohms_range_down_by_themselves_and_farads_are_no_ohms(self) -> None:
        """±(0.9 % + 2) to 60 MΩ on 6 000 counts: 3 Ω is shown as 3.000, so ±0.029."""
        meter = Specification(read_accuracies("resistance ±(0.9 % + 2) to 60 MΩ", 6000))
        found = read_value("3 Ω", Quantity.RESISTANCE, meter)
        self.assertAlmostEqual(found.high, 3 * 1.009 + 0.002)
        for typed, fine in (("16u", False), ("99 µΩ", False), ("0.2 mΩ", True), ("0", True)):
            for quantity in (Quantity.RESISTANCE, Quantity.INSULATION, Quantity.ESR):
                if fine:
                    read_value(typed, quantity, Specification())
                    continue
                with self.assertRaises(InputError) as caught:
                    read_value(typed, quantity, Specification())
                self.assertEqual(caught.exception.field, "value")

    def test_guard_bands_by_hand(self) -> None:
        """20 Ω on 6000 counts steps by 10 mΩ: 1 % of 12 Ω + 2 × 0.01 = 0.14 Ω; 0.8 % of 230 V + 0.2 % of 600 V = 3.04 V."""
        for text, quantity, low, high in (
            ("12", Quantity.ESR, 11.86, 12.14),
            ("150", Quantity.ESR, 150 - 3 - 0.5, 150 + 3 + 0.5),
            ("230 V", Quantity.VOLTS_AC, 226.96, 233.04),
            ("1 GΩ", Quantity.INSULATION, 0.95e9, 1.05e9),
            ("100u", Quantity.LEAKAGE, 80e-6, 120e-6),
        ):
            read = read_value(text, quantity, self.meter)
            self.assertAlmostEqual(read.low / low, 1, places=9, msg=text)
            self.assertAlmostEqual(read.high / high, 1, places=9, msg=text)

    def test_a_loss_factor_is_read_as_number_per_cent_or_quality(self) -> None:
        for text, d in (("0.02", 0.02), ("2 %", 0.02), ("Q 50", 0.02), ("D 0.02", 0.02), ("q=200", 0.005)):
            self.assertAlmostEqual(read_value(text, Quantity.DISSIPATION, self.meter).value, d)

    def test_beyond_the_highest_range_is_asked_again(self) -> None:
        with self.assertRaises(InputError) as caught:
            read_value("900 V", Quantity.VOLTS_AC, self.meter)
        self.assertIn("ends at 600 V", caught.exception.sentence)

    def test_lines_that_say_nothing_are_named(self) -> None:
        for text in ("ESR 1 %", "colour ±1 %", "ESR ±90 %", "ESR ±1 % to 20 V", "ESR ±1 %\nESR ±2 %", "ESR ±1 % to fast"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_accuracies(text, 6000)
            self.assertEqual(caught.exception.field, "accuracies")

    @given(st.floats(0, 1e3), st.floats(0, 5), st.floats(0, 5), st.floats(0, 20))
    def test_more_stated_error_never_narrows_the_interval(self, value: float, one: float, of_range: float, counts: float) -> None:
        plain = interval(value, Accuracy(one, counts, 6000, full_scale=1e3))
        wider = interval(value, Accuracy(one, counts, 6000, of_range, 1e3))
        self.assertTrue(wider[0] <= plain[0] <= value <= plain[1] <= wider[1])


def read(farads: float, share: float = 0.01) -> Value:
    return Value(farads, farads * (1 - share), farads * (1 + share))


class InCircuit(unittest.TestCase):
    """What lies across a part is taken out where that is sound, and refused with its reason where not."""

    def test_a_timed_charge_is_refused_beyond_d_of_a_tenth(self) -> None:
        """D = 1/(2π · 10 Hz · R · 1 µF): 0.1 at 159 kΩ. The refusal says lift one lead."""
        self.assertAlmostEqual(loss_of_resistor(1e-6, 159155, 10), 0.1, places=5)
        for ohms, refused in ((150e3, True), (159e3, True), (160e3, False), (1e6, False)):
            try:
                found = alone(read(1e-6), Beside(ohms), Method.TIMED_CHARGE, None)
            except InputError as error:
                self.assertTrue(refused, ohms)
                self.assertEqual(error.field, "parallel_ohm")
                self.assertIn("Lift one lead", error.sentence)
            else:
                self.assertFalse(refused, ohms)
                self.assertEqual((found.value, found.high), (1e-6, read(1e-6).high))

    @given(st.floats(1e-9, 1e-4), st.floats(1e-4, 0.0999))
    def test_the_true_value_stays_inside_a_corrected_timed_charge(self, true: float, loss: float) -> None:
        """A source I charging R and C for t reads I·t/V = C·x/(1 − e^−x), x = t/RC = D at 1/(2πt)."""
        timed = true * loss / -math.expm1(-loss)
        ohms = 1 / (2 * math.pi * 10 * timed * loss)
        found = alone(read(timed), Beside(ohms), Method.TIMED_CHARGE, 10)
        self.assertTrue(found.low <= true <= found.high)

    @given(st.floats(1e-9, 1e-3), st.floats(0, 0.3), st.floats(0.01, 3), st.sampled_from([100.0, 1e3, 1e4]))
    def test_an_lcr_reading_is_corrected_exactly(self, cp: float, own: float, added: float, hertz: float) -> None:
        """A lossy part with a resistor across it, as a bridge reads it in either model, by complex admittance."""
        omega = 2 * math.pi * hertz
        ohms = 1 / (omega * cp * added)
        d = own + added
        series = cp * (1 + d * d)  # what a series reading shows
        found = alone(read(series), Beside(ohms, loss=d), Method.LCR_SERIES, hertz)
        self.assertAlmostEqual(found.value / (cp * (1 + own * own)), 1, places=6)
        self.assertEqual(alone(read(cp), Beside(ohms), Method.LCR_PARALLEL, hertz).value, cp)

    def test_a_capacitor_across_it_is_subtracted_with_its_own_doubt(self) -> None:
        """1.1 µF ±1 % less 100 nF ±10 %: 1 µF, from 1.089 − 0.11 to 1.111 − 0.09."""
        found = alone(read(1.1e-6), Beside(farads=100e-9), Method.TIMED_CHARGE, None)
        for got, want in ((found.value, 1e-6), (found.low, 0.979e-6), (found.high, 1.021e-6)):
            self.assertAlmostEqual(got / want, 1)

    def test_what_cannot_be_corrected_says_why(self) -> None:
        for beside, method, hertz, field in (
            (Beside(1e4), Method.LCR_SERIES, 120, "loss"), (Beside(1e4), Method.LCR_PARALLEL, None, "meter_id"),
            (Beside(farads=2e-6), Method.TIMED_CHARGE, None, "parallel_f"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                alone(read(1e-6), beside, method, hertz)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InputError):
            alone(Value(0, 0, math.inf), Beside(1e4), Method.LCR_PARALLEL, 100)


class InService(unittest.TestCase):
    """From clamp current and voltage, and from what an appliance draws at idle."""

    def test_published_factors(self) -> None:
        """3 183·I/V µF at 50 Hz, 2 653·I/V µF at 60 Hz."""
        for hertz, factor in ((50, 3183), (60, 2653)):
            found = from_clamp(Value(2, 1.96, 2.04), Value(400, 396, 404), hertz)
            self.assertAlmostEqual(found.value * 1e6, factor * 2 / 400, delta=0.01)
            self.assertAlmostEqual(found.low * 1e6, factor * 1.96 / 404, delta=0.01)
            self.assertAlmostEqual(found.high * 1e6, factor * 2.04 / 396, delta=0.01)

    def test_a_rail_makes_a_dropper_read_low_as_published(self) -> None:
        """Bridge on 230 V: −2 % at 24 V, −15 % at 100 V, −41 % at 200 V, to a percent."""
        for rail, percent in ((24, -2), (100, -15), (200, -41)):
            self.assertAlmostEqual((idle_share(2 * rail, 230) - 1) * 100, percent, delta=1.1)

    @given(st.floats(0, 600))
    def test_the_share_is_that_of_the_waveform(self, swing: float) -> None:
        """Rms of the charging current by stepping through half a cycle, against the closed form."""
        peak, steps = 230 * math.sqrt(2), 4000
        far, squares = -peak, 0.0  # volts the capacitor's near end must rise to before it conducts
        start = -peak + swing
        for step in range(steps):
            angle = -math.pi / 2 + math.pi * (step + 0.5) / steps
            if peak * math.sin(angle) > start:
                squares += math.cos(angle) ** 2
        self.assertLess(far, start + 1)
        self.assertAlmostEqual(idle_share(swing, 230), math.sqrt(2 * squares / steps), places=2)

    def test_an_x_capacitor_on_the_line_is_taken_out(self) -> None:
        """680 nF and 100 nF on 230 V 50 Hz draw 56.4 mA; read with the rail at 24 V they are 2 % less."""
        current = 2 * math.pi * 50 * 230 * (680e-9 * idle_share(48, 230) + 100e-9)
        exact = Value(230, 230, 230)
        found = from_idle(Value(current, current, current), exact, 50, swing_v=48, beside_f=100e-9)
        self.assertAlmostEqual(found.value * 1e9, 680, places=6)

    def test_what_explains_nothing_is_refused(self) -> None:
        one, mains = Value(0.01, 0.01, 0.01), Value(230, 230, 230)
        cases: tuple[tuple[Callable[[], object], str], ...] = (
            (lambda: from_clamp(Value(0, 0, 0), mains, 50), "value"), (lambda: from_clamp(one, Value(0, 0, 0), 50), "voltage"),
            (lambda: from_idle(one, mains, 50, beside_f=1e-6), "beside"), (lambda: from_idle(one, mains, 50, swing_v=649), "rail"),
        )  # fmt: skip
        for call, field in cases:
            with self.assertRaises(InputError) as caught:
                call()
            self.assertEqual(caught.exception.field, field)
