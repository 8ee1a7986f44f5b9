"""Planning, watching, proving and limits over HTTP, on the demo's flash bank, oven, drive, dryer and pump."""

import datetime
import math
from typing import Any
from unittest import mock

from django.utils import timezone

from dusky_heron.record.queries import entries_of
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest


class Discharging(ApiTest):
    """Short ways to the positions of the demo."""

    def path(self, job: int, name: str) -> str:
        return f"positions/{self.position(job, name).id}"

    def plan(self, job: int, name: str) -> Any:
        return self.get(f"{self.path(job, name)}/discharge")

    def empty(self, path: str) -> Any:
        best = self.get(f"{path}/discharge")["best"]
        return self.post(f"{path}/charge", {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]})

    def proof(self, path: str, meter: str = "Blue hand meter", **changed: Any) -> Any:
        pairs = self.get(f"{path}/discharge")["proof"]["pairs"]
        readings = [{"dc": "0.2", "ac": "10 mV"} for _ in pairs]
        return {"meter_id": self.meter_id(meter), "known_before": "230", "known_after": "229 V", "readings": readings} | changed

    def state(self, job: int, name: str) -> Any:
        line = self.get(f"jobs/{self.job(job).id}/sheet")["charge_line"]
        return next(item for item in line if item["name"] == name)

    def fields(self, answer: Any) -> list[str]:
        return [error["field"] for error in answer["errors"]]


