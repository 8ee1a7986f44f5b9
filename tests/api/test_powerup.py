"""The first power: planned, logged step by step, stopped in time; and everything counts as energised from then on."""

from typing import Any

from dusky_heron.bringup.models import PowerStep
from dusky_heron.bringup.queries import powered
from tests.api.base import ApiTest

SUPPLY = {"kind": "linear", "rail": "300 V", "current": "100 mA", "standby": "20 W"}


class PowerUp(ApiTest):
    """The organ supply of job 7, a valve set; the dosing controller of job 3, whose circuit is known."""

    def setUp(self) -> None:
        super().setUp()
        self.path = f"jobs/{self.job(7).id}/powerup"

    def plan(self, **changed: Any) -> Any:
        return self.put(self.path, SUPPLY | changed)

    def step(self, percent: float, rail: str, current: str, status: int = 200, **more: Any) -> Any:
        return self.post(f"{self.path}/steps", {"percent": percent, "rail": rail, "current": current, **more}, status)

    def test_the_kind_follows_from_the_places_until_somebody_says(self) -> None:
        for number, kind in ((7, "linear"), (3, "dropper"), (8, "smps"), (1, "motor")):
            self.assertEqual(self.get(f"jobs/{self.job(number).id}/powerup")["plan"]["kind"], kind)

    def test_steps_lamp_and_conditions(self) -> None:
        found = self.plan()
        self.assertEqual([step["percent"] for step in found["steps"]], [10, 25, 50, 75, 90, 100])
        self.assertEqual(found["next"]["rail"]["value"], 30)
        self.assertIn("Shorted: full", found["lamp"]["shorted"])
        self.assertIn("guard", found["case"])
        self.assertIn("Closed from the first", self.plan(version=1, closed=True)["case"])
        self.assertEqual(self.plan(version=2, kind="valve")["next"]["rail"]["value"], 0)
        self.put(self.path, SUPPLY | {"version": 1}, 409)

    def test_a_dropper_is_expected_as_its_circuit_says(self) -> None:
        """Clamped at 24 V from half the mains on; far below a tenth of it."""
        steps = self.get(f"jobs/{self.job(3).id}/powerup")["steps"]
        rails = [step["rail"]["value"] for step in steps]
        self.assertEqual(rails, sorted(rails))
        self.assertLess(rails[0], 24 * 0.9)
        self.assertAlmostEqual(rails[-1], 24, delta=1.5)

    def test_healthy_steps_lead_on_and_everything_is_energised(self) -> None:
        self.plan()
        for percent, rail, current in ((10, "30", "10 mA"), (25, "74", "24 mA"), (50, "149", "48 mA")):
            found = self.step(percent, rail, current)
            self.assertFalse(found["stop"], found["trend"])
        self.assertEqual(found["next"]["percent"], 75)
        line = self.get(f"jobs/{self.job(7).id}/sheet")["charge_line"]
        self.assertEqual({item["state"] for item in line}, {"energised"})
        kinds = [entry["kind"] for entry in self.get(f"jobs/{self.job(7).id}/record")]
        self.assertEqual(kinds.count("power-up step"), 3)

    def test_a_short_stops_it_and_no_higher_step_is_taken(self) -> None:
        self.plan()
        found = self.step(10, "1.5", "90 mA")
        self.assertTrue(found["stop"])
        self.assertIn("a short", found["trend"])
        self.assertIsNone(found["next"])
        self.assertEqual(self.step(25, "5", "90 mA", 422)["errors"][0]["field"], "percent")
        self.assertFalse(self.step(10, "30", "10 mA")["stop"])

    def test_after_a_stop_it_begins_again_and_the_stopped_run_is_forgotten(self) -> None:
        """A short at half way, mended: the next step is the second, and the old current bends no trend."""
        self.plan()
        for percent, rail, current in ((10, "30", "10 mA"), (25, "74", "24 mA")):
            self.step(percent, rail, current)
        self.assertTrue(self.step(50, "20", "400 mA")["stop"])
        for percent in (75, 50, 25):
            self.assertEqual(self.step(percent, "149", "48 mA", 422)["errors"][0]["field"], "percent")
        found = self.step(10, "30", "9 mA")
        self.assertEqual((found["stop"], found["next"]["percent"], len(found["log"])), (False, 25, 4))
        self.assertFalse(self.step(25, "74", "24 mA")["stop"])
        self.assertTrue(self.step(50, "140", "74 mA")["stop"])  # as voltage to the power 1.3: a leak

    def test_the_rectifier_of_a_valve_set_comes_first_with_a_load_across(self) -> None:
        """Two runs: what was read of the rectifier alone does not count for the whole set, and the job is not up after it."""
        found = self.plan(kind="valve_first", steps="50 100")
        self.assertIn("load across the rail", found["says"])
        self.assertEqual(found["next"]["rail"]["value"], 0)  # its heater is not up at half the supply
        self.step(50, "0", "40 mA")
        found = self.step(100, "300", "100 mA")
        self.assertIn("Then the whole set", found["trend"])
        self.assertNotIn(self.job(7).id, powered([self.job(7).id]))
        found = self.plan(version=1, kind="valve", steps="50 100")
        self.assertEqual((found["next"]["percent"], len(found["log"])), (50, 2))
        for percent, rail, current in ((50, "0", "40 mA"), (100, "298", "101 mA")):
            self.assertFalse(self.step(percent, rail, current)["stop"])
        self.assertIn(self.job(7).id, powered([self.job(7).id]))

    def test_what_was_not_as_expected_goes_on_only_with_a_word_of_why(self) -> None:
        """60 mA for 50 at half the supply: read again with a reason; a rail a half too high never goes on."""
        self.plan()
        for percent, rail, current in ((10, "30", "10 mA"), (25, "74", "24 mA")):
            self.step(percent, rail, current)
        found = self.step(50, "149", "60 mA")
        self.assertEqual((found["stop"], found["asks_why"], found["next"]["percent"]), (True, True, 50))
        self.assertEqual(self.step(75, "224", "74 mA", 422)["errors"][0]["field"], "percent")
        self.assertEqual(self.step(50, "149", "60 mA", 422)["errors"][0]["field"], "note")
        found = self.step(50, "149", "60 mA", note="the pilot lamp was left out of the plan")
        self.assertEqual((found["stop"], found["asks_why"], found["next"]["percent"]), (False, False, 75))
        found = self.step(75, "340", "76 mA", note="looks fine to me")
        self.assertEqual((found["stop"], found["asks_why"], found["next"]), (True, False, None))
        self.assertEqual(self.step(75, "340", "76 mA", 422, note="still fine")["errors"][0]["field"], "percent")
        self.assertEqual(found["trend"].count("too high"), 1)

    def test_a_motor_gets_no_lamp_and_three_seconds(self) -> None:
        found = self.put(f"jobs/{self.job(1).id}/powerup", {"kind": "motor", "rail": "", "current": "4 A", "standby": "100 W"})
        self.assertEqual((found["lamp"], found["next"]["dwell"]["value"]), (None, 3))
        self.assertIn("does harm", found["no_lamp"])
        self.assertIn("within 3 s", found["says"])

    def test_smoke_stops_it_whatever_the_meters_say(self) -> None:
        self.plan()
        found = self.step(10, "30", "10 mA", stopped=True, note="smell from the choke")
        self.assertTrue(found["stop"])
        self.assertIn("smell from the choke", found["trend"])

    def test_bad_input_is_named_at_its_field_and_nothing_is_written(self) -> None:
        for field, changed in (
            ("kind", {"kind": "steam"}), ("rail", {"rail": "-4"}), ("rail", {"rail": "3 A"}), ("current", {"current": "0"}),
            ("standby", {"standby": "many"}), ("steps", {"steps": "a b"}), ("steps", {"steps": "50 25"}),
            ("steps", {"steps": "999"}), ("steps", {"kind": "smps", "steps": "25 100"}),
        ):  # fmt: skip
            self.assertEqual(self.put(self.path, SUPPLY | changed, 422)["errors"][0]["field"], field, changed)
        self.plan()
        for field, body in (
            ("percent", {"percent": 0}), ("percent", {"percent": 1e9}), ("rail", {"percent": 10}),
            ("rail", {"percent": 10, "rail": "x"}), ("current", {"percent": 10, "current": "1e9 A"}),
            ("later", {"percent": 10, "rail": "1", "later": "∞"}),
        ):  # fmt: skip
            self.assertEqual(self.post(f"{self.path}/steps", body, 422)["errors"][0]["field"], field, body)
        self.assertEqual(PowerStep.objects.count(), 0)
