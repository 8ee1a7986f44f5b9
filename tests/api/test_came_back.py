"""A set that was here before is known again by what is written of it; what is not written settles nothing."""

import datetime
from typing import Any

from django.utils import timezone

from dusky_heron.handback.models import Return
from dusky_heron.jobs.models import Job
from tests.api.base import KNOWN, ApiTest

FAN = {"title": "Extract fan", "supply_voltage": "230 V", "supply_frequency": "50 Hz", "maker": "Galehurst", "model": "EF-30",
       "serial": "31-0417", "customer": "Saltgate Lido", "protection_class": "II", "connection": "fixed"}  # fmt: skip


class ComesBack(ApiTest):
    """Handed back with another capacitor, and brought in again."""

    FORGES = True  # the days on which it went

    def opened(self, **more: Any) -> str:
        return str(self.post("jobs", FAN | more)["id"])

    def found(self, **more: Any) -> list[dict[str, Any]]:
        found: list[dict[str, Any]] = self.get(f"jobs/{self.opened(**more)}/came-back")
        return found

    def setUp(self) -> None:
        super().setUp()
        self.first = self.opened(symptom="starts only when pushed")
        place = self.post(f"jobs/{self.first}/positions", {"name": "C1", "role": "motor_run", "marking": "16 µF ±5 % 450 V~"})
        reading = {"value": "12.1u", "meter_id": self.meter_id(), "condition": "lifted"}
        self.post(f"positions/{place['id']}/readings", reading)
        self.best = self.get(f"positions/{place['id']}/candidates")["accepted"][0]
        self.post(f"positions/{place['id']}/choice", {"part_id": self.best["part"]["id"], "signed": self.best["to_sign"]})
        self.post(f"positions/{place['id']}/take-out", {})
        pairs = self.get(f"positions/{place['id']}/discharge")["proof"]["pairs"]
        read = {"meter_id": self.meter_id(), "readings": [{"dc": "0.2", "ac": "10 mV"} for _ in pairs]}
        self.post(f"positions/{place['id']}/proof", KNOWN | read)
        for line in self.get(f"positions/{place['id']}/fitting")["lines"]:
            self.post(f"positions/{place['id']}/fitting", {"line": line["id"]})
        for check in self.get(f"jobs/{self.first}/handback")["checks"]:
            if check["required"] and check["state"] != "passes":
                self.post(f"jobs/{self.first}/deviations", {"check_id": check["id"], "reason": "only tried here"})
        self.post(f"jobs/{self.first}/return", {"links_off": True})

    def until(self, days: int) -> None:
        day = timezone.localdate() + datetime.timedelta(days=days)
        Return.objects.filter(job_id=self.first).update(warranty_until=day)

    def test_by_serial_number_and_model_however_they_are_spelt(self) -> None:
        (one,) = self.found(serial="31 0417", model="ef30")
        self.assertEqual((one["job_id"], one["surely"], one["warranty"]), (self.first, True, "runs"))
        self.assertEqual(one["symptom"], "starts only when pushed")
        (part,) = one["parts"]
        self.assertEqual((part["name"], part["marking"], part["fitted"]), ("C1", self.best["part"]["marking"], True))
        self.assertIn("12.1", part["reading"])
        self.assertEqual(one["differs"], [])

    def test_its_warranty_ends_with_its_day(self) -> None:
        for days, warranty in ((1, "runs"), (0, "runs"), (-1, "over")):
            self.until(days)
            self.assertEqual(self.found()[-1]["warranty"], warranty, days)
        Return.objects.filter(job_id=self.first).update(warranty_until=None)
        self.assertEqual(self.found()[-1]["warranty"], "none")

    def test_what_is_not_written_makes_it_a_question(self) -> None:
        asked = {
            "no serial number now": {"serial": ""}, "no model now": {"model": ""}, "another model": {"model": "QX 9"},
            "a year for a serial number": {"serial": "2019"}, "one sign misread": {"serial": "31-0477"},
            "one sign too few": {"serial": "31-041"},
        }  # fmt: skip
        for what, more in asked.items():
            found = [one for one in self.found(**more) if one["job_id"] == self.first]
            self.assertEqual([one["surely"] for one in found], [False], what)
        for what, other in (
            ("another serial number", {"serial": "77-2204"}), ("neither number nor customer", {"serial": "", "customer": ""}),
            ("another customer's without a number", {"serial": "", "customer": "Harbour office"}),
            ("two signs otherwise", {"serial": "31-0499"}), ("nothing written", {"serial": "", "model": "", "maker": ""}),
        ):  # fmt: skip
            self.assertEqual([one for one in self.found(**other) if one["job_id"] == self.first], [], what)

    def test_what_stands_for_no_number_is_none(self) -> None:
        """Two sets of one model on which nobody read a number: asked about for one customer, told apart for two."""
        for nothing in ("n/a", "none", "unknown", "-", "0", "000", "A1", "2019-05", "05/2019"):
            self.opened(serial=nothing, model="QX 9")
            for customer, found in (("Saltgate Lido", [False]), ("Harbour office", [])):
                job = self.opened(serial=nothing, model="QX 9", customer=customer)
                self.assertEqual([one["surely"] for one in self.get(f"jobs/{job}/came-back")][:1], found, (nothing, customer))
            Job.objects.filter(model="QX 9").update(model="", serial="")

    def test_what_is_otherwise_now(self) -> None:
        job = self.opened(customer="Harbour office", supply_voltage="115 V")
        self.post(f"jobs/{job}/positions", {"name": "c1", "role": "motor_run", "marking": "12 µF ±5 % 400 V~"})
        (one,) = self.get(f"jobs/{job}/came-back")
        said = " / ".join(one["differs"])
        for words in ("customer: Saltgate Lido then, Harbour office now", "230", "115", "now 12 µF ±5 % 400 V~"):
            self.assertIn(words, said)

    def test_one_that_is_still_here(self) -> None:
        self.post(f"jobs/{self.first}/take-back", {})
        self.assertEqual(self.found()[-1]["warranty"], "here")

    def test_another_workshop_sees_nothing_and_an_older_job_no_later_one(self) -> None:
        self.found()
        self.assertEqual(self.get(f"jobs/{self.first}/came-back"), [])
        self.sign_in("stranger")
        self.assertEqual(self.found(), [])
        self.get(f"jobs/{self.first}/came-back", 404)

    def test_statements_stay_the_same_with_more_jobs(self) -> None:
        for count in (1, 3):
            while Job.objects.filter(serial=FAN["serial"]).count() < count + 1:
                last = self.opened()
            with self.assertNumQueries(11):
                self.assertTrue(self.get(f"jobs/{last}/came-back"))
