"""Reading the drawer."""

import math
import re
from collections import Counter
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, fields
from functools import lru_cache, reduce
from itertools import islice
from operator import and_, or_
from typing import Any
from uuid import UUID

from django.db.models import Case, Count, F, FloatField, Q, QuerySet, Value, When
from django.db.models.functions import Abs, Greatest, Least, Ln
from django.db.models.lookups import GreaterThan
from django.utils import timezone

from dusky_heron.codes import LabelOut
from dusky_heron.core import model as core
from dusky_heron.core.errors import CAPACITANCE, InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.dates import date_code
from dusky_heron.core.markings.model import ClassName, DateCandidate, Marking
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.core.selection import sieve as conditions
from dusky_heron.core.selection.sieve import Sieve, traits_of
from dusky_heron.presented import KEPT_MARKINGS, DoubtOut, Figure, ratings, read_kept
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound
from dusky_heron.sheets import write_sheet
from dusky_heron.stock.models import Part
from dusky_heron.stock.schemas import DrawerIn, DrawerState, MovementOut, MovementsOut, PartAge, PartIn, PartOut

NEAR = 50  # refused parts that are shown with their reasons
MOST_LISTED = 300
OLD_YEARS = 5  # after which one looks twice at a part that lay, workshop practice
SAME_VALUE = 0.005  # of a value typed and one printed
MOST_LOOSE = 500  # put together in pairs
FAR = 3.0  # times the marked value, beyond which nothing is near
NEVER = Q(pk__in=())
READ_FROM = {"ripple": "ripple_a", "dvdt": "dvdt_v_s", "peak": "peak_a", "esr": "esr_ohm"}  # what is typed, and its column
SHOWN = (
    *("id", "version", "capacitance_f", *READ_FROM.values()),
    *(field for field in PartIn.model_fields if field not in READ_FROM),
)


@lru_cache(maxsize=KEPT_MARKINGS)
def traits_kept(text: str, kind: core.PartKind) -> dict[str, Any]:
    """The traits of a part's marking by column, kept likewise."""
    traits = traits_of(core.told_by_kind(read_marking(text), kind))  # what was read is not kept: of a long list it would be much
    return {column.name: getattr(traits, column.name) for column in fields(traits)}


def parts(actor: Actor, asked: DrawerIn) -> list[PartOut]:
    """What is asked for of the drawer by value, at most three hundred. One statement."""
    found = _parts(actor).filter(reduce(and_, (_answers(word) for word in asked.words.split()), Q()), _of(asked))
    if asked.age is None:
        return [show_part(part) for part in found[:MOST_LISTED]]
    of_age = (part for part in found.iterator() if _age(part) == asked.age)
    return [show_part(part) for part in islice(of_age, MOST_LISTED)]


def _of(asked: DrawerIn) -> Q:
    states = {
        DrawerState.IN_STOCK: Q(quantity__gt=0),
        DrawerState.NONE_LEFT: Q(quantity=0),
        DrawerState.SALVAGED: Q(origin=core.Origin.SALVAGED),
        DrawerState.UNSETTLED: Q(provisional=True),
    }
    found = states[asked.state] if asked.state else Q()
    if asked.kind:
        found &= Q(kind=asked.kind)
    if asked.safety_class:
        found &= Q(classes__contains=f" {asked.safety_class} ")
    return found & Q(pitch_mm=asked.pitch_mm) if asked.pitch_mm else found


def _age(part: Part) -> PartAge | None:
    """Of what was made less than five years ago neither."""
    made, today = _made(part.date_code, read_kept(part.marking)), timezone.localdate()
    if made is None:
        return PartAge.UNDATED
    return PartAge.OLD if today.year + today.timetuple().tm_yday / 366 - made > OLD_YEARS else None


