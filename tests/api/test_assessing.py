"""Readings corrected and in service, the board, re-judgement, effects of a change, the rest of a set: over HTTP on the demo."""

import json
from typing import Any

from dusky_heron.assessment.models import RecordedVerdict
from dusky_heron.handback.report import report_html
from dusky_heron.record.queries import entries_of
from tests import loose, some
from tests.api.base import ApiTest


class Readings(ApiTest):
    """What lies across a part, what flows through it, and what its meter is worth."""

    def read(self, number: int, name: str, value: str, status: int = 200, meter: str = "Blue hand meter", **more: Any) -> Any:
        path = f"positions/{self.position(number, name).id}/readings"
        return self.post(path, {"value": value, "meter_id": self.meter_id(meter), **more}, status)

    def test_a_timed_charge_over_a_bleeder_says_lift_one_lead(self) -> None:
        """300 kΩ across 1 µF at 10 Hz is D 0.053, corrected; 100 kΩ is 0.16, refused."""
        more = {"condition": "in_circuit", "parallel_ohm": "300k"}
        kept = self.read(2, "CX1", "1u", **loose(more))["readings"][-1]
        self.assertEqual(kept["typed"], "1u with 300k across it")
        self.assertEqual(kept["interval"], "925 nF to 1.02 µF")  # 0.977 µF less 5.3 %
        refused = self.read(2, "CX1", "1u", 422, **more | {"parallel_ohm": "100k"})
        self.assertEqual(refused["errors"][0]["field"], "parallel_ohm")
        self.assertIn("Lift one lead", refused["detail"])

    def test_a_series_reading_needs_its_loss_and_is_then_exact(self) -> None:
        """1 µF with D 0.2 of its resistor alone at 120 Hz reads 1.04 µF in series; without it 1 µF."""
        more = {"condition": "in_circuit", "parallel_ohm": "6631 Ω", "meter": "Bench LCR bridge"}
        self.assertEqual(self.read(2, "CX1", "1.04u", 422, **more)["errors"][0]["field"], "loss")
        kept = self.read(2, "CX1", "1.04u", loss="0.2", **loose(more))["readings"][-1]
        self.assertAlmostEqual(kept["value"]["value"] * 1e6, 1.0, places=3)

    def test_a_temperature_and_a_part_of_a_bank_are_kept(self) -> None:
        kept = self.read(4, "C4", "1190u", section=2, temperature_c=35)["readings"][-1]
        self.assertEqual((kept["section"], kept["temperature"]), (2, "35 °C"))
        self.assertEqual(self.read(4, "C4", "1190u", 422, section=3)["errors"][0]["field"], "section")
        self.assertEqual(self.read(4, "C4", "1190u", 422, temperature_c=900)["errors"][0]["field"], "temperature_c")

    def test_capacitance_in_service_screens_and_is_flagged_live(self) -> None:
        """16 µF on 400 V 50 Hz draws 2.01 A."""
        judged = self.read(1, "C1", "2.01 A", meter="Clamp meter with capacitance", quantity="current", voltage="400 V")
        kept = judged["readings"][-1]
        self.assertAlmostEqual(kept["value"]["value"] * 1e6, 16.0, places=1)
        self.assertEqual((kept["how"], kept["typed"]), ("in service, live", "2.01 A at 400 V"))
        self.assertEqual(judged["verdict"]["word"], "unknown")  # lifted to decide
        self.assertIn("Live work", self.get("vocabulary")["live_caution"])
        for more, field in (({"voltage": ""}, "voltage"), ({"quantity": "capacitance", "condition": "in_service"}, "quantity")):
            sent = {"quantity": "current", "voltage": "400 V"} | more
            value = "16u" if sent["quantity"] == "capacitance" else "2 A"
            refused = self.read(1, "C1", value, 422, meter="Clamp meter with capacitance", **sent)
            self.assertEqual(refused["errors"][0]["field"], field)

    def test_an_appliances_idle_current_gives_its_dropper(self) -> None:
        """680 nF behind a 24 V bridge on 230 V: 49.1 mA less 2 %, with 100 nF on the line 7.2 mA more."""
        more = {"quantity": "current", "voltage": "230 V", "rail": "24 V", "beside": "100n"}
        kept = self.read(3, "CD1", "55.5 mA", meter="Clamp meter with capacitance", **loose(more))["readings"][-1]
        self.assertAlmostEqual(kept["value"]["value"] * 1e9, 680, delta=2)
        self.assertIn("whole appliance at idle", kept["typed"])

    def test_an_overdue_meter_is_flagged_where_it_decides(self) -> None:
        judged = self.read(1, "C1", "16u", meter="Old yellow meter")
        self.assertTrue(judged["readings"][-1]["overdue"])
        self.assertEqual(judged["verdict"]["word"], "watch")  # 15.3 to 16.7 µF, inside ±5 %
        self.assertEqual(judged["verdict"]["reasons"][0]["rule_id"], "meters.overdue")

    def test_the_dropper_is_judged_at_the_lowest_mains(self) -> None:
        """620 nF gives 33.2 mA at 207 V: 34 mA for the valve are not there."""
        judged = self.read(3, "CD1", "620n", meter="Bench LCR bridge")
        self.assertEqual(judged["verdict"]["word"], "replace")
        self.assertIn("For valve on at 207 V it gives 33.1 mA of 34 mA", judged["verdict"]["reasons"][0]["sentence"])


