"""From plausible readings to one marking: what they differ in is a doubt, with a question and its answers."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import NamedTuple

from dusky_heron.core.markings.assemble import Candidate, unread_as_text
from dusky_heron.core.markings.model import Doubt, Marking, Option, State
from dusky_heron.core.markings.pieces import NEAR
from dusky_heron.core.quantities import show

MOST_ANSWERS = 3


class Aspect(NamedTuple):
    """What two readings may differ in: its name, what is compared, how an answer is said, and the question."""

    about: str
    of: Callable[[Marking], object]
    says: Callable[[Marking], str]
    asks: str


def _values(marking: Marking) -> tuple[object, ...]:
    return (*(f"{section.capacitance_f:.4g}" for section in marking.sections), marking.printed_range)


def _volts(marking: Marking) -> tuple[object, ...]:
    own = tuple((section.rated_ac_v, section.rated_dc_v) for section in marking.sections)
    return (marking.ac_ratings, marking.rated_dc_v, own if len(set(own)) > 1 else own[:1])


def _classes(marking: Marking) -> tuple[object, ...]:
    return tuple(sorted(marking.class_names))


def _tolerance(marking: Marking) -> tuple[object, ...]:
    shares = (
        ((s.low_f or s.capacitance_f) / s.capacitance_f for s in marking.sections),
        (s.highest_f / s.capacitance_f for s in marking.sections if s.high_f),
    )
    return tuple(tuple(sorted({f"{share:.4g}" for share in each})) for each in shares)


def _say_values(marking: Marking) -> str:
    return " + ".join(show(section.capacitance_f, "F") for section in marking.sections)


def _say_volts(marking: Marking) -> str:
    own = [section.rated_dc_v for section in marking.sections]
    if len(set(own)) > 1:
        return " + ".join(f"{volts:g}" if volts else "?" for volts in own) + " V DC"
    said = [f"{volts:g} V AC" for volts in marking.ac_ratings] + ([f"{marking.rated_dc_v:g} V DC"] if marking.rated_dc_v else [])
    return ", ".join(said) or "no volts"


def _say_tolerance(marking: Marking) -> str:
    if marking.tolerance is None:
        return "no tolerance"
    low, high = marking.tolerance.minus * 100, marking.tolerance.plus * 100
    return f"±{high:.3g} %" if abs(low + high) < 1e-9 else f"−{-low:.3g}/+{high:.3g} %"


ASPECTS = (
    Aspect("capacitance", _values, _say_values, "Which capacitance is printed?"),
    Aspect("voltage", _volts, _say_volts, "Which volts is it rated for?"),
    Aspect("class", _classes, lambda marking: "/".join(marking.class_names) or "no class", "Which safety class is printed?"),
    Aspect("tolerance", _tolerance, _say_tolerance, "Which tolerance is printed?"),
)


def weigh(candidates: Sequence[Candidate]) -> Marking:
    """The likeliest of several readings, with the others that stay plausible beside it and what asks for the difference.

    A separator before three figures has two readings whatever part they make, and so have volts whose kind is not said.

    :param candidates: at least one
    :returns: Marking
    :raises InputError: never
    """
    best = min(candidates, key=lambda one: one.cost)
    near: dict[tuple[object, ...], Candidate] = {}
    open_volts = {one.places for one in candidates if one.marking.unanswered and one.cost <= best.cost + NEAR}
    for one in sorted(candidates, key=lambda one: one.cost):
        likely = one.cost <= best.cost + NEAR or one.places in open_volts
        if likely or (one.grouped and one.typed_cost <= best.typed_cost + NEAR):
            near.setdefault((*(aspect.of(one.marking) for aspect in ASPECTS), one.marking.unanswered), one)
    if len(near) == 1:
        return beside([best.marking])
    keys = list(near)
    typed = (
        tuple((aspect.about, one.typed(_settled_by(number, key, keys))) for number, aspect in enumerate(ASPECTS))
        for key, one in near.items()
    )
    return beside([replace(one.marking, typed=texts) for one, texts in zip(near.values(), typed, strict=True)])


def _settled_by(asked: int, answer: tuple[object, ...], keys: Sequence[tuple[object, ...]]) -> list[str]:
    """What an answer settles: what is asked, and everything in which all readings that have this answer are alike."""
    alike = [key for key in keys if key[asked] == answer[asked]]
    return [a.about for number, a in enumerate(ASPECTS) if number == asked or all(key[number] == answer[number] for key in alike)]


def beside(readings: Sequence[Marking]) -> Marking:
    """The first of several readings, the others beside it, and what asks for the difference.

    :param readings: likeliest first, at least one
    :returns: Marking
    :raises InputError: never
    """
    unread = _unread(readings[0])
    if len(readings) == 1 and not unread and not readings[0].unanswered:
        return readings[0] if not readings[0].alternatives else replace(readings[0], alternatives=(), doubts=())
    doubts = [*filter(None, (_doubt(aspect, readings) for aspect in ASPECTS)), *unread]
    return replace(readings[0], alternatives=tuple(readings[1:]), doubts=tuple(doubts))


def _doubt(aspect: Aspect, readings: Sequence[Marking]) -> Doubt | None:
    different: dict[object, Marking] = {}
    for one in readings:
        if not one.unanswered:
            different.setdefault(aspect.of(one), one)
    not_told = aspect.about == "voltage" and any(one.unanswered for one in readings)
    if len(different) < 2 and not not_told:
        return None
    answers = list(different.values())[:MOST_ANSWERS]
    return Doubt(aspect.about, aspect.asks, tuple(Option(aspect.says(one), dict(one.typed)[aspect.about]) for one in answers))


def _unread(marking: Marking) -> list[Doubt]:
    found = []
    for index, token in enumerate(marking.pieces):
        if token.state is State.UNREAD and token.decides:
            about = "class" if token.text[:1] in "XYxy" and token.text[1:].isdigit() else "unread"
            option = Option("neither value, volts nor class", unread_as_text(marking, index))
            found.append(Doubt(about, f"“{token.text}” was not understood. What is it?", (option,)))
    return found
