"""What a simulated workshop owns: meters with what is kept of them, discharge resistors, a drawer, and a shop round the corner."""

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache, lru_cache

from dusky_heron.core import rig
from dusky_heron.core.discharge.proving import MeterKind, Voltmeter
from dusky_heron.core.discharge.tools import Construction, Resistor
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.metering.accuracy import Accuracy, Method, Specification
from dusky_heron.core.metering.volts import VoltRanges
from dusky_heron.core.model import Part, PartKind, Quantity, Role
from dusky_heron.core.proving.truth import KINDS, Facts
from dusky_heron.core.rig.capacitors import Capacitor, section
from dusky_heron.core.rig.meter import Function, Meter

W, M, F = Construction.WIREWOUND, Construction.METAL_OXIDE, Construction.FILM
OWNED = (  # ohms, watts, how it is made, volts, joules of its data sheet
    (100.0, 50.0, W, 500.0, None), (360.0, 25.0, W, 700.0, None), (360.0, 25.0, W, 700.0, None), (1e3, 50.0, W, 1e3, 400.0),
    (4.7e3, 25.0, W, 1e3, 200.0), (10e3, 10.0, W, 500.0, None), (22e3, 5.0, M, 500.0, 8.0), (47e3, 5.0, M, 1e3, 20.0),
    (100e3, 3.0, M, 1e3, 10.0), (220e3, 2.0, F, 500.0, None), (1e6, 10.0, M, 10e3, 60.0), (4.7e3, 100.0, W, 1.5e3, 800.0),
)  # fmt: skip
RESISTORS = tuple(
    Resistor(f"{k}", f"{ohm:g} Ω {watt:g} W", ohm, 0.05, watt, made, volts, pulse)
    for k, (ohm, watt, made, volts, pulse) in enumerate(OWNED)
)
POLAR = (PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC, PartKind.MOTOR_START)
KNOWN_V = 60.0  # of the proving unit, DC and AC
OF: Mapping[str, Quantity] = {
    "volts_dc": Quantity.VOLTS_DC, "volts_ac": Quantity.VOLTS_AC, "resistance": Quantity.RESISTANCE,
    "capacitance": Quantity.CAPACITANCE, "capacitance_series": Quantity.CAPACITANCE, "dissipation": Quantity.DISSIPATION,
    "esr": Quantity.ESR, "insulation": Quantity.INSULATION, "leakage": Quantity.LEAKAGE, "current": Quantity.CURRENT,
}  # fmt: skip
WAYS: Mapping[Quantity, tuple[tuple[str, str], ...]] = {  # which meter is taken first for a quantity, and which when asked again
    Quantity.CAPACITANCE: (("hand", "capacitance"), ("fine", "capacitance"), ("bridge", "capacitance_series")),
    Quantity.RESISTANCE: (("hand", "resistance"), ("fine", "resistance")),
    Quantity.ESR: (("bridge", "esr"),),
    Quantity.DISSIPATION: (("bridge", "dissipation"),),
    Quantity.INSULATION: (("insulation", "insulation"),),
    Quantity.LEAKAGE: (("leakage", "leakage"),),
}
DRAWER, SIZES = 40, ((10.0, 8.0, 15.0), (30.0, 30.0, 60.0), (90.0, 90.0, 150.0))
NEAR = (0.47, 0.8, 0.94, 1.0, 1.0, 1.0, 1.04, 1.2, 1.6, 3.3)
SPACE = (95.0, 95.0, 160.0)  # mm, of every place: whether a body fits is geometry, and not proved here
DIRECT = frozenset(
    {PartKind.FILM_DC, PartKind.FILM_PULSE, PartKind.CERAMIC, PartKind.MICA, PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC}
)


@dataclass(frozen=True)
class Offered:
    """A part in a drawer: what it is, and as the drawer has it."""

    facts: Facts
    part: Part


@cache
def specification(meter_id: str) -> Specification:
    """What is kept of a meter, from its data sheet."""
    meter = rig.meters(exact=True)[meter_id]
    ranges: dict[Quantity, tuple[Accuracy, ...]] = {}
    for name, function in meter.functions.items():
        if name in OF:
            ranges.setdefault(OF[name], _accuracies(function))
    method = Method.LCR_SERIES if meter_id == "bridge" else Method.TIMED_CHARGE
    return Specification(ranges, method, 120.0 if meter_id == "bridge" else None)


def _accuracies(function: Function) -> tuple[Accuracy, ...]:
    """Ranges by where each ends and the worth of its last digit: as many counts as make the two agree."""
    return tuple(Accuracy(function.percent, function.counts, round(full / step), full_scale=full) for full, step in function.ranges)


