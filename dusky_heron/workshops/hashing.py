"""Passwords are hashed one at a time on a machine, behind whoever waits for an answer: a flood leaves the rest the processors."""

import fcntl
import os
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import ParamSpec, TypeVar

from django.contrib.auth.hashers import Argon2PasswordHasher

BEHIND = 10  # niceness; the threads argon2 starts have that of the one that starts them (sched(7))
DOOR = Path(__file__)  # what all processes of an installation can lock: argon2 takes 100 MB and eight threads each
Given = ParamSpec("Given")
Done = TypeVar("Done")


def _behind() -> None:
    os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), BEHIND)


def alone(work: Callable[Given, Done], *given: Given.args, **named: Given.kwargs) -> Done:
    """Done in a thread of its own, while no other of this installation does the same; a process that is killed lets go."""

    def locked() -> Done:
        with DOOR.open(encoding="utf-8") as door:
            fcntl.flock(door, fcntl.LOCK_EX)
            return work(*given, **named)

    with ThreadPoolExecutor(1, initializer=_behind) as aside:
        return aside.submit(locked).result()


class Argon2Behind(Argon2PasswordHasher):
    """Django's argon2, behind everything else."""

    def encode(self, password: str, salt: str) -> str:
        """See there."""
        return alone(super().encode, password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        """See there."""
        return alone(super().verify, password, encoded)