class Plans(Discharging):
    """What each position of the demo can hold, and how to empty it."""

    def test_flash_bank(self) -> None:
        plan = self.plan(4, "C4")
        self.assertAlmostEqual(plan["charge"]["energy"]["value"], 0.5 * 3600e-6 * 1.2 * 360**2)
        self.assertEqual(plan["charge"]["band"], "lethal_blast")
        self.assertIn("qualified persons", plan["charge"]["cautions"][0])
        self.assertTrue(plan["rebound"]["store_shorted"])
        self.assertIn("a link may be broken", plan["points"][1])

    def test_drive(self) -> None:
        plan = self.plan(6, "C6")
        self.assertEqual((plan["charge"]["voltage"]["value"], plan["each"]["voltage"]["value"]), (800, 420))
        self.assertAlmostEqual(plan["string"]["residue"]["value"], 80)
        self.assertEqual(len(plan["points"]), 2)
        self.assertEqual(len(plan["proof"]["pairs"]), 6)
        self.assertIn("47", plan["bleeder"]["states"][0]["resistance"]["number"])
        self.assertIn("IEC 61800-5-1", plan["limits"])

    def test_oven_with_its_bleeder_open(self) -> None:
        plan = self.plan(5, "C5")
        self.assertAlmostEqual(plan["charge"]["voltage"]["value"], 2100 * math.sqrt(2))
        self.assertIn("open", plan["bleeder"]["warning"])
        refused = {meter["name"]: meter["refusals"] for meter in plan["proof"]["meters"]}
        self.assertEqual([name for name, why in refused.items() if not why], ["High-voltage probe"])
        self.assertIn("bare multimeter", refused["Blue hand meter"][0])

    def test_a_low_reading_does_not_lower_the_plan_and_a_high_one_raises_it(self) -> None:
        path = self.path(1, "C1")
        before = self.get(f"{path}/discharge")["charge"]["energy"]["value"]
        self.post(f"{path}/readings", {"value": "12.9u", "meter_id": self.meter_id()})
        low = self.get(f"{path}/discharge")
        self.assertEqual(low["charge"]["energy"]["value"], before)
        self.assertIn("a broken joint can remake", low["planned_with"])
        self.post(f"{path}/readings", {"value": "18u", "meter_id": self.meter_id()})
        self.assertGreater(self.get(f"{path}/discharge")["charge"]["capacitance"]["value"], 18e-6)

    def test_bleeder_and_plug_pins_of_the_dryer(self) -> None:
        plan = self.plan(2, "CX1")
        self.assertEqual([check["meets"] for check in plan["bleeder"]["checks"]], [False])
        pins = self.get(f"jobs/{self.job(2).id}/plug-pins")
        self.assertAlmostEqual(pins["voltages"][0]["rated"]["value"], 325.2, delta=0.2)
        self.assertFalse(pins["checks"][0]["meets"])
        made = self.get(f"{self.path(2, 'CX1')}/bleeder?limit=IEC 60335-1 (22.5)&working_v=200")
        self.assertEqual(made["resistors"], "2 × 180 kΩ in series")
        for query, field in (("limit=nothing", "standard"), ("limit=IEC 60335-1 (22.5)%26working_v=-1", "working_v")):
            answer = self.get(f"{self.path(2, 'CX1')}/bleeder?{query.replace('%26', '&')}", 422)
            self.assertEqual(self.fields(answer), [field])

    def test_the_circuit_is_noted_and_refused_at_its_fields(self) -> None:
        position = self.position(3, "CD1")
        path = f"positions/{position.id}/surroundings"
        good = {"version": 2, "basis": "by_hand", "voltage": "500 V", "bleeder": "2 x 470k", "bleeder_measured": "OL"}
        for changed, field in (
            ({"voltage": ""}, "voltage"), ({"voltage": "many"}, "voltage"), ({"bleeder": "2 x"}, "bleeder"),
            ({"basis": "x"}, "basis"),
            ({"bleeder": "50 x 1k"}, "bleeder"), ({"count": 99}, "count"), ({"arrangement": "series"}, "count"),
            ({"balancing": "-1"}, "balancing"), ({"bleeder_measured": "maybe"}, "bleeder_measured"),
        ):  # fmt: skip
            with self.subTest(changed):
                self.assertIn(field, self.fields(self.put(path, good | changed, 422)))
        kept = self.put(path, good)
        self.assertEqual((kept["surroundings"]["bleeder"], kept["surroundings"]["bleeder_measured"]), ("2 x 470 kΩ", "open"))
        self.assertEqual(self.plan(3, "CD1")["charge"]["voltage"]["value"], 500)
        self.assertEqual(self.put(path, good, 409)["current"]["version"], 3)  # somebody else's edit is not overwritten

    def test_other_ways_with_a_lamp_of_ones_own(self) -> None:
        path = f"{self.path(4, 'C4')}/other-tools"
        lamp, load, blade = self.get(f"{path}?lamp_voltage=120 V&lamp_power=40 W&load=4k7")
        self.assertIn("Dark at 40 V", lamp["sentence"])
        self.assertEqual((lamp["advised_against"], load["advised_against"], blade["advised_against"]), (True, False, True))
        self.assertEqual(self.fields(self.get(f"{path}?lamp_power=bright", 422)), ["lamp_power"])

    def test_a_plan_takes_a_constant_number_of_statements(self) -> None:
        for job, name in ((1, "C1"), (4, "C4"), (6, "C6")):
            path = f"/api/{self.path(job, name)}/discharge"
            with self.assertNumQueries(8):  # session, member, position, readings, signs, limits, resistors, meters
                self.client.get(path)

    def test_a_transformer_confirmed_by_hand_goes_below_the_rating(self) -> None:
        job = self.post("jobs", {"title": "Amplifier", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})
        made = {"name": "C1", "role": "reservoir", "marking": "32+32 µF 500 VDC"}
        position = self.post(f"jobs/{job['id']}/positions", made)
        path = f"positions/{position['id']}"
        self.assertEqual(self.get(f"{path}/discharge")["charge"]["voltage"]["value"], 500)
        circuit = {"version": 1, "basis": "transformer", "voltage": "250 V"}
        self.put(f"{path}/surroundings", circuit)
        self.assertEqual(self.get(f"{path}/discharge")["charge"]["voltage"]["value"], 500)  # not confirmed: the rating stands
        self.put(f"{path}/surroundings", circuit | {"version": 2, "confirmed": True})
        plan = self.get(f"{path}/discharge")
        self.assertAlmostEqual(plan["charge"]["voltage"]["value"], 250 * math.sqrt(2) * 1.1)
        self.assertEqual(plan["points"], ["common to section 1, 32 µF", "common to section 2, 32 µF"])
        self.assertEqual(len(plan["proof"]["pairs"]), 6)

    def test_without_a_voltage_only_the_question_is_answered(self) -> None:
        job = self.post("jobs", {"title": "Bare", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})
        made = {"name": "C1", "role": "magnetron", "marking": "1 µF"}
        added = self.post(f"jobs/{job['id']}/positions", made)
        path = f"positions/{added['id']}"
        plan = self.get(f"{path}/discharge")
        self.assertIsNone(plan["charge"])
        self.assertIn("say what feeds it", plan["missing"])
        for call, body, field in (
            ("charge", {"state": "emptying", "resistor_ids": [self.get("resistors")[0]["id"]]}, "resistor_ids"),
            ("fall", {"rows": "0, 3", "meter_id": self.meter_id()}, "rows"),
            ("proof", {"meter_id": self.meter_id(), "known_before": "9", "known_after": "9", "readings": []}, "meter_id"),
        ):
            self.assertEqual(self.fields(self.post(f"{path}/{call}", body, 422)), [field])
        self.assertIn("No X position", self.get(f"jobs/{job['id']}/plug-pins")["missing"])

    def test_emptying_another_way_is_noted_with_what_it_is(self) -> None:
        path = self.path(6, "C6")
        for way in ("lamp", "load left on", "fitted bleeder"):
            noted = self.post(f"{path}/charge", {"state": "emptying", "other_way": way})
            self.assertEqual((noted["state"], noted["tool"]), ("emptying", way))
        self.post(f"{path}/charge", {"state": "emptying", "other_way": "tool blade"}, 422)


