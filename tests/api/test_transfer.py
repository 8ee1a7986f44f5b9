"""A job out as one file and in again: nothing lost, nothing altered unseen, nothing hostile taken."""

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import UUID

from django.core.files.uploadedfile import SimpleUploadedFile
from jsonschema import Draft202012Validator

from dusky_heron.asfound.models import Photo
from dusky_heron.handback.report import report_html
from dusky_heron.jobs.models import Job
from dusky_heron.record.actions.append import link
from dusky_heron.record.models import Chain, Entry
from dusky_heron.transfer import formats
from dusky_heron.transfer.formats import VERSION, schema_of
from dusky_heron.transfer.outward import write
from dusky_heron.transfer.tables import job_schema
from tests import some
from tests.api.base import ApiTest

FILES = Path(__file__).parent / "job_files"  # job 7 as each version wrote it
with (FILES / "schemas.csv").open(encoding="utf-8") as listed:
    FROZEN = {int(row["version"]): row["sha256"] for row in csv.DictReader(listed)}  # a change asks for a new version
Files = dict[str, bytes]


def unpacked(content: bytes) -> Files:
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def packed(files: Files, *, listed: bool = True) -> bytes:
    """A zip, its manifest made to fit unless it should not."""
    if listed and "manifest.json" in files:
        sums = {name: hashlib.sha256(content).hexdigest() for name, content in files.items() if name != "manifest.json"}
        files = files | {"manifest.json": write({"format": "dusky-heron-job", "version": VERSION, "sha256": sums})}
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return made.getvalue()


class Transfer(ApiTest):
    """Job 7 has a map, a photo with points, readings, verdicts; it gets a power-up, a choice, a check and a quote."""

    def setUp(self) -> None:
        super().setUp()
        job, can, y = self.job(7), self.position(7, "C1"), self.position(7, "C2")
        self.post(f"positions/{can.id}/charge", {"state": "energised"})
        self.post(f"positions/{y.id}/readings", {"value": "OL", "meter_id": self.meter_id(), "quantity": "insulation"})
        self.put(f"jobs/{job.id}/powerup", {"kind": "valve", "rail": "300 V", "current": "100 mA"})
        self.post(f"jobs/{job.id}/powerup/steps", {"percent": 50, "rail": "0", "current": "17 mA"})
        self.post(f"jobs/{job.id}/checks", {"check_id": "insulation", "value": "12M", "meter_id": self.meter_id()})
        self.post(f"jobs/{job.id}/soak", {})
        self.post(f"jobs/{job.id}/deviations", {"check_id": "insulation", "reason": "the lead is being changed"}, 422)
        self.put(f"jobs/{job.id}/quote", {"lines": [{"text": "can", "quantity": 1, "each": "31.50"}], "minutes": 90})
        best = self.get(f"positions/{y.id}/candidates")["accepted"][0]
        self.post(f"positions/{y.id}/choice", {"part_id": best["part"]["id"], "signed": best["to_sign"]})
        self.out = self.client.get(f"/api/jobs/{job.id}/job.zip").content
        self.files = unpacked(self.out)
        self.sign_in("stranger")

    def take(self, content: bytes, status: int = 200) -> Any:
        return self.answer(self.client.post("/api/job-files", {"file": SimpleUploadedFile("job.zip", content)}), status)

    def changed(self, change: Callable[[Any], None]) -> bytes:
        document = json.loads(self.files["job.json"])
        change(document)
        return packed(self.files | {"job.json": write(document)})


def digest_of(version: int) -> str:
    return hashlib.sha256(json.dumps(schema_of(version), sort_keys=True).encode()).hexdigest()


