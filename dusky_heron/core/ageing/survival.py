"""How long parts last, from parts that failed and parts that had not yet: the product-limit estimate."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from dusky_heron.core.errors import Range

AGE = Range("Age", 0.0, 150.0, "years")
ENOUGH = 5  # failures, below which a curve says nothing
SPREAD = 1.96  # standard errors of a 95 % band


@dataclass(frozen=True, slots=True)
class Lasted:
    """One part: its age in years when it was looked at, and whether it had failed; one that had not may last longer."""

    years: float
    failed: bool


@dataclass(frozen=True, slots=True)
class Surviving:
    """From this age on so large a share still works, within a band of 95 %; how many were as old, and failed at it."""

    years: float
    share: float
    low: float
    high: float
    at_risk: int
    failed: int


def survival(parts: Iterable[Lasted]) -> tuple[Surviving, ...]:
    """The share that survives each age at which a part failed; those that had not failed count until their own age.

    S(t) = Π (1 − d_i/n_i) over failures up to t, with n_i as old or older; variance S² Σ d_i / (n_i (n_i − d_i)).

    :param parts: ages in years, failed or not
    :returns: a step for each age of failure, ascending; none without failures
    :raises InputError: an age out of range
    :source: E. L. Kaplan and P. Meier (1958), J. Am. Stat. Assoc. 53, 457; M. Greenwood (1926) for the variance

    >>> [round(step.share, 3) for step in survival([Lasted(6, True), Lasted(6, False), Lasted(7, True)])]
    [0.667, 0.0]
    """
    known = list(parts)
    for part in known:
        AGE.check("years", part.years)
    steps, share, summed = [], 1.0, 0.0
    for age in sorted({part.years for part in known if part.failed}):
        at_risk = sum(part.years >= age for part in known)
        failed = sum(part.failed and part.years == age for part in known)
        share *= 1 - failed / at_risk
        summed += failed / (at_risk * (at_risk - failed)) if at_risk > failed else 0.0
        error = SPREAD * share * math.sqrt(summed)
        steps.append(Surviving(age, share, max(share - error, 0.0), min(share + error, 1.0), at_risk, failed))
    return tuple(steps)


def median_life(steps: Iterable[Surviving]) -> float | None:
    """The age at which half have failed.

    :param steps: of `survival`
    :returns: years; None where more than half still work
    :raises InputError: never
    :source: definition of a median
    """
    return next((step.years for step in steps if step.share <= 0.5), None)
