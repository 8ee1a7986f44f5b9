"""A device without a server: what it keeps, and that it answers what the server answers, or nothing."""

import datetime
import json
import random
import re
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from django.conf import settings
from django.utils import timezone

from dusky_heron.jobs.models import Job
from dusky_heron.record.models import Chain
from dusky_heron.record.naming import named_by, new_id
from dusky_heron.workshops.models import Member
from tests import drawn_by
from tests.api.base import KNOWN, OPENAPI, ApiTest
from tests.on_device import OnDevice, asked

KEY = "device{:03}"
PLACE = r"/api/(jobs|positions)/{\w+}/"
TIMES = re.compile(r"\d{4}-\d\d-\d\dT[\d:.]+(Z|\+\d\d:\d\d)|\b\d\d:\d\d\b|\b[0-9a-f]{64}\b")  # and what is hashed over them
NOT_A_READ = (".pdf", ".zip", ".csv", "/kept")
ACTS = 14  # of each drawn history
SEEDS = range(8)


def plain(body: Any) -> Any:
    """An answer without its times."""
    return json.loads(TIMES.sub("~", json.dumps(body)))


class Device(ApiTest):
    """The device has what it fetched, and nothing else."""

    def kept(self, job_id: Any) -> dict[str, Any]:
        """What the page gives to its worker."""
        workshop, job = self.get("kept"), self.get(f"jobs/{job_id}/kept")
        member = Member.objects.get(username="orne")
        return {"member_id": str(member.id), "ahead_s": 0.0, "workshop": workshop, "job": job}

    def send(self, request: dict[str, Any]) -> tuple[int, Any]:
        """What the server answers to it."""
        headers = {f"HTTP_{name.upper().replace('-', '_')}": value for name, value in request["headers"].items()}
        answer = self.client.generic(request["method"], request["url"], request["body"], "application/json", **headers)
        return answer.status_code, answer.json()

    def reads(self, job: Job, places: Sequence[str]) -> list[str]:
        """Every read of the API about a job, or about places in it."""
        found = []
        for path, operations in OPENAPI["paths"].items():
            parameters = operations.get("get", {}).get("parameters", [])
            needed = {one["name"] for one in parameters if one.get("required")}
            if "get" not in operations or path.endswith(NOT_A_READ) or len(needed) > 1:
                continue
            found += [path.replace("{job_id}", str(job.id))] if needed == {"job_id"} else []
            if needed == {"position_id"}:
                found += [path.replace("{position_id}", place) for place in places]
        return found


