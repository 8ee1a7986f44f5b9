"""What the benches put on record."""

from uuid import UUID

from dusky_heron.circuits.queries import forming
from dusky_heron.circuits.schemas import FormingIn, FormingOut
from dusky_heron.core.ageing.reforming import FormingWord
from dusky_heron.core.errors import InputError
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def log_forming(actor: Actor, position_id: UUID, data: FormingIn) -> FormingOut:
    """Put one step of re-forming on record: source, resistor, what was read, and what it says."""
    shown, _, _ = core_position(actor, position_id)
    found = forming(data)
    if found.word is FormingWord.TOO_FEW and not data.warm:
        raise InputError("log", "Write down at least one reading of this step.")
    body = {
        "position": shown.name,
        "source": data.source or found.steps[0].source.said,
        "through": found.resistor.said,
        "readings": [line.strip() for line in data.log.splitlines() if line.strip()],
        "can_warms": data.warm,
        "leakage": found.leakage.said if found.leakage else None,
        "says": found.says,
    }
    append(actor, shown.job_id, "re-forming", body)
    return found
