"""A part as it is made, told from its marking and its kind alike for an old one and an offered one."""

from collections.abc import Mapping

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import AsItIs, Bleeder, Family, OldPart, PartKind
from dusky_heron.core.model.materials import Sure, made_of

FAMILIES: Mapping[str, Family] = {
    "polyester": Family.FILM,
    "polypropylene": Family.FILM,
    "paper": Family.FILM,
    "mica": Family.MICA,
    "ceramic_1": Family.CERAMIC_1,
    "ceramic_2": Family.CERAMIC_2,
    "ceramic_2_stable": Family.CERAMIC_2,
    "electrolytic": Family.ELECTROLYTIC,
}
CLASS_1_UP_TO_F = 20e-9  # F: class 1 ceramics are hardly made above (IEC 60384-8: low permittivity, hence large bodies)


def as_it_is(marking: Marking, kind: PartKind | None, *, old: bool = False) -> AsItIs:
    """What a part is made as, as far as marking and kind tell.

    A ceramic of no printed class is taken for class 2 where it is offered, and for class 1 where it is the old part and of a value
    that is made so: the careful way round.

    :param marking: what is printed
    :param kind: what it is made as, None when not known
    :param old: whether it is the one in the place
    :returns: AsItIs; what is not known is None
    :raises InputError: never
    :source: table `materials`; IEC 60384-8 and -9 (classes of ceramics), IEC 60384-4 (polarity)
    """
    made = made_of(marking, None, kind)
    told = made.known_from is not Sure.USUAL or marking.printed_range
    families = {FAMILIES[material.key] for material in made.plausible} if told else set()
    if not families and any(token.meaning == "film" for token in marking.tokens):
        families = {Family.FILM}
    careful = Family.CERAMIC_1 if old and marking.capacitance_f <= CLASS_1_UP_TO_F else Family.CERAMIC_2
    family = careful if careful in families else min(families, default=None)
    bipolar = any(token.meaning == "bipolar" for token in marking.tokens)
    return AsItIs(
        family=family,
        polar=(not bipolar if family is Family.ELECTROLYTIC else False) if family or bipolar else None,
        service=marking.duty.service if marking.duty else "",
        series_ohm=marking.series_ohm,
        bleeder_ohm=marking.bleeder_ohm,
    )


def old_as_it_is(marking: Marking, old: OldPart, inside: Bleeder | None) -> AsItIs:
    """The part in a place as it is, with what data sheet or circuit say it carries.

    :param marking: what is printed on it
    :param old: what is known of it beyond
    :param inside: the bleeder inside it, where one was noted
    :returns: AsItIs
    :raises InputError: never
    :source: as `as_it_is`
    """
    seen = as_it_is(marking, old.kind, old=True)
    return AsItIs(
        seen.family, seen.polar, seen.service, seen.series_ohm,
        seen.bleeder_ohm or (inside.marked_ohm if inside else None),
        old.ripple_a, old.esr_ohm, old.dvdt_v_s, old.peak_a,
    )  # fmt: skip
