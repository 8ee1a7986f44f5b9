"""Re-forming, first power and judging against simulated equipment: the rig is the truth, and shares no code with the rules."""

import collections
import datetime
import math
import statistics
import unittest
from dataclasses import replace

from dusky_heron.core import rig
from dusky_heron.core.ageing.reforming import FormingWord, forming_resistor, judge_forming, plan_forming
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Condition, Evidence, Measurement, Position, Quantity, Reading, Word
from dusky_heron.core.returning.powerup import Logged, power_up_plan, read_trend, usual_kind
from dusky_heron.core.rig.elements import Source
from dusky_heron.core.rig.faults import apply
from dusky_heron.core.verdict import judge

TODAY = datetime.date(2026, 6, 1)


def form(fault: rig.Fault | None, hours: float = 10.0) -> tuple[str, float]:
    """Form the bulk of a switching supply as the plan says, read each five minutes: how it ends, and at which source."""
    simulated = rig.make("switcher", 3, healthy=True)
    if fault:
        apply(simulated.drawing, fault)
        simulated = rig.SimulatedSet(simulated.drawing, seed=1)
    farads, rated = 82e-6, 400.0
    ohm = forming_resistor(farads, rated)
    simulated.lift("C5")
    a, b = simulated.terminals("C5")
    source = 0.0
    for step in plan_forming(farads, rated, ohm).steps:
        log: list[tuple[float, float]] = []
        source = step.source_v
        simulated.attached["former"] = Source(a, b, ohm, dc_v=source)
        for minute in range(0, int(hours * 60), 5):
            simulated.wait(300.0)
            log.append((minute * 60.0, abs(simulated.volts(a, b))))
            found = judge_forming(log, source, ohm, farads)
            if found.word == FormingWord.NEXT:
                if source - log[-1][1] > 0.05 * source:
                    return "not formed", source
                break
            if found.word == FormingWord.STOP:
                return "stop", source
        else:
            return "waits", source
    return "formed", source


class Forming(unittest.TestCase):
    """No step onto a film that was not formed; what leaks or is shorted is given up; what is sound or has lain comes up."""

    def test_each_kind_of_can(self) -> None:
        for fault, ends in (
            (None, ("formed", 400.0)), (rig.Fault("C5", "unformed", 30.0), ("formed", 400.0)),
            (rig.Fault("C5", "shorted", 3.0), ("stop", 100.0)), (rig.Fault("C5", "leaky", 20e3), ("stop", 100.0)),
        ):  # fmt: skip
            self.assertEqual(form(fault), ends, fault)


class FirstPower(unittest.TestCase):
    """Sets of three kinds, healthy and with faults that show in rail or current."""

    def read(self, simulated: rig.SimulatedSet, percent: float) -> Logged:
        rail = next(iter(simulated.drawing.rails.values()))
        simulated.plug(percent)
        simulated.wait(30.0)
        volts, ampere = abs(simulated.ahead((), (rail,)).mean(0)), simulated.supply_current()
        simulated.unplug()
        simulated.wait(0.2)
        return Logged(percent, volts, ampere)

    def stopped(self, set_id: str, kind: str, fault: rig.Fault | None) -> float | None:
        """The step at which a set is stopped, its plan made from a healthy one of the same type."""
        twin = self.read(rig.make(set_id, 999, healthy=True), 100.0)
        rail = None if kind == "motor" else twin.rail_v
        plan = power_up_plan(kind, rail_v=rail, current_a=twin.current_a)
        simulated = rig.make(set_id, 5, healthy=True)
        if fault:
            apply(simulated.drawing, fault)
            simulated = rig.SimulatedSet(simulated.drawing, seed=1)
        log: list[Logged] = []
        for step in plan:
            read = self.read(simulated, step.percent)
            log.append(read if step.rail_v is not None else replace(read, rail_v=None))
            if read_trend(plan, log).stop:
                return step.percent
        return None

    def test_healthy_sets_go_through_and_faults_stop_where_they_show(self) -> None:
        for set_id, kind, fault, at in (
            ("linear", "linear", None, None), ("linear", "linear", rig.Fault("F1", "open"), 25.0),
            ("linear", "linear", rig.Fault("C1", "shorted", 1.0), 10.0), ("dropper_bridge", "dropper", None, None),
            ("dropper_bridge", "dropper", rig.Fault("C1", "open"), 10.0),
            ("dropper_bridge", "dropper", rig.Fault("ZD1", "open"), 100.0),
            ("motor", "motor", None, None), ("motor", "motor", rig.Fault("F1", "open"), 100.0),
        ):  # fmt: skip
            self.assertEqual(self.stopped(set_id, kind, fault), at, (set_id, str(fault)))

    def test_the_kind_follows_from_the_roles(self) -> None:
        for set_id, kind in (("linear", "linear"), ("dropper_bridge", "dropper"), ("motor", "motor"), ("switcher", "smps"),
                             ("flash", "store"), ("oven", "magnetron"), ("amplifier", "linear")):  # fmt: skip
            simulated = rig.make(set_id, 1)
            self.assertEqual(usual_kind({part.role for part in simulated.capacitors.values()}), kind, set_id)


