"""The tool picker: it never breaks a constraint, and finds the fastest combination that keeps them all."""

import itertools
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.planning import PlannedCharge, plan_charge
from dusky_heron.core.discharge.search import fastest, rank_tools, recommended
from dusky_heron.core.discharge.tools import Construction, Resistor, Shape, judge_tool, resistance_of
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Role
from tests import some

RESISTORS = st.lists(
    st.builds(
        Resistor,
        resistor_id=st.integers().map(str),
        name=st.just("r"),
        resistance_ohm=st.sampled_from([47.0, 100.0, 220.0, 360.0, 470.0, 1000.0, 2200.0, 4700.0, 22e3, 1e5]),
        tolerance=st.sampled_from([0.01, 0.05, 0.1]),
        rated_w=st.sampled_from([2.0, 5.0, 10.0, 25.0, 50.0]),
        construction=st.sampled_from(list(Construction)),
        working_v=st.sampled_from([200.0, 350.0, 500.0, 1000.0]),
        pulse_j=st.none() | st.sampled_from([5.0, 50.0, 400.0]),
    ),
    min_size=2,
    max_size=6,
).map(tuple)
CHARGES = st.sampled_from(["3600 µF 360 V", "16 µF ±5 % 450 V~", "1000 µF 63 V", "100 µF 400 VDC", "1 µF X2 305~"]).map(
    lambda text: plan_charge(read_marking(text))
)
COMBINED = (Shape.SERIES, Shape.PARALLEL, Shape.SERIES_PAIRS, Shape.PARALLEL_PAIRS)
LIMIT = working_limit(None, 1e-3, 360)


def every(shape: Shape, resistors: tuple[Resistor, ...]) -> list[tuple[Resistor, ...]]:
    """Every combination of a shape, by brute force."""
    if shape in (Shape.SERIES, Shape.PARALLEL):
        return [c for size in (2, 3, 4) for c in itertools.combinations(resistors, size)]
    return [
        (*pair, *other)
        for pair in itertools.combinations(resistors, 2)
        for other in itertools.combinations([r for r in resistors if r not in pair], 2)
    ]


class Picker(unittest.TestCase):
    """Against brute force, and against the constraints worked out again from Ohm's law."""

    @given(RESISTORS, CHARGES, st.sampled_from(COMBINED))
    @settings(max_examples=300)
    def test_it_finds_the_fastest_that_keeps_every_constraint(
        self, resistors: tuple[Resistor, ...], charge: PlannedCharge, shape: Shape
    ) -> None:
        resistors = tuple({r.resistor_id: r for r in resistors}.values())
        allowed = [c for c in every(shape, resistors) if judge_tool(shape, c, charge, LIMIT).allowed]
        found = fastest(shape, resistors, charge)
        self.assertEqual(found is None, not allowed)
        if found:
            best = min(resistance_of(shape, c)[2] for c in allowed)
            self.assertAlmostEqual(resistance_of(shape, found)[2] / best, 1)

    @given(RESISTORS, CHARGES)
    def test_what_is_offered_breaks_no_constraint(self, resistors: tuple[Resistor, ...], charge: PlannedCharge) -> None:
        volts, energy = charge.each_v, 0.5 * charge.highest_f * charge.each_v**2
        for tool in rank_tools(resistors, charge, LIMIT):
            if not tool.allowed:
                continue
            self.assertLessEqual(volts / tool.resistance_ohm, 1.0)
            ohms = [share.resistor.resistance_ohm for share in tool.shares]
            for share, (voltage, part) in zip(tool.shares, self.nominal(tool.shape, ohms), strict=True):
                self.assertLessEqual(voltage * volts, share.resistor.working_v * (1 + 1e-9))
                good = (
                    len(tool.shares) == 1 and volts**2 / share.resistor.low_ohm <= share.resistor.rated_w
                )  # it stands it for good
                if not good:
                    self.assertLessEqual(part * energy, some(share.pulse_limit_j) * (1 + 1e-9))
                self.assertGreaterEqual(share.energy_j, part * energy * (1 - 1e-9))  # the worst share is no less
            self.assertAlmostEqual(sum(part for _, part in self.nominal(tool.shape, ohms)), 1)  # all of the energy goes somewhere

    def nominal(self, shape: Shape, ohms: list[float]) -> list[tuple[float, float]]:
        """Shares of voltage and of energy from the current and voltage of each, at nominal values and 1 V."""
        if shape in (Shape.SINGLE, Shape.SERIES):
            volts = [ohm / sum(ohms) for ohm in ohms]
        elif shape == Shape.PARALLEL:
            volts = [1.0] * len(ohms)
        elif shape == Shape.SERIES_PAIRS:
            volts = [ohm / sum(pair) for pair in (ohms[:2], ohms[2:]) for ohm in pair]
        else:
            both = [1 / (1 / a + 1 / b) for a, b in (ohms[:2], ohms[2:])]
            volts = [both[k // 2] / sum(both) for k in range(4)]
        watts = [v * v / ohm for v, ohm in zip(volts, ohms, strict=True)]
        return [(v, w / sum(watts)) for v, w in zip(volts, watts, strict=True)]

    def test_two_in_series_do_what_one_cannot(self) -> None:
        """16 µF at 636 V through resistors made for 500 V: alone refused, two in series share 334 V at worst."""
        charge = plan_charge(read_marking("16 µF ±5 % 450 V~"), role=Role.MOTOR_RUN, supply_v=230)
        pair = tuple(Resistor(str(k), f"r{k}", 4700, 0.05, 10, Construction.WIREWOUND, 500) for k in range(2))
        ranked = rank_tools(pair, some(charge), LIMIT)
        best = recommended(ranked)
        self.assertEqual((some(best).shape, some(best).resistance_ohm), (Shape.SERIES, 9400))
        self.assertAlmostEqual(some(best).shares[0].voltage_v, 636.396 * 1.05 / 2, places=1)
        self.assertEqual([tool.allowed for tool in ranked], [True, False, False])

    def test_of_two_in_series_each_is_held_to_its_own_working_voltage(self) -> None:
        """636.4 V × 1.05 / 2 = 334.1 V across the one at the top of its tolerance: 334 V are too few, 335 V will do."""
        charge = some(plan_charge(read_marking("16 µF ±5 % 450 V~"), role=Role.MOTOR_RUN, supply_v=230))
        for volts, keeps in ((250.0, False), (334.0, False), (335.0, True)):
            pair = tuple(Resistor(str(k), f"r{k}", 4700, 0.05, 10, Construction.WIREWOUND, volts) for k in range(2))
            self.assertEqual(fastest(Shape.SERIES, pair, charge) is not None, keeps, volts)

    def test_one_resistor_is_offered_before_a_quicker_tangle(self) -> None:
        charge = plan_charge(read_marking("16 µF ±5 % 450 V~"), role=Role.MOTOR_RUN, supply_v=230)
        several = tuple(Resistor(str(k), f"r{k}", 22_000, 0.05, 25, Construction.WIREWOUND, 1000) for k in range(4))
        ranked = rank_tools(several, some(charge), LIMIT)
        self.assertEqual(ranked[0].shape, Shape.PARALLEL)  # faster, by less than a second
        self.assertEqual(some(recommended(ranked)).shape, Shape.SINGLE)
