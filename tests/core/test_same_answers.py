"""The core answers drawn questions as it did: whoever changes an answer on purpose finds here that, and where, it is another.

Whether an answer is right stands in the other modules, from standards and physics; this one only tells that one is new. Write
them anew with `python -m tests.core.test_same_answers`, and say in the commit why they changed.
"""

import csv
import datetime
import math
import random
import unittest
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

from dusky_heron.core import rig
from dusky_heron.core.ageing import life, reforming
from dusky_heron.core.circuit import Load, bulk, growing, hum, rectifier
from dusky_heron.core.circuit import dropper as d
from dusky_heron.core.discharge import (
    banks,
    bleeders,
    falling,
    other_tools,
    pins,
    planning,
    proving,
    rebound,
    search,
    series_string,
)
from dusky_heron.core.discharge.decay import fit
from dusky_heron.core.discharge.limits import limits_table, working_limit
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering import corrections, find_common, in_service
from dusky_heron.core.metering.accuracy import Value, read_value
from dusky_heron.core.model import (
    Evidence,
    LoadState,
    Policy,
    Relay,
    Role,
    Sign,
)
from dusky_heron.core.proving import workshop
from dusky_heron.core.returning import checks, powerup
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.combine import combinations
from dusky_heron.core.selection.need import describe
from dusky_heron.core.selection.points import order_of, reasons_of
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.safety_class import may_replace
from dusky_heron.core.verdict import judge
from tests.core import asked_besides
from tests.core.drawn_places import LABELS, drawer, place, reading, spoilt
from tests.core.plainly_said import answer, digest, said

FOLDER = Path(__file__).parent
KEPT = FOLDER / "same_answers.csv"
TODAY = datetime.date(2026, 6, 1)
PARTS = 3  # of each kind of question, each a test of its own


def markings(chance: random.Random) -> Iterator[str]:
    with (FOLDER / "markings.csv").open(encoding="utf-8") as file:
        rows = [line.split("|")[0] for line in file if line.strip() and not line.startswith(("#", "text|"))]
    for text in chance.sample(rows, 150):
        for label in (text, spoilt(chance, text), spoilt(chance, text)):
            yield f"{label}: {answer(read_marking, label)}"


def verdicts(chance: random.Random) -> Iterator[str]:
    for role, label in chance.choices(LABELS, k=220):
        marking = read_marking(label)
        where = place(chance, chance.choice((role, role, role, *Role)), marking)
        signs = frozenset(chance.sample(list(Sign), chance.choice((0, 0, 1, 2))))
        readings = tuple(reading(chance, marking, role) for _ in range(chance.choice((0, 1, 1, 2, 4))))
        yield f"{where.role} {label}: {answer(judge, where, Evidence(readings, signs), today=TODAY)}"


def choices(chance: random.Random) -> Iterator[str]:
    for set_id in chance.sample(rig.SETS, 6):
        one = rig.make(set_id, chance.randrange(1000))
        for old in one.capacitors.values():
            where = place(chance, Role(old.role), read_marking(old.printed))
            offered = workshop.drawer_for(old, chance) + workshop.spares_for(old, set(), chance)
            need = need_of(where)
            found = rank(need, [row.part for row in offered])
            yield f"{old.printed}: {said(need)} {said(found)}"


def well_known(chance: random.Random) -> Iterator[str]:
    """Parts of which everything is kept, or little, by every policy; each way a place may be filled."""
    for role, label in chance.sample(LABELS, 60):
        where = place(chance, role, read_marking(label))
        policy = Policy(
            frozenset(chance.sample(list(Role), chance.choice((0, 0, 4)))),
            frozenset(chance.sample([rule.id for rule in HARD_RULES if rule.demand], chance.choice((0, 0, 1)))),
            salvaged_measured=chance.random() < 0.5,
            larger=chance.random() < 0.7,
            dual=chance.choice(("either", "dual", "singles")),
        )
        need, parts = need_of(where), drawer(chance, role, label, 14)
        yield f"{role} {label}: {said(where)} {said(need)} {said(describe(need))}"
        found = rank(need, parts, policy)
        yield said(found)
        yield from (f"{said(row)} {said(order_of(row))} {said(reasons_of(need, row.part))}" for row in found.accepted)
        yield said(combinations(need, parts, policy))


