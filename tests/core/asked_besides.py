"""Drawn questions about the hand-back, first power, combining, the fitting list, what is typed, and proofs; ends included.

Numbers are drawn from what decides somewhere in the core, a little below it, at it and a little above.
"""

import datetime
import math
import random
from collections.abc import Callable, Iterator
from dataclasses import replace
from decimal import Decimal
from pathlib import Path

from dusky_heron.core import rig
from dusky_heron.core.ageing import leakage, life, reforming, survival
from dusky_heron.core.circuit import Load, netlist, rectifier, supply_walk, typed_loads
from dusky_heron.core.circuit import dropper as d
from dusky_heron.core.discharge import banks, energy, limits, planning, proving, rebound, tools
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.discharge.touch_current import touch_current
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, VOLTAGE
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.dates import date_code
from dusky_heron.core.markings.model import DateCandidate
from dusky_heron.core.metering import accuracy, corrections, equivalents, in_service, taking, volts
from dusky_heron.core.metering.accuracy import Value
from dusky_heron.core.model import (
    Arrangement,
    Condition,
    Dropper,
    Evidence,
    LoadState,
    Policy,
    Position,
    Quantity,
    Role,
    ServiceLife,
    Topology,
)
from dusky_heron.core.proving import workshop
from dusky_heron.core.quantities import parse_quantity, show, show_range, show_time
from dusky_heron.core.returning import checks, invoice, powerup
from dusky_heron.core.rig.capacitors import Capacitor, section
from dusky_heron.core.selection import consequences, fitting_list, need_of, question, sieve, ways
from dusky_heron.core.selection.combine import combinations
from dusky_heron.core.tables import toml_table
from dusky_heron.core.verdict import age, dropper_balance, judge, registry
from dusky_heron.core.verdict.capacitance import zones
from dusky_heron.core.wiring import read_found, to_put_back
from tests.core.drawn_places import LABELS, place, reading, spoilt
from tests.core.plainly_said import answer, said

BESIDE = (0.5, 0.7, 0.94, 0.99, 0.999999, 1.0, 1.0, 1.000001, 1.01, 1.06, 1.3, 2.0)  # of what decides
METERS = ("hand", "fine", "bridge", "insulation", "leakage")


def near(chance: random.Random, *ends: float) -> float:
    """Just below, at or above one of what decides."""
    return chance.choice(ends) * chance.choice(BESIDE)


def nodes(chance: random.Random) -> tuple[list[Position], rig.SimulatedSet]:
    """The places of a set, drawn."""
    pick = chance.choice
    one = rig.make(pick(rig.SETS), chance.randrange(1000))
    placed = [place(chance, Role(old.role), read_marking(old.printed)) for old in one.capacitors.values()]
    return [replace(where, name=name) for where, name in zip(placed, one.capacitors, strict=True)], one


def hand_back(chance: random.Random) -> Iterator[str]:
    """Each check of a drawn repair with readings about its ends, on a coarse and a fine meter."""
    pick = chance.choice
    for _ in range(40):
        places, _set = nodes(chance)
        rows = chance.sample(limits.limits_table(), 6)
        work = checks.Repaired(
            pick(("", "I", "II", "III")),
            two_core=chance.random() < 0.3,
            plug=chance.random() < 0.8,
            places=places,
            changed=frozenset(where.name for where in chance.sample(places, min(2, len(places)))),
            pins=tuple(rows[:3]),
            touch=tuple(rows[3:]),
            rail_v=pick((None, 24.0)),
        )
        for check in checks.checks_for(work):
            yield f"{said(check)} {answer(checks.asked_of, check) if check.quantity in set(Quantity) else check.quantity}"
            for _ in range(4):
                meter = workshop.specification(pick(METERS))
                given = " ".join(f"{near(chance, check.low or 1.0, check.high or 1.0):.7g}" for _ in range(pick((1, 3))))
                given = pick((given, given, given, "yes", "no", "OL", f"> {given}", ""))
                against = pick(("", "", "24", "230", "1,000"))
                lead = pick(("", "", "0.02", "9"))
                yield answer(checks.take_check, check, given, meter, against=against, lead=lead)
                yield answer(checks.measures, check, meter)
    for minutes in (1.0, 10.0, 60.0):
        yield answer(checks.soak_left, minutes, near(chance, 60.0 * minutes))


