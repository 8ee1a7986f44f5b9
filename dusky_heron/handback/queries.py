"""Reading where a job stands before it goes back; each function says how many statements it takes."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import timedelta
from decimal import Decimal
from uuid import UUID

from dusky_heron.assessment.queries import words
from dusky_heron.bringup.queries import last_stop, powered, rail_of
from dusky_heron.core.discharge.limits import DischargeLimit, limits_of
from dusky_heron.core.discharge.pins import behind_plug, on_the_pins
from dusky_heron.core.discharge.touch_current import touch_limits
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import TO_REPLACE, Equipment, Position, Quantity
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.returning import checks as core
from dusky_heron.core.returning.invoice import USUAL_PLACES, add_up, places_of
from dusky_heron.core.selection.ways import Way
from dusky_heron.fitting.queries import fitted
from dusky_heron.handback.models import CheckResult, Deviation, OfJob, Quote, Return, Soak
from dusky_heron.handback.schemas import CheckState, HandbackOut, PlaceOut, ProofCheckOut, QuoteLine, QuoteOut, SoakOut
from dusky_heron.jobs.models import Job
from dusky_heron.jobs.queries import find_job, known_positions, show_job
from dusky_heron.jobs.schemas import Connection, JobOut, PositionOut
from dusky_heron.record.actor import Actor
from dusky_heron.record.clock import watch
from dusky_heron.replacement.queries import choices, in_the_place
from dusky_heron.replacement.schemas import ChoiceOut
from dusky_heron.stock.queries import prices
from dusky_heron.workshops.queries import limits_of_workshop, terms

SOAK, POWERED = "soak", "powered"
NOT_ACCEPTED = "It came in a file: a lead accepts it first"  # its checks are another workshop's word
HOW_FITTED = {
    None: "Its verdict asks for another part: choose one in Replace.",
    Way.LEFT: "Left as it was although its verdict asks for another part: a lead signs, or choose one in Replace.",
    Way.ORDERED: "It is still to be bought: choose it in Replace when it has come, or a lead signs.",
}
SETTLED = (CheckState.PASSES, CheckState.SIGNED)


@dataclass(frozen=True, slots=True)
class Work:
    """A job with its places, what is in them now, and the checks it asks for."""

    job: JobOut
    places: list[tuple[PositionOut, Position]]
    chosen: dict[UUID, ChoiceOut]
    checks: tuple[core.Check, ...] = ()

    @property
    def now(self) -> list[Position]:
        """The places with what is printed on the parts in them after the work."""
        after = (in_the_place(place, self.chosen.get(shown.id)) for shown, place in self.places)
        return [place for place in after if place is not None]

    @property
    def changed(self) -> dict[UUID, ChoiceOut]:
        """The choices that change what is in a place: another part, or none."""
        return {key: choice for key, choice in self.chosen.items() if choice.stands or choice.way is Way.REMOVED}


def work_on(actor: Actor, job: Job) -> Work:
    """A job of the asker's workshop, with the checks it asks for. Four statements."""
    work = _placed(actor, job)
    return replace(work, checks=_checks(actor, work))


def _placed(actor: Actor, job: Job) -> Work:
    """Two statements."""
    placed = [(shown, place) for shown, place, _ in known_positions(actor, job_id=job.id)]
    return Work(show_job(job), placed, choices([shown.id for shown, _ in placed]))


def _checks(actor: Actor, work: Work) -> tuple[core.Check, ...]:
    """Two statements."""
    rows = limits_of_workshop(actor)
    standard, protection = work.job.standard or None, str(work.job.protection_class)
    across = on_the_pins(work.now)
    pins: tuple[DischargeLimit, ...] = ()
    if across and across[0].supply_v:
        farads = behind_plug(across).across_f
        pins = limits_of(rows, standard, role=None, capacitance_f=farads, from_v=rule_voltage(across[0].supply_v).volts)
    return core.checks_for(
        core.Repaired(
            protection=protection,
            two_core=work.job.two_core,
            plug=work.job.connection != Connection.FIXED,
            places=work.now,
            changed=frozenset(shown.name for shown, _ in work.places if shown.id in work.changed),
            pins=pins,
            touch=touch_limits(rows, standard, Equipment(protection, work.job.two_core)),
            rail_v=rail_of(work.job.id),
        )
    )


def handback(actor: Actor, job_id: UUID) -> HandbackOut:
    """Where a job stands before it goes back. Fifteen statements, whatever the number of its places."""
    return stands(actor, work_on(actor, find_job(actor, job_id)))


