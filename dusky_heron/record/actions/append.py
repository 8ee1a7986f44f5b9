"""Adding an entry to a chain."""

import hashlib
import json
from typing import Any
from uuid import UUID

from django.utils import timezone

from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain, Entry


def canonical(value: dict[str, Any]) -> str:
    """The one text of a value: sorted keys, no spaces, UTF-8; what is hashed and kept."""
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False, default=str)


def link(previous: str, text: str) -> str:
    """The hash of an entry: SHA-256 over the hash before it and its own text."""
    return hashlib.sha256(f"{previous}\n{text}".encode()).hexdigest()


def append(actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any]) -> None:
    """Add an entry to the chain of a job or workshop; call inside an action's transaction."""
    Chain.objects.get_or_create(subject_id=subject_id, defaults={"workshop_id": actor.workshop_id})
    chain = Chain.objects.select_for_update().get(subject_id=subject_id, workshop_id=actor.workshop_id)
    text = canonical(
        {
            "subject": chain.named,
            "sequence": chain.length + 1,
            "at": timezone.now().isoformat(timespec="milliseconds"),
            "by": str(actor.id),
            "by_name": actor.name,
            "kind": kind,
            "body": body,
        }
    )
    chain.length += 1
    chain.head = link(chain.head, text)
    Entry.objects.create(chain=chain, sequence=chain.length, text=text, hash=chain.head)
    chain.save(update_fields=["length", "head"])
