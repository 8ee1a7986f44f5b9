"""Droppers and supplies: published formulas, balances of charge and power, and what must hold for any circuit."""

import math
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit import dropper as d
from dusky_heron.core.circuit import rectifier as r
from dusky_heron.core.circuit.dropper.modes import engine_circuit
from dusky_heron.core.circuit.growing import find_rectifier, held_against, source_resistance
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import LoadState
from tests import loose, some

DOSING = d.DropperCircuit("bridge", 230, 50, 680e-9, 100, 470e3, 470e-6, 24, 5, 0.7, Load(current_a=8e-3))
ORGAN = r.ReservoirCircuit("full_wave", 300, 50, 150, 32e-6, 20, Load(resistance_ohm=4700))


def logs(low: float, high: float) -> st.SearchStrategy[float]:
    return st.floats(math.log(low), math.log(high)).map(math.exp)


def loads(*, current: float, power: float, ohms: tuple[float, float]) -> st.SearchStrategy[Load]:
    return st.builds(
        Load, st.none() | logs(*ohms), st.just(0.0) | logs(current / 30, current), st.just(0.0) | logs(power / 30, power)
    )


USUAL = st.builds(
    d.DropperCircuit, st.sampled_from(d.TOPOLOGIES), st.floats(100, 240), st.sampled_from([50.0, 60.0]), logs(100e-9, 3.3e-6),
    logs(10, 1000), st.none() | logs(100e3, 2e6), logs(47e-6, 1e-3), st.sampled_from([None, 5.1, 12.0, 24.0, 48.0]), logs(1, 30),
    st.sampled_from([0.0, 0.7]), loads(current=0.05, power=1, ohms=(200, 20e3)),
)  # fmt: skip
ABSURD = st.builds(
    d.DropperCircuit, st.sampled_from(d.TOPOLOGIES), logs(1e-3, 1e5), logs(1e-2, 1e5), logs(1e-14, 1), logs(0.01, 1e9),
    st.none() | logs(0.01, 1e12), logs(1e-14, 1), st.none() | st.just(0.0) | logs(1e-3, 1e5), logs(0.01, 1e9), logs(1e-3, 1e3),
    loads(current=1e5, power=1e8, ohms=(0.01, 1e12)),
)  # fmt: skip
SUPPLIES = st.builds(
    r.ReservoirCircuit, st.sampled_from(r.TOPOLOGIES), st.floats(6, 500), st.sampled_from([50.0, 60.0]), logs(0.1, 500),
    logs(1e-6, 1e-2), st.sampled_from([0.0, 0.7, 20.0]), loads(current=0.3, power=50, ohms=(100, 1e5)),
)  # fmt: skip

TREMBLING = (
    d.DropperCircuit(
        "bridge", 1.8666546260202779, 0.013658867429603441, 4.1305715276698754e-14, 0.016091434145310824, None,
        0.11923342578505741, 0.0, 68335.24218052079, 0.0012594776305852355, Load(current_a=5414.412205164811),
    ),
    d.DropperCircuit(
        "bridge", 23.0506562835773, 165.91777100121695, 4.718963461726486e-10, 0.02868706791753909, 306982564.9329721,
        4.69943467347484e-13, 26.587176692538108, 1.8636969845535012, 0.040389827597563176, Load(current_a=75807.60155451293),
    ),
)  # fmt: skip