class Board(ApiTest):
    """All positions of a job at a glance, and a line that makes one."""

    def test_a_line_names_a_position_and_judges_it(self) -> None:
        path = f"jobs/{self.job(8).id}/board"
        line = {"name": "C20", "role": "smoothing", "marking": "100 µF 25 V", "value": "61u", "meter_id": self.meter_id()}
        self.assertEqual(self.post(path, line)["word"], "replace")
        for bad, field in (
            ({"name": "C20"}, "name"), ({"name": "C21", "marking": "quayside"}, "marking"),
            ({"name": "C21", "value": "x"}, "value"),
            ({"name": "C21", "meter_id": None}, "meter_id"), ({"name": "C21", "role": "hat"}, "role"),
        ):  # fmt: skip
            self.assertEqual(self.post(path, line | bad, 422)["errors"][0]["field"], field, bad)
        rows = {row["name"]: row for row in self.get(path)["rows"]}
        self.assertEqual(set(rows), {"C1", "CX1", "C20"})  # a refused line leaves nothing behind
        self.assertEqual((rows["C20"]["word"], rows["C20"]["interval"]), ("replace", "59.5 to 62.5 µF"))
        self.assertGreater(rows["C20"]["attention"], rows["CX1"]["attention"])
        self.assertEqual(self.post(path, {"name": "C22", "role": "x", "marking": "1 µF X2 310~"})["word"], "unknown")

    def test_a_marking_points_to_its_role_until_another_is_chosen(self) -> None:
        path = f"jobs/{self.job(8).id}/board"
        line = {"role": "smoothing", "marking": "3n3 Y2 300~"}
        self.assertEqual(self.post(path, line | {"name": "C41"})["role"], "y")
        self.assertEqual(self.post(path, line | {"name": "C42", "role_chosen": True})["role"], "smoothing")
        self.assertEqual(self.post(path, line | {"name": "C43", "marking": "47n 63 V-"})["role"], "smoothing")

    def test_as_many_statements_whatever_its_size(self) -> None:
        path = f"jobs/{self.job(8).id}/board"
        with self.assertNumQueries(
            11
        ):  # session, member, heads twice, positions, readings, signs, verdicts, limits, schools, meters
            self.get(path)
        for number in range(6):
            line = {"name": f"C3{number}", "role": "timing", "marking": "100n 63 V-", "value": "99n", "meter_id": self.meter_id()}
            self.post(path, line)
        with self.assertNumQueries(11):
            self.assertEqual(len(self.get(path)["rows"]), 8)

    def test_a_part_condemned_by_its_marking_stands_so_on_the_sheet(self) -> None:
        sheet = self.get(f"jobs/{self.job(7).id}/sheet")
        words = {position["name"]: position["standing"]["word"] for position in sheet["positions"]}
        self.assertEqual(words, {"C1": "replace", "C2": "condemn"})


