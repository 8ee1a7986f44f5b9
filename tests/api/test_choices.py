"""How a place is filled: by one part, by several, by none, or by one that is ordered; each through fit, stock, report and file."""

from typing import Any

from dusky_heron.handback.report import report_html
from dusky_heron.stock.models import Part
from tests.api.base import ApiTest


class Choosing(ApiTest):
    """Base: one place of a job of its own."""

    def place(self, role: str, marking: str, **around: Any) -> str:
        job = self.post("jobs", {"title": "Bench press", "supply_voltage": "230 V", "supply_frequency": "50 Hz",
                                 "protection_class": "I", **around})  # fmt: skip
        self.job_path = f"jobs/{job['id']}"
        self.job_id = job["id"]
        made = self.post(f"{self.job_path}/positions", {"name": "Q9", "role": role, "marking": marking})
        return f"positions/{made['id']}"

    def part(self, marking: str, kind: str, quantity: int = 1, **more: Any) -> str:
        made: str = self.post("parts", {"marking": marking, "kind": kind, "quantity": quantity, "place": "Z9", **more})["id"]
        return made

    def left(self, part_id: str) -> int:
        return Part.objects.get(id=part_id).quantity

    def lines(self, path: str) -> list[str]:
        return [line["sentence"] for line in self.get(f"{path}/fitting")["lines"]]

    def fit(self, path: str) -> None:
        """Prove it, and tick all of its list."""
        self.post(f"{path}/charge", {"state": "kept_shorted"})
        for line in self.get(f"{path}/fitting")["lines"]:
            self.post(f"{path}/fitting", {"line": line["id"]})
        self.assertTrue(self.get(f"{path}/fitting")["fitted_at"])

    def report(self) -> str:
        return report_html(self.actor_of("orne"), self.job_id)


class Together(Choosing):
    """Two or more parts in one place."""

    DUAL = "30+5 µF ±6 % 370/440 VAC"

    def setUp(self) -> None:
        super().setUp()
        self.path = self.place("motor_run", self.DUAL)
        self.large = self.part("30 µF ±5 % 440 VAC", "motor_run", 2, price="14.20")
        self.small = self.part("5 µF ±5 % 440 VAC", "motor_run", 2, price="4.10")

    def test_two_singles_for_a_dual_from_choice_to_report(self) -> None:
        found = self.post(f"{self.path}/choice", {"way": "singles", "part_ids": [self.large, self.small]})["choice"]
        self.assertEqual([part["marking"] for part in found["parts"]], ["30 µF ±5 % 440 VAC", "5 µF ±5 % 440 VAC"])
        self.assertEqual((found["way"], found["place"], found["stands"]), ("singles", "Z9", True))
        self.post(f"{self.path}/take-out", {})
        self.assertEqual((self.left(self.large), self.left(self.small)), (1, 1))
        said = " ".join(self.lines(self.path))
        self.assertIn("Strap between the commons", said)
        self.assertIn("terminal strip", said)
        self.fit(self.path)
        priced = self.get(f"{self.job_path}/quote")["lines"]
        self.assertEqual([(line["text"], line["each"]) for line in priced],
                         [("Q9: 30 µF ±5 % 440 VAC", "14.20"), ("Q9: 5 µF ±5 % 440 VAC", "4.10")])  # fmt: skip
        report = self.report()
        for words in ("30 µF ±5 % 440 VAC", "5 µF ±5 % 440 VAC", "fitted together, a single for each section"):
            self.assertIn(words, report)

    def test_what_does_not_come_to_it_is_refused_with_every_reason(self) -> None:
        start = self.part("5 µF ±5 % 330 VAC START", "motor_run")
        refused = self.post(f"{self.path}/choice", {"way": "singles", "part_ids": [self.large, start]}, 422)["errors"][0]
        self.assertEqual(refused["field"], "part_ids")
        self.assertIn("Marked for start service", refused["sentence"])
        self.assertIn("below the old part", refused["sentence"])
        for way, ids in (("parallel", [self.large, self.small]), ("singles", [self.large]), ("singles", [self.small, self.small])):
            self.post(f"{self.path}/choice", {"way": way, "part_ids": ids}, 422)

    def test_changing_ones_mind_gives_the_parts_back(self) -> None:
        dual = self.part(self.DUAL, "motor_run", 1)
        self.post(f"{self.path}/choice", {"way": "singles", "part_ids": [self.large, self.small]})
        self.post(f"{self.path}/take-out", {})
        self.post(f"{self.path}/choice", {"part_id": dual})
        self.assertEqual((self.left(self.large), self.left(self.small)), (2, 2))
        kinds = [entry["kind"] for entry in self.get(f"{self.job_path}/record")]
        self.assertEqual(kinds.count("put back in the drawer"), 2)
        self.post(f"{self.path}/take-out", {})
        self.post(f"{self.path}/choice", {"way": "left", "reason": "the customer wants to wait"})
        self.assertEqual(self.left(dual), 1)
        self.post(f"{self.path}/take-out", {}, 422)

    def test_more_of_it_than_there_is_is_not_taken(self) -> None:
        path = self.place("motor_run", "16 µF ±5 % 450 V~ cl. B P2")
        eight = self.part("8 µF ±5 % 455 V~ cl. B P2", "motor_run", 1)
        self.post(f"{path}/choice", {"way": "parallel", "part_ids": [eight, eight]}, 422)
        self.post(f"parts/{eight}/movements", {"change": 1})
        self.post(f"{path}/choice", {"way": "parallel", "part_ids": [eight, eight]})
        self.post(f"{path}/take-out", {})
        self.assertEqual(self.left(eight), 0)