def emptying(chance: random.Random) -> Iterator[str]:
    for role, label in chance.choices(LABELS, k=90):
        marking, around = read_marking(label), place(chance, role, read_marking(label)).surroundings
        supply = chance.choice((None, 120.0, 230.0, 400.0))
        charge = planning.plan_charge(marking, role=role, supply_v=supply, surroundings=around)
        yield f"{role} {label}: {said(charge)} {answer(banks.discharge_points, marking, around, 'C1')}"
        if charge is None:
            continue
        farads, volts = charge.whole_f, charge.voltage.voltage_v
        limit = working_limit(None, farads, volts)
        tools = search.rank_tools(workshop.RESISTORS, charge, limit)
        yield said(tools)
        yield f"{said(search.recommended(tools))} {search.beyond_tools(charge, tool_found=bool(tools))}"
        dielectric = rebound.dielectric_of(marking, role)
        yield answer(bleeders.bled, charge, limit, around.bleeder, dielectric)
        yield answer(rebound.expected_rebound, dielectric, volts, farads)
        for row in chance.sample(limits_table(), 4):
            yield answer(bleeders.design_bleeder, row, farads, volts, volts / 2, chance.choice((250.0, 350.0, 500.0)))
        yield answer(bleeders.check_limits, limits_table(), farads, 10 ** chance.uniform(4, 7), volts, volts)
        ohm = 10 ** chance.uniform(2, 6)
        yield f"{answer(falling.target_times, charge, limit, ohm, 1.05 * ohm)} {answer(other_tools.load_left_on, charge, ohm)}"
        yield f"{answer(other_tools.lamp, charge, 230.0, 60.0)} {answer(other_tools.blade, charge, chance.choice((0.0, 0.2)))}"
        evidence = Evidence(tuple(reading(chance, marking, role) for _ in range(2)))
        yield f"{answer(proving.proof_pairs, marking, around)} {answer(proving.needs_probe, charge, role, around)}"
        yield answer(proving.hides_charge, marking, evidence, role=role, charge=charge)
        yield answer(proving.not_settled, marking, around)


def metering(chance: random.Random) -> Iterator[str]:
    for meter_id in ("hand", "fine", "bridge", "insulation", "leakage"):
        meter = workshop.specification(meter_id)
        for quantity in sorted(meter.ranges):
            for _ in range(12):
                size = 10 ** chance.uniform(-3, 3)
                typed = f"{size:.{chance.randrange(4)}f}{chance.choice(('', 'p', 'n', 'u', 'm', 'k', 'M', ' G', ' OL', '%'))}"
                yield f"{typed} {quantity}: {answer(read_value, typed, quantity, meter, expected=chance.choice((None, size)))}"
    for _ in range(60):
        farads, ohm, hertz = 10 ** chance.uniform(-9, -4), 10 ** chance.uniform(2, 7), chance.choice((100.0, 120.0, 1e3))
        yield answer(corrections.loss_of_resistor, farads, ohm, hertz)
        amperes, volts = (Value(x, x * 0.98, x * 1.02) for x in (2 * math.pi * 50 * farads * 230, chance.uniform(200, 250)))
        yield answer(in_service.from_clamp, amperes, volts, 50.0)
        yield answer(in_service.from_idle, amperes, volts, 50.0, swing_v=chance.choice((0.0, 24.0)), beside_f=farads / 10)
        sections = [chance.choice((None, chance.uniform(1e-6, 50e-6))) for _ in range(3)]
        yield answer(find_common, dict(zip((("a", "b"), ("b", "c"), ("a", "c")), sections, strict=True)))


def returning(chance: random.Random) -> Iterator[str]:
    for set_id in chance.sample(rig.SETS, 5):
        one = rig.make(set_id, chance.randrange(1000))
        placed = [place(chance, Role(old.role), read_marking(old.printed)) for old in one.capacitors.values()]
        places = [replace(where, name=name) for where, name in zip(placed, one.capacitors, strict=True)]
        yield f"{said([pins.across_line(where) for where in places])} {answer(pins.behind_plug, places)}"
        rows = chance.sample(limits_table(), 6)
        yield answer(pins.plug_pins, 1e-6, chance.choice((None, 1e6)), 230.0, rows)
        yield answer(checks.checks_for, checks.Repaired(
            chance.choice(("", "I", "II")), two_core=chance.random() < 0.3, plug=chance.random() < 0.8, places=places,
            changed=frozenset(where.name for where in places[:2]), pins=tuple(rows[:2]), touch=tuple(rows[2:]),
            rail_v=chance.choice((None, 24.0)),
        ))  # fmt: skip
    for _ in range(60):
        watts = chance.choice((15.0, 40.0, 60.0, 100.0, 200.0))
        load = chance.choice((None, Load(resistance_ohm=chance.uniform(50, 5e3)), Load(power_w=chance.uniform(1, 150))))
        yield answer(powerup.lamp_point, powerup.Lamp(watts, 230.0), 230.0, load)
        yield answer(powerup.choose_lamp, 230.0, watts / 3)
        yield answer(
            may_replace, chance.choice(("X1", "X2", "X3", "Y1", "Y2", "Y4")), chance.choice(("X1", "X2", "Y1", ("X1", "Y2")))
        )


