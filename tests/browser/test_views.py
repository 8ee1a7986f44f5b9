"""Every view: clean by axe in both themes and at phone width, and within the page's policy."""

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE

STAGES = {
    "intake": "Save intake",
    "discharge": "CX1 can hold",
    "found": "Nothing noted yet",
    "assess": "Replace CX1",
    "board": "what needs attention",
    "replace": "CX1 asks for",
    "fit": "Choose a part in Replace first",
    "power": "Next step",
    "handback": "still to settle",
    "record": "Chain whole",
}


class Views(BrowserTest):
    """What is seen, by everybody."""

    def views(self) -> dict[str, str]:
        jobs = "const done = arguments[0]; fetch('/api/bench').then((r) => r.json()).then(done)"
        dryer = next(s["job"]["id"] for s in self.browser.execute_async_script(jobs) if s["job"]["number"] == 2)
        return {
            "/": "Open jobs",
            **{f"/jobs/{dryer}/{stage}": words for stage, words in STAGES.items()},
            "/drawer": "3.3 nF",
            "/shopping": "Nothing cheaper exists",
            "/meters": "Blue hand meter",
            "/workshop": "T. Vell",
            "/policy": "34 V after 1 s",
            "/dropper": "hold every load at 207 V",
            "/supply": "surge, switched on at the peak",
            "/supply/switching": "keep it running at the lowest mains",
            "/supply/string": "is the most that stands across one",
            "/supply/forming": "in five steps",
            "/supply/walk": "Next: Fuse",
            "/seen-before": "What failed",
            "/may-replace": "The old part, as printed",
            "/nowhere": "There is nothing here",
        }

    def test_axe_is_clean(self) -> None:
        self.page.open()
        self.page.see("User name")
        self.assert_axe_clean("sign-in")
        page = self.sign_in()
        for dark, size in ((False, DESKTOP), (True, DESKTOP), (False, PHONE)):
            page.size(*size)
            page.dark(dark)
            for path, words in self.views().items():
                page.open(path)
                page.see(words)
                self.assert_axe_clean(f"{path} dark={dark} {size}")

    def test_dialogs_are_clean_and_close_by_escape(self) -> None:
        page = self.sign_in()
        for path, key, words in (
            ("/", "j", "New job"),
            ("/", "?", "Anywhere"),
            ("/meters", "n", "Calibration due"),
            ("/drawer", "n", "How many"),
        ):
            page.open(path)
            page.until(lambda: self.browser.execute_script("return document.querySelector('main') !== null"))
            page.see("M. Orne")
            page.press(key)
            page.see(words)
            self.assert_axe_clean(f"dialog {words}")
            page.press(Keys.ESCAPE)
            page.until(lambda: not self.browser.execute_script("return document.querySelector('[role=dialog]')"))

    def test_phone_targets_are_large_enough(self) -> None:
        page = self.sign_in()
        page.size(*PHONE)
        for path, words in self.views().items():
            page.open(path)
            page.see(words)
            small = self.browser.execute_script(
                "return [...document.querySelectorAll('button, input, select, nav a, main li > a')]"
                ".filter((e) => e.offsetParent && e.getBoundingClientRect().height < 40 && e.type !== 'checkbox')"
                ".filter((e) => !(e.tagName === 'INPUT' && e.parentElement.getBoundingClientRect().height >= 44))"
                ".map((e) => e.outerHTML.slice(0, 120))"
            )
            self.assertFalse(small, path)
            wide = self.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, PHONE[0], path)


class Errors(BrowserTest):
    """What goes wrong is said where it belongs."""

    def test_wrong_password_then_throttled(self) -> None:
        self.page.open()
        for _ in range(4):
            self.page.fill("User name", "orne")
            self.page.fill("Password", "wrong")
            self.page.press(Keys.ENTER)
            self.page.see("do not belong together")
        self.page.press(Keys.ENTER)
        self.page.see("Too many wrong passwords")

    def test_signed_out_elsewhere_keeps_what_was_typed(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("1")
        page.see("Save intake")
        page.fill("Serial or date", "0417-B")
        self.browser.delete_cookie("dusky_session")
        page.click("Save intake")
        page.see("what you typed is still there")
        page.press("orne", Keys.TAB, "grey-heron-at-the-weir", Keys.ENTER)
        page.until(lambda: "Sign in again" not in page.text())
        self.assertEqual(page.labelled("Serial or date").get_attribute("value"), "0417-B")
        page.click("Save intake")
        page.see("Kept.")

    def test_a_bad_reading_says_so_at_its_field(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("4")
        page.see("Lift one lead")
        page.press("r", "12.9", Keys.ENTER)
        page.see("Capacitance needs its unit: pF, nF or µF.")
        self.assertEqual(page.labelled("Reading").get_attribute("value"), "12.9")