class Signed(Choosing):
    """What has to be signed before it is taken, and a resistor that makes up for it."""

    def test_a_lost_bleeder_is_signed_for_or_made_up_for(self) -> None:
        path = self.place("x", "470 nF K X2 275 V~ 470 kΩ")
        part = self.part("470 nF K X2 310 V~", "film_safety", 2, humidity_grade=True)
        refused = self.post(f"{path}/choice", {"part_id": part}, 422)["errors"][0]
        self.assertEqual(refused["field"], "signed")
        self.assertIn("bleeder inside the old part", refused["sentence"])
        sentence = refused["sentence"].removeprefix("To be signed: ")
        signed = self.post(f"{path}/choice", {"part_id": part, "signed": [sentence]})["choice"]
        self.assertEqual(signed["signed"], [sentence])
        self.assertIn(f"Signed: {sentence}", self.report())
        self.post(f"{path}/choice", {"part_id": part, "bleeder": "many"}, 422)
        fitted = self.post(f"{path}/choice", {"part_id": part, "bleeder": "470k"})["choice"]
        self.assertEqual(fitted["resistor"], "470 kΩ across it")
        self.assertIn("Resistor fitted and measured: 470 kΩ across it.", self.lines(path))


class Without(Choosing):
    """Left empty, or as it was."""

    def test_a_line_to_chassis_part_is_removed_with_a_reason(self) -> None:
        path = self.place("y", ".01 MFD 600 WVDC", protection_class="I", two_core=True)
        self.post(f"{path}/choice", {"way": "removed"}, 422)
        found = self.post(f"{path}/choice", {"way": "removed", "reason": "two-core lead, not needed"})["choice"]
        self.assertEqual((found["way"], found["stands"], found["parts"]), ("removed", False, []))
        self.assertEqual(self.get(f"{self.job_path}/sheet")["stage"], "discharge")
        self.post(f"{path}/take-out", {}, 422)
        said = " ".join(self.lines(path))
        self.assertIn("ends sleeved", said)
        self.assertNotIn("Polarity", said)
        self.fit(path)
        report = self.report()
        self.assertIn("removed, its place left empty", report)
        self.assertIn("two-core lead, not needed", report)
        checks = self.get(f"{self.job_path}/handback")
        self.assertEqual([place["fitted"] for place in checks["places"]], [True])

    def test_left_as_it_was_is_no_repair_and_a_condemned_part_needs_a_lead(self) -> None:
        path = self.place("x", "1 µF K X2 305 V~")
        self.post(f"{path}/choice", {"way": "left", "reason": "good enough for the customer"})
        self.assertEqual(self.get(f"{self.job_path}/handback")["places"], [])
        self.assertEqual(self.get(f"{path}/fitting")["lines"], [])
        self.post(f"{path}/signs", {"sign": "holed"})
        self.post(f"{path}/verdict", {})
        (place,) = self.get(f"{self.job_path}/handback")["places"]
        self.assertEqual((place["way"], place["fitted"]), ("left", False))
        self.assertIn("Q9: new part fitted is missing", self.get(f"{self.job_path}/handback")["missing"])