def falls(chance: random.Random) -> Iterator[str]:
    for _ in range(160):
        first, tau, every = chance.choice((30, 100, 325, 900)), 10 ** chance.uniform(-0.5, 2), chance.choice((0.2, 0.5, 1, 2, 5))
        digit = chance.choice((0.01, 0.1, 1))
        count = min(60, max(2, int(chance.uniform(0.5, 6) * tau / every)))
        floor, jump, at = chance.choice((0, 0, 2, 20)), chance.choice((0, 0, 0, 3, 50, 300, -60)), chance.randrange(1, 60)
        bend = chance.choice((1, 1, 1, 0.6, 1.8))
        rows = []
        for k in range(count):
            t = k * every
            volts = first * math.exp(-((t / tau) ** bend)) + floor + (jump if k >= at else 0) + chance.gauss(0, digit)
            rows.append((round(t, 6), round(volts / digit) * digit))
        known = {
            "expected_tau_s": chance.choice((None, tau, 2 * tau)), "meter_ohm": chance.choice((None, 10e6)),
            "capacitance_f": chance.choice((None, 1e-6, 1e-3)), "resistance_ohm": chance.choice((None, 1e4, 1e6)),
            "planned_v": chance.choice((None, first, first * 1.1)), "absorption": chance.choice((None, 0.001, 0.05)),
        }  # fmt: skip
        yield answer(fit, rows, resolution_v=digit, target_v=chance.choice((5.0, 50.0)), **known)


def droppers(chance: random.Random) -> Iterator[str]:
    relay = Relay(coil_ohm=920, pull_in_v=16.8, hold_v=12, reset_v=9)
    states = (LoadState("standby", 8e-3), LoadState("valve", 34e-3, relay))
    for _ in range(6):
        circuit = d.DropperCircuit(
            chance.choice(("bridge", "half_wave", "half_wave_shunt")), chance.choice((110.0, 207.0, 230.0, 253.0)), 50.0,
            chance.choice((220e-9, 330e-9, 470e-9, 680e-9, 1e-6)), chance.choice((47.0, 100.0, 220.0)),
            chance.choice((None, 470e3, 1e6)), chance.choice((47e-6, 220e-6, 470e-6)), chance.choice((None, 5.1, 12.0, 24.0)), 5.0,
            0.7, Load(current_a=chance.choice((5e-3, 15e-3)), resistance_ohm=chance.choice((None, 2e3))),
        )  # fmt: skip
        yield said(circuit)
        yield answer(d.steady_state, circuit)
        yield answer(d.switch_on, circuit, residual_v=chance.choice((0.0, 325.0)))
        yield answer(d.available_current, circuit)
        yield answer(d.infer_capacitance, circuit, chance.uniform(4, 24), error_v=0.1)
        yield answer(d.infer_from_current, circuit, chance.uniform(5e-3, 60e-3), error_a=1e-3)
        yield answer(d.needed_capacitance, circuit, chance.choice((10e-3, 34e-3)))
        yield answer(d.too_big, circuit, Load(current_a=2e-3), zener_rated_w=chance.choice((None, 1.3)), series_rated_w=2.0)
        yield answer(d.symptom_sweep, circuit, states, relay)
        yield answer(d.give_command, circuit, relay, 8e-3, 0.3)
        seen = d.Observed(Load(current_a=8e-3), rail_v=chance.uniform(2, 30), ripple_v=chance.choice((None, 0.5)),
                          input_a=chance.choice((None, 30e-3)))  # fmt: skip
        yield answer(d.rank_faults, circuit, [seen])


