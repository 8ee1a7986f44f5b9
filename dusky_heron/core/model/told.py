"""What a place or a kind of part tells about a marking: on which volts it is, and which values are made for it."""

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.markings.place import settled
from dusky_heron.core.model.roles import ALTERNATING_ROLES, DIRECT_ROLES, ROLES
from dusky_heron.core.model.terms import ALTERNATING_BASES, BASIS_TITLES, DIRECT_BASES, Basis, Role


def told_by_place(marking: Marking, role: Role | None, basis: Basis | None = None) -> Marking:
    """A marking without the readings that its role and its circuit rule out.

    :param marking: what is printed
    :param role: what the part does, None when not known
    :param basis: what feeds it, where that was chosen
    :returns: Marking
    :raises InputError: never
    :source: parts on direct volts print direct volts, parts across the mains alternating ones; values made for each role
    """
    if not marking.alternatives:
        return marking
    direct = basis in DIRECT_BASES or (basis not in ALTERNATING_BASES and role in DIRECT_ROLES)
    alternating = not direct and (basis in ALTERNATING_BASES or role in ALTERNATING_ROLES)
    where = f"{ROLES[role].title} place" if role else f"place {BASIS_TITLES[basis]}" if basis else ""
    told = told_kind(marking, direct=direct, alternating=alternating, where=f"in a {where}")
    if role is not None:
        least, most = ROLES[role].made_f
        told = settled(told, lambda one: least <= one.capacitance_f <= most, f"The value is one that is made for a {where}.")
    return told


def told_kind(marking: Marking, *, direct: bool, alternating: bool, where: str) -> Marking:
    """A marking without the readings on the other kind of volts, where it is certain which kind it is on.

    :param marking: what is printed
    :param direct: certainly on direct volts
    :param alternating: certainly on alternating volts
    :param where: what makes it certain
    :returns: Marking
    :raises InputError: never
    :source: as it is told
    """
    if direct:
        return settled(marking, lambda one: one.rated_dc_v is not None, f"V without a sign is DC {where}.")
    if alternating:
        return settled(marking, lambda one: one.rated_ac_v is not None, f"V without a sign is AC {where}.")
    return marking
