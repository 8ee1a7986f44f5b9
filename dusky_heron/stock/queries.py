"""Reading the drawer; one statement each."""

from dusky_heron.core import model as core
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.presented import Figure, ratings
from dusky_heron.record.actor import Actor
from dusky_heron.stock.models import Part
from dusky_heron.stock.schemas import PartIn, PartOut


def parts(actor: Actor, words: str = "") -> list[PartOut]:
    """The drawer by value; `words` keeps the parts whose marking, place or kind holds every one of them."""
    shown = [show_part(part) for part in _parts(actor)]
    wanted = words.lower().split()
    return [p for p in shown if all(w in f"{p.marking} {p.place} {p.kind_title} {p.ratings}".lower() for w in wanted)]


def drawer(actor: Actor) -> tuple[dict[str, PartOut], list[core.Part]]:
    """The whole drawer, as shown (by id) and as the core knows it."""
    found = _parts(actor)
    read = [(part, read_marking(part.marking)) for part in found]
    return {str(part.id): show_part(part, marking) for part, marking in read}, [_core_part(*pair) for pair in read]


def _parts(actor: Actor) -> list[Part]:
    return list(Part.objects.filter(workshop_id=actor.workshop_id).order_by("capacitance_f", "marking", "id"))


def _core_part(part: Part, marking: Marking) -> core.Part:
    """A stock item as the core knows it."""
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
    )


def show_part(part: Part, marking: Marking | None = None) -> PartOut:
    """A stock item as the API shows it; `marking` when it has been read already."""
    marking = marking or read_marking(part.marking)
    given = {field: getattr(part, field) for field in PartIn.model_fields}
    return PartOut(
        **given,
        id=part.id,
        version=part.version,
        kind_title=core.KIND_TITLES[core.PartKind(part.kind)],
        origin_title=core.ORIGIN_TITLES[core.Origin(part.origin)],
        capacitance=[Figure.of(section.capacitance_f, "F") for section in marking.sections],
        ratings=ratings(marking),
        unread=marking.unread,
    )
