"""What somebody has to sign or to know before a part that is accepted is taken."""

from collections.abc import Iterator

from dusky_heron.core.model import Need, Origin, Part, Role
from dusky_heron.core.model.roles import MOTORS, ROLES, ServiceDuty
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.kinds import ELECTROLYTIC, PULSED, RUN
from dusky_heron.core.selection.rules import RIPPLED, chassis_f
from dusky_heron.core.selection.volts import sections_of

LARGER = {
    Role.X: "check the discharge time at the plug and the standby current",
    Role.RESERVOIR: "check the rectifier on the supply bench",
    Role.DROPPER: "the zener takes the rest; note its rating",
}
SAME_OHM = 0.05  # of two resistors that are taken for the same


def conditions_of(need: Need, part: Part) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The conditions of an accepted part: those that somebody has to sign, and those to know.

    :param need: what the place demands
    :param part: a part that no rule refuses
    :returns: sentences to sign, sentences to know
    :raises InputError: never
    :source: what data sheets rather than markings say; IEC 60252-1, IEC 60384-14; trade practice
    """
    return tuple(_to_sign(need, part)), tuple(_to_know(need, part))


def _to_sign(need: Need, part: Part) -> Iterator[str]:
    offered, old = part.marking, need.old
    if not _same(old.series_ohm, offered.series_ohm):
        was = f"{show(old.series_ohm, 'Ω')} in series" if old.series_ohm else "no resistor in series"
        now = show(offered.series_ohm, "Ω") if offered.series_ohm else "none"
        yield f"The old part has {was} inside, this one {now}: fit one beside it, or decide that it does without."
    if old.bleeder_ohm and not offered.bleeder_ohm:
        lost = show(old.bleeder_ohm, "Ω")
        yield f"The bleeder inside the old part, {lost}, is lost: fit one across it that is made for the volts."
    if need.role in RIPPLED and old.ripple_a is None:
        yield "The ripple current of the place is not known: compare the data sheets, ESR too."
    if need.role in PULSED and (old.dvdt_v_s is None or old.peak_a is None):
        yield "The dv/dt and peak current of the old part are not known: compare the data sheets."
    leads = chassis_f(need, part)
    for limit in need.beyond:
        if (leads if leads and need.touch else offered.highest_f) > limit.farads * (1 + 1e-9):
            yield f"{limit.beyond[:1].upper()}{limit.beyond[1:]}."


def _same(old_ohm: float | None, new_ohm: float | None) -> bool:
    if old_ohm is None or new_ohm is None:
        return old_ohm is None and new_ohm is None
    return abs(new_ohm / old_ohm - 1) <= SAME_OHM


def _to_know(need: Need, part: Part) -> Iterator[str]:
    if part.marking.capacitance_f > need.marked_f * (1 + 1e-6) and need.role in LARGER and not need.circuit:
        yield f"Larger than marked: {LARGER[need.role]}."
    if need.role in MOTORS and ROLES[need.role].duty == ServiceDuty.START:
        yield "A bleed resistor that was fitted goes back across it."
    wider = wider_tolerance(need, part)
    if wider:
        yield wider
    if need.space_mm and part.size_mm is None:
        yield "Its size is not on record: measure it against the space."
    if part.origin is Origin.SALVAGED:
        yield "Salvaged: its measurements on record before it goes in."
    if part.origin is Origin.OLD_STOCK and part.kind in ELECTROLYTIC:
        yield "Old stock: re-form it first, and measure its leakage."
    if part.quantity < 1:
        yield "None in the drawer: order it."


def not_compared(need: Need) -> str:
    """What the old part does not print and so holds no part back, in a sentence; "" where nothing of it is missing.

    :param need: what the place demands
    :returns: sentence or ""
    :raises InputError: never
    :source: the marking of the old part
    """
    missing = ["upper temperature"] if need.upper_c is None else []
    if need.role in RUN:
        missing += ["operating class"] if not need.duty else []
        missing += ["protection class"] if need.protection is None else []
    return f"Not known of the old part, so not compared: {', '.join(missing)}." if missing else ""


def wider_tolerance(need: Need, part: Part) -> str:
    """A tolerance wider than the old part's, where it is only told; "" where it is not wider."""
    for number, section in sections_of(need, part):
        minus, plus = need.spread[number] if need.spread else (-1.0, 1.0)
        low, high = section.lowest_f / section.capacitance_f - 1, section.highest_f / section.capacitance_f - 1
        if section.low_f is not None and (low < minus - 1e-6 or high > plus + 1e-6):
            return f"Tolerance {low * 100:+.3g}/{high * 100:+.3g} % for the old {minus * 100:+.3g}/{plus * 100:+.3g} %."
    return ""