class Droppers(unittest.TestCase):
    """A capacitor in series with the mains sets the current."""

    def test_clamp_currents_follow_the_charge_moved_each_cycle(self) -> None:
        """4·f·C·(V̂ − Vo − 2Vf) = 40.8 mA, f·C·(2V̂ − Vo − 2Vf) = 21.3 mA, f·C·(2V̂ − Vz − Vf) = 21.3 mA; 1 Ω in series."""
        peak = math.sqrt(2) * 230
        for topology, charge in (
            ("bridge", 4 * (peak - 24 - 1.4)), ("half_wave", 2 * peak - 24 - 1.4), ("half_wave_shunt", 2 * peak - 24 - 0.7),
        ):  # fmt: skip
            found = d.steady_state(replace(DOSING, topology=topology, series_ohm=1, clamp_ohm=0.01, bleed_ohm=None, load=Load()))
            self.assertAlmostEqual(found.clamp_a / (50 * 680e-9 * charge), 1, delta=0.002)
            self.assertAlmostEqual(some(found.available_a), some(found.clamp_a), delta=1e-4)

    def test_a_low_power_factor_is_normal(self) -> None:
        """680 nF on 230 V takes 49 mA, 11 VA, for a watt and a half."""
        found = d.steady_state(DOSING)
        self.assertAlmostEqual(found.input_a * 1000, 48.1, delta=0.5)
        self.assertTrue(0.1 < found.power_factor < 0.15)
        self.assertTrue(found.in_regulation)

    def test_the_zener_is_hottest_at_standby_and_highest_mains(self) -> None:
        states = [replace(DOSING, supply_v=230 * k, load=Load(current_a=a)) for k in (0.9, 1.1) for a in (34e-3, 8e-3)]
        watts = [d.steady_state(state).clamp_w for state in states]
        self.assertEqual(max(watts), watts[-1])
        self.assertAlmostEqual(watts[-1] / (24 * (some(d.steady_state(states[-1]).available_a) - 8e-3)), 1, delta=0.02)

    @settings(max_examples=100)
    @given(USUAL)
    @example(
        d.DropperCircuit("half_wave", 100, 50, math.exp(-13.5), math.exp(2.5), None, math.exp(-9), None, 1, 0, Load())
    )  # at rest
    def test_powers_balance_and_the_state_comes_back(self, circuit: d.DropperCircuit) -> None:
        found = d.steady_state(circuit)
        lost = found.clamp_w + found.series_w + found.bleed_w + found.diode_w + found.load_w
        self.assertLess(abs(found.input_w - lost), 1e-3 * max(lost, 1e-3 * found.apparent_va))
        if circuit.load.power_w:
            return  # a transient takes constant power as a resistor, cycle by cycle
        again = d.switch_load(circuit, circuit.load, circuit.load, 1 / circuit.supply_hz)
        self.assertAlmostEqual(again.v[-1], again.v[0], delta=1e-6 * max(again.v[0], 1.0))

    @settings(max_examples=200)
    @given(USUAL | ABSURD)
    @example(
        d.DropperCircuit("half_wave_shunt", math.exp(-5), 1, 1, 1, None, 1, 0, 1, math.exp(4), Load())
    )  # 55 V of diode on 7 mV
    def test_the_charge_of_each_capacitor_comes_back_after_a_cycle(self, circuit: d.DropperCircuit) -> None:
        """What flows in flows out again: to 1e-6 of the charge at the highest voltage in the circuit."""
        circuit = replace(circuit, load=replace(circuit.load, power_w=0.0))
        try:
            before = d.settled_state(circuit)
            engine = engine_circuit(circuit, 1.0)
            after = engine.end(engine.run(before, 0.0, circuit.source.period))
        except InputError:  # the contract: an answer or a sentence
            return
        highest = max(circuit.source.peak_v, circuit.diode_v) + max(map(abs, before))
        for one, other in zip(before, after, strict=True):
            self.assertLess(abs(one - other), 1e-6 * highest)

    def test_what_trembles_on_the_edge_of_two_modes_is_followed(self) -> None:
        """Bridges of picofarads whose time constants lie under the digits of the time itself: no switching for ever."""
        for circuit in TREMBLING:
            engine = engine_circuit(circuit, 1.0)
            run = engine.run(d.settled_state(circuit), 0.0, circuit.source.period)
            self.assertLess(len(run), 400)

    @settings(max_examples=200)
    @given(ABSURD)
    def test_any_values_give_an_answer_or_a_sentence(self, circuit: d.DropperCircuit) -> None:
        try:
            found = d.steady_state(circuit)
        except InputError as error:
            self.assertTrue(error.sentence)
        else:
            self.assertTrue(math.isfinite(found.output_v) and math.isfinite(found.input_a))

    @settings(max_examples=60)
    @given(USUAL, st.floats(1.05, 3))
    def test_more_capacitance_never_lowers_the_rail(self, circuit: d.DropperCircuit, more: float) -> None:
        assume(not circuit.load.power_w)
        larger = replace(circuit, capacitance_f=circuit.capacitance_f * more)
        self.assertGreaterEqual(d.steady_state(larger).output_v, d.steady_state(circuit).output_v * (1 - 1e-6))

    def test_inrush_at_the_peak_empty_and_re_plugged(self) -> None:
        """V̂/R = 325.3/100 = 3.25 A less what the diodes take; about twice that with V̂ left the other way round."""
        peak = math.sqrt(2) * 230
        self.assertAlmostEqual(d.switch_on(DOSING).peak_a, (peak - 1.4) / 100, places=6)
        again = d.switch_on(DOSING, residual_v=-peak)
        self.assertAlmostEqual(again.peak_a, (2 * peak - 1.4) / 100, places=6)
        energy = 0.5 * 680e-9 * (2 * peak) ** 2  # about what the resistor turns into heat: I²t·R
        self.assertAlmostEqual(again.i2t_a2s * 100 / energy, 1, delta=0.05)

    def test_a_relay_pulls_in_from_the_smoothing_and_lets_go(self) -> None:
        """480 nF at 207 V give 25.7 mA: standby is clamped, the valve's 34 mA drag the rail away within a second."""
        weak = replace(DOSING, capacitance_f=480e-9, supply_v=207)
        fall = d.switch_load(weak, Load(current_a=8e-3), Load(resistance_ohm=24 / 26e-3, current_a=8e-3), 1.0)
        self.assertGreater(fall.v[0], 23.9)
        self.assertLess(fall.v[-1], 19)
        self.assertAlmostEqual(fall.t_s[-1], 1.0, delta=1e-3)


