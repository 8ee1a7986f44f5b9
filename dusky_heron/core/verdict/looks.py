"""Signs that condemn any part on sight."""

from collections.abc import Iterator

from dusky_heron.core.model import Finding, Sign, Word
from dusky_heron.core.verdict.registry import Case, Rule

CONDEMNING = {
    Sign.BULGED: "The can is bulged: gas has formed inside.",
    Sign.LEAKING: "It leaks: what is inside is coming out.",
    Sign.BURNT: "It is burnt.",
    Sign.CRACKED: "Its body is cracked: damp gets in.",
}


def _looks(rule: Rule, case: Case) -> Iterator[Finding]:
    for sign in sorted(case.evidence.signs):
        yield rule.says(Word.CONDEMN, CONDEMNING[sign], reading=f"seen: {sign}", limit="whatever it measures")


RULES = (
    Rule(
        "looks",
        "Signs that condemn on sight",
        "trade practice; IEC 60252-1 and IEC 60384-14, visual examination",
        frozenset(),
        _looks,
    ),
)