def first_power(chance: random.Random) -> Iterator[str]:
    """Plans of every kind, each followed with readings about what was expected."""
    pick = chance.choice
    table = powerup.TABLE
    for kind in (*powerup.KINDS, "no such kind"):
        for rail, amperes in ((24.0, 0.5), (None, 0.05), (320.0, None), (None, None), (6.0, 2.0), (-1.0, 1.0)):
            percents = pick((None, None, None, [100.0], [20.0, 60.0, 100.0], [50.0, 50.0], [90.0, 100.0], [121.0]))
            expected = pick((None, None, lambda share: (20.0 * share, 0.4 * share**2)))
            plan = answer(powerup.power_up_plan, kind, rail_v=rail, current_a=amperes, percents=percents, expected=expected)
            yield plan
            if plan.startswith("refused"):
                continue
            steps = powerup.power_up_plan(kind, rail_v=rail, current_a=amperes, percents=percents, expected=expected)
            for _ in range(24):
                log = []
                for step in steps[: chance.randrange(len(steps)) + 1]:
                    low, full = step.least_a, step.current_a or step.full_a or 0.1
                    slack, stop = float(table["current_slack_a"]), step.stop_a or full
                    ends = (low, low * float(table["low_rail"]), full, stop, stop + slack, full * 1.5 + slack, slack)
                    drawn = pick((full, full, near(chance, *ends), None))
                    most = (step.rail_v or 10.0) * float(table["low_rail"]) - float(table["rail_slack_v"])
                    held = pick((step.rail_v, near(chance, step.rail_v or 10.0, max(most, 0.1)), None))
                    later = pick((None, None, drawn and near(chance, drawn, drawn * (1 + float(table["settle"])) + slack)))
                    log.append(powerup.Logged(step.percent, held, drawn, later))
                yield answer(powerup.read_trend, steps, log)


def combining(chance: random.Random) -> Iterator[str]:
    """Two or three for one, out of drawn drawers; the surroundings of the place; the fitting list."""
    pick = chance.choice
    for _ in range(5):
        places, one = nodes(chance)
        rows = limits.limits_table()
        standard = pick((None, "", *(row.id for row in chance.sample(rows, 3))))
        for where, old in zip(places, one.capacitors.values(), strict=True):
            others = [other for other in places if other is not where]
            beyond = consequences.limits_beyond(where, others, standard, rows)
            touch = consequences.touch_of(where, others, standard, rows)
            yield f"{said(beyond)} {said(touch)}"
            farads = old.sections[0].marked_f * pick((0.5, 1.0, 1.5, 10.0))
            yield answer(consequences.consequences, where, others, farads, 1.2 * farads)
            need = need_of(where, beyond, touch)
            parts = [row.part for row in workshop.drawer_for(old, chance) + workshop.spares_for(old, set(), chance)]
            halves = [replace(old, sections=tuple(replace(x, marked_f=x.marked_f * k) for x in old.sections)) for k in (0.5, 2.0)]
            parts += [row.part for other in halves for row in workshop.drawer_for(other, chance)[:20]]
            drawer = [replace(part, quantity=pick((0, 1, 2, 5)), part_id=str(k)) for k, part in enumerate(parts)]
            policy = Policy(
                larger=chance.random() < 0.7,
                dual=pick(("either", "dual", "singles")),
                overridden=pick((frozenset(), frozenset({"policy.larger"}))),
            )
            found = combinations(need, drawer, policy)
            yield f"{said(need)} {said(found)}"
            yield from (answer(ways.as_one, row.way, [part.marking for part in row.parts]) for row in found[:3])
            yield f"{said(ways.specification(need, 2))} {said(sieve.sieve_of(need, policy))}"
            yield from (said(sieve.columns_of(part)) for part in parts[:4])
            fills = fitting_list.Filling(pick(list(ways.Way)), ("bend the leads",), ("a strap",), pick(("", "1 MΩ")))
            typed = [("1", "grey pump-run -> C1.2"), ("2", "red L -> C9"), ("3", "J3: red - white")][: chance.randrange(4)]
            wires = to_put_back(typed, "C1", ("C1", "C9"))
            yield answer(
                fitting_list.fitting_list,
                where,
                fills,
                wires,
                distance=pick(("", "8 mm")),
                old_can=pick(("either", "remove", "leave")),
                photo=chance.random() < 0.5,
            )
    for role, label in chance.choices(LABELS, k=25):
        yield answer(question.may_replace_part, label, pick(LABELS)[1], pick((None, role)), supply_v=pick((None, 230.0)))


