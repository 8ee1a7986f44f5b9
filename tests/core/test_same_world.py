"""A seed is the same simulated day everywhere: what is made, what happens when it is handled, and what every meter shows.

The figures are held by digest, and say nothing about whether they are right: that stands in test_rig_truth and test_rig_sets.
Whoever changes the simulated world on purpose writes them anew (`python -m tests.core.test_same_world`) and measures again
what docs/proving.md tells.
"""

import csv
import random
import unittest
from collections.abc import Iterator
from pathlib import Path

from dusky_heron.core import rig
from dusky_heron.core.proving import manual, truth, workshop
from dusky_heron.core.rig.aloud import introduce
from dusky_heron.core.rig.aloud import truth as aloud
from dusky_heron.core.rig.meter import QUANTITIES, glance
from tests.core.plainly_said import digest, said

KEPT = Path(__file__).parent / "same_world.csv"
SHELVES = Path(__file__).parent / "same_shelves.csv"
SEEDS = range(3)
MANY = range(100, 130)


def figure(value: object) -> str:
    return f"{value:.5g}" if isinstance(value, float) else str(value)


def told(*values: object) -> str:
    return " ".join(figure(value) for value in values)


def happened(done: rig.Happened) -> str:
    return told(done.what, done.volts, done.joules, done.peak_a, done.i2t_a2s, done.died, done.noticed, said(done.flow))


def made(one: rig.SimulatedSet) -> Iterator[str]:
    """What a factory made of it, and what became of it."""
    drawing = one.drawing
    yield f"{said(drawing)} {said(one.faults)}"
    yield from (*introduce(one), *aloud(one))
    for name, part in sorted(one.capacitors.items()):
        yield said(part)
        for k, section in enumerate(part.sections):
            store = part.store(k, "a", "b", 0.3 * part.rated_v)
            yield told(section.marked_f, store.farad, store.esr_ohm, section.leak_ohm, *one.terminals(name, k))
    yield from (said(piece) for _, piece in sorted(one.pieces.items()))


def under_power(one: rig.SimulatedSet, meters: dict[str, rig.Meter]) -> Iterator[str]:
    """Brought up through a lamp, then without, read, and unplugged."""
    yield happened(one.plug(40.0, rig.Limiter(5.0, 230.0, 100.0)))
    yield happened(one.wait(0.3))
    yield told(one.limiter_ohm, one.supply_current())
    yield happened(one.plug())
    yield happened(one.wait(0.7))
    for name in sorted(one.capacitors):
        for quantity in ("volts_dc", "volts_ac"):
            yield shown(one, meters["fine"], quantity, *one.terminals(name))
    yield told(one.supply_current(), *one.cycle(sorted(one.pieces), [one.terminals(name) for name in sorted(one.capacitors)]))
    yield happened(one.soak())
    yield happened(one.unplug(73.0))
    yield happened(one.wait(1.5))


def shown(one: rig.SimulatedSet, meter: rig.Meter, quantity: str, a: str, b: str) -> str:
    if quantity not in meter.functions:
        return ""
    seen = rig.measure(one, meter, quantity, a, b)
    return told(quantity, seen.text, seen.hertz, seen.volts, seen.seconds, seen.swings, seen.died)


def emptied(one: rig.SimulatedSet, meters: dict[str, rig.Meter]) -> Iterator[str]:
    """Read, emptied each in another way, left alone, and read again."""
    for node, seen in sorted(glance(one, meters["hand"]).items()):
        yield told(node, seen.text)
    for k, name in enumerate(sorted(one.capacitors)):
        ends = one.terminals(name)
        yield shown(one, meters["hand"], "volts_dc", *ends)
        if k % 4 == 0:
            yield happened(one.join(*ends, 4.7e3, 2.0))
        elif k % 4 == 1:
            yield happened(one.touch(*ends))
        elif k % 4 == 2:
            yield happened(one.bridge(*ends))
        yield happened(one.short(*ends))
        yield happened(one.wait(1.0))
        yield happened(one.unshort(*ends))
    yield happened(one.wait(20.0))
    for name in sorted(one.capacitors):
        yield told(name, *(one.held(name, k) for k in range(len(one.store_names(name)))))