class Rejudging(ApiTest):
    """A changed limit offers another verdict; a person takes it or keeps the old one, and the record shows both."""

    def setUp(self) -> None:
        super().setUp()
        self.cx1 = f"positions/{self.position(2, 'CX1').id}"
        self.limit = {"id": "x.loss", "version": 1, "value": 30, "after_s": None, "reason": "old filters, local practice"}

    def kinds(self) -> list[str]:
        return [entry.kind for entry in entries_of(self.actor_of("orne"), self.job(2).id)]

    def test_the_effect_is_shown_before_the_change(self) -> None:
        effect = self.get("effects/limit?id=x.loss&value=30")
        self.assertEqual([(row["position"], row["now"], row["then"]) for row in effect["rows"]], [("CX1", "replace", "watch")])
        self.assertEqual(self.get("effects/limit?id=x.loss&value=20")["rows"], [])
        self.assertEqual(self.get("effects/limit?id=nothing&value=20", 422)["errors"][0]["field"], "id")
        self.assertEqual(self.get("effects/limit?id=x.loss&value=500", 422)["errors"][0]["field"], "value")
        self.assertEqual(self.get("effects/school?id=esr&option=ignore")["judged"], effect["judged"])
        self.get("effects/school?id=esr&option=hat", 422)

    def test_taken(self) -> None:
        self.put("limits", self.limit)
        known = self.get(f"{self.cx1}/assessment")
        self.assertEqual((known["recorded"]["word"], known["verdict"]["word"], known["differs"]), ("replace", "watch", True))
        change = known["changes"][0]
        self.assertEqual((change["before_word"], change["now_word"]), ("replace", "watch"))
        self.assertIn("lost too much", change["before"])
        self.assertIn("changed by the workshop: old filters", change["now"])
        taken = self.post(f"{self.cx1}/verdict", {})
        self.assertEqual((taken["recorded"]["word"], taken["differs"], taken["changes"]), ("watch", False, []))
        last = entries_of(self.actor_of("orne"), self.job(2).id)[-1]
        self.assertEqual((last.kind, last.body["before"], last.body["word"]), ("verdict", "replace", "watch"))

    def test_kept(self) -> None:
        self.put("limits", self.limit)
        kept = self.post(f"{self.cx1}/verdict/kept", {})
        self.assertEqual((kept["recorded"]["word"], kept["verdict"]["word"], kept["differs"]), ("replace", "watch", False))
        last = entries_of(self.actor_of("orne"), self.job(2).id)[-1]
        self.assertEqual((last.kind, last.body["kept"], last.body["not taken"]), ("verdict kept", "replace", "watch"))
        self.put("limits", self.limit | {"version": 2, "value": 40})  # another change is another offer
        self.assertTrue(self.get(f"{self.cx1}/assessment")["differs"])
        self.put("limits", self.limit | {"version": 3, "reason": ""})
        self.assertFalse(self.get(f"{self.cx1}/assessment")["differs"])

    def test_a_verdict_holds_the_evidence_and_the_rules_that_made_it(self) -> None:
        held = RecordedVerdict.objects.filter(position=self.position(2, "CX1")).last()
        evidence = json.loads(some(held).evidence)
        self.assertEqual((evidence["readings"][0]["value"], evidence["readings"][0]["meter"]), (742e-9, "Blue hand meter"))
        self.assertEqual(some(held).rules_version, "7")

    def test_limits_and_schools_are_the_leads_and_need_a_reason(self) -> None:
        for bad, field in (
            ({"value": 0}, "value"),
            ({"value": 200}, "value"),
            ({"value": None}, "value"),
            ({"after_s": 3}, "after_s"),
        ):
            self.assertEqual(self.put("limits", self.limit | bad, 422)["errors"][0]["field"], field)
        school = {"id": "esr", "version": 1, "option": "ignore", "reason": ""}
        self.assertEqual(self.put("schools", school, 422)["errors"][0]["field"], "reason")
        self.assertEqual(self.put("schools", school | {"option": "hat"}, 422)["errors"][0]["field"], "option")
        self.assertEqual(self.put("schools", school | {"reason": "no ESR meter"})["option"], "ignore")
        self.assertEqual(self.put("schools", school | {"reason": "late"}, 409)["current"]["version"], 2)
        self.sign_in("vell")
        self.put("schools", school | {"version": 2, "option": "both"}, 403)


