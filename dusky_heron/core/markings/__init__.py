"""Text on a capacitor, as printed, to what it means."""

import datetime

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import dates, ratings, values, words
from dusky_heron.core.markings.assemble import Candidate, assemble
from dusky_heron.core.markings.doubts import weigh
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.markings.pieces import NEAR, Grammar, divisions

ENOUGH = 48  # readings: more than any label has
LONGEST = 300  # characters: more than any can carries
GRAMMAR = Grammar(
    ratings.AS_SAID,
    ratings.LABEL,
    values.TOLERANCE,
    values.OVER_VOLTS,
    values.SLASH,
    ratings.CLASSES,
    ratings.OPEN_CLASS,
    words.STANDARD,
    ratings.CLIMATE,
    ratings.FREQUENCY,
    ratings.FAULT_CURRENT,
    ratings.OPERATING_CLASS,
    ratings.PROTECTION,
    ratings.ED,
    ratings.REACTIVE,
    ratings.CODES,
    values.CAPACITANCE,
    values.UNIT_FIRST,
    values.TORN_UNIT,
    values.CENTIMETRE,
    values.LETTER_AS_POINT,
    values.LETTER,
    ratings.GLUED_VOLTAGE,
    values.RESISTOR,
    values.WATTS,
    ratings.VOLTAGE,
    ratings.SURGE_VOLTAGE,
    values.BARE,
    dates.PAIR,
    dates.TORN,
    ratings.CLIMATE_LETTERS,
    ratings.SYMBOL,
    ratings.PARALLEL,
    words.DESIGNATION,
    words.SERVICE,
    words.WORD,
    words.TORN_WORD,
)


def read_marking(text: str, *, today: datetime.date | None = None) -> Marking:
    """Read what is printed on a capacitor.

    The text is cut into pieces that together are the whole of it: each has a meaning, is known text, or is unread. Where two
    ways to cut or to understand it differ in value, volts, class or tolerance and both are plausible, or where an unread piece
    could change one of them, the reading is provisional: `doubts` ask, `alternatives` are the other readings, and the energy is
    planned with the worst.

    :param text: as printed, up to 300 characters; any notation of the grammar above; `{…}` is only text, as said by a technician
    :param today: date codes after this day are left out
    :returns: the likeliest Marking; capacitances in farads (0.01 pF to 10 F), voltages in volts (rms for AC)
    :raises InputError: nothing typed, too long, or no capacitance can be read (field `marking`)
    :source: IEC 60062 (values, tolerances), IEC 60384-14 (classes), IEC 60252-1 and UL 810 (motor parts),
        IEC 60068-1 (climate), GOST 11076 (Cyrillic letters)

    >>> m = read_marking("16 µF ±5 % 450 V~ cl. B P2")
    >>> round(m.capacitance_f * 1e6, 6), m.tolerance.plus, m.rated_ac_v, m.duty.pairs, m.provisional
    (16.0, 0.05, 450.0, (('B', 450.0),), False)
    >>> [option.text for option in read_marking("10,000 MFD 50 VDC").doubts[0].options]
    ['10000 MFD 50 VDC', '10 MFD 50 VDC']
    """
    if not text.strip():
        raise InputError("marking", "Type what is printed on the capacitor.")
    if len(text) > LONGEST:
        raise InputError("marking", f"That is more than a capacitor carries: at most {LONGEST} characters.")
    found: list[Candidate] = []
    error: InputError | None = None
    for division in divisions(text, GRAMMAR):
        if len(found) >= ENOUGH or (found and division.cost > min(one.cost for one in found) + NEAR):
            break
        try:
            found += assemble(text, division, today)
        except InputError as refused:
            error = error or refused
    if not found:
        raise error or InputError("marking", "No capacitance found: type the value with its unit, such as 16 µF or 680n.")
    return weigh(found)