class Backwards(unittest.TestCase):
    """From a rail to the capacitance that explains it."""

    @settings(max_examples=15)
    @given(st.sampled_from(d.TOPOLOGIES), logs(150e-9, 2.2e-6), logs(500, 5e3), st.floats(100, 240))
    def test_it_returns_what_was_put_in(self, topology: str, farads: float, ohms: float, volts: float) -> None:
        circuit = replace(DOSING, topology=topology, capacitance_f=farads, supply_v=volts, clamp_v=None, load=Load(ohms))
        rail = d.steady_state(circuit).output_v
        found = d.infer_capacitance(replace(circuit, capacitance_f=1e-6), rail, error_v=0.02 * rail)
        self.assertTrue(found.determinable)
        self.assertAlmostEqual(some(found.capacitance_f) / farads, 1, delta=0.01)
        self.assertTrue(found.low_f < farads < some(found.high_f))

    def test_a_clamped_rail_tells_a_lower_bound_only(self) -> None:
        found = d.infer_capacitance(DOSING, 24.1, error_v=0.1)
        self.assertEqual((found.capacitance_f, found.high_f, found.determinable), (None, None, False))
        self.assertTrue(100e-9 < found.low_f < 160e-9)  # 8 mA at 24 V need 131 nF

    def test_a_rail_nothing_explains_is_refused(self) -> None:
        with self.assertRaises(InputError) as caught:
            d.infer_capacitance(replace(DOSING, clamp_v=None, load=Load(1000)), 5000)
        self.assertEqual(caught.exception.field, "output_v")


class Supplies(unittest.TestCase):
    """Transformer-fed rectifiers with their reservoir."""

    def test_ripple_is_near_what_a_load_takes_between_two_peaks(self) -> None:
        """I/(2f·C) at most: 100 mA, 32 µF, 100 Hz: 31 V; the reservoir is charged for a part of that time."""
        found = r.steady_state(replace(ORGAN, load=Load(current_a=0.1)))
        self.assertTrue(0.6 * 31.25 < found.ripple_v < 31.25)

    def test_a_light_load_leaves_the_peak(self) -> None:
        for topology, volts in (("half_wave", 424.3 - 20), ("full_wave", 424.3 - 20), ("bridge", 424.3 - 40), ("doubler", 808.5)):
            found = r.steady_state(replace(ORGAN, topology=topology, load=Load(10e6)))
            self.assertAlmostEqual(found.output_v / volts, 1, delta=0.004)

    def test_a_larger_reservoir_costs_peak_current_and_surge(self) -> None:
        """32 to 100 µF on 150 Ω: the first peak stays (V̂ − Vd)/Rs = 2.7 A, its I²t grows with the charge."""
        small, large = ORGAN, replace(ORGAN, reservoir_f=100e-6)
        self.assertGreater(r.steady_state(large).peak_diode_a, r.steady_state(small).peak_diode_a)
        for circuit in (small, large):
            self.assertAlmostEqual(r.switch_on(circuit).peak_a, (300 * math.sqrt(2) - 20) / 150, places=6)
        self.assertGreater(r.switch_on(large).i2t_a2s, 1.8 * r.switch_on(small).i2t_a2s)

    @settings(max_examples=120)
    @given(SUPPLIES)
    def test_what_the_diodes_bring_the_load_takes(self, circuit: r.ReservoirCircuit) -> None:
        found = r.steady_state(circuit)
        self.assertTrue(found.valley_v <= found.output_v + 1e-9 <= found.valley_v + found.ripple_v + 2e-9)
        self.assertLessEqual(found.output_v, (2 if circuit.topology == "doubler" else 1) * math.sqrt(2) * circuit.secondary_v)
        self.assertLessEqual(found.rms_diode_a, found.peak_diode_a + 1e-12)


