"""Places, labels and readings as drawn questions need them, near what decides."""

import contextlib
import random
from pathlib import Path

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import (
    Arrangement,
    Basis,
    Bleeder,
    Condition,
    Dropper,
    Equipment,
    LoadState,
    Mounting,
    OldPart,
    Part,
    PartKind,
    Position,
    Quantity,
    Reach,
    Reading,
    Relay,
    Role,
    ServiceLife,
    Surroundings,
    Topology,
)
from dusky_heron.core.model.parts import LeadForm, Origin
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.core.selection.question import likely_kind


def printed() -> list[tuple[Role, str]]:
    """Labels of simulated sets, worn and misread, with what each part does."""
    marked = []
    sets = [rig.make(one, seed, wear=0.1 * (seed % 2), camera=0.1 * (seed % 3 == 2)) for one in rig.SETS for seed in range(6)]
    for part in (part for one in sets for part in one.capacitors.values()):
        with contextlib.suppress(InputError):  # worn to nothing
            read_marking(part.printed)
            marked.append((Role(part.role), part.printed))
    return marked


def written_down() -> list[tuple[Role, str]]:
    """Labels of the trade, in a place they may be for, and in one they may not."""
    with (Path(__file__).parent / "markings.csv").open(encoding="utf-8") as file:
        rows = [line.split("|")[0] for line in file if line.strip() and not line.startswith(("#", "text|"))]
    found = []
    for k, text in enumerate(rows):
        with contextlib.suppress(InputError):
            found.append((likely_role(read_marking(text)) or list(Role)[k % len(Role)], text))
    return found


LABELS = printed() + written_down()


def spoilt(chance: random.Random, text: str) -> str:
    """A label as a hand copies it: a sign dropped, doubled or another, a comma for a point, a blank too many."""
    place = chance.randrange(len(text))
    return chance.choice((
        text[:place] + text[place + 1 :], text[:place] + text[place] + text[place:], text.replace(".", ","), text.replace(" ", ""),
        text.lower(), text[:place] + " " + text[place:], text[:place] + chance.choice("0123456789-/.,~=VKµn") + text[place + 1 :],
    ))  # fmt: skip


def surroundings(chance: random.Random, role: Role) -> Surroundings:
    """What may be known around a place: often nothing."""
    pick = chance.choice
    arrangement = pick((Arrangement.SINGLE,) * 4 + tuple(Arrangement))
    return Surroundings(
        basis=pick((None, None, *Basis)),
        volts=pick((None, None, 24.0, 325.0, 900.0)),
        confirmed=chance.random() < 0.3,
        arrangement=arrangement,
        count=1 if arrangement is Arrangement.SINGLE else pick((2, 3, 4)),
        balancing_ohm=pick((None, None, 47e3)),
        bleeder=pick((None, None, Bleeder(220e3, 2, 350.0), Bleeder(470e3, measured_ohm=4.6e5), Bleeder(1e6, 1, 250.0, 2e9))),
        dropper=_dropper(chance) if role is Role.DROPPER and chance.random() < 0.6 else None,
        life=ServiceLife(pick((2e3, 5e3)), 105.0, pick((55.0, 75.0, 105.0)), pick((2.0, 12.0, 24.0)))
        if chance.random() < 0.2
        else None,
    )


def _dropper(chance: random.Random) -> Dropper:
    pick = chance.choice
    relay = pick((None, Relay(coil_ohm=920, pull_in_v=16.8, hold_v=12, reset_v=9)))
    valve = LoadState("valve", pick((20e-3, 34e-3)), relay, pick((None, 600e-9)))
    states = pick(((), (LoadState("standby", 8e-3),), (LoadState("standby", 8e-3), valve)))
    return Dropper(pick(list(Topology)), 24.0, states, pick((None, 100.0)), pick((None, 1.3)), pick((None, 1e-6)))


def mounting(chance: random.Random) -> Mounting:
    """How a place holds its part."""
    pick = chance.choice
    return Mounting(pick(((), (15.0, 22.5))), pick((None, *LeadForm)), chance.random() < 0.2, chance.random() < 0.1)


