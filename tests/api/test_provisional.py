"""What is not certain of a marking is not planned low, proved, judged good, put in a place, taken or bought until it is settled."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from dusky_heron.stock.models import Part
from dusky_heron.stock.queries import traits_kept
from tests.api.base import KNOWN, ApiTest

JOB = {"title": "Bench supply", "supply_voltage": "230", "supply_frequency": "50 Hz"}
SETTLED = "1 µF K X2 310 V~"
OPEN_PART = "1 µF K X2 310 V~ 47X9"


class Bench(ApiTest):
    """A place and a part, by what is printed."""

    def place(self, marking: str, role: str = "reservoir", **more: Any) -> Any:
        job = self.post("jobs", JOB)
        return self.post(f"jobs/{job['id']}/positions", {"name": "C1", "role": role, "marking": marking, **more})

    def part(self, marking: str, kind: str = "film_safety") -> Any:
        return self.post("parts", {"marking": marking, "kind": kind, "quantity": 4, "place": "A1"})

    def fields(self, answer: Any) -> list[str]:
        return [error["field"] for error in answer["errors"]]

    def settle(self, position: Any, text: str) -> Any:
        return self.put(f"positions/{position['id']}", position | {"marking": text})


class Provisional(Bench):
    """A place whose part is marked in two ways, and a drawer that holds such a part."""

    def test_the_reading_box_asks_and_each_answer_settles_it(self) -> None:
        read = self.client.get("/api/reading-box", {"text": "10,000 MFD 50 VDC"}).json()
        self.assertTrue(read["marking"]["provisional"])
        (doubt,) = read["marking"]["doubts"]
        self.assertEqual(
            (doubt["about"], [option["says"] for option in doubt["options"]]), ("capacitance", ["10\xa0000 µF", "10 µF"])
        )
        self.assertAlmostEqual(read["charge"]["energy"]["value"], 0.5 * 10e-3 * 1.5 * 50**2)  # the larger, an older electrolytic
        for option, farads in zip(doubt["options"], (10e-3, 10e-6), strict=True):
            settled = self.client.get("/api/reading-box", {"text": option["text"]}).json()["marking"]
            self.assertEqual((settled["provisional"], settled["capacitance"][0]["value"]), (False, farads))

    def test_a_place_tells_what_kind_bare_volts_are_of(self) -> None:
        for role, asks in ((None, True), ("smoothing", False), ("snubber", True)):
            query = {"text": "47 µF 63 V"} | ({"role": role} if role else {})
            self.assertEqual(self.client.get("/api/reading-box", query).json()["marking"]["provisional"], asks, role)
        read = self.place("47 µF 63 V", "smoothing")["read"]
        self.assertIn("V without a sign is DC", " ".join(read["assumptions"]))

    def test_planned_with_the_worst_and_not_proved_until_it_is_settled(self) -> None:
        position = self.place("10,000 µF 63 VDC")
        path = f"positions/{position['id']}"
        plan = self.get(f"{path}/discharge")
        self.assertAlmostEqual(plan["charge"]["energy"]["value"], 0.5 * 10e-3 * 1.2 * 63**2)
        self.assertIn("not settled", plan["proof"]["open_question"])
        readings = [{"dc": "0.2", "ac": "0.01"} for _ in plan["proof"]["pairs"]]
        proof = {"meter_id": self.meter_id(), **KNOWN, "readings": readings}
        refused = self.post(f"{path}/proof", proof, 422)
        self.assertEqual(self.fields(refused), ["readings"])
        self.assertIn("not settled", refused["errors"][0]["sentence"])
        self.settle(position, position["read"]["doubts"][0]["options"][0]["text"])
        self.post(f"{path}/proof", proof | {"link": "across it"})

    def test_the_bench_says_what_the_job_waits_for(self) -> None:
        position = self.place("10,000 µF 63 VDC")
        waits = next(row["waits_for"] for row in self.get("bench") if row["job"]["id"] == position["job_id"])
        self.assertEqual(waits, "C1: say what is printed on it")
        line = self.get(f"jobs/{position['job_id']}/sheet")["charge_line"]
        self.assertEqual(line[0]["sentence"], "planned with the worst its marking may mean")
        self.assertEqual(self.get(f"jobs/{position['job_id']}/sheet")["waits_for"], waits)
        self.settle(position, "10000 µF 63 VDC")
        self.assertEqual(self.get(f"jobs/{position['job_id']}/sheet")["waits_for"], "C1: empty it first")

    def test_a_voltage_that_is_left_counts_also_while_it_is_open(self) -> None:
        position = self.place("10,000 µF 63 VDC")
        path = f"positions/{position['id']}"
        pairs = self.get(f"{path}/discharge")["proof"]["pairs"]
        readings = [{"dc": "40", "ac": "0"} for _ in pairs]
        body = {"meter_id": self.meter_id(), **KNOWN, "readings": readings}
        self.assertTrue(self.post(f"{path}/proof", body)["left"])

    def test_volts_do_not_matter_where_the_circuit_was_confirmed(self) -> None:
        position = self.place("0.1 µF 630 V", "snubber")
        path = f"positions/{position['id']}"
        self.assertIn("not settled", self.get(f"{path}/discharge")["proof"]["open_question"])
        self.put(f"{path}/surroundings", {"version": position["version"], "basis": "by_hand", "voltage": "24 V", "confirmed": True})
        self.assertEqual(self.get(f"{path}/discharge")["proof"]["open_question"], "")

    def test_it_is_not_kept_and_nothing_takes_its_place(self) -> None:
        position = self.place(OPEN_PART, "x")
        path = f"positions/{position['id']}"
        self.post(
            f"{path}/readings", {"value": "1 µF", "quantity": "capacitance", "condition": "removed", "meter_id": self.meter_id()}
        )
        verdict = self.get(f"{path}/assessment")["verdict"]
        self.assertEqual(verdict["word"], "unknown")
        self.assertIn("marking.provisional", [reason["rule_id"] for reason in verdict["reasons"]])
        found = self.get(f"{path}/candidates")
        self.assertEqual(found["accepted"], [])
        self.settle(position, SETTLED)
        self.assertTrue(self.get(f"{path}/candidates")["accepted"])

    def test_a_part_that_leaves_a_question_open_is_neither_chosen_nor_taken_nor_bought(self) -> None:
        part, place = self.part(OPEN_PART), self.place(SETTLED, "x")
        self.assertTrue(Part.objects.get(id=part["id"]).provisional)
        path = f"positions/{place['id']}"
        self.assertNotIn(part["id"], [row["part"]["id"] for row in self.get(f"{path}/candidates")["accepted"]])
        self.assertEqual(self.fields(self.post(f"{path}/choice", {"part_id": part["id"]}, 422)), ["part_id"])
        self.assertEqual(self.fields(self.post(f"parts/{part['id']}/movements", {"change": -1}, 422)), ["change"])
        self.post(f"parts/{part['id']}/movements", {"change": 1})
        for want in ({"part_id": part["id"], "quantity": 1}, {"part_id": part["id"], "quantity": 1, "position_id": place["id"]}):
            self.assertEqual(self.fields(self.post("shopping", want, 422)), ["part_id"])
        (waiting,) = self.get("parts?state=unsettled")
        self.put(f"parts/{part['id']}", waiting | {"marking": waiting["doubts"][0]["options"][0]["text"]})
        self.assertEqual(self.get("parts?state=unsettled"), [])
        self.post(f"parts/{part['id']}/movements", {"change": -1})
        self.assertIn(part["id"], [row["part"]["id"] for row in self.get(f"{path}/candidates")["accepted"]])

    def test_a_choice_made_before_is_not_taken_out_once_it_is_open(self) -> None:
        part, place = self.part(SETTLED), self.place(SETTLED, "x")
        path = f"positions/{place['id']}"
        self.post(f"{path}/choice", {"part_id": part["id"]})
        now = next(row for row in self.get("parts?words=A1") if row["id"] == part["id"])
        self.put(f"parts/{part['id']}", now | {"marking": OPEN_PART})
        self.assertEqual(self.fields(self.post(f"{path}/take-out", {}, 422)), ["part_id"])

    def test_the_kind_in_stock_tells_bare_volts(self) -> None:
        for kind, open_ in (("electrolytic", False), ("film_ac", False)):
            self.assertEqual(traits_kept("47 µF 63 V", kind)["provisional"], open_)
        self.assertEqual(
            (traits_kept("47 µF 63 V", "electrolytic")["dc_v"], traits_kept("47 µF 63 V", "film_ac")["ac_low_v"]), (63, 63)
        )

    def test_open_rows_of_a_list_come_in_and_are_named(self) -> None:
        content = f"marking;kind;quantity\n{OPEN_PART};safety film;4\n{SETTLED};safety film;2\n"
        sent = self.client.post("/api/part-lists", {"file": SimpleUploadedFile("list.csv", content.encode(), "text/csv")})
        taken = self.done(self.answer(sent, 202))["answer"]
        self.assertEqual((taken["adds"], taken["unsettled"]), (2, [OPEN_PART]))
        self.assertEqual([part["marking"] for part in self.get("parts?state=unsettled")], [OPEN_PART])

    def test_another_workshops_open_parts_are_not_listed(self) -> None:
        self.part(OPEN_PART)
        self.sign_in("stranger")
        self.assertEqual(self.get("parts?state=unsettled"), [])


class Numbers(Bench):
    """Numbers typed anywhere go through one reader."""

    def sign(self, sign: str) -> None:
        terms = self.get("terms")
        self.put("terms", terms | {"decimal_sign": sign})

    def proof(self, path: str, dc: str) -> Any:
        pairs = self.get(f"{path}/discharge")["proof"]["pairs"]
        readings = [{"dc": dc, "ac": "0"}, *({"dc": "0", "ac": "0"} for _ in pairs[1:])]
        return {"meter_id": self.meter_id(), **KNOWN, "readings": readings, "link": "across it"}

    def test_a_volt_typed_with_a_comma_before_three_figures_proves_nothing(self) -> None:
        path = f"positions/{self.place('470 µF 400 VDC')['id']}"
        refused = self.post(f"{path}/proof", self.proof(path, "1,200"), 422)
        self.assertEqual(self.fields(refused), ["readings.0.dc"])
        self.assertIn("?", refused["errors"][0]["sentence"])

    def test_the_sign_of_the_workshop_tells(self) -> None:
        path = f"positions/{self.place('470 µF 400 VDC')['id']}"
        self.sign(".")
        self.assertIn("1.2 kV", str(self.post(f"{path}/proof", self.proof(path, "1,200"))["left"]))
        self.sign(",")
        self.assertFalse(self.post(f"{path}/proof", self.proof(path, "1,200"))["left"])
        self.assertIn("1.2 kV", str(self.post(f"{path}/proof", self.proof(path, "1.200"))["left"]))

    def test_the_sign_is_the_leads_to_set_and_one_of_two(self) -> None:
        self.put("terms", self.get("terms") | {"decimal_sign": ";"}, 422)

    def test_a_fall_that_starts_a_hundred_times_under_the_plan_is_asked_about(self) -> None:
        path = f"positions/{self.place('470 µF 400 VDC')['id']}"
        best = self.get(f"{path}/discharge")["best"]
        self.post(f"{path}/charge", {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]})
        meter = self.meter_id()
        for rows, asked in (("0, 3.99", True), ("0, 4.0", False)):
            answer = self.post(f"{path}/fall", {"rows": rows, "meter_id": meter}, 422 if asked else 200)
            if asked:
                self.assertEqual(self.fields(answer), ["as_typed"])
        self.assertEqual(self.fields(self.post(f"{path}/fall", {"rows": "1;3,900", "meter_id": meter}, 422)), ["rows"])

    def test_a_low_start_is_taken_when_it_is_right_as_typed(self) -> None:
        path = f"positions/{self.place('470 µF 400 VDC')['id']}"
        best = self.get(f"{path}/discharge")["best"]
        self.post(f"{path}/charge", {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]})
        self.post(f"{path}/fall", {"rows": "0, 3.9", "meter_id": self.meter_id(), "as_typed": True})

    def test_money_and_sheets(self) -> None:
        terms = self.get("terms")
        refused = self.put("terms", terms | {"hourly_rate": "1,200"}, 422)
        self.assertEqual(self.fields(refused), ["hourly_rate"])
        self.assertEqual(self.put("terms", terms | {"hourly_rate": "48,50"})["hourly_rate"], "48.50")
        for rows, price, quantity in (("1,34;2", "1.34", 2), ("1.200,50;1.000", "1200.50", 1000)):
            content = f"marking;kind;price;quantity\n{SETTLED} {quantity} h;safety film;{rows}\n".replace(f" {quantity} h", "")
            sent = self.client.post("/api/part-lists", {"file": SimpleUploadedFile("list.csv", content.encode(), "text/csv")})
            self.done(self.answer(sent, 202))
            part = Part.objects.get(marking=SETTLED, workshop__members__username="orne", place="")
            self.assertEqual((str(part.price), part.quantity), (price, quantity))
        sent = self.client.post(
            "/api/part-lists/preview",
            {"file": SimpleUploadedFile("l.csv", f"marking;price\n{SETTLED};1,200\n".encode(), "text/csv")},
        )
        self.assertEqual(self.done(self.answer(sent, 202))["answer"]["rows"][0]["column"], "price")
