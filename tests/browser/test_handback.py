"""From the part in the hand to the report, in the real page: fitted, powered up, checked, soaked, signed, handed back."""

import datetime

from django.test import Client
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.handback.models import Soak
from dusky_heron.jobs.models import Job, Position
from dusky_heron.workshops.models import Member
from tests.api.base import JSON
from tests.browser.base import BrowserTest

FETCH = """
    const [path, done] = arguments
    fetch(path).then(async (r) => done([r.status, r.headers.get('Content-Type'), (await r.text()).slice(0, 5)]))
"""


class HandBackTest(BrowserTest):
    """What the stages from Replace to Hand back have in common."""

    def open_job(self, title: str) -> None:
        page = self.sign_in()
        page.click(title)
        page.see("Hand back")

    def keys(self, *keys: str) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.press(*keys)

    def choose_and_fit(self, sees: str) -> None:
        """The first part of the drawer, taken out and fitted line by line with one key."""
        page = self.page
        self.keys("5")
        page.see("asks for", sees)
        for box in self.browser.find_elements(
            "css selector", "fieldset input[type=checkbox]"
        ):  # what a data sheet tells is signed for
            box.click()
        self.keys("t")
        page.see("Chosen")
        self.keys("6")
        page.see("Take the part out of the drawer first")
        page.click("Take it out of the drawer")
        page.until(lambda: "out of the drawer first" not in page.text())
        self.emptied()
        count = len(self.browser.find_elements(By.CSS_SELECTOR, "ol input[type=checkbox]"))
        for done in range(1, count + 1):
            self.keys("t")
            page.see(f"{done} of {count}")
        page.see("Fitted: every line is ticked.")

    def emptied(self) -> None:
        """Every place of the job kept shorted, noted by somebody else meanwhile; the page hears of it."""
        job = self.browser.current_url.split("/jobs/")[1].split("/")[0]
        actor = Member.objects.get(username="vell").actor
        for place in Position.objects.filter(job_id=job):
            note_charge(actor, place.id, ChargeIn(state=ChargeState.KEPT_SHORTED))
        self.page.see("kept shorted")

    def later(self) -> None:
        """Half an hour later."""
        Soak.objects.update(at=Soak.objects.get().at - datetime.timedelta(minutes=31))

    def chosen(self) -> bool:
        self.page.fill("Meter", "Blue hand meter")
        return True

    def yes(self, title: str) -> None:
        """Yes to the check that is asked for, once it is."""
        self.asked(title)
        self.page.click("Yes")

    def asked(self, title: str) -> None:
        """Wait until a check is the one that is asked for: before, a key would go to the one before it."""
        self.page.until(lambda: self.browser.find_element(By.CSS_SELECTOR, f'form[aria-label^="{title}"]'))

    def judge(self, value: str, sees: str) -> None:
        self.page.see("Judge it")
        self.page.until(self.chosen)  # the next check may just be coming
        self.keys("r")
        self.page.press(value, Keys.ENTER)
        self.page.see(sees)


class OrganSupply(HandBackTest):
    """Job 7 from fitting through the stepped power-up to the report."""

    def test_from_fitting_to_the_report(self) -> None:
        self.open_job("Organ relay supply")
        page = self.page
        self.choose_and_fit("32+32 µF 500 VDC")
        page.see("Wire back: red rectifier -> C1.a.", "Polarity: plus to plus", "MO")
        self.assert_axe_clean("fit")
        self.keys(".")
        self.choose_and_fit("Y2")
        self.keys("7")
        page.see("Next step")
        page.fill("Kind of supply", "transformer and valve")
        page.fill("Rail at full voltage", "300 V")
        page.fill("Current at full voltage", "100 mA")
        page.fill("Steps, %", "50 100")
        page.press(Keys.ENTER)
        page.see("no rail until they are up")
        for rail, current, sees in (("0", "40 mA", "At 50 % as expected"), ("296", "98 mA", "At 100 % as expected")):
            self.keys("r")
            page.press(rail, Keys.TAB, current, Keys.ENTER)
            if rail == "0":
                page.click("Every link is off")
            page.see(sees)
        self.keys("8")
        page.see("still to settle", "insulation", "at least 2 MΩ")
        page.click("Hand it back")
        page.see("It stays here", "insulation is missing")
        for title, value in (("insulation", ">40M"), ("touch current", "120 uA"), ("rail", "298")):
            self.asked(title)
            self.judge(value, "passes")
        self.yes("the complaint itself")
        page.click("Begin the soak")
        page.see("to go")
        self.later()
        page.open(self.browser.current_url.removeprefix(self.live_server_url))
        page.see("over")
        page.click("It held")
        page.see("Every check passed or is signed.")
        self.assert_axe_clean("hand back")
        page.click("Hand it back")
        page.see("Handed back", "Warranty until")
        page.click("Report, PDF")
        page.see("waiting for the worker")
        self.work()
        page.see("It is ready")
        report = self.browser.find_element(By.PARTIAL_LINK_TEXT, "report.pdf").get_attribute("href")
        self.assertEqual(self.browser.execute_async_script(FETCH, report), [200, "application/pdf", "%PDF-"])
        self.keys("9")
        page.see("handed back", "Chain whole")
        page.fill("What", "check")
        page.see("of", "entries")
        self.assertNotIn("power-up step", page.text().split("entries")[-1])
        page.open("/seen-before")
        page.see("Handed back", "No 7 Organ relay supply")


