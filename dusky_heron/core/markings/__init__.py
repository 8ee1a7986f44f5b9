"""Text on a capacitor, as printed, to what it means."""

import datetime
from dataclasses import replace

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import dates, ratings, values
from dusky_heron.core.markings.assemble import assemble
from dusky_heron.core.markings.model import Marking, Option
from dusky_heron.core.markings.pieces import scan

LONGEST = 300  # characters: more than any can carries
# Tried in this order at each place of the text; a notation that could be taken for a later one comes first.
RECOGNISERS = (
    ratings.LABEL,
    values.TOLERANCE,
    values.OVER_VOLTS,
    ratings.CLASSES,
    ratings.STANDARD,
    ratings.CLIMATE,
    ratings.FREQUENCY,
    ratings.FAULT_CURRENT,
    ratings.OPERATING_CLASS,
    ratings.PROTECTION,
    ratings.VOLTAGE_AFTER_SIGN,
    ratings.CODE_BEFORE,
    values.CAPACITANCE,
    values.UNIT_FIRST,
    values.LETTER_AS_POINT,
    values.TOLERANCE_LETTER,
    values.TOLERANCE_LETTER_APART,
    ratings.GLUED_VOLTAGE,
    ratings.CODE_AFTER,
    values.RESISTOR,
    ratings.VOLTAGE,
    values.BARE,
    dates.PAIR,
    ratings.CLIMATE_LETTERS,
    ratings.WORD,
    ratings.PLUS,
)


def read_marking(text: str, *, today: datetime.date | None = None) -> Marking:
    """Read what is printed on a capacitor.

    Every piece of the text becomes a token with its meaning, or is kept in `unread`; what was taken for granted stands
    in `assumptions`; a second plausible reading stands in `alternatives` and is never dropped silently.

    :param text: as printed, up to 300 characters; any notation of the recognisers below
    :param today: date codes after this day are left out
    :returns: the likeliest Marking; capacitances in farads (0.01 pF to 10 F), voltages in volts (rms for AC)
    :raises InputError: nothing typed, too long, or no capacitance can be read (field `marking`)
    :source: IEC 60062 (values, tolerances), IEC 60384-14 (classes), IEC 60252-1 and UL 810 (motor parts),
        IEC 60068-1 (climate)

    >>> m = read_marking("16 µF ±5 % 450 V~ cl. B P2")
    >>> round(m.capacitance_f * 1e6, 6), m.tolerance.plus, m.rated_ac_v, m.duty.pairs
    (16.0, 0.05, 450.0, (('B', 450.0),))
    """
    if not text.strip():
        raise InputError("marking", "Type what is printed on the capacitor.")
    if len(text) > LONGEST:
        raise InputError("marking", f"That is more than a capacitor carries: at most {LONGEST} characters.")
    pieces = list(scan(text, RECOGNISERS))
    first, questions = assemble(text, list(pieces), today, {})
    others: list[Marking] = []
    options: list[Option] = []
    for question, answers in questions.items():
        for answer in answers:
            try:
                other, _ = assemble(text, list(pieces), today, {question: answer})
            except InputError:
                continue  # the other answer gives a value no capacitor has
            options += other.options
            if answer != answers[0]:
                others.append(other)
    return replace(first, alternatives=tuple(others), options=tuple(options) if others else ())
