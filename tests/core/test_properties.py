"""What must hold for any charge, any resistor, any part and any place."""

import math
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.discharge.banks import string_shares
from dusky_heron.core.discharge.bleeders import split
from dusky_heron.core.discharge.falling import METER_LIMIT_V, time_to, voltage_after
from dusky_heron.core.discharge.limits import limits_table, working_limit
from dusky_heron.core.discharge.pins import plug_pins
from dusky_heron.core.discharge.planning import PlannedCharge, plan_charge, planning_voltage
from dusky_heron.core.discharge.search import rank_tools
from dusky_heron.core.discharge.tools import Construction, Resistor, Shape, judge_tool
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Arrangement, Basis, Bleeder, Origin, Part, PartKind, Policy, Position, Role, Surroundings
from dusky_heron.core.selection import need_of, rank
from tests import loose, some

# --- charges and tools --------------------------------------------------------------------------------------------

MARKINGS = st.builds(
    lambda uf, tolerance, volts: f"{uf:g} µF {tolerance} {volts}",
    st.sampled_from([0.1, 0.68, 1, 4.7, 16, 50, 470]),
    st.sampled_from(["±5 %", "±20 %", ""]),
    st.sampled_from(["450 V~", "275 V~", "400 VDC", "630 VDC", "63 VDC"]),
)
RESISTORS = st.builds(
    Resistor,
    resistor_id=st.just("r"),
    name=st.just("r"),
    resistance_ohm=st.floats(1, 1e7),
    tolerance=st.sampled_from([0.01, 0.05, 0.1]),
    rated_w=st.floats(0.25, 200),
    construction=st.sampled_from(list(Construction)),
    working_v=st.floats(100, 2000),
    pulse_j=st.none() | st.floats(0.1, 1000),
)
LIMIT = working_limit(None, 1e-6, 400)


def charge_of(marking: str) -> PlannedCharge:
    charge = plan_charge(read_marking(marking))
    assert charge is not None
    return charge


class Tools(unittest.TestCase):
    """A tool that is allowed keeps every constraint."""

    @given(MARKINGS, RESISTORS)
    def test_an_allowed_tool_breaks_no_constraint(self, marking: str, resistor: Resistor) -> None:
        charge = charge_of(marking)
        tool = judge_tool(Shape.SINGLE, (resistor,), charge, LIMIT)
        if not tool.allowed:
            return
        volts = charge.voltage.voltage_v
        self.assertLessEqual(volts / (resistor.resistance_ohm * (1 - resistor.tolerance)), 1.0)
        self.assertLessEqual(volts, resistor.working_v)
        if volts**2 / resistor.low_ohm <= resistor.rated_w:
            return  # it stands the volts for good
        self.assertLessEqual(some(0.5 * charge.highest_f * volts**2), some(tool.shares[0].pulse_limit_j))
        if resistor.pulse_j is None:
            self.assertGreaterEqual(resistor.resistance_ohm * charge.nominal_f, 0.05)
            self.assertLessEqual(some(tool.shares[0].pulse_limit_j), 20 * resistor.rated_w)

    @given(MARKINGS, RESISTORS)
    def test_worst_is_never_faster_than_nominal_and_lower_targets_take_longer(self, marking: str, resistor: Resistor) -> None:
        working, meter, hands = judge_tool(Shape.SINGLE, (resistor,), charge_of(marking), LIMIT).times
        for time in (working, meter, hands):
            self.assertGreaterEqual(time.worst_s, time.nominal_s)
        self.assertGreaterEqual(meter.nominal_s, working.nominal_s)
        self.assertEqual(meter.target_v, METER_LIMIT_V)

    @given(MARKINGS, st.lists(RESISTORS, max_size=6))
    def test_ranking_loses_none_and_puts_the_refused_last(self, marking: str, resistors: list[Resistor]) -> None:
        ranked = rank_tools(tuple(resistors), charge_of(marking), LIMIT)
        self.assertEqual(len([tool for tool in ranked if tool.shape == Shape.SINGLE]), len(resistors))
        self.assertTrue(all(tool.allowed for tool in ranked if tool.shape != Shape.SINGLE))
        allowed = [tool.allowed for tool in ranked]
        self.assertEqual(allowed, sorted(allowed, reverse=True))
        times = [tool.times[-1].worst_s for tool in ranked if tool.allowed]
        self.assertEqual(times, sorted(times))

    @given(MARKINGS, RESISTORS)
    def test_if_it_is_live_the_resistor_takes_volts_squared_over_ohms(self, marking: str, resistor: Resistor) -> None:
        charge = charge_of(marking)
        tool = judge_tool(Shape.SINGLE, (resistor,), charge, LIMIT)
        self.assertAlmostEqual(tool.live_w * resistor.low_ohm / charge.voltage.voltage_v**2, 1)
        self.assertEqual(tool.live_seconds is None, tool.live_w <= resistor.rated_w)


