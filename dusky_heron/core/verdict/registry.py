"""What a verdict rule is: an object with an id, a title, a source, its roles and a pure function."""

import datetime
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.model import ROLES, Evidence, Finding, Limit, Measurement, Position, Role, Word
from dusky_heron.core.model.materials import MadeOf, made_of
from dusky_heron.core.schools import default_schools
from dusky_heron.core.tables import toml_table

SOUNDS_AS_VOWEL = ("X", "SMPS", "a", "e", "i", "o")
CHANGEABLE: Mapping[str, Range] = {
    "%": Range("The limit", 0.0, 95.0, "%", open_low=True),
    "years": Range("The limit", 0.0, 50.0, "years", open_low=True),
    "D": Range("The limit", 0.0, 1.0, "", open_low=True),
}


def verdict_limits(changes: Mapping[str, tuple[float, str]] | None = None) -> dict[str, Limit]:
    """The limits verdicts are judged by, with a workshop's changes in them.

    :param changes: value (a fraction where the unit is %) and reason by id
    :returns: limits by id, in the order of the tables `roles` and `verdict_limits`
    :raises InputError: never
    :source: each limit names its own
    """
    changes = changes or {}
    rows = toml_table("verdict_limits")
    found = {limit.id: limit for limit in _of_roles()}
    found |= {key: Limit(key, r["value"], r["title"], r["source"], r.get("unit", "%")) for key, r in rows.items()}
    for key, (value, reason) in changes.items():
        if key in found:
            told = f"{found[key].source}, changed by the workshop: {reason}"
            found[key] = replace(found[key], value=value, source=told)
    return found


def _of_roles() -> Iterator[Limit]:
    for role, facts in ROLES.items():
        named = f"{role.upper()} capacitor" if len(role) == 1 else f"{facts.title} part"
        named = f"{'an' if named.startswith(SOUNDS_AS_VOWEL) else 'a'} {named}"
        said = f"tolerance of {named} that prints none, plus and minus"
        yield Limit(f"{role}.tolerance", facts.tolerance, said, facts.tolerance_source)
        if facts.loss:
            yield Limit(f"{role}.loss", facts.loss, f"loss of {named} from its marked value", facts.loss_source)


def show_limit_value(limit: Limit) -> float:
    """A limit's value in the unit it is shown and typed in: per cent, not a fraction."""
    return round(limit.value * 100, 6) if limit.unit == "%" else limit.value


def say_limit(limit: Limit) -> str:
    """A limit in words: `20 %`, `2 years`, `D 0.01`."""
    shown = f"{show_limit_value(limit):g}"
    return f"D {shown}" if limit.unit == "D" else f"{shown} {limit.unit}"


def read_limit_value(limit: Limit, shown: float | None) -> float:
    """A limit's value from the unit it is shown in.

    :param limit: the limit
    :param shown: as typed: per cent, years or D
    :returns: a fraction where the unit is %
    :raises InputError: nothing typed, or out of range (field `value`)
    :source: the unit of the limit
    """
    if shown is None:
        raise InputError("value", "Type the limit.")
    value = CHANGEABLE[limit.unit].check("value", shown)
    return value / 100 if limit.unit == "%" else value


DEFAULT_LIMITS: Mapping[str, Limit] = verdict_limits()


@dataclass(frozen=True)
class Case:
    """Everything a rule may look at."""

    position: Position
    evidence: Evidence
    limits: Mapping[str, Limit]
    today: datetime.date
    schools: Mapping[str, str] = field(default_factory=default_schools)

    @cached_property
    def made(self) -> MadeOf:
        """What the part is made of."""
        return made_of(self.position.marking, self.position.role)


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule of judgement; `roles` empty means every role."""

    id: str
    title: str
    source: str
    roles: frozenset[Role]
    judge: Callable[["Rule", Case], Iterable[Finding]]

    def applies(self, role: Role) -> bool:
        """Whether the rule speaks about this role."""
        return not self.roles or role in self.roles

    def says(
        self,
        word: Word,
        sentence: str,
        *,
        reading: str = "",
        limit: str = "",
        source: str = "",
        settled_by: Measurement | None = None,
    ) -> Finding:
        """A finding of this rule; its own source unless the limit has another."""
        return Finding(self.id, word, sentence, reading, limit, source or self.source, settled_by)