def place(chance: random.Random, role: Role, marking: Marking) -> Position:
    """A place of some kind for a part."""
    pick = chance.choice
    equipment = Equipment(pick(("", "I", "II", "III")), two_core=chance.random() < 0.2, live_chassis=chance.random() < 0.1)
    old = (
        OldPart(pick((None, None, *PartKind)), pick((None, 0.5)), pick((None, 0.2)), pick((None, 1e8)), pick((None, 20.0)))
        if chance.random() < 0.5
        else OldPart()
    )
    return Position(
        "C1", role, marking, pick((None, 120.0, 230.0, 230.0, 400.0)), pick((None, 50.0, 50.0, 60.0)),
        pick(((), (), ("X2",), ("Y2",), ("X1", "Y2"))), pick((None, None, (30.0, 20.0, 30.0), (60.0, 60.0, 90.0))),
        pick((None, None, 22.5, 27.5)), surroundings(chance, role), equipment, mounting(chance), old, pick((None, *Reach)),
    )  # fmt: skip


def drawer(chance: random.Random, role: Role, label: str, count: int) -> list[Part]:
    """Parts for a place: those of its own label and of others of its kind, each kept in another way."""
    own = [text for one, text in LABELS if one is role] or [label]
    return [part(chance, str(k), role, label if k % 3 == 0 else chance.choice(own)) for k in range(count)]


def part(chance: random.Random, part_id: str, role: Role, label: str) -> Part:
    """A part of a drawer with everything that may be kept of it."""
    pick, marking = chance.choice, read_marking(label)
    kind = likely_kind(marking, role) if chance.random() < 0.8 else pick(list(PartKind))
    return Part(
        part_id, kind, marking, pick((0, 1, 2, 5)), pick(list(Origin)),
        pick((None, (25.0, 15.0, 25.0), (41.0, 20.0, 32.0))), pick((None, 15.0, 22.5, 27.5)), chance.random() < 0.3,
        pick((None, 0.4, 1.8, 1.8)), pick((None, 0.4, 2.0)), pick((None, 5e7, 2e8)), pick((None, *LeadForm)), chance.random() < 0.3,
        pick((None, 10.0, 40.0)), pick((None, 0.1, 0.5)), pick((None, 1994.0, 2012.5, 2025.5)),
    )  # fmt: skip


def reading(chance: random.Random, marking: Marking, role: Role) -> Reading:
    """Something measured near what decides."""
    quantity = chance.choice((*[Quantity.CAPACITANCE] * 3, *Quantity))
    shares = (0.0, 0.3, 0.7, 0.79, 0.81, 0.89, 0.91, 0.94, 0.96, 1.0, 1.04, 1.06, 1.09, 1.11, 1.19, 1.21, 1.6, 3.0)
    size = {
        Quantity.CAPACITANCE: marking.capacitance_f * chance.choice(shares), Quantity.DISSIPATION: 10 ** chance.uniform(-4, 0),
        Quantity.ESR: 10 ** chance.uniform(-3, 2), Quantity.INSULATION: 10 ** chance.uniform(5, 11),
        Quantity.LEAKAGE: 10 ** chance.uniform(-8, -1), Quantity.RESISTANCE: 10 ** chance.uniform(-1, 8),
    }.get(quantity, 10 ** chance.uniform(-1, 3))  # fmt: skip
    error = size * chance.choice((0.002, 0.02, 0.08))
    in_service = quantity in (Quantity.CURRENT, Quantity.RIPPLE, Quantity.VOLTS_AC, Quantity.VOLTS_DC)
    condition = Condition.IN_SERVICE if in_service else chance.choice((*[Condition.LIFTED] * 3, *Condition))
    return Reading(
        size, size - error, size + error, condition, 0, "m", quantity, chance.choice((None, 100.0, 1e3, 1e5)),
        chance.random() < 0.1, chance.choice((None, None, 100.0, 500.0)), chance.choice((None, None, 60.0)),
        chance.choice((None, 20.0, 45.0)),
    )  # fmt: skip
