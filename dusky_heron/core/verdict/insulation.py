"""Insulation resistance of film and ceramic parts: half of a new one's is still good in service."""

from collections.abc import Iterator

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Condition, Finding, Measurement, Quantity, Role, Word
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.bounds import Bound, at_least, said
from dusky_heron.core.verdict.conduction import beside_bleeder, bleeder_inside, shows_bleeder
from dusky_heron.core.verdict.registry import Case, Rule

ROLES = frozenset({Role.X, Role.Y, Role.COUPLING, Role.TIMING, Role.SNUBBER, Role.MAGNETRON})
DECIDES = frozenset({Role.COUPLING})  # old paper reads its value and leaks: only insulation tells
FILM_OHM, FILM_UP_TO_F, FILM_RC_S = 15e9, 0.33e-6, 5000.0
CERAMIC_OHM, CERAMIC_BELOW_F = 6e9, 20e-9
IN_SERVICE = 0.5
SHORTED_OHM = 1e6  # below this no film or ceramic part is whole


def insulation_limit(section: Section) -> float:
    """The least insulation in service: half of 15 000 MΩ up to 0.33 µF, of R·C = 5 000 s above, of 6 000 MΩ for small Y.

    :param section: the capacitance and its classes
    :returns: ohms
    :raises InputError: never
    :source: IEC 60384-14, 100 V, 1 min, no bleeder inside
    """
    ceramic = section.capacitance_f < CERAMIC_BELOW_F and section.is_y
    if ceramic:
        return IN_SERVICE * CERAMIC_OHM
    new = FILM_OHM if section.capacitance_f <= FILM_UP_TO_F else FILM_RC_S / section.capacitance_f
    return IN_SERVICE * new


def _insulation(rule: Rule, case: Case) -> Iterator[Finding]:
    bleeder = bleeder_inside(case.position)
    for number, section in enumerate(case.position.parts):
        reading = case.evidence.deciding(number, Quantity.INSULATION)
        limit = insulation_limit(section)
        bound = Bound(
            limit, case.position.its("insulation", number), f"at least {show(limit, 'Ω')} in service, half of a new one's"
        )
        if reading is None:
            if case.position.role in DECIDES:
                sentence = "Measure its insulation at working voltage, one lead lifted."
                ask = Measurement(Quantity.INSULATION, Condition.LIFTED, number, sentence, bound.error)
                yield rule.says(Word.UNKNOWN, sentence, limit=bound.said, settled_by=ask)
        elif bleeder and (shows_bleeder(reading, bleeder) or reading.low > bleeder):
            yield rule.says(
                Word.KEEP, "It shows the bleeder inside it, and nothing beside.", reading=said(reading), limit=bound.said
            )
        elif (alone := beside_bleeder(reading, bleeder) if bleeder else reading).high < SHORTED_OHM:
            yield rule.says(Word.CONDEMN, "It conducts: it is shorted or wet inside.", reading=said(reading), limit=bound.said)
        else:
            yield at_least(rule, alone, bound)


RULES = (Rule("insulation", "Insulation resistance in service", "IEC 60384-14", ROLES, _insulation),)
