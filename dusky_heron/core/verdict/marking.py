"""A part whose marking leaves a question open is not judged good: what is not known is never taken for good."""

from collections.abc import Iterator

from dusky_heron.core.model import Finding, Word
from dusky_heron.core.verdict.registry import Case, Rule


def _provisional(rule: Rule, case: Case) -> Iterator[Finding]:
    for doubt in case.position.marking.doubts[:1]:
        answers = ", or ".join(option.says for option in doubt.options)
        yield rule.says(
            Word.UNKNOWN,
            f"Its marking is read provisionally. {doubt.asks} {answers}.",
            reading=case.position.marking.text,
            limit="read one way only",
        )


RULES = (Rule("marking.provisional", "Its marking is read one way only", "IEC 60062, its marking", frozenset(), _provisional),)
