"""A reading of a quantity that no rule judges in its place is said to count for nothing, and what to read instead."""

from collections.abc import Iterator, Mapping

from dusky_heron.core.model import ROLES, Condition, Finding, Quantity, Role, Word
from dusky_heron.core.model.roles import Volts
from dusky_heron.core.tables import toml_table
from dusky_heron.core.verdict.bounds import said
from dusky_heron.core.verdict.registry import Case, Rule

KINDS: Mapping[Volts, tuple[str, ...]] = {Volts.AC: ("ac",), Volts.DC: ("dc",), Volts.EITHER: ("ac", "dc")}


def _read() -> dict[tuple[Role, Quantity], tuple[tuple[str, ...], str]]:
    rows = toml_table("quantities")
    if wrong := set(rows) ^ set(Quantity):
        raise ValueError(f"quantities.toml: {', '.join(sorted(wrong))} missing or unknown")
    found = {}
    for role, facts in ROLES.items():
        for quantity in Quantity:
            cells = [rows[quantity][kind] for kind in KINDS[facts.volts]]
            rules = tuple(dict.fromkeys(cell["rule"] for cell in cells if "rule" in cell))
            found[role, quantity] = rules, "" if rules else cells[0]["refused"]
    return found


TABLE = _read()  # every role and every quantity: the rules that judge it, or why none does


def judged_by(role: Role, quantity: Quantity) -> tuple[tuple[str, ...], str]:
    """Which rules judge a quantity in a role, and where none does the sentence that says so.

    :param role: what the part does
    :param quantity: what was read
    :returns: rule ids without the role, and a sentence; one of the two is empty
    :raises InputError: never
    :source: table `quantities`
    """
    return TABLE[role, quantity]


def _refused(rule: Rule, case: Case) -> Iterator[Finding]:
    newest = {r.quantity: r for r in case.evidence.readings if r.condition != Condition.NEW_PART}
    for quantity, reading in newest.items():
        _, sentence = judged_by(case.position.role, quantity)
        if sentence:
            yield rule.says(Word.KEEP, f"Not judged here. {sentence}", reading=said(reading))


RULES = (Rule("quantity.refused", "Readings that no rule judges here", "table `quantities`", frozenset(), _refused),)
