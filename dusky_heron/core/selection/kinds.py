"""Whether a part is made as the place asks: the one reason of its kind, polarity or duty that refuses it."""

from functools import cache

from dusky_heron.core.model import KIND_TITLES, ROLES, Basis, Family, Need, Part, PartKind, Role
from dusky_heron.core.model.materials import ELECTROLYTIC_FROM_F
from dusky_heron.core.model.parts import DIRECT_KINDS
from dusky_heron.core.model.roles import ALTERNATING_ROLES, CLASSED, DIRECT_ROLES, POLARISED, ServiceDuty, roles_that
from dusky_heron.core.selection.as_it_is import as_it_is

RUN = roles_that(lambda row: row.basis == Basis.MOTOR and row.duty == ServiceDuty.CONTINUOUS)
CONTINUOUS = roles_that(lambda row: row.duty == ServiceDuty.CONTINUOUS)
PULSED = roles_that(lambda row: row.pulsed)
STORE = POLARISED & PULSED
FILTERS = POLARISED - PULSED
AS_THE_OLD = DIRECT_ROLES - PULSED  # what the old part is made as, the new one may be
ELECTROLYTIC = frozenset({PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC})
SAFETY = (PartKind.FILM_SAFETY, PartKind.CERAMIC_SAFETY)
CERAMICS = frozenset({Family.CERAMIC_1, Family.CERAMIC_2, Family.MICA})
SHORT_SERVICE = frozenset({"start", "intermittent"})


def kinds_for(need: Need) -> tuple[PartKind, ...]:
    """The kinds of part that may take a place: those made for its role, for its class, and as the old part is.

    :param need: what the place demands
    :returns: kinds, those of the role first
    :raises InputError: never
    :source: table `roles`; electrolytic for electrolytic, class 1 ceramic for mica; classed parts in a mains snubber
    """
    return _kinds(need.role, need.old.family, classed=bool(need.sections_classes), alternating=need.alternating)


@cache
def _kinds(role: Role, family: Family | None, *, classed: bool, alternating: bool) -> tuple[PartKind, ...]:
    """The kinds, kept: a drawer asks for the same few thousands of times."""
    kinds = [PartKind(kind) for kind in ROLES[role].kinds]
    if role in PULSED:
        kinds += [PartKind.FILM_SAFETY] if alternating and role not in ALTERNATING_ROLES else []
    elif classed and role not in CLASSED:
        kinds += SAFETY
    if role in AS_THE_OLD:
        kinds += [PartKind.ELECTROLYTIC] if family is Family.ELECTROLYTIC else []
        kinds += [PartKind.CERAMIC] if family in CERAMICS else []
        kinds += [PartKind.MICA] if family in CERAMICS or role not in POLARISED else []
    return tuple(dict.fromkeys(kinds))


def refused_as_made(need: Need, part: Part) -> tuple[str, str] | None:
    """The id of the rule and the sentence by which what a part is made as refuses it; None where nothing does.

    :param need: what the place demands
    :param part: the part offered
    :returns: (rule id, sentence) or None; one alone, the plainest
    :raises InputError: never
    :source: each rule names its own
    """
    if part.kind in ELECTROLYTIC and _turned(need, polar=as_it_is(part.marking, part.kind).polar is not False):
        return "role.polarity", "An electrolytic has a polarity: never where the voltage turns round or may."
    if need.role in RUN and (part.kind is PartKind.MOTOR_START or part.marking.printed_range):
        return "role.start_for_run", "A start capacitor stands seconds, not continuous duty: never in a run place."
    kinds = kinds_for(need)
    if part.kind in kinds:
        return _unlike_the_old(need, part)
    title = KIND_TITLES[part.kind]
    if need.role in ALTERNATING_ROLES and part.kind in DIRECT_KINDS:
        return "role.dc_on_mains", f"A {title} part on the mains burns: its DC volts say nothing about AC."
    if need.role in RUN:
        return "role.motor_part", "Not a motor run part: continuous AC duty is not proved by its marking."
    if need.role in STORE and part.kind is PartKind.ELECTROLYTIC:
        return "role.pulse_store", "A general electrolytic is not made for the discharge of an energy store."
    if need.role in FILTERS and part.kind is PartKind.PULSE_ELECTROLYTIC:
        return "role.flash_for_filter", "A part made for flash discharges does not stand continuous ripple current."
    if need.role in AS_THE_OLD - POLARISED and part.kind in (PartKind.ELECTROLYTIC, PartKind.CERAMIC):
        return "kind.old", _not_as_the_old(need, title)
    wanted = " or ".join(KIND_TITLES[kind] for kind in kinds)
    return "role.kind", f"A {title} part is not made for this place; it takes {wanted}."


def _turned(need: Need, *, polar: bool) -> bool:
    """Whether the volts of a place would turn a polar part round."""
    if not polar:
        return False
    if need.role in POLARISED:
        return need.old.polar is False and need.old.family is Family.ELECTROLYTIC
    return not (need.role in AS_THE_OLD and need.old.family is Family.ELECTROLYTIC and need.old.polar)


def _unlike_the_old(need: Need, part: Part) -> tuple[str, str] | None:
    """Of a kind that may stand here, but not for this old part."""
    class_1_asked = part.kind is PartKind.CERAMIC and need.old.family in (Family.MICA, Family.CERAMIC_1)
    if class_1_asked and as_it_is(part.marking, part.kind).family is Family.CERAMIC_2:
        return "kind.old", f"The old part is {need.old.family}: of ceramics only class 1 takes its place, printed as C0G or NP0."
    small = need.old.family is None and max(marked for _, marked, _ in need.sections_f) < ELECTROLYTIC_FROM_F
    if part.kind in ELECTROLYTIC and (small or need.old.family not in (None, Family.ELECTROLYTIC)):
        return "kind.old", _not_as_the_old(need, KIND_TITLES[part.kind])
    return None


def _not_as_the_old(need: Need, title: str) -> str:
    if need.old.family is None:
        return f"What is the old part made as? A {title} part only takes the place of one of its kind: say so with the place."
    return f"The old part is {need.old.family}: a {title} part does not take its place."


def short_service(need: Need, part: Part) -> str | None:
    """A sentence where a part marked for start or intermittent service would be on all the time; None where it would not.

    :param need: what the place demands
    :param part: the part offered
    :returns: sentence or None
    :raises InputError: never
    :source: IEC 60252-1, duty; IEC 60252-2, start capacitors
    """
    service = part.marking.duty.service if part.marking.duty else ""
    if need.role in CONTINUOUS and service in SHORT_SERVICE:
        return f"Marked for {service} service: never where it is on all the time, whatever its volts."
    return None


def opens_question(role: Role, service: str) -> str:
    """What the service printed on the old part of a continuous place leaves open; "" where nothing.

    :param role: what the place does
    :param service: as printed on the old part
    :returns: a question or ""
    :raises InputError: never
    :source: as `short_service`
    """
    if role in RUN and service in SHORT_SERVICE:
        return f"The part in this run place is marked for {service} service: what do the motor's plate or its papers ask for?"
    return ""