class Falls(Discharging):
    """Watching it fall."""

    def log(self, path: str, rows: str, status: int = 200, meter: str = "Blue hand meter") -> Any:
        return self.post(f"{path}/fall", {"rows": rows, "meter_id": self.meter_id(meter)}, status)

    def test_typed_and_pasted_readings_are_fitted(self) -> None:
        path = self.path(4, "C4")
        self.assertEqual(self.fields(self.log(path, "0, 358", 422)), ["rows"])  # nothing empties it yet
        self.empty(path)
        self.assertEqual(self.log(path, "0, 360")["finding"], "too_few")
        csv = "time;volts\n" + "\n".join(f"0:{t:02d};{360 * math.exp(-t / 3.6):.1f}".replace(".", ",") for t in range(1, 9))
        found = self.log(path, csv)
        self.assertEqual((found["finding"], len(found["samples"])), ("falling", 9))
        self.assertAlmostEqual(found["tau"]["value"], 3.6, delta=0.02)
        hands = next(t for t in found["to_go"] if t["name"] == "hands-in")
        self.assertAlmostEqual(hands["nominal"]["value"], 3.6 * math.log(72) - 8, delta=0.1)
        self.assertIn("V read at 8 s", self.state(4, "C4")["sentence"])
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(4).id)[-1].body
        self.assertEqual(len(kept["readings"]), 8)

    def test_bad_rows_are_named_and_nothing_is_kept(self) -> None:
        path = self.path(4, "C4")
        self.empty(path)
        for rows, said in (
            ("0, 300\nfive, 2", "Line 2"), ("", "Type time and volts"), ("1, 2\n1, 3", "logged already"), ("-4, 300", "at least 0"),
            ("0, 1e9", "at most"), ("0 300 7", "Line 1"), ("\n".join(f"{k}, 1" for k in range(5001)), "more than 5000"),
        ):  # fmt: skip
            answer = self.log(path, rows, 422)
            self.assertEqual(self.fields(answer), ["rows"])
            self.assertIn(said, answer["detail"])
        self.assertEqual(self.get(f"{path}/fall")["samples"], [])
        refused = self.log(path, "0, 300", 422, meter="Bench LCR bridge")  # made for 50 V
        self.assertEqual(self.fields(refused), ["meter_id"])

    def test_a_step_stops_the_work_wherever_it_stands_in_the_log(self) -> None:
        path = self.path(6, "C6")
        self.empty(path)
        found = self.log(path, "0, 60\n1, 40\n2, 27\n3, 18\n4, 325\n5, 217\n6, 145\n7, 96")
        self.assertEqual((found["danger"], found["stopped_at"], found["to_go"]), (True, 4, []))
        self.assertEqual(self.state(6, "C6")["state"], "rising")

    def test_rising_stops_the_work(self) -> None:
        path = self.path(6, "C6")
        self.empty(path)
        found = self.log(path, "0, 20\n1, 25\n2, 31\n3, 36\n4, 42\n5, 47")
        self.assertTrue(found["danger"])
        self.assertEqual(self.state(6, "C6")["state"], "rising")
        flume = next(sheet for sheet in self.get("bench") if sheet["job"]["number"] == 6)
        self.assertEqual(flume["waits_for"], "C6: find what feeds it")
        refused = self.post(f"{path}/proof", self.proof(path), 422)
        self.assertIn("energised", refused["detail"])


