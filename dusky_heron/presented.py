"""How values of the core look from outside: a figure apart from its unit, a marking with its meaning."""

from functools import lru_cache
from types import NoneType
from typing import Any, Self, get_args, get_origin

from pydantic import BaseModel, ConfigDict
from pydantic.fields import FieldInfo
from pydantic_core import PydanticUndefined

from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Basis, Role, told_by_place
from dusky_heron.core.quantities import show, show_parts, show_range, show_time_parts

KEPT_MARKINGS = 65536


class Schema(BaseModel):
    """What goes in or out over the API; plain pydantic, several times faster here than django-ninja's own."""

    model_config = ConfigDict(from_attributes=True, allow_inf_nan=False)

    @classmethod
    def from_row(cls, row: Any) -> Self:
        """The schema of a thing with the same attributes, such as a model's row."""
        return cls.model_validate(row)


class Answer(Schema):
    """What goes out. Every field is given where the answer is made: no default is taken for it, nor one that it inherits.

    So a field that was added to a model and to its schema, and forgotten here, is an error and not an empty value that the next
    save would write over what was there.
    """

    @classmethod
    def __pydantic_init_subclass__(cls, **_: Any) -> None:
        """Take every default away."""
        for field in cls.model_fields.values():
            field.default, field.default_factory = PydanticUndefined, None
        cls.model_rebuild(force=True, raise_errors=False)

    @classmethod
    def nothing_but(cls, **given: Any) -> Self:
        """The answer where there is nothing to say but this: the rest is empty, as its types have it."""
        return cls.model_validate({name: _empty(field) for name, field in cls.model_fields.items()} | given)


def _empty(field: FieldInfo) -> Any:
    """Nothing, no list, no text or no number of a field."""
    if NoneType in get_args(field.annotation):
        return None
    kind: Any = get_origin(field.annotation) or field.annotation
    return kind()


class Figure(Answer):
    """A computed value with the number and the unit it is shown in."""

    value: float
    number: str
    unit: str

    @classmethod
    def of(cls, value: float, unit: str, *, digits: int = 3) -> "Figure":
        """The figure of a value in SI units."""
        number, prefixed = show_parts(value, unit, digits=digits)
        return cls(value=value, number=number, unit=prefixed)

    @classmethod
    def of_time(cls, seconds: float, *, digits: int = 2) -> "Figure":
        """The figure of a duration, in the unit a person would wait in."""
        number, unit = show_time_parts(seconds, digits=digits)
        return cls(value=seconds, number=number, unit=unit)

    @property
    def said(self) -> str:
        """Number and unit in one."""
        return f"{self.number} {self.unit}"


class TokenOut(Answer):
    """A piece of the typed text and what it became."""

    text: str
    meaning: str


class OptionOut(Answer):
    """One answer to what a marking leaves open, and the text that says just that."""

    says: str
    text: str


class DoubtOut(Answer):
    """Something a marking leaves open: about what, the question, and its answers."""

    about: str
    asks: str
    options: list[OptionOut]

    @classmethod
    def of(cls, marking: Marking) -> "list[DoubtOut]":
        """What a marking leaves open, first what is asked first."""
        return [
            cls(about=doubt.about, asks=doubt.asks, options=[OptionOut(says=one.says, text=one.text) for one in doubt.options])
            for doubt in marking.doubts
        ]


class MarkingOut(Answer):
    """What was understood from a marking, what was assumed, what could not be read, and what is asked before it counts."""

    text: str
    capacitance: list[Figure]
    spread: str
    ratings: str
    classes: list[str]
    dates: list[str]
    tokens: list[TokenOut]
    assumptions: list[str]
    unread: str
    alternatives: list[str]
    provisional: bool
    doubts: list[DoubtOut]


@lru_cache(maxsize=KEPT_MARKINGS)
def read_kept(text: str) -> Marking:
    """A marking; a workshop holds and sees the same few thousand again and again."""
    return read_marking(text)


@lru_cache(maxsize=KEPT_MARKINGS // 16)
def show_kept(text: str, role: Role, basis: Basis | None) -> MarkingOut:
    """A marking in its place as the API shows it, kept likewise; nobody changes it."""
    return show_marking(told_by_place(read_kept(text), role, basis))


def ratings(marking: Marking) -> str:
    """Classes and voltages of a marking in one short line."""
    said = [f"{c.name} {c.rated_ac_v:g} V AC" if c.rated_ac_v else c.name for c in marking.classes]
    if not said:
        said += [f"{volts:g} V AC" for volts in marking.ac_ratings]
    if marking.rated_dc_v:
        said.append(f"{marking.rated_dc_v:g} V DC")
    if marking.duty:
        said += [f"class {name}" for name, _ in marking.duty.pairs]
        said += [marking.duty.protection_class] if marking.duty.protection_class else []
    return " · ".join(said)


def show_marking(marking: Marking) -> MarkingOut:
    """A marking as the API shows it."""
    spreads = [show_range(s.low_f, s.high_f, "F") for s in marking.sections if s.low_f is not None and s.high_f is not None]
    return MarkingOut(
        text=marking.text,
        capacitance=[Figure.of(section.capacitance_f, "F") for section in marking.sections],
        spread=" + ".join(spreads),
        ratings=ratings(marking),
        classes=list(marking.class_names),
        dates=[f"{d.said}, {d.why}" for d in marking.dates],
        tokens=[TokenOut(text=t.text, meaning=t.meaning) for t in marking.tokens if t.meaning],
        assumptions=list(marking.assumptions),
        unread=marking.unread,
        alternatives=[_say(other) for other in marking.alternatives],
        provisional=marking.provisional,
        doubts=DoubtOut.of(marking),
    )


def _say(marking: Marking) -> str:
    values = " + ".join(show(section.capacitance_f, "F") for section in marking.sections)
    return ", ".join(part for part in (values, ratings(marking)) if part)
