"""Places, labels and readings as drawn questions need them, near what decides."""

import contextlib
import random

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Basis, Bleeder, Condition, Equipment, Position, Quantity, Reading, Role, Surroundings


def printed() -> list[tuple[Role, str]]:
    """Labels of simulated sets, worn and misread, with what each part does."""
    marked = []
    sets = [rig.make(one, seed, wear=0.1 * (seed % 2), camera=0.1 * (seed % 3 == 2)) for one in rig.SETS for seed in range(6)]
    for part in (part for one in sets for part in one.capacitors.values()):
        with contextlib.suppress(InputError):  # worn to nothing
            read_marking(part.printed)
            marked.append((Role(part.role), part.printed))
    return marked


LABELS = printed()


def spoilt(chance: random.Random, text: str) -> str:
    """A label as a hand copies it: a sign dropped, doubled or another, a comma for a point, a blank too many."""
    place = chance.randrange(len(text))
    return chance.choice((
        text[:place] + text[place + 1 :], text[:place] + text[place] + text[place:], text.replace(".", ","), text.replace(" ", ""),
        text.lower(), text[:place] + " " + text[place:], text[:place] + chance.choice("0123456789-/.,~=VKµn") + text[place + 1 :],
    ))  # fmt: skip


def place(chance: random.Random, role: Role, marking: Marking) -> Position:
    """A place of some kind for a part."""
    around = Surroundings(
        basis=chance.choice((None, None, Basis.MAINS, Basis.RECTIFIED, Basis.DOUBLER, Basis.TRANSFORMER)),
        volts=chance.choice((None, None, 24.0, 325.0)),
        bleeder=chance.choice((None, None, Bleeder(220e3, 2, 350.0), Bleeder(470e3, measured_ohm=4.6e5))),
    )
    equipment = Equipment(chance.choice(("", "I", "II")), two_core=chance.random() < 0.2, live_chassis=chance.random() < 0.1)
    return Position("C1", role, marking, chance.choice((120.0, 230.0, 400.0)), 50.0, surroundings=around, equipment=equipment)


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
