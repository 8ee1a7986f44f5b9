"""Planning, watching, proving and limits over HTTP, on the demo's flash bank, oven, drive, dryer and pump."""

import datetime
import math
from typing import Any
from unittest import mock

from django.utils import timezone

from dusky_heron.record.queries import entries_of
from dusky_heron.workshops.models import Member
from tests.api.base import KNOWN, ApiTest


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
        return {"meter_id": self.meter_id(meter), **KNOWN, "readings": readings} | changed

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
        self.assertEqual(
            (plan["charge"]["voltage"]["value"], plan["each"]["voltage"]["value"]), (800, 800)
        )  # a resistor may be open
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
            ("proof", {"meter_id": self.meter_id(), **KNOWN, "readings": []}, "meter_id"),
        ):
            self.assertEqual(self.fields(self.post(f"{path}/{call}", body, 422)), [field])
        self.assertIn("No position", self.get(f"jobs/{job['id']}/plug-pins")["missing"])

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

    def at(self, seconds: float) -> Any:
        """So many seconds after the start of the test."""
        return mock.patch("django.utils.timezone.now", return_value=self.start + datetime.timedelta(seconds=seconds))

    def setUp(self) -> None:
        super().setUp()
        self.start = timezone.now()

    def test_a_proof_of_film_holds_half_an_hour_and_lapses(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/proof", self.proof(path))
        for minutes, state in ((0.1, "proved"), (29, "proved"), (31, "lapsed")):
            with self.at(60 * minutes):
                self.assertEqual(self.state(1, "C1")["state"], state)

    def test_what_creeps_back_is_not_proved_without_the_link_or_a_long_look(self) -> None:
        """54 V of a flash bank: seconds. Open for a quarter of an hour below 0.5 V it cannot pass 5 V in the next half hour."""
        path = self.path(4, "C4")
        self.empty(path)
        refused = self.post(f"{path}/proof", self.proof(path), 422)
        self.assertEqual(self.fields(refused), ["link"])
        self.assertIn("54 V", refused["detail"])
        self.assertEqual(self.state(4, "C4")["state"], "emptying")
        self.post(f"{path}/proof", self.proof(path, link="across C4, red clip"))
        kept = self.state(4, "C4")
        self.assertEqual((kept["state"], kept["place"], kept["lapses_at"]), ("kept_shorted", "across C4, red clip", None))
        with self.at(3600):
            self.assertEqual(self.post(f"{path}/charge", {"state": "link_off"})["state"], "link_off")
            self.post(f"{path}/charge", {"state": "link_off"}, 422)  # there is none any more
        with self.at(3605):
            self.assertEqual(self.post(f"{path}/proof", self.proof(path))["item"]["state"], "proved")  # an hour of short drained it
        with self.at(3605 + 1790):
            self.assertEqual(self.state(4, "C4")["state"], "proved")

    def test_a_part_that_stood_open_is_proved_by_what_was_seen(self) -> None:
        path = self.path(4, "C4")
        self.post(f"{path}/charge", {"state": "kept_shorted"})
        with self.at(2):
            self.post(f"{path}/charge", {"state": "link_off"})
        with self.at(62):
            self.assertEqual(self.fields(self.post(f"{path}/proof", self.proof(path), 422)), ["link"])
            item = self.post(f"{path}/proof", self.proof(path, stood_open=True))["item"]
        holds = datetime.datetime.fromisoformat(item["lapses_at"]) - datetime.datetime.fromisoformat(item["at"])
        self.assertAlmostEqual(holds.total_seconds(), 60 * (5 - 0.401) / 0.401, delta=1)  # 0.2 V ±(0.5 % + 2 digits)

    def test_a_link_is_asked_for_once_before_power(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/charge", {"state": "kept_shorted", "place": "at the terminals"})
        refused = self.post(f"{path}/charge", {"state": "energised"}, 422)
        self.assertEqual(self.fields(refused), ["link_off"])
        self.assertIn("C1, at the terminals, since", refused["detail"])
        self.post(f"{path}/charge", {"state": "energised", "link_off": True})
        self.post(f"{path}/charge", {"state": "energised"})
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(1).id)[-2].body
        self.assertIn("at the terminals", kept["link taken off"])

    def test_powering_up_asks_for_every_link(self) -> None:
        job = self.job(4).id
        self.post(f"{self.path(4, 'C4')}/charge", {"state": "kept_shorted"})
        step = {"percent": 25, "current": "0.1 A"}
        self.assertEqual(self.fields(self.post(f"jobs/{job}/powerup/steps", step, 422)), ["links_off"])
        self.assertEqual(self.state(4, "C4")["state"], "kept_shorted")
        self.post(f"jobs/{job}/powerup/steps", step | {"links_off": True})
        self.assertEqual(self.state(4, "C4")["state"], "energised")

    def test_a_reading_that_finds_it_open_revokes_a_proof_and_none_in_circuit_gives_it_back(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/proof", self.proof(path))
        read = self.post(f"{path}/readings", {"value": "0.4n", "meter_id": self.meter_id()})
        self.assertEqual(self.state(1, "C1")["state"], "revoked")
        self.post(f"{path}/readings", {"value": "16u", "meter_id": self.meter_id(), "condition": "in_circuit"})
        self.assertEqual(self.state(1, "C1")["state"], "revoked")
        self.assertIn("cannot be proved", self.post(f"{path}/proof", self.proof(path), 422)["detail"])
        self.post(f"jobs/{self.job(1).id}/record/{read['readings'][-1]['sequence']}/struck", {"reason": "mistyped"})
        self.assertEqual(self.state(1, "C1")["state"], "revoked")  # struck since or not: prove it again

    def test_a_tester_that_charges_it_takes_a_proof_away_until_it_is_proved_again(self) -> None:
        path = self.path(1, "C1")
        insulation = {"value": ">60M", "quantity": "insulation", "volts": "500 V", "meter_id": self.meter_id()}
        self.post(f"{path}/readings", insulation)  # before it was proved
        self.post(f"{path}/proof", self.proof(path))
        self.post(f"{path}/readings", insulation | {"condition": "new_part"})  # another part
        self.assertEqual(self.state(1, "C1")["state"], "proved")
        self.post(f"{path}/readings", insulation)
        item = self.state(1, "C1")
        self.assertEqual(item["state"], "revoked")
        self.assertIn("500 V", item["sentence"])
        self.post(f"{path}/proof", self.proof(path))
        self.assertEqual(self.state(1, "C1")["state"], "proved")

    def test_what_was_being_emptied_is_unknown_once_a_tester_charged_it(self) -> None:
        path, job = self.path(1, "C1"), self.job(1).id
        insulation = {"value": ">60M", "quantity": "insulation", "volts": "500 V", "meter_id": self.meter_id()}
        self.post(f"{path}/readings", insulation)
        self.empty(path)
        self.assertEqual(self.state(1, "C1")["state"], "emptying")
        self.post(f"{path}/readings", insulation)
        item = self.state(1, "C1")
        self.assertEqual(item["state"], "unknown")
        self.assertIn("500 V", item["sentence"])
        self.empty(path)
        self.assertEqual(self.state(1, "C1")["state"], "emptying")
        self.post(f"jobs/{job}/checks", {"check_id": "insulation", "value": ">60M", "meter_id": self.meter_id()})
        self.assertEqual(self.state(1, "C1")["state"], "unknown")

    def test_an_insulation_test_of_the_whole_takes_every_proof_away(self) -> None:
        path = self.path(1, "C1")
        self.post(f"{path}/proof", self.proof(path))
        check = {"check_id": "insulation", "value": ">60M", "meter_id": self.meter_id()}
        self.post(f"jobs/{self.job(1).id}/checks", check | {"value": "much"}, 422)  # nothing was measured
        self.assertEqual(self.state(1, "C1")["state"], "proved")
        self.post(f"jobs/{self.job(1).id}/checks", check)
        item = self.state(1, "C1")
        self.assertEqual(item["state"], "unknown")
        self.assertIn("insulation test", item["sentence"])

    def test_a_proof_says_what_a_joint_may_hide_until_the_part_was_read(self) -> None:
        path = self.path(1, "C1")
        said = "A joint inside may hide a charge"
        self.assertTrue(any(said in one for one in self.get(f"{path}/discharge")["charge"]["cautions"]))
        self.post(f"{path}/readings", {"value": "16u", "meter_id": self.meter_id()})
        self.assertFalse(any(said in one for one in self.get(f"{path}/discharge")["charge"]["cautions"]))
        self.post(f"{path}/proof", self.proof(path))
        self.assertEqual(self.state(1, "C1")["state"], "proved")

    def test_above_a_kilovolt_the_probe_comes_first_then_the_tool_then_the_multimeter(self) -> None:
        path = self.path(5, "C5")
        plan = self.get(f"{path}/discharge")["proof"]
        self.assertTrue(plan["two_stages"])
        hand = next(meter for meter in plan["meters"] if meter["name"] == "Blue hand meter")
        self.assertEqual((bool(hand["refusals"]), hand["after_probe"], hand["nothing"]), (True, [], "<1"))
        pairs = plan["pairs"]
        probe = self.meter_id("High-voltage probe")
        alone = self.proof(path, "High-voltage probe", readings=[{"dc": "0", "ac": "0"} for _ in pairs])
        self.assertEqual(self.fields(self.post(f"{path}/proof", alone, 422)), ["readings.0.dc"])  # its last digit is 100 V
        self.assertEqual(self.fields(self.post(f"{path}/proof", self.proof(path), 422)), ["meter_id"])
        good = self.proof(path, probe_id=probe, probe_readings=["0" for _ in pairs], shorted=True, link="across C5")
        for changed, field in (
            ({"shorted": False}, "shorted"), ({"probe_readings": ["0"]}, "probe_readings"),
            ({"probe_readings": ["0", "", "0"]}, "probe_readings.1"), ({"probe_readings": ["800", "0", "0"]}, "probe_readings.0"),
            ({"probe_id": self.meter_id()}, "probe_id"),
        ):  # fmt: skip
            self.assertEqual(self.fields(self.post(f"{path}/proof", good | changed, 422)), [field], changed)
        self.assertEqual(self.post(f"{path}/proof", good)["item"]["state"], "kept_shorted")
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(5).id)[-1].body
        self.assertIn("shorted through the tool", kept["probe"][0])

    def test_a_few_volts_of_ac_are_decided_by_low_impedance(self) -> None:
        path = self.path(1, "C1")
        readings = self.proof(path)["readings"]
        ghost = [{"dc": "0.2", "ac": "12"}, *readings[1:]]
        left = self.post(f"{path}/proof", self.proof(path, readings=ghost))["left"]
        self.assertIn("low-impedance", left[0]["sentence"])
        ghost[0]["low"] = "0.1"
        self.assertEqual(self.post(f"{path}/proof", self.proof(path, readings=ghost))["item"]["state"], "proved")

    def test_each_part_of_a_string_is_emptied_by_itself(self) -> None:
        """Planned under 5 V only at the worst case, and only once both were emptied."""
        path = self.path(6, "C6")
        best = self.get(f"{path}/discharge")["best"]
        body = {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]}
        self.assertIn("of 2 emptied", self.post(f"{path}/charge", body | {"point": 0})["sentence"])
        with self.at(3600):
            self.assertIn("1 of 2 emptied", self.state(6, "C6")["sentence"])
            self.post(f"{path}/charge", body | {"point": 1})
            self.assertIn("planned 800 V", self.state(6, "C6")["sentence"])
        worst = next(t for t in best["times"] if t["name"] == "hands-in")["worst"]["value"]
        for seconds, said in ((worst * 0.99, "planned 5.2 V"), (worst * 1.01, "planned under 5 V")):
            with self.at(3600 + seconds):
                self.assertIn(said[:9], self.state(6, "C6")["sentence"])
        with self.at(3600 + worst * 1.01):
            self.assertIn("planned under 5 V by now, at worst", self.state(6, "C6")["sentence"])
        with self.at(3600 + worst * 0.95):
            self.assertNotIn("under 5 V", self.state(6, "C6")["sentence"])
        self.post(f"{path}/charge", body | {"point": 2}, 422)

    def test_what_nobody_planned_is_not_said_to_be_under_five_volts(self) -> None:
        path = self.path(2, "CX1")
        for way in ("lamp", "load left on", "fitted bleeder"):
            self.post(f"{path}/charge", {"state": "emptying", "other_way": way})
            with self.at(7200):
                self.assertIn("nothing planned", self.state(2, "CX1")["sentence"])

    def test_mains_on_ac_stops_the_tool(self) -> None:
        path = self.path(1, "C1")
        best = self.get(f"{path}/discharge")["best"]
        body = {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]}
        self.assertEqual(self.fields(self.post(f"{path}/charge", body | {"ac_before": "229"}, 422)), ["ac_before"])
        self.post(f"{path}/charge", body | {"ac_before": "0.3"})
        kept = entries_of(Member.objects.get(username="orne").actor, self.job(1).id)[-1].body
        self.assertEqual(kept["ac first"], "300 mV")

    def test_the_line_says_what_each_can_hold(self) -> None:
        for job, name in ((1, "C1"), (4, "C4"), (6, "C6")):
            plan = self.plan(job, name)["charge"]
            item = self.state(job, name)
            self.assertEqual((item["energy"]["value"], item["band"]), (plan["energy"]["value"], plan["band"]))

    def test_what_is_no_proof_is_refused_at_its_field(self) -> None:
        path = self.path(1, "C1")
        good = self.proof(path)
        for changed, field in (
            ({"known_before": "0"}, "known_before"), ({"known_after": "3"}, "known_after"), ({"known_before": ""}, "known_before"),
            ({"known_before_ac": ""}, "known_before_ac"), ({"known_after_ac": "200"}, "known_after_ac"),
            ({"readings": [{"dc": "4.9", "ac": "0"}, *good["readings"][1:]]}, "readings.0.dc"),
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


class Several(Discharging):
    """A board proved in one go: one known source, each place its own proof, all or none."""

    def setUp(self) -> None:
        super().setUp()
        self.job_id = self.post("jobs", {"title": "Board", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})["id"]
        for number in range(3):
            made = {"name": f"C{number}", "role": "x", "marking": "470 nF X2 310 V~"}
            self.post(f"jobs/{self.job_id}/positions", made)
        made = {"name": "C3", "role": "smps_bulk", "marking": "220 µF 450 VDC"}
        self.post(f"jobs/{self.job_id}/positions", made)
        self.asked = self.get(f"jobs/{self.job_id}/to-prove")

    def body(self, *places: int, **changed: Any) -> Any:
        found = []
        for k in places:
            readings = [{"dc": "<0.1", "ac": "<0.1"} for _ in self.asked[k]["proof"]["pairs"]]
            found.append({"position_id": self.asked[k]["position_id"], "readings": readings})
        return {"meter_id": self.meter_id(), **KNOWN, "places": found} | changed

    def states(self) -> list[str]:
        return [item["state"] for item in self.get(f"jobs/{self.job_id}/sheet")["charge_line"]]

    def prove(self, body: Any, status: int = 200) -> Any:
        return self.post(f"jobs/{self.job_id}/proofs", body, status)

    def test_each_is_proved_and_only_what_was_measured(self) -> None:
        self.assertEqual(len(self.asked), 4)
        self.prove(self.body(0, 2))
        self.assertEqual(self.states(), ["proved", "unknown", "proved", "unknown"])
        self.assertEqual([one["name"] for one in self.get(f"jobs/{self.job_id}/to-prove")], ["C1", "C3"])
        kept = entries_of(Member.objects.get(username="orne").actor, self.job_id)[-1].body
        self.assertIn("at_most", kept)

    def test_all_or_none_and_the_field_is_named(self) -> None:
        body = self.body(0, 1)
        body["places"][1]["readings"][1]["ac"] = ""
        self.assertEqual(self.fields(self.prove(body, 422)), ["places.1.readings.1.ac"])
        self.assertEqual(self.states(), ["unknown"] * 4)
        self.assertEqual(self.fields(self.prove(self.body(0, known_after="180"), 422)), ["known_after"])
        self.assertEqual(self.fields(self.prove(self.body(0, 3), 422)), ["places.1.link"])
        body = self.body(0, 3)
        body["places"][1]["link"] = "red clip"
        self.prove(body)
        self.assertEqual(self.states(), ["proved", "unknown", "unknown", "kept_shorted"])

    def test_a_voltage_that_is_left_is_said_at_its_place(self) -> None:
        body = self.body(0, 1)
        body["places"][1]["readings"][0]["dc"] = "41"
        answer = self.prove(body)["places"]
        self.assertEqual((answer[0]["left"], answer[1]["left"][0]["field"]), ([], "readings.0.dc"))
        self.assertEqual(self.states()[:2], ["proved", "unknown"])

    def test_of_another_job_is_not_here(self) -> None:
        body = self.body(0)
        body["places"][0]["position_id"] = str(self.position(1, "C1").id)
        self.prove(body, 404)

    def test_a_constant_number_of_statements(self) -> None:
        with self.assertNumQueries(11):
            self.client.get(f"/api/jobs/{self.job_id}/to-prove")


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

    def test_the_limit_for_hands_is_lowered_never_raised(self) -> None:
        self.assertNotIn("Hands", [row["id"] for row in self.get("vocabulary")["standards"]])
        change = {"id": "Hands", "version": 1, "value": 60, "reason": "thick gloves"}
        self.assertEqual(self.fields(self.put("limits", change, 422)), ["value"])
        self.put("limits", change | {"value": 25, "reason": "wet plant room"})
        for job, name in ((1, "C1"), (2, "CX1"), (6, "C6")):
            plan = self.plan(job, name)
            self.assertEqual(plan["working_limit"]["value"], 25)
            self.assertIn("wet plant room", plan["working_limit_source"])

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
