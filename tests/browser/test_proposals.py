"""An apprentice proposes on one screen, the lead signs or returns on another; a calendar is read from its address."""

from typing import ClassVar

from django.test import Client
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.model import Condition
from dusky_heron.jobs.models import Position
from dusky_heron.replacement.models import Choice
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE, Page, start_browser
from tests.databases import PASSWORD


class Proposals(BrowserTest):
    """T. Vell at a phone, M. Orne at the bench."""

    phone: ClassVar[webdriver.Chrome]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.phone = start_browser()
        cls.addClassCleanup(cls.phone.quit)

    def setUp(self) -> None:
        super().setUp()
        lead = Member.objects.get(username="orne")
        self.pump = Position.objects.get(job__number=1)
        meter = lead.workshop.meters.get(name="Blue hand meter").id
        enter_reading(lead.actor, self.pump.id, ReadingIn(value="12.9u", meter_id=meter, condition=Condition.LIFTED))
        self.other = Page(self.phone, self.live_server_url)
        self.other.size(*PHONE)
        self.other.sign_in("vell", PASSWORD)

    def test_a_part_is_proposed_returned_proposed_again_and_signed(self) -> None:
        self.other.open(f"/jobs/{self.pump.job_id}/replace")
        self.other.see("Take 16 µF from A1 proposes it: a technician signs")
        self.other.press("t")
        self.other.see("You proposed it · waits for a technician")
        self.assertFalse(Choice.objects.filter(position=self.pump).exists())
        page = self.sign_in()
        page.see("T. Vell proposes", "waits for a signature: C1: 16 µF")
        self.assert_axe_clean("the Bench with a proposal")
        page.click("Return it")
        page.see("What it lacks")
        page.press("its terminals are loose", Keys.ENTER)
        page.until(lambda: "T. Vell proposes" not in page.text())
        self.other.open()
        self.other.see("M. Orne returned it: its terminals are loose")
        self.other.click("Look")
        self.other.see("M. Orne returned it", "Take 16 µF from A1")
        self.other.press("t")
        self.other.see("waits for a technician")
        page.open(f"/jobs/{self.pump.job_id}/replace")
        page.see("T. Vell proposes")
        self.assert_axe_clean("a job with a proposal")
        page.focus_by_tab("Sign it")
        page.press(Keys.ENTER)
        page.until(lambda: "T. Vell proposes" not in page.text())
        page.see("M. Orne")
        self.assertEqual(Choice.standing(position=self.pump).get().by_name, "M. Orne")

    def test_what_lacks_a_deviation_is_proposed_with_its_reason_and_taken_back(self) -> None:
        self.other.size(*DESKTOP)
        self.other.open(f"/jobs/{self.pump.job_id}/handback")
        self.other.click("Propose a deviation")
        self.other.fill("Why it may go back so", "its maker replaces it")
        self.other.press(Keys.ENTER)
        self.other.see("sign a deviation", "You proposed it: its maker replaces it", "waits for a lead")
        self.other.click("strike")
        self.other.fill("Why the proposal is struck", "asked too early")
        self.other.press(Keys.ENTER)
        self.other.until(lambda: "You proposed it" not in self.other.text())


class TheCalendar(BrowserTest):
    """Among what the workshop works with."""

    def shown(self) -> str:
        return self.browser.find_element(By.CSS_SELECTOR, "section[aria-labelledby=calendar-title] code").text

    def test_its_address_is_made_renewed_and_taken_away(self) -> None:
        page = self.sign_in()
        page.open("/workshop")
        page.click("Make an address for a calendar program")
        page.see("Another address; this one ends")
        first = self.shown()
        self.assertTrue(first.startswith(f"{self.live_server_url}/calendar/"))
        self.assertEqual(self.status(first), 200)
        page.click("Another address; this one ends")
        page.until(lambda: self.shown() != first)
        self.assertEqual((self.status(first), self.status(self.shown())), (404, 200))
        self.assert_axe_clean("the calendar's address")
        page.click("Take it away")
        page.see("Make an address for a calendar program")

    def status(self, address: str) -> int:
        return Client(headers={"host": "127.0.0.1"}).get(address.removeprefix(self.live_server_url)).status_code
