"""The frame of every write: permission, transaction, and an idempotency key that makes it happen once."""

import json
from collections.abc import Callable
from dataclasses import replace
from functools import wraps
from hashlib import file_digest, sha256
from typing import Any, Concatenate, ParamSpec, TypeVar, get_type_hints

from django.utils import timezone
from django.utils.crypto import salted_hmac
from pydantic import BaseModel

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions.append import canonical, where_they_stand, writing
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import DoneBefore, KeyReused, NotAllowed
from dusky_heron.record.models import Write
from dusky_heron.record.naming import named_by

P = ParamSpec("P")
Answer = TypeVar("Answer", bound=BaseModel)
LONGEST_KEY = 100


def action(
    permission: Permission,
) -> Callable[[Callable[Concatenate[Actor, P], Answer]], Callable[Concatenate[Actor, P], Answer]]:
    """Make a function an action: its answer is kept under the key the actor sent, and given again to the same key.

    Whoever calls it calls it with the function's own arguments. What it calls in its turn has no key: one key, one write.
    """

    def decorate(function: Callable[Concatenate[Actor, P], Answer]) -> Callable[Concatenate[Actor, P], Answer]:
        name = f"{function.__module__}.{function.__qualname__}"

        @wraps(function)
        def run(actor: Actor, /, *args: P.args, **kwargs: P.kwargs) -> Answer:
            if not actor.may(permission):
                raise NotAllowed(f"A member who is {actor.role} may not {permission}.")
            key = actor.sending.key
            within = replace(actor, sending=replace(actor.sending, key=""))
            with writing(), named_by(actor.id, key):
                if not key:
                    return function(within, *args, **kwargs)
                write, new = _claim(actor, key, _fingerprint(name, args, kwargs))
                if not new and not write.answer:
                    raise DoneBefore(f"This was written on {timezone.localtime(write.at):%-d %B %Y}, and stands in the record.")
                if write.answer:
                    kept: Answer = get_type_hints(function)["return"].model_validate_json(write.answer)
                    return kept
                answer = function(within, *args, **kwargs)
                write.answer = json.dumps(answer.model_dump(mode="json"))
                write.stood = where_they_stand()
                write.save(update_fields=["answer", "stood"])
                return answer

        return run

    return decorate


def _claim(actor: Actor, key: str, fingerprint: str) -> tuple[Write, bool]:
    """The row of this key, and whether it is new. A second arrival waits here for the first to commit, then finds its answer."""
    if len(key) > LONGEST_KEY or not key.isprintable():
        raise InputError("Idempotency-Key", f"A key is at most {LONGEST_KEY} printable characters.")
    write, new = Write.objects.get_or_create(actor_id=actor.id, key=key, defaults={"fingerprint": fingerprint})
    if write.fingerprint != fingerprint:
        raise KeyReused
    return write, new


def _plain(argument: Any) -> Any:
    if isinstance(argument, bytes):
        return sha256(argument).hexdigest()
    if hasattr(argument, "readinto"):  # a file: known by what is in it
        digest = file_digest(argument, "sha256").hexdigest()
        argument.seek(0)
        return digest
    return argument.model_dump(mode="json") if isinstance(argument, BaseModel) else argument


def _fingerprint(name: str, args: tuple[Any, ...], kwargs: dict[str, Any]) -> str:
    plain = [_plain(argument) for argument in (*args, *kwargs.values()) if not callable(argument)]
    text = canonical({"action": name, "arguments": plain})
    return salted_hmac("dusky_heron.record.once", text, algorithm="sha256").hexdigest()  # keyed: arguments may be passwords