WAYS = {
    Quantity.CAPACITANCE: (("hand", "capacitance"), ("fine", "capacitance"), ("bridge", "capacitance_series")),
    Quantity.RESISTANCE: (("hand", "resistance"), ("fine", "resistance")),
    Quantity.ESR: (("bridge", "esr"),),
    Quantity.DISSIPATION: (("bridge", "dissipation"),),
    Quantity.INSULATION: (("insulation", "insulation"),),
    Quantity.LEAKAGE: (("leakage", "leakage"),),
}


def measured(simulated: rig.SimulatedSet, meters: dict[str, rig.Meter], ask: Measurement, name: str, times: int) -> Reading | None:
    """What is asked for, with the first meter that measures it, asked again with a finer one."""
    ways = WAYS[ask.quantity]
    meter_id, function = ways[min(times, len(ways) - 1)]
    kept = meters[meter_id].functions[function]
    hertz = None
    if kept.hertz:
        hertz = ask.frequency_hz if ask.frequency_hz in kept.hertz else 1000.0
    volts = max((v for v in kept.volts if v <= (ask.volts or 0.0) * 1.001), default=kept.volts[0]) if kept.volts else None
    shown = rig.measure(simulated, meters[meter_id], function, *simulated.terminals(name, ask.section), hertz=hertz, volts=volts)
    if shown.value is None and shown.text != "OL":
        return None
    more = {"volts": shown.volts, "seconds": shown.seconds or None}
    if shown.value is None:
        top = 0.0 if ask.quantity == Quantity.CAPACITANCE else kept.ranges[-1][0]
        return Reading(top, top, math.inf, Condition.LIFTED, ask.section, meter_id, ask.quantity, shown.hertz, **more)  # type: ignore[arg-type]
    value, error = max(shown.value, 0.0), abs(shown.value) * kept.percent / 100 + kept.counts * (shown.step or 0.0)
    low, high = max(value - error, 0.0), value + error
    return Reading(value, low, high, Condition.LIFTED, ask.section, meter_id, ask.quantity, shown.hertz, **more)  # type: ignore[arg-type]


class Judging(unittest.TestCase):
    """Parts of every set lifted and measured just as asked: nothing bad is kept, nothing is asked for ever."""

    def test_bad_kept_good_replaced_and_no_end(self) -> None:
        found = collections.Counter[tuple[str, str]]()
        taken = []
        for set_id in rig.SETS:
            simulated = rig.make(set_id, 11)
            for name, part in simulated.capacitors.items():
                marking = read_marking(part.printed)
                if marking.provisional:
                    continue
                simulated.lift(name)
                position, readings = Position(name, part.role, marking, simulated.drawing.supply_v, 50.0), list[Reading]()
                meters = rig.meters(7)
                while ask := (answer := judge(position, Evidence(tuple(readings)), today=TODAY)).next_measurement:
                    self.assertLess(len(readings), 3 * len(part.sections) + 1, (set_id, name))
                    times = sum(r.quantity == ask.quantity and r.section == ask.section for r in readings)
                    reading = measured(simulated, meters, ask, name, times)
                    if reading is None:
                        break
                    readings.append(reading)
                simulated.lay_back(name)
                taken.append(len(readings) / len(part.sections))
                shares = [part.farads(k) / section.marked_f for k, section in enumerate(part.sections)]
                broken = part.joint != "sound" or min(section.leak_ohm for section in part.sections) < 1e5 or min(shares) < 0.7
                sound = (
                    part.joint == "sound"
                    and min(s.leak_ohm for s in part.sections) > 1e9
                    and 0.97 < min(shares) <= max(shares) < 1.03
                )
                found["broken" if broken else "sound" if sound else "between", answer.word] += 1
        self.assertEqual(found["broken", Word.KEEP], 0)
        self.assertEqual(sum(count for (_, word), count in found.items() if word == Word.UNKNOWN), 0, found)
        self.assertGreaterEqual(sum(count for (state, _), count in found.items() if state == "broken"), 5)
        self.assertLessEqual(statistics.median(taken), 2.5)
        self.assertEqual(found["sound", Word.REPLACE], 0, found)