class Versions(ApiTest):
    """What a version is never changes; a file of each is taken, of a newer one nothing."""

    def take(self, content: bytes, status: int = 200) -> Any:
        self.sign_in("stranger")
        return self.answer(self.client.post("/api/job-files", {"file": SimpleUploadedFile("job.zip", content)}), status)

    def test_each_schema_is_as_it_was(self) -> None:
        self.assertEqual(list(FROZEN), list(range(1, VERSION + 1)))
        for version, digest in FROZEN.items():
            self.assertEqual(digest_of(version), digest, version)

    def test_a_file_of_each_version_comes_in_whole(self) -> None:
        for version in FROZEN:
            with self.subTest(version):
                content = (FILES / f"version-{version}.zip").read_bytes()
                files = unpacked(content)
                document = json.loads(files["job.json"])
                self.assertEqual(document["version"], version)
                job = self.take(content)
                self.assertTrue(self.get(f"jobs/{job['id']}/record/verified")["whole"])
                for stage in ("sheet", "powerup", "handback", "found"):
                    self.get(f"jobs/{job['id']}/{stage}")
                self.assertEqual(len(self.get(f"jobs/{job['id']}/record")), len(document["chain"]["entries"]))
                again = unpacked(self.client.get(f"/api/jobs/{job['id']}/job.zip").content)
                out = json.loads(again["job.json"])
                self.assertEqual(out["version"], VERSION)
                for name, rows in document["tables"].items():
                    for came, went in zip(rows, out["tables"][name], strict=True):
                        kept = came.keys() & went.keys()
                        self.assertEqual({k: came[k] for k in kept}, {k: went[k] for k in kept}, name)
                self.assertEqual(again["readings.csv"].count(b"\n"), files["readings.csv"].count(b"\n"))
                marking = document["tables"]["choices"][0]["marking"]
                self.assertEqual([part["marking"] for part in out["tables"]["choices"][0]["parts"]], [marking])
                own = Entry.objects.filter(chain__subject_id=self.actor_of("stranger").workshop_id).latest("sequence")
                self.assertIn(hashlib.sha256(files["job.json"]).hexdigest(), own.text)

    def test_what_a_version_adds_is_not_noted_in_a_file_of_the_one_before(self) -> None:
        text, number, flag = {"type": "string"}, {"anyOf": [{"type": "number"}, {"type": "null"}]}, {"type": "boolean"}
        row = {"properties": {"title": text, "colour": text, "grams": number, "wet": flag, "parts": {"type": "array"}}}
        tables = {name: {"type": "array", "items": row} for name in ("readings", "smells")}
        schema = {"properties": {"job": row, "tables": {"properties": tables}}}
        before = {"title": "Pump", "wet": True}
        after = before | {"colour": "", "grams": None, "parts": []}
        document = {"version": 1, "job": before, "tables": {"readings": [before]}, "chain": {}}
        filled = formats._filled(document, schema)
        self.assertEqual(filled, document | {"job": after, "tables": {"readings": [after], "smells": []}})

    def test_a_newer_one_and_one_of_none_say_what_they_are(self) -> None:
        files = unpacked((FILES / f"version-{VERSION}.zip").read_bytes())
        document = json.loads(files["job.json"])
        for change, words in (
            ({"version": VERSION + 1}, f"newer Dusky Heron: version {VERSION + 1}, this one reads up to {VERSION}"),
            ({"version": 10**30}, "newer"),
            ({"version": 0}, "does not say"), ({"version": -1}, "does not say"), ({"version": True}, "does not say"),
            ({"version": "4"}, "does not say"), ({"version": 1.5}, "does not say"), ({"format": "else"}, "does not say"),
            *(({"version": version}, "schema") for version in (1, 2)),  # three is four
        ):  # fmt: skip
            with self.subTest(change):
                said = self.take(packed(files | {"job.json": write(document | change)}), 422)
                self.assertIn(words, said["errors"][0]["sentence"])
        self.assertFalse(Job.objects.filter(workshop_id=self.actor_of("stranger").workshop_id).exists())