class BadInput(unittest.TestCase):
    """Each field out of its range is named."""

    def test_fields(self) -> None:
        for circuit, changes, solve in (
            (DOSING, ("topology", "supply_v", "supply_hz", "capacitance_f", "series_ohm", "bleed_ohm", "smoothing_f", "clamp_v",
                      "clamp_ohm", "diode_v"), d.steady_state),
            (ORGAN, ("topology", "secondary_v", "supply_hz", "source_ohm", "reservoir_f", "diode_v"), r.steady_state),
        ):  # fmt: skip
            for field in changes:
                for value in (-1.0, math.nan, math.inf):
                    spoilt: Any = replace(circuit, **loose({field: "ring" if field == "topology" else value}))
                    with self.subTest(field), self.assertRaises(InputError) as caught:
                        solve(spoilt)
                    self.assertEqual(caught.exception.field, field)
        for load in (Load(resistance_ohm=0), Load(current_a=-1), Load(power_w=math.nan), Load(knee_v=0)):
            with self.assertRaises(InputError) as caught:
                d.steady_state(replace(DOSING, load=load))
            self.assertEqual(caught.exception.field, "load")


class Symptoms(unittest.TestCase):
    """Falling capacitance, rising symptoms."""

    STATES = (LoadState("standby", 8e-3), LoadState("valve on", 34e-3))

    def test_needed_capacitance_is_that_of_the_charge_balance(self) -> None:
        """34 mA at 207 V through a bridge into 24 V: 34 mA/(4 · 50 Hz · 267.3 V) = 636 nF; 100 Ω ask for more."""
        for volts, milliamps in ((207, 34), (230, 34), (253, 8)):
            circuit = replace(DOSING, supply_v=volts)
            ideal = milliamps / 1000 / (4 * 50 * (math.sqrt(2) * volts - 24 - 1.4))
            self.assertAlmostEqual(some(d.needed_capacitance(circuit, milliamps / 1000)) / ideal, 1, delta=0.01)

    def test_each_state_begins_to_fail_where_its_current_is_no_longer_there(self) -> None:
        for row in d.symptom_sweep(DOSING, self.STATES):
            self.assertEqual([zone.says for zone in row.zones], ["dead", "dim", "valve on lets go", "holds"])
            for zone, below in zip(row.zones[1:], row.zones, strict=False):
                self.assertEqual(zone.low_f, below.high_f)
            edge = row.zones[-1].low_f
            for share, holds in ((0.97, False), (1.03, True)):
                at = replace(DOSING, supply_v=row.supply_v, capacitance_f=edge * share, load=Load(current_a=34e-3))
                self.assertEqual(d.steady_state(at).in_regulation, holds)
        edges = [row.zones[-1].low_f for row in d.symptom_sweep(DOSING, self.STATES)]
        self.assertEqual(edges, sorted(edges, reverse=True))  # low mains asks for most

    def test_a_clamp_above_the_mains_is_never_reached(self) -> None:
        self.assertIsNone(d.needed_capacitance(replace(DOSING, clamp_v=400), 1e-3))


class Growing(unittest.TestCase):
    """Whether a rectifier stands a larger reservoir."""

    def test_a_valve_has_a_largest_reservoir(self) -> None:
        """GZ34: 60 µF. 32 µF stand in it, 60 do, 100 do not; a 5Y3-GT stands 20."""
        for farads, rectifier_id, holds in (
            (32e-6, "valve_gz34", True), (60e-6, "valve_gz34", True), (100e-6, "valve_gz34", False), (32e-6, "valve_5y3gt", False),
        ):  # fmt: skip
            (held,) = held_against(replace(ORGAN, reservoir_f=farads), find_rectifier(rectifier_id))
            self.assertEqual(held.holds, holds, held.sentence)
        (refused,) = held_against(replace(ORGAN, reservoir_f=100e-6), find_rectifier("valve_gz34"))
        self.assertIn("100 µF is more than the 60 µF a valve GZ34 allows", refused.sentence)

    def test_silicon_has_a_surge(self) -> None:
        """(424 − 0.7) V over 10 Ω is 42 A at the first instant: more than the 30 A of a small diode, within 100 A."""
        stiff = replace(ORGAN, source_ohm=10, diode_v=0.7, reservoir_f=470e-6)
        self.assertFalse(held_against(stiff, find_rectifier("silicon_1a"))[0].holds)
        self.assertTrue(held_against(stiff, find_rectifier("silicon_3a"))[0].holds)

    def test_what_is_not_known_is_said(self) -> None:
        (held,) = held_against(ORGAN, find_rectifier("other"))
        self.assertIsNone(held.holds)  # not known is not allowed
        self.assertIn("data sheet", held.sentence)
        with self.assertRaises(InputError):
            find_rectifier("ring")

    def test_source_resistance_is_referred_by_the_square_of_the_turns(self) -> None:
        self.assertAlmostEqual(source_resistance(85, 20, 300 / 230), 85 + 20 * 1.7013, places=2)