class Reads(Device):
    """What is read of a job on the device is what the server says of it."""

    def test_what_is_kept_holds_no_secret_and_nobody_elses_row(self) -> None:
        job = Job.objects.get(number=1)
        text = json.dumps(self.kept(job.id))
        for member in Member.objects.all():
            self.assertNotIn(member.password, text)
        self.assertNotIn("password", text)
        ours = Member.objects.get(username="orne").workshop_id
        for stranger in Member.objects.exclude(workshop_id=ours):
            self.assertNotIn(str(stranger.id), text)
            self.assertNotIn(str(stranger.workshop_id), text)
        self.assertNotIn(settings.SECRET_KEY, text)
        others = Job.objects.exclude(id=job.id).values_list("id", flat=True)
        self.assertEqual([], [one for one in others if str(one) in json.dumps(self.get(f"jobs/{job.id}/kept"))])

    def test_which_jobs_are_in_hand_and_where_their_records_end(self) -> None:
        jobs = self.get("kept")["jobs"]
        ours = Job.objects.filter(workshop=Member.objects.get(username="orne").workshop, returned_at=None)
        self.assertEqual(set(jobs), {str(job.id) for job in ours})
        for job_id, head in jobs.items():
            chain = Chain.objects.get(subject_id=job_id)
            kept = self.get(f"jobs/{job_id}/kept")
            self.assertEqual((head, kept["head"], kept["entries"]), (chain.head, chain.head, chain.length))

    def test_every_read_is_answered_as_the_server_does_or_not_at_all(self) -> None:
        answered = set()
        with OnDevice() as device:
            for job in Job.objects.filter(workshop=Member.objects.get(username="orne").workshop):
                urls = self.reads(job, [str(place.id) for place in job.positions.all()])
                there = [plain(list(self.send(asked("GET", url)))) for url in urls]
                here = device.work(self.kept(job.id), *(asked("GET", url) for url in urls))
                for url, known, (status, body) in zip(urls, there, here, strict=True):
                    with self.subTest(url):
                        if status != 503:
                            self.assertEqual([status, plain(body)], known)
                            answered.add(url.rpartition("/")[2])
        places = "assessment benches bleeder discharge dropper fall fitting other-tools"
        jobs = "beside board found handback plug-pins powerup proposals quote record sheet to-prove touch-current walk"
        self.assertEqual(answered, {*places.split(), *jobs.split()})

    def test_what_is_not_there_is_not_said_to_be_nothing(self) -> None:
        """The drawer, other jobs and the bench: no empty list, but that the server is needed."""
        job = Job.objects.get(number=1)
        place = job.positions.get()
        urls = [
            *("/api/parts", "/api/bench", "/api/returned", "/api/failures", "/api/proposals", "/api/shopping", "/api/members"),
            *(f"/api/jobs/{job.id}/{name}" for name in ("came-back", "seen-before", "record/verified", "beat")),
            *(f"/api/positions/{place.id}/{name}" for name in ("candidates", "together", "batch", "label")),
        ]
        writes = [(f"positions/{place.id}/{name}", "POST") for name in ("choice", "take-out", "order", "batch")]
        writes += [(f"jobs/{job.id}/{name}", "POST") for name in ("return", "accept", "report", "bill")]
        requests = [asked("GET", url) for url in urls] + [asked(method, f"/api/{url}", {}) for url, method in writes]
        with OnDevice() as device:
            for request, (status, body) in zip(requests, device.work(self.kept(job.id), *requests), strict=True):
                with self.subTest(request["url"]):
                    self.assertEqual((status, body["type"]), (503, "needs-server"))

    def test_another_clock_counts_as_the_servers(self) -> None:
        """A device that is an hour behind gives no proof an hour more."""
        job = Job.objects.get(number=1)
        ground = self.kept(job.id)
        url = f"/api/jobs/{job.id}/found"
        line = {"text": "blue run -> C1"}
        with OnDevice() as device:
            for ahead_s in (0.0, 3600.0, -3600.0):
                (status, _), (_, record) = device.work(
                    ground | {"ahead_s": ahead_s}, asked("POST", url, line), asked("GET", f"/api/jobs/{job.id}/record")
                )
                self.assertEqual(status, 200)
                at = datetime.datetime.fromisoformat(max(record, key=lambda entry: entry["sequence"])["at"])
                self.assertAlmostEqual((at - timezone.now()).total_seconds(), ahead_s, delta=20)