def _answers(word: str) -> Q:
    """A word as text, as a value (680n, 0.68u), as a class (x2) or as a pitch (22.5)."""
    made = [kind for kind, title in core.KIND_TITLES.items() if word.lower() in title]
    found = Q(marking__icontains=word) | Q(place__icontains=word) | Q(lot__icontains=word) | Q(kind__in=made)
    if word.upper() in set(ClassName):
        found |= Q(classes__contains=f" {word.upper()} ")
    if re.fullmatch(r"\d{1,3}([.,]\d{1,2})?", word):
        found |= Q(pitch_mm=float(word.replace(",", ".")))
    try:
        farads = parse_quantity(word, "F", CAPACITANCE)
    except InputError:
        return found
    return found | Q(capacitance_f__gte=farads * (1 - SAME_VALUE), capacitance_f__lte=farads * (1 + SAME_VALUE))


def not_settled(part: Part) -> str:
    """Why a part is neither taken nor bought: what its marking leaves open; nothing where it is settled."""
    doubts = core.told_by_kind(read_kept(part.marking), core.PartKind(part.kind)).doubts
    return f"Its marking is not settled: {doubts[0].asks} Settle it in the drawer first." if doubts else ""


def label(actor: Actor, part_id: UUID, origin: str) -> LabelOut:
    """The label of a drawer; its code opens the part. One statement."""
    part, _ = one_part(actor, part_id)
    values = " + ".join(figure.said for figure in part.capacitance)
    lot = ", ".join(filter(None, (f"lot {part.lot}" if part.lot else "", part.date_code)))
    return LabelOut.of(f"{origin}/drawer?part={part.id}", values, [part.place and f"drawer {part.place}", part.marking, lot])


def movements(actor: Actor, part_id: UUID) -> MovementsOut:
    """A part with every change of its quantity. Two statements."""
    part = Part.objects.filter(workshop_id=actor.workshop_id, id=part_id).first()
    if part is None:
        raise NotFound
    return MovementsOut(part=show_part(part), movements=[MovementOut.from_row(row) for row in part.movements.order_by("-id")])


@dataclass(frozen=True, slots=True)
class Drawer:
    """What is left of a drawer for a need: parts worth judging and near misses, with their rows; others counted by rule."""

    parts: list[core.Part]
    others: dict[str, int]
    rows: dict[str, Any]  # plain tuples: of a large drawer a thousand pass

    def shown(self, part: core.Part) -> PartOut:
        """A part of it as the API shows it."""
        return show_part(self.rows[part.part_id], part.marking)


def drawer(actor: Actor, sieve: Sieve) -> Drawer:
    """The drawer through a sieve, with the nearest in value of what fell through on either side. Two statements."""
    every, misses = Part.objects.filter(workshop_id=actor.workshop_id), _misses(sieve)
    kind, missed = every.filter(kind__in=sieve.kinds), reduce(or_, (miss for _, miss in misses))
    fallen = every.filter(missed).annotate(fell=Value(True))
    above = fallen.filter(capacitance_f__gte=sieve.marked_f, capacitance_f__lte=sieve.marked_f * FAR)
    below = fallen.filter(capacitance_f__lt=sieve.marked_f, capacitance_f__gte=sieve.marked_f / FAR)
    near = (above.order_by("capacitance_f", "id")[:NEAR], below.order_by("-capacitance_f", "id")[:NEAR])
    passing, *missing = (
        some.values_list(*SHOWN, "fell", named=True) for some in (_through(kind, sieve, misses).annotate(fell=Value(False)), *near)
    )
    found: list[Any] = list(passing.union(*missing, all=True))
    left = [part for part in found if not part.fell]
    found = left + sorted((part for part in found if part.fell), key=lambda part: _off(part, sieve))[:NEAR]
    by_rule = Case(*(When(miss, then=Value(rule_id)) for rule_id, miss in misses[1:]), default=Value(""))
    unlike = [kind.value for kind in core.PartKind if kind.value not in sieve.kinds]  # named, so that an index serves
    counts = (
        parts.order_by().values(rule=rule).annotate(parts=Count("*"))
        for parts, rule in ((kind, by_rule), (every.filter(kind__in=unlike), Value(misses[0][0])))
    )
    counted = Counter({row["rule"]: row["parts"] for row in next(counts).union(next(counts), all=True) if row["rule"]})
    parts = [core_part(part, read_kept(part.marking)) for part in found]
    counted.subtract(rule for part in parts[len(left) :] if (rule := sieve.refuses(part)))
    return Drawer(parts, {rule: number for rule, number in counted.items() if number > 0}, _by_id(found))