@cache
def volt_ranges(meter_id: str) -> tuple[VoltRanges, VoltRanges]:
    """Its volts, DC and AC."""
    meter = rig.meters(exact=True)[meter_id]
    fixed = meter_id == "probe"
    kinds = (Quantity.VOLTS_DC, Quantity.VOLTS_AC)
    dc, ac = (VoltRanges.of(specification(meter_id), kind, meter.stands_v, fixed=fixed) for kind in kinds)
    return dc, ac


def voltmeter(meter: Meter) -> Voltmeter:
    """A meter as it is kept, for what it may be laid across."""
    kind = MeterKind.PROBE if meter.id == "probe" else MeterKind.MULTIMETER
    return Voltmeter(meter.title, meter.stands_v, "III", 1000.0, kind, meter.functions["volts_dc"].ohm)


def drawer_for(old: Capacitor, luck: random.Random) -> list[Offered]:
    """A drawer with parts near to one in value and volts, right and wrong in every other respect."""
    return [_offered(str(k), _drawn(luck, old.sections[0].marked_f, old.rated_v)) for k in range(DRAWER)]


def spares_for(old: Capacitor, classes: set[str], luck: random.Random) -> list[Offered]:
    """What the shop has of the same kind: parts of the marked value and volts, of every make that is made for the place."""
    role = Role(old.role)
    farads, volts = old.sections[0].marked_f, old.rated_v
    name = min(classes) if classes else ("Y1" if role is Role.Y else "X2" if role in (Role.X, Role.DROPPER) else "")
    kinds = sorted(sorted(KINDS[role]), key=lambda _: luck.random())  # a set has another order in each process
    if role is Role.SNUBBER and old.ac:
        kinds, name = [PartKind.FILM_SAFETY], "X2"
    found = []
    for kind in kinds:
        ac = kind not in DIRECT
        classed = name if kind in (PartKind.FILM_SAFETY, PartKind.CERAMIC_SAFETY) else ""
        rated = max(volts, 275.0) if ac and classed else volts if ac == old.ac else volts * (0.7 if ac else 1.5)
        found.append(Facts(kind, farads, float(f"{rated:.3g}"), ac, classed, 5, short=role is Role.MOTOR_START))
    return [_offered(f"shop {k}", facts) for k, facts in enumerate(found)]


@lru_cache(maxsize=5000)
def _read(label: str) -> Marking:
    return read_marking(label)


def _offered(part_id: str, facts: Facts) -> Offered:
    marking = _read(facts.label())
    return Offered(facts, Part(part_id, facts.kind, marking, size_mm=facts.size, dvdt_v_s=1e9, peak_a=99.0, ripple_a=9.0))


def _drawn(luck: random.Random, farads: float, volts: float) -> Facts:
    kind = luck.choice(list(PartKind))
    safety = kind in (PartKind.FILM_SAFETY, PartKind.CERAMIC_SAFETY)
    value = float(f"{farads * luck.choice(NEAR):.3g}")
    rated = float(int(volts * luck.choice((0.5, 0.9, 1, 1, 1.1, 1.5, 2))))
    short = kind is PartKind.MOTOR_START or (luck.random() < 0.2 and kind is PartKind.MOTOR_RUN)
    name = luck.choice(("X1", "X2", "X3", "Y1", "Y2")) if safety else ""
    return Facts(kind, value, rated, kind not in DIRECT, name, luck.choice((2, 5, 10, 20)), short, luck.choice(SIZES))


def as_fitted(old: Capacitor, facts: Facts, luck: random.Random) -> Capacitor:
    """The part in truth, new and inside its tolerance, with one section for each of the old one's."""
    within = 0.7 * facts.tolerance / 100
    share = facts.farads / old.sections[0].marked_f
    sections = tuple(section(old_one.marked_f * share, luck.uniform(-within, within)) for old_one in old.sections)
    material = "electrolytic" if facts.kind in POLAR else "polypropylene"
    made = replace(old, sections=sections, material=material, tolerance=facts.tolerance / 100, rated_v=facts.volts, ac=facts.ac)
    return replace(made, printed=facts.label(), joint="sound", years=0.0, unformed=1.0, seen=(), celsius=20.0)


def like_new(old: Capacitor, luck: random.Random) -> Capacitor:
    """The maker's own spare: the same part, new."""
    within = 0.05
    sections = tuple(section(one.marked_f, luck.uniform(-within, within)) for one in old.sections)
    return replace(old, sections=sections, joint="sound", years=0.0, unformed=1.0, seen=(), celsius=20.0)


def shown_volts(value: float, function: Function, errs: tuple[float, float]) -> str:
    """What a voltmeter with a reading too small to load anything shows."""
    full, step = function.ranges[0]
    read = round((value * (1 + errs[0] * function.percent / 100) + errs[1] * function.counts * step) / step) * step
    digits = max(0, -math.floor(math.log10(step) + 1e-9))
    return f"{read:.{digits}f}" if abs(read) <= full else f"{value:.3f}"
