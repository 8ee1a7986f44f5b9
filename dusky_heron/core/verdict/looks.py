"""What can be seen, and what it means whatever the part measures."""

from collections.abc import Iterator, Mapping

from dusky_heron.core.model import Finding, Sign, Word
from dusky_heron.core.verdict.registry import Case, Rule

CONSEQUENCES: Mapping[Sign, tuple[Word, str]] = {
    Sign.BULGED: (Word.CONDEMN, "The can is bulged: gas has formed inside."),
    Sign.VENT_OPEN: (Word.CONDEMN, "Its vent has opened: it has lost electrolyte."),
    Sign.LEAKING: (Word.CONDEMN, "It leaks: what is inside is coming out."),
    Sign.BURNT: (Word.CONDEMN, "It is burnt."),
    Sign.HOLED: (Word.CONDEMN, "A hole or crater: it has broken down there."),
    Sign.CRACKED: (Word.CONDEMN, "Its resin is crazed or cracked: damp gets in, and old paper parts fail to smoke."),
    Sign.OIL_FILM: (
        Word.CONDEMN,
        "Oil has come out. Made before about 1980 it may hold PCBs: gloves, no ordinary waste, local rules.",
    ),
    Sign.CORRODED: (Word.REPLACE, "Green corrosion: its leads or its end contacts are going."),
    Sign.SOLDER_BLOB: (Word.REPLACE, "Solder has melted into its insulation."),
    Sign.OLD_LEFT_CONNECTED: (Word.REPLACE, "An old part is still connected across it: take it out, then measure again."),
    Sign.LOOSE_JOINT: (Word.WATCH, "A loose or dry joint: solder it again before a reading is believed."),
    Sign.HOT_NEIGHBOUR: (Word.WATCH, "The resistor beside it has run hot: so has this part."),
    Sign.VALUE_CHANGED: (Word.WATCH, "An earlier repair fitted another value: judge it against the original."),
    Sign.OLD_LEFT_IN_PLACE: (Word.WATCH, "The old part is left in place, cut out: note that it is disconnected."),
}
CONDEMNING = frozenset(sign for sign, (word, _) in CONSEQUENCES.items() if word == Word.CONDEMN)


def _looks(rule: Rule, case: Case) -> Iterator[Finding]:
    for sign in sorted(case.evidence.signs):
        word, sentence = CONSEQUENCES[sign]
        yield rule.says(word, sentence, reading=f"seen: {sign.replace('_', ' ')}", limit="whatever it measures")


RULES = (
    Rule(
        "looks",
        "Signs seen on it",
        "trade practice; IEC 60252-1 and IEC 60384-14, visual examination",
        frozenset(),
        _looks,
    ),
)