def handled(one: rig.SimulatedSet, meters: dict[str, rig.Meter], chance: random.Random) -> Iterator[str]:
    """Each lifted, laid on every meter, warmed and laid back; one refitted; all of it knocked."""
    for name in sorted(one.capacitors):
        yield happened(one.lift(name))
        ends = one.terminals(name)
        yield happened(one.bridge(*ends))
        for meter in meters.values():
            for quantity in QUANTITIES[2:-1]:
                yield shown(one, meter, quantity, *ends)
        yield happened(one.heat(name, chance.choice((-10.0, 45.0, 70.0))))
        yield happened(one.bridge(*ends))
        yield shown(one, meters["bridge"], "capacitance_series", *ends)
        yield happened(one.wait(60.0))
        yield happened(one.lay_back(name))
    old = one.capacitors[min(one.capacitors)]
    offered = workshop.drawer_for(old, chance)[:8] + workshop.spares_for(old, set(), chance)
    for row in offered:
        yield told(row.facts, workshop.as_fitted(old, row.facts, chance).sections[0].marked_f)
    yield happened(one.fit(workshop.like_new(old, chance)))
    yield happened(one.knock())
    yield happened(one.plug())
    yield happened(one.wait(0.2))
    yield happened(one.unplug())


def day(set_id: str, seed: int) -> list[str]:
    """All of it, line by line."""
    one = rig.make(set_id, seed, quick=seed > 0, wear=0.2 * (seed == 1), camera=0.2 * (seed == 2))
    meters, chance = rig.meters(seed, out=("fine",) if seed == 2 else ()), random.Random(seed)
    lines = list(made(one))
    for part in (under_power(one, meters), emptied(one, meters), handled(one, meters, chance)):
        lines += part
    return lines


def shelf(set_id: str, seed: int) -> Iterator[str]:
    """What the factory of a set makes on another day, and what a drawer and a shop have for each of its parts; no power."""
    one, chance = rig.make(set_id, seed), random.Random(seed)
    yield from made(one)
    yield f"{said(manual.places_of(one))} {said(manual.equipment_of(one))} {manual.supply_line(one)} {manual.chassis_of(one)}"
    supply = manual.supply_of(one)
    for _, old in sorted(one.capacitors.items()):
        classes = truth.classes_of(old)
        yield f"{truth.state_of(old)} {sorted(classes)}"
        for row in (*workshop.drawer_for(old, chance), *workshop.spares_for(old, classes, chance)):
            fitted = workshop.as_fitted(old, row.facts, chance)
            fits = [
                truth.is_fit(old, classes, supply, earthed=earthed, space=space, one=row.facts)
                for earthed in (True, False)
                for space in ((100.0, 100.0, 100.0), (12.0, 10.0, 20.0))
            ]
            yield f"{told(row.facts)} {said(fitted)} {fits}"
        yield said(workshop.like_new(old, chance))
    for meter in rig.meters(seed).values():
        for name, function in meter.functions.items():
            if name in ("volts_dc", "volts_ac"):
                yield told(*(workshop.shown_volts(chance.uniform(-3, 3), function, (share, 1.0)) for share in (-1.0, 0.0, 0.7)))


def shelves(set_id: str) -> list[str]:
    """Of many days: every way a set is made."""
    return [line for seed in MANY for line in shelf(set_id, seed)]


class EveryDay(unittest.TestCase):
    """One test for each set."""

    def of_set(self, set_id: str) -> None:
        with KEPT.open(encoding="utf-8") as file:
            rows = [row for row in csv.DictReader(file) if row["set_id"] == set_id]
        self.assertEqual([int(row["seed"]) for row in rows], list(SEEDS))
        for row in rows:
            lines = day(set_id, int(row["seed"]))
            self.assertEqual((len(lines), digest(lines)), (int(row["lines"]), row["told"]), row)


class EveryShelf(unittest.TestCase):
    """One test for each set, over many days on which nothing is switched on."""

    def of_set(self, set_id: str) -> None:
        with SHELVES.open(encoding="utf-8") as file:
            (row,) = [row for row in csv.DictReader(file) if row["set_id"] == set_id]
        lines = shelves(set_id)
        self.assertEqual((len(lines), digest(lines)), (int(row["lines"]), row["told"]), row)


for _id in rig.SETS:
    setattr(EveryDay, f"test_{_id}", lambda self, set_id=_id: self.of_set(set_id))
    setattr(EveryShelf, f"test_{_id}", lambda self, set_id=_id: self.of_set(set_id))


if __name__ == "__main__":
    with KEPT.open("w", encoding="utf-8", newline="") as kept:
        writer = csv.writer(kept, lineterminator="\n")
        writer.writerow(("set_id", "seed", "lines", "told"))
        for set_id in rig.SETS:
            for seed in SEEDS:
                lines = day(set_id, seed)
                writer.writerow((set_id, seed, len(lines), digest(lines)))
    with SHELVES.open("w", encoding="utf-8", newline="") as kept:
        writer = csv.writer(kept, lineterminator="\n")
        writer.writerow(("set_id", "lines", "told"))
        for set_id in rig.SETS:
            lines = shelves(set_id)
            writer.writerow((set_id, len(lines), digest(lines)))
