"""Loss factor D: of electrolytics against the usual tan δ, of film against what sound end contacts leave."""

from collections.abc import Iterator

from dusky_heron.core.model import Finding, Quantity, Role
from dusky_heron.core.verdict.bounds import Bound, at_most
from dusky_heron.core.verdict.electrolytic import LOWEST_TAN_DELTA, TAN_DELTA_HZ, tan_delta
from dusky_heron.core.verdict.electrolytic import ROLES as ELECTROLYTIC
from dusky_heron.core.verdict.insulation import ROLES as FILM
from dusky_heron.core.verdict.registry import Case, Rule

STARTS = frozenset({Role.MOTOR_START})
MORE_FILM = frozenset({Role.DROPPER, Role.MOTOR_RUN, Role.POWER_FACTOR})


def _loss(rule: Rule, case: Case) -> Iterator[Finding]:
    role = case.position.role
    for number, section in enumerate(case.position.parts):
        reading = case.evidence.deciding(number, Quantity.DISSIPATION)
        if reading is None:
            continue
        if role in ELECTROLYTIC:
            if reading.frequency_hz not in TAN_DELTA_HZ:
                continue
            limit = tan_delta(section.rated_dc_v, section.capacitance_f) if section.rated_dc_v else LOWEST_TAN_DELTA
            source = "usual tan δ of data sheets at 120 Hz"
        else:
            kept = case.limits["start.loss_factor" if role in STARTS else "film.loss_factor"]
            limit, source = kept.value, kept.source
        yield at_most(rule, reading, Bound(limit, case.position.its("loss factor", number), f"D at most {limit:.2g}", source))


RULES = (Rule("dissipation", "Loss factor", "usual figures of data sheets", ELECTROLYTIC | FILM | STARTS | MORE_FILM, _loss),)
