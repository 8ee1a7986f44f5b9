"""May this part replace that one: answered from two markings, without a job."""

from dataclasses import dataclass

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Part, PartKind, Position, Refusal, Role
from dusky_heron.core.model.roles import MOTORS
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.likely import likely_role

SMALLEST_ELECTROLYTIC_F, LARGEST_CERAMIC_F = 1e-6, 10e-9


@dataclass(frozen=True, slots=True)
class Replaces:
    """The answer: what was taken for granted, why not (nothing refuses where it may), and what is to be confirmed."""

    role: Role
    kind: PartKind
    allowed: bool
    reasons: tuple[str, ...]
    refusals: tuple[Refusal, ...]
    conditions: tuple[str, ...]


def likely_kind(marking: Marking, role: Role | None = None) -> PartKind:
    """What a part is made as, by what is printed on it; a DC part from 1 µF is taken for an electrolytic, the careful guess.

    :param marking: what is printed
    :param role: what the place does, if known: a pulse part cannot be told from a DC one by its marking
    :returns: PartKind
    :raises InputError: never
    :source: IEC 60384-14 classes, IEC 60252-1 duty; usual values of each kind
    """
    if marking.classes:
        only_y = all(name.is_y for name in marking.class_names)
        return PartKind.CERAMIC_SAFETY if only_y and marking.capacitance_f <= LARGEST_CERAMIC_F else PartKind.FILM_SAFETY
    if marking.printed_range:
        return PartKind.MOTOR_START
    if marking.ac_ratings:
        if role is Role.MAGNETRON:
            return PartKind.HIGH_VOLTAGE_AC
        return PartKind.MOTOR_RUN if marking.duty or role in MOTORS else PartKind.FILM_AC
    return PartKind.ELECTROLYTIC if marking.capacitance_f >= SMALLEST_ELECTROLYTIC_F else PartKind.FILM_DC


def may_replace_part(
    old: str, new: str, role: Role | None = None, kind: PartKind | None = None, *, supply_v: float | None = None
) -> Replaces:
    """Answer whether a part may take the place of another, from what is printed on both.

    :param old: marking of the part in the place
    :param new: marking of the part in the hand
    :param role: what the place does; guessed from the old marking where it points to one
    :param kind: what the new part is made as; guessed from its marking
    :param supply_v: mains, V rms, where it is known
    :returns: Replaces
    :raises InputError: a marking without a capacitance (`old`, `new`), or a role that must be told (`role`)
    :source: each refusal names its own
    """
    markings = []
    for field, text in (("old", old), ("new", new)):
        try:
            markings.append(read_marking(text))
        except InputError as error:
            raise InputError(field, error.sentence) from None
    was, offered = markings
    role = role or likely_role(was)
    if role is None:
        raise InputError("role", "Its marking does not say what it does: choose the place.")
    kind = kind or likely_kind(offered, role)
    try:
        need = need_of(Position("", role, was, supply_v, None))
    except InputError as error:
        raise InputError("old", error.sentence) from None
    selection = rank(need, [Part("offered", kind, offered)])
    if selection.rejected:
        return Replaces(role, kind, False, (), selection.rejected[0].reasons, ())
    taken = selection.accepted[0]
    return Replaces(role, kind, True, taken.reasons, (), taken.conditions)
