"""Re-forming an electrolytic that has lain for years: the steps, what its leakage must fall to, and when to stop."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, VOLTAGE, InputError, Range

STEPS = (0.25, 0.5, 0.75, 0.9, 1.0)  # of the rated voltage
LEAK_SHARE, LEAK_LEAST_A = 0.01, 10e-6  # I ≤ 0.01·C·V in amperes of farads and volts, and not under this
MOST_W = 1.0  # in the resistor when the capacitor is a short, where the leakage it has to show allows
STANDS = 0.05  # of a step's voltage, within which the capacitor itself stands before the next: else its film never saw it
FELL_BACK = 0.01  # of a step's voltage, by which the capacitor may not fall below where it was: its leakage rises
SETTLING = 3.0  # times the plain charging time, for a film that must grow again
LEAST_S = 600.0
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
    """A resistor across which the leakage limit of every step stands as a twentieth of it at most, and a short gets little.

    R = V²/P for one watt in a short at the rated voltage, in round thousands upwards; never more than 0.05·V/I of the step where
    that is least, to two figures downwards: through a larger one a healthy can never reaches the voltage of its step.

    :param capacitance_f: farads
    :param rated_v: volts
    :returns: ohms
    :raises InputError: a value out of range
    :source: P = V²/R; R = U/I

    >>> forming_resistor(32e-6, 500), forming_resistor(1500e-6, 400)
    (150000.0, 3300.0)
    """
    watt = math.ceil(VOLTAGE.check("rated_v", rated_v) ** 2 / MOST_W / 1000) * 1000.0
    most = min(STANDS * rated_v * share / leakage_limit(capacitance_f, rated_v * share) for share in STEPS)
    power = 10.0 ** (math.floor(math.log10(most)) - 1)
    return min(watt, math.floor(most / power * (1 + 1e-9)) * power)


def leakage_limit(capacitance_f: float, volts: float) -> float:
    """The leakage an electrolytic may have at a voltage: 0.01·C·V, at least 10 µA.

    :param capacitance_f: farads
    :param volts: volts
    :returns: amperes
    :raises InputError: a value out of range
    :source: usual data-sheet form for aluminium electrolytics, I = 0.01·C·V after some minutes

    >>> round(leakage_limit(32e-6, 500) * 1e6)
    160
    """
    return max(LEAK_SHARE * CAPACITANCE.check("capacitance_f", capacitance_f) * VOLTAGE.check("volts", volts), LEAK_LEAST_A)


def plan_forming(capacitance_f: float, rated_v: float, resistance_ohm: float) -> FormingPlan:
    """The steps by which an electrolytic is brought up to its rated voltage through a resistor.

    A step lasts until the capacitor stands within a twentieth of it, and its leakage (Vs − Vc)/R is under its limit; the time
    is that of plain charging, three times over, and at
    least ten minutes: a film that must grow takes longer than any formula says.

    :param capacitance_f: as marked, farads
    :param rated_v: as marked, volts
    :param resistance_ohm: in series
    :returns: FormingPlan
    :raises InputError: a value out of range, or a resistor through which the limit could not be seen (`resistance_ohm`)
    :source: t = R·C·ln(ΔV/(I·R)); leakage limit of `leakage_limit`
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    VOLTAGE.check("rated_v", rated_v)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    steps, before = [], 0.0
    for share in STEPS:
        source = rated_v * share
        limit = leakage_limit(capacitance_f, source)
        across = min(limit * resistance_ohm, STANDS * source)
        if limit * resistance_ohm >= source:
            raise InputError(
                "resistance_ohm", "Too large: the leakage limit alone would hold the capacitor down. Take a smaller one."
            )
        charging = resistance_ohm * capacitance_f * max(math.log(max((source - before) / across, 1.0)), 0.0)
        steps.append(FormingStep(source, limit, across, max(SETTLING * charging, LEAST_S)))
        before = source - across
    seconds = sum(step.seconds for step in steps)
    return FormingPlan(tuple(steps), rated_v / resistance_ohm, rated_v**2 / resistance_ohm, seconds)


def judge_forming(
    samples: Sequence[tuple[float, float]], source_v: float, resistance_ohm: float, capacitance_f: float, *, warm: bool = False
) -> FormingFinding:
    """What a log of one step says: may the next follow, wait, or stop.

    The current that charges the capacitor counts as leakage here, so a reading taken early is only ever on the careful side.

    :param samples: (seconds, volts across the capacitor) in order
    :param source_v: of the step
    :param resistance_ohm: in series
    :param capacitance_f: as marked
    :param warm: the can is warm to the hand
    :returns: FormingFinding
    :raises InputError: times that do not rise, or volts above the source (`samples`)
    :source: leakage (Vs − Vc)/R, under the limit of `leakage_limit`; it must fall; Vc within 5 % of Vs
    """
    VOLTAGE.check("source_v", source_v)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    _check_log(samples, source_v)
    if warm:
        return FormingFinding(FormingWord.STOP, None, "The can warms: stop, discharge it, and replace it.")
    leaks = [max(source_v - volts, 0.0) / resistance_ohm for _, volts in samples]
    if not leaks:
        return FormingFinding(FormingWord.TOO_FEW, None, "Write down the voltage across the capacitor every few minutes.")
    limit, last = leakage_limit(capacitance_f, source_v), samples[-1][1]
    if max(volts for _, volts in samples) - last > FELL_BACK * source_v:
        return FormingFinding(FormingWord.STOP, leaks[-1], "It falls back: its leakage rises. Stop, discharge it, and replace it.")
    stands = last >= (1 - STANDS) * source_v
    if leaks[-1] <= limit and stands:
        return FormingFinding(FormingWord.NEXT, leaks[-1], "The leakage is under its limit: the next step may follow.")
    spent = samples[-1][0] - samples[0][0]
    tau = resistance_ohm * capacitance_f
    if len(leaks) >= 4 and spent > max(SETTLING * tau, LEAST_S):
        half = len(leaks) // 2
        earlier, later = sum(leaks[:half]) / half, sum(leaks[half:]) / (len(leaks) - half)
        if later > FALLING * earlier:
            return FormingFinding(FormingWord.STOP, leaks[-1], "The leakage does not fall: stop, discharge it, and replace it.")
    if leaks[-1] <= limit:
        says = f"It stands at {last:g} V of {source_v:g}: its film is not formed to that yet. Wait, or take a smaller resistor."
        return FormingFinding(FormingWord.WAIT, leaks[-1], says)
    return FormingFinding(FormingWord.WAIT, leaks[-1], "The leakage is above its limit and may still fall: wait.")


def _check_log(samples: Sequence[tuple[float, float]], source_v: float) -> None:
    """Times that rise, and volts a capacitor on that source can have."""
    for index, (at, volts) in enumerate(samples):
        MINUTES.check("samples", at)
        if index and at <= samples[index - 1][0]:
            raise InputError("samples", "The times must rise from line to line.")
        if not 0 <= volts <= source_v * 1.02:
            raise InputError("samples", f"A capacitor at {volts:g} V on a source of {source_v:g} V: check the line.")