with (Path(__file__).parent / "typed_lines.csv").open(encoding="utf-8") as file:
    TYPED = [(kind, text.replace("\\t", "\t")) for kind, _, text in (line.rstrip("\n").partition("|") for line in file)]


def typed(kind: str) -> list[str]:
    """What hands have typed of a kind."""
    return [text for one, text in TYPED if one == kind]


def typed_numbers(chance: random.Random) -> Iterator[str]:
    """What is typed: volts, numbers, meters, logs, loads, lines found, dates, codes, readings with what lies across them."""
    pick = chance.choice
    for text in typed("number"):
        for meter_id in ("hand", "fine", "probe"):
            for ranges in workshop.volt_ranges(meter_id):
                yield answer(volts.read_volts, text, ranges, field="dc")
        for unit, within in (("V", VOLTAGE), ("Ω", RESISTANCE), ("F", CAPACITANCE)):
            expected, counts = pick((None, 1.2, 1200.0)), pick((None, 2000, 6000))
            yield answer(parse_quantity, text, unit, within, decimal=pick(("", ".", ",")), expected=expected, counts=counts)
    for meter_id in ("hand", "fine", "probe"):
        for ranges in workshop.volt_ranges(meter_id):
            for _ in range(60):
                text = f"{near(chance, 0.06, 0.6, 6.0, 60.0, 600.0, 1000.0, 40.0, 4e3):.{chance.randrange(4)}f}"
                yield answer(volts.read_volts, text, ranges, field="dc")
    for _ in range(60):
        value, low = 10 ** chance.uniform(-13, 13), 10 ** chance.uniform(-3, 3)
        high = near(chance, low)
        yield f"{show(value, 'F')} {show(-value, 'V', digits=4)} {show_time(value)}"
        yield show_range(min(low, high), max(low, high), "Ω")


def kept_of_meters(chance: random.Random) -> Iterator[str]:
    """Data sheets as typed, and what a display leaves open."""
    pick = chance.choice
    specs = ("V DC 0.5% + 3\nC 2%+5", "Ω 1 % + 2 digits", "C: 0.05 %", "ESR 1%", "V AC 1% rdg + 0.2% fs 600 V", "nonsense", "")
    for text in specs:
        yield answer(accuracy.read_accuracies, text, pick((2000, 6000, 60000)))
    for _ in range(60):
        rule = accuracy.Accuracy(
            pick((0.0, 0.5, 2.0)),
            pick((0.0, 3.0)),
            pick((2000, 6000)),
            pick((0.0, 0.2)),
            pick((None, 6.0)),
        )
        value = near(chance, 6.0, 2.0, 0.6, 1e-6)
        yield f"{answer(accuracy.resolution, value, rule)} {answer(accuracy.interval, value, rule)}"
        yield answer(accuracy.last_digit, value, rule.display_counts)


