"""The engine on circuits whose answers are in every book."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.circuit import Load, dropper
from dusky_heron.core.circuit.engine import Circuit, Guard, Mode, Source
from dusky_heron.core.errors import InputError

MAINS = Source(325.0, 50.0)


def one(ohms: float, farads: float, *, from_source: bool) -> Circuit:
    """A capacitor charged through a resistor from the mains, or discharged through it."""
    mode = Mode(((1 / ohms,),), (1 / ohms if from_source else 0.0,), (0.0,), ())
    return Circuit({"only": mode}, (farads,), MAINS, lambda x, v: "only", 325.0)


class Linear(unittest.TestCase):
    """One mode, closed forms."""

    @given(st.floats(10, 1e6), st.floats(1e-9, 1e-3), st.floats(1, 400))
    def test_a_discharge_is_an_exponential(self, ohms: float, farads: float, volts: float) -> None:
        circuit = one(ohms, farads, from_source=False)
        left = circuit.end(circuit.run((volts,), 0.0, 0.01))[0]
        self.assertAlmostEqual(left / volts, math.exp(-0.01 / (ohms * farads)), places=6)

    @given(st.floats(10, 1e5), st.floats(1e-8, 1e-4))
    def test_a_low_pass_follows_the_phasor_of_its_impedance(self, ohms: float, farads: float) -> None:
        circuit = one(ohms, farads, from_source=True)
        phasor = 325 / complex(1, MAINS.omega * ohms * farads)  # of sin: its imaginary part is the value at zero
        for share in (0.25, 1.0):
            found = circuit.end(circuit.run((phasor.imag,), 0.0, share * MAINS.period))[0]
            self.assertAlmostEqual(found, phasor.real if share == 0.25 else phasor.imag, delta=1e-4)


class Bounds(unittest.TestCase):
    """What must not hang or lose its digits."""

    def test_a_zener_that_takes_turns_with_its_series_diode(self) -> None:
        """Hardly any decay and a constant current leave a constant of 6e9 V: a guard must keep its digits beside it."""
        circuit = dropper.DropperCircuit(
            "half_wave_shunt", 240, 60, 1.2150893879671792e-06, 33, None, 9.75021055885023e-07, 24, 5, 0.7,
            Load(current_a=0.035762578923308204),
        )  # fmt: skip
        found = dropper.steady_state(circuit)
        lost = found.clamp_w + found.series_w + found.bleed_w + found.diode_w + found.load_w
        self.assertAlmostEqual(found.input_w / lost, 1, places=3)

    def test_what_runs_away_is_said(self) -> None:
        negative = Mode(((-1e3,),), (0.0,), (0.0,), (Guard((1.0,), 0, -1e308, "only"),))
        with self.assertRaises(InputError) as caught:
            Circuit({"only": negative}, (1e-9,), MAINS, lambda x, v: "only", 325.0).run((1.0,), 0.0, 0.02)
        self.assertEqual(caught.exception.field, "circuit")


class Switching(unittest.TestCase):
    """Where a guard crosses zero."""

    @given(st.floats(-0.999, 0.999))
    def test_a_crossing_of_the_mains_is_found_to_a_billionth_of_a_cycle(self, share: float) -> None:
        """From just after the trough the mains rises through a level at asin(level/peak)."""
        idle = ((0.0,),), (0.0,), (0.0,)
        modes = {"below": Mode(*idle, (Guard((0.0,), 1.0, -325.0 * share, "above"),)), "above": Mode(*idle, ())}
        circuit = Circuit(modes, (1e-6,), MAINS, lambda x, v: "below", 325.0)
        first, *_ = circuit.run((0.0,), -0.0049999, 0.0099)
        expected = math.asin(share) / MAINS.omega
        self.assertAlmostEqual(first.start + first.tau, expected, delta=2e-9 * MAINS.period / max(math.sqrt(1 - share**2), 0.04))

    def test_a_peak_that_only_just_passes_is_not_missed(self) -> None:
        """A level a millionth below the peak is above it for a quarter of a degree, between two looks."""
        idle = ((0.0,),), (0.0,), (0.0,)
        modes = {"below": Mode(*idle, (Guard((0.0,), 1.0, -325.0 * (1 - 1e-6), "above"),)), "above": Mode(*idle, ())}
        circuit = Circuit(modes, (1e-6,), MAINS, lambda x, v: "below", 325.0)
        self.assertEqual([segment.key for segment in circuit.run((0.0,), 0.0, 0.01)], ["below", "above"])