class Batch(ApiTest):
    """Bulk part of the lamp supply: 20 400 h of 40 000 h used by its date and circuit."""

    QUERY = "siblings=2&part_price=4&minutes_each=15&hourly_rate=60&return_cost=150&warranty_months=24"

    def setUp(self) -> None:
        super().setUp()
        self.bulk = f"positions/{self.position(8, 'C1').id}"

    def test_both_schools_and_the_policy(self) -> None:
        found = self.get(f"{self.bulk}/batch?{self.QUERY}")
        self.assertGreater(found["used_percent"], 70)  # 12 h a day since June 2019
        self.assertEqual(found["set_costs"], 38)
        self.assertEqual(found["recommends"], found["cheaper"])
        self.put("schools", {"id": "batch", "version": 1, "option": "failed", "reason": "customers decide"})
        ruled = self.get(f"{self.bulk}/batch?{self.QUERY}")
        self.assertEqual((ruled["recommends"], ruled["policy"]), ("only what failed", "workshop policy: only what failed"))

    def test_a_decision_stands_in_the_record(self) -> None:
        figures = {"siblings": 2, "used_percent": 80, "age_years": 8, "return_cost": 150, "warranty_months": 24, "choice": "set"}
        decided = self.post(f"{self.bulk}/batch", figures)["decided"]
        self.assertIn("every one of the set: 2 more, 62.3 % that one fails in 24 months", decided["sentence"])
        self.assertEqual(entries_of(self.actor_of("orne"), self.job(8).id)[-1].kind, "rest of the set")

    def test_what_is_not_known_is_asked_for(self) -> None:
        other = f"positions/{self.position(7, 'C1').id}"
        self.assertIn("its age", self.get(f"{other}/batch")["missing"])
        self.assertIn("share of its life", self.get(f"{other}/batch?age_years=70")["missing"])
        self.assertEqual(self.post(f"{other}/batch", {"choice": "set"}, 422)["errors"][0]["field"], "age_years")
        self.assertEqual(self.get(f"{self.bulk}/batch?siblings=0", 422)["errors"][0]["field"], "siblings")


class Bounds(ApiTest):
    """What only says how much at least is shown, and printed, as a bound."""

    def test_a_bound_is_no_figure(self) -> None:
        place = self.position(1, "C1")
        for typed, number, unit in ((">60M", "> 60", "MΩ"), ("60M", "60", "MΩ"), (">2.5G", "> 2.5", "GΩ")):
            body = {"value": typed, "quantity": "insulation", "volts": "500 V", "meter_id": self.meter_id(), "condition": "lifted"}
            self.post(f"positions/{place.id}/readings", body)
            shown = self.get(f"positions/{place.id}/assessment")["readings"][-1]
            self.assertEqual((shown["value"]["number"], shown["value"]["unit"]), (number, unit))
            self.assertEqual(shown["interval"].startswith("at least"), typed.startswith(">"))
        self.assertIn("&gt; 60 MΩ", report_html(self.actor_of("orne"), place.job_id))