class Proofs(Discharging):
    """Live–dead–live, and lapsing."""

    def test_a_proof_holds_a_minute_then_half_an_hour_and_lapses(self) -> None:
        path = self.path(4, "C4")
        self.empty(path)
        self.post(f"{path}/proof", self.proof(path))
        start = timezone.now()
        self.assertEqual(self.state(4, "C4")["state"], "proved")
        for seconds, state in ((58, "proved"), (62, "lapsed")):
            with mock.patch("django.utils.timezone.now", return_value=start + datetime.timedelta(seconds=seconds)):
                self.assertEqual(self.state(4, "C4")["state"], state)
        with mock.patch("django.utils.timezone.now", return_value=start + datetime.timedelta(seconds=70)):
            self.post(f"{path}/proof", self.proof(path))
        for minutes, state in ((30, "proved"), (32, "lapsed")):
            with mock.patch("django.utils.timezone.now", return_value=start + datetime.timedelta(minutes=minutes)):
                self.assertEqual(self.state(4, "C4")["state"], state)
        self.post(f"{path}/charge", {"state": "energised"})
        self.assertEqual(self.state(4, "C4")["state"], "energised")

    def test_what_is_no_proof_is_refused_at_its_field(self) -> None:
        path = self.path(1, "C1")
        good = self.proof(path)
        for changed, field in (
            ({"known_before": "0"}, "known_before"), ({"known_after": "3"}, "known_after"), ({"known_before": ""}, "known_before"),
            ({"readings": [{"dc": "0", "ac": ""}, *good["readings"][1:]]}, "readings.0.ac"),
            ({"readings": good["readings"][:2]}, "readings"),
            ({"readings": [{"dc": "x", "ac": "0"}, *good["readings"][1:]]}, "readings.0.dc"),
            ({"meter_id": self.meter_id("Old yellow meter")}, "meter_id"),
        ):  # fmt: skip
            with self.subTest(changed):
                self.assertEqual(self.fields(self.post(f"{path}/proof", good | changed, 422)), [field])
        self.assertEqual(self.state(1, "C1")["state"], "unknown")
        self.post(f"{path}/proof", good)
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(1).id)[-1].body
        self.assertEqual((len(kept["readings"]), kept["meter"], kept["below"]), (3, "Blue hand meter", "5 V"))

    def test_a_voltage_that_is_left_ends_what_was_proved_before(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/proof", self.proof(path))
        self.assertEqual(self.state(1, "C1")["state"], "proved")
        answer = self.post(f"{path}/proof", self.proof(path, known_after="", readings=[{"dc": "0.1", "ac": "229"}]))
        self.assertEqual([left["field"] for left in answer["left"]], ["readings.0.ac"])  # said though the rest is missing
        self.assertEqual(self.state(1, "C1")["state"], "unknown")
        self.assertIn("229 V AC is left", self.state(1, "C1")["sentence"])
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(1).id)[-1]
        self.assertEqual((kept.kind, kept.body["meter"]), ("voltage found", "Blue hand meter"))

    def test_a_part_that_reads_far_low_is_kept_shorted_never_proved(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/readings", {"value": "0.4n", "meter_id": self.meter_id()})
        self.assertIn("cannot be proved", self.get(f"{path}/discharge")["proof"]["hidden"])
        self.assertIn("cannot be proved", self.post(f"{path}/proof", self.proof(path), 422)["detail"])
        self.assertEqual(self.post(f"{path}/charge", {"state": "kept_shorted"})["state"], "kept_shorted")

    def test_a_proof_cannot_be_noted_without_its_readings(self) -> None:
        for state in ("proved", "lapsed", "rising", "unknown"):
            self.post(f"{self.path(1, 'C1')}/charge", {"state": state}, 422)

    def test_four_resistors_with_the_longest_names_are_noted_whole(self) -> None:
        made = {
            "resistance": "22k",
            "tolerance_percent": 5,
            "power": "50 W",
            "construction": "wirewound",
            "working_voltage": "1 kV",
        }
        ids = [self.post("resistors", made | {"name": f"{k}" * 200})["id"] for k in range(4)]
        body = {"state": "emptying", "shape": "series", "resistor_ids": ids}
        self.assertIn("3" * 200, self.post(f"{self.path(1, 'C1')}/charge", body)["tool"])

    def test_more_pairs_than_there_are_prove_nothing(self) -> None:
        path = self.path(1, "C1")
        good = self.proof(path)
        answer = self.post(f"{path}/proof", good | {"readings": [*good["readings"], {"dc": "300", "ac": "0"}]}, 422)
        self.assertEqual(self.fields(answer), ["readings"])

    def test_foreign_or_doubled_resistors_are_refused(self) -> None:
        path = self.path(1, "C1")
        one = self.get("resistors")[0]["id"]
        for ids in ([], [one, one], ["00000000-0000-4000-8000-000000000000"]):
            answer = self.post(f"{path}/charge", {"state": "emptying", "shape": "series", "resistor_ids": ids}, 422)
            self.assertEqual(self.fields(answer), ["resistor_ids"])


class Limits(Discharging):
    """The limits table: a lead changes a row with a reason; plans follow."""

    def test_a_lead_changes_a_limit_and_takes_it_back(self) -> None:
        row = next(row for row in self.get("limits") if row["id"] == "IEC 60335-1 (22.5)")
        self.assertIn("check the edition", row["source"])
        changed = self.put("limits", {"id": row["id"], "version": 1, "value": 30, "after_s": 1, "reason": "local code"})
        self.assertEqual((changed["said"], changed["standard_said"]), ("30 V after 1 s", "34 V after 1 s"))
        plan = self.plan(2, "CX1")
        self.assertEqual(plan["working_limit"]["value"], 30)
        self.assertIn("changed by the workshop: local code", plan["working_limit_source"])
        self.put("limits", {"id": row["id"], "version": 1, "value": 20, "after_s": 1, "reason": "late"}, 409)
        self.put("limits", {"id": row["id"], "version": 2, "reason": ""})
        self.assertEqual(self.plan(2, "CX1")["working_limit"]["value"], 34)

    def test_refusals(self) -> None:
        good = {"id": "IEC 61010-1 (6)", "version": 1, "value": 50, "after_s": 5, "reason": "wet"}
        for changed, field in (
            ({"value": -1}, "value"), ({"value": None}, "value"), ({"after_s": 0}, "after_s"), ({"id": "IEC 1"}, "standard"),
            ({"id": "IEC 62368-1 (5.5.2.2)"}, "value"), ({"id": "IEC 62368-1 (ES1)"}, "value"),
        ):  # fmt: skip
            self.assertEqual(self.fields(self.put("limits", good | changed, 422)), [field], changed)
        self.sign_in("vell")
        self.put("limits", good, 403)
        self.sign_in("stranger")
        self.assertFalse(any(row["changed"] for row in self.get("limits")))
