"""From the chosen part to the report: fitted by the list, checked, soaked, signed where it must be, handed back."""

import datetime
from decimal import Decimal
from types import SimpleNamespace
from typing import Any
from unittest.mock import patch

from django.utils import timezone
from icalendar import Calendar

from dusky_heron.core.selection.fitting_list import EMPTY
from dusky_heron.discharge.states import ChargeState
from dusky_heron.fitting.models import FitTick
from dusky_heron.handback.actions import months_on
from dusky_heron.handback.models import CheckResult, Quote, Soak
from dusky_heron.handback.report import report_html
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Chain
from dusky_heron.record.verifying import verify_all
from dusky_heron.replacement.models import Choice
from dusky_heron.stock.models import Part
from tests.api.base import ApiTest


class HandingBack(ApiTest):
    """Job 3, a dropper condemned for its value; the calls a page makes, in the order of the work."""

    def setUp(self) -> None:
        super().setUp()
        self.job_id, self.place = str(self.job(3).id), str(self.position(3, "CD1").id)
        self.path = f"jobs/{self.job_id}"

    def measured_low(self) -> None:
        self.post(f"positions/{self.place}/readings", {"value": "402n", "meter_id": self.meter_id(), "condition": "lifted"})

    def chosen(self) -> Any:
        best = self.get(f"positions/{self.place}/candidates")["accepted"][0]["part"]
        self.post(f"positions/{self.place}/choice", {"part_id": best["id"]})
        return best

    def fit(self, *, taken: bool = False) -> Any:
        if not taken:
            self.post(f"positions/{self.place}/take-out", {})
        self.post(f"positions/{self.place}/charge", {"state": "kept_shorted"})
        path = f"positions/{self.place}/fitting"
        for line in self.get(path)["lines"]:
            found = self.post(path, {"line": line["id"]})
        return found

    def check(self, check_id: str, value: str, status: int = 200, **more: Any) -> Any:
        found = self.post(
            f"{self.path}/checks", {"check_id": check_id, "value": value, "meter_id": self.meter_id(), **more}, status
        )
        return next(check for check in found["checks"] if check["id"] == check_id) if status == 200 else found["errors"][0]

    FORGES = True  # soaks that began earlier

    def soaked(self, **asked: Any) -> None:
        self.post(f"{self.path}/soak", {"links_off": True, **asked})
        self.ended()

    def ended(self, *, held: bool = True) -> None:
        """Half an hour later, the browser closed meanwhile."""
        Soak.objects.filter(ended=None).update(at=timezone.now() - datetime.timedelta(minutes=31))
        self.post(f"{self.path}/soak/end", {"held": held, "note": "zener at 61 °C"})

    def ready(self) -> None:
        self.measured_low()
        self.chosen()
        self.fit()
        self.soaked()
        self.powered()
        at_mains: dict[str, Any] = {"against": "230 V"}
        for check_id, value, more in (
            ("complaint", "yes", {}), ("insulation", ">60M", {}), ("idle:CD1", "48 mA", at_mains), ("holds:CD1", "yes", {})
        ):  # fmt: skip
            self.assertEqual(self.check(check_id, value, **more)["state"], "passes", check_id)

    def powered(self) -> None:
        """The first power, every step as its circuit says."""
        for step in self.get(f"{self.path}/powerup")["steps"]:
            read = {key: f"{step[key]['value']} {unit}" for key, unit in (("rail", "V"), ("current", "A"))}
            self.assertFalse(
                self.post(f"{self.path}/powerup/steps", {"percent": step["percent"], "links_off": True, **read})["stop"]
            )


