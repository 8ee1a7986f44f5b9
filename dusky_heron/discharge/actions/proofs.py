"""Proving dead, live–dead–live."""

from uuid import UUID

from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.proving import (
    READ_VOLTS,
    Left,
    PairReading,
    check_proof,
    hides_charge,
    left_on,
    not_settled,
    proof_holds,
    proof_pairs,
)
from dusky_heron.core.discharge.rebound import expected_rebound
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import parse_quantity, show, show_time
from dusky_heron.discharge.models import ChargeNote, ChargeState
from dusky_heron.discharge.queries import charge_line, planned
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, refusals
from dusky_heron.discharge.schemas import LeftOut, ProofIn, ProofOut
from dusky_heron.instruments.queries import voltmeter
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import PositionOut
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.clock import watch

LIVE = frozenset({ChargeState.ENERGISED, ChargeState.RISING})


@action(Permission.WORK)
def prove(actor: Actor, position_id: UUID, data: ProofIn) -> ProofOut:
    """Record a proof: the meter on a known source, every pair on DC and AC, the known source again. It lapses.

    A voltage that is left is recorded too: whatever was proved before counts no more.
    """
    position, known, _ = core_position(actor, position_id)
    found = planned(actor, position_id)
    if found is None:
        raise InputError("meter_id", NO_VOLTAGE)
    hidden = hides_charge(known.marking, found.evidence)
    if hidden:
        raise InputError("readings", hidden)
    notes = list(ChargeNote.standing(position_id=position_id).select_for_update())
    if notes and notes[-1].state in LIVE:
        raise InputError("readings", "It is energised: isolate it and empty it first.")
    meter, _, _ = voltmeter(actor, data.meter_id)
    against = refusals(found, meter)
    if against:
        raise InputError("meter_id", " ".join(against))
    pairs = proof_pairs(known.marking, known.surroundings)
    if len(data.readings) > len(pairs):
        raise InputError("readings", "More pairs than this position has: measure those that are listed.")
    readings = [
        PairReading(pair, _volts(typed.dc, f"readings.{i}.dc"), _volts(typed.ac, f"readings.{i}.ac"))
        for i, (pair, typed) in enumerate(zip(pairs, data.readings, strict=False))
    ]
    left = left_on(readings)
    if left:
        return _not_empty(actor, position, meter.name, left)
    before, after = (
        parse_quantity(typed, "V", READ_VOLTS, field=field)
        for typed, field in ((data.known_before, "known_before"), (data.known_after, "known_after"))
    )
    if asks := not_settled(known.marking, known.surroundings):
        raise InputError("readings", asks)
    highest = check_proof(pairs, readings, before, after)
    rebound = expected_rebound(found.dielectric, found.charge.highest_f, found.charge.each_v)
    holds = proof_holds(rebound.voltage_v, _since_first(notes))
    note = ChargeNote(position_id=position_id, state=ChargeState.PROVED, highest_v=highest, meter_name=meter.name, holds_s=holds)
    enter(
        actor,
        position.job_id,
        "proved",
        {
            "position": position.name,
            "below": show(HANDS_IN_V, "V"),
            "meter": meter.name,
            "known_source": f"{show(before, 'V')} before, {show(after, 'V')} after",
            "readings": [f"{r.pair}: {show(r.dc_v or 0.0, 'V')} DC, {show(r.ac_v or 0.0, 'V')} AC" for r in readings],
            "holds": show_time(holds),
            "rebound": rebound.sentence,
        },
        note,
    )
    return ProofOut(item=charge_line([position])[0], left=[])


def _not_empty(actor: Actor, position: PositionOut, meter_name: str, left: tuple[Left, ...]) -> ProofOut:
    """A voltage was found: nobody knows any more what is on the part, and the record says what was read."""
    found = " ".join(part.sentence for part in left)
    note = ChargeNote(
        position_id=position.id,
        state=ChargeState.UNKNOWN,
        found=left[0].short,
        highest_v=max(part.voltage_v for part in left),
        meter_name=meter_name,
    )
    body = {"position": position.name, "meter": meter_name, "found": found}
    enter(actor, position.job_id, "voltage found", body, note)
    return ProofOut(item=charge_line([position])[0], left=[LeftOut(field=part.field, sentence=part.sentence) for part in left])


def _volts(typed: str, field: str) -> float | None:
    return parse_quantity(typed, "V", READ_VOLTS, field=field) if typed else None


def _since_first(notes: list[ChargeNote]) -> float | None:
    """Seconds since the first proof after the last emptying, None when there is none."""
    first = None
    for note in reversed(notes):
        if note.state != ChargeState.PROVED:
            break
        first = note
    gone = watch().gone(first.when, first.turn) if first else None
    return gone.total_seconds() if gone is not None else None
