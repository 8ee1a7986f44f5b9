"""How equipment was found: lines in shorthand, photos checked by what they are, points on them."""

import io
import zlib
from typing import Any

import pillow_heif
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from dusky_heron.asfound.models import FoundLine, Photo
from dusky_heron.demo.picture import under_the_chassis
from dusky_heron.record.queries import entries_of
from tests.api.base import ApiTest

SECRET = b"Camera of nobody, 51.5 N"
NO_PHOTO = "not a photo that can be read"
SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>'


def picture(form: str, size: tuple[int, int] = (640, 400), **options: Any) -> bytes:
    file = io.BytesIO()
    Image.new("RGB", size, "#a33").save(file, form, **options)
    return file.getvalue()


def bomb() -> bytes:
    """A PNG of a few kilobytes that unpacks to 900 megapixels: honest chunks around thirty thousand empty rows."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return len(data).to_bytes(4, "big") + kind + data + zlib.crc32(kind + data).to_bytes(4, "big")

    side = 30_000
    header = side.to_bytes(4, "big") * 2 + b"\x01\x00\x00\x00\x00"
    rows = zlib.compress(b"\x00" * 1_000_000, 9)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


class AsFound(ApiTest):
    """The organ supply: its can, and wires that lead to it."""

    def setUp(self) -> None:
        super().setUp()
        self.path = f"jobs/{self.job(7).id}"

    def send(self, content: bytes, name: str = "photo.jpg", status: int = 200, caption: str = "") -> Any:
        file = SimpleUploadedFile(name, content, "image/jpeg")
        return self.answer(self.client.post(f"/api/{self.path}/photos", {"photo": file, "caption": caption}), status)

    def test_lines_are_read_linked_and_struck(self) -> None:
        line = self.post(f"{self.path}/found", {"text": "gnye inlet -> C1.can"})
        self.assertEqual((line["colours"], line["start"], line["end"]), (["green", "yellow"], "inlet", "C1.can"))
        self.assertEqual(line["position_id"], str(self.position(7, "C1").id))
        self.post(f"{self.path}/record/{line['sequence']}/struck", {})
        shown = [row for row in self.get(f"{self.path}/found")["lines"] if row["id"] == line["id"]]
        self.assertEqual([row["struck"] for row in shown], [True])
        self.post(f"{self.path}/record/{line['sequence']}/struck", {"reason": "again"}, 422)
        kinds = [e.kind for e in entries_of(self.actor_of("orne"), self.job(7).id)]
        self.assertEqual(kinds[-2:], ["found so", "struck"])
        self.assertTrue(FoundLine.objects.get(id=line["id"]).struck)  # what was noted is still there

    def test_a_line_that_says_nothing_is_refused_at_its_field(self) -> None:
        for text in ("", "grey", "a -> b -> c", "x" * 400):
            self.assertEqual(self.post(f"{self.path}/found", {"text": text}, 422)["errors"][0]["field"], "text")

    def test_photos_of_every_kind_are_kept_without_their_metadata(self) -> None:
        exif = Image.Exif()
        exif[0x010F] = SECRET.decode()
        exif[0x0112] = 6  # turned by a quarter
        heic = io.BytesIO()
        pillow_heif.from_pillow(Image.new("RGB", (640, 400), "#3a3")).save(heic, exif=exif.tobytes())
        for name, content in (
            ("a.jpg", picture("JPEG", exif=exif)), ("b.png", picture("PNG")), ("c.webp", picture("WEBP")),
            ("d.heic", heic.getvalue()),
        ):  # fmt: skip
            with self.subTest(name):
                kept = self.send(content, name, caption="terminal block")
                shown = self.client.get(f"/api/photos/{kept['id']}")
                self.assertEqual(shown["Content-Type"], "image/jpeg")
                self.assertIn("private", shown["Cache-Control"])
                self.assertNotIn(SECRET, shown.content)
                opened = Image.open(io.BytesIO(shown.content))
                self.assertEqual((opened.format, dict(opened.getexif())), ("JPEG", {}))
                self.assertEqual(opened.size, (kept["width"], kept["height"]))
        turned = self.send(picture("JPEG", exif=exif))
        self.assertEqual((turned["width"], turned["height"]), (400, 640))
        large = self.send(picture("JPEG", (5000, 2500)))
        self.assertEqual((large["width"], large["height"]), (2560, 1280))
        small = Image.open(io.BytesIO(self.client.get(f"/api/photos/{large['id']}/small").content))
        self.assertEqual(max(small.size), 480)

    def test_what_is_no_photo_is_refused_with_a_sentence(self) -> None:
        before = Photo.objects.count()
        whole = picture("JPEG", (2000, 2000))
        for name, content, said in (
            ("notes.jpg", b"not a picture at all", NO_PHOTO), ("drawing.svg", SVG, NO_PHOTO),
            ("drawing.jpg", SVG, NO_PHOTO), ("movie.jpg", picture("GIF"), NO_PHOTO),
            ("huge.jpg", b"\xff\xd8\xff" + b"\x00" * 40_000_000, "This file has 40 MB: at most 25 MB."),
            ("empty.jpg", b"", "empty"),
            ("bomb.png", bomb(), "unpacks to more than 60 megapixels"),
            ("half.jpg", whole[: len(whole) // 2], NO_PHOTO),
        ):  # fmt: skip
            with self.subTest(name):
                answer = self.send(content, name, 422)
                self.assertEqual(answer["errors"][0]["field"], "photo")
                self.assertRegex(answer["detail"], said)
        self.assertEqual(Photo.objects.count(), before)

    def test_points_link_to_positions_and_wires_of_the_same_job(self) -> None:
        found = self.get(f"{self.path}/found")
        photo, line = found["photos"][0]["id"], found["lines"][0]["id"]
        point = self.post(f"photos/{photo}/points", {"x": 0.25, "y": 1, "label": "lug a", "line_id": line})
        shown = self.get(f"{self.path}/found")["photos"][0]["points"]
        self.assertEqual((shown[-1]["label"], shown[-1]["line_id"]), ("lug a", line))
        for bad, field in (
            ({"x": 1.2}, "x"), ({"label": " "}, "label"), ({"position_id": str(self.position(1, "C1").id)}, "position_id"),
            ({"line_id": photo}, "line_id"), ({"y": "down"}, "y"),
        ):  # fmt: skip
            answer = self.post(f"photos/{photo}/points", {"x": 0.5, "y": 0.5, "label": "b"} | bad, 422)
            self.assertEqual(answer["errors"][0]["field"], field)
        self.post(f"{self.path}/record/{point['sequence']}/struck", {})
        shown = self.get(f"{self.path}/found")["photos"][0]["points"]
        self.assertEqual([row["struck"] for row in shown if row["id"] == point["id"]], [True])

    def test_a_picture_is_only_for_its_workshop(self) -> None:
        photo = self.send(under_the_chassis().getvalue())["id"]
        self.sign_in("stranger")
        self.get(f"photos/{photo}", 404)
        self.client.logout()
        self.get(f"photos/{photo}/small", 401)

    def test_the_map_takes_as_many_statements_whatever_it_holds(self) -> None:
        with self.assertNumQueries(7):  # session, member, job, names of places, points, lines, photos
            self.get(f"{self.path}/found")
        for number in range(5):
            self.post(f"{self.path}/found", {"text": f"red {number} -> C1"})
        with self.assertNumQueries(7):
            self.get(f"{self.path}/found")
