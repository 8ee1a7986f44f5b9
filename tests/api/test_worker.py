"""The worker as a process of its own: killed in the middle, started again, asked to stop; nothing is done twice or by half."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

from django.conf import settings
from django.db import connection

from dusky_heron.longwork.actions import stop_work
from dusky_heron.longwork.models import Work
from dusky_heron.stock.actions import ask_to_take
from dusky_heron.stock.models import Movement, Part, PartImport
from dusky_heron.workshops.actions import found_workshop
from tests.databases import EMPTY, PASSWORD, Committing

ROOT = Path(__file__).resolve().parents[2]
ROWS = 6000
LIST = ("marking;kind;quantity\n" + "".join(f"{k} pF K X2 310 V~;safety film;2\n" for k in range(1, ROWS + 1))).encode()


def start_worker() -> subprocess.Popen[bytes]:
    """A worker over the test's database, until nothing waits."""
    base = settings.DATABASES["default"]
    url = f"postgres://{base['USER']}:{base['PASSWORD']}@{base['HOST']}:{base['PORT']}/{connection.settings_dict['NAME']}"
    command = [sys.executable, "manage.py", "worker", "--once"]
    environment = os.environ | {"DATABASE_URL": url}
    return subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.DEVNULL, start_new_session=True)


class Worker(Committing):
    """A long stock list in the hands of a real worker."""

    begins_with = EMPTY

    def setUp(self) -> None:
        self.actor = found_workshop("Far Quay", "stranger", "S. Tranger", PASSWORD)
        self.asked = ask_to_take(self.actor, "long.csv", LIST)

    def work(self) -> Work:
        return Work.objects.get(id=self.asked.id)

    def begun(self, worker: subprocess.Popen[bytes]) -> None:
        """Wait until it says how far it is; others see that before anything is committed."""
        while not 0 < self.work().done < ROWS:
            self.assertIsNone(worker.poll(), "it was too quick to be caught")
            time.sleep(0.02)
        self.assertEqual(Part.objects.count(), 0)

    def test_killed_in_the_middle_it_is_done_again_and_once(self) -> None:
        worker = start_worker()
        self.begun(worker)
        worker.send_signal(signal.SIGKILL)
        worker.wait()
        self.assertEqual((Part.objects.count(), self.work().state), (0, "running"))
        self.assertEqual(start_worker().wait(), 0)
        self.assertEqual((self.work().state, Part.objects.count(), PartImport.objects.count()), ("done", ROWS, 1))
        self.assertEqual(sum(Movement.objects.values_list("change", flat=True)), 2 * ROWS)
        self.assertEqual(start_worker().wait(), 0)
        self.assertEqual(Part.objects.count(), ROWS)

    def test_asked_to_stop_it_stops_and_leaves_nothing(self) -> None:
        worker = start_worker()
        self.begun(worker)
        self.assertEqual(os.getpriority(os.PRIO_PROCESS, worker.pid), 10)
        shared = Path(f"/proc/{worker.pid}/autogroup")  # sched(7); not every kernel has it
        self.assertRegex(shared.read_text(encoding="ascii") if shared.exists() else "nice 10", "nice 10$")
        stop_work(self.actor, self.work().id)
        self.assertEqual(worker.wait(), 0)
        self.assertEqual((self.work().state, Part.objects.count(), Movement.objects.count()), ("stopped", 0, 0))
        self.assertEqual(bytes(self.work().given), b"")
