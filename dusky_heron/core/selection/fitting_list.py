"""The list to work through while a part is fitted: the old one out, every wire back, polarity, bleeder, distances."""

from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import sha256

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import ROLES, Position
from dusky_heron.core.quantities import show

EMPTY, PHOTO = "empty", "photo"  # ids of the lines that something else has to stand for


@dataclass(frozen=True, slots=True)
class FittingLine:
    """One thing to do: by which id it is ticked, and in words."""

    id: str
    sentence: str


OLD_CAN = {
    "remove": "Old part out of the circuit and out of the set; nothing of it left in.",
    "leave": "Old can disconnected on every section, left for its looks, and noted.",
    "either": "Old part out of the circuit, every section; left in place only disconnected and noted.",
}


def fitting_list(
    position: Position,
    fitted: Marking,
    adaptations: Sequence[str],
    wires: Sequence[str],
    *,
    distance: str,
    old_can: str = "either",
    photo: bool = False,
) -> tuple[FittingLine, ...]:
    """What to do and to tick while a part is fitted, in the order of the work.

    :param position: the place, with what is around it
    :param fitted: the marking of the part that goes in
    :param adaptations: what it takes to make it fit, of `fit.adaptations`
    :param wires: lines of the map of how it was found that name this place, as typed
    :param distance: the distance to keep, of `fit.clearance`
    :param old_can: the workshop's school on old cans
    :param photo: whether a photo of the finished place is asked for
    :returns: lines; each is ticked by somebody, and a line that says another thing has another id
    :raises InputError: never
    :source: trade practice after fitting; the need and the map of the job
    """
    can = ROLES[position.role].polarised and len(position.marking.sections) > 1
    items = [(EMPTY, "Proved empty just before, again."), ("old_out", OLD_CAN[old_can] if can else OLD_CAN["remove"])]
    items.append(("tagged", "Old part tagged and kept for the customer."))
    items += [_said("fit", one) for one in adaptations if one != distance]
    items += [_said("wire", f"Wire back: {wire}.") for wire in wires]
    if ROLES[position.role].polarised:
        items.append(("polarity", "Polarity: plus to plus, against the map and the board."))
    if len(position.marking.sections) > len(fitted.sections):
        items.append(("strap", "Strap between the commons fitted, and pulled at."))
    bleeder = position.surroundings.bleeder
    if bleeder:
        instead = "a new one, the old reads open" if bleeder.open else "back across it"
        items.append(_said("bleeder", f"Bleeder {show(bleeder.marked_ohm, 'Ω')}: {instead}, and measured."))
    if position.surroundings.balancing_ohm:
        each = show(position.surroundings.balancing_ohm, "Ω")
        items.append(_said("balancing", f"Balancing resistors {each} back across each, and measured."))
    items += [_said("distance", distance), ("fixed", "Fixed so that it cannot move; nothing loose left inside.")]
    if photo:
        items.append((PHOTO, "A photo of the finished place."))
    return tuple(FittingLine(key, sentence) for key, sentence in items)


def _said(about: str, sentence: str) -> tuple[str, str]:
    """A line whose words depend on the place: what was ticked of other words is not ticked."""
    return f"{about}:{sha256(sentence.encode()).hexdigest()[:16]}", sentence