def stands(actor: Actor, work: Work) -> HandbackOut:
    """Where a job stands before it goes back, when what is to be checked is known. Ten statements."""
    job_id = work.job.id
    made = {row.check_id: row for row in CheckResult.standing(job_id=job_id)}
    signed = {row.check_id: row for row in Deviation.signed_here(job_id=job_id)}
    shown = [_check(check, made.get(check.id), signed.get(check.id)) for check in work.checks]
    soak = Soak.standing(job_id=job_id).last()
    if work.changed:
        shown.append(_soak_check(soak, signed.get(SOAK)))
        shown.append(_powered_check(job_id, signed.get(POWERED)))
    places = _places(actor, work)
    for place in (place for place in places if not place.fitted):
        choice = work.chosen.get(place.position_id)
        shown.append(_place_check(place, _since(signed.get(f"fitted:{place.name}"), choice.sequence if choice else 0)))
    last = Return.standing(job_id=job_id).last()
    back = last if last and last.returned else None
    return HandbackOut(
        job_id=job_id,
        checks=shown,
        soak=show_soak(soak) if soak else None,
        soak_minutes=core.TABLE["soak_minutes"],
        places=places,
        missing=[
            *([NOT_ACCEPTED] if work.job.from_file and not work.job.accepted else []),
            *(_say(check) for check in shown if check.required and check.state not in SETTLED),
        ],
        returned_at=back.at if back else None,
        returned_by=back.by_name if back else "",
        warranty_until=back.warranty_until if back else None,
    )


def last_returns(job_ids: Iterable[UUID]) -> dict[UUID, Return]:
    """How each of these jobs was handed back last. One statement."""
    return {row.job_id: row for row in Return.standing(job_id__in=list(job_ids), returned=True)}


def begun(job_ids: Iterable[UUID]) -> set[UUID]:
    """Jobs of which at least one check was made or soak begun. One statement."""
    ids = list(job_ids)
    made = CheckResult.standing(job_id__in=ids).order_by().values_list("job_id")
    return {row[0] for row in made.union(Soak.standing(job_id__in=ids).order_by().values_list("job_id"))}


def _say(check: ProofCheckOut) -> str:
    place = f"{check.place}: " if check.place else ""
    words = {CheckState.MISSING: "is missing", CheckState.UNCLEAR: "decides nothing yet"}
    return f"{place}{check.title} {words.get(check.state, check.state)}"


def _check(check: core.Check, made: CheckResult | None, signed: Deviation | None) -> ProofCheckOut:
    state = CheckState(made.outcome) if made else CheckState.MISSING
    sentence = made.sentence if made else ""
    by: OfJob | None = made
    if (
        signed and state is not CheckState.PASSES and (made is None or signed.sequence > made.sequence)
    ):  # of what was known when it was signed
        state, sentence, by = CheckState.SIGNED, signed.reason, signed
    return ProofCheckOut(
        id=check.id, title=check.title, place=check.place, how=check.how, limit=made.limit if made else check.limit,
        source=check.source, unit=check.unit, quantity=check.quantity,
        against=check.against, readings=check.readings, measured_as=_measured_as(check),
        required=check.required, state=state, sentence=sentence, typed=made.typed if made else "",
        by_name=by.by_name if by else "", at=by.when if by else None, sequence=by.sequence if by else 0,
    )  # fmt: skip


def _measured_as(check: core.Check) -> Quantity | None:
    return core.asked_of(check) if isinstance(check.quantity, Quantity) else None


def _plain(
    key: str, title: str, place: str, how: str, state: CheckState, signed: Deviation | None, sentence: str = ""
) -> ProofCheckOut:
    """A check that is no reading: it comes from elsewhere."""
    if signed and state is not CheckState.PASSES:
        state, sentence = CheckState.SIGNED, signed.reason
    return ProofCheckOut(
        id=key, title=title, place=place, how=how, limit="", source="workshop practice", unit="", quantity=None, against="",
        readings=1, measured_as=None, required=True, state=state, sentence=sentence, typed="",
        by_name=signed.by_name if signed else "", at=signed.when if signed else None, sequence=signed.sequence if signed else 0,
    )  # fmt: skip


def _soak_check(soak: Soak | None, signed: Deviation | None) -> ProofCheckOut:
    state, asked, says = CheckState.MISSING, core.TABLE["soak_minutes"], soak.note if soak else ""
    if soak and soak.ended_at:
        state = CheckState.PASSES if soak.held else CheckState.FAILS
        if soak.held and soak.minutes < asked:
            state, says = CheckState.UNCLEAR, f"It lasted {soak.minutes:g} of {asked:g} minutes. {says}".strip()
    how = f"{asked:g} minutes under its usual load, watched."
    return _plain(SOAK, "soak under load", "", how, state, _since(signed, (soak.ended or soak.sequence) if soak else 0), says)


def _since(signed: Deviation | None, sequence: int) -> Deviation | None:
    """A signature that was given of what is known now: what came into the record after it undoes it."""
    return signed if signed and signed.sequence > sequence else None


def _powered_check(job_id: UUID, signed: Deviation | None) -> ProofCheckOut:
    """Whether the first power went as far as its plan goes. Two statements."""
    state = CheckState.PASSES if job_id in powered([job_id]) else CheckState.MISSING
    how = "Step by step in Power up, as far as its plan goes."
    return _plain(POWERED, "first power, to its last step", "", how, state, _since(signed, last_stop(job_id)))