def typed_lines(chance: random.Random) -> Iterator[str]:
    """Logs, loads, lines found and date codes as hands type them."""
    pick = chance.choice
    lines = typed("log")
    for _ in range(40):
        yield answer(read_log, "\n".join(chance.choices(lines, k=chance.randrange(1, 5))), decimal=pick(("", ".", ",")))
    loads = typed("load")
    for _ in range(30):
        yield answer(typed_loads.read_loads, "\n".join(chance.choices(loads, k=chance.randrange(1, 10))), pick((None, 24.0)))
    for text in typed("found"):
        yield f"{answer(read_found, text)} {answer(read_found, spoilt(chance, text))}"
    for today in (None, datetime.date(2026, 6, 1), datetime.date(2009, 12, 31)):
        for code in typed("date"):
            yield answer(date_code, code, today)


def typed_readings(chance: random.Random) -> Iterator[str]:
    """Readings with what lies across them."""
    pick = chance.choice
    for _ in range(300):
        where = place(chance, pick((Role.DROPPER, Role.MOTOR_RUN, Role.X, Role.SMPS_BULK)), read_marking("10 µF 450 V~"))
        if chance.random() < 0.5:
            known = Dropper(pick(list(Topology)), 24.0, (LoadState("standby", 8e-3),))
            where = replace(where, surroundings=replace(where.surroundings, dropper=known))
        size = f"{near(chance, 1.0, 9.5, 10.0):.3f} "
        given = taking.TypedReading(
            size + pick(("µF", "A", "mA", "Ω", "")),
            pick((Quantity.CAPACITANCE, Quantity.CAPACITANCE, Quantity.CURRENT, Quantity.ESR, Quantity.DISSIPATION)),
            pick(list(Condition)),
            frequency=pick(("", "", "100", "1 kHz")),
            volts=pick(("", "", "500 V")),
            after=pick(("", "", "60 s")),
            parallel_ohm=pick(("", "", "1 MΩ", "10k", "220")),
            parallel_f=pick(("", "", "1 µF", "9 µF", "20 µF")),
            loss=pick(("", "0.05", "2")),
            voltage=pick(("", "230 V", "24")),
            rail=pick(("", "24 V", "400")),
            beside=pick(("", "100 nF")),
        )
        yield answer(taking.take, given, workshop.specification(pick(METERS)), where)
        read = Value(1e-6, 0.98e-6, pick((1.02e-6, math.inf)))
        beside = corrections.Beside(
            pick((None, near(chance, 1e6, 1e5, 159155.0))),
            pick((None, near(chance, 1e-6, 1e-7))),
            pick((None, near(chance, 0.1, 0.01))),
        )
        yield answer(corrections.alone, read, beside, pick(list(accuracy.Method)), pick((None, 10.0, 120.0, 1e3)))
        loss = near(chance, 0.01, 0.1, 1.0)
        yield f"{answer(equivalents.to_series, 1e-6, loss)} {answer(equivalents.to_parallel, 1e-6, loss)}"
        yield answer(equivalents.without_parallel_resistor, 1e-6, loss, 1e3, near(chance, 1 / (2 * math.pi * 1e-3 * loss), 1e6))