class Planning(unittest.TestCase):
    """The planned voltage is never below what the part or the circuit can hold."""

    @given(
        MARKINGS,
        st.sampled_from([Role.X, Role.MOTOR_RUN, Role.RESERVOIR, None]),
        st.none() | st.sampled_from([110.0, 230.0, 400.0]),
    )
    def test_never_below_the_dc_rating_nor_the_mains_peak(self, marking: str, role: Role | None, supply: float | None) -> None:
        read = read_marking(marking)
        charge = plan_charge(read, role=role, supply_v=supply)
        self.assertIsNotNone(charge)
        self.assertGreaterEqual(some(charge).voltage.voltage_v, read.rated_dc_v or 0)
        if supply and role in (Role.X, Role.MOTOR_RUN):
            self.assertGreaterEqual(some(charge).voltage.voltage_v, supply * math.sqrt(2) * 1.10 * (1 - 1e-9))
        if role == Role.MOTOR_RUN and read.rated_ac_v:
            self.assertGreaterEqual(some(charge).voltage.voltage_v, read.rated_ac_v * math.sqrt(2) * (1 - 1e-9))
        self.assertGreaterEqual(some(charge).highest_f, some(charge).nominal_f)


# --- parts and places ---------------------------------------------------------------------------------------------

MOTOR_PARTS = st.builds(
    lambda uf, volts, operating, protection, upper: f"{uf:g} µF ±5 % {volts} V~ {operating} {protection} 25/0{upper}/21",
    st.sampled_from([8, 15, 15.5, 16, 16.5, 17, 20]),
    st.sampled_from([250, 400, 450, 500]),
    st.sampled_from(["cl. A", "cl. B", "cl. C", "cl. D"]),
    st.sampled_from(["P0", "P1", "P2", "S3"]),
    st.sampled_from([70, 85]),
)
X_PARTS = st.builds(
    lambda uf, name, volts: f"{uf:g} µF K {name} {volts}",
    st.sampled_from([0.47, 0.68, 0.9, 1, 1.2, 1.5, 2.2]),
    st.sampled_from(["X1", "X2", "X3", "Y1", "Y2", "Y3", "X1Y2", ""]),
    st.sampled_from(["220 V~", "275 V~", "305 V~", "310 V~", "440 V~", "630 VDC"]),
)
KINDS = st.sampled_from(list(PartKind))
HOURS = {"A": 30_000, "B": 10_000, "C": 3_000, "D": 1_000}
RANK = {"P0": 0, "P1": 1, "P2": 2, "S3": 2}
ANY_X = {"X1", "X2", "Y1", "Y2"}


