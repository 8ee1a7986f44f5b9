"""The list to work through while a part is fitted: the old one out, every wire back, polarity, bleeder, distances."""

from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import sha256

from dusky_heron.core.model import ROLES, Position
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.ways import WITH_PARTS, Way
from dusky_heron.core.wiring import PutBack

EMPTY, PHOTO = "empty", "photo"  # ids of the lines that something else has to stand for
SHARED = "shared:"  # how ids begin of what is put back once, whichever list of the job it is ticked on


@dataclass(frozen=True, slots=True)
class FittingLine:
    """One thing to do: by which id it is ticked, in words, and by which lines of the map."""

    id: str
    sentence: str
    keys: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Filling:
    """How a place is filled: what it takes to make the parts fit, what has to be made of several, a resistor beside them."""

    way: Way
    adaptations: tuple[str, ...] = ()
    makes: tuple[str, ...] = ()
    resistor: str = ""


_Item = tuple[str, str] | tuple[str, str, tuple[str, ...]]

OLD_CAN = {
    "remove": "Old part out of the circuit and out of the set; nothing of it left in.",
    "leave": "Old can disconnected on every section, left for its looks, and noted.",
    "either": "Old part out of the circuit, every section; left in place only disconnected and noted.",
}


def fitting_list(
    position: Position,
    fills: Filling,
    back: Sequence[PutBack],
    *,
    distance: str,
    old_can: str = "either",
    photo: bool = False,
) -> tuple[FittingLine, ...]:
    """What to do and to tick while a place is filled, in the order of the work.

    :param position: the place, with what is around it
    :param fills: how it is filled, and by which parts
    :param back: what goes back while it is, by the map of how it was found
    :param distance: the distance to keep, of `fit.clearance`
    :param old_can: the workshop's school on old cans
    :param photo: whether a photo of the finished place is asked for
    :returns: lines; each is ticked by somebody, and a line that says another thing has another id; none where nothing is changed
    :raises InputError: never
    :source: trade practice after fitting; the need and the map of the job
    """
    if fills.way not in WITH_PARTS and fills.way is not Way.REMOVED:
        return ()
    sections = position.marking.sections
    can = ROLES[position.role].polarised and len(sections) > 1
    items: list[_Item] = [(EMPTY, "Proved empty just before, again."), ("old_out", OLD_CAN[old_can] if can else OLD_CAN["remove"])]
    items.append(("tagged", "Old part tagged and kept for the customer."))
    if fills.way is Way.REMOVED:
        items += [_wire(one) if one.shared else _said("wire", f"Wire made off: {one.says}.", one.keys) for one in back]
        items.append(("ends", "Its wires and holes left so that nothing touches: ends sleeved, tied back, no loose strand."))
        items.append(("written", "Written inside the set that the place is empty, and why."))
    else:
        items += _parts_in(position, fills, back)
    items += [_said("distance", distance), ("fixed", "Fixed so that it cannot move; nothing loose left inside.")]
    if photo:
        items.append((PHOTO, "A photo of the finished place."))
    return tuple(FittingLine(*item) for item in items)


def _parts_in(position: Position, fills: Filling, back: Sequence[PutBack]) -> list[_Item]:
    """The lines of what goes in: how each part is made to fit, wires, polarity, straps, resistors."""
    items: list[_Item] = [_said("fit", one) for one in fills.adaptations]
    items += [_said("make", one) for one in fills.makes]
    items += [_wire(one) for one in back]
    if ROLES[position.role].polarised:
        items.append(("polarity", "Polarity: plus to plus, against the map and the board."))
    if len(position.marking.sections) > 1 and fills.way is Way.SINGLES:
        items.append(("strap", "Strap between the commons fitted, and pulled at."))
    if fills.resistor:
        items.append(_said("resistor", f"Resistor fitted and measured: {fills.resistor}."))
    bleeder = position.surroundings.bleeder
    if bleeder:
        instead = "a new one, the old reads open" if bleeder.open else "back across it"
        items.append(_said("bleeder", f"Bleeder {show(bleeder.marked_ohm, 'Ω')}: {instead}, and measured."))
    if position.surroundings.balancing_ohm or fills.way is Way.SERIES:
        ohm = position.surroundings.balancing_ohm
        each = show(ohm, "Ω") if ohm else "of the series string bench"
        items.append(_said("balancing", f"Balancing resistors {each} across each, and measured."))
    return items


def _wire(one: PutBack) -> _Item:
    return _said(SHARED.rstrip(":") if one.shared else "wire", f"Wire back: {one.says}.", one.keys)


def _said(about: str, sentence: str, keys: tuple[str, ...] = ()) -> _Item:
    """A line whose words depend on the place: what was ticked of other words is not ticked."""
    return f"{about}:{sha256(sentence.encode()).hexdigest()[:16]}", sentence, keys