class ThereAndBack(Transfer):
    """Without loss."""

    def test_out_in_and_out_again_is_the_same_job(self) -> None:
        job = self.take(self.out)
        again = unpacked(self.client.get(f"/api/jobs/{job['id']}/job.zip").content)
        self.assertEqual(again["job.json"], self.files["job.json"])
        self.assertEqual(again["readings.csv"], self.files["readings.csv"])
        photos = {name for name in self.files if name.startswith("photos/")}
        self.assertEqual({name: again[name] for name in photos}, {name: self.files[name] for name in photos})
        self.assertEqual(len(photos), 1)
        verified = self.get(f"jobs/{job['id']}/record/verified")
        self.assertTrue(verified["whole"])
        self.assertEqual(verified["head"], Chain.objects.get(subject_id=self.job_of("orne").id).head)
        for stage in ("sheet", "powerup", "handback", "found", "record"):
            self.get(f"jobs/{job['id']}/{stage}")

    def job_of(self, username: str) -> Job:
        return Job.objects.get(workshop_id=self.actor_of(username).workshop_id, title="Organ relay supply")

    def test_the_record_goes_on_and_the_import_is_the_workshops_own(self) -> None:
        job = self.take(self.out)
        before = self.get(f"jobs/{job['id']}/record/verified")["length"]
        self.post(f"jobs/{job['id']}/positions", {"name": "C9", "role": "x", "marking": "1 µF X2 310~"})
        verified = self.get(f"jobs/{job['id']}/record/verified")
        self.assertEqual((verified["whole"], verified["length"]), (True, before + 1))
        own = Entry.objects.filter(chain__subject_id=self.actor_of("stranger").workshop_id).last()
        self.assertIn("job taken in from a file", some(own).text)
        self.assertIn("No 1", self.take(self.out, 422)["errors"][0]["sentence"])
        self.sign_in("orne")
        self.assertIn("No 7", self.take(self.out, 422)["errors"][0]["sentence"])

    def test_the_published_schema_is_the_one_that_is_used_and_every_job_follows_it(self) -> None:
        self.assertEqual(schema_of(VERSION), job_schema())
        Draft202012Validator.check_schema(job_schema())
        self.sign_in("orne")
        for job in Job.objects.filter(workshop_id=self.actor_of("orne").workshop_id):
            document = json.loads(unpacked(self.client.get(f"/api/jobs/{job.id}/job.zip").content)["job.json"])
            self.assertEqual(list(Draft202012Validator(job_schema()).iter_errors(document)), [], job.title)


class Forged(Transfer):
    """A file somebody wrote by hand: it carries nobody's signature here until a lead takes it over."""

    def test_what_was_signed_elsewhere_counts_once_a_lead_accepted_it(self) -> None:
        signed = {
            "sequence": 3, "stands_at": 3, "struck": None, "taken_at": None, "at": "2026-06-01T10:00:00+00:00",
            "by_name": "S. Tranger",
            "check_id": "complaint", "title": "complaint", "reason": "it does as it should",
        }  # fmt: skip
        job = self.take(self.changed(lambda document: document["tables"]["deviations"].append(signed)))
        path, actor = f"jobs/{job['id']}", self.actor_of("stranger")
        self.assertEqual((job["from_file"], job["accepted"]), (True, False))

        def stands() -> tuple[str, bool]:
            check = next(one for one in self.get(f"{path}/handback")["checks"] if one["id"] == "complaint")
            return check["state"], "Signed S. Tranger" in report_html(actor, UUID(job["id"]))

        self.assertEqual(stands(), ("missing", False))
        self.assertIn("No lead here has accepted it", report_html(actor, UUID(job["id"])))
        self.sign_in("vell")
        self.post(f"{path}/accept", {}, 403)
        self.sign_in("stranger")
        self.assertTrue(self.post(f"{path}/accept", {})["accepted"])
        self.assertEqual(stands(), ("signed", True))
        self.post(f"{path}/accept", {}, 422)
        self.assertTrue(self.get(f"{path}/record/verified")["whole"])

    def test_nothing_goes_back_on_checks_of_another_workshop_and_no_signature_of_a_choice_is_printed(self) -> None:
        def forge(document: Any) -> None:
            document["tables"]["choices"][0]["signed"] = ["its data sheet says 500 V"]

        job = self.take(self.changed(forge))
        path, actor = f"jobs/{job['id']}", self.actor_of("stranger")
        says = "It came in a file: a lead accepts it first"
        self.assertEqual(self.get(f"{path}/handback")["missing"][0], says)
        self.assertIn(says, self.post(f"{path}/return", {}, 422)["errors"][0]["sentence"])
        self.assertNotIn("its data sheet says", report_html(actor, UUID(job["id"])).partition("Every entry")[0])
        self.post(f"{path}/accept", {})
        self.assertNotIn(says, self.get(f"{path}/handback")["missing"])
        self.assertIn("its data sheet says", report_html(actor, UUID(job["id"])))

    def test_what_a_lead_here_signs_counts_at_once(self) -> None:
        job = self.take(self.out)
        self.post(f"jobs/{job['id']}/deviations", {"check_id": "complaint", "reason": "seen it work myself"})
        check = next(one for one in self.get(f"jobs/{job['id']}/handback")["checks"] if one["id"] == "complaint")
        self.assertEqual(check["state"], "signed")


