"""What must hold for any charge, any resistor, any part and any place."""

import math
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.discharge.falling import METER_LIMIT_V
from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.search import rank_tools
from dusky_heron.core.discharge.tools import Construction, Resistor, Shape, judge_tool
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Origin, Part, PartKind, Policy, Position, Role
from dusky_heron.core.planning import PlannedCharge, plan_charge
from dusky_heron.core.selection import need_of, rank

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
        self.assertLessEqual(0.5 * charge.highest_f * volts**2, tool.shares[0].pulse_limit_j)
        if resistor.pulse_j is None:
            self.assertGreaterEqual(resistor.resistance_ohm * charge.nominal_f, 0.05)
            self.assertLessEqual(tool.shares[0].pulse_limit_j, 20 * resistor.rated_w)

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
        self.assertAlmostEqual(tool.live_w * resistor.resistance_ohm / charge.voltage.voltage_v**2, 1)
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
        self.assertGreaterEqual(charge.voltage.voltage_v, read.rated_dc_v or 0)
        if supply and role in (Role.X, Role.MOTOR_RUN):
            self.assertGreaterEqual(charge.voltage.voltage_v, supply * math.sqrt(2) * 1.10 * (1 - 1e-9))
        if role == Role.MOTOR_RUN and read.rated_ac_v:
            self.assertGreaterEqual(charge.voltage.voltage_v, read.rated_ac_v * math.sqrt(2) * (1 - 1e-9))
        self.assertGreaterEqual(charge.highest_f, charge.nominal_f)


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
        self.assertGreaterEqual(now.rated_ac_v, max(was.rated_ac_v, 230))
        self.assertGreaterEqual(HOURS[now.duty.pairs[0][0]], HOURS[was.duty.pairs[0][0]])
        self.assertGreaterEqual(RANK[now.duty.protection_class], RANK[was.duty.protection_class])
        self.assertGreaterEqual(now.climate.upper_c, was.climate.upper_c)

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
