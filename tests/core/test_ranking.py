"""Ranking faults by simulation, on circuits simple enough to see through; and properties of the benches."""

import math
import unittest
from dataclasses import dataclass, replace
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit import dropper as d
from dusky_heron.core.circuit.dropper.states import outside
from dusky_heron.core.circuit.ranking import Fault, State, rank
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import LoadState, Relay
from tests import loose, some
from tests.core.test_circuit import DOSING, USUAL, logs


@dataclass(frozen=True)
class Divider:
    """Two resistors on 10 V."""

    top: float = 1000.0
    bottom: float = 1000.0


def figures(c: Divider) -> dict[str, float]:
    amps = 10 / (c.top + c.bottom)
    return {"volts": amps * c.bottom, "amps": amps}


FAULTS: tuple[Fault[Divider], ...] = (
    Fault("top_high", "top high", lambda c, s: replace(c, top=c.top * s), 1.1, 100, lambda _, c: f"{c.top:.0f}"),
    Fault("bottom_high", "bottom high", lambda c, s: replace(c, bottom=c.bottom * s), 1.1, 100),
    Fault("top_open", "top open", lambda c, _: None),
    Fault("bottom_short", "bottom shorted", lambda c, _: replace(c, bottom=0.0)),
)
FLOOR = {"volts": 0.01, "amps": 1e-6}


class Ranking(unittest.TestCase):
    """A divider: one reading leaves ties, two tell."""

    def ranked(self, error: float = 0.02, **read: float) -> Any:
        return rank([State(Divider(), read)], FAULTS, figures, FLOOR, error=error)

    @given(st.floats(1.3, 50), st.sampled_from(FAULTS[:2]))
    def test_the_fault_and_its_size_are_found_from_two_readings(self, size: float, fault: Fault[Divider]) -> None:
        broken = fault.change(Divider(), size)
        assert broken
        best = self.ranked(**figures(broken)).suspects[0]
        self.assertEqual(best.ids, (fault.id,))
        self.assertTrue(best.explains)
        if fault.id == "top_high":
            self.assertAlmostEqual(float(best.shows[0]) / (1000 * size), 1, delta=0.1)

    def test_nothing_wrong_comes_first_when_all_is_as_drawn(self) -> None:
        """5 V and 5 mA; a free fault fits as well, and is held back."""
        found = self.ranked(volts=5.0, amps=5e-3)
        self.assertEqual(found.suspects[0].ids[0], "none")
        self.assertEqual(found.unmarked, ())

    def test_no_volts_and_no_amps_is_an_open_top_only(self) -> None:
        self.assertEqual(self.ranked(volts=0.0, amps=0.0).suspects[0].ids, ("top_open",))
        self.assertEqual(set(self.ranked(volts=0.0).suspects[0].ids), {"top_open", "bottom_short"})  # one reading: a tie
        self.assertEqual(self.ranked(volts=0.0, amps=10e-3).suspects[0].ids, ("bottom_short",))

    def test_what_is_read_against_is_told(self) -> None:
        """A shorted bottom would draw 10 mA."""
        worst = next(s for s in self.ranked(volts=0.0, amps=0.0).suspects if "bottom_short" in s.ids)
        self.assertEqual(worst.least, (0, "amps", 10e-3))
        self.assertFalse(worst.explains)

    def test_a_coarse_meter_leaves_faults_unmarked(self) -> None:
        mild = (replace(FAULTS[0], low=1.01, high=1.03),)
        self.assertEqual(rank([State(Divider(), {"volts": 5.0})], mild, figures, FLOOR, error=0.05).unmarked, ("top high",))


class Properties(unittest.TestCase):
    """What holds for every dropper."""

    @settings(max_examples=60, deadline=None)
    @given(USUAL)
    def test_what_is_available_is_what_a_clamp_without_slope_takes(self, circuit: d.DropperCircuit) -> None:
        clamped = replace(circuit, clamp_v=circuit.clamp_v or 24.0, clamp_ohm=0.01, load=Load(), smoothing_f=1e-3)
        found = d.steady_state(clamped)
        self.assertAlmostEqual(some(found.clamp_a), some(found.available_a), delta=0.003 * max(some(found.available_a), 1e-3))

    @settings(max_examples=30, deadline=None)
    @given(USUAL, st.floats(1e-3, 0.03))
    def test_what_is_needed_gives_just_that(self, circuit: d.DropperCircuit, amps: float) -> None:
        clamped = replace(circuit, clamp_v=circuit.clamp_v or 24.0)
        needed = d.needed_capacitance(clamped, amps)
        if needed is not None:
            given_a = d.available_current(replace(clamped, capacitance_f=needed))
            self.assertAlmostEqual(some(given_a) / amps, 1, delta=2e-4)

    @settings(max_examples=20, deadline=None)
    @given(logs(200, 5000), st.floats(0.5, 0.8), st.floats(0.2, 0.45), st.floats(0.1, 0.6))
    def test_symptoms_stand_in_order_and_low_mains_asks_for_most(self, ohms: float, pull: float, hold: float, reset: float) -> None:
        relay = Relay(ohms, 24 * pull, 24 * hold, 24 * reset)
        rows = d.symptom_sweep(DOSING, (LoadState("standby", 5e-3), LoadState("relay", 0.03, relay)), relay)
        for row in rows:
            edges = [zone.low_f for zone in row.zones]
            self.assertEqual(edges, sorted(edges))
            self.assertEqual((row.zones[0].says, row.zones[-1].says), ("dead", "holds"))
        whole = [row.zones[-1].low_f for row in rows]
        self.assertEqual(whole, sorted(whole, reverse=True))
        self.assertEqual(d.largest_needed(rows), whole[0] if whole else None)

    @settings(max_examples=25, deadline=None)
    @given(st.floats(0.0, 1.0), st.floats(-1.0, 0.0))
    def test_inrush_grows_with_what_is_left_the_other_way_round(self, more: float, less: float) -> None:
        peak = DOSING.source.peak_v
        charged, empty, helped = (d.switch_on(DOSING, residual_v=v * peak).peak_a for v in (less, 0.0, more))
        self.assertGreaterEqual(charged, empty - 1e-9)
        self.assertLessEqual(helped, empty + 1e-9)

    @settings(max_examples=20, deadline=None)
    @given(st.floats(0.3, 0.95))
    def test_a_lower_capacitance_is_found_again_as_the_fault(self, share: float) -> None:
        loads = (Load(current_a=4e-3), Load(current_a=25e-3, knee_v=8))
        weak = [outside(replace(DOSING, capacitance_f=680e-9 * share, load=load)) for load in loads]
        observed = [d.Observed(load, **loose(seen)) for load, seen in zip(loads, weak, strict=True)]
        best = d.rank_faults(DOSING, observed, error=0.01).suspects[0]
        self.assertIn("capacitance_low", best.ids)

    def test_residual_out_of_range(self) -> None:
        for volts in (math.nan, 1e9):
            with self.assertRaises(InputError) as caught:
                d.switch_on(DOSING, residual_v=volts)
            self.assertEqual(caught.exception.field, "residual_v")
