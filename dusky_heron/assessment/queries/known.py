"""What is known of positions and what follows from it: readings, signs, the verdict now and the one recorded last."""

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import asdict, dataclass
from functools import cache, partial
from typing import TypeVar
from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.models import Reading, RecordedVerdict, SeenSign
from dusky_heron.core import model as core
from dusky_heron.core.discharge.proving import CHARGING
from dusky_heron.core.metering.accuracy import fine_enough
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.bounds import said
from dusky_heron.instruments.queries import specifications
from dusky_heron.jobs.schemas import JobOut, PositionOut
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import Judging, judging

Placed = tuple[PositionOut, core.Position, JobOut]


@dataclass(frozen=True, slots=True)
class Known:
    """One position with its evidence, its verdict now, and the verdict recorded last."""

    shown: PositionOut
    position: core.Position
    job: JobOut
    readings: list[Reading]
    signs: list[SeenSign]
    evidence: core.Evidence
    verdict: core.Verdict
    recorded: RecordedVerdict | None
    judging: Judging

    @property
    def standing(self) -> list[Reading]:
        """The readings that were not struck."""
        return [reading for reading in self.readings if reading.struck is None]

    @property
    def reasons(self) -> list[dict[str, str]]:
        """The reasons of the verdict as they are recorded."""
        return plain_reasons(self.verdict)

    @property
    def before(self) -> list[dict[str, str]]:
        """The reasons recorded last; none before the first."""
        return json.loads(self.recorded.reasons) if self.recorded else []

    @property
    def decided(self) -> list[Reading]:
        """The readings the standing word rests on, newest of each section and quantity: those its gravest reasons name."""
        reasons = self.before or self.reasons
        word = self.recorded.word if self.recorded else self.verdict.word
        named = {reason["reading"] for reason in reasons if reason["word"] == word}
        read = {
            (r.section, r.quantity): r
            for r, known in zip(self.standing, self.evidence.readings, strict=True)
            if r.condition != core.Condition.NEW_PART and said(known) in named
        }
        return [read[key] for key in sorted(read)]

    @property
    def differs(self) -> bool:
        """Whether the verdict now is not the recorded one, nor one that was offered and not taken."""
        if self.recorded is None:
            return True
        return json.dumps(self.reasons) not in (json.dumps(self.before), json.dumps(json.loads(self.recorded.kept or "null")))


def known(actor: Actor, placed: list[Placed]) -> list[Known]:
    """Positions with all that follows from their evidence. Five statements, whatever their number; one more for an open ask."""
    ids = [shown.id for shown, _, _ in placed]
    by = judging(actor)
    judged = _judge(actor, by)
    readings = _by_position(Reading.objects.filter(position_id__in=ids), ids)
    signs = _by_position(SeenSign.objects.filter(position_id__in=ids), ids)
    recorded = {v.position_id: v for v in RecordedVerdict.standing(position_id__in=ids)}
    found = []
    for shown, position, job in placed:
        evidence = _evidence(readings[shown.id], signs[shown.id])
        verdict = judged(position, evidence)
        found.append(
            Known(shown, position, job, readings[shown.id], signs[shown.id], evidence, verdict, recorded.get(shown.id), by)
        )
    return found


def verdicts(actor: Actor, places: Mapping[UUID, core.Position]) -> dict[UUID, core.Verdict]:
    """The verdicts now of places the asker may see. Four statements; one more for an open ask."""
    judged, found = _judge(actor, judging(actor)), evidences(list(places))
    return {position_id: judged(place, found[position_id]) for position_id, place in places.items()}


def _judge(actor: Actor, by: Judging) -> Callable[[core.Position, core.Evidence], core.Verdict]:
    """The workshop's way of judging: its limits, its schools, its meters, and today's date."""
    today = timezone.localdate()
    meters = cache(partial(specifications, actor))

    def able(ask: core.Measurement) -> bool:
        return any(fine_enough(meter, ask) for meter in meters())

    return partial(judge, limits=by.limits, schools=by.schools, today=today, able=able)


def evidence(position_id: UUID) -> core.Evidence:
    """Readings and signs of a position the asker may see. Two statements."""
    return _evidence(Reading.objects.filter(position_id=position_id), SeenSign.objects.filter(position_id=position_id))


def evidences(ids: list[UUID]) -> dict[UUID, core.Evidence]:
    """Readings and signs of several positions the asker may see. Two statements."""
    readings = _by_position(Reading.objects.filter(position_id__in=ids), ids)
    signs = _by_position(SeenSign.objects.filter(position_id__in=ids), ids)
    return {position_id: _evidence(readings[position_id], signs[position_id]) for position_id in ids}


def read_since(since: Mapping[UUID, int]) -> dict[UUID, tuple[core.Evidence, core.Evidence]]:
    """What was read of the capacitance of positions, and what was laid on them with volts of its own, around an entry of each.

    Of capacitance all that stands, and what came into the record after the entry, struck or not; of what charges only what came
    after it. One statement.
    """
    rows = Reading.objects.filter(position_id__in=since, quantity__in=[core.Quantity.CAPACITANCE, *CHARGING])
    found = {}
    for place, kept in _by_position(rows, list(since)).items():
        capacitance = core.Quantity.CAPACITANCE
        whole = [row for row in kept if row.quantity == capacitance and (row.struck is None or row.sequence > since[place])]
        after = [row for row in kept if row.quantity != capacitance and row.sequence > since[place]]
        found[place] = _evidence(whole, (), struck=True), _evidence(after, (), struck=True)
    return found


def plain_reasons(verdict: core.Verdict) -> list[dict[str, str]]:
    """The reasons of a verdict as plain data."""
    return [
        {
            "rule_id": f.rule_id,
            "word": str(f.word),
            "sentence": f.sentence,
            "reading": f.reading,
            "limit": f.limit,
            "source": f.source,
        }
        for f in verdict.reasons
    ]


def plain_evidence(evidence: core.Evidence) -> dict[str, object]:
    """The evidence of a verdict as plain data, as it is recorded; a bound without an end says so in words."""
    readings = [asdict(reading) | {"high": _finite(reading.high)} for reading in evidence.readings]
    return {"readings": readings, "signs": sorted(evidence.signs)}


def _finite(value: float) -> float | str:
    return "no end" if value == float("inf") else value


Row = TypeVar("Row", Reading, SeenSign)


def _by_position(rows: Iterable[Row], ids: list[UUID]) -> dict[UUID, list[Row]]:
    found: dict[UUID, list[Row]] = {position_id: [] for position_id in ids}
    for row in rows:
        found[row.position_id].append(row)
    return found


def _evidence(readings: Iterable[Reading], signs: Iterable[SeenSign], *, struck: bool = False) -> core.Evidence:
    """What decides: of what was noted, all that was not struck; or all."""
    return core.Evidence(
        readings=tuple(
            core.Reading(
                r.value,
                r.low,
                r.high,
                core.Condition(r.condition),
                r.section,
                r.meter_name,
                core.Quantity(r.quantity),
                r.frequency_hz,
                r.overdue,
                r.volts,
                r.seconds,
                r.temperature_c,
            )
            for r in readings
            if struck or r.struck is None
        ),
        signs=frozenset(core.Sign(s.sign) for s in signs if s.struck is None),
    )