def _off(part: Any, sieve: Sieve) -> tuple[float, str]:
    """How far from the marked value, as a ratio."""
    return abs(math.log(part.capacitance_f / sieve.marked_f)), str(part.id)


def _by_id(rows: Iterable[Any]) -> dict[str, Any]:
    return {str(row.id): row for row in rows}


def loose(actor: Actor, sieve: Sieve) -> Drawer:
    """What is in the drawer and passes a sieve, nearest in value first, at most five hundred. One statement."""
    off = Abs(Ln(F("capacitance_f")) - Value(math.log(sieve.marked_f)), output_field=FloatField())
    every = Part.objects.filter(workshop_id=actor.workshop_id, kind__in=sieve.kinds, quantity__gt=0)
    rows = list(_through(every, sieve, _misses(sieve)).order_by(off, "id")[:MOST_LOOSE])
    return Drawer([core_part(row, read_kept(row.marking)) for row in rows], {}, _by_id(rows))


def all_parts(actor: Actor, ids: Collection[UUID]) -> bool:
    """Whether every one of these is a part of the drawer. One statement."""
    return Part.objects.filter(workshop_id=actor.workshop_id, id__in=ids).count() == len(ids)


def one_part(actor: Actor, part_id: UUID) -> tuple[PartOut, core.Part]:
    """One part, as shown and as the core knows it. One statement."""
    part = Part.objects.filter(workshop_id=actor.workshop_id, id=part_id).first()
    if part is None:
        raise NotFound
    marking = read_kept(part.marking)
    return show_part(part, marking), core_part(part, marking)


def known_part(actor: Actor, part_id: UUID) -> core.Part | None:
    """One part as the core knows it; None where it is not in the drawer. One statement."""
    part = Part.objects.filter(workshop_id=actor.workshop_id, id=part_id).first()
    return core_part(part, read_kept(part.marking)) if part else None


def known_parts(actor: Actor, ids: Collection[UUID]) -> list[core.Part]:
    """Parts of the drawer as the core knows them. One statement."""
    found = Part.objects.filter(workshop_id=actor.workshop_id, id__in=ids)
    return [core_part(part, read_kept(part.marking)) for part in found]


def _through(parts: QuerySet[Part], sieve: Sieve, misses: list[tuple[str, Q]]) -> QuerySet[Part]:
    """What no condition keeps away; the range of values said again so that an index serves."""
    low, high = sieve.low_f or 0.0, sieve.high_f
    ranged = parts.filter(capacitance_f__gte=low, **({"capacitance_f__lte": high} if high and math.isfinite(high) else {}))
    return ranged.filter(reduce(and_, (~miss for _, miss in misses)))


def _misses(sieve: Sieve) -> list[tuple[str, Q]]:
    """What keeps a row away, with the rule that says so: the sieve's own conditions as SQL."""
    return [(miss.rule_id, _sql(miss.condition)) for miss in sieve.misses]


def _sql(condition: conditions.Condition) -> Q:
    """A condition of the core as one of the database."""
    match condition:
        case conditions.Below(column, limit):
            return Q(**{f"{column}__lt": limit})
        case conditions.Above(column, limit):
            return Q(**{f"{column}__gt": limit}) if math.isfinite(limit) else NEVER
        case conditions.Among(column, values):
            return Q(**{f"{column}__in": values})
        case conditions.Lacks(column, words):
            return ~reduce(or_, (Q(**{f"{column}__contains": f" {word} "}) for word in words))
        case conditions.Larger(space_mm):
            return _too_big(space_mm)
        case conditions.Not(of):
            return ~_sql(of)
        case conditions.Every(of):
            return reduce(and_, map(_sql, of), ~NEVER)
        case conditions.Either(of):
            return reduce(or_, map(_sql, of))


def _too_big(space: tuple[float, float, float]) -> Q:
    small, large = sorted(space[:2])
    known = reduce(and_, (Q(**{f"{side}_mm__gt": 0}) for side in ("length", "width", "height")))
    low, high = Least("length_mm", "width_mm"), Greatest("length_mm", "width_mm")
    return known & (GreaterThan(low, Value(small)) | GreaterThan(high, Value(large)) | Q(height_mm__gt=space[2]))


