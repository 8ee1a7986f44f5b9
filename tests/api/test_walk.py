"""The fault walk of a job: each reading on its record, in the notations of every other reading."""

from typing import Any

from dusky_heron.circuits.models import WalkReading
from tests.api.base import ApiTest


class JobWalk(ApiTest):
    """The ticket-gate lamp supply of job 8, whose fuse is blown."""

    def setUp(self) -> None:
        super().setUp()
        self.path = f"jobs/{self.job(8).id}/walk"

    def read(self, check: str, value: str, status: int = 200, **more: str) -> Any:
        return self.post(self.path, {"symptom": "fuse_blown", "check_id": check, "value": value, **more}, status)

    def test_it_goes_on_where_it_was_left_and_stands_on_the_record(self) -> None:
        self.assertFalse(self.get(self.path)["begun"])
        self.read("fuse", "OL")
        self.read("mov", ">20M")
        self.read("bridge", "0.02")
        found = self.get(self.path)
        self.assertEqual([found["typed"][key] for key in ("fuse", "mov", "bridge")], ["OL", ">20M", "0.02"])
        self.assertIn("A diode of the bridge is shorted", " ".join(found["walk"]["suspects"]))
        entries = [entry["body"] for entry in self.get(f"jobs/{self.job(8).id}/record") if entry["kind"] == "fault walk"]
        self.assertEqual([(body["check"], body["read"], body["found"]) for body in entries],
                         [("Fuse", "OL", "high"), ("MOV", ">20M", "as expected"), ("Bridge", "0.02", "low")])  # fmt: skip

    def test_one_read_again_counts_by_its_newest_and_a_struck_one_not_at_all(self) -> None:
        self.read("fuse", "0.3")
        self.read("fuse", "O.L")
        self.assertEqual(self.get(self.path)["typed"]["fuse"], "O.L")
        last = WalkReading.objects.order_by("sequence").last()
        assert last
        self.post(f"jobs/{self.job(8).id}/record/{last.sequence}/struck", {"reason": "read on the wrong holder"})
        self.assertEqual(self.get(self.path)["typed"]["fuse"], "0.3")

    def test_what_its_parts_are_is_kept_with_it(self) -> None:
        self.read("ntc", "9", symptom="dead", part_ntc="10")
        found = self.get(self.path)
        self.assertEqual((found["typed"]["symptom"], found["typed"]["part_ntc"]), ("dead", "10"))

    def test_bad_input_is_named_and_nothing_is_written(self) -> None:
        for check, value, more, field in (
            ("fuse", "many", {}, "value"), ("fuse", "", {}, "value"), ("fuse", "-1", {}, "value"), ("mov", ">20k", {}, "value"),
            ("steam", "1", {}, "check_id"), ("symptom", "1", {}, "check_id"), ("fuse", "1", {"symptom": "sad"}, "symptom"),
            ("fuse", "1", {"part_ntc": "hot"}, "part_ntc"),
        ):  # fmt: skip
            found = self.read(check, value, 422, **more)
            self.assertEqual(found["errors"][0]["field"], field, (check, value))
        self.assertEqual(WalkReading.objects.count(), 0)
