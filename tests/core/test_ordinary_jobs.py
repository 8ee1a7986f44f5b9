"""Twenty ordinary jobs of the week, written down before the rules: they pass untroubled, no stop and at most one question each."""

import datetime
import math
import unittest
from dataclasses import dataclass, field

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Condition, Evidence, Position, Quantity, Reading, Role, Surroundings, Word
from dusky_heron.core.returning.powerup import Logged, power_up_plan, read_trend
from dusky_heron.core.verdict import judge

TODAY = datetime.date(2026, 6, 1)
C, R, ESR, LEAK, INS = Quantity.CAPACITANCE, Quantity.RESISTANCE, Quantity.ESR, Quantity.LEAKAGE, Quantity.INSULATION
KEEP, WATCH, REPLACE, CONDEMN = Word.KEEP, Word.WATCH, Word.REPLACE, Word.CONDEMN


@dataclass(frozen=True)
class Job:
    """A part as it lies on the bench, what its meters show, what it comes to, and its first power where it had one."""

    what: str
    role: Role
    marking: str
    readings: tuple[tuple[Quantity, float], ...]
    word: Word
    supply_v: float = 230.0
    around: Surroundings = field(default_factory=Surroundings)
    power: tuple[str, float | None, float | None, tuple[tuple[float, float | None, float | None], ...]] | None = None


ON_SECONDARY = Surroundings(basis=Basis.TRANSFORMER, volts=18.0)
JOBS = (
    Job("pump that trips", Role.MOTOR_RUN, "16 µF ±5 % 450 V~", ((C, 12.9e-6),), REPLACE,
        power=("motor", None, 4.0, ((100, None, 3.9),))),
    Job("pump that hums, part sound", Role.MOTOR_RUN, "20 µF ±5 % 450 V~", ((C, 20.1e-6), (R, math.inf)), KEEP),
    Job("fan, part leaks", Role.MOTOR_RUN, "4 µF ±5 % 400 V~", ((C, 4.05e-6), (R, 30e3)), REPLACE),
    Job("compressor will not start", Role.MOTOR_START, "88-108 µF 250 V~", ((C, 41e-6),), REPLACE),
    Job("compressor starts now", Role.MOTOR_START, "88-108 µF 250 V~", ((C, 98e-6), (R, math.inf)), KEEP),
    Job("hand dryer filter", Role.X, "1 µF K X2 305 V~", ((C, 0.31e-6),), REPLACE),
    Job("washer filter, sound", Role.X, "220 nF M X2 275 V~", ((C, 215e-9), (R, math.inf)), KEEP),
    Job("Y part of a drill", Role.Y, "2n2 M Y2 300 V~", ((C, 2.15e-9), (R, math.inf)), KEEP),
    Job("thermostat that drops out", Role.DROPPER, "680 nF K X2 305 V~", ((C, 410e-9),), REPLACE,
        power=("dropper", 24.0, 0.05, ((10, 4.0, 0.0049), (50, 23.0, 0.026), (100, 24.0, 0.05)))),
    Job("thermostat, sound", Role.DROPPER, "330 nF K X2 305 V~", ((C, 329e-9), (R, math.inf)), KEEP),
    Job("gate lamp restarts", Role.SMPS_BULK, "82 µF M 400 VDC", ((C, 51e-6),), REPLACE,
        power=("smps", 325.0, 0.3, ((100, 318.0, 0.31),))),
    Job("charger, bulk sound", Role.SMPS_BULK, "100 µF M 400 VDC", ((C, 97e-6), (ESR, 0.9), (R, math.inf)), KEEP),
    Job("amplifier hums", Role.RESERVOIR, "4700 µF 35 V", ((C, 2100e-6),), REPLACE, around=ON_SECONDARY,
        power=("linear", 27.0, 0.2, ((10, 1.9, 0.012), (25, 5.9, 0.045), (50, 13.0, 0.098), (75, 20.0, 0.15), (90, 24.2, 0.18),
                                     (100, 27.0, 0.2)))),
    Job("amplifier, can sound", Role.RESERVOIR, "2200 µF 35 V", ((C, 2150e-6), (R, math.inf)), KEEP, around=ON_SECONDARY),
    Job("organ supply, paper coupling", Role.COUPLING, ".1 MFD 400 WVDC", ((C, 0.13e-6),), REPLACE),
    Job("coupling film, sound", Role.COUPLING, "100n MKT 400 VDC", ((C, 100e-9), (INS, 20e9)), KEEP),
    Job("timer runs long, part sound", Role.TIMING, "1 µF J MKT 63 VDC", ((C, 1.0e-6), (R, math.inf)), KEEP),
    Job("oven, part sound", Role.MAGNETRON, "1.05 µF ±3 % 2100 V~ 10 MΩ", ((C, 1.05e-6), (R, 10.1e6)), KEEP,
        power=("magnetron", None, 5.0, ((100, None, 5.2),))),
    Job("flash bank, one lost", Role.ENERGY_STORE, "1200 µF 360 V", ((C, 830e-6),), REPLACE,
        power=("store", 330.0, None, ((25, 82.0, None), (50, 164.0, None), (100, 329.0, None)))),
    Job("X part burst", Role.X, "100 nF K X2 275 V~", ((C, 2e-9), (R, 4.0)), CONDEMN),
)  # fmt: skip


def reading(quantity: Quantity, value: float) -> Reading:
    """As a usual meter shows it: C within 1 %, the rest within 3; OL beyond 60 MΩ; ESR at 120 Hz, insulation at 250 V."""
    if math.isinf(value):
        return Reading(60e6, 60e6, math.inf, Condition.LIFTED, quantity=quantity)
    share = 0.01 if quantity == C else 0.03
    hertz, volts = (120.0 if quantity == ESR else None), (250.0 if quantity == INS else None)
    low, high = value * (1 - share), value * (1 + share)
    return Reading(value, low, high, Condition.LIFTED, quantity=quantity, frequency_hz=hertz, volts=volts)


class Ordinary(unittest.TestCase):
    """Each job from its readings to its first power."""

    def test_there_are_twenty(self) -> None:
        self.assertEqual(len(JOBS), 20)

    def test_each_is_judged_with_one_question_at_most(self) -> None:
        for job in JOBS:
            position = Position("C1", job.role, read_marking(job.marking, today=TODAY), job.supply_v, 50, surroundings=job.around)
            answer = judge(position, Evidence(tuple(reading(*read) for read in job.readings)), today=TODAY)
            questions = [reason for reason in answer.reasons if reason.sentence.endswith("?")]
            with self.subTest(job.what):
                self.assertEqual(answer.word, job.word, answer.reasons[0].sentence)
                self.assertLessEqual(len(questions) + bool(position.marking.doubts), 1, [one.sentence for one in questions])
                self.assertIsNone(answer.next_measurement)

    def test_none_is_stopped_at_its_first_power(self) -> None:
        for job in JOBS:
            if job.power is None:
                continue
            kind, rail, current, log = job.power
            plan = power_up_plan(kind, rail_v=rail, current_a=current)
            for k in range(1, len(log) + 1):
                found = read_trend(plan, [Logged(*row) for row in log[:k]])
                self.assertFalse(found.stop, (job.what, found.sentence))