def proofs(chance: random.Random) -> Iterator[str]:
    """What a proof asks for and takes, its meters, what may come back, and the bands of energy."""
    pick = chance.choice
    for role, label in chance.choices(LABELS, k=150):
        marking, where = read_marking(label), place(chance, role, read_marking(label))
        around = replace(
            where.surroundings,
            arrangement=pick(list(Arrangement)),
            count=pick((1, 1, 2, 3)),
            balancing_ohm=pick((None, None, 47e3)),
            confirmed=chance.random() < 0.3,
        )
        where = replace(where, surroundings=around)
        evidence = Evidence(tuple(reading(chance, marking, role) for _ in range(3)))
        charge = planning.plan_position(where, evidence)
        yield f"{said(where)} {said(charge)} {answer(planning.explain_readings, marking, evidence)}"
        yield f"{answer(planning.recharged_by, role, around)} {answer(planning.circuit_cautions, role)}"
        asked = proving.proof_pairs(marking, around)
        for _ in range(4):
            ends = (0.5, 5.0, 30.0, 50.0, 60.0)
            dc, ac, low = (pick((None, volts.Volts(v, v * 0.99, v * 1.01))) for v in (near(chance, *ends) for _ in range(3)))
            pairs = [proving.PairReading(pair, dc, ac, low) for pair in pick((asked, asked, asked[:1], ("x", *asked)))]
            known = [
                proving.KnownSource(*(volts.Volts(v, v * 0.99, v * 1.01) for v in (60.0, near(chance, 60.0)))) for _ in range(2)
            ]
            yield answer(proving.check_proof, asked, pairs, *known)
            yield answer(proving.left_on, pairs, input_ohm=near(chance, 1e6, 1e7))
            yield answer(proving.check_first_stage, asked, [pair.dc for pair in pairs])
            yield answer(proving.check_source, "DC", known[0])
        if charge is None:
            continue
        yield f"{answer(planning.first_voltage, where, charge)} {answer(planning.continuous_voltage, where, charge)}"
        yield f"{answer(planning.explain_charge, charge)} {answer(banks.string_shares, marking, around, charge)}"
        yield f"{answer(proving.unread, marking, evidence, parts=around.count, charge=charge)}"
        meter = proving.Voltmeter(
            "m",
            near(chance, charge.voltage.voltage_v, 1000.0),
            pick(("", "II", "III", "IV")),
            near(chance, 300.0, 600.0, 1000.0),
            pick(list(proving.MeterKind)),
            pick((1e6, 1e7, 1e9)),
        )
        after = pick((None, near(chance, meter.highest_v)))
        yield answer(
            proving.meter_refusals, meter, charge, role=role, around=around, fixed_wiring=chance.random() < 0.5, after_probe_v=after
        )
        limit = answer(limits.working_limit, pick((None, limits.limits_table()[0].id)), charge.whole_f, charge.voltage.voltage_v)
        yield f"{limit} {answer(tools.pulse_limit, pick(workshop.RESISTORS), near(chance, 1e-3, 0.1, 5.0, 60.0))}"


def bands(chance: random.Random) -> Iterator[str]:
    """Limits, bands of energy, what creeps back, touch current."""
    pick = chance.choice
    for row in limits.limits_table():
        yield said(row)
        edit = limits.LimitChange(pick((None, near(chance, row.value or 1.0))), pick((None, row.after_s)), "why")
        yield answer(limits.check_change, row, edit)
    for _ in range(400):
        farads, held = near(chance, 1e-7, 1e-6, 1e-5, 1e-3), near(chance, 42.4, 60.0, 100.0, 120.0, 400.0, 1000.0)
        joules = pick((0.25, 1.0, 10.0, 100.0, 1000.0))
        held = pick((held, math.sqrt(2 * joules / farads), 50e-6 / farads))
        hazard = answer(energy.classify, farads, held)
        yield f"{hazard} {answer(energy.touch_limit, farads)} {answer(energy.es2_limit, farads)}"
        yield answer(energy.classify_together, [(farads, held), (2 * farads, near(chance, held))])
        if not hazard.startswith("refused"):
            found = energy.classify(farads, held)
            yield f"{found.sentence} {found.grave} {answer(energy.cautions, found, held)}"
            yield answer(energy.mark_of, found, farads, held)
        came, shorted, opened = near(chance, 1.0, 5.0, 60.0), near(chance, 1.0, 10.0, 60.0), near(chance, 10.0, 100.0, 1000.0)
        yield f"{answer(rebound.crept_back, came, shorted, opened)} {answer(rebound.proof_holds, came, near(chance, 50.0))}"
        to_earth = [near(chance, 2.2e-9, 1e-8) for _ in range(chance.randrange(1, 4))]
        yield answer(touch_current, to_earth, to_earth[:1], 230.0, 50.0, chance.sample(limits.limits_table(), 5))


