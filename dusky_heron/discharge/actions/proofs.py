"""Proving dead, live–dead–live."""

from collections.abc import Sequence
from uuid import UUID

from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.proving import (
    KnownSource,
    Left,
    PairReading,
    check_first_stage,
    check_proof,
    left_on,
    needs_probe,
    not_settled,
    proof_pairs,
)
from dusky_heron.core.discharge.rebound import LEAST_PROOF_S, UNLOADED_S, proof_holds
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering.volts import VoltRanges, Volts, read_volts
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote
from dusky_heron.discharge.queries import Planned, charge_line, planned
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, refusals
from dusky_heron.discharge.schemas import LeftOut, ProofIn, ProofOut, ProofsIn, ProofsOut
from dusky_heron.discharge.states import ChargeState
from dusky_heron.instruments.queries import VoltsMeter, voltmeter
from dusky_heron.jobs.queries import core_position, job_places
from dusky_heron.jobs.schemas import PositionOut
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.clock import watch
from dusky_heron.record.errors import NotFound

LIVE = frozenset({ChargeState.ENERGISED, ChargeState.RISING})


@action(Permission.WORK)
def prove(actor: Actor, position_id: UUID, data: ProofIn) -> ProofOut:
    """Record a proof: the meter on a known source, every pair on DC and AC, the known source again. It lapses, or has its link.

    A voltage that is left is recorded too: whatever was proved before counts no more.
    """
    position, known, _ = core_position(actor, position_id)
    found = planned(actor, position_id)
    if found is None:
        raise InputError("meter_id", NO_VOLTAGE)
    if found.hidden:
        raise InputError("readings", found.hidden)
    notes = list(ChargeNote.standing(position_id=position_id).select_for_update())
    if notes and notes[-1].state in LIVE:
        raise InputError("readings", "It is energised: isolate it and empty it first.")
    pairs = proof_pairs(known.marking, known.surroundings)
    if len(data.readings) > len(pairs):
        raise InputError("readings", "More pairs than this position has: measure those that are listed.")
    meter = voltmeter(actor, data.meter_id)
    probed = _first_stage(actor, found, pairs, meter, data)
    against = refusals(found, meter.core, after_probe_v=probed[1] if probed else None)
    if against:
        raise InputError("meter_id", " ".join(against))
    readings = [
        PairReading(
            pair,
            _volts(typed.dc, meter.dc, f"readings.{i}.dc"),
            _volts(typed.ac, meter.ac, f"readings.{i}.ac"),
            _volts(typed.low, meter.ac, f"readings.{i}.low"),
        )
        for i, (pair, typed) in enumerate(zip(pairs, data.readings, strict=False))
    ]
    left = left_on(readings, input_ohm=meter.core.input_ohm)
    if left:
        return _not_empty(actor, position, meter.core.name, left)
    if asks := not_settled(known.marking, known.surroundings):
        raise InputError("readings", asks)
    sources = {
        kind: KnownSource(
            read_volts(before, ranges, field=f"known_before{suffix}"), read_volts(after, ranges, field=f"known_after{suffix}")
        )
        for kind, suffix, ranges, before, after in (
            ("DC", "", meter.dc, data.known_before, data.known_after),
            ("AC", "_ac", meter.ac, data.known_before_ac, data.known_after_ac),
        )
    }
    highest = check_proof(pairs, readings, sources["DC"], sources["AC"])
    note = _proof(found, notes, meter, highest, data)
    body: dict[str, object] = {
        "position": position.name,
        "below": show(HANDS_IN_V, "V"),
        "meter": meter.core.name,
        "known_source": [f"{show(s.before.shown, 'V')} {k} before, {show(s.after.shown, 'V')} after" for k, s in sources.items()],
        "readings": [_say(reading) for reading in readings],
        "at_most": show(highest, "V"),
        "rebound": found.rebound.sentence,
    }
    body |= {"probe": probed[0]} if probed else {}
    body |= {"holds": show_time(note.holds_s)} if note.holds_s is not None else {"link": note.place}
    enter(actor, position.job_id, "proved", body, note)
    return ProofOut(item=charge_line([position])[0], left=[])


