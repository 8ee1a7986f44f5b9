"""The frame of every write: permission, transaction, and an idempotency key that makes it happen once."""

import json
from collections.abc import Callable
from functools import wraps
from hashlib import sha256
from typing import Any, Concatenate, ParamSpec

from django.db import transaction
from django.utils.crypto import salted_hmac
from pydantic import BaseModel

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions.append import canonical
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import KeyReused, NotAllowed
from dusky_heron.record.models import Write

P = ParamSpec("P")
Answer = dict[str, Any]
LONGEST_KEY = 100


def action(permission: Permission) -> Callable[[Callable[Concatenate[Actor, P], BaseModel]], Callable[..., Answer]]:
    """Make a function an action: called with an actor, its arguments and `key`; its answer is kept under the key."""

    def decorate(function: Callable[Concatenate[Actor, P], BaseModel]) -> Callable[..., Answer]:
        name = f"{function.__module__}.{function.__qualname__}"

        @wraps(function)
        def run(actor: Actor, *args: P.args, **kwargs: P.kwargs) -> Answer:
            key = str(kwargs.pop("key", "") or "")
            if not actor.may(permission):
                raise NotAllowed(f"A member who is {actor.role} may not {permission}.")
            with transaction.atomic():
                write = _claim(actor, key, _fingerprint(name, args, kwargs)) if key else None
                if write and write.answer:
                    kept: Answer = json.loads(write.answer)
                    return kept
                answer = function(actor, *args, **kwargs).model_dump(mode="json")
                if write:
                    write.answer = json.dumps(answer)
                    write.save(update_fields=["answer"])
                return answer

        return run

    return decorate


def _claim(actor: Actor, key: str, fingerprint: str) -> Write:
    """The row of this key. A second arrival waits here for the first to commit, then finds its answer."""
    if len(key) > LONGEST_KEY or not key.isprintable():
        raise InputError("Idempotency-Key", f"A key is at most {LONGEST_KEY} printable characters.")
    write, _ = Write.objects.get_or_create(actor_id=actor.id, key=key, defaults={"fingerprint": fingerprint})
    if write.fingerprint != fingerprint:
        raise KeyReused
    return write


def _plain(argument: Any) -> Any:
    if isinstance(argument, bytes):
        return sha256(argument).hexdigest()
    return argument.model_dump(mode="json") if isinstance(argument, BaseModel) else argument


def _fingerprint(name: str, args: tuple[Any, ...], kwargs: dict[str, Any]) -> str:
    plain = [_plain(argument) for argument in (*args, *kwargs.values()) if not callable(argument)]
    text = canonical({"action": name, "arguments": plain})
    return salted_hmac("dusky_heron.record.once", text, algorithm="sha256").hexdigest()  # keyed: arguments may be passwords
