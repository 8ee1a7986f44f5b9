"""Ten ordinary emptyings of the week: a tool, a fall that is not stopped, a proof, and no question that is idle.

The link is no idle question where a licensed person would leave it on: electrolytics, oil and paper above the touch limit.
"""

import math
import unittest
from dataclasses import dataclass, field

from dusky_heron.core.discharge.decay import fit
from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.proving import (
    KnownSource,
    MeterKind,
    PairReading,
    Voltmeter,
    check_first_stage,
    check_proof,
    hides_charge,
    left_on,
    meter_refusals,
    needs_probe,
    not_settled,
    proof_pairs,
)
from dusky_heron.core.discharge.rebound import LEAST_PROOF_S, dielectric_of, expected_rebound, proof_holds
from dusky_heron.core.discharge.search import rank_tools, recommended
from dusky_heron.core.discharge.tools import Construction, Resistor
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.accuracy import Accuracy
from dusky_heron.core.metering.volts import VoltRanges, read_volts
from dusky_heron.core.model import Arrangement, Basis, Condition, Evidence, Reading, Role, Surroundings
from dusky_heron.core.model.materials import MATERIALS
from tests import drawn_by, some

HAND, PROBE = Voltmeter("hand meter", 1000, "III", 1000), Voltmeter("probe", 40e3, kind=MeterKind.PROBE)
DC = VoltRanges((Accuracy(0.5, 2, 6000, 0, 1000.0),), 6000, 1000)
BY_PROBE = VoltRanges((Accuracy(2, 3, 2000, 0, 40e3),), 2000, 40e3, fixed=True)
TOOLS = tuple(
    Resistor(str(k), f"{ohm:g} Ω", ohm, 0.05, watts, Construction.WIREWOUND, volts, pulse)
    for k, (ohm, watts, volts, pulse) in enumerate(
        ((360, 25, 700, None), (1e3, 50, 1000, 400), (4.7e3, 25, 700, None), (10e3, 10, 700, None), (1e6, 10, 10e3, 60))
    )
)


@dataclass(frozen=True)
class Emptying:
    """A part, what it reads on a capacitance meter afterwards, and whether the link is asked for."""

    what: str
    role: Role
    marking: str
    reads: float
    link: bool
    around: Surroundings = field(default_factory=Surroundings)
    supply_v: float = 230.0


WEEK = (
    Emptying("pump, run capacitor low", Role.MOTOR_RUN, "16 µF ±5 % 450 V~", 12.9e-6, link=False),
    Emptying("hand dryer, worn X part", Role.X, "1 µF K X2 305 V~", 0.31e-6, link=False),
    Emptying("thermostat, worn dropper", Role.DROPPER, "680 nF K X2 305 V~", 0.41e-6, link=False),
    Emptying("drill, Y part", Role.Y, "2n2 M Y2 300 V~", 2.2e-9, link=False),
    Emptying("mains filter", Role.X, "0.1 + 2 x 0.0027 µF X1 Y2 250 V~", 0.1e-6, link=False),
    Emptying("amplifier, low volts", Role.RESERVOIR, "4700 µF 35 V", 4500e-6, link=False,
             around=Surroundings(basis=Basis.TRANSFORMER, volts=18.0)),
    Emptying("switching supply, bulk", Role.SMPS_BULK, "100 µF M 400 VDC", 97e-6, link=True),
    Emptying("compressor, start capacitor", Role.MOTOR_START, "88-108 µF 250 V~", 98e-6, link=True),
    Emptying("oven", Role.MAGNETRON, "1.05 µF ±3 % 2100 V~ 10 MΩ", 1.05e-6, link=True),
    Emptying("stage flash, three cans", Role.ENERGY_STORE, "1200 µF 360 V", 1150e-6, link=True,
             around=Surroundings(arrangement=Arrangement.PARALLEL, count=3)),
)  # fmt: skip


class Week(unittest.TestCase):
    """From the plan to the proof."""

    def test_each_passes_with_no_question_that_a_licensed_person_would_call_idle(self) -> None:
        for one in WEEK:
            with self.subTest(one.what):
                marking = read_marking(one.marking)
                charge = some(plan_charge(marking, role=one.role, supply_v=one.supply_v, surroundings=one.around))
                limit = working_limit(None, charge.highest_f, charge.each_v)
                tool = some(recommended(rank_tools(TOOLS, charge, limit)))
                self.assertEqual((tool.refusals, not_settled(marking, one.around)), ((), ""))
                self.falls(charge.each_v, tool.resistance_ohm * charge.nominal_f, one)
                self.proved(one)
                creeps = expected_rebound(dielectric_of(marking, one.role), charge.highest_f, charge.each_v)
                holds = proof_holds(0.0 if creeps.harmless else creeps.voltage_v, 0.4)
                self.assertEqual(holds < LEAST_PROOF_S, one.link, holds)
                read = Evidence((Reading(one.reads, one.reads * 0.98, one.reads * 1.02, Condition.LIFTED),))
                self.assertEqual(hides_charge(marking, read, role=one.role, charge=charge), "")

    def falls(self, first_v: float, tau_s: float, one: Emptying) -> None:
        """Watched every third of a time constant, with a digit of noise: it is not stopped."""
        luck = drawn_by(len(one.what))
        digit = 0.1 if first_v < 600 else 1.0
        absorption = MATERIALS[dielectric_of(read_marking(one.marking), one.role)].absorption[1]
        rows = [(k * tau_s / 3, round((first_v * math.exp(-k / 3) + luck.gauss(0, digit)) / digit) * digit) for k in range(14)]
        found = fit(rows, resolution_v=digit, expected_tau_s=tau_s, planned_v=first_v, absorption=absorption)
        self.assertFalse(found.stop, found.sentence)

    def proved(self, one: Emptying) -> None:
        """With an ordinary hand meter, above 1 kV after a probe; some readings below the last digit, one of 0.2 V."""
        marking = read_marking(one.marking)
        charge = some(plan_charge(marking, role=one.role, supply_v=one.supply_v, surroundings=one.around))
        pairs, after = proof_pairs(marking, one.around), None
        if needs_probe(charge, one.role, one.around):
            self.assertEqual(meter_refusals(PROBE, charge, role=one.role, around=one.around, fixed_wiring=False), ())
            after = check_first_stage(pairs, [read_volts("0", BY_PROBE, field="x") for _ in pairs])
        refused = meter_refusals(HAND, charge, role=one.role, around=one.around, fixed_wiring=False, after_probe_v=after)
        self.assertEqual(refused, ())
        little, none = read_volts("0.2", DC, field="x"), read_volts("<0.1", DC, field="x")
        readings = [PairReading(pair, little if k == 0 else none, none) for k, pair in enumerate(pairs)]
        self.assertEqual(left_on(readings), ())
        known = KnownSource(read_volts("230.4", DC, field="x"), read_volts("229.8", DC, field="x"))
        self.assertLess(check_proof(pairs, readings, known, known), 0.5)
