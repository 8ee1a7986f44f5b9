"""The drawer over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, Status
from ninja.files import UploadedFile

from dusky_heron.codes import LabelOut
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.sheets import MOST_BYTES
from dusky_heron.stock import actions, queries
from dusky_heron.stock.schemas import DrawerIn, ImportWork, MoveIn, MovementsOut, PartEdit, PartIn, PartOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["stock"])
MOST_READ = MOST_BYTES + 1


@router.get("parts", response=list[PartOut])
def list_parts(request: HttpRequest, asked: Query[DrawerIn]) -> list[PartOut]:
    """The drawer, all of it or what is asked for."""
    return queries.parts(actor_of(request), asked)


@router.post("parts", response=PartOut)
def add_part(request: HttpRequest, data: PartIn) -> PartOut:
    """Add a part."""
    return actions.add_part(actor_of(request), data)


@router.put("parts/{part_id}", response=PartOut)
def edit_part(request: HttpRequest, part_id: UUID, data: PartEdit) -> PartOut:
    """Change a part."""
    return actions.edit_part(actor_of(request), part_id, data)


@router.get("part-lists/drawer.csv", response={200: None})
def export(request: HttpRequest) -> HttpResponse:
    """The drawer as a spreadsheet reads it, and as it can be read back."""
    answer = HttpResponse(queries.as_csv(actor_of(request)), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="drawer.csv"'
    return answer


@router.get("parts/{part_id}/movements", response=MovementsOut)
def see_movements(request: HttpRequest, part_id: UUID) -> MovementsOut:
    """Why there are as many as there are."""
    return queries.movements(actor_of(request), part_id)


@router.post("parts/{part_id}/movements", response=MovementsOut)
def move_part(request: HttpRequest, part_id: UUID, data: MoveIn) -> MovementsOut:
    """Put in, take out, count."""
    return actions.move_part(actor_of(request), part_id, data)


@router.get("parts/{part_id}/label", response=LabelOut)
def see_label(request: HttpRequest, part_id: UUID) -> LabelOut:
    """A label for its drawer."""
    return queries.label(actor_of(request), part_id, request.build_absolute_uri("/").rstrip("/"))


@router.post("part-lists/preview", response={202: ImportWork})
def preview_import(request: HttpRequest, file: File[UploadedFile]) -> Status[WorkOut]:
    """What a stock list would change, an ImportOut once the work is done; nothing is written."""
    name, content = file.name or "list.csv", file.read(MOST_READ)
    return Status(202, actions.ask_to_preview(actor_of(request), name, content))


@router.post("part-lists", response={202: ImportWork})
def take_import(request: HttpRequest, file: File[UploadedFile]) -> Status[WorkOut]:
    """Take a stock list, all of it or nothing; an ImportOut once the work is done."""
    name, content = file.name or "list.csv", file.read(MOST_READ)
    return Status(202, actions.ask_to_take(actor_of(request), name, content))


@router.post("part-lists/{import_id}/undo", response={202: ImportWork})
def undo_import(request: HttpRequest, import_id: int) -> Status[WorkOut]:
    """Undo a whole import."""
    return Status(202, actions.ask_to_undo(actor_of(request), import_id))
