"""The first power of the organ supply in the real page, by keyboard: stepped, told apart, and stopped."""

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest


class Powering(BrowserTest):
    """Job 7, a valve set: nothing until its heaters are up, then a short."""

    def step(self, rail: str, current: str, sees: str) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.press("r")
        self.page.press(rail, Keys.TAB, current, Keys.ENTER)
        self.page.see(sees)

    def test_stepped_logged_and_stopped_at_a_short(self) -> None:
        page = self.sign_in()
        page.click("Organ relay supply")
        page.see("C1 asks for")
        page.press("7")
        page.see("Next step", "Rail and current rise in proportion.")
        page.fill("Kind of supply", "transformer and valve")
        page.fill("It takes, at standby", "20 W")
        page.fill("Steps, %", "50 75 100")
        page.press(Keys.ENTER)
        page.see("no rail until they are up", "Shorted: full", "50 %")
        page.focus_by_tab("The plan")
        page.press(Keys.ENTER)
        page.fill("Steps, %", "75 50")
        page.press(Keys.ENTER)
        page.see("Each step higher than the one before it.")
        page.fill("Steps, %", "50 75 100")
        page.press(Keys.ENTER)
        page.until(lambda: "Each step higher" not in page.text())
        self.step("0", "17 mA", "At 50 % as expected: the next step.")
        page.see("C1 energised since")
        self.assert_axe_clean("power up")
        page.fill("Seen, smelt, heard", "crackling at the socket")
        page.click("I switched it off")
        page.see("Stopped: crackling at the socket.")
        page.press("9")
        page.see("power-up step", "crackling at the socket", "Chain whole")