class Fitting(HandingBack):
    """The list follows from the part and the place, and is ticked line by line."""

    def test_the_list_comes_with_the_part_and_fitted_with_its_last_line(self) -> None:
        path = f"positions/{self.place}/fitting"
        self.assertIn("Choose a part", self.get(path)["missing"])
        self.measured_low()
        self.chosen()
        first = self.get(path)["lines"][0]["id"]
        self.assertIn("out of the drawer", self.post(path, {"line": first}, 422)["errors"][0]["sentence"])
        self.post(f"positions/{self.place}/take-out", {})
        self.assertIn("No proof of CD1 stands", self.post(path, {"line": first}, 422)["errors"][0]["sentence"])
        found = self.fit(taken=True)
        self.assertTrue(found["fitted_at"])
        self.assertEqual({line["initials"] for line in found["lines"]}, {"MO"})
        self.assertEqual(self.get(f"{self.path}/sheet")["stage"], "power")
        again = self.post(path, {"line": first, "done": False})
        self.assertIsNone(again["fitted_at"])
        self.assertEqual(self.get(f"{self.path}/sheet")["stage"], "fit")
        self.assertEqual(self.post(path, {"line": "sing"}, 422)["errors"][0]["field"], "line")

    def test_nothing_is_ticked_as_empty_but_on_a_proof_that_stands_or_a_link(self) -> None:
        self.measured_low()
        self.chosen()
        self.post(f"positions/{self.place}/take-out", {})
        path = f"positions/{self.place}/fitting"
        for state in ChargeState:
            with self.subTest(state), patch("dusky_heron.fitting.actions.charge_line") as line:
                line.return_value = [SimpleNamespace(state=state)]
                stands = state in ("proved", "kept_shorted")
                self.post(path, {"line": EMPTY}, 200 if stands else 422)
                self.assertEqual(FitTick.standing(line=EMPTY, done=True).exists(), stands)
                if stands:
                    self.post(path, {"line": EMPTY, "done": False})
                    FitTick.objects.all().delete()

    def test_the_map_stands_in_the_list_and_a_photo_where_the_workshop_asks(self) -> None:
        place = self.position(7, "C1")
        school = next(one for one in self.get("schools") if one["id"] == "fitting_photo")
        self.put("schools", {"id": "fitting_photo", "version": school["version"], "option": "yes", "reason": "insurer"})
        parts = self.get("parts?q=33+µF+500")
        self.post(f"positions/{place.id}/override", {"rule_id": "sections.count", "reason": "two singles"}, 422)
        # Singles for a can are chosen on the bench, not by rank.
        Choice.objects.create(
            position=place,
            way="singles",
            marking=parts[0]["marking"],
            parts=[
                {"part_id": parts[0]["id"], "marking": parts[0]["marking"], "place": "", "lot": "", "date_code": "", "price": ""}
            ],
            by_name="M. Orne",
            out_at=timezone.now(),
            stands_at=1000,
            sequence=1000,
        )
        said = [line["sentence"] for line in self.get(f"positions/{place.id}/fitting")["lines"]]
        for words in (
            "Wire back: red rectifier -> C1.a.",
            "Polarity: plus",
            "Strap between the commons",
            "A photo of the finished place.",
        ):
            self.assertTrue(any(words in sentence for sentence in said), words)
        photo = f"positions/{place.id}/fitting"
        self.assertIn("As found", self.post(photo, {"line": "photo"}, 422)["errors"][0]["sentence"])


