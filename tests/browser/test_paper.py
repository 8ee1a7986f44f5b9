"""What is printed from the browser: ink on white whichever theme is on, without what can only be pressed."""

import base64
import io

import pypdfium2 as pdfium
from selenium.webdriver.common.by import By

from tests.browser.base import BrowserTest


class Printed(BrowserTest):
    """Sheet, Bench and drawer, from the dark theme."""

    def paper(self) -> str:
        found = self.browser.execute_cdp_cmd("Page.printToPDF", {"printBackground": True})
        with pdfium.PdfDocument(io.BytesIO(base64.b64decode(found["data"]))) as document:
            pages = [page.get_textpage().get_text_range() for page in document]
            bitmap = document[0].render(scale=0.2).to_pil()
        self.assertEqual(bitmap.getpixel((2, 2)), (255, 255, 255))
        return " ".join(" ".join(pages).split())

    def test_from_the_dark_theme_it_is_ink_on_white(self) -> None:
        page = self.sign_in()
        page.dark(True)
        page.see("Wave-pool circulation pump")
        self.assertIn("Wave-pool circulation pump", self.paper())
        page.open("/drawer")
        page.see("3.3 nF")
        drawer = self.paper()
        self.assertIn("2.2 nF M Y1 500 V~", drawer)
        for pressed in ("Add a part", "over 5 years old", "Type what is printed", "M. Orne"):
            self.assertNotIn(pressed, drawer)
        page.open()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        self.assertIn("C1 can hold", self.paper())
        inks = self.browser.find_elements(By.TAG_NAME, "h1")
        self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
        self.addCleanup(self.browser.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"media": ""})
        self.assertEqual({ink.value_of_css_property("color") for ink in inks}, {"rgba(0, 0, 0, 1)"})
