"""As found, and good or bad, in the real page: the dryer, the organ supply, a board by keyboard, photos, re-judgement."""

import tempfile
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.queries import entries_of
from dusky_heron.workshops.models import Member
from tests import some
from tests.api.test_asfound import NO_PHOTO, SVG, bomb, picture
from tests.browser.base import BrowserTest

BOARD = (  # marking, reading, and what it does where the marking does not say
    ("1 µF K X2 305 V~", "0.98u", ""), ("470 nF K X2 305 V~", "462n", ""), ("3n3 M Y2 300 V~", "3.28n", ""),
    ("3n3 M Y2 300 V~", "3.31n", ""), ("2n2 M Y1 400 V~", "2.19n", ""), ("82 µF M 400 VDC", "79.8u", "SMPS"),
    ("82 µF M 400 VDC", "55u", "SMPS"), ("47n J 1600 V-", "46.8n", "snub"), ("22n J 1600 V-", "21.9n", "snub"),
    ("100n K 63 V-", "99n", "timing"), ("10n K 63 V-", "9.98n", "timing"), ("100 µF 25 V", "97u", "smo"),
    ("100 µF 25 V", "61u", "smo"), ("220 µF 25 V", "214u", "smo"), ("470 µF 16 V", "455u", "smo"), ("1000 µF 16 V", "960u", "smo"),
    ("1000 µF 16 V", "410u", "smo"), ("10 µF 50 V", "9.6u", "smo"), ("4.7 µF 50 V", "4.5u", "smo"),
    ("680 nF K X2 305 V~", "676n", ""),
)  # fmt: skip