class Proof(HandingBack):
    """Each required check passes, or a lead signs; nothing else lets a job go."""

    def soak(self) -> tuple[str, str]:
        check = next(one for one in self.get(f"{self.path}/handback")["checks"] if one["id"] == "soak")
        return check["state"], check["sentence"]

    def test_a_soak_shorter_than_its_table_asks_decides_nothing_and_what_comes_later_undoes_a_signature(self) -> None:
        self.ready()
        self.soaked(minutes=0.001)
        self.assertEqual(self.soak(), ("cannot tell", "It lasted 0.001 of 30 minutes. zener at 61 °C"))
        self.assertIn("soak under load", self.post(f"{self.path}/return", {}, 422)["errors"][0]["sentence"])
        self.post(f"{self.path}/deviations", {"check_id": "soak", "reason": "a lamp, watched for an hour before"})
        self.assertEqual(self.soak()[0], "signed")
        self.post(f"{self.path}/soak", {"links_off": True})
        self.assertEqual(self.soak()[0], "missing")
        self.ended(held=False)
        self.assertEqual(self.soak()[0], "fails")
        for minutes, state in ((29.9, "cannot tell"), (30, "passes")):
            self.soaked(minutes=minutes)
            self.assertEqual(self.soak()[0], state)

    def test_a_part_chosen_after_a_lead_signed_for_none_asks_for_its_fitting(self) -> None:
        self.measured_low()
        fitted = {"check_id": "fitted:CD1", "reason": "not to be had any more"}
        self.post(f"{self.path}/deviations", fitted)
        self.assertNotIn("new part fitted", " ".join(self.get(f"{self.path}/handback")["missing"]))
        self.chosen()
        self.assertIn("CD1: new part fitted is missing", self.get(f"{self.path}/handback")["missing"])

    def test_a_step_that_said_stop_after_a_lead_signed_for_the_first_power_asks_again(self) -> None:
        self.measured_low()
        self.chosen()
        self.post(f"{self.path}/deviations", {"check_id": "powered", "reason": "no supply of its kind here"})
        self.assertNotIn("first power", " ".join(self.get(f"{self.path}/handback")["missing"]))
        first = self.get(f"{self.path}/powerup")["steps"][0]["percent"]
        step = {"percent": first, "note": "smoke", "stopped": True, "links_off": True}
        self.post(f"{self.path}/powerup/steps", step)
        self.assertIn("first power", " ".join(self.get(f"{self.path}/handback")["missing"]))

    def test_page_one_prints_the_reading_that_decided_and_no_other(self) -> None:
        self.measured_low()
        later = {"value": "3.3", "quantity": "esr", "frequency": "100 kHz", "meter_id": self.meter_id("Bench LCR bridge")}
        self.post(f"positions/{self.place}/readings", later)
        page = report_html(self.actor_of("orne"), self.job(3).id).partition("The record behind it")[0]
        found = page.partition("What was found and done")[2].partition("Checked before")[0]
        self.assertIn("402", found)
        self.assertIn("Blue hand meter", found)
        self.assertNotIn("3.3", found)
        self.assertIn("nothing decided yet", found)
        self.assertNotIn("left as it was", page)

    def test_a_job_stays_until_everything_passed(self) -> None:
        self.measured_low()
        stays = self.post(f"{self.path}/return", {}, 422)["errors"][0]["sentence"]
        for words in ("insulation is missing", "CD1: new part fitted is missing", "A lead may sign"):
            self.assertIn(words, stays)
        self.ready()
        self.assertEqual(self.get(f"{self.path}/handback")["missing"], [])
        self.post(f"positions/{self.place}/charge", {"state": "kept_shorted", "place": "blue link"})
        self.assertEqual(self.post(f"{self.path}/soak", {}, 422)["errors"][0]["field"], "links_off")
        self.assertIn("CD1, blue link", self.post(f"{self.path}/return", {"note": "collected"}, 422)["errors"][0]["sentence"])
        self.post(f"{self.path}/soak", {"links_off": True})
        running = self.post(f"{self.path}/return", {"note": "collected", "links_off": True}, 422)["errors"][0]["sentence"]
        self.assertIn("soak under load is missing", running)
        self.ended()
        back = self.post(f"{self.path}/return", {"note": "collected", "links_off": True})
        self.assertTrue(back["returned_at"])
        self.assertEqual(back["warranty_until"], months_on(timezone.localdate(), 12).isoformat())
        self.assertNotIn(self.job_id, [sheet["job"]["id"] for sheet in self.get("bench")])
        self.assertEqual(self.get("returned")[0]["job"]["id"], self.job_id)
        self.post(f"{self.path}/return", {}, 422)
        self.post(f"{self.path}/take-back", {"note": "drops out again"})
        self.assertIn(self.job_id, [sheet["job"]["id"] for sheet in self.get("bench")])
        self.assertEqual(self.get("returned"), [])

    def test_a_failed_check_holds_it_and_only_a_lead_signs(self) -> None:
        self.ready()
        self.assertEqual(self.check("insulation", "1.2 MΩ")["state"], "fails")
        self.assertIn("insulation fails", self.post(f"{self.path}/return", {}, 422)["errors"][0]["sentence"])
        signed = {"check_id": "insulation", "reason": "surge parts bridge it, 250 V reads 40 MΩ"}
        self.sign_in("vell")
        self.post(f"{self.path}/deviations", signed, 403)
        self.post(f"{self.path}/return", {}, 403)
        self.sign_in("orne")
        self.assertEqual(
            self.post(f"{self.path}/deviations", {"check_id": "insulation", "reason": "ok"}, 422)["errors"][0]["field"], "reason"
        )
        self.assertEqual(self.post(f"{self.path}/deviations", signed)["missing"], [])
        self.assertEqual(self.check("insulation", "0.2 MΩ")["state"], "fails")  # what was signed was another reading
        self.assertIn("insulation fails", self.post(f"{self.path}/return", {}, 422)["errors"][0]["sentence"])
        self.post(f"{self.path}/deviations", signed)
        self.post(f"{self.path}/return", {})
        self.assertIn("surge parts bridge it", report_html(self.actor_of("orne"), self.job(3).id))

    def test_a_soak_runs_by_the_servers_clock_and_holds_only_to_its_end(self) -> None:
        self.post(f"{self.path}/soak", {"minutes": 10})
        self.assertEqual(self.post(f"{self.path}/soak", {}, 422)["errors"][0]["field"], "minutes")
        left = self.get(f"{self.path}/handback")["soak"]["left_s"]
        self.assertTrue(590 < left <= 600)
        self.assertIn("minutes to go", self.post(f"{self.path}/soak/end", {"held": True}, 422)["errors"][0]["sentence"])
        later = timezone.now() + datetime.timedelta(minutes=11)
        with patch("django.utils.timezone.now", return_value=later):
            self.assertEqual(self.get(f"{self.path}/handback")["soak"]["left_s"], 0)
            self.assertTrue(self.post(f"{self.path}/soak/end", {"held": True})["soak"]["held"])
        self.assertIn("No soak", self.post(f"{self.path}/soak/end", {"held": False}, 422)["errors"][0]["sentence"])

    def test_bad_input_is_named_and_writes_nothing(self) -> None:
        self.chosen()
        for check_id, value, more, field in (
            ("nonsense", "1", {}, "check_id"), ("insulation", "many", {}, "value"), ("insulation", "", {}, "value"),
            ("holds:CD1", "maybe", {}, "value"), ("insulation", "5M", {"meter_id": self.job_id}, "meter_id"),
            ("idle:CD1", "1e99 A", {}, "value"), ("idle:CD1", "48 mA", {"against": "many"}, "against"),
            ("insulation", "5M", {"meter_id": self.meter_id("Bench LCR bridge")}, "meter_id"),
            ("insulation", "5 MΩ" * 200, {}, "value"),
        ):  # fmt: skip
            self.assertEqual(self.check(check_id, value, 422, **more)["field"], field, (check_id, value))
        for body in ({"minutes": -1}, {"minutes": 1e9}, {"minutes": "long"}):
            self.post(f"{self.path}/soak", body, 422)
        self.post(f"{self.path}/deviations", {"check_id": "nonsense", "reason": "because of that"}, 422)
        self.assertEqual((CheckResult.objects.count(), Soak.objects.count()), (0, 0))

    def test_statements_stay_the_same_with_more_places(self) -> None:
        self.ready()

        def takes(number: int) -> None:
            watch()  # written down at times, but not then
            with self.assertNumQueries(number):
                self.get(f"{self.path}/handback")

        takes(18)
        for name in ("C7", "C8", "C9"):
            self.post(f"{self.path}/positions", {"name": name, "role": "x", "marking": "100 nF X2 275~"})
        takes(22)  # the six more judge places that no verdict is recorded of
        self.post(f"{self.path}/positions", {"name": "C10", "role": "x", "marking": "100 nF X2 275~"})
        takes(22)


