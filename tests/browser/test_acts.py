"""Eight jobs from intake to the report, by keyboard alone: what they take besides their words does not grow again."""

import csv
import datetime

from dusky_heron.handback.models import Soak
from tests.browser.acts import HERE, Acts
from tests.browser.base import BrowserTest

AT_MOST = 0.6  # of the keys that the same acts took before letters stood beside what can be reached


class Jobs(BrowserTest):
    """Each job of acts/*.csv; figures.csv has the keys it took before, and takes."""

    def take(self, name: str) -> None:
        acts = Acts(self.sign_in(), self.later)
        acts.job(name)
        with (HERE / "figures.csv").open(encoding="utf-8") as file:
            keys = {row["job"]: (int(row["before"]), int(row["most"])) for row in csv.DictReader(file)}
        before, most = keys[name]
        self.assertLessEqual(most, AT_MOST * before)
        self.assertLessEqual(acts.keys, most, acts.said)

    def later(self) -> None:
        """The soak is over."""
        soak = Soak.objects.latest("at")
        Soak.objects.filter(pk=soak.pk).update(at=soak.at - datetime.timedelta(minutes=31))
        self.browser.refresh()

    def test_a_pump_motor(self) -> None:
        self.take("pump")

    def test_a_mains_filter(self) -> None:
        self.take("dryer")

    def test_a_capacitive_dropper(self) -> None:
        self.take("dosing")

    def test_a_flash_bank_that_stays(self) -> None:
        self.take("flash")

    def test_a_magnetron_supply(self) -> None:
        self.take("oven")

    def test_a_series_string_that_stays(self) -> None:
        self.take("drive")

    def test_a_two_section_can(self) -> None:
        self.take("organ")

    def test_a_switching_supply(self) -> None:
        self.take("lamps")