@action(Permission.WORK)
def prove_several(actor: Actor, job_id: UUID, data: ProofsIn) -> ProofsOut:
    """Record the proofs of several places of a job, taken in one go: each its own, all or none; of each only what was measured."""
    here = {place.id for place in job_places(actor, job_id)}
    common = data.model_dump(exclude={"places"})
    found = []
    for number, place in enumerate(data.places):
        if place.position_id not in here:
            raise NotFound
        try:
            found.append(prove(actor, place.position_id, ProofIn(**common, **place.model_dump(exclude={"position_id"}))))
        except InputError as error:
            field = error.field if error.field in common else f"places.{number}.{error.field}"
            raise InputError(field, error.sentence) from error
    return ProofsOut(places=found)


def _first_stage(
    actor: Actor, found: Planned, pairs: Sequence[str], meter: VoltsMeter, data: ProofIn
) -> tuple[list[str], float] | None:
    """What the probe showed before the multimeter went on, and the most it left possible; none where no probe came first."""
    if meter.core.probe or not needs_probe(found.charge, found.position.role, found.position.surroundings):
        return None
    if data.probe_id is None:
        return None  # the multimeter is refused by itself
    probe = voltmeter(actor, data.probe_id)
    against = refusals(found, probe.core)
    if against or not probe.core.probe:
        raise InputError("probe_id", " ".join(against) or f"{probe.core.name} is no high-voltage probe.")
    read = [_volts(typed, probe.dc, f"probe_readings.{i}") for i, typed in enumerate(data.probe_readings)]
    most = check_first_stage(pairs, read)
    if not data.shorted:
        raise InputError("shorted", "Short it through the tool once the probe shows it below 1 kV, then lay the multimeter on.")
    said = [f"{pair}: {show(volts.shown, 'V')} DC" for pair, volts in zip(pairs, read, strict=True) if volts]
    return [f"{probe.core.name}, then shorted through the tool", *said], most


def _proof(found: Planned, notes: Sequence[ChargeNote], meter: VoltsMeter, highest_v: float, data: ProofIn) -> ChargeNote:
    """The proof as it is kept: with the link on as long as that is on, else as long as what creeps back stays under the target."""
    known = ChargeNote(position_id=found.shown.id, highest_v=highest_v, meter_name=meter.core.name)
    if data.link:
        known.state, known.place = ChargeState.KEPT_SHORTED, data.link
        return known
    shorted_s, open_s = _history(notes)
    watched = data.stood_open and found.charge.highest_f * meter.core.input_ohm >= UNLOADED_S
    creeps_v = 0.0 if found.rebound.harmless else found.rebound.voltage_v
    holds = proof_holds(creeps_v, highest_v, shorted_s=shorted_s, open_s=open_s if watched else 0.0)
    if holds < LEAST_PROOF_S:
        up_to = f"{found.rebound.sentence.split(':')[0].removesuffix('.')}, over {show(HANDS_IN_V, 'V')} within {show_time(holds)}"
        raise InputError("link", f"{up_to}: it is not proved without the link. Where is it?")
    known.state, known.holds_s = ChargeState.PROVED, holds
    return known


def _history(notes: Sequence[ChargeNote]) -> tuple[float, float]:
    """How long the part was kept shorted before it was opened, and how long it has been open since, seconds; none not known."""
    opened = None
    for number in range(len(notes) - 1, -1, -1):
        if notes[number].state == ChargeState.PROVED:
            opened = notes[number]
            continue
        if notes[number].state == ChargeState.LINK_OFF and number and notes[number - 1].state == ChargeState.KEPT_SHORTED:
            off, on = notes[number], notes[number - 1]
            lasted = (off.when - on.when).total_seconds() if off.turn == on.turn else 0.0
            return max(lasted, 0.0), _since(off)
        break
    return 0.0, _since(opened) if opened else 0.0


def _since(note: ChargeNote) -> float:
    gone = watch().gone(note.when, note.turn)
    return gone.total_seconds() if gone is not None else 0.0


def _say(reading: PairReading) -> str:
    kinds = (("DC", reading.dc), ("AC", reading.ac), ("AC at low impedance", reading.low))
    return f"{reading.pair}: {', '.join(f'{_shown(volts)} {kind}' for kind, volts in kinds if volts)}"


def _shown(volts: Volts) -> str:
    return f"{show(volts.shown, 'V')} ±{show(volts.error, 'V', digits=2)}"


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


def _volts(typed: str, ranges: VoltRanges, field: str) -> Volts | None:
    return read_volts(typed, ranges, field=field) if typed else None