class Hostile(Transfer):
    """Refused with a sentence, and nothing is written."""

    def refused(self, content: bytes, words: str) -> None:
        rows = (Job.objects.count(), Entry.objects.count(), Photo.objects.count(), Chain.objects.count())
        error = self.take(content, 422)["errors"][0]
        self.assertEqual(error["field"], "file")
        self.assertIn(words, error["sentence"])
        self.assertEqual((Job.objects.count(), Entry.objects.count(), Photo.objects.count(), Chain.objects.count()), rows)

    def test_files_that_have_no_place_in_a_job(self) -> None:
        for name in (
            "../../etc/passwd",
            "/etc/passwd",
            "photos/../job.json",
            "photos/x.php",
            "C:\\boot.ini",
            "job.json/",
            "a" * 5000,
        ):
            self.refused(packed(self.files | {name: b"x"}), "no place")

    def test_what_is_no_zip_or_unpacks_to_too_much(self) -> None:
        self.refused(b"", "zip")
        self.refused(b"PK\x03\x04 not really", "zip")
        self.refused(self.out[: len(self.out) // 2], "zip")
        bomb = io.BytesIO()
        with (
            zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive,
            archive.open("readings.csv", "w", force_zip64=True) as file,
        ):
            for _ in range(450):
                file.write(bytes(1_000_000))
        self.assertLess(len(bomb.getvalue()), 1_000_000)
        self.refused(bomb.getvalue(), "unpacks to more than")
        many = packed({f"photos/{k:064x}.jpg": b"" for k in range(1200)})
        self.refused(many, "More than 1000 files")

    def test_missing_files_and_wrong_hashes(self) -> None:
        photo = next(name for name in self.files if name.startswith("photos/"))
        for name in ("job.json", "manifest.json"):
            self.refused(packed({k: v for k, v in self.files.items() if k != name}), name)
        self.refused(packed({k: v for k, v in self.files.items() if k != photo}), "Photos are missing")
        self.refused(packed({k: v for k, v in self.files.items() if k != "readings.csv"}, listed=False), "manifest")
        self.refused(packed(self.files | {"readings.csv": b"other"}, listed=False), "changed on the way")
        self.refused(packed(self.files | {photo: self.files[photo] + b" "}), "not the one that was recorded")

    def test_an_altered_record_is_found_however_it_was_altered(self) -> None:
        def entries(document: Any) -> Any:
            return document["chain"]["entries"]

        def swap(document: Any) -> None:
            rows = entries(document)
            rows[1], rows[2] = rows[2], rows[1]

        def rehash(document: Any) -> None:
            rows, previous = entries(document), "0" * 64
            del rows[1]
            for row in rows:
                row["hash"] = previous = link(previous, row["text"])

        def byte(document: Any) -> None:
            entries(document)[3]["text"] = entries(document)[3]["text"].replace("4", "5", 1)

        for change in (
            swap,
            rehash,
            byte,
            lambda d: entries(d).pop(0),
            lambda d: d["chain"].update(subject=str(self.job(1).workshop_id)),
        ):
            self.refused(self.changed(change), "was altered")

    def test_a_document_that_does_not_hold_what_a_job_holds(self) -> None:
        def row(table: str, **values: Any) -> Callable[[Any], None]:
            return lambda document: document["tables"][table][0].update(values)

        for change, words in (
            (lambda d: d.update(version=2), "schema"), (lambda d: d["job"].pop("title"), "schema"),
            (lambda d: d["job"].update(admin=True), "schema"), (lambda d: d["job"].update(title="x" * 999), "schema"),
            (row("positions", role="bomb"), "schema"), (row("readings", position=-1), "schema"),
            (row("readings", position=99), "not there"), (row("positions", marking="nonsense"), "nothing was taken"),
            (row("positions", added_at="yesterday"), "nothing was taken"),
            (lambda d: d["tables"]["positions"].append(d["tables"]["positions"][0]), "nothing was taken"),
            (lambda d: d["job"].update(supply_v=1e308, supply_hz=-5), "nothing was taken"),
        ):  # fmt: skip
            with self.subTest(words):
                self.refused(self.changed(change), words)
        for text in (b"[]", b"{", b'{"format": NaN}', b"[" * 100_000, b'{"a": "\\u0000"}', b"\xff\xfe"):
            self.refused(packed(self.files | {"job.json": text}), "job.json cannot be read")

    def test_only_who_decides_takes_a_job_in(self) -> None:
        self.sign_in("vell")
        self.take(self.out, 403)
