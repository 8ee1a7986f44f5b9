"""What a member may not do says so before it is tried, and single keys do not do it either."""

from selenium.webdriver.common.keys import Keys

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.model import Condition
from dusky_heron.jobs.models import Position
from dusky_heron.replacement.models import Choice
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest


class Apprentice(BrowserTest):
    """T. Vell works, and chooses, hands back and keeps the drawer with a technician or the lead."""

    def test_buttons_say_whom_they_ask_for(self) -> None:
        lead = Member.objects.get(username="orne")
        pump = Position.objects.get(job__number=1)
        meter = lead.workshop.meters.get(name="Blue hand meter").id
        enter_reading(lead.actor, pump.id, ReadingIn(value="12.9u", meter_id=meter, condition=Condition.LIFTED))
        page = self.sign_in("vell")
        page.open(f"/jobs/{pump.job_id}/replace")
        page.see("Take 16 µF from A1 proposes it: a technician signs")
        page.open(f"/jobs/{pump.job_id}/handback")
        page.see("Hand it back proposes it: a technician signs")
        parts = Part.objects.count()
        for where, says in (("/drawer", "Add a part asks for a technician"), ("/meters", "Add a meter asks for a technician")):
            page.open(where)
            page.see(says)
            page.press("n")
            self.assertEqual(self.browser.find_elements("css selector", "[role=dialog]"), [])
        self.assertEqual((Choice.objects.filter(position=pump).count(), Part.objects.count()), (0, parts))
        page.click("Blue hand meter")
        page.see("Save asks for a technician")
        self.assert_axe_clean("a meter of an apprentice")
        page.open("/workshop")
        page.see("It asks for a technician.")
        self.assertFalse(self.browser.find_element("css selector", "input[type=file]").is_enabled())

    def test_a_lead_is_asked_for_nothing(self) -> None:
        page = self.sign_in()
        page.press("d")
        self.assertNotIn("asks for", page.see("Add a part", "3.3 nF"))

    def test_a_word_left_for_whoever_goes_on(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.click("Leave a word")
        self.browser.switch_to.active_element.send_keys("glue sets until four")
        self.browser.refresh()  # half typed, it is there again
        page.until(lambda: page.labelled("For whoever goes on").get_attribute("value") == "glue sets until four")
        page.labelled("For whoever goes on").send_keys(Keys.ENTER)
        page.see("glue sets until four", "M. Orne")
        self.browser.delete_all_cookies()
        page = self.sign_in("vell")
        page.see("M. Orne: “glue sets until four”")
        page.fill("Order", "mine first")
        page.see("M. Orne worked on it last")
        page.click("Wave-pool circulation pump")
        page.see("glue sets until four")
        self.assert_axe_clean("a word left")