def ageing(chance: random.Random) -> Iterator[str]:
    """Life, batches, survivors, leakage, forming, the balance of a dropper, walks, invoices, netlists."""
    pick = chance.choice
    for _ in range(200):
        then, now = sorted((near(chance, 0.2, 0.5, 1.0), near(chance, 0.2, 0.5, 1.0)))
        yield f"{answer(life.failure_within, now, then)} {answer(life.failure_within, then, now, 2.0)}"
        costs = life.Costs(near(chance, 3.0), near(chance, 10.0), 60.0, near(chance, 80.0, 20.0))
        yield answer(life.compare_batch, pick((0, 1, 5, 20)), now, then, costs)
        yield answer(life.years_left, 1e-6, near(chance, 0.95e-6, 0.8e-6), near(chance, 5.0), 0.8)
        lasted = [survival.Lasted(pick((0.5, 1.0, 2.0, 2.0, 5.0)), chance.random() < 0.6) for _ in range(chance.randrange(1, 9))]
        steps = survival.survival(lasted)
        yield f"{said(steps)} {answer(survival.median_life, steps)}"
        farads, rated = near(chance, 1e-6, 1e-4, 4.7e-3), near(chance, 16.0, 63.0, 350.0, 450.0)
        yield f"{answer(leakage.leakage_limit, rated, farads)} {answer(leakage.leakage_in_service, rated, farads)}"
        yield answer(reforming.forming_resistor, farads, rated)
        tau, source = pick((30.0, 120.0, 600.0)), near(chance, rated)
        holds = near(chance, 0.5, 0.9, 0.95, 0.98, 1.0)
        log = [(60.0 * k, source * holds * (1 - math.exp(-60.0 * k / tau))) for k in range(chance.randrange(2, 40))]
        if chance.random() < 0.3:
            log[-1] = (log[-1][0], near(chance, log[-2][1]))
        yield answer(reforming.judge_forming, log, source, near(chance, 1e3, 1e4, 1e5), farads, warm=chance.random() < 0.2)
        yield answer(
            dropper_balance.available_current,
            pick(list(Topology)),
            farads,
            near(chance, 230.0, 24.0),
            50.0,
            near(chance, 24.0, 5.0),
        )


def ages_and_limits(chance: random.Random) -> Iterator[str]:
    """When a part was made and how much of its life is used; the limits a workshop may change; walks through a supply."""
    pick = chance.choice
    today = datetime.date(2026, 6, 1)
    for role, label in chance.choices(LABELS, k=120):
        date = DateCandidate(chance.randrange(1985, 2028), pick((None, 1, 23, 53)), pick((None, 6)), "drawn")
        marking = replace(read_marking(label), dates=(date,))
        where = place(chance, role, marking)
        runs = ServiceLife(near(chance, 2e3, 5e3), 105.0, near(chance, 60.0, 85.0), 12.0) if chance.random() < 0.5 else None
        where = replace(where, surroundings=replace(where.surroundings, life=runs))
        yield f"{answer(age.made_on, date)} {answer(age.made, where, today)}"
        yield f"{answer(age.age_years, where, today)} {answer(age.life_used, where, today)}"
    for limit in registry.verdict_limits().values():
        shown = registry.show_limit_value(limit)
        yield f"{said(limit)} {shown:.6g} {registry.say_limit(limit)}"
        yield answer(registry.read_limit_value, limit, near(chance, shown, -1.0))
        yield answer(registry.read_limit_value, limit, None)
        yield answer(registry.verdict_limits, {limit.id: (near(chance, limit.value), "measured here")})