class Demo(BrowserTest):
    """The dryer and the organ supply as they stand."""

    def test_the_hand_dryer(self) -> None:
        page = self.sign_in()
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("2")
        page.see("open")  # its bleeder
        page.press("4")
        page.see("Replace CX1", "742", "Reads 26 % under the marked 1 µF: lost too much.")
        page.press(".")
        page.see("Keep CY1", "Touch current, earth lost", "629 µA")
        page.press(".")
        page.see("Keep CY2")

    def test_the_organ_supply(self) -> None:
        page = self.sign_in()
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("4")
        page.see("Replace C1", "Section 2: reads 99 % under the marked 32 µF: lost too much.", "Section 1: reads 3 % over")
        page.press(".")
        page.see("Condemn C2", "No safety class printed", "Remove it", "Three-core lead and an earthed chassis")
        page.press("1")
        page.see("Save intake")
        self.browser.find_element(By.XPATH, "//label[contains(., 'connected to a mains conductor')]/input").click()
        page.click("Save intake")
        page.see("Kept.")
        page.press("4")
        page.see("Never earth this chassis: it is connected to a mains conductor.")
        self.assertNotIn("Three-core lead and an earthed chassis", page.text())

    def test_live_work_is_flagged(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("4")
        page.see("Lift one lead")
        page.fill("What is measured", "current in service")
        page.see("Live work: only for those licensed for it")
        page.fill("Meter", "Clamp")
        page.fill("Voltage across it", "400 V")
        page.fill("Reading", "2.01 A")
        page.press(Keys.ENTER)
        page.see("in service, live", "typed 2.01 A at 400 V")

    def test_the_rest_of_the_set(self) -> None:
        page = self.sign_in()
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("4")
        page.see("The rest of the set")
        page.focus_by_tab("The rest of the set")
        page.press(Keys.ENTER)
        page.see("Give its age")
        page.fill("Age, years", "8")
        page.fill("Life used", "80")
        page.fill("Warranty", "24")
        page.fill("A return costs", "150")
        page.see("38.6 % that one of them fails", "returns on average 57.92", "Recommended: every one of the set")
        page.click("Only what failed")
        page.see("Decided by M. Orne: only what failed")


class Board(BrowserTest):
    """Twenty positions, no mouse."""

    def test_twenty_positions_by_keyboard(self) -> None:
        page = self.sign_in()
        page.press("j")
        page.see("What it is")
        page.press("Boiler board", Keys.ENTER)
        page.see("Name the first position")
        page.press("a")
        page.see("What is printed on it", "No position yet.")
        most = 0
        for number, (marking, value, does) in enumerate(BOARD, start=1):
            extra = self.keys(marking) - len(marking)
            shown = self.browser.execute_script("return document.querySelector('select').selectedOptions[0].text")
            if does and not shown.startswith(does):
                ActionChains(self.browser).key_down(Keys.SHIFT).send_keys(Keys.TAB).key_up(Keys.SHIFT).perform()
                extra += 2 + self.keys(does) + self.keys(Keys.TAB)
            extra += self.keys(Keys.TAB) + self.keys(value) - len(value) + self.keys(Keys.ENTER)
            page.see(f"C{number}: ")
            most = max(most, extra)
        self.assertLessEqual(most, 15)
        job = Job.objects.get(title="Boiler board")
        kept = list(Position.objects.filter(job=job).values_list("name", "marking", "role"))
        self.assertEqual([row[:2] for row in kept], [(f"C{n}", marking) for n, (marking, *_) in enumerate(BOARD, start=1)])
        roles = [
            "x",
            "x",
            "y",
            "y",
            "y",
            "smps_bulk",
            "smps_bulk",
            "snubber",
            "snubber",
            "timing",
            "timing",
            *["smoothing"] * 8,
            "x",
        ]
        self.assertEqual([row[2] for row in kept], roles)
        page.see("Not all of these are proved empty")
        first = page.see("C17", "C13", "C7").index
        self.assertLess(first("C17"), first("C20"))  # what needs attention stands first
        self.browser.find_element(By.XPATH, "//label[contains(., 'by name')]").click()
        page.until(lambda: page.text().index("C1 1 µF") < page.text().index("C7 82 µF"))
        self.assert_axe_clean("board")

    def keys(self, text: str) -> int:
        """Press keys and count them."""
        self.page.press(text)
        return len(text)


class Photos(BrowserTest):
    """Photos with points, and files that are none."""

    def setUp(self) -> None:
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("3")
        page.see("Nothing noted yet", "No photo yet")

    def choose(self, name: str, content: bytes) -> None:
        file = self.folder / name
        file.write_bytes(content)
        self.browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(file))

    def test_lines_photo_and_points_by_keyboard(self) -> None:
        page = self.page
        page.press("l", "grey pump-run -> C1.2", Keys.ENTER)
        page.see("grey pump-run", "C1.2")
        page.press("screws tray 1, 4 × M5", Keys.ENTER)
        page.see("tray 1, 4 × M5")
        page.press("blue here", Keys.ENTER)
        page.see("A wire needs an arrow")
        page.fill("Photo of", "Terminal box")
        self.choose("box.png", picture("PNG", (800, 600)))
        page.see("Click where a terminal or a wire is")
        self.browser.find_element(By.CSS_SELECTOR, "svg[role=application]").send_keys("")
        self.browser.execute_script("document.querySelector('svg[role=application]').focus()")
        page.press(*[Keys.ARROW_RIGHT] * 5, *[Keys.ARROW_UP] * 10, Keys.ENTER)
        page.see("What is there")
        page.press("run winding", Keys.TAB, "C1", Keys.ENTER)
        page.see("run winding · C1")
        point = Point.objects.get(label="run winding")
        self.assertEqual((round(point.x, 2), round(point.y, 2), some(point.position).name), (0.60, 0.30, "C1"))
        self.assert_axe_clean("photo")
        page.press(Keys.ESCAPE)
        page.see("Terminal box", "1 point")

    def test_nothing_opens_over_what_is_typed_meanwhile(self) -> None:
        page = self.page
        self.choose("late.jpg", picture("JPEG", (4000, 3000)))
        page.press("l", "red here -> C1")
        page.see("no caption 0 points")
        page.press(Keys.ENTER)
        page.see("red here")
        self.assertNotIn("Click where a terminal or a wire is", page.text())
        self.assertEqual(FoundLine.objects.get(job__number=1).typed, "red here -> C1")

    def test_a_click_marks_where_it_is_seen(self) -> None:
        """A tall photo is shown with paper at both sides; the point lies on the photo, not on the frame."""
        page = self.page
        self.choose("tall.jpg", picture("JPEG", (300, 900)))
        page.see("Click where a terminal or a wire is")
        image = self.browser.find_element(By.CSS_SELECTOR, "svg[role=application] image")
        ActionChains(self.browser).move_to_element_with_offset(image, 0, 0).click().perform()
        page.see("What is there")
        page.press("middle", Keys.ENTER)
        page.see("middle")
        point = Point.objects.get(label="middle")
        self.assertAlmostEqual(point.x, 0.5, delta=0.02)
        self.assertAlmostEqual(point.y, 0.5, delta=0.02)

    def test_files_that_are_no_photos_are_refused_with_a_sentence(self) -> None:
        for name, content, said in (
            ("notes.jpg", b"no picture", NO_PHOTO), ("drawing.svg", SVG, NO_PHOTO),
            ("huge.jpg", b"\xff\xd8\xff" + b"\x00" * 40_000_000, "This file has 40 MB: at most 25 MB"),
            ("bomb.png", bomb(), "unpacks to more than 60 megapixels"),
        ):  # fmt: skip
            self.page.fill("Photo of", f"kept {name}")
            self.choose(name, content)
            self.page.see(said)
            self.assertEqual(self.page.labelled("Photo of").get_attribute("value"), f"kept {name}")  # what was typed stays
        self.assertFalse(Photo.objects.filter(job__number=1).exists())