def settled(chance: random.Random) -> Iterator[str]:
    """Droppers of every kind of load and surroundings, where they settle and what is inferred backwards from there."""
    pick = chance.choice
    for _ in range(10):
        load = Load(pick((None, 680.0, 2e3)), pick((0.0, 5e-3, 40e-3)), pick((0.0, 0.0, 0.3)), pick((1.0, 6.0)))
        circuit = d.DropperCircuit(
            pick(("bridge", "half_wave", "half_wave_shunt")), pick((24.0, 110.0, 230.0)), pick((50.0, 60.0)),
            pick((47e-9, 330e-9, 2.2e-6)), pick((10.0, 100.0, 470.0)), pick((None, 470e3)), pick((10e-6, 220e-6)),
            pick((None, 5.1, 24.0)), pick((1.0, 10.0)), pick((0.35, 0.7)), load,
        )  # fmt: skip
        yield f"{said(circuit)} {answer(d.steady_state, circuit)} {answer(d.available_current, circuit)}"
        yield answer(d.switch_on, circuit, residual_v=pick((0.0, 100.0, -325.0)))
        rail, drawn = pick((3.0, 12.0, 24.0, 25.0)), pick((3e-3, 20e-3))
        yield f"{answer(d.infer_capacitance, circuit, rail, error_v=0.2)} {answer(d.infer_from_current, circuit, drawn)}"
        low, *ends = sorted(chance.choices((330e-9, 470e-9, 680e-9, 1e-6), k=4))
        inferred_f = d.Inferred(ends[0], low, pick((None, ends[1])), determinable=chance.random() < 0.7)
        yield answer(d.compare, inferred_f, *sorted(chance.choices((low, *ends, 0.9 * low, 1.1 * ends[1]), k=2)))
        yield answer(d.needed_capacitance, circuit, drawn)
        yield answer(d.switch_load, circuit, load, Load(current_a=drawn), 0.05)


def supplies(chance: random.Random) -> Iterator[str]:
    for _ in range(1):
        circuit = rectifier.ReservoirCircuit(
            chance.choice(rectifier.TOPOLOGIES), chance.choice((12.0, 30.0, 250.0)), 50.0, chance.choice((0.5, 5.0, 100.0)),
            chance.choice((10e-6, 47e-6, 470e-6)), 0.9, Load(resistance_ohm=chance.choice((500.0, 2e3, 10e3))),
        )  # fmt: skip
        yield f"{said(circuit)} {answer(rectifier.steady_state, circuit)} {answer(rectifier.switch_on, circuit)}"
        yield answer(growing.growth, circuit, 1.5 * circuit.reservoir_f)
        yield answer(growing.held_against, circuit, chance.choice(list(growing.rectifiers().values())))
        yield answer(hum.rank_hum, circuit, hum.Heard(output_v=circuit.secondary_v * chance.uniform(0.5, 1.5)))
    for _ in range(6):
        supply = bulk.BulkSupply(
            chance.choice(("bridge", "doubler")), chance.choice((90.0, 230.0)), 50.0, chance.choice((22e-6, 100e-6)),
            chance.choice((20.0, 90.0)), 0.8, chance.choice((80.0, 200.0)), 5.0, 0.2,
        )  # fmt: skip
        yield f"{answer(bulk.bulk_state, supply)} {answer(bulk.needed_bulk, supply)}"
        farads = [chance.uniform(80e-6, 120e-6) for _ in range(3)]
        yield answer(series_string.share_string, farads, [chance.uniform(0, 1e-3) for _ in farads], 47e3, 900.0)
        yield answer(reforming.plan_forming, farads[0], chance.choice((63.0, 350.0, 450.0)), chance.choice((1e3, 10e3, 47e3)))
        log = [(60.0 * k, 400 * (1 - math.exp(-k / chance.uniform(1, 9)))) for k in range(8)]
        yield answer(reforming.judge_forming, log, 420.0, 10e3, farads[0], warm=chance.random() < 0.2)
        yield answer(life.electrolytic_life, chance.choice((1e3, 5e3)), chance.choice((85.0, 105.0)), chance.uniform(30, 110))


KINDS: dict[str, Callable[[random.Random], Iterator[str]]] = {
    one.__name__: one
    for one in (
        markings, verdicts, choices, well_known, emptying, metering, returning, falls, droppers, settled, supplies,
        *asked_besides.KINDS,
    )
}  # fmt: skip


def lines(kind: str, part: int) -> list[str]:
    """All answers of one part of a kind."""
    return list(KINDS[kind](random.Random(f"{kind} {part}")))


class SameAnswers(unittest.TestCase):
    """One test for each part of each kind of question."""

    def of(self, kind: str, part: int) -> None:
        with KEPT.open(encoding="utf-8") as file:
            (row,) = [row for row in csv.DictReader(file) if (row["kind"], row["part"]) == (kind, str(part))]
        found = lines(kind, part)
        self.assertEqual((len(found), digest(found)), (int(row["lines"]), row["told"]), row)


for _kind in KINDS:
    for _part in range(PARTS):
        setattr(SameAnswers, f"test_{_kind}_{_part}", lambda self, kind=_kind, part=_part: self.of(kind, part))


if __name__ == "__main__":
    with KEPT.open("w", encoding="utf-8", newline="") as kept:
        writer = csv.writer(kept, lineterminator="\n")
        writer.writerow(("kind", "part", "lines", "told"))
        for kind in KINDS:
            for part in range(PARTS):
                found = lines(kind, part)
                writer.writerow((kind, part, len(found), digest(found)))
