"""Letters go to what they were put beside, as long as that is what it was; and to nothing else."""

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from dusky_heron.discharge.models import ChargeNote
from tests.browser.base import BrowserTest

SHOWN = "return document.querySelectorAll('[data-letters]').length"
OF = "return [...document.querySelectorAll('[data-letters]')].find((one) => one.innerText.includes(arguments[0])).dataset.letters"
HELD = """
    const held = new KeyboardEvent('keydown', { key: arguments[0], repeat: true, bubbles: true, cancelable: true })
    document.body.dispatchEvent(held)
"""
ANOTHER = "[...document.querySelectorAll('button')].find((one) => one.innerText.includes('Kept shorted')).innerText = 'Energised'"


class Letters(BrowserTest):
    """On the Discharge sheet of the pump, with nothing noted."""

    def setUp(self) -> None:
        super().setUp()
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")

    def put(self, beside: str) -> str:
        self.page.press("g")
        return str(self.browser.execute_script(OF, beside))

    def shown(self) -> int:
        return int(self.browser.execute_script(SHOWN))

    def test_they_press_what_they_stand_beside(self) -> None:
        self.page.press(*self.put("Kept shorted"))
        self.page.see("Where the link is")
        self.assertEqual(self.shown(), 0)

    def test_what_changed_meanwhile_is_not_pressed(self) -> None:
        letters = self.put("Kept shorted")
        self.browser.execute_script(ANOTHER)
        self.page.press(*letters)
        self.page.until(lambda: not self.shown())
        self.assertNotIn("Where the link is", self.page.text())

    def test_a_key_that_is_held_presses_nothing(self) -> None:
        letters = self.put("Kept shorted")
        for key in letters:
            self.browser.execute_script(HELD, key)
        self.assertGreater(self.shown(), 0)
        self.assertNotIn("Where the link is", self.page.text())

    def test_a_key_with_another_takes_them_away(self) -> None:
        letters = self.put("Kept shorted")
        ActionChains(self.browser).key_down(Keys.ALT).send_keys(letters).key_up(Keys.ALT).perform()
        self.page.until(lambda: not self.shown())
        self.assertNotIn("Where the link is", self.page.text())

    def test_a_charge_still_asks_twice(self) -> None:
        self.page.press(*self.put("Energised"))
        self.page.see("Press again: Energised")
        self.assertFalse(ChargeNote.objects.filter(position__job__number=1).exists())

    def test_escape_takes_the_letters_and_leaves_the_dialog(self) -> None:
        self.page.press("n")
        self.page.see("Add a position")
        ActionChains(self.browser).key_down(Keys.ALT).send_keys("g").key_up(Keys.ALT).perform()
        self.assertGreater(self.shown(), 5)
        self.assert_axe_clean("letters in a dialog")
        self.page.press(Keys.ESCAPE)
        self.page.until(lambda: not self.shown())
        self.page.see("What is printed on it")
        self.page.press(Keys.ESCAPE)
        self.page.until(lambda: "What is printed on it" not in self.page.text())
