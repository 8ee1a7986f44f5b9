"""Each kind of line struck with a reason, and taken back at once, in the real page; verdict, list and report follow."""

import tempfile
from pathlib import Path
from uuid import UUID

from django.test import Client
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.handback.report import report_html
from dusky_heron.jobs.models import Job
from dusky_heron.record.queries import entries_of
from dusky_heron.record.verifying import verify
from dusky_heron.workshops.models import Member
from tests.api.base import JSON
from tests.api.test_asfound import picture
from tests.browser.base import BrowserTest

PUMP = "Wave-pool circulation pump"
DOSING = "Chlorine dosing controller"


class Correcting(BrowserTest):
    """A mis-tapped sign, a slip of the pen, the wrong terminals."""

    def open_job(self, title: str, username: str = "orne") -> None:
        page = self.sign_in(username)
        page.click(title)
        page.see("Hand back")
        self.job_id = UUID(self.browser.current_url.split("/jobs/")[1].split("/")[0])

    def keys(self, *keys: str) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.press(*keys)

    def strike(self, what: str, reason: str) -> None:
        """By the button that names the line, and a reason."""
        path = f"//button[starts-with(@aria-label, 'Strike {what}')]"

        def clicked() -> bool:
            button = self.browser.find_element(By.XPATH, path)
            self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
            button.click()
            return True

        self.page.until(clicked)
        self.page.see("Why", "is struck")
        self.page.press(reason, Keys.ENTER)
        self.page.until(lambda: not self.browser.find_elements(By.XPATH, f"//form[starts-with(@aria-label, 'Strike {what}')]"))

    def taken_back(self, sees: str) -> None:
        """By its key, while the page says that it may be."""
        self.page.see("Take it back", sees)
        self.keys("u")
        self.page.until(lambda: "Take it back" not in self.page.text())

    def kinds(self) -> list[str]:
        return [entry.kind for entry in entries_of(Member.objects.get(username="orne").actor, self.job_id)]

    def assert_whole(self, *struck: str) -> None:
        """Both lines of each are in the record, and its chain holds."""
        actor = Member.objects.get(username="orne").actor
        self.assertTrue(verify(actor, self.job_id).whole)
        entries = {entry.sequence: entry for entry in entries_of(actor, self.job_id)}
        gone = [entries[entry.body["entry"]].kind for entry in entries.values() if entry.kind == "struck"]
        self.assertEqual(gone, list(struck))
        self.assertIn("struck by entry", report_html(actor, self.job_id))

    def test_a_sign_and_a_reading(self) -> None:
        page = self.page
        self.open_job(PUMP)
        self.keys("4")
        page.see("Seen on it")
        page.click("burnt")
        page.see("Condemn C1")
        self.taken_back("burnt")
        page.until(lambda: "Condemn C1" not in page.text())
        page.click("resin crazed")
        page.see("resin crazed or cracked, M. Orne")
        self.strike("resin crazed or cracked", "it was the neighbour")
        page.until(lambda: "Take it back" not in page.text())
        page.fill("Meter", "Blue hand meter")
        for value, word in (("16u", "Keep C1"), ("11u", "Replace C1")):
            self.keys("r")
            page.press(value, Keys.ENTER)
            page.see(word)
        self.strike("capacitance 11u", "the other pump’s")
        page.see("Keep C1", "struck")
        self.assert_axe_clean("a struck reading")
        self.keys("b")
        page.see("Open jobs", "nothing to replace")
        self.assert_whole("sign seen", "sign seen", "reading")

    def test_notes_of_a_charge_a_proof_and_a_fall(self) -> None:
        page = self.page
        self.open_job(PUMP)
        self.keys("2")
        page.see("C1 can hold")
        self.keys("e")
        page.see("Press again: Empty with this")
        self.keys("e")
        page.see("C1 emptying since")
        self.keys("f")
        page.press("0, 625", Keys.ENTER)
        page.see("Logged last: 0 s, 625 V")
        self.strike("what was logged last", "a nought too many")
        page.until(lambda: "625 V" not in page.text())
        self.prove()
        page.see("C1 proved below 5 V at")
        self.strike("the note", "on the wrong terminals")
        page.see("C1 emptying since")
        self.prove()
        page.see("C1 proved below 5 V at")
        self.browser.execute_script("scrollTo(0, 0)")
        page.click("Energised")
        page.click("Press again: Energised")
        page.see("C1 energised since")
        self.taken_back("energised")
        page.see("C1 proof of", "lapsed")
        self.assert_whole("fall logged", "proved", "charge noted")

    def prove(self) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.prove(3)

    def test_lines_photos_and_points(self) -> None:
        page = self.page
        self.open_job(PUMP)
        self.keys("3")
        page.see("Nothing noted yet")
        self.keys("l")
        page.press("grey pump-run -> C1.2", Keys.ENTER)
        page.see("pump-run")
        self.taken_back("grey pump-run -> C1.2")
        page.see("struck")
        self.keys("l")
        page.press("blue inlet -> C1.1", Keys.ENTER)
        page.see("inlet")
        self.strike("blue inlet", "it is black")
        page.fill("Photo of", "Terminal box")
        file = Path(tempfile.mkdtemp(prefix="dusky-")) / "box.png"
        file.write_bytes(picture("PNG", (800, 600)))
        self.browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(file))
        page.see("Click where a terminal or a wire is")
        self.browser.execute_script("document.querySelector('svg[role=application]').focus()")
        page.press(Keys.ENTER)
        page.see("What is there")
        page.press("run winding", Keys.ENTER)
        page.see("run winding")
        self.strike("run winding", "the start winding")
        page.until(lambda: "run winding" not in page.text())
        self.strike("photo Terminal box", "blurred")
        page.see("Terminal box", "struck")
        self.assert_whole("found so", "found so", "point marked", "photo")

    def test_a_step_and_a_check(self) -> None:
        page = self.page
        self.open_job(PUMP)
        self.keys("7")
        page.see("Next step")
        for current in ("900 mA", "901 mA"):
            self.keys("r")
            page.press(Keys.TAB, current, Keys.ENTER)
            page.see(current.split()[0])
            if current == "900 mA":
                self.strike("the step at", "milli, not micro")
                page.until(lambda: "900" not in page.text())
        page.see("Take it back")
        self.keys("8")
        page.see("insulation")
        client = Client(headers={"host": "127.0.0.1"})
        client.force_login(Member.objects.get(username="orne"), "dusky_heron.workshops.signing_in.Members")
        meter = next(one["id"] for one in client.get("/api/meters").json() if "insulation" in one["measures"])
        body = {"check_id": "insulation", "value": ">60M", "meter_id": meter}
        client.post(f"/api/jobs/{self.job_id}/checks", body, **JSON)
        page.see("insulation passes")
        self.strike("insulation", "the lead was off")
        page.see("insulation missing")
        self.assert_whole("power-up step", "check")

    def test_a_choice_and_a_tick(self) -> None:
        page = self.page
        self.open_job(DOSING)
        self.keys("5")
        page.see("asks for")
        self.keys("t")
        page.see("Chosen")
        self.taken_back("CD1")
        self.keys("t")
        page.see("Chosen")
        page.click("Take it out of the drawer")
        page.see("Out of the drawer")
        self.keys("6")
        page.see("0 of")
        boxes = self.browser.find_elements(By.CSS_SELECTOR, "ol input[type=checkbox]")
        boxes[2].click()
        page.see("1 of")
        self.strike("tick of", "not yet")
        page.see("0 of")
        self.keys("5")
        page.see("Chosen")
        self.strike("this choice", "the other size")
        page.until(lambda: "Chosen" not in page.text())
        self.assert_whole("replacement chosen", "fitting", "replacement chosen")

    def test_an_apprentice_cannot_strike_a_leads_line(self) -> None:
        page = self.page
        self.open_job(PUMP)
        self.keys("4")
        page.see("Seen on it")
        page.click("burnt")
        page.see("Condemn C1")
        self.browser.delete_all_cookies()
        self.open_job(PUMP, "vell")
        self.keys("4")
        page.see("Condemn C1")
        self.browser.find_element(By.XPATH, "//button[starts-with(@aria-label, 'Strike burnt')]").click()
        page.press("soot", Keys.ENTER)
        page.see("Whoever wrote a line may strike it, or a lead.")
        self.keys("9")
        page.see("Chain whole")
        self.assertFalse(self.browser.find_elements(By.XPATH, "//button[contains(@aria-label, 'sign seen')]"))
        self.assertEqual(Job.objects.get(id=self.job_id).number, 1)
        self.assertNotIn("struck", self.kinds())
