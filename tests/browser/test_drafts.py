"""What is half typed survives Escape, another stage or position, a reload and another tab; Back and a shared address keep place."""

from selenium.webdriver.common.keys import Keys

from dusky_heron.jobs.models import Job
from tests.browser.base import BrowserTest
from tests.browser.page import PHONE
from tests.databases import PASSWORD


class Drafts(BrowserTest):
    """As hands do it: begun, left, come back to."""

    def held(self, label: str) -> str:
        return self.page.labelled(label).get_attribute("value") or ""

    def see_held(self, label: str, text: str) -> None:
        self.page.until(lambda: self.held(label) == text)

    def away(self) -> None:
        """Out of any field, so that single keys act."""
        self.browser.execute_script("document.activeElement.blur()")

    def test_a_reading_survives_stage_position_and_reload_and_says_so(self) -> None:
        page = self.sign_in()
        page.click("Changing-room hand dryer")
        page.see("Positions")
        page.press("4")
        page.see("Replace CX1")
        page.press("r", "73")
        page.see("half typed")
        self.away()
        page.press("5")
        page.see("CX1 asks for")
        page.press("4")
        self.see_held("Reading", "73")
        self.away()
        page.press(".")
        page.see("CY1")
        page.until(lambda: self.held("Reading") == "")
        page.press(",")
        self.see_held("Reading", "73")
        self.browser.refresh()
        self.see_held("Reading", "73")
        self.away()
        page.press("b")
        row = "//li[contains(., 'hand dryer')]"
        page.until(lambda: "half typed" in self.browser.find_element("xpath", row).text)
        page.click("Changing-room hand dryer")
        page.see("Positions")
        page.press("4")
        self.see_held("Reading", "73")
        page.press("r", "5n", Keys.ENTER)
        page.until(lambda: "half typed" not in page.text())

    def test_a_dialog_survives_escape_and_is_thrown_away_only_on_purpose(self) -> None:
        page = self.sign_in()
        page.press("j")
        page.see("What it is")
        page.press("Boiler board", Keys.TAB, "Hums")
        page.press(Keys.ESCAPE)
        page.until(lambda: not self.browser.find_elements("css selector", "[role=dialog]"))
        self.browser.refresh()
        page.see("Open jobs")
        page.press("j")
        page.see("Half typed")
        self.assertEqual((self.held("What it is"), self.held("Symptom")), ("Boiler board", "Hums"))
        page.click("Start anew")
        self.see_held("What it is", "")
        page.click("Close")
        page.press("j")
        page.see("What it is")
        self.assertNotIn("Half typed", page.text())

    def test_what_was_saved_is_half_typed_no_more(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("Positions")
        page.press("1")
        page.see("Save intake")
        page.fill("Serial or date", "0418")
        page.click("Save intake")
        page.see("Kept.")
        self.away()
        page.press("b")
        page.see("Find a job")
        self.assertNotIn("half typed", page.text())
        page.click("Wave-pool circulation pump")
        page.see("Positions")
        page.press("1")
        self.see_held("Serial or date", "0418")
        self.assertNotIn("Half typed", page.text())

    def test_an_address_with_what_nobody_offers_is_as_usual(self) -> None:
        page = self.sign_in()
        page.open("/?by=zzz&find=pump&find=<b>")
        page.see("Open jobs, may hold what hurts 8")
        page.open("/seen-before?by=zzz&words=pump")
        page.see("What failed", "Wave-pool circulation pump")
        page.until(lambda: not self.browser.find_elements("css selector", "[aria-busy=true]"))
        page.open("/dropper?topology=zzz&capacitance=-5")
        page.see("Dropper bench")

    def test_what_is_typed_is_its_members_alone(self) -> None:
        page = self.sign_in()
        page.press("j", "Boiler board")
        page.press(Keys.ESCAPE)
        self.browser.delete_all_cookies()
        page.sign_in("vell", PASSWORD)
        page.press("j")
        page.see("What it is")
        self.assertEqual(self.held("What it is"), "")

    def test_what_was_read_for_a_proof_is_gone_with_the_next_word_about_its_charge(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")

        def first() -> str:
            return (
                self.browser.find_element("css selector", "[aria-label='Known source first, V, DC']").get_attribute("value") or ""
            )

        page.press("p", "230")
        page.until(lambda: first() == "230")
        self.browser.refresh()
        page.see("Half typed at")
        page.until(lambda: first() == "230")
        self.away()
        page.press("e", "e")
        page.see("C1 emptying")
        page.until(lambda: first() == "")
        self.browser.refresh()
        page.see("C1 emptying", "Known source first")
        page.until(lambda: first() == "")

    def test_back_and_a_shared_address_find_the_same_jobs(self) -> None:
        page = self.sign_in()
        page.fill("Find a job", "lido pump")
        page.see("2 of 8")
        page.fill("Order", "newest first")
        page.until(lambda: "by=newest" in self.browser.current_url)
        shared = self.browser.current_url
        page.click("Flume pump drive")
        page.see("C6 can hold")
        self.browser.back()
        page.see("2 of 8")
        self.assertEqual(self.browser.current_url, shared)
        self.browser.get("about:blank")
        self.browser.get(shared)
        page.see("2 of 8", "Flume pump drive", "Wave-pool circulation pump")
        self.assertNotIn("hand dryer", page.text())

    def test_a_benchs_values_stand_in_its_address(self) -> None:
        page = self.sign_in()
        page.open("/dropper")
        page.see("hold every load at 207 V")
        page.fill("Capacitance", "330 nF")
        page.until(lambda: "capacitance=330" in self.browser.current_url)
        self.browser.refresh()
        self.see_held("Capacitance", "330 nF")
        page.open("/supply/string")
        page.see("is the most that stands across one")
        self.assertNotIn("capacitance=330", self.browser.current_url)

    def test_a_job_keeps_stage_and_position_in_its_address(self) -> None:
        page = self.sign_in()
        dryer = Job.objects.get(number=2)
        page.open(f"/jobs/{dryer.id}/assess")
        page.see("Replace CX1")
        page.press(".")
        page.see("Keep CY1")
        self.browser.refresh()
        page.see("Keep CY1")
        page.press("3")
        page.see("Nothing noted yet")
        self.browser.back()
        page.see("Keep CY1")
        self.assertIn("hand dryer", self.browser.title)


class LongLines(BrowserTest):
    """A title of sixty letters on a phone."""

    def test_a_long_line_is_shown_whole_and_enter_sends_it(self) -> None:
        page = self.sign_in()
        page.size(*PHONE)
        page.press("j")
        page.see("What it is")
        page.fill("What it is", "Upper-circle emergency lighting changeover controller, spare")
        field = page.labelled("What it is")
        heights = "const [e] = arguments; return [e.scrollHeight - e.clientHeight, e.scrollWidth - e.clientWidth, e.clientHeight]"
        over, beside, high = self.browser.execute_script(heights, field)
        self.assertLessEqual(max(over, beside), 2)
        self.assertGreater(high, 50)  # of more than one line, which is 42
        field.send_keys(Keys.ENTER)
        page.see("Name the first position")
        self.assertEqual(Job.objects.latest("number").title, "Upper-circle emergency lighting changeover controller, spare")
