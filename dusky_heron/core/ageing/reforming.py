"""Re-forming an electrolytic that has lain for years: the steps, what its leakage must fall to, and when to stop."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.ageing.leakage import leakage_in_service
from dusky_heron.core.errors import CAPACITANCE, RATED_VOLTAGE, RESISTANCE, VOLTAGE, InputError, Range

STEPS = (0.25, 0.5, 0.75, 0.9, 1.0)  # of the rated voltage
MOST_W = 1.0  # in the resistor when the capacitor is a short, where the leakage it has to show allows
FORMED = 0.25  # of the limit in service: what a formed can leaks at most, half of what a new one's figure allows
STANDS = 0.05  # of a step's voltage, within which the capacitor itself stands before the next: else its film never saw it
FELL_BACK = 0.01  # of a step's voltage, by which the capacitor may not fall below where it was: its leakage rises
SETTLING = 3.0  # times the plain charging time, for a film that must grow again
LEAST_S = 600.0
LEFT_S = 900.0  # between two readings, from which a can that fell may have been left with its source off
FALLING = 0.9  # of the leakage of the earlier half that the later half must be under
MINUTES = Range("Time", 0.0, 1e7, "s")


@dataclass(frozen=True, slots=True)
class FormingStep:
    """One step: source voltage, the leakage under which the next may follow, the voltage then left across the resistor, time."""

    source_v: float
    leakage_a: float
    across_v: float
    seconds: float


@dataclass(frozen=True, slots=True)
class FormingPlan:
    """The steps; the most that flows, and the power of the resistor if the capacitor is a short."""

    steps: tuple[FormingStep, ...]
    first_a: float
    short_w: float
    seconds: float


class FormingWord(StrEnum):
    """What the log of a step says."""

    NEXT = "next"
    WAIT = "wait"
    STOP = "stop"
    TOO_FEW = "too_few"


@dataclass(frozen=True, slots=True)
class FormingFinding:
    """What a log says: `word` next, wait, stop or too_few; the leakage now, and a sentence."""

    word: FormingWord
    leakage_a: float | None
    sentence: str


def forming_resistor(capacitance_f: float, rated_v: float) -> float:
    """A resistor through which a formed can stands within a twentieth of every step, and a short gets little.

    R = V²/P for one watt in a short at the rated voltage, in round thousands upwards; never more than 0.05·V/I of the step where
    that is least, I a quarter of the limit in service, to two figures downwards: through a larger one a formed can never reaches
    the voltage of its step.

    :param capacitance_f: farads
    :param rated_v: volts
    :returns: ohms
    :raises InputError: a value out of range
    :source: P = V²/R; R = U/I

    >>> forming_resistor(32e-6, 500), forming_resistor(1500e-6, 400)
    (110000.0, 6600.0)
    """
    watt = math.ceil(RATED_VOLTAGE.check("rated_v", rated_v) ** 2 / MOST_W / 1000) * 1000.0
    most = min(STANDS * rated_v * share / (FORMED * leakage_in_service(rated_v * share, capacitance_f)) for share in STEPS)
    power = 10.0 ** (math.floor(math.log10(most)) - 1)
    return min(watt, math.floor(most / power * (1 + 1e-9)) * power)


def plan_forming(capacitance_f: float, rated_v: float, resistance_ohm: float) -> FormingPlan:
    """The steps by which an electrolytic is brought up to its rated voltage through a resistor.

    A step lasts until the capacitor stands within a twentieth of it, and its leakage (Vs − Vc)/R is under its limit; the time
    is that of plain charging, three times over, and at least ten minutes: a film that must grow takes longer than any formula
    says.

    :param capacitance_f: as marked, farads
    :param rated_v: as marked, volts
    :param resistance_ohm: in series
    :returns: FormingPlan
    :raises InputError: a value out of range, or a resistor through which the limit could not be seen (`resistance_ohm`)
    :source: t = R·C·ln(ΔV/(I·R)); leakage limit of `leakage_in_service`
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    RATED_VOLTAGE.check("rated_v", rated_v)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    steps, before = [], 0.0
    for share in STEPS:
        source = rated_v * share
        limit = leakage_in_service(source, capacitance_f)
        across = min(limit * resistance_ohm, STANDS * source)
        if FORMED * limit * resistance_ohm >= source:
            raise InputError(
                "resistance_ohm", "Too large: the leakage limit alone would hold the capacitor down. Take a smaller one."
            )
        charging = resistance_ohm * capacitance_f * max(math.log(max((source - before) / across, 1.0)), 0.0)
        steps.append(FormingStep(source, across / resistance_ohm, across, max(SETTLING * charging, LEAST_S)))
        before = source - across
    seconds = sum(step.seconds for step in steps)
    return FormingPlan(tuple(steps), rated_v / resistance_ohm, rated_v**2 / resistance_ohm, seconds)