class Policy(BrowserTest):
    """A limit and a school changed, their effect seen first, and the verdict taken or kept."""

    def change_limit(self, percent: str) -> None:
        page = self.page
        page.open("/policy")
        page.see("Where practitioners disagree")
        page.click("loss of an X capacitor")
        page.see("Count with this")
        page.fill("Limit, %", percent)
        page.see("Would change 1 of 12 verdicts.", "2 Changing-room hand dryer, CX1")
        page.fill("Why", "old filters")
        page.press(Keys.ENTER)
        page.see("changed here: old filters")
        page.press("b")
        page.see("Open jobs")
        page.click("Changing-room hand dryer")
        page.see("All at a glance")
        page.press("4")
        page.see("Recorded: Replace. Judged now: Watch.", "lost too much", "not yet lost")

    def bodies(self, kind: str) -> list[dict[str, object]]:
        actor = Member.objects.get(username="orne").actor
        return [entry.body for entry in entries_of(actor, Job.objects.get(number=2).id) if entry.kind == kind]

    def test_taken(self) -> None:
        self.sign_in()
        self.change_limit("30")
        self.assert_axe_clean("judged anew")
        self.page.click("Take Watch")
        self.page.until(lambda: "Judged now" not in self.page.text())
        self.page.see("Watch CX1")
        last = self.bodies("verdict")[-1]
        self.assertEqual((last["before"], last["word"]), ("replace", "watch"))

    def test_kept(self) -> None:
        self.sign_in()
        self.change_limit("30")
        self.page.click("Keep what is recorded: Replace")
        self.page.until(lambda: "Judged now" not in self.page.text())
        last = self.bodies("verdict kept")[-1]
        self.assertEqual((last["kept"], last["not taken"]), ("replace", "watch"))

    def test_a_school_needs_its_reason(self) -> None:
        page = self.sign_in()
        page.open("/policy")
        page.click("Which ESR limit")
        page.see("Do it so")
        page.fill("Which ESR limit", "ignore ESR")
        page.see("Would change")
        page.press(Keys.ENTER)
        page.see("Say why this workshop does it so.")
        page.fill("Why", "no ESR meter here")
        page.press(Keys.ENTER)
        page.see("chosen here: no ESR meter here; usual: both, the worst decides")