def _parts(actor: Actor) -> QuerySet[Part]:
    return Part.objects.filter(workshop_id=actor.workshop_id).order_by("capacitance_f", "marking", "id")


def core_part(part: Any, marking: Marking) -> core.Part:
    """A stock item, a row of `SHOWN` or all of it, as the core knows it."""
    size = (part.length_mm, part.width_mm, part.height_mm)
    return core.Part(
        part_id=str(part.id),
        kind=core.PartKind(part.kind),
        marking=marking,
        quantity=part.quantity,
        origin=core.Origin(part.origin),
        size_mm=(size[0], size[1], size[2]) if size[0] and size[1] and size[2] else None,
        pitch_mm=part.pitch_mm,
        humidity_grade=part.humidity_grade,
        price=float(part.price) if part.price is not None else None,
        ripple_a=part.ripple_a,
        dvdt_v_s=part.dvdt_v_s,
        lead_form=core.LeadForm(part.lead_form) if part.lead_form else None,
        measured=bool(part.measured),
        peak_a=part.peak_a,
        esr_ohm=part.esr_ohm,
        made=_made(part.date_code, marking),
    )


def _made(code: str, marking: Marking) -> float | None:
    """When a part was made, by its date code, else by its marking: a year and its share; None where neither tells."""
    dates = dates_kept(code) if code else marking.dates
    if not dates:
        return None
    first = dates[0]
    return first.year + ((first.week or 0) / 53 if first.week else (first.month or 0) / 13)


@lru_cache(maxsize=KEPT_MARKINGS)
def dates_kept(text: str) -> tuple[DateCandidate, ...]:
    """The plausible dates of a date code, likeliest first, kept."""
    return date_code(text, timezone.localdate())


def as_csv(actor: Actor) -> str:
    """The drawer as CSV, with a mark at its beginning that spreadsheets ask for. One statement."""
    columns = ("id", *PartIn.model_fields)
    shown = (show_part(part, read_kept(part.marking)) for part in _parts(actor))
    return "\ufeff" + write_sheet(columns, (tuple(getattr(part, column) for column in columns) for part in shown))


def sheet_as_typed(kept: Mapping[str, Any]) -> dict[str, Any]:
    """What a data sheet says, in the columns it is kept in, as it would be typed."""
    ripple, dvdt, peak, esr = (kept.get(column) for column in READ_FROM.values())
    return {
        "ripple": show(ripple, "A", digits=6) if ripple else "",
        "dvdt": dvdt / 1e6 if dvdt else None,
        "peak": show(peak, "A", digits=6) if peak else "",
        "esr": show(esr, "Ω", digits=6) if esr else "",
    }


def show_part(part: Any, marking: Marking | None = None) -> PartOut:
    """A stock item as the API shows it; `marking` when it has been read already."""
    marking = core.told_by_kind(marking or read_kept(part.marking), core.PartKind(part.kind))
    given = {field: getattr(part, field) for field in PartIn.model_fields if field not in READ_FROM}
    given["lead_form"] = given["lead_form"] or None
    return PartOut(
        **given,
        **sheet_as_typed({column: getattr(part, column) for column in READ_FROM.values()}),
        id=part.id,
        version=part.version,
        kind_title=core.KIND_TITLES[core.PartKind(part.kind)],
        origin_title=core.ORIGIN_TITLES[core.Origin(part.origin)],
        capacitance=[Figure.of(section.capacitance_f, "F") for section in marking.sections],
        ratings=ratings(marking),
        unread=marking.unread,
        doubts=DoubtOut.of(marking),
    )


def prices(actor: Actor, part_ids: Iterable[UUID]) -> dict[UUID, str]:
    """What some parts of the drawer cost now, of those whose price is known. One statement."""
    found = Part.objects.filter(workshop_id=actor.workshop_id, id__in=list(part_ids), price__isnull=False)
    return {key: str(price) for key, price in found.values_list("id", "price")}
