"""Re-forming an electrolytic as typed: its plan, and what the log of a step says."""

from dusky_heron.circuits.schemas import CourseOut, FormingIn, FormingOut, FormingStepOut
from dusky_heron.core.ageing.reforming import STANDS, forming_resistor, judge_forming, plan_forming
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import CAPACITANCE, RATED_VOLTAGE, RESISTANCE, VOLTAGE, InputError
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.presented import Figure
from dusky_heron.record.typed import decimal_sign

CAUTION = (
    "It may burst: covered, behind a guard, never left alone. Discharge and prove it empty after every step. "
    "For parts that cannot be bought; otherwise replace."
)


def forming(data: FormingIn) -> FormingOut:
    """The steps and, where a log is typed, whether the next may follow."""
    farads = parse_quantity(data.capacitance, "F", CAPACITANCE, field="capacitance")
    volts = parse_quantity(data.rating, "V", RATED_VOLTAGE, field="rating")
    ohms = forming_resistor(farads, volts)
    if data.resistor:
        ohms = parse_quantity(data.resistor, "Ω", RESISTANCE, field="resistor")
    try:
        plan = plan_forming(farads, volts, ohms)
    except InputError as error:
        raise InputError("resistor", error.sentence) from None
    source = parse_quantity(data.source, "V", VOLTAGE, field="source") if data.source else plan.steps[0].source_v
    try:
        read = read_log(data.log, decimal=decimal_sign()) if data.log.strip() else []
        found = judge_forming(read, source, ohms, farads, warm=data.warm)
    except InputError as error:
        raise InputError("log" if error.field in ("rows", "samples") else error.field, error.sentence) from None
    return FormingOut(
        resistor=Figure.of(ohms, "Ω"),
        short=Figure.of(plan.short_w, "W"),
        first=Figure.of(plan.first_a, "A"),
        steps=[
            FormingStepOut(
                source=Figure.of(step.source_v, "V"),
                leakage=Figure.of(step.leakage_a, "A"),
                across=Figure.of(step.across_v, "V"),
                time=Figure.of_time(step.seconds),
            )
            for step in plan.steps
        ],
        total=Figure.of_time(plan.seconds),
        source=Figure.of(source, "V"),
        stands=Figure.of(source * (1 - STANDS), "V"),
        log=CourseOut(seconds=[seconds for seconds, _ in read], values=[volts for _, volts in read]),
        leakage=Figure.of(found.leakage_a, "A") if found.leakage_a is not None else None,
        word=found.word,
        says=found.sentence,
        caution=CAUTION,
    )
