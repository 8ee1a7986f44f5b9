"""What was noted before it was moved goes back: wires, connectors pin by pin, names given later, one tick for what is one wire."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from tests.api.base import ApiTest
from tests.api.test_asfound import picture

CONNECTORS = ("J3: red black white -", "CN4: bn, bu, gn/ye", "TB1: L=brown N=blue PE=gnye")
BEFORE = ("gy pump-run -> C1.2", "red J3.1 -> C1.1", "white C2.1 -> fan", "violet C1.3 -> C2.2", "pink hall -> C2.3")
AFTER = (
    "orange C1.4 -> lamp",
    "black J3.2 -> C2.4",
    "yellow C1.5 -> door",
    "tan C2.5 -> strap",
    "cream heater -> C1.6",
    "silver K9 -> K8",
)


class PuttingBack(ApiTest):
    """A pump with two capacitors and three connectors that were opened."""

    def setUp(self) -> None:
        super().setUp()
        opened = {"title": "Pump", "supply_voltage": "230 V", "supply_frequency": "50 Hz", "protection_class": "II"}
        self.job_id = self.post("jobs", opened)["id"]
        self.part = self.post("parts", {"marking": "16 µF ±5 % 450 V~ P2", "kind": "motor_run", "quantity": 9, "place": "Z9"})["id"]

    def note(self, *lines: str) -> list[dict[str, Any]]:
        return [self.post(f"jobs/{self.job_id}/found", {"text": line}) for line in lines]

    def place(self, name: str) -> str:
        made = {"name": name, "role": "motor_run", "marking": "16 µF ±5 % 450 V~ P2"}
        return f"positions/{self.post(f'jobs/{self.job_id}/positions', made)['id']}"

    def chosen(self, path: str) -> str:
        found = next(row for row in self.get(f"{path}/candidates")["accepted"] if row["part"]["id"] == self.part)
        self.post(f"{path}/choice", {"part_id": self.part, "signed": found["to_sign"]})
        self.post(f"{path}/take-out", {})
        self.post(f"{path}/charge", {"state": "kept_shorted"})
        return path

    def wires(self, path: str) -> dict[str, dict[str, Any]]:
        return {row["sentence"]: row for row in self.get(f"{path}/fitting")["lines"] if row["sentence"].startswith("Wire back")}

    def tick(self, path: str, *, done: bool = True, only: str = "") -> None:
        for line in self.get(f"{path}/fitting")["lines"]:
            if line["done"] is not done and only in line["sentence"]:
                self.post(f"{path}/fitting", {"line": line["id"], "done": done})

    def fitted(self) -> list[str]:
        return [row["name"] for row in self.get(f"jobs/{self.job_id}/handback")["places"] if row["fitted"]]

    def test_three_connectors_and_twenty_wires_half_of_them_before_their_parts_had_names(self) -> None:
        self.note(*CONNECTORS[:2], *BEFORE)
        one = self.place("C1")
        two = self.place("c2")
        self.note(CONNECTORS[2], *AFTER)
        first, second = self.wires(self.chosen(one)), self.wires(self.chosen(two))
        pins = [f"Wire back: {pin}." for pin in ("J3.3 white", "CN4.1 brown", "CN4.2 blue", "CN4.3 green/yellow",
                "TB1.L brown", "TB1.N blue", "TB1.PE green/yellow")]  # fmt: skip
        both = ["red J3.1 -> C1.1", "violet C1.3 -> C2.2", "black J3.2 -> C2.4", "silver K9 -> K8"]
        only = {
            "1": ["gy pump-run -> C1.2", "orange C1.4 -> lamp", "yellow C1.5 -> door", "cream heater -> C1.6"],
            "2": ["white C2.1 -> fan", "pink hall -> C2.3", "tan C2.5 -> strap"],
        }
        self.assertEqual(set(first), {*pins, *(f"Wire back: {line}." for line in (*both, *only["1"]))})
        self.assertEqual(set(second), {*pins, *(f"Wire back: {line}." for line in (*both, *only["2"]))})
        self.assertEqual(len(first) + len(second) - len(set(first) & set(second)), len(pins) + len(BEFORE) + len(AFTER))

    def test_the_table_is_shown_and_a_name_given_later_is_linked(self) -> None:
        table, wire = self.note("J3: red+brown -", "gy pump-run -> C1.2")
        self.assertEqual(table["pins"], [{"name": "1", "wires": [["red"], ["brown"]]}, {"name": "2", "wires": []}])
        self.assertIsNone(wire["position_id"])
        one = self.place("C1")
        shown = {row["typed"]: row["position_id"] for row in self.get(f"jobs/{self.job_id}/found")["lines"]}
        self.assertEqual(shown["gy pump-run -> C1.2"], one.removeprefix("positions/"))

    def test_what_is_shared_is_ticked_once_and_what_is_not_on_each(self) -> None:
        self.note("J3: red", "violet C1.3 -> C2.2")
        one, two = self.place("C1"), self.place("C2")
        self.chosen(one)
        self.chosen(two)
        self.tick(one, only="J3.1")
        self.tick(one, only="violet")
        found = self.wires(two)
        self.assertEqual([found[f"Wire back: {line}."]["done"] for line in ("J3.1 red", "violet C1.3 -> C2.2")], [True, False])
        self.tick(two, only="J3.1", done=False)
        self.assertFalse(self.wires(one)["Wire back: J3.1 red."]["done"])

    def test_a_tick_from_before_the_choice_was_of_another_opening(self) -> None:
        self.note("J3: red")
        one, two = self.place("C1"), self.place("C2")
        self.tick(self.chosen(one), only="J3.1")
        self.assertFalse(self.wires(self.chosen(two))["Wire back: J3.1 red."]["done"])

    def test_fitted_on_every_list_that_waited_for_it_and_on_none_once_it_is_taken_back(self) -> None:
        self.note("J3: red")
        one, two = self.place("C1"), self.place("C2")
        for path in (one, two):
            self.chosen(path)
        for path in (one, two):
            for line in self.get(f"{path}/fitting")["lines"]:
                if "J3" not in line["sentence"]:
                    self.post(f"{path}/fitting", {"line": line["id"]})
        self.assertEqual(self.fitted(), [])
        self.tick(one)
        self.assertEqual(self.fitted(), ["C1", "C2"])
        shared = self.wires(two)["Wire back: J3.1 red."]
        self.post(f"jobs/{self.job_id}/record/{shared['sequence']}/struck", {})
        self.assertEqual(self.fitted(), [])

    def test_a_wire_remembered_later_opens_the_list_again(self) -> None:
        one = self.chosen(self.place("C1"))
        self.tick(one)
        self.assertEqual(self.fitted(), ["C1"])
        self.note("screws tray 2")
        self.assertEqual(self.fitted(), ["C1"])
        (wire,) = self.note("red fan -> C1.2")
        self.assertEqual((self.fitted(), self.get(f"{one}/fitting")["fitted_at"]), ([], None))
        self.tick(one)
        self.assertEqual(self.fitted(), ["C1"])
        self.assertTrue(self.get(f"{one}/fitting")["fitted_at"])
        self.post(f"jobs/{self.job_id}/record/{wire['sequence']}/struck", {"reason": "was another set"})
        self.assertEqual(self.fitted(), ["C1"])

    def test_each_is_shown_where_a_photo_shows_it(self) -> None:
        (table, wire) = self.note("J3: red black", "red fan -> C1.2")
        one = self.chosen(self.place("C1"))
        file = SimpleUploadedFile("a.jpg", picture("JPEG"), "image/jpeg")
        photo = self.answer(self.client.post(f"/api/jobs/{self.job_id}/photos", {"photo": file, "caption": "block"}), 200)
        for x, line in ((0.1, table), (0.2, wire)):
            point = {"x": x, "y": 0.5, "label": "here", "line_id": line["id"]}
            self.post(f"photos/{photo['id']}/points", point)
        found = {says: [(p["photo_id"], p["x"]) for p in row["photos"]] for says, row in self.wires(one).items()}
        pins = [(photo["id"], 0.1)]
        self.assertEqual(found, {"Wire back: J3.1 red.": pins, "Wire back: J3.2 black.": pins,
                                 "Wire back: red fan -> C1.2.": [(photo["id"], 0.2)]})  # fmt: skip
        self.post(f"jobs/{self.job_id}/record/{photo['sequence']}/struck", {})
        self.assertEqual([row["photos"] for row in self.wires(one).values()], [[], [], []])

    def test_another_jobs_connector_stands_on_no_list_here(self) -> None:
        self.post(f"jobs/{self.job(7).id}/found", {"text": "J9: red"})
        self.assertEqual(self.wires(self.chosen(self.place("C1"))), {})