class Writes(Device):
    """What was written on a device comes to the same on the server."""

    def draw(self, of: random.Random, job_id: str, places: list[str], number: int) -> dict[str, Any]:
        """Something that is written of a job."""
        place = of.choice(places)
        meter = self.meter
        value = of.choice(("12.9u", "16u", "0.3u", "nonsense", "OL", "-3u", "2k2", "1.1 V", "5M"))
        quantity = of.choice(("capacitance", "dissipation", "esr", "insulation", "leakage", "volts_dc"))
        made = of.choice(
            (
                (
                    "POST",
                    f"positions/{place}/readings",
                    {
                        "value": value,
                        "quantity": quantity,
                        "meter_id": meter,
                        "condition": of.choice(("lifted", "in_circuit", "removed")),
                    },
                ),
                (
                    "POST",
                    f"positions/{place}/charge",
                    {"state": of.choice(("energised", "emptying", "unknown", "kept_shorted", "rising", "no"))},
                ),
                ("POST", f"positions/{place}/signs", {"sign": of.choice(("bulged", "burnt", "oil_film", "nonsense"))}),
                ("POST", f"positions/{place}/verdict", None),
                ("POST", f"positions/{place}/fall", {"rows": of.choice(("0, 31\n1, 23", "0, 23\n1, 31", "2")), "meter_id": meter}),
                (
                    "POST",
                    f"positions/{place}/proof",
                    {
                        "readings": [{"dc": of.choice(("1.2", "0.4", "9")), "ac": "0"}] * of.choice((1, 3, 3, 6)),
                        "meter_id": meter,
                        **KNOWN,
                    },
                ),
                ("POST", f"jobs/{job_id}/found", {"text": of.choice(("red -> C1", "J3: red black -", "TB1: L=brown N=blue", ""))}),
                ("POST", f"jobs/{job_id}/positions", {"name": f"C9{number}", "role": "motor_run", "marking": "16 µF ±5 % 450 V~"}),
                ("POST", f"jobs/{job_id}/checks", {"check_id": "earth", "value": "0.14", "meter_id": meter}),
            )
        )
        method, url, body = made
        return asked(
            method, f"/api/{url}", body, Idempotency_Key=KEY.format(number), Waited_Seconds="0.0", Seen_Entries=str(self.seen)
        )

    def test_drawn_histories_end_alike_here_and_there(self) -> None:
        """The same words, ids, charge and verdicts; what one refuses the other refuses."""
        member = Member.objects.get(username="orne")
        jobs = list(Job.objects.filter(workshop=member.workshop, returned_at=None).order_by("number"))
        self.meter = str(member.workshop.meters.get(name="Blue hand meter").id)
        done = 0
        with OnDevice() as device:
            for seed in SEEDS:
                of = drawn_by(seed)
                job = jobs[seed % len(jobs)]
                ground = self.kept(job.id)
                self.seen = ground["job"]["entries"]
                places = [str(place.id) for place in job.positions.all()]
                acts, here = [], device.work(ground)
                for number in range(ACTS):
                    acts.append(self.draw(of, str(job.id), places, seed * 100 + number))
                    here += device.work(None, acts[-1])
                    places += [here[-1][1]["id"]] if acts[-1]["url"].endswith("/positions") and here[-1][0] == 200 else []
                urls = self.reads(job, places)
                here += device.work(None, *(asked("GET", url) for url in urls))
                for act, (status, body) in zip(acts, here, strict=False):
                    with self.subTest(seed=seed, url=act["url"], body=act["body"]):
                        self.assertEqual([status, plain(body)], plain(list(self.send(act))))
                        done += status == 200
                for url, (status, body) in zip(urls, here[ACTS:], strict=True):
                    if status == 200:
                        with self.subTest(seed=seed, url=url):
                            self.assertEqual([status, plain(body)], plain(list(self.send(asked("GET", url)))))
        self.assertGreater(done, len(SEEDS) * ACTS / 4)

    def test_a_job_begun_on_the_device_has_its_id_there(self) -> None:
        ground = self.kept(Job.objects.get(number=1).id) | {"job": None}
        typed = {"title": "Slide pump", "supply_voltage": "230 V", "supply_frequency": "50 Hz"}
        begun = asked("POST", "/api/jobs", typed, Idempotency_Key="one", Waited_Seconds="60")
        with OnDevice() as device:
            ((status, made),) = device.work(ground, begun)
            self.assertEqual(status, 200, made)
            sheet = f"/api/jobs/{made['id']}/sheet"
            self.assertEqual(device.work(None, asked("GET", sheet))[0][0], 200)
        self.assertEqual(self.send(begun)[1]["id"], made["id"])
        self.assertEqual(self.get(sheet.removeprefix("/api/"))["job"]["title"], "Slide pump")
        self.sign_in("vell")
        self.assertNotEqual(self.send(begun)[1]["id"], made["id"])  # another member's, by the same key

    def test_nothing_is_struck_by_a_number_that_the_server_does_not_know(self) -> None:
        job = Job.objects.get(number=1)
        ground = self.kept(job.id)
        entries = ground["job"]["entries"]
        line = asked("POST", f"/api/jobs/{job.id}/found", {"text": "red -> C1"}, Idempotency_Key="l")
        strike = f"/api/jobs/{job.id}/record/{{}}/struck"
        with OnDevice() as device:
            (_, (status, body)) = device.work(ground, line, asked("POST", strike.format(entries + 1), {"reason": "wrong"}))
            self.assertEqual((status, body["detail"][:20]), (422, "That is not sent yet"))
            ((status, body),) = device.work(None, asked("POST", strike.format(entries), {"reason": "wrong"}))
            self.assertNotIn("not sent yet", body.get("detail", ""))


class Ids(ApiTest):
    """Ids follow from a member and a key, and from nothing else."""

    def test_a_key_names_what_it_makes(self) -> None:
        one, other = UUID(int=1), UUID(int=2)

        def made(member: UUID, key: str) -> list[UUID]:
            with named_by(member, key):
                return [new_id(), new_id()]

        self.assertEqual(made(one, "k"), made(one, "k"))
        drawn = {*made(one, "k"), *made(one, "k2"), *made(other, "k"), *made(one, ""), *made(one, ""), new_id(), new_id()}
        self.assertEqual(len(drawn), 12)