class Ordered(Choosing):
    """A specification that the drawer never held."""

    def test_ordered_received_taken_and_fitted(self) -> None:
        path = self.place("motor_run", "13 µF ±5 % 480 V~ cl. B P2 25/085/21")
        asked = self.get(f"{path}/candidates")
        self.assertEqual(asked["accepted"], [])
        for words in ("Tolerance -5/+5 % or closer", "480 V AC or more", "Class B or better at 480 V", "Quantity 1"):
            self.assertIn(words, asked["specification"])
        self.post(f"{path}/choice", {"way": "ordered"}, 422)
        chosen = self.post(f"{path}/order", {"needed_by": None})["choice"]
        self.assertEqual((chosen["way"], chosen["specification"]), ("ordered", asked["specification"]))
        want = next(w for w in self.get("shopping")["wants"] if w["position_name"] == "Q9")
        self.assertEqual((want["part_id"], want["specification"]), (None, asked["specification"]))
        self.assertIn("still to be bought", self.get(f"{path}/fitting")["missing"])
        wrong = {"marking": "13 µF ±5 % 400 V~ cl. B P2 25/085/21", "kind": "motor_run"}
        self.assertEqual(self.post(f"shopping/{want['id']}/came", wrong, 422)["errors"][0]["field"], "marking")
        self.assertFalse(Part.objects.filter(marking=wrong["marking"]).exists())
        right = {"marking": "13 µF ±5 % 500 V~ cl. B P2 25/085/21", "kind": "motor_run", "quantity": 2, "lot": "K7"}
        self.post(f"shopping/{want['id']}/came", right)
        (best,) = self.get(f"{path}/candidates")["accepted"]
        self.post(f"{path}/choice", {"part_id": best["part"]["id"]})
        self.post(f"{path}/take-out", {})
        self.assertEqual(self.left(best["part"]["id"]), 1)
        self.fit(path)
        self.assertIn("lot K7", self.report())

    def test_what_is_not_known_of_a_place_is_not_ordered(self) -> None:
        path = self.place("motor_run", "13 µF ±5 %")
        refused = self.post(f"{path}/order", {}, 422)["errors"][0]["sentence"]
        self.assertIn("What volts (AC) lie across it", refused)

    def test_a_wanted_specification_is_met_by_what_is_offered_not_by_its_name(self) -> None:
        path = self.place("motor_run", "13 µF ±5 % 480 V~ cl. B P2 25/085/21")
        meets = self.part("13 µF ±5 % 500 V~ cl. A P2 25/085/21", "motor_run", 0)
        misses = self.part("13 µF ±5 % 400 V~ cl. A P2 25/085/21", "motor_run", 0)
        supplier = self.post("suppliers", {"name": "Quay Street", "days": 1})
        for part, price in ((meets, "9.00"), (misses, "2.00")):
            self.post("offers", {"supplier_id": supplier["id"], "part_id": part, "prices": price})
        self.post(f"{path}/order", {})
        listed = self.get("shopping")
        lines = [line for parcel in listed["basket"]["parcels"] for line in parcel["lines"] if "Q9" in line["serves"]]
        self.assertEqual([line["marking"] for line in lines], ["13 µF ±5 % 500 V~ cl. A P2 25/085/21"])
        parcel = next(p for p in listed["basket"]["parcels"] if p["name"] == "Quay Street")
        on_the_way = self.post("orders", {"supplier_id": supplier["id"], "total": parcel["total"]})["ordered"]
        row = next(r for r in on_the_way if r["position_name"] == "Q9")
        self.post(f"orders/{row['id']}/receive", {"quantity": 1, "lot": "A3"})
        self.assertEqual(self.left(meets), 1)


class Further(Choosing):
    """Beyond the first thirty."""

    def test_the_thirty_first_can_be_found_and_taken(self) -> None:
        path = self.place("x", "1 µF K X2 305 V~")
        made = [self.part(f"{1000 + k} nF K X2 310 V~", "film_safety", 1) for k in range(40)]
        first = self.get(f"{path}/candidates")
        self.assertEqual(len(first["accepted"]), 30)
        rest = self.get(f"{path}/candidates?start=30")
        seen = [row["part"]["id"] for row in (*first["accepted"], *rest["accepted"])]
        self.assertEqual(len(seen), len(set(seen)))
        self.assertTrue(set(made) <= set(seen))
        (found,) = self.get(f"{path}/candidates?words=1037")["accepted"]
        self.assertEqual(found["part"]["id"], made[37])
        chosen = self.post(f"{path}/choice", {"part_id": made[39], "signed": found["to_sign"]})["choice"]
        self.assertEqual(chosen["part_id"], made[39])
        self.assertTrue(first["why_first"])


class Beside(Choosing):
    """What is no capacitor."""

    def test_a_fuse_replaced_and_a_bridge_checked_stand_in_the_report(self) -> None:
        self.place("x", "1 µF K X2 305 V~")
        path = f"{self.job_path}/beside"
        self.assertEqual(self.get(path)["rows"], [])
        self.post(path, {"what": "fuse", "says": ""}, 422)
        self.post(path, {"what": "fuse", "says": "T 2 A 250 V", "replaced": True})
        rows = self.post(path, {"what": "rectifier", "says": "0.6 V each way"})["rows"]
        self.assertEqual([(row["title"], row["replaced"]) for row in rows], [("fuse", True), ("bridge or rectifier", False)])
        self.assertIn("fuse replaced: T 2 A 250 V; bridge or rectifier checked: 0.6 V each way.", self.report())
        self.post(f"{self.job_path}/record/{rows[0]['sequence']}/struck", {"reason": "wrong job"})
        self.assertEqual(len(self.get(path)["rows"]), 1)