def zones_and_materials(chance: random.Random) -> Iterator[str]:
    """What each capacitance would mean in its place; what a material makes of its farads with heat, volts and years."""
    for role, label in chance.choices(LABELS, k=120):
        marking = read_marking(label)
        where = place(chance, role, marking)
        evidence = Evidence(tuple(reading(chance, marking, role) for _ in range(2)))
        yield f"{role} {label}: {answer(zones, where, len(where.parts) - 1, evidence)}"
        yield answer(judge, where, evidence, today=datetime.date(2026, 6, 1))
    for name in sorted(toml_table("rig_materials")):
        for celsius in (-40.1, -40.0, -25.0, 0.0, 20.0, 70.0, 85.0, 125.0, 125.1):
            part = Capacitor(
                "C1", Role.RESERVOIR, name, (section(10e-6, 0.05),), (("a", "b"),), 400.0, chance.choice((True, False)),
                years=chance.choice((0.0, 20.0)), unformed=chance.choice((1.0, 40.0)), celsius=celsius,
            )  # fmt: skip
            bias = chance.choice((0.0, 100.0, 360.0, 400.0, 440.0))
            yield f"{answer(part.farads, 0, bias)} {answer(part.esr_ohm, 0)} {answer(part.leak_ohm, 0)}"
            yield answer(part.store, 0, "a", "b", bias)
    for _ in range(60):
        yield answer(in_service.idle_share, near(chance, 24.0, 300.0, 325.0), near(chance, 230.0))


def walks(chance: random.Random) -> Iterator[str]:
    """A supply walked through to its end; invoices; netlists."""
    pick = chance.choice
    for symptom in (*supply_walk.walk_symptoms(), "no such"):
        for _ in range(10):
            parts = supply_walk.WalkParts(*(pick((None, value)) for value in (5.0, 100e3, 0.5, 100e-6)))
            checked: dict[str, str] = {}
            for _ in range(6):
                walk = answer(supply_walk.walk_supply, symptom, parts, checked)
                yield walk
                if walk.startswith("refused"):
                    break
                step = supply_walk.walk_supply(symptom, parts, checked).next_id
                if step is None:
                    break
                checked[step] = pick(("0.1", "5", "230", "325", "100k", "OL", "", "12", "x", f"{near(chance, 5.0, 325.0):.3f}"))
    for _ in range(20):
        rows = [(Decimal(str(round(chance.uniform(0, 9), 2))), Decimal(str(round(chance.uniform(-5, 90), 2)))) for _ in range(3)]
        yield answer(invoice.add_up, rows, Decimal(pick(("0", "7.7", "20", "101"))))
        dropper = d.DropperCircuit(
            pick(("bridge", "half_wave", "half_wave_shunt")),
            230.0,
            50.0,
            470e-9,
            100.0,
            pick((None, 1e6)),
            220e-6,
            pick((None, 12.0)),
            5.0,
            0.7,
            Load(current_a=pick((0.0, 5e-3)), resistance_ohm=2e3),
        )
        yield f"{answer(netlist.dropper_netlist, dropper)} {answer(netlist.dropper_inrush_netlist, dropper, 100.0)}"
        supply = rectifier.ReservoirCircuit(
            pick(rectifier.TOPOLOGIES),
            30.0,
            50.0,
            0.5,
            470e-6,
            0.9,
            Load(resistance_ohm=500.0, power_w=pick((0.0, 3.0))),
        )
        yield f"{answer(netlist.reservoir_netlist, supply)} {answer(netlist.reservoir_surge_netlist, supply)}"


KINDS: tuple[Callable[[random.Random], Iterator[str]], ...] = (
    hand_back, first_power, combining, typed_numbers, kept_of_meters, typed_lines, typed_readings, proofs, bands, ageing,
    ages_and_limits, zones_and_materials, walks,
)  # fmt: skip
