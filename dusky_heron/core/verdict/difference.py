"""What a new judgement says otherwise than a recorded one, rule by rule."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from dusky_heron.core.model import SEVERITY, Word


@dataclass(frozen=True, slots=True)
class Change:
    """What one rule said and says: word and sentence with its limit; empty where it did or does not speak."""

    rule_id: str
    before: str
    now: str
    before_word: Word | None
    now_word: Word | None


def differences(before: Iterable[Mapping[str, str]], now: Iterable[Mapping[str, str]]) -> tuple[Change, ...]:
    """The reasons that differ, gravest first.

    :param before: recorded reasons as plain data: rule_id, word, sentence, limit, source
    :param now: the same of the judgement now
    :returns: changes; nothing for reasons that are alike
    :raises InputError: never
    :source: comparison, reason by reason; several of one rule are compared in their order
    """
    was, is_now = _numbered(before), _numbered(now)
    found = [
        Change(key[0], _say(was.get(key)), _say(is_now.get(key)), _word(was.get(key)), _word(is_now.get(key)))
        for key in {**was, **is_now}
        if was.get(key) != is_now.get(key)
    ]
    return tuple(sorted(found, key=lambda c: -max(SEVERITY[w] for w in (c.before_word, c.now_word) if w)))


def _numbered(reasons: Iterable[Mapping[str, str]]) -> dict[tuple[str, int], Mapping[str, str]]:
    """Reasons by rule and their place among those of that rule, by what they were read from, so that order alone is no change."""
    count: dict[str, int] = {}
    found = {}
    for reason in sorted(reasons, key=lambda r: (r["rule_id"], r["reading"], r["sentence"])):
        place = count.get(reason["rule_id"], 0)
        count[reason["rule_id"]] = place + 1
        found[reason["rule_id"], place] = reason
    return found


def _say(reason: Mapping[str, str] | None) -> str:
    if reason is None:
        return ""
    limit = f" Limit {reason['limit']}." if reason["limit"] else ""
    return f"{reason['sentence']}{limit} By {reason['source']}."


def _word(reason: Mapping[str, str] | None) -> Word | None:
    return Word(reason["word"]) if reason else None
