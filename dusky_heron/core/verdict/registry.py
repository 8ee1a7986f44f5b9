"""What a verdict rule is: an object with an id, a title, a source, its roles and a pure function."""

import datetime
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from dusky_heron.core.model import Evidence, Finding, Limit, Measurement, Position, Role, Word
from dusky_heron.core.tables import toml_table

DEFAULT_LIMITS: Mapping[str, Limit] = {
    key: Limit(key, row["value"], row["title"], row["source"]) for key, row in toml_table("verdict_limits").items()
}


@dataclass(frozen=True, slots=True)
class Case:
    """Everything a rule may look at."""

    position: Position
    evidence: Evidence
    limits: Mapping[str, Limit]
    today: datetime.date


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