class Parts(unittest.TestCase):
    """No accepted part ever violates a hard rule, whatever the policy."""

    @settings(max_examples=300)
    @given(MOTOR_PARTS, MOTOR_PARTS, KINDS, st.sampled_from(list(Origin)), st.booleans())
    def test_an_accepted_motor_part_is_nowhere_below_the_old_one(
        self, old: str, new: str, kind: PartKind, origin: Origin, salvage: bool
    ) -> None:
        place = Position("C1", Role.MOTOR_RUN, read_marking(old), 230, 50)
        part = Part("p", kind, read_marking(new), origin=origin)
        policy = Policy(salvaged_roles=frozenset({Role.MOTOR_RUN} if salvage else ()))
        if not rank(need_of(place), [part], policy).accepted:
            return
        was, now = place.marking, part.marking
        self.assertEqual(kind, PartKind.MOTOR_RUN)
        self.assertTrue(salvage or origin != Origin.SALVAGED)
        self.assertLessEqual(abs(now.capacitance_f / was.capacitance_f - 1), 0.05 + 1e-9)
        self.assertGreaterEqual(some(now.rated_ac_v), max(some(was.rated_ac_v), 230))
        self.assertGreaterEqual(HOURS[some(now.duty).pairs[0][0]], HOURS[some(was.duty).pairs[0][0]])
        self.assertGreaterEqual(RANK[some(some(now.duty).protection_class)], RANK[some(some(was.duty).protection_class)])
        self.assertGreaterEqual(some(now.climate).upper_c, some(was.climate).upper_c)

    @settings(max_examples=300)
    @given(X_PARTS, KINDS)
    def test_an_accepted_x_part_has_a_class_and_its_volts(self, new: str, kind: PartKind) -> None:
        place = Position("CX1", Role.X, read_marking("1 µF K X2 305 V~"), 230, 50)
        if not rank(need_of(place), [Part("p", kind, read_marking(new))]).accepted:
            return
        now = read_marking(new)
        relied = [c for c in now.classes if c.name in ANY_X]
        self.assertTrue(relied)
        self.assertTrue(any((c.rated_ac_v or 0) >= 305 for c in relied))
        self.assertTrue(0.9e-6 * (1 - 1e-9) <= now.capacitance_f <= 1.5e-6 * (1 + 1e-9))

    @given(MOTOR_PARTS)
    def test_the_same_part_new_always_takes_its_own_place(self, marking: str) -> None:
        place = Position("C1", Role.MOTOR_RUN, read_marking(marking), 230, 50)
        answer = rank(need_of(place), [Part("p", PartKind.MOTOR_RUN, read_marking(marking))])
        self.assertEqual(len(answer.accepted), 1)
        self.assertEqual(answer.accepted[0].adaptations, ())

    @given(st.lists(st.one_of(MOTOR_PARTS, X_PARTS), max_size=8), st.sampled_from([Role.MOTOR_RUN, Role.X]))
    def test_every_part_is_answered_once_and_every_refusal_has_a_sentence(self, drawer: list[str], role: Role) -> None:
        place = Position("C1", role, read_marking("1 µF K X2 305 V~" if role == Role.X else "16 µF ±5 % 450 V~"), 230, 50)
        parts = [Part(str(n), PartKind.MOTOR_RUN, read_marking(text)) for n, text in enumerate(drawer)]
        answer = rank(need_of(place), parts)
        answered = [c.part.part_id for c in answer.accepted] + [r.part.part_id for r in answer.rejected]
        self.assertEqual(sorted(answered), sorted(p.part_id for p in parts))
        for rejected in answer.rejected:
            for refusal in rejected.reasons:
                self.assertTrue(refusal.sentence.endswith("."))
                self.assertTrue(refusal.rule_id and refusal.source)
        scores = [c.score for c in answer.accepted]
        self.assertEqual(scores, sorted(scores))


# --- banks, strings and what feeds them ------------------------------------------------------------------------------

CANS = st.sampled_from(["470 µF M 400 VDC", "1000 µF 63 VDC", "33 µF -10/+50 % 450 VDC", "2200 µF 100 VDC"])
BASES = st.sampled_from([b for b in Basis if b not in (Basis.BY_HAND, Basis.TRANSFORMER)])