def judge_forming(
    samples: Sequence[tuple[float, float]], source_v: float, resistance_ohm: float, capacitance_f: float, *, warm: bool = False
) -> FormingFinding:
    """What a log of one step says: may the next follow, wait, or stop.

    The current that charges it, C·dVc/dt, is no leakage and is taken out. A can that fell while nobody read it for a quarter of an
    hour may have been left with its source off: what was read before then counts no more.

    :param samples: (seconds, volts across the capacitor) in order
    :param source_v: of the step
    :param resistance_ohm: in series
    :param capacitance_f: as marked
    :param warm: the can is warm to the hand
    :returns: FormingFinding
    :raises InputError: times that do not rise, or volts above the source (`samples`)
    :source: leakage (Vs − Vc)/R − C·dVc/dt, under the limit of `leakage_in_service`; it must fall; Vc within 5 % of Vs
    """
    VOLTAGE.check("source_v", source_v)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    _check_log(samples, source_v)
    if warm:
        return FormingFinding(FormingWord.STOP, None, "The can warms: stop, discharge it, and replace it.")
    if not samples:
        return FormingFinding(FormingWord.TOO_FEW, None, "Write down the voltage across the capacitor every few minutes.")
    run = _since_it_was_left(samples, source_v)
    through = [max(source_v - volts, 0.0) / resistance_ohm for _, volts in run]
    leak = _leakage(run, source_v, resistance_ohm, capacitance_f)
    limit, last = leakage_in_service(source_v, capacitance_f), run[-1][1]
    if len(run) == 1 and len(samples) > 1:
        return FormingFinding(
            FormingWord.WAIT, leak, "It fell while it was left: source off, or leaking? Read it again in some minutes."
        )
    if max(volts for _, volts in run) - last > FELL_BACK * source_v:
        return FormingFinding(FormingWord.STOP, leak, "It falls back: its leakage rises. Stop, discharge it, and replace it.")
    if leak <= limit and last >= (1 - STANDS) * source_v:
        return FormingFinding(FormingWord.NEXT, leak, "The leakage is under its limit: the next step may follow.")
    spent = run[-1][0] - run[0][0]
    if len(run) >= 4 and spent > max(SETTLING * resistance_ohm * capacitance_f, LEAST_S):
        half = len(through) // 2
        earlier, later = sum(through[:half]) / half, sum(through[half:]) / (len(through) - half)
        if later > FALLING * earlier:
            return FormingFinding(FormingWord.STOP, leak, "The leakage does not fall: stop, discharge it, and replace it.")
    if leak <= limit:
        says = f"It stands at {last:g} V of {source_v:g}: its film is not formed to that yet. Wait, or take a smaller resistor."
        return FormingFinding(FormingWord.WAIT, leak, says)
    return FormingFinding(FormingWord.WAIT, leak, "The leakage is above its limit and may still fall: wait.")


def _since_it_was_left(samples: Sequence[tuple[float, float]], source_v: float) -> Sequence[tuple[float, float]]:
    """The readings since the last gap in which it fell."""
    begins = 0
    for k in range(1, len(samples)):
        (before_s, before_v), (at_s, volts) = samples[k - 1], samples[k]
        if at_s - before_s >= LEFT_S and before_v - volts > FELL_BACK * source_v:
            begins = k
    return samples[begins:]


def _leakage(run: Sequence[tuple[float, float]], source_v: float, resistance_ohm: float, capacitance_f: float) -> float:
    """The leakage between the last two readings, what charged the capacitor taken out; of one reading all that flows."""
    last = max(source_v - run[-1][1], 0.0) / resistance_ohm
    if len(run) == 1:
        return last
    (before_s, before_v), (at_s, volts) = run[-2:]
    mean = (last + max(source_v - before_v, 0.0) / resistance_ohm) / 2
    charging = capacitance_f * (volts - before_v) / (at_s - before_s)
    return min(last, max(mean - charging, 0.0))


def _check_log(samples: Sequence[tuple[float, float]], source_v: float) -> None:
    """Times that rise, and volts a capacitor on that source can have."""
    for index, (at, volts) in enumerate(samples):
        MINUTES.check("samples", at)
        if index and at <= samples[index - 1][0]:
            raise InputError("samples", "The times must rise from line to line.")
        if not 0 <= volts <= source_v * 1.02:
            raise InputError("samples", f"A capacitor at {volts:g} V on a source of {source_v:g} V: check the line.")