class DosingController(HandBackTest):
    """Job 3 with its soak, which outlives the page; a return that is refused; a deviation that a lead signs."""

    def test_a_soak_and_a_signed_deviation(self) -> None:
        self.open_job("Chlorine dosing controller")
        page = self.page
        self.keys("4")
        page.see("Judge it")
        self.judge("402n", "402 nF")
        self.choose_and_fit("680 nF")
        self.step_up()
        self.keys("8")
        page.see("insulation", "idle current", "first power, to its last step")
        page.click("Begin the soak")
        page.see("to go")
        page.click("It held")
        page.see("minutes to go: let it run")
        self.browser.get("about:blank")
        self.later()
        page.open(f"/jobs/{self.job_id()}/handback")
        page.see("over")
        page.fill("Seen, smelt, measured", "zener at 61 °C")
        page.click("It held")
        page.see("Held: 30 minutes.", "zener at 61 °C")
        self.judge("1.2 MΩ", "fails")
        page.click("Hand it back")
        page.see("It stays here", "insulation fails")
        page.click("Sign a deviation")
        page.fill("Why it may go back so", "surge parts bridge it; 250 V reads 40 MΩ")
        page.click("Sign it")
        page.see("signed", "surge parts bridge it")
        self.keys("r")
        page.press("48 mA", Keys.ENTER)
        page.see("at which mains?")
        page.fill("Against the mains it was read at", "230 V")
        self.judge("48 mA", "passes")
        self.yes("holds for a minute at the lowest mains")
        self.yes("the complaint itself")
        page.see("Every check passed or is signed.")
        page.click("Hand it back")
        page.see("Handed back")

    def step_up(self) -> None:
        """The first power of the controller, every step as its circuit says, by somebody else meanwhile."""
        client = Client(headers={"host": "127.0.0.1"})
        client.force_login(Member.objects.get(username="vell"), "dusky_heron.workshops.signing_in.Members")
        path = f"/api/jobs/{Job.objects.get(number=3).id}/powerup"
        for step in client.get(path).json()["steps"]:
            read = {"percent": step["percent"], "rail": f"{step['rail']['value']} V", "current": f"{step['current']['value']} A"}
            self.assertEqual(client.post(f"{path}/steps", read | {"links_off": True}, **JSON).status_code, 200)

    def job_id(self) -> str:
        return str(Soak.objects.get().job_id)


class SeenBefore(HandBackTest):
    """The next job on a model begins where the last one ended, and two people on one job see each other."""

    def test_the_same_model_and_an_entry_of_somebody_else(self) -> None:
        page = self.sign_in()
        page.press("j")
        page.see("New job")
        page.fill("What it is", "Organ supply, second")
        page.fill("Maker", "HARKWELL")
        page.fill("Model", "rs 2")
        page.press(Keys.ENTER)
        page.see("Same model seen before", "No 7", "Loud hum on the relays", "C1")
        self.assert_axe_clean("seen before")
        job = self.browser.current_url.split("/jobs/")[1].split("/")[0]
        other = Client(headers={"host": "127.0.0.1"})
        other.force_login(Member.objects.get(username="vell"), "dusky_heron.workshops.signing_in.Members")
        body = {"name": "C77", "role": "x", "marking": "1 µF X2 310~"}
        self.assertEqual(other.post(f"/api/jobs/{job}/positions", body, **JSON).status_code, 200)
        page.see("C77")