class Banks(unittest.TestCase):
    """Connecting parts neither makes nor loses energy."""

    @given(CANS, st.integers(2, 12), st.floats(20, 900))
    def test_a_bank_holds_what_its_parts_hold_and_a_string_what_one_of_them_may_have_alone(
        self, text: str, count: int, volts: float
    ) -> None:
        marking = read_marking(text)
        by_hand = {"basis": Basis.BY_HAND, "volts": volts, "confirmed": True, "count": count}
        bank = plan_charge(marking, surroundings=Surroundings(arrangement=Arrangement.PARALLEL, **loose(by_hand)))
        string = plan_charge(marking, surroundings=Surroundings(arrangement=Arrangement.SERIES, **loose(by_hand)))
        one = 0.5 * marking.highest_f * volts**2
        self.assertAlmostEqual(some(bank).hazard.energy_j / (count * one), 1)
        self.assertAlmostEqual(some(string).hazard.energy_j / one, 1)  # one of them alone at the whole voltage
        self.assertEqual(some(string).each_v, volts)

    @given(CANS, st.integers(2, 6), st.floats(100, 900), st.booleans())
    def test_what_a_short_leaves_is_never_more_than_the_worst_share(
        self, text: str, count: int, volts: float, balanced: bool
    ) -> None:
        around = Surroundings(
            basis=Basis.BY_HAND, volts=volts, confirmed=True, arrangement=Arrangement.SERIES, count=count,
            balancing_ohm=47e3 if balanced else None,
        )  # fmt: skip
        marking = read_marking(text)
        shares = string_shares(marking, around, some(plan_charge(marking, surroundings=around)))
        self.assertLess(some(shares).residue_v, volts)
        self.assertGreaterEqual(some(shares).residue_v, 0)
        self.assertGreaterEqual(some(shares).worst_v, some(shares).nominal_v * (1 - 1e-9))

    @given(CANS, BASES, st.sampled_from([110.0, 230.0, 400.0]))
    def test_only_a_confirmed_circuit_goes_below_the_rating(self, text: str, basis: Basis, supply: float) -> None:
        marking = read_marking(text)
        plans = [
            planning_voltage(marking, supply_v=supply, surroundings=Surroundings(basis=basis, confirmed=confirmed))
            for confirmed in (False, True)
        ]
        self.assertGreaterEqual(some(some(plans[0]).voltage_v), some(marking.rated_dc_v))
        self.assertGreaterEqual(some(plans[0]).voltage_v, some(plans[1]).voltage_v)
        self.assertTrue(some(plans[0]).rests_on)


class Falling(unittest.TestCase):
    """Time and voltage are two sides of one fall; a bleeder never leaves more than none."""

    @given(st.floats(1e-9, 1), st.floats(1, 1e7), st.floats(10, 3000), st.floats(0.01, 0.9))
    def test_after_the_time_to_a_voltage_that_voltage_is_left(self, farads: float, ohms: float, volts: float, part: float) -> None:
        seconds = time_to(farads, ohms, volts, volts * part)
        self.assertAlmostEqual(voltage_after(farads, ohms, volts, seconds) / (volts * part), 1, places=6)

    @given(st.floats(0.11e-6, 1e-4), st.floats(1e3, 1e7), st.sampled_from([110.0, 230.0, 400.0]))
    def test_plug_pins_fall_with_time_and_a_bleeder_only_helps(self, farads: float, ohms: float, supply: float) -> None:
        rows = [row for row in limits_table() if row.place == "plug_pins"]
        bled, bare = plug_pins(farads, ohms, supply, rows), plug_pins(farads, None, supply, rows)
        left = [pin.rated_v for pin in bled.voltages]
        self.assertEqual(left, sorted(left, reverse=True))
        for with_one, without in zip(bled.voltages, bare.voltages, strict=True):
            self.assertLessEqual(with_one.planned_v, without.planned_v * 1.0001)
            self.assertAlmostEqual(with_one.planned_v, with_one.rated_v * 1.10)
        met = {check.row.id for check in bare.checks if check.meets}
        self.assertLessEqual(met, {check.row.id for check in bled.checks if check.meets})

    @given(st.integers(1, 20), st.floats(1e3, 1e6), st.floats(10, 1000))
    def test_the_resistors_of_a_bleeder_share_no_less_than_evenly(self, count: int, ohms: float, volts: float) -> None:
        shared = split(Bleeder(ohms, count), volts)
        self.assertGreaterEqual(shared.each_v, volts / count * (1 - 1e-9))
        self.assertLessEqual(shared.each_v, volts * (1 + 1e-9))  # a float rounds either way
        if count > 1:
            self.assertGreater(some(shared.one_short_v), volts / count)