def _place_check(place: PlaceOut, signed: Deviation | None) -> ProofCheckOut:
    how = HOW_FITTED.get(place.way, "Work through its list in Fit.")
    return _plain(f"fitted:{place.name}", "new part fitted", place.name, how, CheckState.MISSING, signed)


def _places(actor: Actor, work: Work) -> list[PlaceOut]:
    """Places whose verdict asks for another part, or that have one. Two statements, four or five more by what is recorded."""
    standing = words(actor, {shown.id: place for shown, place in work.places})
    done = fitted(work.chosen.values())
    found = []
    for shown, _ in work.places:
        choice = work.chosen.get(shown.id)
        if (choice and choice.way is not Way.LEFT) or standing[shown.id].word in TO_REPLACE:
            part, way, reason = (choice.marking, choice.way, choice.reason) if choice else ("", None, "")
            done_here = shown.id in done
            found.append(PlaceOut(position_id=shown.id, name=shown.name, part=part, way=way, reason=reason, fitted=done_here))
    return found


def show_soak(soak: Soak) -> SoakOut:
    """A soak as the API shows it; one that runs while the clock is put back begins anew. One statement."""
    moment = watch()
    began = soak.at if soak.ended_at or moment.gone(soak.at, soak.turn) is not None else moment.turned_at or moment.now
    passed = ((soak.ended_at or moment.now) - began).total_seconds()
    return SoakOut(
        minutes=soak.minutes,
        started_at=began,
        ends_at=began + timedelta(minutes=soak.minutes),
        left_s=core.soak_left(soak.minutes, passed),
        ended=soak.ended_at is not None,
        held=soak.held,
        note=soak.note,
        by_name=soak.by_name,
        sequence=soak.sequence,
    )


def quote(actor: Actor, job_id: UUID) -> QuoteOut:
    """What a job costs; before anybody wrote it down, its parts as the drawer has them now. At most six statements."""
    job = find_job(actor, job_id)
    kept = Quote.objects.filter(job_id=job.id).first()
    if kept:
        return show_quote(kept)
    usual = terms(actor)
    work = _placed(actor, job)
    parts = [
        (f"{shown.name}: {part.marking}", place.surroundings.count, part)
        for shown, place in work.places
        if shown.id in work.chosen
        for part in work.chosen[shown.id].parts
    ]
    now = prices(actor, [part.part_id for _, _, part in parts if part.part_id])
    each = [now.get(part.part_id) if part.part_id else None for _, _, part in parts]
    costs = [price or part.price for price, (_, _, part) in zip(each, parts, strict=True)]
    lines = [{"text": text, "quantity": count, "each": cost or "0.00"} for (text, count, _), cost in zip(parts, costs, strict=True)]
    return show_quote(
        Quote(
            version=0, job_id=job_id, lines=lines, hourly_rate=usual.hourly_rate, tax_percent=usual.tax_percent,
            currency=usual.currency, warranty_months=usual.warranty_months,
        ),
        unpriced=[text for (text, _, _), cost in zip(parts, costs, strict=True) if not cost],
    )  # fmt: skip


def warranty_months(actor: Actor, job_id: UUID) -> int:
    """Of a job: as its quote says, or as the workshop usually gives. At most two statements."""
    kept = Quote.objects.filter(job_id=job_id).first()
    return kept.warranty_months if kept else terms(actor).warranty_months


def show_quote(kept: Quote, unpriced: Iterable[str] = ()) -> QuoteOut:
    """A quote as the API shows it; `unpriced` are lines whose price nobody knows."""
    places = _places_of(kept.currency)
    lines = [QuoteLine.model_validate(line) for line in kept.lines]
    hours = Decimal(kept.minutes) / 60
    found = add_up([*((line.quantity, line.each) for line in lines), (hours, kept.hourly_rate)], kept.tax_percent, places)
    return QuoteOut(
        version=kept.version,
        lines=[line.model_copy(update={"each": _in_digits(line.each, places)}) for line in lines],
        minutes=kept.minutes,
        credit=found.gross < 0,
        amounts=[str(amount) for amount in found.lines[:-1]],
        labour=str(found.lines[-1]),
        net=str(found.net),
        tax=str(found.tax),
        gross=str(found.gross),
        currency=kept.currency,
        hourly_rate=str(_in_digits(kept.hourly_rate, places)),
        tax_percent=f"{float(kept.tax_percent):g}",
        warranty_months=kept.warranty_months,
        unpriced=list(unpriced),
    )


def _places_of(currency: str) -> int:
    """Of a quote that is kept: before codes were looked up anything of three letters was taken for a currency."""
    try:
        return places_of(currency)
    except InputError:
        return USUAL_PLACES


def _in_digits(amount: Decimal, places: int) -> Decimal:
    """With the digits of its currency; one that has more keeps them."""
    rounded = amount.quantize(Decimal(1).scaleb(-places))
    return rounded if rounded == amount else amount