class Papers(HandingBack):
    """Quote, report and calendar."""

    def test_a_quote_adds_up_and_two_people_do_not_overwrite_it(self) -> None:
        best = self.chosen()
        found = self.get(f"{self.path}/quote")
        self.assertIn(best["marking"], found["lines"][0]["text"])
        lines = [{"text": "X2 680 nF", "quantity": "2", "each": "1.45"}]
        found = self.put(f"{self.path}/quote", {"version": 0, "lines": lines, "minutes": 45})
        self.assertEqual(
            (found["amounts"], found["labour"], found["net"], found["tax"], found["gross"]),
            (["2.90"], "36.00", "38.90", "7.78", "46.68"),
        )
        self.put(f"{self.path}/quote", {"version": found["version"], "lines": [], "minutes": 0})
        self.put(f"{self.path}/quote", {"version": found["version"], "lines": lines, "minutes": 5}, 409)
        for line in (
            {"text": "", "quantity": 1, "each": 1},
            {"text": "x", "quantity": -1, "each": 1},
            {"text": "x", "quantity": 1, "each": "∞"},
        ):
            self.put(f"{self.path}/quote", {"version": 2, "lines": [line]}, 422)

    def test_parts_cost_what_the_drawer_says_now_and_an_unknown_price_is_named(self) -> None:
        part = Part.objects.get(id=self.chosen()["id"])
        marking = f"CD1: {part.marking}"
        for price in ("3.10", "2.95"):
            Part.objects.filter(id=part.id).update(price=Decimal(price))
            found = self.get(f"{self.path}/quote")
            self.assertEqual((found["lines"][0]["each"], found["unpriced"]), (price, []))
        Part.objects.filter(id=part.id).update(price=None)
        Choice.objects.update(parts=[Choice.objects.get().parts[0] | {"price": ""}])
        found = self.get(f"{self.path}/quote")
        self.assertEqual((float(found["lines"][0]["each"]), found["unpriced"]), (0.0, [marking]))
        self.assertIn("not quoted yet", report_html(self.actor_of("orne"), self.job(3).id))
        self.put(f"{self.path}/quote", {"version": 0, "lines": [], "minutes": "1h30"}, 422)
        self.assertEqual(self.put(f"{self.path}/quote", {"version": 0, "lines": [], "minutes": 0})["unpriced"], [])
        self.assertIn("0.00 GBP", report_html(self.actor_of("orne"), self.job(3).id))  # somebody wrote that down

    def test_each_currency_has_its_own_digits(self) -> None:
        lines = [{"text": "X2 680 nF", "quantity": "3", "each": "145.00"}]
        for number, (currency, gross) in enumerate((("JPY", "522"), ("KWD", "522.000"), ("EUR", "522.00"))):
            self.put("terms", self.get("terms") | {"currency": currency})
            path = f"jobs/{self.job(number + 1).id}/quote"
            found = self.put(path, {"version": 0, "lines": lines, "minutes": 0})
            self.assertEqual((found["gross"], found["lines"][0]["each"]), (gross, gross.replace("522", "145")))
        finer = [{"text": "x", "quantity": 1, "each": "1.455"}]
        answer = self.put(path, {"version": 1, "lines": finer}, 422)
        self.assertEqual(answer["errors"][0]["field"], "lines.0.each")
        self.put(f"jobs/{self.job(2).id}/quote", {"version": 1, "lines": finer})

    def test_what_the_customer_gets_back_is_called_so(self) -> None:
        lines = [{"text": "taken back", "quantity": 1, "each": "-30.00"}]
        self.assertTrue(self.put(f"{self.path}/quote", {"version": 0, "lines": lines, "minutes": 0})["credit"])
        said = report_html(self.actor_of("orne"), self.job(3).id)
        self.assertIn("Credit note", said)
        self.assertIn("36.00 GBP", said)
        self.assertFalse(self.put(f"{self.path}/quote", {"version": 1, "lines": [], "minutes": 30})["credit"])

    def test_a_quote_in_what_was_once_taken_for_a_currency_is_still_shown(self) -> None:
        self.put(f"{self.path}/quote", {"version": 0, "lines": [], "minutes": 30})
        Quote.objects.update(currency="XYZ")
        found = self.get(f"{self.path}/quote")
        self.assertEqual((found["gross"], found["currency"]), ("28.80", "XYZ"))
        answer = self.put(f"{self.path}/quote", {"version": 1, "lines": [], "minutes": 0}, 422)
        self.assertIn("ISO 4217", answer["detail"])

    def test_terms_are_the_leads(self) -> None:
        terms = self.get("terms")
        for currency in ("pounds", "XYZ", "XAU", ""):
            answer = self.put("terms", terms | {"currency": currency}, 422)
            self.assertEqual(answer["errors"][0]["field"], "currency")
        self.put("terms", terms | {"warranty_months": 6, "address": "1 Pier Walk"})
        self.assertEqual(self.get(f"{self.path}/quote")["warranty_months"], 6)
        self.sign_in("vell")
        self.put("terms", self.get("terms"), 403)

    def test_the_report_says_what_was_done_and_carries_the_head(self) -> None:
        self.ready()
        self.post(f"{self.path}/return", {})
        answer = self.client.get(f"/api/{self.path}/report.pdf")
        self.assertEqual((answer.status_code, answer["Content-Type"], answer.content[:5]), (200, "application/pdf", b"%PDF-"))
        said = report_html(self.actor_of("orne"), self.job(3).id)
        for words in ("Chlorine dosing controller", "402", "idle current", "Job 3, CD1", "held", "Warranty", "2πfCV"):
            self.assertIn(words, said)
        self.assertNotIn("safe ", said.lower())
        head = Chain.objects.get(subject_id=self.job(3).id).head
        self.assertIn(" ".join(head[k : k + 8] for k in range(0, 64, 8)), said)
        self.assertIn(head, dict(verify_all([head]))[self.job(3).id].printed)

    def test_hostile_words_are_printed_as_words(self) -> None:
        job = self.post(
            "jobs",
            {"title": "<script>alert(1)</script><img src=file:///etc/passwd>", "supply_voltage": "230", "supply_frequency": "50"},
        )
        said = report_html(self.actor_of("orne"), job["id"])
        self.assertNotIn("<script>", said)
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}/report.pdf").content[:5], b"%PDF-")

    def test_due_dates_are_a_calendar(self) -> None:
        self.ready()
        self.post(f"{self.path}/return", {})
        pump = self.get(f"jobs/{self.job(1).id}/sheet")["job"]
        self.put(f"jobs/{pump['id']}", pump | {"promised_by": "2027-02-03"})
        answer = self.client.get("/api/due.ics")
        promised = next(
            one for one in Calendar.from_ical(answer.content).walk("VEVENT") if "Promised: job 1," in str(one["summary"])
        )
        self.assertEqual((str(promised["summary"]), promised.decoded("dtstart")),
                         ("Promised: job 1, Wave-pool circulation pump", datetime.date(2027, 2, 3)))  # fmt: skip
        said = [str(event["summary"]) for event in Calendar.from_ical(answer.content).walk("VEVENT")]
        for words in ("Warranty ends: job 3", "Calibration due: Blue hand meter", "Needed: "):
            self.assertTrue(any(words in one for one in said), words)

    def test_months_end_where_the_month_does(self) -> None:
        for start, months, end in (
            ("2026-01-31", 1, "2026-02-28"),
            ("2027-12-15", 12, "2028-12-15"),
            ("2026-11-30", 3, "2027-02-28"),
        ):
            self.assertEqual(months_on(datetime.date.fromisoformat(start), months), datetime.date.fromisoformat(end))
