"""Which safety class may stand in which place (IEC 60384-14)."""

import re
from dataclasses import dataclass
from functools import cache, lru_cache

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import ClassName
from dusky_heron.core.tables import toml_table

SOURCE = "IEC 60384-14"
TABLE = toml_table("safety_classes")  # a row for every class, tested


@dataclass(frozen=True, slots=True)
class Answer:
    """Whether a class may take a place: the reason, the rule, and sentences that need somebody's decision."""

    allowed: bool
    conditions: tuple[str, ...]
    reason: str
    rule_id: str


def class_names(field: str, given: str | tuple[str, ...]) -> tuple[ClassName, ...]:
    """The class names in `X1Y2`, `X1/Y2` or a tuple of them.

    :param field: named in the error
    :param given: text or names; empty for none
    :raises InputError: a name that is no safety class
    """
    text = given if isinstance(given, str) else " ".join(given)
    names = tuple(dict.fromkeys(re.findall(r"[^\s/,+]+?(?<=\d)(?=[XY]|\b)|[^\s/,+]+", text.upper())))
    return tuple(_class(field, name) for name in names)


def _class(field: str, name: str) -> ClassName:
    try:
        return ClassName(name)
    except ValueError:
        raise InputError(field, f"“{name[:20]}” is not a safety class: X1 to X3, Y1 to Y4.") from None


def may_replace(place: str | tuple[str, ...], offered: str | tuple[str, ...]) -> Answer:
    """Say whether a part of the offered class may stand in a place.

    A place of two classes demands both. An X never replaces a Y; a part with no class never takes an X or Y place; a Y2
    is refused in an X1 place out of caution unless its marking also carries X1.

    :param place: "Y2" or ("X1", "Y2"); () for a place that demands no class
    :param offered: class names printed on the part; () for a part with no class
    :returns: Answer with the reason, the rule's id, and conditions that need a decision
    :raises InputError: an unknown class name (field `place` or `offered`)
    :source: IEC 60384-14, table of classes and uses; check the edition that binds you

    >>> may_replace("X2", ("Y1",)).allowed, may_replace("Y2", ("X1",)).allowed
    (True, False)
    """
    return _answer(*(given if isinstance(given, str) else tuple(given) for given in (place, offered)))


@lru_cache(maxsize=1024)
def _answer(place: str | tuple[str, ...], offered: str | tuple[str, ...]) -> Answer:
    """The answer, kept: a drawer asks for the same few classes thousands of times."""
    wanted, printed = class_names("place", place), class_names("offered", offered)
    if not wanted:
        return Answer(True, (), "The place demands no safety class.", "class.none_demanded")
    if not printed:
        return Answer(False, (), _no_class(wanted), "class.missing")
    reasons = []
    for name in wanted:
        refused = _refusal(name, printed)
        if refused:
            return refused
        stand_in = next(p for p in TABLE[name]["accepts"] if p in printed)
        reasons.append(f"{stand_in} takes {_a(name)} place" if stand_in != name else f"{name} for {name}")
    return Answer(True, (), f"{'; '.join(reasons)}.", "class.accepted")


@cache
def acceptable_classes(name: str) -> tuple[ClassName, ...]:
    """The classes that may stand in a place of one class, the same one first.

    :param name: X1 to X3 or Y1 to Y4
    :returns: class names
    :raises InputError: not a safety class
    :source: IEC 60384-14
    """
    return tuple(ClassName(accepted) for accepted in TABLE[_class("place", name)]["accepts"])


def _a(name: ClassName) -> str:
    return f"{'a' if name.is_y else 'an'} {name}"


def _no_class(wanted: tuple[ClassName, ...]) -> str:
    return f"No safety class printed: never in {_a(wanted[0])} place, however many volts."


def _refusal(name: ClassName, printed: tuple[ClassName, ...]) -> Answer | None:
    row = TABLE[name]
    if any(p in row["accepts"] for p in printed):
        return None
    remark = row.get("remark", "")
    shown = " ".join(printed)
    if name.is_y and not any(p.is_y for p in printed):
        return Answer(False, (), f"{shown} in {_a(name)} place: an X never replaces a Y.", "class.x_for_y")
    if name is ClassName.X1 and ClassName.Y2 in printed:
        return Answer(False, (), remark, "class.y2_for_x1")
    if name is ClassName.Y1 and ClassName.Y2 in printed:
        return Answer(False, (remark,), "A single Y2 never takes a Y1 place.", "class.y2_for_y1")
    return Answer(False, (), f"{shown} is a lower class than the {name} the place demands.", "class.lower")
