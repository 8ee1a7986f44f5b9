"""Do long work, one piece after another."""

import asyncio
import contextlib
import gc
import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from procrastinate.contrib.django import app

BEHIND = 10  # long work gives way to whoever waits for an answer on the same machine
SESSION = Path("/proc/self/autogroup")  # Linux shares processors among sessions first, and nice counts within one: sched(7)
RARELY = (50_000, 20, 100)  # long lists make many objects that soon go: collecting often only takes time


class Command(BaseCommand):
    """One worker serves an installation; work that an earlier one left half done, and undone, is done again."""

    help = "Do the long work that members ask for."

    def add_arguments(self, parser: CommandParser) -> None:
        """One switch: stop when nothing waits."""
        parser.add_argument("--once", action="store_true")

    def handle(self, *_: Any, **options: Any) -> None:
        """Until a signal, or until nothing waits."""
        gc.set_threshold(*RARELY)
        os.nice(BEHIND)
        with contextlib.suppress(OSError):  # no such file, or sessions do not count
            SESSION.write_text(str(BEHIND), encoding="ascii")
        asyncio.run(self._work(wait=not options["once"]))

    async def _work(self, *, wait: bool) -> None:
        with app.replace_connector(app.connector.get_worker_connector()) as working:  # type: ignore[attr-defined]
            async with working.open_async():
                for job in await working.job_manager.get_stalled_jobs(seconds_since_heartbeat=0):
                    await working.job_manager.retry_job(job)
                await working.run_worker_async(wait=wait, install_signal_handlers=wait, delete_jobs="always")
